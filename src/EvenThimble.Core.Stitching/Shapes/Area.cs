using EvenThimble.Core.Geometry;
using NetTopologySuite.Algorithm;
using NetTopologySuite.Geometries;
using Point = EvenThimble.Core.Geometry.Point;

namespace EvenThimble.Core.Shapes;

/// <summary>One connected area with its holes, mm: what is stitched in one go. It never changes, and is valid: its rings neither cross nor touch along a line.</summary>
public sealed class Area
{
    private readonly Polygon _polygon;

    internal Area(Polygon polygon) => (_polygon, SquareMm) = (polygon, polygon.Area);

    internal Polygon Polygon => _polygon;

    /// <summary>
    /// The areas that outlines (closed by themselves, mm) enclose, from left to right; empty when they enclose nothing that could be stitched.
    /// </summary>
    public static IReadOnlyList<Area> Of(IEnumerable<IReadOnlyList<Point>> outlines, Inside rule = Inside.OddCrossings) => AreaOfOutlines.Of(outlines, rule);

    /// <summary>Whether an outline, closed by itself, crosses itself.</summary>
    public static bool CrossesItself(IReadOnlyList<Point> outline) => AreaOfOutlines.Crossings([.. outline, outline[0]], 0) > 0;

    /// <summary>Its size, mm².</summary>
    public double SquareMm { get; }

    /// <summary>Length of all its edges, those of holes included, mm.</summary>
    public double EdgeLength => _polygon.Length;

    /// <summary>The rectangle about it.</summary>
    public Box Bounds => _polygon.EnvelopeInternal is var e ? new(e.MinX, e.MinY, e.MaxX, e.MaxY) : default;

    /// <summary>Its rings, the outer one first, each without its first point repeated.</summary>
    public IReadOnlyList<Point[]> Rings => field ??= [.. _polygon.InteriorRings.Prepend(_polygon.ExteriorRing).Where(r => !r.IsEmpty).Select(r => Array.ConvertAll(r.Coordinates[..^1], Place))];

    /// <summary>Every point of its rings; the first of each comes again as its last.</summary>
    public IEnumerable<Point> Corners => _polygon.Coordinates.Select(Place);

    /// <summary>A place well inside.</summary>
    public Point InnerPlace => Place(_polygon.InteriorPoint.Coordinate);

    /// <summary>How far a place lies from it, mm; 0 inside.</summary>
    public double DistanceTo(Point place)
    {
        if (IsInside(place)) return 0;
        var nearest = double.PositiveInfinity;
        foreach (var (a, b) in Edges) nearest = Math.Min(nearest, place.DistanceToLine(a, b));
        return nearest;
    }

    /// <summary>How far another area lies from it, mm; 0 where they meet.</summary>
    public double DistanceTo(Area other) => _polygon.Distance(other._polygon);

    /// <summary>Whether it has a place in common with another.</summary>
    public bool Meets(Area other) => _polygon.Intersects(other._polygon);

    /// <summary>How much of a straight line lies in it, mm.</summary>
    public double LengthOf(Point from, Point to)
    {
        // Between two crossings of an edge it lies inside or outside as a whole; where it begins it may lie on an edge, which tells nothing.
        var (way, cuts) = (to - from, new List<double> { 0, 1 });
        foreach (var (a, b) in Edges)
            if (way.Cross(a - from) > 0 != way.Cross(b - from) > 0 && (a - from).Cross(b - a) / way.Cross(b - a) is > 0 and < 1 and var cut)
                cuts.Add(cut);
        cuts.Sort();
        var inside = 0.0;
        for (var i = 1; i < cuts.Count; i++)
            if (IsInside(from.Toward(to, (cuts[i - 1] + cuts[i]) / 2)))
                inside += cuts[i] - cuts[i - 1];
        return inside * way.Length;
    }

    /// <summary>The area grown (or, below 0, drawn in) by a distance (mm), round at outer corners.</summary>
    public Region Grown(double distance) => new Region(_polygon).Grown(distance);

    /// <summary>What of it a region leaves over.</summary>
    public Region Without(Region region) => region.Worked(() => _polygon.Difference(region.Shape));

    /// <summary>What of it lies in a region too.</summary>
    public Region Within(Region region) => region.Worked(() => _polygon.Intersection(region.Shape));

    /// <summary>What it shares with another.</summary>
    public Region SharedWith(Area other) => new(_polygon.Intersection(other._polygon));

    private (Point A, Point B)[] Edges => field ??= [.. Rings.SelectMany(r => r.Zip([.. r[1..], r[0]]))];

    private bool IsInside(Point place)
    {
        var isInside = false;
        foreach (var (a, b) in Edges) isInside ^= IsRightOf(place, a, b);
        return isInside;
    }

    /// <summary>Whether an edge is crossed by a line from a place to the right.</summary>
    private static bool IsRightOf(Point place, Point a, Point b) => a.Y <= place.Y != b.Y <= place.Y && a.X + ((place.Y - a.Y) / (b.Y - a.Y) * (b.X - a.X)) > place.X;

    internal static Point Place(Coordinate c) => new(c.X, c.Y);

    /// <summary>A hole too small to be left open by a thread.</summary>
    internal static bool IsSpeck(LineString ring) => Math.Abs(NetTopologySuite.Algorithm.Area.OfRing(ring.Coordinates)) < Region.SmallestHole;

    internal static bool IsInRing(Coordinate c, Coordinate[] ring) => PointLocation.IsInRing(c, ring);
}
