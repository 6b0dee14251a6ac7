using System.Collections.Immutable;
using EvenThimble.Core.Geometry;
using EvenThimble.Core.Machines;
using EvenThimble.Core.Threads;

namespace EvenThimble.Core.Jobs;

/// <summary>How a hooping came to lie against what was sewn before, as measured at a cross.</summary>
/// <param name="Dx">It landed so much too far right, mm.</param>
/// <param name="Dy">It landed so much too near the operator, mm.</param>
/// <param name="TurnDegrees">It is turned so much clockwise.</param>
public readonly record struct MeasuredOffset(double Dx, double Dy, double TurnDegrees)
{
    /// <summary>It lies as it should.</summary>
    public static readonly MeasuredOffset None = new(0, 0, 0);

    /// <summary>Where a place has to be sewn so that it lands where it should.</summary>
    /// <param name="p">The place.</param>
    /// <param name="cross">The cross that was measured at.</param>
    public Point Met(Point p, Point cross) => this == None ? p : new Point(p.X - Dx, p.Y - Dy).Turned(-TurnDegrees, cross);
}

/// <summary>One time that cloth is sewn in one hoop position.</summary>
/// <param name="Hoop">Machine and hoop field.</param>
public sealed record Hooping(HoopChoice Hoop)
{
    /// <summary>Where the middle of the field lies on the job, mm.</summary>
    public Point Centre { get; init; }

    /// <summary>The position of a long hoop, from 1; null: the cloth is hooped for it, in the middle position.</summary>
    public int? Position { get; init; }

    /// <summary>How it came to lie.</summary>
    public MeasuredOffset Measured { get; init; }
}

/// <summary>A line along which two hoopings part what both could sew.</summary>
/// <param name="First">The number of the earlier hooping, from 0.</param>
/// <param name="Second">The number of the later one.</param>
/// <param name="Line">Two places or more, mm; its ends go on for ever.</param>
public sealed record Seam(int First, int Second, ImmutableArray<Point> Line)
{
    /// <summary>Equal when every place is.</summary>
    public bool Equals(Seam? other) => other is not null && First == other.First && Second == other.Second && Line.AsSpan().SequenceEqual(other.Line.AsSpan());

    /// <inheritdoc/>
    public override int GetHashCode() => HashCode.Combine(First, Second, Line.Length);
}

/// <summary>A part that was given to a hooping by hand.</summary>
/// <param name="Part">Which part.</param>
/// <param name="Hooping">The number of the hooping, from 0.</param>
public readonly record struct GivenPart(PartId Part, int Hooping);

/// <summary>What the user wants of the division among hoopings; what is not said, the program finds.</summary>
/// <param name="Seams">Seams drawn by hand.</param>
/// <param name="Given">Parts given to a hooping by hand.</param>
public sealed record HoopSplit(ImmutableArray<Seam> Seams, ImmutableArray<GivenPart> Given)
{
    /// <summary>Nothing is said.</summary>
    public static readonly HoopSplit Plain = new([], []);

    /// <summary>Equal when all that is said is.</summary>
    public bool Equals(HoopSplit? other) => other is not null && Seams.AsSpan().SequenceEqual(other.Seams.AsSpan()) && Given.AsSpan().SequenceEqual(other.Given.AsSpan());

    /// <inheritdoc/>
    public override int GetHashCode() => HashCode.Combine(Seams.Length, Given.Length);
}

/// <summary>The crosses that are wanted.</summary>
/// <param name="Spots">Where, mm; none: where the program proposes them.</param>
public sealed record CrossWish(ImmutableArray<Point> Spots)
{
    /// <summary>Where the program proposes them.</summary>
    public static readonly CrossWish Proposed = new([]);

    /// <summary>Equal when every spot is.</summary>
    public bool Equals(CrossWish? other) => other is not null && Spots.AsSpan().SequenceEqual(other.Spots.AsSpan());

    /// <inheritdoc/>
    public override int GetHashCode() => Spots.Length;
}

/// <summary>Where a basting line goes.</summary>
public enum Basting
{
    /// <summary>There is none.</summary>
    None,

    /// <summary>Around what is sewn.</summary>
    AroundTheJob,

    /// <summary>Along the edge of the field, for cloth that is laid on and not held by the hoop.</summary>
    AlongTheField,
}

/// <summary>Where the needle stands before the first stitch or after the last.</summary>
public enum NeedleRest
{
    /// <summary>Where the stitches have it.</summary>
    AsSewn,

    /// <summary>The middle of the field.</summary>
    Centre,

    /// <summary>The far left corner of what is sewn.</summary>
    FarLeft,

    /// <summary>The far right corner.</summary>
    FarRight,

    /// <summary>The near left corner.</summary>
    NearLeft,

    /// <summary>The near right corner.</summary>
    NearRight,
}

/// <summary>What holds and marks the cloth in every hooping.</summary>
/// <param name="Basting">A basting line.</param>
/// <param name="CentreMark">A small mark is sewn in the middle of the field.</param>
/// <param name="Start">Where the needle stands at first.</param>
/// <param name="End">Where it stands in the end.</param>
public sealed record ClothHolding(Basting Basting, bool CentreMark, NeedleRest Start, NeedleRest End)
{
    /// <summary>Nothing of it.</summary>
    public static readonly ClothHolding None = new(Basting.None, false, NeedleRest.AsSewn, NeedleRest.AsSewn);
}
