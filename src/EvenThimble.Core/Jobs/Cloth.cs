using EvenThimble.Core.Colour;

namespace EvenThimble.Core.Jobs;

/// <summary>How the surface of a fabric looks.</summary>
public enum Weave
{
    /// <summary>Threads over and under.</summary>
    Plain,

    /// <summary>Fine columns of loops.</summary>
    Knit,

    /// <summary>Standing loops.</summary>
    Terry,

    /// <summary>Slanting ridges.</summary>
    Twill,

    /// <summary>Soft fibres without direction.</summary>
    Fleece,

    /// <summary>Smooth, with a shine.</summary>
    Smooth,

    /// <summary>Coarse threads over and under.</summary>
    Coarse,
}

/// <summary>A kind of fabric.</summary>
/// <param name="Id">Short name in files and addresses.</param>
/// <param name="Name">As the user reads it.</param>
/// <param name="Weave">How it looks.</param>
/// <param name="UsualColour">The colour it is shown in until another is chosen.</param>
/// <param name="ThicknessMm">Thickness, mm, for the thread that each stitch takes down and up.</param>
public sealed record ClothKind(string Id, string Name, Weave Weave, Rgb UsualColour, double ThicknessMm)
{
    /// <summary>The fabrics that can be chosen.</summary>
    public static IReadOnlyList<ClothKind> All { get; } =
    [
        new("cotton", "quilting cotton", Weave.Plain, Rgb.FromInt(0xE9E1D2), 0.35),
        new("jersey", "cotton jersey", Weave.Knit, Rgb.FromInt(0xC9D3D8), 0.6),
        new("towel", "terry towel", Weave.Terry, Rgb.FromInt(0xE8DCC6), 2.5),
        new("denim", "denim", Weave.Twill, Rgb.FromInt(0x55708F), 0.9),
        new("fleece", "fleece", Weave.Fleece, Rgb.FromInt(0xB9C4A9), 2.0),
        new("satin", "satin", Weave.Smooth, Rgb.FromInt(0xE6D3D6), 0.25),
        new("felt", "felt", Weave.Fleece, Rgb.FromInt(0x8E9AA3), 1.5),
        new("vinyl", "vinyl", Weave.Smooth, Rgb.FromInt(0xB98D64), 0.8),
        new("linen", "linen", Weave.Coarse, Rgb.FromInt(0xDCCFB4), 0.45),
        new("canvas", "canvas", Weave.Coarse, Rgb.FromInt(0xCFC6B2), 0.8),
    ];

    /// <summary>The kind of a short name, or null.</summary>
    public static ClothKind? Find(string id) => All.FirstOrDefault(k => k.Id == id);
}

/// <summary>The fabric under a job: its kind (a name of <see cref="ClothKind"/>) and its colour.</summary>
public sealed record Cloth(string KindId, Rgb Colour)
{
    /// <summary>What a new job lies on.</summary>
    public static readonly Cloth Usual = new(ClothKind.All[0].Id, ClothKind.All[0].UsualColour);

    /// <summary>The kind.</summary>
    public ClothKind Kind => ClothKind.Find(KindId) ?? ClothKind.All[0];
}
