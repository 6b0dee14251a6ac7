using System.Collections.Immutable;
using EvenThimble.Core.Stitches;

namespace EvenThimble.Core.Recognition;

/// <summary>What a stretch of bought stitches is.</summary>
public enum PassageKind : byte
{
    /// <summary>Throws from side to side.</summary>
    Satin,

    /// <summary>Rows beside rows.</summary>
    Fill,

    /// <summary>A line, a way to what comes next, or anything without order.</summary>
    Run,

    /// <summary>A line of which each stitch is sewn three times or more.</summary>
    TripleRun,

    /// <summary>Small stitches on the spot that hold the thread.</summary>
    Tie,
}

/// <summary>A throw of satin or a row of fill, by its first and last record.</summary>
public readonly record struct LadderRung(int First, int Last);

/// <summary>A stretch of stitches of one kind, from a needle point to a later one of the same unbroken thread; the next passage begins where it ends.</summary>
/// <param name="Kind">What it is.</param>
/// <param name="First">Record of its first needle point.</param>
/// <param name="Last">Record of its last needle point.</param>
public sealed record Passage(PassageKind Kind, int First, int Last)
{
    /// <summary>From this confidence on a passage is worked with as what it seems to be; below, every stitch of it is kept.</summary>
    public const double Sure = 0.5;

    /// <summary>The confidence of what is known for something else than it seems to be, but not for what.</summary>
    public const double NotUnderstood = 0.3;

    /// <summary>How sure that is, 0 to 1.</summary>
    public double Confidence { get; init; } = 1;

    /// <summary>Whether later stitches of the same part lie over nearly all of it.</summary>
    public bool IsUnder { get; init; }

    /// <summary>Its throws or rows in the order they are sewn; none in runs.</summary>
    public ImmutableArray<LadderRung> Rungs { get; init; } = [];

    /// <summary>Whether the rows or throws are joined by small stitches along the edge; otherwise each begins in the needle point where the one before it ends.</summary>
    public bool Stepped { get; init; }

    /// <summary>Whether its rows are lines of one way beside each other that follow the edge inwards or wind in a spiral; it has no rungs.</summary>
    public bool InRings { get; init; }

    /// <summary>Whether its rows, of which the rungs are the ends, are no straight lines of one direction: bowed, wavy or fanned out.</summary>
    public bool Bent { get; init; }

    /// <summary>How often each stitch of a line is sewn, an odd number.</summary>
    public int Fold { get; init; } = 1;

    /// <summary>Whether a line comes back through the holes that it was sewn in.</summary>
    public bool SharesHoles { get; init; }

    /// <summary>Whether each single stitch of a line is part of a drawing, as in crosses and motifs: none is divided, and only what would become too short to sew is left out.</summary>
    public bool IsDrawn { get; init; }

    /// <summary>What the user told that it is, in place of what it was read as; null where nothing was told.</summary>
    public ReadAs? Told { get; init; }

    /// <summary>Usual distance between rows, or between needle points on one side of a satin, mm; 0 of lines.</summary>
    public double SpacingMm { get; init; }

    /// <summary>Usual stitch of a line or within rows, mm; 0 where there is none.</summary>
    public double StitchLength { get; init; }

    /// <summary>Number of stitches.</summary>
    public int Stitches => Last - First;

    /// <summary>Whether rows or throws lie so close that nothing shows through.</summary>
    public bool IsDense => HasSpacing && SpacingMm <= DensestGap;

    /// <summary>Whether it is of rows or throws, which have a spacing; a line has none.</summary>
    public bool HasSpacing => Rungs.Length > 0 || InRings;

    /// <summary>Whether it is satin of which hardly any throw has a needle point within.</summary>
    public bool IsUndivided => Kind == PassageKind.Satin && Rungs.Count(r => r.Last - r.First > 1) <= MostDivided * Rungs.Length;

    /// <summary>Throws of which more than this part have a needle point within are divided ones.</summary>
    internal const double MostDivided = 0.1;

    /// <summary>Farther apart than this, rows or throws do not hide what lies under them, mm.</summary>
    private const double DensestGap = 0.8;
}
