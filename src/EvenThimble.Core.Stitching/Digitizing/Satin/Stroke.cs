using EvenThimble.Core.Geometry;

namespace EvenThimble.Core.Digitizing.Satin;

/// <summary>How one end of a stroke meets the rest of its area.</summary>
/// <param name="Other">The stroke that it tucks under or is mitred with; -1 when there is none.</param>
/// <param name="Mitres">The lines at which it and its neighbours are cut, where they meet in a corner or, as the points of a star, in one place; none where it tucks under.</param>
/// <param name="Reach">How far beyond the last point of the middle line the junction reaches that it ends in, mm; 0 where it ends in none.</param>
/// <param name="Opens">The sides on which the outline opens in that junction.</param>
/// <param name="Mouths">The chords by which other arms leave that junction.</param>
internal sealed record StrokeEnd(int Other, IReadOnlyList<Mitre> Mitres, double Reach, Sides Opens, IReadOnlyList<Mouth> Mouths)
{
    public static readonly StrokeEnd Free = new(-1, [], 0, Sides.None, []);

    public bool IsFree => Other < 0;

    /// <summary>Whether it ends at the outline and nowhere else.</summary>
    public bool IsOpen => IsFree && Reach == 0 && Mitres.Count == 0;

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

/// <summary>Where a stroke runs through a junction: from and to along its middle (mm), and the chords by which other arms leave.</summary>
internal readonly record struct Crossing(double From, double To, IReadOnlyList<Mouth> Mouths);

/// <summary>The chord by which an arm leaves a junction, seen from the junction with its first end to the left.</summary>
internal readonly record struct Mouth(Point A, Point B)
{
    public double Length => A.DistanceTo(B);

    public Point Middle => A.Toward(B, 0.5);

    /// <summary>How far from a place, in a direction of length one, it is met on the way out of the junction, mm; null where it is not.</summary>
    public double? Hit(Point from, Point direction)
    {
        var along = B - A;
        var cross = direction.Cross(along);
        if (cross < 1e-9) return null;
        var (t, u) = ((A - from).Cross(along) / cross, (A - from).Cross(direction) / cross);
        return t > 0 && u is >= 0 and <= 1 ? t : null;
    }
}

/// <summary>The cut of a corner: a place on it, and the direction of length one that points to the stroke's own side.</summary>
internal readonly record struct Mitre(Point At, Point Own);

/// <summary>A stroke of an area.</summary>
/// <param name="Middle">Its rough middle from end to end, straight through junctions.</param>
/// <param name="Closed">Whether it is a ring.</param>
/// <param name="Start">How its first end meets others.</param>
/// <param name="End">How its last end meets others.</param>
/// <param name="Crossings">Where it runs through junctions.</param>
internal sealed record Stroke(List<Point> Middle, bool Closed, StrokeEnd Start, StrokeEnd End, IReadOnlyList<Crossing> Crossings)
{
    private readonly Mouth[] _mouths = [.. Crossings.SelectMany(c => c.Mouths), .. Start.Mouths, .. End.Mouths];

    /// <summary>How far its ground reaches from a place on it in a direction of length one, mm: to the outline there, or to where another arm leaves a junction.</summary>
    public double Reach(double outline, Point from, Point direction)
    {
        var reach = outline;
        foreach (var mouth in _mouths)
            if (mouth.Hit(from, direction) is { } hit && hit < reach)
                reach = hit;
        return reach;
    }
}
