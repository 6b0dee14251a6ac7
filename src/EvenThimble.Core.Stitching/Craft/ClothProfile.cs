using EvenThimble.Core.Colour;

namespace EvenThimble.Core.Craft;

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

/// <summary>What a fabric asks for: of all stitches that are made here, and of the person who sews.</summary>
/// <param name="Id">Short name in files and addresses; those of profiles of the user's own begin with "own-".</param>
/// <param name="Name">As the user reads it.</param>
/// <param name="Weave">How it looks.</param>
/// <param name="UsualColour">The colour it is shown in until another is chosen.</param>
/// <param name="ThicknessMm">Thickness, mm, for the thread that each stitch takes down and up.</param>
public sealed record ClothProfile(string Id, string Name, Weave Weave, Rgb UsualColour, double ThicknessMm)
{
    /// <summary>Of satin, mm.</summary>
    public double SatinSpacingMm { get; init; } = Limits.SatinSpacing;

    /// <summary>Of fill, mm.</summary>
    public double FillSpacingMm { get; init; } = Limits.FillSpacing;

    /// <summary>Under satin.</summary>
    public UnderlayLayers SatinUnderlay { get; init; } = new(Underlay.Centre, Underlay.None);

    /// <summary>Under fill.</summary>
    public UnderlayLayers FillUnderlay { get; init; } = new(Underlay.Edge, Underlay.Light);

    /// <summary>By how much throws and rows are lengthened at each end, mm.</summary>
    public double CompensationMm { get; init; } = Limits.PullCompensation;

    /// <summary>What to lay under it.</summary>
    public string Stabilizer { get; init; } = string.Empty;

    /// <summary>Which needle.</summary>
    public string Needle { get; init; } = string.Empty;

    /// <summary>What to lay over it; empty: nothing.</summary>
    public string Topping { get; init; } = string.Empty;

    /// <summary>How fast to sew, as part of the machine's speed in percent.</summary>
    public int SpeedPercent { get; init; } = 100;

    /// <summary>What else to mind, in a sentence.</summary>
    public string Advice { get; init; } = string.Empty;

    /// <summary>Whether loops or fibres stand on it, into which lines sink.</summary>
    public bool HasHighPile => Weave == Weave.Terry || (Weave == Weave.Fleece && ThicknessMm >= HighPileMm);

    /// <summary>How far cut lines lie outside stitch lines unless the user says otherwise, mm.</summary>
    public double CutAllowanceMm => HasHighPile ? 1.5 : 1.0;

    /// <summary>Whether it is one of the user's own.</summary>
    public bool IsOwn => Id.StartsWith(OwnPrefix, StringComparison.Ordinal);

    private const double HighPileMm = 1.8;

    /// <summary>What the ids of own profiles begin with.</summary>
    public const string OwnPrefix = "own-";
}

/// <summary>The fabric under a job: what it asks for, and its colour. The whole profile is kept with the job, so that the stitches stay as they are wherever the job goes.</summary>
public sealed record Cloth(ClothProfile Profile, Rgb Colour)
{
    /// <summary>What a new job lies on.</summary>
    public static readonly Cloth Usual = Of(ClothProfiles.Cotton);

    /// <summary>A cloth in the colour that its profile usually has.</summary>
    public static Cloth Of(ClothProfile profile) => new(profile, profile.UsualColour);
}
