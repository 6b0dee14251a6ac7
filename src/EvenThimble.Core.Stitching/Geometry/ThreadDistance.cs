namespace EvenThimble.Core.Geometry;

/// <summary>How near lines of points come to others.</summary>
public static class ThreadDistance
{
    /// <summary>The least distance between two sets of lines, mm; infinite where one has none.</summary>
    public static double Between(IReadOnlyList<IReadOnlyList<Point>> some, IReadOnlyList<IReadOnlyList<Point>> others)
    {
        var (one, other) = (Pieces(some), Pieces(others));
        var box = other.Aggregate(Box.Empty, (b, s) => b.With(s.Box));

        // Those nearest to all others first: the far ones then need no second look.
        var nearest = double.PositiveInfinity;
        foreach (var (a, b, around) in one.OrderBy(s => Apart(s.Box, box)))
            foreach (var (c, d, its) in other)
                if (Apart(around, its) < nearest)
                    nearest = Math.Min(nearest, Between(a, b, c, d));
        return nearest;
    }

    private static List<(Point A, Point B, Box Box)> Pieces(IReadOnlyList<IReadOnlyList<Point>> lines) =>
        [.. lines.SelectMany(l => l.Zip(l.Skip(1)).Select(p => (p.First, p.Second, Box.Around([p.First, p.Second]))))];

    private static double Apart(Box one, Box other) => new Point(Math.Max(0, Math.Max(one.MinX - other.MaxX, other.MinX - one.MaxX)), Math.Max(0, Math.Max(one.MinY - other.MaxY, other.MinY - one.MaxY))).Length;

    private static double Between(Point a, Point b, Point c, Point d)
    {
        double Side(Point from, Point to, Point p) => (to - from).Cross(p - from);
        if (Side(a, b, c) * Side(a, b, d) < 0 && Side(c, d, a) * Side(c, d, b) < 0) return 0;
        return Math.Min(Math.Min(ToPiece(a, c, d), ToPiece(b, c, d)), Math.Min(ToPiece(c, a, b), ToPiece(d, a, b)));
    }

    private static double ToPiece(Point p, Point a, Point b)
    {
        var way = b - a;
        return a.Toward(b, Math.Clamp((p - a).Dot(way) / Math.Max(way.Dot(way), 1e-12), 0, 1)).DistanceTo(p);
    }
}
