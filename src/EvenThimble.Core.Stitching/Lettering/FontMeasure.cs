using EvenThimble.Core.Craft;
using EvenThimble.Core.Geometry;
using EvenThimble.Core.Shapes;

namespace EvenThimble.Core.Lettering;

/// <summary>How thick the strokes of a font are, and at which heights it sews well because of that.</summary>
/// <param name="ThinEm">Width of its thin strokes, em.</param>
/// <param name="UsualEm">Width of most of its strokes, em.</param>
/// <param name="ThickEm">Width of its thick strokes, em.</param>
/// <param name="CapitalEm">Height of its capitals, em.</param>
/// <param name="OfPen">Whether its letters are lines, drawn by a pen.</param>
public sealed record FontMeasure(double ThinEm, double UsualEm, double ThickEm, double CapitalEm, bool OfPen)
{
    /// <summary>No font of outlines is good below this height of capitals, none of a pen below the second, mm.</summary>
    public const double SmallestOfOutlines = 6;

    /// <summary>The same for a font of a pen, mm.</summary>
    public const double SmallestOfPen = 4;

    private const string Looked = "AEHRSTaeghnost258";
    private const double Step = 0.03;
    private const double MostWidth = 0.5;

    // Outlines are measured at this many mm to the em.
    private const double Unit = 8;

    /// <summary>The smallest height of capitals at which it sews well: most strokes as wide as the narrowest satin, thin ones as wide as two threads, mm.</summary>
    public double SmallestGoodMm => OfPen
        ? SmallestOfPen
        : Math.Max(SmallestOfOutlines, CapitalEm * Math.Max(Limits.NarrowestSatin / UsualEm, Limits.ThreadWidth / ThinEm));

    /// <summary>Of a font of a pen: the height of capitals from which its lines are satin, mm.</summary>
    public double SatinFromMm => CapitalEm * StitchSettings.FinestSatin / ThinEm;

    /// <summary>The height of capitals at which its thick strokes become longer than a satin throw can be, and are sewn in rows, mm.</summary>
    public double SatinToMm => CapitalEm * Limits.LongestThrow / ThickEm;

    /// <summary>Measures a font by rays that go straight into its strokes from all along their edges.</summary>
    public static FontMeasure Of(ILetterFont font)
    {
        if (font.PenEm is { } pen) return new(pen, pen, pen, font.CapitalEm, OfPen: true);
        var widths = Looked.SelectMany(c => font.Shape(c.ToString()).Glyphs).SelectMany(g => Widths(font.Outline(g.Glyph))).Order().ToList();
        if (widths.Count == 0) widths = [.. Enumerable.Range(1, 40).SelectMany(g => Widths(font.Outline(g))).Order()];
        return widths.Count == 0 ? new(0.1, 0.1, 0.1, font.CapitalEm, OfPen: false) : new(Share(0.12), Share(0.45), Share(0.75), font.CapitalEm, OfPen: false);

        double Share(double part) => widths[(int)(part * (widths.Count - 1))];
    }

    private static IEnumerable<double> Widths(DrawnShape glyph)
    {
        var rings = Area.Of(glyph.Moved(p => p * Unit).Paths.Where(p => p.Closed).Select(p => p.Flattened()), glyph.Rule).SelectMany(a => a.Rings).Select(r => Array.ConvertAll(r, p => p / Unit)).ToList();
        var edges = rings.SelectMany(r => r.Select((p, i) => (A: p, B: r[(i + 1) % r.Length]))).ToList();
        var along = Step / 2;
        foreach (var (a, b) in edges)
        {
            // Every so far along the edges, however finely their curves are divided.
            var (length, normal) = (a.DistanceTo(b), (b - a).Unit().Normal());
            for (; along < length; along += Step)
            {
                // Of the two sides of an edge one is ink: there a ray meets an odd number of edges.
                var at = a.Toward(b, along / length);
                foreach (var way in new[] { normal, normal * -1 })
                    if (Hits(edges, at + (way * 1e-4), way) is { Count: > 0 } hits && hits.Count % 2 == 1 && hits.Min() is var width and < MostWidth)
                        yield return width;
            }

            along -= length;
        }
    }

    private static List<double> Hits(List<(Point A, Point B)> edges, Point from, Point way)
    {
        var hits = new List<double>();
        foreach (var (a, b) in edges)
        {
            var cross = way.Cross(b - a);
            if (Math.Abs(cross) < 1e-12) continue;
            var (t, u) = ((a - from).Cross(b - a) / cross, (a - from).Cross(way) / cross);
            if (t > 0 && u is >= 0 and < 1) hits.Add(t);
        }

        return hits;
    }
}
