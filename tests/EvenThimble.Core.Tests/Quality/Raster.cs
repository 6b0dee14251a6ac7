using EvenThimble.Core.Geometry;

namespace EvenThimble.Core.Tests.Quality;

/// <summary>Small squares of cloth in rows, for the measures, with arithmetic of its own: what drawing libraries draw line by line takes most of the time of a measure.</summary>
/// <param name="Left">Where the first column begins, mm.</param>
/// <param name="Top">Where the first row begins, mm.</param>
/// <param name="PixelsPerMm">How many squares lie beside each other on a mm.</param>
internal sealed record Raster(double Left, double Top, int Columns, int Rows, double PixelsPerMm)
{
    /// <summary>The raster of all points and a mm about them.</summary>
    public static Raster About(IEnumerable<Point> points, double pixelsPerMm)
    {
        var all = points.ToList();
        var (left, top) = (all.Min(p => p.X) - 1, all.Min(p => p.Y) - 1);
        return new(left, top, (int)((all.Max(p => p.X) + 1 - left) * pixelsPerMm) + 1, (int)((all.Max(p => p.Y) + 1 - top) * pixelsPerMm) + 1, pixelsPerMm);
    }

    /// <summary>The number of the square in which a point lies.</summary>
    public int At(Point p) => ((int)((p.Y - Top) * PixelsPerMm) * Columns) + (int)((p.X - Left) * PixelsPerMm);

    /// <summary>The squares whose middles lie no farther than so many mm from a stretch of line, by number, with how far they lie.</summary>
    public void Near(Point a, Point b, double reach, Action<int, double> found)
    {
        var (dx, dy) = (b.X - a.X, b.Y - a.Y);
        var perLength = 1 / Math.Max((dx * dx) + (dy * dy), 1e-12);
        var lastRow = RowOf(Math.Max(a.Y, b.Y) + reach);
        for (var row = RowOf(Math.Min(a.Y, b.Y) - reach); row <= lastRow; row++)
        {
            // Only where the line comes near this row.
            var middle = Top + ((row + 0.5) / PixelsPerMm);
            var (p, q) = (AtHeight(middle - reach), AtHeight(middle + reach));
            var end = Math.Clamp((int)((Math.Max(p, q) + reach - Left) * PixelsPerMm), 0, Columns - 1);
            for (var column = Math.Clamp((int)((Math.Min(p, q) - reach - Left) * PixelsPerMm), 0, Columns - 1); column <= end; column++)
            {
                // As Edges.Distance tells it, without a root where it is too far.
                var (x, y) = (Left + ((column + 0.5) / PixelsPerMm) - a.X, middle - a.Y);
                var t = Math.Clamp(((x * dx) + (y * dy)) * perLength, 0, 1);
                (x, y) = (x - (dx * t), y - (dy * t));
                if ((x * x) + (y * y) is var square && square <= reach * reach) found((row * Columns) + column, Math.Sqrt(square));
            }
        }

        double AtHeight(double height) => a.Y == b.Y ? (height < a.Y ? a.X : b.X) : a.X + ((b.X - a.X) * Math.Clamp((height - a.Y) / (b.Y - a.Y), 0, 1));
    }

    /// <summary>How much of each square, of 255, is covered by lines of a thickness in mm with round ends, laid one upon the other.</summary>
    public byte[] Covered(IEnumerable<(Point A, Point B)> lines, double thick)
    {
        var covered = new double[Columns * Rows];
        var edge = thick / 2;
        foreach (var (a, b) in lines)
            Near(a, b, edge + (0.5 / PixelsPerMm), (i, distance) => covered[i] += (1 - covered[i]) * Math.Min(1, ((edge - distance) * PixelsPerMm) + 0.5));
        return Array.ConvertAll(covered, c => (byte)((255 * c) + 0.5));
    }

    private int RowOf(double y) => Math.Clamp((int)((y - Top) * PixelsPerMm), 0, Rows - 1);
}
