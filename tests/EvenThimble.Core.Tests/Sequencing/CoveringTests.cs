using EvenThimble.Core.Digitizing.Satin;
using EvenThimble.Core.Geometry;
using EvenThimble.Core.Jobs;
using EvenThimble.Core.Planning;
using EvenThimble.Core.Stitches;
using EvenThimble.Core.Tests.Recognition;
using EvenThimble.Core.Tests.Respacing;
using EvenThimble.Core.Threads;
using EvenThimble.Scenario;
using Shouldly;
using SkiaSharp;
using Xunit;

namespace EvenThimble.Core.Tests.Sequencing;

/// <summary>What is left out where later parts hide it, measured on pictures drawn here.</summary>
public class CoveringTests
{
    private const double PixelsPerMm = 5;

    private sealed class Blobs(params StitchBlob[] blobs) : IStitchSource
    {
        public StitchBlob Get(BlobHash hash) => blobs.First(b => b.Hash == hash);
    }

    /// <summary>One design laid over another.</summary>
    private static (Job Job, IStitchSource Source) Laid(StitchFile under, StitchFile over, double dx, double dy)
    {
        var job = new BringDesigns([new(null, over, new Point(under.Bounds.Middle.X + dx, under.Bounds.Middle.Y + dy))], System.Collections.Immutable.ImmutableDictionary<EvenThimble.Core.Threads.SewingThread, EvenThimble.Core.Threads.SewingThread>.Empty)
            .Apply(MadeUp.JobOf(under).Job);
        return (new SewOnlySeen(true).Apply(job), new Blobs(under.Stitches, over.Stitches));
    }

    public static TheoryData<int, int, double, double> Pairs() => new()
    {
        { 0, 5, 0, 0 }, { 6, 2, -5, 3 }, { 0, 4, -20, 10 },
    };

    [Theory]
    [MemberData(nameof(Pairs))]
    public void The_picture_stays_the_same_and_what_is_hidden_goes(int under, int over, double dx, double dy)
    {
        var (job, source) = Laid(Designs.Drawn(under), Designs.Drawn(over), dx, dy);
        var whole = Sequencer.Whole(job, source);
        var covered = Covering.Apply(job, whole);
        var (before, after) = (Picture(whole, whole.Bounds), Picture(covered.Plan, whole.Bounds));
        var different = before.Zip(after, (a, b) => a != b).Count(d => d) / (double)before.Length;
        different.ShouldBeLessThan(0.005);
        var (hidden, left) = (Hidden(whole, whole), Hidden(covered.Plan, whole));
        if (hidden > 300) (1 - (left / hidden)).ShouldBeGreaterThan(0.85, $"of {hidden:0} mm {left:0} mm are left");
        covered.Plan.StitchCount.ShouldBeLessThanOrEqualTo(whole.StitchCount);
        foreach (var (part, was) in covered.Plan.Parts.Zip(whole.Parts))
            if (Covering.IsProtected(was.Role))
                part.Count.ShouldBe(was.Count);
    }

    [Fact]
    public void What_is_left_is_tied_and_no_stitch_is_too_long()
    {
        var (job, source) = Laid(Designs.Drawn(0), Designs.Drawn(5), 0, 0);
        var plan = Sequencer.Plan(job, source);
        var records = plan.Records;
        for (var i = 1; i < records.Count; i++)
        {
            if (records.Kinds[i] == StitchKind.Stitch && records.Kinds[i - 1] == StitchKind.Stitch) records.At(i).DistanceTo(records.At(i - 1)).ShouldBeLessThan(12.1);

            // Where the thread is cut small stitches hold it.
            if (records.Kinds[i] != StitchKind.Trim || records.Kinds[i - 1] != StitchKind.Stitch) continue;
            Enumerable.Range(Math.Max(1, i - 6), Math.Min(6, i - 1)).Count(k => records.Kinds[k] == StitchKind.Stitch && records.At(k).DistanceTo(records.At(k - 1)) < 0.85).ShouldBeGreaterThanOrEqualTo(3);
        }
    }

    [Fact]
    public void Only_what_the_user_wants_is_left_out()
    {
        var (job, source) = Laid(Designs.Drawn(0), Designs.Drawn(5), 0, 0);
        var whole = Sequencer.Whole(job, source);
        Sequencer.Plan(new SewOnlySeen(false).Apply(job), source).Records.Hash.ShouldBe(whole.Records.Hash);
        var kept = new KeepWhole(new HashSet<PartId> { job.Order[0].Id }, true).Apply(job);
        var plan = Sequencer.Plan(kept, source);
        plan.Parts[0].Count.ShouldBe(whole.Parts[0].Count);
        DensityMap.Of(plan).TotalMm.ShouldBeLessThan(DensityMap.Of(whole).TotalMm);
    }

    [Fact]
    public void Protected_roles_are_sewn_whatever_lies_over_them()
    {
        foreach (var role in PartRoles.All.Where(Covering.IsProtected))
        {
            var (job, source) = Laid(Designs.Drawn(0), Designs.Drawn(5), 0, 0);
            var given = new GiveRole(new HashSet<PartId> { job.Order[0].Id }, role).Apply(job);
            Sequencer.Plan(given, source).Parts[0].Count.ShouldBe(Sequencer.Whole(given, source).Parts[0].Count);
        }
    }

    [Fact]
    public void Where_nothing_overlaps_nothing_changes()
    {
        var (job, source) = MadeUp.JobOf(MadeUp.Rows((0, 0, "a"), (0, 20, "b"), (0, 40, "a")));
        Sequencer.Plan(new SewOnlySeen(true).Apply(job), source).Records.Hash.ShouldBe(Sequencer.Whole(job, source).Records.Hash);
    }

    /// <summary>Rows over a rectangle about the middle, whose distance may grow from the first to the last.</summary>
    private static StitchFile Block(string thread, double width, double height, double spacing, double last, double slant = 0, Point shift = default)
    {
        var (builder, y, row) = (new StitchBuilder(), -height / 2, 0);
        while (y <= height / 2)
        {
            var steps = (int)Math.Ceiling(width / 3.5);
            for (var s = 0; s <= steps; s++)
            {
                var x = width * (((row % 2 == 0 ? s : steps - s) / (double)steps) - 0.5);
                builder.Stitch(new Point(x, y + (slant * x)) + shift);
            }

            y += spacing + ((last - spacing) * (y + (height / 2)) / height);
            row++;
        }

        return Sewn(thread, builder.ToBlob());
    }

    private static StitchFile Sewn(string thread, StitchBlob blob) => new(thread, blob, [new(0, blob.Count, MadeUp.Thread(thread), PartRole.Decoration)]);

    /// <summary>A line that winds to and fro, far apart.</summary>
    private static StitchFile Winding(double width, double height, double stitch, Point shift = default)
    {
        var builder = new StitchBuilder();
        for (var t = 0.0; t < 1; t += stitch / (6 * width)) builder.Stitch(new Point(width / 2 * Math.Sin(t * 6 * Math.PI), height * (t - 0.5)) + shift);
        return Sewn("winding", builder.ToBlob());
    }

    private static (Job Job, IStitchSource Source) OneOver(StitchFile under, StitchFile over) => Laid(under, over, 0, 0);

    [Fact]
    public void Loose_rows_hide_nothing_and_a_gradient_only_where_it_is_close()
    {
        foreach (var under in new[] { Block("badge", 40, 40, 0.4, 0.4, slant: 0.2), Winding(40, 40, 2.5) })
        {
            var (job, source) = OneOver(under, Block("lace", 50, 50, 0.8, 0.8));
            Covering.Apply(job, Sequencer.Whole(job, source)).GoneMm.ShouldBe(0, "rows 0.8 mm apart");

            (job, source) = OneOver(under, Block("gradient", 50, 50, 0.4, 1.4));
            var whole = Sequencer.Whole(job, source);
            var covered = Covering.Apply(job, whole);
            covered.GoneMm.ShouldBeGreaterThan(20);

            // Rows are wider apart than thread hides from a fifth of the way on.
            var rows = whole.Records.BoundsOf(whole.Parts[1].First, whole.Parts[1].Count);
            covered.Gone.SelectMany(g => g.Line).ShouldAllBe(p => p.Y < rows.MinY + (0.24 * rows.Height));
        }
    }

    [Fact]
    public void What_is_left_out_does_not_depend_on_where_on_the_cloth_it_lies()
    {
        var random = new Random(14);
        foreach (var (under, over) in new (Func<Point, StitchFile>, Func<Point, StitchFile>)[]
        {
            (at => Block("badge", 40, 40, 0.4, 0.4, slant: 0.2, at), at => Block("patch", 30, 24, 0.4, 0.4, 0, at)),
            (at => Winding(40, 40, 2.5, at), at => Block("patch", 30, 24, 0.45, 0.45, 0.3, at)),
            (at => Block("badge", 40, 40, 0.4, 0.4, 0, at), at => Block("gradient", 36, 36, 0.35, 0.8, 0, at)),
        })
        {
            var gone = Enumerable.Range(0, 50).Select(n =>
            {
                var at = n == 0 ? Point.Zero : n < 25 ? new Point(random.NextDouble() / 50, random.NextDouble() / 50) : new Point((random.NextDouble() - 0.5) * 60, (random.NextDouble() - 0.5) * 60);
                var (job, source) = OneOver(under(at), over(at));
                return Covering.Apply(job, Sequencer.Whole(job, source)).GoneMm;
            }).ToList();
            gone.Min().ShouldBeGreaterThan(50);
            gone.Max().ShouldBeLessThan(1.02 * gone.Min());
        }
    }

    [Theory]
    [InlineData(1.0, 0)]
    [InlineData(1.3, 0)]
    [InlineData(0.8, 0.5)]
    public void What_stitches_were_told_to_be_decides_what_they_hide(double size, double shorterThan)
    {
        // Rows that were told to be no rows; and a tangle that no reading knows, told to be a fill.
        var rows = Block("patch", 30, 40, 0.4, 0.4).Stitches;
        GoneUnder(rows).ShouldBeGreaterThan(100);
        GoneUnder(rows, new ToldReading(0, rows.Count - 1, ReadAs.AsItIs)).ShouldBe(0);
        var tangle = CorrectionsTests.Tangle(width: 30, height: 40);
        GoneUnder(tangle).ShouldBe(0);
        GoneUnder(tangle, new ToldReading(0, tangle.Count - 1, ReadAs.Fill)).ShouldBeGreaterThan(100);

        double GoneUnder(StitchBlob over, params ToldReading[] told)
        {
            var (job, source) = OneOver(Winding(24, 32, 2.5), Sewn("over", over));
            var part = job.Order[1].Id;
            job = told.Aggregate(job, (j, t) => new TellReading(part, 0, t.First, t.Last, t.As).Apply(j));
            if (size != 1) job = new ResizeParts(new HashSet<PartId> { part }, size, size, job.Order[1].Placement.Place(over.BoundsOf(0, over.Count).Middle)).Apply(job);
            if (shorterThan > 0) job = new LeaveOutShort(new HashSet<PartId> { part }, shorterThan).Apply(job);
            return Covering.Apply(job, Sequencer.Whole(job, source)).GoneMm;
        }
    }

    [Theory]
    [InlineData(1.2)]
    [InlineData(2.5)]
    [InlineData(5)]
    public void Lines_under_a_cover_go_too_whatever_their_stitch(double stitch)
    {
        var (job, source) = OneOver(Winding(60, 60, stitch), Block("patch", 40, 70, 0.4, 0.4));
        var whole = Sequencer.Whole(job, source);
        var covered = Covering.Apply(job, whole);
        var patch = whole.Records.BoundsOf(whole.Parts[1].First, whole.Parts[1].Count);
        double Under(SewingPlan plan, double inset) => Enumerable.Range(plan.Parts[0].First + 1, plan.Parts[0].Count - 1)
            .Where(i => plan.Records.Kinds[i] == StitchKind.Stitch && plan.Records.Kinds[i - 1] == StitchKind.Stitch)
            .Sum(i => Within(plan.Records.At(i - 1), plan.Records.At(i), patch.Grown(-inset)));
        (Under(covered.Plan, Covering.Margin + 0.4) / Under(whole, Covering.Margin + 0.4)).ShouldBeLessThan(0.02);

        // Nothing goes outside, nor within the margin.
        double Outside(SewingPlan plan) => Enumerable.Range(plan.Parts[0].First + 1, plan.Parts[0].Count - 1)
            .Where(i => plan.Records.Kinds[i] == StitchKind.Stitch && plan.Records.Kinds[i - 1] == StitchKind.Stitch)
            .Sum(i => plan.Records.At(i - 1).DistanceTo(plan.Records.At(i))) - Under(plan, 0);
        covered.Gone.SelectMany(g => g.Line).ShouldAllBe(p => patch.Grown(-Covering.Margin + 0.4).Holds(p));
        Outside(covered.Plan).ShouldBeGreaterThan(0.99 * Outside(whole));

        // Length of a stitch that lies in a rectangle.
        static double Within(Point a, Point b, Box box)
        {
            const int pieces = 50;
            return Enumerable.Range(0, pieces).Count(k => box.Holds(a.Toward(b, (k + 0.5) / pieces))) * a.DistanceTo(b) / pieces;
        }
    }

    /// <summary>The plan as thread of each part's colour, without smoothing, the later over the earlier.</summary>
    private static int[] Picture(SewingPlan plan, Box box) => Painted(plan, box, (n, part) => Color(n + 1));

    private static SKColor Color(int number) => new((byte)(number * 7 % 256), (byte)(number / 30), 200);

    private static int[] Painted(SewingPlan plan, Box box, Func<int, PlannedPart, SKColor> colour)
    {
        using var bitmap = new SKBitmap((int)((box.Width + 4) * PixelsPerMm), (int)((box.Height + 4) * PixelsPerMm));
        using var canvas = new SKCanvas(bitmap);
        canvas.Clear(SKColors.White);
        canvas.Scale((float)PixelsPerMm);
        canvas.Translate((float)(2 - box.MinX), (float)(2 - box.MinY));
        using var paint = new SKPaint { Style = SKPaintStyle.Stroke, StrokeWidth = 0.4f, StrokeCap = SKStrokeCap.Round };
        for (var n = 0; n < plan.Parts.Length; n++)
        {
            paint.Color = colour(n, plan.Parts[n]);
            for (var i = Math.Max(1, plan.Parts[n].First); i < plan.Parts[n].End; i++)
                if (plan.Records.Kinds[i] == StitchKind.Stitch && plan.Records.Kinds[i - 1] == StitchKind.Stitch)
                    canvas.DrawLine((float)plan.Records.At(i - 1).X, (float)plan.Records.At(i - 1).Y, (float)plan.Records.At(i).X, (float)plan.Records.At(i).Y, paint);
        }

        canvas.Flush();
        return [.. bitmap.Pixels.Select(p => (int)(uint)p)];
    }

    /// <summary>Length (mm) of thread that lies deep under later parts of the whole plan: everything within 1.4 mm of it is hidden too.</summary>
    private static double Hidden(SewingPlan plan, SewingPlan whole)
    {
        const double deep = 1.4;
        var box = whole.Bounds;
        var (columns, rows) = ((int)((box.Width + 4) * PixelsPerMm), (int)((box.Height + 4) * PixelsPerMm));

        // Bit by bit from the last part: how thick a cover lies over a place.
        var total = 0.0;
        var cover = new bool[columns * rows];
        for (var n = whole.Parts.Length - 1; n >= 0; n--)
        {
            var covered = Eroded(cover, columns, rows, (int)(deep * PixelsPerMm));
            var part = plan.Parts[n];
            if (!Covering.IsProtected(part.Role))
            {
                for (var i = Math.Max(1, part.First); i < part.End; i++)
                {
                    if (plan.Records.Kinds[i] != StitchKind.Stitch || plan.Records.Kinds[i - 1] != StitchKind.Stitch) continue;
                    var (a, b) = (plan.Records.At(i - 1), plan.Records.At(i));
                    var steps = Math.Max(1, (int)(a.DistanceTo(b) / 0.2));
                    for (var s = 0; s < steps; s++)
                    {
                        var p = a.Toward(b, (s + 0.5) / steps);
                        var at = ((int)((p.Y + 2 - box.MinY) * PixelsPerMm) * columns) + (int)((p.X + 2 - box.MinX) * PixelsPerMm);
                        if (covered[at]) total += a.DistanceTo(b) / steps;
                    }
                }
            }

            var number = n;
            var own = Painted(whole, box, (k, _) => k == number ? SKColors.Black : SKColors.White);
            var white = (int)(uint)SKColors.White;
            if (whole.Parts[n].Role is PartRole.Decoration or PartRole.Cover or PartRole.Lettering)
                Closed(own, white, columns, rows, cover);
        }

        return total;
    }

    /// <summary>Adds what is dark, with the small gaps between rows, to a cover. Only what is dark all around is a cover: single lines are not.</summary>
    private static void Closed(int[] own, int white, int columns, int rows, bool[] cover)
    {
        var dark = new bool[own.Length];
        for (var i = 0; i < own.Length; i++) dark[i] = own[i] != white;
        var closed = Eroded(dark, columns, rows, 0);
        for (var i = 0; i < closed.Length; i++) cover[i] |= closed[i];
    }

    /// <summary>Cells whose whole neighbourhood (a square of the reach) is set.</summary>
    private static bool[] Eroded(bool[] cells, int columns, int rows, int reach)
    {
        if (reach == 0) return [.. cells];
        var (level, both) = (new bool[cells.Length], new bool[cells.Length]);
        for (var y = 0; y < rows; y++)
        {
            var run = 0;
            for (var x = 0; x < columns; x++)
            {
                run = cells[(y * columns) + x] ? run + 1 : 0;
                if (run > 2 * reach) level[(y * columns) + x - reach] = true;
            }
        }

        for (var x = 0; x < columns; x++)
        {
            var run = 0;
            for (var y = 0; y < rows; y++)
            {
                run = level[(y * columns) + x] ? run + 1 : 0;
                if (run > 2 * reach) both[((y - reach) * columns) + x] = true;
            }
        }

        return both;
    }
}
