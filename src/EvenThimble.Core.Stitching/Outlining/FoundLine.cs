using System.Collections.Immutable;
using EvenThimble.Core.Geometry;

namespace EvenThimble.Core.Outlining;

/// <summary>Why something that was sewn is no part of any line.</summary>
public enum LeftOutAs : byte
{
    /// <summary>The way of the thread to a line, from it, or between two.</summary>
    Travel,

    /// <summary>The line goes on over its own beginning.</summary>
    Overlap,

    /// <summary>It lies on another line: sewn once more, or under it.</summary>
    Again,
}

/// <summary>Something that was sewn and is no part of any line.</summary>
/// <param name="Why">Why.</param>
/// <param name="Points">Where it lies, mm.</param>
public sealed record LeftOut(LeftOutAs Why, ImmutableArray<Point> Points);

/// <summary>One clean line that was found in stitches.</summary>
/// <param name="Points">Its points, mm; a closed one does not repeat its first.</param>
/// <param name="Closed">Whether it comes back to its beginning.</param>
public sealed record FoundLine(ImmutableArray<Point> Points, bool Closed)
{
    /// <summary>Half the width of the zigzag or satin whose middle it is, mm; 0 where it is a run.</summary>
    public double HalfWidth { get; init; }

    /// <summary>How far apart its ends lay before it was closed, mm; of an open one how far they lie apart.</summary>
    public double GapMm { get; init; }

    /// <summary>Its length, that which closes it included, mm.</summary>
    public double Length => Polylines.Length(Points) + (Closed && Points.Length > 1 ? Points[^1].DistanceTo(Points[0]) : 0);

    /// <summary>The points with the first repeated as the last where it is closed.</summary>
    public IReadOnlyList<Point> AsPath => Closed ? [.. Points, Points[0]] : Points;
}

/// <summary>The lines that stitches draw, in the order they are sewn, and what is none of them.</summary>
/// <param name="Lines">Closed ones and open ones; each edge once.</param>
/// <param name="Left">What was left out.</param>
public sealed record FoundLines(ImmutableArray<FoundLine> Lines, ImmutableArray<LeftOut> Left)
{
    /// <summary>Nothing.</summary>
    public static readonly FoundLines None = new([], []);
}
