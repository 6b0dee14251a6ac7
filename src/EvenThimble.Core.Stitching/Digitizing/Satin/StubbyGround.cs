using EvenThimble.Core.Geometry;
using EvenThimble.Core.Shapes;
using EvenThimble.Core.Work;

namespace EvenThimble.Core.Digitizing.Satin;

/// <summary>A ground so short or round that its middle tells no direction.</summary>
internal static class StubbyGround
{
    // A middle whose square is less than this part of the area tells no direction, nor does that of an area as round as this: it is thrown across its longer side.
    private const double Stubby = 0.3;
    private const double RoundArea = 0.96;
    private const double RoundSides = 1.4;

    // It is thrown along its longer side only if that makes throws more square by so many degrees.
    private const double MuchMoreSquare = 8;

    /// <summary>Whether a ground is one.</summary>
    /// <param name="triangles">The triangles of the area.</param>
    /// <param name="middle">The middle of its stroke.</param>
    /// <param name="ground">Its triangles.</param>
    public static bool Is(InnerTriangles triangles, List<Point> middle, HashSet<int> ground)
    {
        var (length, area) = (Polylines.Length(middle), ground.Sum(t => AreaOf(triangles, t)));
        if (length * length < Stubby * area) return true;
        var hull = HullOf(triangles, ground);
        if (area < RoundArea * hull.SquareMm) return false;
        var (side, other) = hull.Sides();
        return Math.Max(side.Length, other.Length) < RoundSides * Math.Min(side.Length, other.Length);
    }

    private static double AreaOf(InnerTriangles triangles, int t) => Math.Abs((triangles.Corner(t, 1) - triangles.Corner(t, 0)).Cross(triangles.Corner(t, 2) - triangles.Corner(t, 0))) / 2;

    private static Hull HullOf(InnerTriangles triangles, HashSet<int> ground) => new(ground.SelectMany(triangles.Corners).Distinct());

    /// <summary>Its stroke: thrown across the longer side of its smallest rectangle.</summary>
    public static Stroke Across(InnerTriangles triangles, HashSet<int> ground)
    {
        var centre = Point.Zero;
        double area = 0;
        foreach (var t in ground)
        {
            var part = AreaOf(triangles, t);
            (centre, area) = (centre + (triangles.Centre(t) * part), area + part);
        }

        centre /= area;
        var (side, other) = HullOf(triangles, ground).Sides();
        var found = new Walls(EdgesOf(triangles, ground));
        var (longer, shorter) = side.Length >= other.Length * 0.98 ? (side.Unit(), other.Unit()) : (other.Unit(), side.Unit());
        var along = FromSquare(found, centre, longer) > FromSquare(found, centre, shorter) + MuchMoreSquare ? shorter : longer;
        return new([centre - (along * 0.05), centre + (along * 0.05)], false, StrokeEnd.Free, StrokeEnd.Free, []);
    }

    /// <summary>By how many degrees throws across an axis would be off square to the edges at their ends, on average.</summary>
    private static double FromSquare(Walls walls, Point centre, Point along)
    {
        var across = along.Normal();
        if (walls.Hit(centre, along) is not { } ahead || walls.Hit(centre, along * -1) is not { } behind) return 90;
        double sum = 0;
        const int samples = 16;
        for (var i = 0; i < samples; i++)
        {
            var at = centre + (along * (-behind + ((ahead + behind) * (i + 0.5) / samples)));
            if (walls.Meet(at, across) is not { } left || walls.Meet(at, across * -1) is not { } right) return 90;
            var direction = (left.Along * Math.Sign(left.Along.Dot(along))) + (right.Along * Math.Sign(right.Along.Dot(along)));
            sum += Math.Acos(Math.Clamp(direction.Unit().Dot(along), -1, 1)) * 180 / Math.PI;
        }

        return sum / samples;
    }

    private static List<(Point A, Point B)> EdgesOf(InnerTriangles triangles, HashSet<int> ground)
    {
        WorkBudget.Current.Spend(ground.Count);
        var walls = new List<(Point, Point)>();
        foreach (var t in ground.Order())
            for (var e = 0; e < 3; e++)
                if (triangles.Beyond(t, e) is var n && (n < 0 || !ground.Contains(n)))
                    walls.Add((triangles.Corner(t, e), triangles.Corner(t, (e + 1) % 3)));
        return walls;
    }
}
