using EvenThimble.Core.Digitizing.Satin;
using EvenThimble.Core.Geometry;
using SkiaSharp;

namespace EvenThimble.Core.Tests.Quality;

/// <summary>What stitches make of a shape, measured on pictures and by arithmetic of its own, without the code that made them.</summary>
public sealed record StitchMeasure(double Coverage, double Outside, double Short, double Longest, double FromSquare, int Stitches, int Runs)
{
    private const double PixelsPerMm = 14;
    private const double ThreadMm = 0.4;
    private const double ShortMm = 0.4;
    private const double AlongTheEdge = 0.9;

    /// <summary>Measures runs of needle points against outlines (odd crossings inside); <paramref name="allowed"/> is how far beyond the edge thread may lie, mm.</summary>
    public static StitchMeasure Of(IReadOnlyList<Point[]> outlines, IReadOnlyList<List<Point>> runs, double allowed)
    {
        var raster = Raster.About(outlines.SelectMany(o => o).Concat(runs.SelectMany(r => r)), PixelsPerMm);
        using var path = PathOf(outlines);
        using var inside = Drawn(raster, (canvas, paint) => canvas.DrawPath(path, paint));
        using var grown = Drawn(raster, (canvas, paint) =>
        {
            canvas.DrawPath(path, paint);
            (paint.Style, paint.StrokeWidth, paint.StrokeJoin) = (SKPaintStyle.Stroke, (float)(2 * allowed), SKStrokeJoin.Round);
            canvas.DrawPath(path, paint);
        });
        var (a, g, t) = (inside.GetPixelSpan().ToArray(), grown.GetPixelSpan().ToArray(), raster.Covered(runs.SelectMany(r => r.Zip(r.Skip(1))), ThreadMm));
        var (area, covered, laid, beyond) = (0, 0, 0, 0);
        for (var i = 0; i < a.Length; i++)
        {
            if (a[i] > 127) area++;
            if (a[i] > 127 && t[i] > 127) covered++;
            if (t[i] > 127) laid++;
            if (t[i] > 127 && g[i] <= 127) beyond++;
        }

        var lengths = runs.SelectMany(r => r.Zip(r.Skip(1), (p, q) => Math.Sqrt(((q.X - p.X) * (q.X - p.X)) + ((q.Y - p.Y) * (q.Y - p.Y))))).ToList();
        return new(
            100.0 * covered / Math.Max(area, 1), 100.0 * beyond / Math.Max(laid, 1), 100.0 * lengths.Count(l => l < ShortMm) / Math.Max(lengths.Count, 1), lengths.DefaultIfEmpty(0).Max(),
            FromSquareOf(outlines, runs), lengths.Count, runs.Count);
    }

    /// <summary>
    /// By how many degrees on average throws are off square: a throw is a stitch from edge to edge, and the stroke's direction there is the mean of the edge's directions at both its ends.
    /// </summary>
    private static double FromSquareOf(IReadOnlyList<Point[]> outlines, IReadOnlyList<List<Point>> runs)
    {
        var edges = new Edges(outlines);
        var (sum, count) = (0.0, 0);
        foreach (var run in runs.Select(Unsplit))
        {
            for (var i = 1; i < run.Count; i++)
            {
                var (p, q) = (run[i - 1], run[i]);
                if (p.DistanceTo(q) < 1) continue;
                if (edges.DirectionAt(p) is not { } here || edges.DirectionAt(q) is not { } there || edges.DirectionAt(p.Toward(q, 0.5), 0.25) is not null) continue;
                // At a stitch along an edge the thread is on its way, not thrown.
                var throwing = (q - p).Unit();
                if (Math.Abs(throwing.Dot(here)) > AlongTheEdge || Math.Abs(throwing.Dot(there)) > AlongTheEdge) continue;
                var across = new Point(q.Y - p.Y, p.X - q.X);
                var along = (here * (here.Dot(across) < 0 ? -1 : 1)) + (there * (there.Dot(across) < 0 ? -1 : 1));
                if (along.Length < 0.5) continue;
                var cos = Math.Abs((q - p).Dot(along)) / (q - p).Length / along.Length;
                sum += Math.Asin(Math.Clamp(cos, 0, 1)) * 180 / Math.PI;
                count++;
            }
        }

        return count == 0 ? 0 : sum / count;
    }

    /// <summary>Needle points at which the thread goes straight on left out: a split throw is one throw.</summary>
    private static List<Point> Unsplit(List<Point> run)
    {
        var kept = new List<Point>(run.Count);
        for (var i = 0; i < run.Count; i++)
        {
            if (i > 0 && i < run.Count - 1 && (run[i] - run[i - 1]).Unit().Dot((run[i + 1] - run[i]).Unit()) > 0.9995) continue;
            kept.Add(run[i]);
        }

        return kept;
    }

    public static SKPath PathOf(IEnumerable<Point[]> outlines)
    {
        var builder = new SKPathBuilder { FillType = SKPathFillType.EvenOdd };
        foreach (var o in outlines) builder.AddPoly(Array.ConvertAll(o, p => new SKPoint((float)p.X, (float)p.Y)), true);
        return builder.Detach();
    }

    private static SKBitmap Drawn(Raster raster, Action<SKCanvas, SKPaint> draw)
    {
        var bitmap = new SKBitmap(new SKImageInfo(raster.Columns, raster.Rows, SKColorType.Alpha8, SKAlphaType.Premul));
        using var canvas = new SKCanvas(bitmap);
        canvas.Clear(SKColors.Transparent);
        canvas.Scale((float)raster.PixelsPerMm);
        canvas.Translate((float)-raster.Left, (float)-raster.Top);
        using var paint = new SKPaint { Color = SKColors.White, IsAntialias = true };
        draw(canvas, paint);
        return bitmap;
    }
}
