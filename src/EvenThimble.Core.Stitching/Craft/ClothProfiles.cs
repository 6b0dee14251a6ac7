using EvenThimble.Core.Colour;

namespace EvenThimble.Core.Craft;

/// <summary>The profiles that come with the program.</summary>
public static class ClothProfiles
{
    /// <summary>What a new job lies on.</summary>
    public static readonly ClothProfile Cotton = new("cotton", "quilting cotton", Weave.Plain, Rgb.FromInt(0xE9E1D2), 0.35)
    {
        Stabilizer = "medium tear-away",
        Needle = "75/11 embroidery",
        Advice = "Press the cloth flat and hoop it with the stabilizer, taut but not stretched.",
    };

    /// <summary>All profiles, in the order they are offered.</summary>
    public static IReadOnlyList<ClothProfile> All { get; } =
    [
        Cotton,
        new("jersey", "cotton jersey", Weave.Knit, Rgb.FromInt(0xC9D3D8), 0.6)
        {
            FillSpacingMm = 0.42, SatinUnderlay = new(Underlay.Centre, Underlay.Edge), FillUnderlay = new(Underlay.Edge, Underlay.Light), CompensationMm = 0.3,
            Stabilizer = "medium cut-away, fused or sprayed on", Needle = "75/11 ballpoint", Topping = "thin water-soluble film for small letters", SpeedPercent = 85,
            Advice = "Never stretch it in the hoop: hoop the stabilizer and lay the shirt on it.",
        },
        new("towel", "terry towel", Weave.Terry, Rgb.FromInt(0xE8DCC6), 2.5)
        {
            SatinSpacingMm = 0.36, FillSpacingMm = 0.36, SatinUnderlay = new(Underlay.Edge, Underlay.DoubleZigzag), FillUnderlay = new(Underlay.Edge, Underlay.DoubleZigzag), CompensationMm = 0.4,
            Stabilizer = "tear-away or water-soluble fleece", Needle = "80/12 embroidery", Topping = "water-soluble film, so that no loop stands between the stitches", SpeedPercent = 80,
            Advice = "Thin lines and letters below 8 mm sink into the loops; lay a light fill under them.",
        },
        new("denim", "denim", Weave.Twill, Rgb.FromInt(0x55708F), 0.9)
        {
            SatinUnderlay = new(Underlay.Centre, Underlay.Zigzag), CompensationMm = 0.2,
            Stabilizer = "medium tear-away", Needle = "90/14 jeans", SpeedPercent = 90,
            Advice = "Keep heavy seams out of the field; the needle bends on them.",
        },
        new("fleece", "fleece", Weave.Fleece, Rgb.FromInt(0xB9C4A9), 2.0)
        {
            SatinSpacingMm = 0.38, FillSpacingMm = 0.38, SatinUnderlay = new(Underlay.Edge, Underlay.Zigzag), FillUnderlay = new(Underlay.Edge, Underlay.DoubleZigzag), CompensationMm = 0.35,
            Stabilizer = "medium cut-away", Needle = "80/12 ballpoint", Topping = "water-soluble film", SpeedPercent = 85,
            Advice = "Lay it on a hooped stabilizer rather than in the hoop, which would mark the pile.",
        },
        new("satin", "satin", Weave.Smooth, Rgb.FromInt(0xE6D3D6), 0.25)
        {
            SatinSpacingMm = 0.42, FillSpacingMm = 0.44, SatinUnderlay = new(Underlay.Centre, Underlay.None), FillUnderlay = new(Underlay.Edge, Underlay.None), CompensationMm = 0.15,
            Stabilizer = "light cut-away, sprayed on", Needle = "65/9 sharp", SpeedPercent = 75,
            Advice = "It puckers and shows every needle hole: sew light designs, and do not pick out stitches.",
        },
        new("felt", "felt", Weave.Fleece, Rgb.FromInt(0x8E9AA3), 1.5)
        {
            SatinUnderlay = new(Underlay.Centre, Underlay.None), FillUnderlay = new(Underlay.Edge, Underlay.None), CompensationMm = 0.15,
            Stabilizer = "light tear-away", Needle = "80/12 embroidery",
            Advice = "Dense stitching cuts felt like a stamp; keep satin edges 2 mm inside what will be cut.",
        },
        new("vinyl", "vinyl", Weave.Smooth, Rgb.FromInt(0xB98D64), 0.8)
        {
            SatinSpacingMm = 0.55, FillSpacingMm = 0.55, SatinUnderlay = new(Underlay.Centre, Underlay.None), FillUnderlay = new(Underlay.Edge, Underlay.None), CompensationMm = 0.1,
            Stabilizer = "medium tear-away", Needle = "75/11 sharp", SpeedPercent = 70,
            Advice = "Each needle hole stays: sew light, avoid narrow satin and sharp points, and do not sew twice over a place.",
        },
        new("linen", "linen", Weave.Coarse, Rgb.FromInt(0xDCCFB4), 0.45)
        {
            SatinUnderlay = new(Underlay.Centre, Underlay.Edge), CompensationMm = 0.25,
            Stabilizer = "medium cut-away or two layers of tear-away", Needle = "75/11 sharp", SpeedPercent = 90,
            Advice = "Starch it first; the loose weave lets edges wander.",
        },
        new("canvas", "canvas", Weave.Coarse, Rgb.FromInt(0xCFC6B2), 0.8)
        {
            SatinUnderlay = new(Underlay.Centre, Underlay.Zigzag), CompensationMm = 0.2,
            Stabilizer = "tear-away", Needle = "90/14 sharp", SpeedPercent = 90,
            Advice = "Bags are easier to hoop on the stabilizer alone, held by a basting line.",
        },
    ];

    /// <summary>The profile of a short name, or null.</summary>
    public static ClothProfile? Find(string? id) => All.FirstOrDefault(p => p.Id == id);
}
