namespace EvenThimble.Core.Geometry;

/// <summary>What places that lie about say together.</summary>
internal static class Scatter
{
    /// <summary>The middle of places.</summary>
    public static Point Middle(IReadOnlyCollection<Point> places) => places.Aggregate(Point.Zero, (a, b) => a + b) * (1.0 / places.Count);

    /// <summary>The direction in which places lie farthest apart, by their second moments, of length one.</summary>
    public static Point MainDirection(IReadOnlyCollection<Point> places)
    {
        var (middle, xx, xy, yy) = (Middle(places), 0.0, 0.0, 0.0);
        foreach (var p in places.Select(p => p - middle)) (xx, xy, yy) = (xx + (p.X * p.X), xy + (p.X * p.Y), yy + (p.Y * p.Y));
        var (sin, cos) = Math.SinCos(Math.Atan2(2 * xy, xx - yy) / 2);
        return new(cos, sin);
    }

    /// <summary>How far places lie apart in a direction of length one, mm.</summary>
    public static double Extent(IReadOnlyCollection<Point> places, Point way) => places.Max(way.Dot) - places.Min(way.Dot);
}
