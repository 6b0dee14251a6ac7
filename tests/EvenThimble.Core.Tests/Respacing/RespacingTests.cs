using EvenThimble.Core.Digitizing;
using EvenThimble.Core.Digitizing.Fill;
using EvenThimble.Core.Digitizing.Lines;
using EvenThimble.Core.Digitizing.Satin;
using EvenThimble.Core.Formats;
using EvenThimble.Core.Geometry;
using EvenThimble.Core.Recognition;
using EvenThimble.Core.Respacing;
using EvenThimble.Core.Scenario;
using EvenThimble.Core.Stitches;
using Shouldly;
using Xunit;

namespace EvenThimble.Core.Tests.Respacing;

public class RespacingTests
{
    public static readonly double[] Scales = [0.6, 0.8, 1.25, 1.5, 2.0];

    public static TheoryData<int, double> DesignsAndScales()
    {
        var data = new TheoryData<int, double>();
        for (var design = 0; design < DemoDesigns.All.Count; design++)
            foreach (var scale in Scales)
                data.Add(design, scale);
        return data;
    }

    private static readonly Dictionary<int, StitchFile> Drawn = [];

    private static StitchFile Design(int number)
    {
        lock (Drawn) return Drawn.TryGetValue(number, out var made) ? made : Drawn[number] = DemoDesigns.All[number].Draw();
    }

    private static StitchBlob At(StitchBlob blob, double scale) => Respacer.Make(ReadStitches.Of(blob), new(scale, scale), default);

    [Theory]
    [MemberData(nameof(DesignsAndScales))]
    public void A_design_looks_the_same_at_another_size(int number, double scale)
    {
        var design = Design(number);
        var was = design.Bounds;
        var box = Scaled(was, scale);
        if (box.Width * box.Height > 60_000) return; // larger than a jacket's back: its parts are like those of the smaller designs
        var made = At(design.Stitches, scale);
        var (before, after) = (Worn.Picture(design.Stitches, box, scale, threadGrows: scale > 1), Worn.Picture(made, box));
        Worn.SamePixels(before, after).ShouldBeGreaterThan(0.97);

        // Lines do not get thicker; where there are hardly any, what is covered is nearly the same by itself.
        if (!design.Title.StartsWith("Crescent", StringComparison.Ordinal)) Worn.Alike(before, after).ShouldBeGreaterThan(0.965);
        var lengths = Worn.LengthsWithoutTies(made);
        (lengths.Count(l => l < 0.4 - 1e-9) / (double)lengths.Count).ShouldBeLessThan(0.01);
        lengths.Max().ShouldBeLessThan(12.1);
    }

    private static Box Scaled(Box was, double scale) => new(was.MinX * scale, was.MinY * scale, was.MaxX * scale, was.MaxY * scale);

    [Theory]
    [InlineData(0.6)]
    [InlineData(0.8)]
    [InlineData(1.25)]
    [InlineData(1.5)]
    [InlineData(2.0)]
    public void Rows_and_throws_keep_their_spacing_and_their_edges(double scale)
    {
        var (fill, satin) = (Stitched(FillSewing.Sew(Area.Of([Shapes.Circle(new(3, 4), 22)])[0], new RowFill(0) { Compensation = 0.2 }, [])), Stitched(SatinRails.Throws([.. Line(0, 0, 60, 0)], [.. Line(0, 5, 60, 5)], new(0.4, 0))));
        foreach (var (blob, from, to, grows) in new[] { (fill, new Point(3, -14), new Point(3, 22), 2), (satin, new Point(2, 2.5), new Point(58, 2.5), 1) })
        {
            var made = At(blob, scale);
            var (before, after) = (Worn.UsualSpacing(blob, from, to), Worn.UsualSpacing(made, from * scale, to * scale));
            (after / before).ShouldBeInRange(0.9, 1.1);
            var was = blob.BoundsOf(0, blob.Count);
            var box = Scaled(was, scale);
            var now = made.BoundsOf(0, made.Count);
            foreach (var (a, b) in new[] { (box.MinX, now.MinX), (box.MinY, now.MinY), (box.MaxX, now.MaxX), (box.MaxY, now.MaxY) }) Math.Abs(a - b).ShouldBeLessThan(0.3);

            // A satin of 5 mm is split beyond 7 mm, which adds needle points but no throws.
            var count = made.CountOf(StitchKind.Stitch) / (double)blob.CountOf(StitchKind.Stitch);
            if (grows == 2 || 5 * scale < Craft.LongestThrow) (count / Math.Pow(scale, grows)).ShouldBeInRange(0.85, 1.15);
        }
    }

    [Theory]
    [MemberData(nameof(DesignsAndScales))]
    public void Edges_stay_where_the_scaled_edges_are(int number, double scale)
    {
        if (scale is not (0.6 or 1.5)) return;
        var design = Design(number);
        foreach (var part in design.Parts.Take(4))
        {
            var blob = design.Stitches.Cut(part.First, part.Count);
            var read = ReadStitches.Of(blob);
            if (read.Passages.Where(p => p.IsDense).Sum(p => p.Stitches) < 0.6 * blob.Count) continue; // lines and wide zigzags have no edge
            var box = Scaled(blob.BoundsOf(0, blob.Count), scale);
            if (box.Width * box.Height > 20_000) continue;
            Worn.EdgeError(Worn.Picture(blob, box, scale), Worn.Picture(At(blob, scale), box), box).ShouldBeLessThanOrEqualTo(0.3, $"{design.Title}, {part.Thread.Name} at {scale}");
        }
    }

    [Theory]
    [InlineData(0.6)]
    [InlineData(0.8)]
    [InlineData(1.25)]
    [InlineData(1.5)]
    [InlineData(2.0)]
    public void Rows_and_throws_of_every_design_stay_as_close(double scale)
    {
        // As much thread on the same area: its length follows the square of the scale.
        var off = new List<string>();
        var parts = 0;
        foreach (var (design, part) in Enumerable.Range(0, DemoDesigns.All.Count).Select(Design).SelectMany(d => d.Parts.Select(p => (d, p))))
        {
            var blob = design.Stitches.Cut(part.First, part.Count);
            if (StitchReader.Read(blob).Where(p => p.IsDense).Sum(p => p.Stitches) < 0.6 * blob.Count) continue;
            parts++;
            if (Dense(At(blob, scale)) / Dense(blob) / (scale * scale) is var times && times is < 0.9 or > 1.1) off.Add($"{design.Title}, {part.Thread.Name}: {times:0.00}");
        }

        // Stars of two or three millimetres are lines rather than satin below their size.
        parts.ShouldBeGreaterThan(35);
        off.Count.ShouldBeLessThanOrEqualTo(scale < 1 ? 2 : 0, string.Join("; ", off));

        static double Dense(StitchBlob blob) => StitchReader.Read(blob).Where(p => p.IsDense)
            .Sum(p => Enumerable.Range(p.First, p.Stitches).Sum(i => blob.At(i).DistanceTo(blob.At(i + 1))));
    }

    [Fact]
    public void At_its_own_size_nothing_is_made_anew()
    {
        foreach (var design in Enumerable.Range(0, DemoDesigns.All.Count).Select(Design))
            Respacer.Make(ReadStitches.Of(design.Stitches), Sizing.Original, default).ShouldBeSameAs(design.Stitches);
    }

    [Fact]
    public void The_same_stitches_come_out_every_time()
    {
        var blob = Design(0).Stitches;
        At(blob, 1.3).Hash.ShouldBe(At(blob, 1.3).Hash);
    }

    [Theory]
    [InlineData(0.7)]
    [InlineData(1.4)]
    [InlineData(2.0)]
    public void Lighter_and_heavier_keep_the_edges(double times)
    {
        var blob = Stitched(FillSewing.Sew(Area.Of([[new(0, 0), new(40, 0), new(40, 30), new(0, 30)]])[0], new RowFill(0), []));
        var made = Respacer.Make(ReadStitches.Of(blob), Sizing.Original, new() { Spacing = times });
        (Worn.UsualSpacing(made, new(20, 1), new(20, 29)) / Worn.UsualSpacing(blob, new(20, 1), new(20, 29))).ShouldBe(times, times * 0.1);
        var (a, b) = (blob.BoundsOf(0, blob.Count), made.BoundsOf(0, made.Count));
        Math.Abs(a.Width - b.Width).ShouldBeLessThan(0.3);
        Math.Abs(a.Height - b.Height).ShouldBeLessThan(0.5);
    }

    [Fact]
    public void Without_its_underlay_a_part_looks_the_same()
    {
        var (under, gone) = (0, 0);
        foreach (var (design, part) in Enumerable.Range(0, 6).Select(Design).SelectMany(d => d.Parts.Select(p => (d, p))))
        {
            var blob = design.Stitches.Cut(part.First, part.Count);
            var read = ReadStitches.Of(blob);
            var made = Respacer.Make(read, Sizing.Original, new() { WithoutUnderlay = true });
            (under, gone) = (under + read.Under, gone + blob.CountOf(StitchKind.Stitch) - made.CountOf(StitchKind.Stitch));
            var box = blob.BoundsOf(0, blob.Count);
            if (box.Width * box.Height > 30_000) continue;
            Worn.Alike(Worn.Picture(blob, box), Worn.Picture(made, box)).ShouldBeGreaterThan(0.96, $"{design.Title}, {part.Thread.Name}");
        }

        // Ways that lead from section to section stay.
        (gone / (double)under).ShouldBeGreaterThan(0.6);
    }

    [Fact]
    public void Short_stitches_go_and_ties_stay()
    {
        var run = Enumerable.Range(0, 60).Select(i => new Point(i * (i % 5 == 0 ? 0.99 : 1), 0)).ToList();
        var builder = new StitchBuilder();
        Tied.Add(builder, [new(-6, 0), new(-3, 0), .. run.SelectMany(p => new[] { p, p + new Point(0.2, 0) }), new(63, 0), new(66, 0)]);
        var made = Respacer.Make(ReadStitches.Of(builder.ToBlob()), Sizing.Original, new() { ShorterThan = 0.5 });
        Worn.LengthsWithoutTies(made).Min().ShouldBeGreaterThanOrEqualTo(0.5);
        Worn.Stitches(made).Take(4).ShouldAllBe(s => s.A.DistanceTo(s.B) < 0.75);
        made.At(1).DistanceTo(new(-6, 0)).ShouldBeLessThan(0.01);
    }

    [Fact]
    public void Stretched_every_stitch_is_kept()
    {
        var blob = Design(0).Stitches;
        var made = Respacer.Make(ReadStitches.Of(blob), new(0.5, 2, 0.1), new() { Mode = ResizeMode.Stretch });
        made.Count.ShouldBe(blob.Count);
        made.At(200).ShouldBe(new((0.5 * blob.At(200).X) + (0.1 * blob.At(200).Y), 2 * blob.At(200).Y));
    }

    [Fact]
    public void A_triple_run_stays_one()
    {
        var blob = Stitched(RunLine.Tripled(RunLine.Along(Shapes.Circle(Point.Zero, 20))));
        var made = At(blob, 1.5);
        var read = ReadStitches.Of(made);
        read.Passages.ShouldContain(p => p.Kind == PassageKind.TripleRun);
        (made.Count / (double)blob.Count).ShouldBeInRange(1.35, 1.65);
    }

    [Fact]
    public void Warnings_come_where_a_size_would_spoil_the_work()
    {
        var read = ReadStitches.Of(Stitched(SatinRails.Throws([.. Line(0, 0, 40, 0)], [.. Line(0, 1.2, 40, 1.2)], new(0.4, 0))));
        ResizeWarning.For(read, Sizing.Original, default).ShouldBeEmpty();
        ResizeWarning.For(read, new(1.1, 1.1), default).ShouldBeEmpty();
        ResizeWarning.For(read, new(0.75, 0.75), new() { Mode = ResizeMode.Stretch }).ShouldContain(w => w.Says.Contains("Re-space it"));
        ResizeWarning.For(read, new(0.5, 0.5), default).ShouldContain(w => w.Serious && w.At != null && w.Says.Contains("narrower than a needle"));
        ResizeWarning.For(read, new(1.4, 1.4), default).ShouldHaveSingleItem().Says.ShouldContain("140 %");
    }

    private static IEnumerable<Point> Line(double x0, double y0, double x1, double y1) => Enumerable.Range(0, 31).Select(i => new Point(x0, y0).Toward(new(x1, y1), i / 30.0));

    private static StitchBlob Stitched(List<Point> run)
    {
        var builder = new StitchBuilder();
        Tied.Add(builder, run);
        return builder.ToBlob();
    }
}
