using EvenThimble.Core.Geometry;

namespace EvenThimble.Core.Digitizing.Satin;

/// <summary>How one end of a stroke meets the rest of its area.</summary>
/// <param name="Other">The stroke that it meets; -1 when there is none.</param>
/// <param name="Mitre">The line at which both are cut, where they meet in a corner; null where it ends on the other's ground.</param>
internal readonly record struct StrokeEnd(int Other, Mitre? Mitre = null)
{
    public static readonly StrokeEnd Free = new(-1);

    public bool IsFree => Other < 0;
}

/// <summary>The cut of a corner: a place on it, and the direction of length one that points to the stroke's own side.</summary>
internal readonly record struct Mitre(Point At, Point Own);

/// <summary>A stroke of an area.</summary>
/// <param name="Middle">Its rough middle from end to end.</param>
/// <param name="Closed">Whether it is a ring.</param>
/// <param name="Start">How its first end meets others.</param>
/// <param name="End">How its last end meets others.</param>
/// <param name="Walls">Around the ground that is its own.</param>
/// <param name="Beyond">Around its own ground and that of the junctions it ends in, for throws that overlap others there.</param>
internal sealed record Stroke(List<Point> Middle, bool Closed, StrokeEnd Start, StrokeEnd End, List<(Point A, Point B)> Walls, List<(Point A, Point B)> Beyond);
