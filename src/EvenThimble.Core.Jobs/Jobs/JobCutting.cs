using System.Collections.Immutable;

namespace EvenThimble.Core.Jobs;

/// <summary>Names a line that can be cut.</summary>
/// <param name="Part">The part that it is taken from; 0: the outer edge of several together.</param>
/// <param name="Line">Its number among those of the part, from 0.</param>
public readonly record struct CutKey(PartId Part, int Line);

/// <summary>A stretch of a line that is left out and bridged straight, as parts of its length from its beginning, 0 to 1; where the second is the smaller, it goes over the beginning.</summary>
public readonly record struct BridgedStretch(double From, double To);

/// <summary>What the user has set of one line.</summary>
/// <param name="Line">Which.</param>
public sealed record CutChange(CutKey Line)
{
    /// <summary>It is not cut.</summary>
    public bool Dropped { get; init; }

    /// <summary>Its ends are joined, however far apart they lie.</summary>
    public bool Joined { get; init; }

    /// <summary>It is a piece by itself where it lies in another, rather than a window in that.</summary>
    public bool OwnPiece { get; init; }

    /// <summary>What it is cut from; empty: as all.</summary>
    public string Material { get; init; } = string.Empty;

    /// <summary>Stretches that were taken wrongly.</summary>
    public ImmutableArray<BridgedStretch> Bridged { get; init; } = [];

    /// <summary>Whether nothing is set.</summary>
    public bool IsNothing => this is { Dropped: false, Joined: false, OwnPiece: false, Material.Length: 0, Bridged.Length: 0 };

    /// <summary>Equal when every setting is.</summary>
    public bool Equals(CutChange? other) =>
        other is not null && Line == other.Line && Dropped == other.Dropped && Joined == other.Joined && OwnPiece == other.OwnPiece && Material == other.Material && Bridged.AsSpan().SequenceEqual(other.Bridged.AsSpan());

    /// <inheritdoc/>
    public override int GetHashCode() => HashCode.Combine(Line, Dropped, Joined, OwnPiece, Material);
}

/// <summary>How pieces may be turned on the mat.</summary>
public enum CutTurning : byte
{
    /// <summary>Not at all: nap or print goes one way.</summary>
    Never,

    /// <summary>Upside down: only the grain has to lie one way.</summary>
    HalfTurns,

    /// <summary>By quarters: grain along or across.</summary>
    QuarterTurns,
}

/// <summary>Where a piece was laid by hand.</summary>
/// <param name="Piece">Which, by its outer line.</param>
/// <param name="Copy">Which copy, from 0.</param>
/// <param name="Sheet">On which sheet of its material, from 0.</param>
/// <param name="X">Where the middle of the rectangle about it lies from the left edge of the mat, mm.</param>
/// <param name="Y">And from its far edge, mm.</param>
/// <param name="TurnDegrees">Turned clockwise, 0, 90, 180 or 270.</param>
public readonly record struct LaidByHand(CutKey Piece, int Copy, int Sheet, double X, double Y, double TurnDegrees);

/// <summary>What of a job is cut from cloth, and how it is laid on the mat.</summary>
public sealed record JobCutting
{
    /// <summary>Nothing is cut.</summary>
    public static readonly JobCutting None = new();

    /// <summary>The least and the most that cut lines lie outside, mm.</summary>
    public const double LeastAllowance = 0, MostAllowance = 20;

    /// <summary>The least and the most distance between pieces on the mat, mm.</summary>
    public const double LeastGap = 0.5, MostGap = 50;

    /// <summary>No job is cut more often than this.</summary>
    public const int MostCopies = 500;

    /// <summary>Distance between pieces unless another is set, mm.</summary>
    public const double UsualGap = 4;

    /// <summary>The parts whose lines are cut, each line once.</summary>
    public ImmutableArray<PartId> Parts { get; init; } = [];

    /// <summary>The parts around all of which together is cut, as a patch is; empty: around nothing.</summary>
    public ImmutableArray<PartId> Around { get; init; } = [];

    /// <summary>How far cut lines lie outside stitch lines, mm; null: by the cloth.</summary>
    public double? AllowanceMm { get; init; }

    /// <summary>What is set of single lines.</summary>
    public ImmutableArray<CutChange> Changes { get; init; } = [];

    /// <summary>The short name of the cutter; null: the first.</summary>
    public string? Cutter { get; init; }

    /// <summary>Distance between pieces, mm.</summary>
    public double GapMm { get; init; } = UsualGap;

    /// <summary>How many are cut; null: as many as are sewn.</summary>
    public int? Copies { get; init; }

    /// <summary>The cloth lies face down, and is cut mirrored; null: by the cloth.</summary>
    public bool? FaceDown { get; init; }

    /// <summary>How pieces may be turned.</summary>
    public CutTurning Turning { get; init; } = CutTurning.HalfTurns;

    /// <summary>A square of 20 mm is cut too, to measure.</summary>
    public bool TestSquare { get; init; }

    /// <summary>Pieces that were laid by hand.</summary>
    public ImmutableArray<LaidByHand> ByHand { get; init; } = [];

    /// <summary>Whether anything is to be cut.</summary>
    public bool IsAnything => Parts.Length > 0 || Around.Length > 0;

    /// <summary>What is set of a line.</summary>
    public CutChange ChangeOf(CutKey line) => Changes.FirstOrDefault(c => c.Line == line) ?? new(line);

    /// <summary>The same with something set of a line.</summary>
    public JobCutting With(CutChange change) => this with { Changes = [.. Changes.Where(c => c.Line != change.Line), .. change.IsNothing ? ImmutableArray<CutChange>.Empty : [change]] };

    /// <summary>Equal when everything is.</summary>
    public bool Equals(JobCutting? other) =>
        other is not null && (AllowanceMm, Cutter, GapMm, Copies, FaceDown, Turning, TestSquare) == (other.AllowanceMm, other.Cutter, other.GapMm, other.Copies, other.FaceDown, other.Turning, other.TestSquare)
        && Parts.AsSpan().SequenceEqual(other.Parts.AsSpan()) && Around.AsSpan().SequenceEqual(other.Around.AsSpan()) && Changes.AsSpan().SequenceEqual(other.Changes.AsSpan()) && ByHand.AsSpan().SequenceEqual(other.ByHand.AsSpan());

    /// <inheritdoc/>
    public override int GetHashCode() => HashCode.Combine(Parts.Length, Around.Length, AllowanceMm, Cutter, GapMm);
}
