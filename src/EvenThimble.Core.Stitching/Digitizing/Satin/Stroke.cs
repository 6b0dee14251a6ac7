using EvenThimble.Core.Geometry;

namespace EvenThimble.Core.Digitizing.Satin;

/// <summary>How one end of a stroke meets the rest of its area.</summary>
/// <param name="Other">The stroke that it tucks under or is mitred with; -1 when there is none.</param>
/// <param name="Mitres">The lines at which it and its neighbours are cut, where they meet in a corner or, as the points of a star, in one place; none where it tucks under.</param>
/// <param name="Reach">How far beyond the last point of the middle line the junction reaches that it ends in, mm; 0 where it ends in none.</param>
/// <param name="Opens">The sides on which the outline opens in that junction.</param>
internal sealed record StrokeEnd(int Other, IReadOnlyList<Mitre> Mitres, double Reach = 0, Sides Opens = Sides.None)
{
    public static readonly StrokeEnd Free = new(-1, []);

    public bool IsFree => Other < 0;

    public bool Tucks => Other >= 0 && Mitres.Count == 0;
}

/// <summary>Sides of a stroke, seen along it.</summary>
[Flags]
internal enum Sides : byte
{
    None = 0,
    Left = 1,
    Right = 2,
}

/// <summary>Where a stroke runs through a junction: from and to along its middle (mm), and the sides on which the outline opens there and so says nothing of its width.</summary>
internal readonly record struct Crossing(double From, double To, Sides Opens);

/// <summary>The cut of a corner: a place on it, and the direction of length one that points to the stroke's own side.</summary>
internal readonly record struct Mitre(Point At, Point Own);

/// <summary>A stroke of an area.</summary>
/// <param name="Middle">Its rough middle from end to end, straight through junctions.</param>
/// <param name="Closed">Whether it is a ring.</param>
/// <param name="Start">How its first end meets others.</param>
/// <param name="End">How its last end meets others.</param>
/// <param name="Crossings">Where it runs through junctions.</param>
internal sealed record Stroke(List<Point> Middle, bool Closed, StrokeEnd Start, StrokeEnd End, IReadOnlyList<Crossing> Crossings);
