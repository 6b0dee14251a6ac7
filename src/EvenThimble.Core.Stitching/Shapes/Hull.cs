using EvenThimble.Core.Geometry;
using NetTopologySuite.Algorithm;
using NetTopologySuite.Geometries;
using Point = EvenThimble.Core.Geometry.Point;

namespace EvenThimble.Core.Shapes;

/// <summary>The smallest convex outline about points.</summary>
public sealed class Hull
{
    private readonly NetTopologySuite.Geometries.Geometry _hull;

    /// <summary>About points, mm.</summary>
    public Hull(IEnumerable<Point> points) =>
        _hull = new MultiPoint([.. points.Select(p => new NetTopologySuite.Geometries.Point(p.X, p.Y))]).ConvexHull();

    /// <summary>The corners of the smallest convex outline about points, without the first repeated.</summary>
    public static IReadOnlyList<Point> Outline(IEnumerable<Point> points) => new Hull(points)._hull.Coordinates is { Length: > 3 } ring ? [.. ring[..^1].Select(c => new Point(c.X, c.Y))] : [];

    /// <summary>Its size, mm²; 0 where all points lie on a line.</summary>
    public double SquareMm => _hull.Area;

    /// <summary>Two sides of the smallest rectangle about it that meet in a corner.</summary>
    public (Point Side, Point Other) Sides()
    {
        var r = MinimumDiameter.GetMinimumRectangle(_hull).Coordinates;
        return r.Length < 4 ? (new(1, 0), new(0, 1)) : (new(r[1].X - r[0].X, r[1].Y - r[0].Y), new(r[2].X - r[1].X, r[2].Y - r[1].Y));
    }
}
