using EvenThimble.Core.Geometry;
using EvenThimble.Core.Stitches;
using SkiaSharp;

namespace EvenThimble.Core.Tests.Respacing;

/// <summary>Fills whose rows follow the edge inwards or wind in spirals, made by ways of their own: shapes drawn in by strokes of a drawing library, spirals from formulas.</summary>
internal static class RingSamples
{
    private const float Fine = 100;

    /// <summary>What is sewn, the outline of its outermost line, how far its lines lie apart, and how far from that outline the outermost line may lie because it winds, mm.</summary>
    public sealed record Sample(string Name, StitchBlob Stitches, SKPath Ground, double Spacing, double Winds = 0);

    /// <summary>Every sample.</summary>
    public static IReadOnlyList<Sample> All { get; } =
    [
        Rings("heart", Heart(14), 0.4, 2.5), Rings("large heart", Heart(24), 0.45, 3.5), Rings("heart from within", Heart(14), 0.4, 2.5, outwards: true),
        Rings("disc", Disc(15), 0.4, 2.5), Rings("ellipse", Ellipse(24, 9), 0.5, 3), Rings("star", Star(20, 9, 5), 0.4, 2), Rings("plain square", Rectangle(26, 26), 0.4, 3),
        Rings("strip", Rectangle(50, 8), 0.4, 2.5), Rings("ring", Annulus(18, 8), 0.4, 2.5), Rings("loose disc", Disc(18), 0.7, 3), Rings("clover", Clover(16), 0.4, 2.2),
        Spiral("spiral inwards", 16, 0.4, 2.5, t => 1 - t, 1), Spiral("spiral outwards", 16, 0.4, 2.5, t => t, 1), Spiral("wide spiral", 20, 0.6, 3, t => 1 - t, 1),
    ];

    /// <summary>Those that cut corners, as stitches of one length do: to be read, but the edge is not told by them.</summary>
    public static IReadOnlyList<Sample> Rough { get; } =
    [
        Rings("rough heart", Heart(14), 0.4, 2.5, rough: true), Rings("rough star", Star(20, 9, 5), 0.4, 2, rough: true), Rings("rough square", Rectangle(26, 26), 0.4, 3, rough: true),
        Spiral("flat spiral", 20, 0.4, 3, t => t, 0.5),
    ];

    private static Sample Rings(string name, SKPath shape, double spacing, double stitch, bool outwards = false, bool rough = false)
    {
        var rings = new List<List<Point>>();
        for (var k = 0; k < 200; k++)
        {
            using var inner = DrawnIn(shape, k * spacing);
            var now = Contours(inner);
            if (now.Count == 0) break;
            rings.AddRange(now);
        }

        if (outwards) rings.Reverse();
        var builder = new StitchBuilder();
        var at = rings[0][0];
        while (rings.Count > 0)
        {
            var next = outwards ? rings[0] : rings.Take(6).MinBy(r => r.Min(at.DistanceTo))!;
            rings.Remove(next);
            var start = Enumerable.Range(0, next.Count).MinBy(i => next[i].DistanceTo(at));
            List<Point> line = [.. next[start..], .. next[..start], next[start]];
            if (at.DistanceTo(line[0]) > 3) for (var s = 1; s < 6; s++) builder.Stitch(at.Toward(line[0], s / 6.0));
            builder.Stitch(line[0]);
            var corners = rough ? [0, line.Count - 1] : Corners(line);
            for (var c = 1; c < corners.Count; c++)
            {
                var piece = line[corners[c - 1]..(corners[c] + 1)];
                var length = Enumerable.Range(1, piece.Count - 1).Sum(i => piece[i].DistanceTo(piece[i - 1]));
                var count = Math.Max(rough ? 3 : 1, (int)Math.Round(length / stitch));
                for (var s = 1; s <= count; s++) builder.Stitch(Along(piece, length * s / count));
            }

            at = line[^1];
        }

        return new(name, builder.ToBlob(), shape, spacing);
    }

    private static Sample Spiral(string name, double radius, double spacing, double stitch, Func<double, double> outward, double flat)
    {
        // Each turn lies one distance farther out, on a flat one across its narrow side.
        var (builder, turns) = (new StitchBuilder(), radius * flat / spacing);
        var last = new Point(1e9, 0);
        for (var t = 0.0; t <= 1; t += 0.00001)
        {
            var (r, turn) = (outward(t), outward(t) * turns * 2 * Math.PI);
            var p = new Point(radius * r * Math.Cos(turn), radius * flat * r * Math.Sin(turn));
            if (p.DistanceTo(last) < Math.Min(stitch, 0.5 + (1.2 * r * radius * flat / 4))) continue;
            builder.Stitch(p);
            last = p;
        }

        return new(name, builder.ToBlob(), Ellipse(radius, radius * flat), spacing, 1.5 * spacing);
    }

    private static Point Along(List<Point> line, double at)
    {
        for (var i = 1; i < line.Count; i++)
        {
            var step = line[i].DistanceTo(line[i - 1]);
            if (at <= step && step > 0) return line[i - 1].Toward(line[i], at / step);
            at -= step;
        }

        return line[^1];
    }

    /// <summary>Where a finely divided ring turns sharply, its ends included.</summary>
    private static List<int> Corners(List<Point> line)
    {
        const int look = 3;
        double Turn(int i)
        {
            var (a, b) = (line[i] - line[i - look], line[i + look] - line[i]);
            return Math.Abs(Math.Atan2(a.Cross(b), a.Dot(b)));
        }

        List<int> corners = [0];
        for (var i = look; i < line.Count - look; i++)
        {
            if (Turn(i) < 0.6 || i - corners[^1] < look) continue;
            while (i + 1 < line.Count - look && Turn(i + 1) > Turn(i)) i++;
            corners.Add(i);
        }

        corners.Add(line.Count - 1);
        return corners;
    }

    /// <summary>A shape drawn in by a distance.</summary>
    public static SKPath Inside(SKPath shape, double by)
    {
        var inside = DrawnIn(shape, by);
        inside.Transform(SKMatrix.CreateScale(1 / Fine, 1 / Fine));
        return inside;
    }

    private static SKPath DrawnIn(SKPath shape, double by)
    {
        using var large = new SKPath(shape);
        large.Transform(SKMatrix.CreateScale(Fine, Fine));
        if (by == 0) return large.Simplify();
        using var pen = new SKPaint { Style = SKPaintStyle.Stroke, StrokeWidth = (float)(2 * by * Fine), StrokeJoin = SKStrokeJoin.Round };
        using var edge = pen.GetFillPath(large)!;
        return large.Op(edge, SKPathOp.Difference) ?? new SKPath();
    }

    private static List<List<Point>> Contours(SKPath path)
    {
        var found = new List<List<Point>>();
        using var measure = new SKPathMeasure(path, true, 1);
        do
        {
            var points = new List<Point>();
            for (var at = 0f; at < measure.Length; at += 0.15f * Fine)
                if (measure.GetPosition(at, out var p))
                    points.Add(new(p.X / Fine, p.Y / Fine));
            if (points.Count > 8 && measure.Length > 1.2 * Fine) found.Add(points);
        }
        while (measure.NextContour());
        return [.. found.Select(r => Area(r) < 0 ? r.AsEnumerable().Reverse().ToList() : r)];
    }

    private static double Area(List<Point> ring) => Enumerable.Range(0, ring.Count).Sum(i => ring[i].Cross(ring[(i + 1) % ring.Count]));

    private static SKPath Of(IEnumerable<(double X, double Y)> points)
    {
        using var builder = new SKPathBuilder();
        builder.AddPoly([.. points.Select(p => new SKPoint((float)p.X, (float)p.Y))], true);
        return builder.Detach();
    }

    private static IEnumerable<double> Turn(int count) => Enumerable.Range(0, count).Select(i => i * 2 * Math.PI / count);

    private static SKPath Ellipse(double a, double b) => Of(Turn(180).Select(t => (a * Math.Cos(t), b * Math.Sin(t))));

    private static SKPath Disc(double r) => Ellipse(r, r);

    private static SKPath Heart(double size) => Of(Turn(240).Select(t => (size * Math.Pow(Math.Sin(t), 3), -size / 16 * ((13 * Math.Cos(t)) - (5 * Math.Cos(2 * t)) - (2 * Math.Cos(3 * t)) - Math.Cos(4 * t)))));

    private static SKPath Clover(double size) => Of(Turn(360).Select(t => (R: size * (0.72 + (0.28 * Math.Cos(4 * t))), T: t)).Select(p => (p.R * Math.Cos(p.T), p.R * Math.Sin(p.T))));

    private static SKPath Star(double outer, double inner, int points) => Of(Enumerable.Range(0, 2 * points).Select(i => (R: i % 2 == 0 ? outer : inner, T: i * Math.PI / points)).Select(p => (p.R * Math.Cos(p.T), p.R * Math.Sin(p.T))));

    private static SKPath Rectangle(double width, double height) => Of([(-width / 2, -height / 2), (width / 2, -height / 2), (width / 2, height / 2), (-width / 2, height / 2)]);

    private static SKPath Annulus(double outer, double inner) => Disc(outer).Op(Disc(inner), SKPathOp.Difference);
}
