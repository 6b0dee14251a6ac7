using EvenThimble.Core.Craft;

namespace EvenThimble.Web.Pages.Bench;

/// <summary>What the Stitch card shows beside the bench itself.</summary>
public sealed record StitchCard(BenchView Bench)
{
    /// <summary>Underlay as it is chosen by hand.</summary>
    public static readonly UnderlayLayers[] UnderlayChoices =
    [
        UnderlayLayers.None, new(Underlay.Centre), new(Underlay.Edge), new(Underlay.Zigzag), new(Underlay.DoubleZigzag), new(Underlay.Light),
        new(Underlay.Edge, Underlay.Zigzag), new(Underlay.Edge, Underlay.Light), new(Underlay.Edge, Underlay.DoubleZigzag), new(Underlay.Centre, Underlay.Zigzag),
    ];

    /// <summary>The stretches of the one part that is selected and came as stitches, and how many smaller ones are not among them; none of several.</summary>
    public (IReadOnlyList<BoughtPassage> Shown, int More) Passages => Bench.SelectedBought is [var part] ? BoughtPassage.Of(Bench, part) : ([], 0);

    /// <summary>What was read in the selected parts that came as stitches.</summary>
    public IReadOnlyList<BoughtReading> Readings => [.. Bench.SelectedBought.Select(p => BoughtReading.Of(Bench, p))];
}
