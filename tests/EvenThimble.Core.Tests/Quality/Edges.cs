using EvenThimble.Core.Geometry;

namespace EvenThimble.Core.Tests.Quality;

/// <summary>The edges of outlines, found by their place: for the measures, with arithmetic of its own, without the code that makes stitches.</summary>
internal sealed class Edges
{
    private const double CellMm = 1;
    private readonly (Point A, Point B)[] _edges;
    private readonly ILookup<(int Column, int Row), int> _at;

    public Edges(IEnumerable<Point[]> outlines)
    {
        _edges = [.. outlines.SelectMany(o => o.Select((p, i) => (A: p, B: o[(i + 1) % o.Length]))).Where(e => e.A != e.B)];
        _at = Enumerable.Range(0, _edges.Length).SelectMany(i => CellsOf(_edges[i]).Select(cell => (cell, i))).ToLookup(c => c.cell, c => c.i);
    }

    /// <summary>The direction of the edge nearest to a place, if one is nearer than so many mm; of edges equally near the first.</summary>
    public Point? DirectionAt(Point p, double reach = 0.6) => Nearest(p, reach) is (>= 0 and var i, _) ? (_edges[i].B - _edges[i].A).Unit() : null;

    /// <summary>How far a place is from the nearest edge, mm; at least one edge must be there.</summary>
    public double DistanceFrom(Point p)
    {
        for (var reach = CellMm; ; reach *= 2)
            if (Nearest(p, reach) is (>= 0, var distance))
                return distance;
    }

    /// <summary>How far a place is from a stretch of line, mm.</summary>
    public static double Distance(Point p, Point a, Point b)
    {
        var (dx, dy) = (b.X - a.X, b.Y - a.Y);
        var t = Math.Clamp((((p.X - a.X) * dx) + ((p.Y - a.Y) * dy)) / Math.Max((dx * dx) + (dy * dy), 1e-12), 0, 1);
        var (x, y) = (p.X - a.X - (dx * t), p.Y - a.Y - (dy * t));
        return Math.Sqrt((x * x) + (y * y));
    }

    private (int Edge, double Distance) Nearest(Point p, double reach)
    {
        var (best, nearest) = (-1, reach);
        foreach (var cell in CellsOf((p - new Point(reach, reach), p + new Point(reach, reach))))
            foreach (var i in _at[cell])
                if (Distance(p, _edges[i].A, _edges[i].B) is var d && (d < nearest || (d == nearest && i < best)))
                    (best, nearest) = (i, d);
        return (best, nearest);
    }

    /// <summary>The cells of the box of a stretch of line.</summary>
    private static IEnumerable<(int Column, int Row)> CellsOf((Point A, Point B) e)
    {
        for (var x = CellOf(Math.Min(e.A.X, e.B.X)); x <= CellOf(Math.Max(e.A.X, e.B.X)); x++)
            for (var y = CellOf(Math.Min(e.A.Y, e.B.Y)); y <= CellOf(Math.Max(e.A.Y, e.B.Y)); y++)
                yield return (x, y);
    }

    private static int CellOf(double mm) => (int)Math.Floor(mm / CellMm);
}
