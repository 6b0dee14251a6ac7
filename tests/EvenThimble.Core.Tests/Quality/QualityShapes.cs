using EvenThimble.Core.Digitizing.Satin;
using EvenThimble.Core.Geometry;
using EvenThimble.Core.Shapes;
using SkiaSharp;

namespace EvenThimble.Core.Tests.Quality;

/// <summary>Shapes that stitches are measured on: letters of four fonts in three sizes, plain shapes, and shapes that are hard to stitch.</summary>
public static class QualityShapes
{
    private static readonly (string Name, string File, string Letters)[] Fonts =
    [
        ("Lora", "lora/400Regular/Lora_400Regular.ttf", "RgQ&a"),
        ("Oswald", "oswald/500Medium/Oswald_500Medium.ttf", "MBS4k"),
        ("Pacifico", "pacifico/400Regular/Pacifico_400Regular.ttf", "Lefwz"),
        ("Nunito Sans", "nunito-sans/700Bold/NunitoSans_700Bold.ttf", "AX5et"),
    ];

    /// <summary>All, by name.</summary>
    public static IReadOnlyDictionary<string, Point[][]> All { get; } = Letters().Concat(Plain()).Concat(Hard()).ToDictionary(s => s.Name, s => s.Outlines);

    /// <summary>A random shape: a blob, a blob with holes, a bent stroke of changing width, a jagged polygon or a comb.</summary>
    public static Point[][] Random(int seed)
    {
        var random = new Random(seed);
        var size = 4 + (random.NextDouble() * 26);
        return random.Next(5) switch
        {
            0 => [Blob(random, size, 5 + random.Next(12))],
            1 => [Blob(random, size + 8, 7), .. Enumerable.Range(0, random.Next(1, 4)).Select(i => Moved(Outlines.Circle(new(0, 0), 0.8 + (random.NextDouble() * size * 0.08))[..^1], (i - 1) * size * 0.2, 0))],
            2 => [Stroke(random, size)],
            3 => [Jagged(random, size)],
            _ => [Comb(2 + random.Next(8), 0.8 + (random.NextDouble() * 3), 0.8 + (random.NextDouble() * 3), size, random.NextDouble() * 90)],
        };
    }

    private static IEnumerable<(string Name, Point[][] Outlines)> Letters() =>
        from font in Fonts
        from size in new[] { 8, 20, 60 }
        from letter in font.Letters
        where size != 60 || font.Letters.IndexOf(letter) < 2
        select ($"{font.Name} {letter} {size} mm", Glyph(font.File, letter, size));

    private static IEnumerable<(string Name, Point[][] Outlines)> Plain()
    {
        yield return ("disc 20 mm", [Circle(0, 0, 10)]);
        yield return ("disc 3 mm", [Circle(0, 0, 1.5)]);
        yield return ("ring 3 mm wide", [Circle(0, 0, 10), Circle(0, 0, 7)]);
        yield return ("ring 9 mm wide", [Circle(0, 0, 15), Circle(0, 0, 6)]);
        yield return ("square", [[new(-8, -8), new(8, -8), new(8, 8), new(-8, 8)]]);
        yield return ("bar 4 x 40", [[new(0, 0), new(40, 0), new(40, 4), new(0, 4)]]);
        yield return ("hairline 0.7 x 30", [[new(0, 0), new(30, 2), new(30, 2.7), new(0, 0.7)]]);
        yield return ("ellipse", [Flat(BasicShapes.Ellipse(30, 12))]);
        yield return ("heart", [Flat(BasicShapes.Heart(24, 22))]);
        yield return ("crescent", [Flat(BasicShapes.Crescent(18, 26))]);
        yield return ("star of 5", [Star(5, 15, 6)]);
        yield return ("sharp star of 9", [Star(9, 15, 4)]);
        yield return ("sharp star of 24", [Star(24, 20, 14)]);
        yield return ("frame", [[new(0, 0), new(30, 0), new(30, 20), new(0, 20)], [new(3, 3), new(27, 3), new(27, 17), new(3, 17)]]);
        yield return ("corner", [[new(0, 0), new(4, 0), new(4, 16), new(16, 16), new(16, 20), new(0, 20)]]);
        yield return ("cross", [[new(-2, -12), new(2, -12), new(2, -2), new(12, -2), new(12, 2), new(2, 2), new(2, 12), new(-2, 12), new(-2, 2), new(-12, 2), new(-12, -2), new(-2, -2)]]);
        yield return ("zigzag", [[new(0, 0), new(3, 0), new(9, 12), new(15, 0), new(18, 0), new(24, 14), new(21, 14), new(16.5, 4), new(10.5, 16), new(7.5, 16)]]);
        yield return ("key", [[.. Outlines.Arc(new(0, 0), 8, 8, 15, 345), new(30, -2), new(30, 2)]]);
        yield return ("dumbbell", [[.. Outlines.Arc(new(0, 0), 7, 7, 20, 340), .. Outlines.Arc(new(40, 0), 7, 7, 200, 520)]]);
    }

    private static IEnumerable<(string Name, Point[][] Outlines)> Hard()
    {
        yield return ("comb", [Comb(9, 2, 2, 16, 0)]);
        yield return ("fine comb", [Comb(16, 1, 0.8, 12, 30)]);
        yield return ("spiral", [Spiral(4, 1.1, 2.4)]);
        yield return ("long spiral", [Spiral(9, 0.9, 3.2)]);
        yield return ("grid of holes", [[new(-16, -16), new(16, -16), new(16, 16), new(-16, 16)], .. from i in Enumerable.Range(0, 5) from j in Enumerable.Range(0, 5) select Circle(-11 + (i * 5.5), -11 + (j * 5.5), 1.7)]);
        yield return ("sieve", [Circle(0, 0, 18), .. from i in Enumerable.Range(0, 60) select Circle(Math.Sqrt(i + 1) * 2 * Math.Cos(i * 2.4), Math.Sqrt(i + 1) * 2 * Math.Sin(i * 2.4), 0.5)]);
        yield return ("3,000 points", [Wavy(3000, 12, 0.02)]);
        yield return ("8,000 noisy points", [Wavy(8000, 20, 0.25)]);
        yield return ("bow tie that crosses itself", [[new(-12, -8), new(12, 8), new(12, -8), new(-12, 8)]]);
        yield return ("five-pointed line that crosses itself", [[.. Enumerable.Range(0, 5).Select(i => new Point(0, -14).Turned(i * 144, Point.Zero))]]);
        yield return ("squares that touch in a corner", [[new(-8, -8), new(0, -8), new(0, 0), new(-8, 0)], [new(0, 0), new(8, 0), new(8, 8), new(0, 8)]]);
        yield return ("hole that touches the edge", [[new(0, 0), new(20, 0), new(20, 16), new(0, 16)], [new(0, 8), new(6, 4), new(12, 8), new(6, 12)]]);
        yield return ("needle", [[new(0, 0), new(40, 0.6), new(40, 0.62), new(0, 3)]]);
        yield return ("nearly closed ring", [[.. Outlines.Arc(new(0, 0), 10, 10, 2, 358), .. Outlines.Arc(new(0, 0), 7, 7, 358, 2)]]);
        yield return ("doubled points", [[new(0, 0), new(0, 0), new(12, 0), new(12, 0), new(12, 0), new(12, 9), new(6, 9.0000001), new(0, 9), new(0, 9)]]);
        yield return ("spikes", [[new(0, 0), new(10, 0), new(10, -8), new(10.3, 0), new(24, 0), new(24, 6), new(14, 6), new(13.8, 15), new(13.5, 6), new(0, 6)]]);
    }

    private static Point[][] Glyph(string file, char letter, double capitalMm)
    {
        using var face = SKTypeface.FromFile(Path.Combine(MadeUp.Repository, "node_modules", "@expo-google-fonts", file)) ?? throw new FileNotFoundException($"The font {file} is missing; run npm ci.");
        using var font = new SKFont(face, 1000);
        using var capital = font.GetTextPath("H");
        var scale = capitalMm / capital.TightBounds.Height;
        using var path = font.GetTextPath(letter.ToString());
        using var simple = path.Simplify() ?? new SKPath(path);
        return OutlinesOf(simple, scale);
    }

    private static Point[][] OutlinesOf(SKPath path, double scale)
    {
        var outlines = new List<Point[]>();
        using var measure = new SKPathMeasure(path, true, 4);
        do
        {
            var length = measure.Length;
            if (length * scale < 0.2) continue;
            var count = (int)Math.Clamp(length * scale / 0.12, 24, 4000);
            outlines.Add([.. Enumerable.Range(0, count).Select(i => measure.GetPosition(length * i / count)).Select(p => new Point(p.X * scale, p.Y * scale))]);
        }
        while (measure.NextContour());
        return [.. outlines];
    }

    private static Point[] Flat(DrawnShape shape) => [.. shape.Paths[0].Flattened()];

    private static Point[] Circle(double x, double y, double radius) => Outlines.Circle(new(x, y), radius)[..^1];

    private static Point[] Star(int points, double outer, double inner) => Outlines.Star(new(0, 0), points, outer, inner)[..^1];

    private static Point[] Moved(Point[] points, double dx, double dy) => Array.ConvertAll(points, p => new Point(p.X + dx, p.Y + dy));

    private static Point[] Comb(int teeth, double tooth, double gap, double length, double turn)
    {
        var points = new List<Point> { new(0, -3) };
        for (var i = 0; i < teeth; i++)
        {
            var x = i * (tooth + gap);
            points.AddRange([new(x, 0), new(x, length), new(x + tooth, length), new(x + tooth, 0)]);
        }

        points.Add(new((teeth * (tooth + gap)) - gap, -3));
        return [.. points.Select(p => p.Turned(turn, Point.Zero))];
    }

    private static Point[] Spiral(double rounds, double rise, double width)
    {
        Point At(double a, double more) => new((3 + more + (a * rise)) * Math.Cos(a), (3 + more + (a * rise)) * Math.Sin(a));
        var angles = Enumerable.Range(0, (int)(rounds * 80) + 1).Select(i => i * 2 * Math.PI / 80).ToList();
        return [.. angles.Select(a => At(a, 0)), .. angles.AsEnumerable().Reverse().Select(a => At(a, width))];
    }

    private static Point[] Wavy(int count, double radius, double noise)
    {
        var random = new Random(7);
        return [.. Enumerable.Range(0, count).Select(i => 2 * Math.PI * i / count).Select(a => (a, R: radius + (2 * Math.Sin(5 * a)) + (noise * random.NextDouble()))).Select(p => new Point(p.R * Math.Cos(p.a), p.R * Math.Sin(p.a)))];
    }

    private static Point[] Blob(Random random, double size, int lobes)
    {
        var through = Enumerable.Range(0, lobes).Select(i => new Point(size / 2 * (0.45 + (0.55 * random.NextDouble())), 0).Turned(i * 360.0 / lobes, Point.Zero)).ToArray();
        return Flat(new([ShapePath.Through(through, closed: true, NodeKind.Smooth)]));
    }

    private static Point[] Stroke(Random random, double size)
    {
        var middle = new List<Point> { new(0, 0) };
        var direction = 0.0;
        for (var i = 0; i < 5; i++)
        {
            direction += (random.NextDouble() - 0.5) * 70;
            middle.Add(middle[^1] + new Point(size / 4, 0).Turned(direction, Point.Zero));
        }

        var smooth = Outlines.Smooth([.. middle]);
        var (from, to) = (0.5 + random.NextDouble(), 0.5 + (random.NextDouble() * Math.Min(2.5, size / 8)));
        double Half(double t) => from + ((to - from) * t);
        return [.. Polylines.Offset(smooth, Half), .. Polylines.Offset(smooth, t => -Half(t)).Reverse()];
    }

    private static Point[] Jagged(Random random, double size) =>
        [.. Enumerable.Range(0, 6 + random.Next(10)).Select(i => (i, R: size / 2 * (0.35 + (0.65 * random.NextDouble())))).ToList() is var all ? all.Select(c => new Point(c.R, 0).Turned(c.i * 360.0 / all.Count, Point.Zero)) : []];
}
