using EvenThimble.Core.Craft;
using EvenThimble.Core.Geometry;

namespace EvenThimble.Core.Digitizing.Fill;

/// <summary>A repeating drawing whose lines the needle points of a fill lie on.</summary>
/// <param name="Id">Short name in files.</param>
/// <param name="Name">As the user reads it.</param>
/// <param name="Width">Of one repeat, mm.</param>
/// <param name="Height">Of one repeat, mm.</param>
/// <param name="Lines">Lines of one repeat, within 0 to width and 0 to height.</param>
public sealed record Tile(string Id, string Name, double Width, double Height, Point[][] Lines);

/// <summary>A tile laid over the cloth at a size and angle.</summary>
public sealed class TilePattern
{
    // Needle points nearer together than this would make a hole rather than a line.
    private const double Nearest = 0.9;
    private readonly Tile _tile;
    private readonly double _scale;
    private readonly double _angle;
    private readonly (Point A, Point B)[] _pieces;
    private readonly List<double> _hits = [];

    /// <summary>Lays a tile, its size multiplied and turned clockwise by degrees.</summary>
    public TilePattern(Tile tile, double scale, double angle)
    {
        (_tile, _scale, _angle) = (tile, scale, angle);
        _pieces = [.. tile.Lines.SelectMany(line => line.Zip(line.Skip(1)))];
    }

    /// <summary>Distances (mm, growing) from the start of a straight row at which it crosses the lines of the tile; long empty stretches are divided.</summary>
    public void Cross(Point from, Point to, List<double> into)
    {
        var length = from.DistanceTo(to);
        var (a, b) = (from.Turned(-_angle, Point.Zero) / _scale, to.Turned(-_angle, Point.Zero) / _scale);
        _hits.Clear();
        var (w, h) = (_tile.Width, _tile.Height);
        var columns = (First: Cell(Math.Min(a.X, b.X), w), Last: Cell(Math.Max(a.X, b.X), w));
        for (var column = columns.First; column <= columns.Last; column++)
        {
            // Only the repeats that the row passes through in this column.
            var (t0, t1) = Clip(a.X, b.X, column * w, (column + 1) * w);
            var (y0, y1) = (a.Y + ((b.Y - a.Y) * t0), a.Y + ((b.Y - a.Y) * t1));
            for (var row = Cell(Math.Min(y0, y1), h); row <= Cell(Math.Max(y0, y1), h); row++)
            {
                var corner = new Point(column * w, row * h);
                foreach (var (p, q) in _pieces)
                    if (Crossing(a, b, p + corner, q + corner) is { } t)
                        _hits.Add(t * length);
            }
        }

        _hits.Sort();
        double last = 0;
        foreach (var hit in _hits)
        {
            if (hit - last < Nearest && into.Count > 0) continue;
            Divide(into, last, hit);
            into.Add(hit);
            last = hit;
        }

        Divide(into, last, length);
    }

    private static int Cell(double x, double size) => (int)Math.Floor(x / size);

    private static (double T0, double T1) Clip(double a, double b, double low, double high)
    {
        if (Math.Abs(b - a) < 1e-12) return (0, 1);
        var (t0, t1) = ((low - a) / (b - a), (high - a) / (b - a));
        if (t0 > t1) (t0, t1) = (t1, t0);
        return (Math.Clamp(t0, 0, 1), Math.Clamp(t1, 0, 1));
    }

    private static void Divide(List<double> into, double from, double to)
    {
        var pieces = (int)Math.Ceiling((to - from) / Limits.LongestThrow);
        for (var i = 1; i < pieces; i++) into.Add(from + ((to - from) * i / pieces));
    }

    private static double? Crossing(Point a, Point b, Point p, Point q)
    {
        var (d, e) = (b - a, q - p);
        var cross = d.Cross(e);
        if (Math.Abs(cross) < 1e-12) return null;
        var (t, u) = ((p - a).Cross(e) / cross, (p - a).Cross(d) / cross);
        return t is >= 0 and <= 1 && u is >= 0 and < 1 ? t : null;
    }
}
