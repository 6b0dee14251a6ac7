using EvenThimble.Core.Geometry;
using EvenThimble.Core.Stitches;

namespace EvenThimble.Core.Planning;

/// <summary>How much thread a record of a plan takes. On top: the length of a stitch, twice the thickness of the cloth for the way down and up, and two tails a cut. Under it: a part of the stitch, and the same tails.</summary>
public static class ThreadLengths
{
    /// <summary>What stays on either side of a cut, mm.</summary>
    public const double TailMm = 20;

    // The lock lies under a throw of satin, so that a third of it is bobbin thread; runs and rows show half of theirs below.
    private const double BobbinInSatin = 1.0 / 3;
    private const double BobbinElsewhere = 0.5;

    // A throw goes back beside the one before it: it turns by more than 120°.
    private const double GoesBack = -0.5;

    /// <summary>The length of the stitch that a record ends, mm; 0 for records that are none.</summary>
    public static double StitchMm(StitchBlob records, int i) => i > 0 && records.Kinds[i] == StitchKind.Stitch ? records.At(i - 1).DistanceTo(records.At(i)) : 0;

    /// <summary>Thread on top that a record takes on cloth of a thickness (mm), mm.</summary>
    public static double TopMm(StitchBlob records, int i, double clothThickness) => records.Kinds[i] switch
    {
        StitchKind.Stitch => StitchMm(records, i) + (2 * clothThickness),
        StitchKind.Trim => 2 * TailMm,
        _ => 0,
    };

    /// <summary>Bobbin thread that a record takes, mm.</summary>
    public static double BobbinMm(StitchBlob records, int i) => records.Kinds[i] switch
    {
        StitchKind.Stitch => StitchMm(records, i) * (IsThrow(records, i) ? BobbinInSatin : BobbinElsewhere),
        StitchKind.Trim => 2 * TailMm,
        _ => 0,
    };

    private static bool IsThrow(StitchBlob records, int i)
    {
        if (i < 2 || records.Kinds[i - 1] != StitchKind.Stitch) return false;
        var (before, now) = ((records.At(i - 1) - records.At(i - 2)).Unit(), (records.At(i) - records.At(i - 1)).Unit());
        return before.Dot(now) < GoesBack;
    }
}
