using EvenThimble.Core.Craft;
using EvenThimble.Core.Digitizing;
using EvenThimble.Core.Digitizing.Fill;
using EvenThimble.Core.Digitizing.Lines;
using EvenThimble.Core.Digitizing.Satin;
using EvenThimble.Core.Geometry;
using EvenThimble.Core.Recognition;
using EvenThimble.Core.Respacing;
using EvenThimble.Core.Shapes;
using EvenThimble.Core.Stitches;
using Shouldly;
using Xunit;

namespace EvenThimble.Core.Tests.Respacing;

public class RespacingTests
{
    private static StitchBlob At(StitchBlob blob, double scale) => Respacer.Make(ReadStitches.Of(blob), new(scale, scale), default);

    [Theory]
    [InlineData(0.6)]
    [InlineData(0.8)]
    [InlineData(1.25)]
    [InlineData(1.5)]
    [InlineData(2.0)]
    public void Rows_and_throws_keep_their_spacing_and_their_edges(double scale)
    {
        var (fill, satin) = (Stitched(FillSewing.Sew(Area.Of([Outlines.Circle(new(3, 4), 22)])[0], new RowFill(0) { CompensationMm = 0.2 }, [])), Stitched(SatinRails.Throws([.. Line(0, 0, 60, 0)], [.. Line(0, 5, 60, 5)], new(0.4, 0))));
        foreach (var (blob, from, to, grows) in new[] { (fill, new Point(3, -14), new Point(3, 22), 2), (satin, new Point(2, 2.5), new Point(58, 2.5), 1) })
        {
            var made = At(blob, scale);
            var (before, after) = (StitchLook.UsualSpacing(blob, from, to), StitchLook.UsualSpacing(made, from * scale, to * scale));
            (after / before).ShouldBeInRange(0.9, 1.1);
            var box = Designs.Scaled(blob.BoundsOf(0, blob.Count), scale);
            var now = made.BoundsOf(0, made.Count);
            foreach (var (a, b) in new[] { (box.MinX, now.MinX), (box.MinY, now.MinY), (box.MaxX, now.MaxX), (box.MaxY, now.MaxY) }) Math.Abs(a - b).ShouldBeLessThan(0.3);

            // A satin of 5 mm is split beyond 7 mm, which adds needle points but no throws.
            var count = made.CountOf(StitchKind.Stitch) / (double)blob.CountOf(StitchKind.Stitch);
            if (grows == 2 || 5 * scale < Limits.LongestThrow) (count / Math.Pow(scale, grows)).ShouldBeInRange(0.85, 1.15);
        }
    }

    [Theory]
    [InlineData(0.7)]
    [InlineData(1.4)]
    [InlineData(2.0)]
    public void Lighter_and_heavier_keep_the_edges(double times)
    {
        var blob = Stitched(FillSewing.Sew(Area.Of([[new(0, 0), new(40, 0), new(40, 30), new(0, 30)]])[0], new RowFill(0), []));
        var made = Respacer.Make(ReadStitches.Of(blob), Sizing.Original, new() { SpacingTimes = times });
        (StitchLook.UsualSpacing(made, new(20, 1), new(20, 29)) / StitchLook.UsualSpacing(blob, new(20, 1), new(20, 29))).ShouldBe(times, times * 0.1);
        var (a, b) = (blob.BoundsOf(0, blob.Count), made.BoundsOf(0, made.Count));
        Math.Abs(a.Width - b.Width).ShouldBeLessThan(0.3);
        Math.Abs(a.Height - b.Height).ShouldBeLessThan(0.5);
    }

    [Theory]
    [InlineData(0.8, 1.0)]
    [InlineData(1.5, 1.0)]
    [InlineData(1.0, 2.0)]
    [InlineData(1.0, 0.7)]
    public void No_furrow_opens_where_needle_points_of_rows_would_come_beside_each_other(double scale, double lighter)
    {
        // Rows shifted by half a stitch: at any size and spacing the next row's points lie far from this one's.
        var rows = new StitchBuilder();
        for (var k = 0; k < 60; k++)
            foreach (var x in Enumerable.Range(-1, 14).Select(n => (n * 4.0) + (k % 2 * 2)).Where(x => x is > 1 and < 39).Prepend(0).Append(40).OrderBy(x => k % 2 == 0 ? x : -x))
                rows.Stitch(new(x, k * 0.4));
        var made = Respacer.Make(ReadStitches.Of(rows.ToBlob()), new(scale, scale), new() { SpacingTimes = lighter });
        var points = Enumerable.Range(0, made.Count).Select(made.At).Where(p => p.X > 5 && p.X < (40 * scale) - 5).ToList();
        var beside = points.Count(p => points.Any(q => Math.Abs(q.X - p.X) < 0.5 && q.Y - p.Y > 0.1 && q.Y - p.Y < 0.5 * lighter));
        (beside / (double)points.Count).ShouldBeLessThan(0.1);
    }

    [Fact]
    public void Without_its_underlay_a_part_looks_the_same()
    {
        var (under, gone) = (0, 0);
        foreach (var (design, part) in Enumerable.Range(0, 6).Select(Designs.Drawn).SelectMany(d => d.Parts.Select(p => (d, p))))
        {
            var blob = design.Stitches.Cut(part.First, part.Count);
            var read = ReadStitches.Of(blob);
            var made = Respacer.Make(read, Sizing.Original, new() { WithoutUnderlay = true });
            (under, gone) = (under + read.Under, gone + blob.CountOf(StitchKind.Stitch) - made.CountOf(StitchKind.Stitch));
            var box = blob.BoundsOf(0, blob.Count);
            if (box.Width * box.Height > 30_000) continue;
            StitchLook.Alike(StitchLook.Picture(blob, box), StitchLook.Picture(made, box)).ShouldBeGreaterThan(0.96, $"{design.Title}, {part.Thread.Name}");
        }

        // Ways that lead from section to section stay.
        (gone / (double)under).ShouldBeGreaterThan(0.6);
    }

    [Fact]
    public void Short_stitches_go_and_ties_stay()
    {
        var run = Enumerable.Range(0, 60).Select(i => new Point(i * (i % 5 == 0 ? 0.99 : 1), 0)).ToList();
        var builder = new StitchBuilder();
        Ties.Add(builder, [new(-6, 0), new(-3, 0), .. run.SelectMany(p => new[] { p, p + new Point(0.2, 0) }), new(63, 0), new(66, 0)]);
        var made = Respacer.Make(ReadStitches.Of(builder.ToBlob()), Sizing.Original, new() { ShorterThanMm = 0.5 });
        StitchLook.LengthsWithoutTies(made).Min().ShouldBeGreaterThanOrEqualTo(0.5);
        StitchLook.Stitches(made).Take(3).ShouldAllBe(s => s.A.DistanceTo(s.B) < 0.75);
        made.At(1).DistanceTo(new(-6, 0)).ShouldBeLessThan(0.01);
    }

    [Fact]
    public void The_same_stitches_come_out_every_time()
    {
        var blob = Designs.Drawn(0).Stitches;
        At(blob, 1.3).Hash.ShouldBe(At(blob, 1.3).Hash);
    }

    [Theory]
    [InlineData(0.6)]
    [InlineData(2.0)]
    public void A_drawing_in_the_needle_points_keeps_its_size(double scale)
    {
        // Squares of 6 mm whose sides are needle points; in between are none.
        var fill = new StitchBuilder();
        for (var k = 0; k < 100; k++)
            foreach (var x in Enumerable.Range(0, 21).Select(n => n * 2.0).Where(x => x is 0 or 40 || (k % 15 == 0 ? x % 2 == 0 : x % 6 == 0)).OrderBy(x => k % 2 == 0 ? x : -x))
                fill.Stitch(new(x, k * 0.4));
        var made = At(fill.ToBlob(), scale);
        var across = Enumerable.Range(1, made.Count - 2).Select(made.At).Where(p => p.X > 1 && p.X < (40 * scale) - 1).ToList();
        (across.Count(p => Math.Abs(p.X - (Math.Round(p.X / 6) * 6)) < 0.2) / (double)across.Count).ShouldBeGreaterThan(0.8);
        across.Where(p => Math.Abs(p.X - (Math.Round(p.X / 6) * 6)) > 0.2).ShouldAllBe(p => Math.Abs(p.Y - (Math.Round(p.Y / 6) * 6)) < 0.5);
    }

    [Theory]
    [InlineData(0.6)]
    [InlineData(1.25)]
    public void A_wide_zigzag_keeps_its_pitch_and_its_corners(double scale)
    {
        // About a square of 30 mm: the outer rail's corners are sewn at every size.
        var corners = new Point[] { new(0, 0), new(30, 0), new(30, 30), new(0, 30), new(0, 0) };
        var zigzag = new StitchBuilder();
        for (var side = 0; side < 4; side++)
        {
            var inward = new Point(15, 15) - corners[side];
            for (var k = 0; k < 15; k++)
            {
                var at = corners[side].Toward(corners[side + 1], k / 15.0);
                zigzag.Stitch(at);
                zigzag.Stitch(k == 0 ? at + (inward.Unit() * 3) : at + ((corners[side + 1] - corners[side]).Unit() * 1) + ((corners[side + 1] - corners[side]).Normal().Unit() * -2.5));
            }
        }

        var made = At(zigzag.ToBlob(), scale);
        var points = Enumerable.Range(0, made.Count).Select(made.At).ToList();
        foreach (var corner in corners.Skip(1).Take(3)) points.Min(p => p.DistanceTo(corner * scale)).ShouldBeLessThan(0.1);
        (made.Count / (zigzag.Count * scale)).ShouldBeInRange(0.85, 1.15);
    }

    [Fact]
    public void Short_throws_in_a_bend_stay_as_many()
    {
        // On the inside of a ring every second throw stops short.
        var ring = new StitchBuilder();
        for (var k = 0; k < 180; k++)
        {
            var way = new Point(Math.Cos(k * Math.PI / 90), Math.Sin(k * Math.PI / 90));
            ring.Stitch(way * (k % 2 == 0 ? 6 : k % 4 == 1 ? 2.8 : 3.6));
        }

        foreach (var scale in new[] { 0.6, 0.8, 1.25, 2 })
        {
            var made = At(ring.ToBlob(), scale);
            var inner = Enumerable.Range(0, made.Count).Select(k => made.At(k).Length / scale).Where(r => r < 4.5).ToList();
            (inner.Count(r => r < 3.1) / (double)inner.Count).ShouldBeInRange(0.4, 0.6);
            inner.Count(r => Math.Abs(r - 2.8) < 0.2 || Math.Abs(r - 3.6) < 0.2).ShouldBeGreaterThanOrEqualTo(inner.Count - 2); // but at the ends
        }
    }

    [Fact]
    public void A_long_way_is_divided_when_it_grows()
    {
        var way = new StitchBuilder();
        foreach (var x in new[] { 0.0, 9, 18, 27, 36, 37, 48 }) way.Stitch(new(x, 0));
        StitchLook.Stitches(At(way.ToBlob(), 2)).ShouldAllBe(s => s.A.DistanceTo(s.B) <= Limits.LongestStitch);
    }

    [Fact]
    public void Stretched_every_stitch_is_kept()
    {
        var blob = Designs.Drawn(0).Stitches;
        var made = Respacer.Make(ReadStitches.Of(blob), new(0.5, 2, 0.1), new() { Mode = ResizeMode.Stretch });
        made.Count.ShouldBe(blob.Count);
        made.At(200).ShouldBe(new((0.5 * blob.At(200).X) + (0.1 * blob.At(200).Y), 2 * blob.At(200).Y));
    }

    [Fact]
    public void A_triple_run_stays_one()
    {
        var blob = Stitched(RunLine.Tripled(RunLine.Along(Outlines.Circle(Point.Zero, 20))));
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
        Ties.Add(builder, run);
        return builder.ToBlob();
    }

    [Theory]
    [InlineData(0.5)]
    [InlineData(0.7)]
    [InlineData(0.9)]
    [InlineData(1.2)]
    public void A_few_rows_are_as_many_as_their_spacing_asks_for_and_their_tie_goes_along(double scale)
    {
        var few = Makings.All.First(m => m.Way == "few rows").Stitches;
        var made = ReadStitches.Of(Respacer.Make(ReadStitches.Of(few), new(scale, scale), default));
        var rows = made.Passages.First(p => p.Kind == PassageKind.Fill);
        rows.Rungs.Length.ShouldBeInRange((int)Math.Floor(9 * scale), (int)Math.Ceiling(9 * scale));
        made.Passages[^1].Kind.ShouldBe(PassageKind.Tie);
        var end = made.Stitches.At(rows.Last);
        for (var i = rows.Last; i < made.Stitches.Count; i++) made.Stitches.At(i).DistanceTo(end).ShouldBeLessThan(1);

        // The tie lies on the rows, as it did.
        var box = few.BoundsOf(0, few.Count);
        Enumerable.Range(0, made.Stitches.Count).ShouldAllBe(i => made.Stitches.At(i).X > (box.MinX * scale) - 0.1 && made.Stitches.At(i).X < (box.MaxX * scale) + 0.1);
    }

    [Fact]
    public void Rows_from_which_the_thread_goes_on_end_on_the_side_where_they_did()
    {
        var builder = new StitchBuilder();
        for (var k = 0; k < 9; k++)
            for (var s = 0; s <= 7; s++)
                builder.Stitch(new((k % 2 == 0 ? s : 7 - s) * 3.5, k * 0.4));
        for (var s = 1; s <= 10; s++) builder.Stitch(new(24.5, 3.2 + (s * 2.5)));
        foreach (var scale in new[] { 0.5, 0.6, 0.7, 0.8, 0.9, 1.1, 1.2, 1.4 })
        {
            var made = Respacer.Make(ReadStitches.Of(builder.ToBlob()), new(scale, scale), default);
            var after = Enumerable.Range(0, made.Count).First(i => made.At(i).Y > (3.2 * scale) + 1);
            made.At(after).DistanceTo(made.At(after - 1)).ShouldBeLessThan(4.1, $"at {scale}");
            made.At(after - 1).X.ShouldBe(24.5 * scale, 0.5, $"at {scale}");
        }
    }
}
