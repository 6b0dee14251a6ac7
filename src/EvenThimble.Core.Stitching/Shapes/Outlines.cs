using EvenThimble.Core.Geometry;
using NetTopologySuite.Geometries;
using NetTopologySuite.Operation.Buffer;
using Point = EvenThimble.Core.Geometry.Point;

namespace EvenThimble.Core.Shapes;

/// <summary>Lines and rings that designs are drawn from, mm; angles in degrees clockwise from the right.</summary>
public static class Outlines
{
    private static GeometryFactory Factory => Region.Factory;

    /// <summary>An arc of an ellipse as points, about half a millimetre apart.</summary>
    public static Point[] Arc(Point middle, double radiusX, double radiusY, double from, double to, double turn = 0)
    {
        var steps = Math.Max(8, (int)(Math.Abs(to - from) * Math.PI / 180 * Math.Max(radiusX, radiusY) / 0.5));
        return
        [
            .. Enumerable.Range(0, steps + 1).Select(i =>
            {
                var (sin, cos) = Math.SinCos((from + ((to - from) * i / steps)) * Math.PI / 180);
                return new Point(middle.X + (radiusX * cos), middle.Y + (radiusY * sin)).Turned(turn, middle);
            }),
        ];
    }

    /// <summary>A full circle, its first point repeated as the last.</summary>
    public static Point[] Circle(Point middle, double radius) => Arc(middle, radius, radius, -90, 270);

    /// <summary>A star, its first point repeated as the last.</summary>
    public static Point[] Star(Point middle, int points, double outer, double inner, double turn = 0) =>
        [.. Enumerable.Range(0, (2 * points) + 1).Select(i => new Point(middle.X, middle.Y - (i % 2 == 0 ? outer : inner)).Turned((i * 180.0 / points) + turn, middle))];

    /// <summary>A smooth curve through points (Catmull and Rom 1974), ends included.</summary>
    public static Point[] Smooth(params Point[] through)
    {
        var curve = new List<Point>();
        for (var i = 0; i + 1 < through.Length; i++)
        {
            var (p0, p1, p2, p3) = (through[Math.Max(i - 1, 0)], through[i], through[i + 1], through[Math.Min(i + 2, through.Length - 1)]);
            var steps = Math.Max(4, (int)(p1.DistanceTo(p2) / 0.6));
            for (var s = 0; s < steps; s++)
            {
                var t = s / (double)steps;
                curve.Add(((p1 * 2) + ((p2 - p0) * t) + (((p0 * 2) - (p1 * 5) + (p2 * 4) - p3) * (t * t)) + (((p1 * 3) - p0 - (p2 * 3) + p3) * (t * t * t))) / 2);
            }
        }

        curve.Add(through[^1]);
        return [.. curve];
    }

    /// <summary>A rectangle with round corners, its first point repeated as the last.</summary>
    public static Point[] RoundRectangle(Point middle, double width, double height, double radius)
    {
        var (w, h) = ((width / 2) - radius, (height / 2) - radius);
        return
        [
            .. Arc(middle + new Point(w, -h), radius, radius, -90, 0), .. Arc(middle + new Point(w, h), radius, radius, 0, 90),
            .. Arc(middle + new Point(-w, h), radius, radius, 90, 180), .. Arc(middle + new Point(-w, -h), radius, radius, 180, 270),
            new(middle.X + w, middle.Y - (height / 2)),
        ];
    }

    /// <summary>The ring drawn in by a distance (negative: grown), round at corners; empty when nothing is left, the largest when it falls apart.</summary>
    public static IReadOnlyList<Point> Inset(IReadOnlyList<Point> ring, double distance)
    {
        if (ToPolygon(ring).Buffer(-distance, new BufferParameters(12)) is not { IsEmpty: false } inner) return [];
        var largest = Enumerable.Range(0, inner.NumGeometries).Select(inner.GetGeometryN).OfType<Polygon>().MaxBy(p => p.Area);
        return largest is null ? [] : [.. largest.ExteriorRing.Coordinates.Select(c => new Point(c.X, c.Y))];
    }

    /// <summary>The ring with its outer corners rounded to a radius.</summary>
    public static IReadOnlyList<Point> Rounded(IReadOnlyList<Point> ring, double radius) => Inset(Inset(ring, radius), -radius);

    private static Polygon ToPolygon(IReadOnlyList<Point> ring)
    {
        var closed = ring[0] == ring[^1] ? ring : [.. ring, ring[0]];
        return Factory.CreatePolygon([.. closed.Select(p => new Coordinate(p.X, p.Y))]);
    }
}
