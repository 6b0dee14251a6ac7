using EvenThimble.Core.Geometry;
using EvenThimble.Core.Stitches;
using SkiaSharp;

namespace EvenThimble.Core.Tests.Respacing;

/// <summary>What stitches look like and how they are made up, measured without the code that reads or makes them.</summary>
internal static class Worn
{
    public const double PixelsPerMm = 10;

    /// <summary>Stitches as black thread of 0.4 mm. With a scale the drawing is enlarged, with the thread when asked: a thread is as thick at any size, but rows that are drawn apart leave gaps.</summary>
    public static byte[] Picture(StitchBlob blob, Box box, double scale = 1, bool threadGrows = false)
    {
        var info = new SKImageInfo((int)((box.Width + 4) * PixelsPerMm), (int)((box.Height + 4) * PixelsPerMm), SKColorType.Gray8, SKAlphaType.Opaque);
        using var bitmap = new SKBitmap(info);
        using var canvas = new SKCanvas(bitmap);
        canvas.Clear(SKColors.White);
        canvas.Scale((float)PixelsPerMm);
        canvas.Translate((float)(2 - box.MinX), (float)(2 - box.MinY));
        canvas.Scale((float)scale);
        using var paint = new SKPaint { IsAntialias = true, Color = SKColors.Black, Style = SKPaintStyle.Stroke, StrokeWidth = (float)(threadGrows ? 0.4 : 0.4 / scale), StrokeCap = SKStrokeCap.Round };
        foreach (var (a, b) in Stitches(blob)) canvas.DrawLine((float)a.X, (float)a.Y, (float)b.X, (float)b.Y, paint);
        canvas.Flush();
        return bitmap.GetPixelSpan().ToArray();
    }

    /// <summary>Part of the thread's picture (0 to 1) that two pictures share.</summary>
    public static double Alike(byte[] a, byte[] b)
    {
        var (same, either) = (0, 0);
        for (var i = 0; i < a.Length; i++)
        {
            var (x, y) = (a[i] < 128, b[i] < 128);
            if (x || y) either++;
            if (x && y) same++;
        }

        return either == 0 ? 1 : same / (double)either;
    }

    /// <summary>Part of all pixels (0 to 1) that are dark or light in both pictures.</summary>
    public static double SamePixels(byte[] a, byte[] b) => a.Zip(b, (x, y) => x < 128 == y < 128).Count(same => same) / (double)a.Length;

    /// <summary>All stitches, from needle point to needle point.</summary>
    public static IEnumerable<(Point A, Point B)> Stitches(StitchBlob blob)
    {
        for (var i = 1; i < blob.Count; i++)
            if (blob.Kinds[i] == StitchKind.Stitch && blob.Kinds[i - 1] == StitchKind.Stitch)
                yield return (blob.At(i - 1), blob.At(i));
    }

    /// <summary>Stitches that are not small ones at the start or end of a thread.</summary>
    public static List<double> LengthsWithoutTies(StitchBlob blob)
    {
        var lengths = new List<double>();
        for (var i = 0; i < blob.Count;)
        {
            if (blob.Kinds[i] != StitchKind.Stitch)
            {
                i++;
                continue;
            }

            var end = i;
            while (end < blob.Count && blob.Kinds[end] == StitchKind.Stitch) end++;
            for (var k = i + 5; k < end - 5; k++) lengths.Add(blob.At(k - 1).DistanceTo(blob.At(k)));
            i = end;
        }

        return lengths;
    }

    /// <summary>Distances between neighbouring lines of thread along many cuts across stitches, the usual one: what lies between rows or throws.</summary>
    public static double UsualSpacing(StitchBlob blob, Point from, Point to)
    {
        // Where the cut crosses stitches.
        var crossings = new List<double>();
        var cut = to - from;
        foreach (var (a, b) in Stitches(blob))
        {
            var stitch = b - a;
            var cross = cut.Cross(stitch);
            if (Math.Abs(cross) < 1e-9 || stitch.Length < 1) continue;
            var (t, u) = ((a - from).Cross(stitch) / cross, (a - from).Cross(cut) / cross);
            if (t is > 0 and < 1 && u is >= 0 and < 1) crossings.Add(t * cut.Length);
        }

        crossings.Sort();
        var gaps = crossings.Zip(crossings.Skip(1), (a, b) => b - a).Where(g => g > 0.02).Order().ToList();
        return gaps.Count == 0 ? 0 : (crossings[^1] - crossings[0]) / (crossings.Count - 1);
    }

    /// <summary>The largest distance (mm) from a dark pixel's place in one picture to the nearest dark one of the other, but for the farthest thousandth.</summary>
    public static double EdgeError(byte[] a, byte[] b, Box box)
    {
        var columns = (int)((box.Width + 4) * PixelsPerMm);
        return Math.Max(Far(a, b), Far(b, a));

        double Far(byte[] of, byte[] to)
        {
            var errors = new List<double>();
            const int reach = 12;
            for (var i = 0; i < of.Length; i++)
            {
                if (of[i] >= 128 || to[i] < 128) continue;
                var (x, y, nearest) = (i % columns, i / columns, (double)reach);
                for (var dy = -reach; dy <= reach; dy++)
                    for (var dx = -reach; dx <= reach; dx++)
                    {
                        var (px, py) = (x + dx, y + dy);
                        if (px >= 0 && px < columns && py >= 0 && (py * columns) + px < to.Length && to[(py * columns) + px] < 128) nearest = Math.Min(nearest, Math.Sqrt((dx * dx) + (dy * dy)));
                    }

                errors.Add(nearest / PixelsPerMm);
            }

            errors.Sort();
            var dark = of.Count(p => p < 128);
            var left = errors.Count - (dark / 1000);
            return left <= 0 ? 0 : errors[left - 1];
        }
    }
}
