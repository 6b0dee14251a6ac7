namespace EvenThimble.Core.Geometry;

/// <summary>Measures and divides lines of points, mm.</summary>
public static class Polylines
{
    /// <summary>Length along the points.</summary>
    public static double Length(IReadOnlyList<Point> line)
    {
        double length = 0;
        for (var i = 1; i < line.Count; i++) length += line[i - 1].DistanceTo(line[i]);
        return length;
    }

    /// <summary>Whether the straight line between two places crosses that between two others; not where one only touches the other.</summary>
    public static bool Cross(Point a, Point b, Point c, Point d) => (b - a).Cross(c - a) * (b - a).Cross(d - a) < 0 && (d - c).Cross(a - c) * (d - c).Cross(b - c) < 0;

    /// <summary>How far the straight line between two places is from that between two others, mm.</summary>
    public static double Distance(Point a, Point b, Point c, Point d) => Cross(a, b, c, d) ? 0 : Math.Min(Math.Min(a.DistanceToLine(c, d), b.DistanceToLine(c, d)), Math.Min(c.DistanceToLine(a, b), d.DistanceToLine(a, b)));

    /// <summary>The pieces of a line that may come into a rectangle: of each the number of the point at its end.</summary>
    public static List<int> Near(IReadOnlyList<Point> line, Box box)
    {
        var near = new List<int>();
        for (var i = 1; i < line.Count; i++)
            if (box.Meets(Box.Between(line[i - 1], line[i])))
                near.Add(i);
        return near;
    }

    /// <summary>Whether a ring, closed by itself, goes clockwise as it is seen.</summary>
    public static bool IsClockwise(IReadOnlyList<Point> ring)
    {
        // Twice the area, above 0 for a ring that runs clockwise on the screen.
        var twice = 0.0;
        for (var i = 0; i < ring.Count; i++) twice += ring[i].Cross(ring[(i + 1) % ring.Count]);
        return twice > 0;
    }

    /// <summary><paramref name="count"/> + 1 points at even distances along the line, its ends included.</summary>
    public static Point[] Divided(IReadOnlyList<Point> line, int count)
    {
        var total = Length(line);
        var points = new Point[count + 1];
        var (segment, walked) = (1, 0.0);
        for (var i = 0; i <= count; i++)
        {
            var target = total * i / count;
            while (segment < line.Count - 1 && walked + line[segment - 1].DistanceTo(line[segment]) < target) walked += line[segment - 1].DistanceTo(line[segment++]);
            var step = line[segment - 1].DistanceTo(line[segment]);
            points[i] = line[segment - 1].Toward(line[segment], step < 1e-9 ? 0 : Math.Clamp((target - walked) / step, 0, 1));
        }

        return points;
    }

    /// <summary>The points of a line with others between them, so that no piece of it is longer than wanted, mm; of a closed one the first is not repeated.</summary>
    public static IEnumerable<Point> InPieces(IReadOnlyList<Point> line, bool closed, double longest)
    {
        for (var i = 0; i < (closed ? line.Count : line.Count - 1); i++)
        {
            var (a, b) = (line[i], line[(i + 1) % line.Count]);
            var pieces = Math.Max(1, (int)Math.Ceiling(a.DistanceTo(b) / longest));
            for (var k = 0; k < pieces; k++) yield return a.Toward(b, k / (double)pieces);
        }

        if (!closed) yield return line[^1];
    }

    /// <summary>The line moved sideways by a distance at each point, positive to the left of its direction; corners are mitred to at most twice that.</summary>
    public static Point[] Offset(IReadOnlyList<Point> line, Func<double, double> distanceAt, bool closed = false)
    {
        var n = line.Count;
        var moved = new Point[n];
        for (var i = 0; i < n; i++)
        {
            var before = line[i == 0 ? (closed ? n - 2 : 0) : i - 1];
            var after = line[i == n - 1 ? (closed ? 1 : n - 1) : i + 1];
            var (a, b) = ((line[i] - before).Unit(), (after - line[i]).Unit());
            if (a == Point.Zero) a = b;
            if (b == Point.Zero) b = a;
            var normal = (a + b).Unit().Normal();
            var mitre = 1 / Math.Max(0.5, normal.Dot(a.Normal()));
            moved[i] = line[i] + (normal * (distanceAt(n == 1 ? 0 : i / (double)(n - 1)) * mitre));
        }

        return moved;
    }
}
