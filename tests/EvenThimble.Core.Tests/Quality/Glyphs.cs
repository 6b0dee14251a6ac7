using EvenThimble.Core.Geometry;
using SkiaSharp;

namespace EvenThimble.Core.Tests.Quality;

/// <summary>Outlines of letters as a font draws them: corners kept, curves flattened to 0.01 mm.</summary>
public static class Glyphs
{
    private const double Flatness = 0.01;

    /// <summary>The letters and figures that are measured.</summary>
    public const string Usual = "ABCDEFGHIJKLMNOPQRSTUVWXYZabcdefghijklmnopqrstuvwxyz0123456789&?!";

    /// <summary>The outlines of a letter, none upon another, <paramref name="capitalMm"/> being the height of the font's H; empty if the font has no such letter.</summary>
    public static Point[][] Outlines(SKTypeface face, string letter, double capitalMm) => OutlinesOf(face, letter, capitalMm, p => p.Simplify() ?? new SKPath(p));

    /// <summary>The same as the font draws them: they may lie upon each other.</summary>
    public static Point[][] AsDrawn(SKTypeface face, string letter, double capitalMm) => OutlinesOf(face, letter, capitalMm, p => new SKPath(p));

    private static Point[][] OutlinesOf(SKTypeface face, string letter, double capitalMm, Func<SKPath, SKPath> made)
    {
        using var font = new SKFont(face, 1000);
        if (font.GetGlyphs(letter).Contains((ushort)0)) return [];
        using var capital = font.GetTextPath("H");
        using var path = font.GetTextPath(letter);
        using var outline = made(path);
        return OutlinesOf(outline, capitalMm / Math.Max(1, capital.TightBounds.Height));
    }

    /// <summary>The rings of a path, its lengths multiplied.</summary>
    public static Point[][] OutlinesOf(SKPath path, double scale)
    {
        var (rings, ring, points) = (new List<Point[]>(), new List<Point>(), new SKPoint[4]);
        using var iterator = path.CreateRawIterator();
        for (var verb = iterator.Next(points); verb != SKPathVerb.Done; verb = iterator.Next(points))
        {
            var p = Array.ConvertAll(points, q => new Point(q.X * scale, q.Y * scale));
            switch (verb)
            {
                case SKPathVerb.Move:
                    End();
                    ring.Add(p[0]);
                    break;
                case SKPathVerb.Line:
                    ring.Add(p[1]);
                    break;
                case SKPathVerb.Quad or SKPathVerb.Conic:
                    Curve((p[0] - (p[1] * 2) + p[2]).Length, t => p[0].Toward(p[1], t).Toward(p[1].Toward(p[2], t), t));
                    break;
                case SKPathVerb.Cubic:
                    Curve(Math.Max((p[0] - (p[1] * 2) + p[2]).Length, (p[1] - (p[2] * 2) + p[3]).Length) * 3, t =>
                    {
                        var (a, b, c) = (p[0].Toward(p[1], t), p[1].Toward(p[2], t), p[2].Toward(p[3], t));
                        return a.Toward(b, t).Toward(b.Toward(c, t), t);
                    });
                    break;
            }
        }

        End();
        return [.. rings];

        void Curve(double bend, Func<double, Point> at)
        {
            var pieces = (int)Math.Clamp(Math.Ceiling(Math.Sqrt(bend / (4 * Flatness))), 2, 200);
            for (var k = 1; k <= pieces; k++) ring.Add(at(k / (double)pieces));
        }

        void End()
        {
            var distinct = ring.Where((q, i) => i == 0 || q.DistanceTo(ring[i - 1]) > 1e-6).ToList();
            if (distinct.Count > 1 && distinct[0].DistanceTo(distinct[^1]) < 1e-6) distinct.RemoveAt(distinct.Count - 1);
            if (distinct.Count > 2) rings.Add([.. distinct]);
            ring.Clear();
        }
    }
}
