using EvenThimble.Core.Stitches;

namespace EvenThimble.Scenario;

/// <summary>A design of the demo scenario.</summary>
/// <param name="FileName">The name its file came under.</param>
/// <param name="Tags">Words to find it by.</param>
/// <param name="Draw">Makes the stitches; the same each time.</param>
public sealed record DemoDesign(string FileName, string Tags, Func<StitchFile> Draw);

/// <summary>The designs that Larkmoor Observatory's volunteers have on their shelf, drawn by code.</summary>
public static class DemoDesigns
{
    /// <summary>All designs, in the order they came.</summary>
    public static IReadOnlyList<DemoDesign> All { get; } =
    [
        new("comet-over-the-dome.evth", "open night, dome, four threads", CometOverTheDome.Draw),
        new("crescent-moon-applique.evth", "appliqué, moon", CrescentMoonApplique.Draw),
        new("ringed-planet.evth", "planet, patch", RingedPlanet.Draw),
        new("luggage-tag.evth", "in the hoop, vinyl", LuggageTag.Draw),
        new("open-night-patch.evth", "open night, patch, 70 mm", OpenNightPatch.Draw),
        new("meteor-shower.evth", "sky, merge", MeteorShower.Draw),
        new("dome-crest.evth", "volunteers, left chest", DomeCrest.Draw),
        new("constellation-banner.evth", "banner, gate, long", ConstellationBanner.Draw),
        new("larkmoor-by-night.evth", "jacket back, large", LarkmoorByNight.Draw),
    ];
}
