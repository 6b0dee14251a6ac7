using EvenThimble.Core.Colour;
using EvenThimble.Core.Craft;

namespace EvenThimble.Core.Files.Jobs;

/// <summary>A cloth profile as JSON.</summary>
internal sealed record StoredCloth(
    string Id, string Name, string Weave, string Colour, double Thickness, double SatinSpacing, double FillSpacing, string[] SatinUnderlay, string[] FillUnderlay, double Compensation,
    string? Stabilizer, string? Needle, string? Topping, int Speed, string? Advice)
{
    public static StoredCloth Of(ClothProfile p) => new(
        p.Id, p.Name, p.Weave.ToString(), p.UsualColour.Hex, p.ThicknessMm, p.SatinSpacingMm, p.FillSpacingMm, Layers(p.SatinUnderlay), Layers(p.FillUnderlay), p.CompensationMm,
        p.Stabilizer, p.Needle, p.Topping, p.SpeedPercent, p.Advice);

    public ClothProfile ToProfile() => new(Id ?? string.Empty, Name ?? string.Empty, Enum.Parse<Weave>(Weave), Rgb.OfHex(Colour), Thickness)
    {
        SatinSpacingMm = SatinSpacing,
        FillSpacingMm = FillSpacing,
        SatinUnderlay = Layers(SatinUnderlay),
        FillUnderlay = Layers(FillUnderlay),
        CompensationMm = Compensation,
        Stabilizer = Stabilizer ?? string.Empty,
        Needle = Needle ?? string.Empty,
        Topping = Topping ?? string.Empty,
        SpeedPercent = Speed,
        Advice = Advice ?? string.Empty,
    };

    private static string[] Layers(UnderlayLayers layers) => [layers.First.ToString(), layers.Second.ToString()];

    internal static UnderlayLayers Layers(string[] layers) => layers is not { Length: 2 } ? throw new InvalidDataException("A cloth has an underlay that does not fit together.") : new(Enum.Parse<Underlay>(layers[0]), Enum.Parse<Underlay>(layers[1]));
}
