using EvenThimble.Core.Geometry;
using EvenThimble.Core.Recognition;
using EvenThimble.Core.Respacing;
using EvenThimble.Core.Stitches;
using Shouldly;
using SkiaSharp;
using Xunit;

namespace EvenThimble.Core.Tests.Respacing;

/// <summary>Fills in rings that others made are read as such and keep their spacing, their edge and their cover at other sizes; measured on pictures drawn here.</summary>
public class RingFillTests
{
    private const float PixelsPerMm = 12;

    public static TheoryData<string> Ways() => ["plain", "tenths", "noise", "turned"];

    [Theory]
    [MemberData(nameof(Ways))]
    public void They_are_read_as_fills_in_rings(string how)
    {
        var wrong = new List<string>();
        foreach (var sample in RingSamples.All.Concat(RingSamples.Rough))
        {
            var read = ReadStitches.Of(BoughtStitches.Damaged(sample.Stitches, how));
            var (right, all) = (read.Passages.Where(p => p.InRings && p.Confidence >= Passage.Sure).Sum(p => p.Stitches), read.Passages.Sum(p => p.Stitches));
            if (right < 0.97 * all || sample.Name != "flat spiral" && Math.Abs(read.SpacingMm - sample.Spacing) > 0.1 * sample.Spacing)
                wrong.Add($"{sample.Name}: {100.0 * right / all:0.0} % of {all}, spacing {read.SpacingMm:0.00} of {sample.Spacing}: {string.Join(", ", read.Passages.Select(p => $"{p.Kind} {p.Stitches} {p.Confidence:0.00}"))}");
        }

        wrong.ShouldBeEmpty();
    }

    [Fact]
    public void What_goes_to_and_fro_is_none()
    {
        foreach (var sample in BoughtStitches.All) ReadStitches.Of(sample.Stitches).Passages.ShouldNotContain(p => p.InRings, sample.Name);
    }

    /// <summary>Rows that bend, sewn to and fro, and spokes from the middle of a disc and back.</summary>
    internal static IEnumerable<(string Name, StitchBlob Stitches)> NotStraight()
    {
        foreach (var (name, bend) in new[] { ("bowed rows", 4.0), ("wavy rows", -2.0) })
        {
            var rows = new StitchBuilder();
            for (var k = 0; k <= 60; k++)
            {
                for (var s = 0; s <= 16; s++)
                {
                    var x = 40 * (((k % 2 == 0 ? s : 16 - s) / 16.0) - 0.5);
                    rows.Stitch(new(x, (0.4 * k) + (bend > 0 ? bend * (1 - (x * x / 400)) : bend * Math.Sin(x / 3))));
                }
            }

            yield return (name, rows.ToBlob());
        }

        foreach (var inner in new[] { 0.1, 1.0 })
        {
            var spokes = new StitchBuilder();
            for (var k = 0; k <= 300; k++)
            {
                var way = new Point(Math.Cos(k * 2 * Math.PI / 300), Math.Sin(k * 2 * Math.PI / 300));
                spokes.Stitch(way * (k % 2 == 0 ? inner : 15));
                spokes.Stitch(way * 7.5);
                spokes.Stitch(way * (k % 2 == 0 ? 15 : inner));
            }

            yield return ($"spokes from {inner}", spokes.ToBlob());
        }
    }

    [Theory]
    [MemberData(nameof(Ways))]
    public void Rows_that_bend_or_fan_out_are_read_as_fill(string how)
    {
        foreach (var (name, stitches) in NotStraight())
        {
            var read = ReadStitches.Of(BoughtStitches.Damaged(stitches, how));
            var right = read.Passages.Where(p => p.Confidence >= Passage.Sure && p.Kind == PassageKind.Fill).Sum(p => p.Stitches);
            right.ShouldBeGreaterThan((int)(0.96 * stitches.Count), $"{name}: {string.Join(", ", read.Passages.Select(p => $"{p.Kind} {p.Stitches} {p.Confidence:0.00}"))}");
        }
    }

    [Theory]
    [InlineData(0.5)]
    [InlineData(0.85)]
    [InlineData(1.5)]
    [InlineData(2.0)]
    public void Rows_that_bend_or_fan_out_keep_their_density_and_their_shape(double scale)
    {
        foreach (var (name, stitches) in NotStraight())
        {
            var made = Respacer.Make(ReadStitches.Of(stitches), new(scale, scale), default);
            (StitchLook.Thread(made) / StitchLook.Thread(stitches) / (scale * scale)).ShouldBe(1, 0.1, $"{name}");
            var (was, now) = (Designs.Scaled(stitches.BoundsOf(0, stitches.Count), scale), made.BoundsOf(0, made.Count));
            foreach (var (a, b) in new[] { (was.MinX, now.MinX), (was.MinY, now.MinY), (was.MaxX, now.MaxX), (was.MaxY, now.MaxY) }) Math.Abs(a - b).ShouldBeLessThan(0.4, name);
        }
    }

    [Fact]
    public void What_is_not_understood_is_warned_of_and_has_no_spacing()
    {
        // Dense scribble: lines close beside each other in no order.
        var random = new Random(3);
        var scribble = new StitchBuilder();
        for (var k = 0; k < 600; k++) scribble.Stitch(new((4 * Math.Sin(k * 0.7)) + random.NextDouble(), (3 * Math.Cos(k * 1.13)) + random.NextDouble()));
        var read = ReadStitches.Of(scribble.ToBlob());
        read.NotUnderstood.ShouldBeGreaterThan(0.5);
        ResizeWarning.For(read, new Sizing(2, 2), new Rework()).ShouldContain(w => w.Serious && w.Says.Contains("not understood"));
        read.SpacingMm.ShouldBe(0);
        Respacer.Make(read, Sizing.Original, new Rework { SpacingTimes = 1.3 }).Hash.ShouldBe(scribble.ToBlob().Hash);
    }

    public static TheoryData<double, double> Sizes() => new() { { 0.5, 1 }, { 0.7, 1 }, { 0.85, 1 }, { 1.2, 1 }, { 1.6, 1 }, { 2.0, 1 }, { 1, 0.75 }, { 1, 1.35 } };

    /// <summary>What is compared with, measured once for all sizes: thread for each mm², thread beyond the edge and short of it (mm), the largest hole (mm²) and the bare share.</summary>
    private static readonly Lazy<List<(RingSamples.Sample Sample, double Dense, (double Beyond, double Missed) Edge, (double Hole, double Bare) Bare)>> AsTheyCame = new(() =>
        [.. RingSamples.All.Select(s =>
        {
            using var inside = RingSamples.Inside(s.Ground, s.Winds);
            return (s, StitchLook.Thread(s.Stitches) / Square(s.Ground), Edge(s.Stitches, s.Ground), Bare(s.Stitches, inside, s.Spacing * 1.1));
        })]);

    [Theory]
    [MemberData(nameof(Sizes))]
    public void Their_density_their_edge_and_their_cover_stay(double scale, double lighter)
    {
        var wrong = new List<string>();
        // Half of the samples at each size, the others at the next.
        var turn = (int)Math.Round((scale * 20) + (lighter * 20)) / 3;
        foreach (var (sample, denseBefore, (beyondBefore, missedBefore), (holeBefore, bareBefore)) in AsTheyCame.Value.Where((_, i) => (i + turn) % 2 == 0))
        {
            var made = Respacer.Make(ReadStitches.Of(sample.Stitches), new Sizing(scale, scale), new Rework { SpacingTimes = lighter });
            using var ground = new SKPath(sample.Ground);
            ground.Transform(SKMatrix.CreateScale((float)scale, (float)scale));
            var spacing = sample.Spacing * lighter;

            // Thread for each square millimetre, ways between branches included, where there is room for more than a few lines.
            var dense = StitchLook.Thread(made) / Square(ground) / (denseBefore / lighter);
            if (Math.Sqrt(Square(ground)) > 14 && Math.Abs(dense - 1) > 0.14) wrong.Add($"{sample.Name}: {dense:0.00} times as dense");

            // How far off it is as it came grows with it.
            var (beyond, missed) = Edge(made, ground);
            if (beyond > 0.3 + (scale * beyondBefore) || missed > 0.5 + (scale * (missedBefore + sample.Winds))) wrong.Add($"{sample.Name}: {beyond:0.00} mm beyond, {missed:0.00} mm short of the edge");

            // Thread a tenth wider than the lines lie apart, and never thinner than it is.
            using var inside = RingSamples.Inside(ground, sample.Winds * scale);
            var (hole, bare) = Bare(made, inside, Math.Max(0.4, spacing * 1.1));
            if (hole > 0.3 + (holeBefore * Math.Max(1, scale * scale)) || bare > 0.005 + (bareBefore / Math.Min(1, scale))) wrong.Add($"{sample.Name}: a hole of {hole:0.00} mm² (before {holeBefore:0.00}), {bare * 100:0.00} % bare (before {bareBefore * 100:0.00})");
            for (var i = 1; i < made.Count; i++)
                if (made.Kinds[i] == StitchKind.Stitch && made.Kinds[i - 1] == StitchKind.Stitch && made.At(i).DistanceTo(made.At(i - 1)) > 7)
                    wrong.Add($"{sample.Name}: a stitch of {made.At(i).DistanceTo(made.At(i - 1)):0.0} mm");
        }

        wrong.ShouldBeEmpty();
    }

    [Fact]
    public void At_their_own_size_nothing_is_made_anew()
    {
        foreach (var sample in RingSamples.All) Respacer.Make(ReadStitches.Of(sample.Stitches), new Sizing(1, 1), new Rework()).Hash.ShouldBe(sample.Stitches.Hash, sample.Name);
    }

    private static double Square(SKPath path) => Pixels(path, (canvas, paint) => canvas.DrawPath(path, paint)).Count(p => p) / (double)(PixelsPerMm * PixelsPerMm);

    private static bool[] Pixels(SKPath about, Action<SKCanvas, SKPaint> draw)
    {
        var box = about.TightBounds;
        using var bitmap = new SKBitmap((int)((box.Width + 6) * PixelsPerMm), (int)((box.Height + 6) * PixelsPerMm));
        using var canvas = new SKCanvas(bitmap);
        canvas.Clear(SKColors.White);
        canvas.Scale(PixelsPerMm);
        canvas.Translate(3 - box.Left, 3 - box.Top);
        using var paint = new SKPaint { Color = SKColors.Black };
        draw(canvas, paint);
        canvas.Flush();
        return [.. bitmap.Pixels.Select(p => p != SKColors.White)];
    }

    private static void Sew(SKCanvas canvas, SKPaint paint, StitchBlob blob, double width)
    {
        (paint.Style, paint.StrokeWidth, paint.StrokeCap) = (SKPaintStyle.Stroke, (float)width, SKStrokeCap.Round);
        for (var i = 1; i < blob.Count; i++)
            if (blob.Kinds[i] == StitchKind.Stitch && blob.Kinds[i - 1] == StitchKind.Stitch)
                canvas.DrawLine((float)blob.At(i - 1).X, (float)blob.At(i - 1).Y, (float)blob.At(i).X, (float)blob.At(i).Y, paint);
    }

    /// <summary>The largest place that thread leaves bare, mm², and the part of the ground that is bare, pixels at its very edge aside.</summary>
    private static (double Largest, double Share) Bare(StitchBlob blob, SKPath ground, double thread)
    {
        var width = (int)((ground.TightBounds.Width + 6) * PixelsPerMm);
        var sewn = Pixels(ground, (canvas, paint) => Sew(canvas, paint, blob, thread));
        var inside = Pixels(ground, (canvas, paint) => canvas.DrawPath(ground, paint));
        var bare = sewn.Zip(inside, (s, i) => i && !s).ToArray();
        var (all, largest) = (bare.Count(b => b), 0);
        for (var i = 0; i < bare.Length; i++)
        {
            if (!bare[i]) continue;
            var patch = new List<int> { i };
            bare[i] = false;
            for (var k = 0; k < patch.Count; k++)
                foreach (var n in new[] { patch[k] - 1, patch[k] + 1, patch[k] - width, patch[k] + width })
                    if (n >= 0 && n < bare.Length && bare[n])
                    {
                        bare[n] = false;
                        patch.Add(n);
                    }

            largest = Math.Max(largest, patch.Count);
        }

        return (largest / (double)(PixelsPerMm * PixelsPerMm), all / (double)inside.Count(i => i));
    }

    /// <summary>How far thread lies beyond the edge of the outermost line, and how far some place of that edge lies from any thread, mm.</summary>
    private static (double Beyond, double Missed) Edge(StitchBlob blob, SKPath ground)
    {
        using var measure = new SKPathMeasure(ground, true, 20);
        var edge = new List<Point>();
        do
        {
            for (var at = 0f; at < measure.Length; at += 0.2f)
                if (measure.GetPosition(at, out var p))
                    edge.Add(new(p.X, p.Y));
        }
        while (measure.NextContour());
        var sewn = Enumerable.Range(1, blob.Count - 1).Where(i => blob.Kinds[i] == StitchKind.Stitch && blob.Kinds[i - 1] == StitchKind.Stitch).SelectMany(i => Enumerable.Range(0, 12).Select(k => blob.At(i - 1).Toward(blob.At(i), k / 12.0))).ToList();
        var beyond = sewn.Where(p => !ground.Contains((float)p.X, (float)p.Y)).Select(p => edge.Min(p.DistanceTo)).DefaultIfEmpty(0).Max();
        var lines = sewn.ToLookup(p => ((int)Math.Floor(p.X), (int)Math.Floor(p.Y)));
        double Far(Point p) => Enumerable.Range(-1, 3).SelectMany(x => Enumerable.Range(-1, 3).SelectMany(y => lines[((int)Math.Floor(p.X) + x, (int)Math.Floor(p.Y) + y)])).Select(p.DistanceTo).DefaultIfEmpty(9).Min();
        return (beyond, edge.Max(Far));
    }

    [Theory]
    [InlineData(0.7)]
    [InlineData(1.2)]
    [InlineData(2.0)]
    public void A_flat_spiral_whose_lines_lie_nearer_on_one_side_keeps_its_thread(double scale)
    {
        var spiral = RingSamples.Rough.First(s => s.Name == "flat spiral").Stitches;
        var made = Respacer.Make(ReadStitches.Of(spiral), new(scale, scale), default);
        (StitchLook.Thread(made) / StitchLook.Thread(spiral) / (scale * scale)).ShouldBe(1, 0.1);
    }
}
