using EvenThimble.Core.Geometry;
using EvenThimble.Core.Recognition;
using EvenThimble.Core.Respacing;
using EvenThimble.Core.Stitches;
using Shouldly;
using Xunit;

namespace EvenThimble.Core.Tests.Respacing;

/// <summary>Stitches of every making: how they are read, and that at another size nothing of them is lost, strays or piles up.</summary>
public class MakingTests
{
    // Of the whole set; ./even-thimble shots writes the table of all.
    private const double MostWrongAndSure = 0.01;
    private const double LeastRight = 0.97;

    public static TheoryData<string> Ways() => ["plain", "tenths", "noise", "turned"];

    [Theory]
    [MemberData(nameof(Ways))]
    public void What_is_called_sure_is_so(string how)
    {
        var read = Makings.All.Select(s => (s.Way, Reading: MakingMeasures.Reading(s, BoughtStitches.Damaged(s.Stitches, how)), s.Stitches.Count)).ToList();
        var all = (double)read.Sum(r => r.Count);
        (read.Sum(r => r.Reading.WrongAndSure * r.Count) / all).ShouldBeLessThan(MostWrongAndSure);
        (read.Sum(r => (1 - r.Reading.WrongAndSure - r.Reading.NotSure) * r.Count) / all).ShouldBeGreaterThan(LeastRight);
        foreach (var way in read.GroupBy(r => r.Way)) (way.Sum(r => r.Reading.WrongAndSure * r.Count) / way.Sum(r => (double)r.Count)).ShouldBeLessThan(0.05, way.Key);
    }

    public static TheoryData<double, double, double> Sizes() => new() { { 0.5, 0.5, 1 }, { 0.7, 0.7, 1 }, { 0.85, 0.85, 1 }, { 1.2, 1.2, 1 }, { 1.5, 1.5, 1 }, { 2, 2, 1 }, { 1.4, 0.8, 1 }, { 1, 1, 0.75 }, { 1, 1, 1.35 } };

    [Theory]
    [MemberData(nameof(Sizes))]
    public void Nothing_strays_is_lost_piles_up_or_changes_its_density(double across, double down, double lighter)
    {
        var wrong = new List<string>();
        // A third of the samples at each size, other ones at the next; all of them are in the table of ./even-thimble shots.
        var turn = (int)Math.Round((across * 20) + (lighter * 100));
        foreach (var sample in Makings.All.Where((_, i) => (i + turn) % 3 == 0))
        {
            var spaced = sample.Truth is Makings.Truth.Fill or Makings.Truth.Satin;
            var gap = spaced ? Math.Max(0.4, ReadStitches.Of(sample.Stitches).SpacingMm) : 0.1;
            var faults = MakingMeasures.At(sample.Stitches, gap, across, down, lighter);

            // Where rows spread out or have fewer and fewer beside them, gaps are wider than usual.
            var spread = sample.Way.StartsWith("spokes", StringComparison.Ordinal) || sample.Way == "rows of a gradient";
            var name = $"{sample.Way}, {sample.Name}";

            // Loose rows of a zigzag lie elsewhere than the old ones, and have no more than a few.
            var loose = gap > 0.7;
            if (!loose && faults.Spike > 0.5) wrong.Add($"{name}: {faults.Spike:0.00} mm off");
            if (!loose && faults.Lost > 0.5) wrong.Add($"{name}: {faults.Lost:0.00} mm of it lost");
            if (faults.Piles > 0) wrong.Add($"{name}: {faults.Piles} piles");
            if (spaced && !loose && !spread && faults.Hole > (across == down ? 0.35 : 0.6)) wrong.Add($"{name}: a hole of {faults.Hole:0.00} mm²");

            // The run under a satin grows with its length only; shapes of a few rows have one more or less.
            if (spaced && Math.Abs(faults.Density - 1) > 0.15) wrong.Add($"{name}: {faults.Density:0.00} times as dense");
        }

        wrong.ShouldBeEmpty();
    }

    public static TheoryData<double, double> SizesAndSpacings() => new() { { 0.5, 1 }, { 0.7, 1 }, { 0.85, 1 }, { 1.2, 1 }, { 1.5, 1 }, { 2, 1 }, { 1, 0.75 }, { 1, 1.35 } };

    [Theory]
    [MemberData(nameof(SizesAndSpacings))]
    public void Every_way_keeps_its_density(double size, double lighter)
    {
        // Ties stay as they are, and underlay grows with its length only.
        var spaced = Makings.All.Where(s => s.Truth is Makings.Truth.Fill or Makings.Truth.Satin && s.Way != "satin with underlay").ToList();
        spaced.Count.ShouldBeGreaterThan(50);
        foreach (var way in spaced.GroupBy(s => s.Way)) way.Average(Density).ShouldBe(1, 0.1, way.Key);

        double Density(Makings.Sample sample)
        {
            var made = Respacer.Make(ReadStitches.Of(sample.Stitches), new(size, size), new() { SpacingTimes = lighter == 1 ? null : lighter });
            return BetweenTies(made) / BetweenTies(sample.Stitches) / (size * size) * lighter;
        }

        static double BetweenTies(StitchBlob blob) => Enumerable.Range(4, blob.Count - 8).Sum(i => blob.At(i).DistanceTo(blob.At(i + 1)));
    }

    [Theory]
    [InlineData(1.2)]
    [InlineData(1.5)]
    [InlineData(2.0)]
    public void Rows_whose_points_are_a_little_off_open_no_seams(double size)
    {
        foreach (var sample in Makings.All.Where(s => s.Way.StartsWith("rows in sections", StringComparison.Ordinal) || s.Way == "rows of sudden lengths"))
            foreach (var how in new[] { "noise", "tenths" })
                MakingMeasures.At(BoughtStitches.Damaged(sample.Stitches, how), 0.4, size, size).Hole.ShouldBeLessThan(0.35, $"{sample.Way}, {sample.Name}, {how}");
    }

    [Fact]
    public void Lines_out_and_back_share_their_holes_at_any_size()
    {
        foreach (var sample in Makings.All.Where(s => s.Way == "line out and back in the same holes"))
            foreach (var scale in new[] { 0.5, 0.8, 1.3, 2.0 })
                foreach (var how in new[] { "plain", "tenths" })
                {
                    var made = Respacer.Make(ReadStitches.Of(BoughtStitches.Damaged(sample.Stitches, how)), new(scale, scale), default);
                    Alone(made).ShouldBeLessThanOrEqualTo(Alone(sample.Stitches), $"{sample.Name} at {scale}, {how}");
                }

        // Tips are sewn once.
        static int Alone(StitchBlob blob)
        {
            var points = Enumerable.Range(5, blob.Count - 10).Select(blob.At).ToList();
            return points.Count(p => points.Count(q => q.DistanceTo(p) < 0.05) < 2);
        }
    }

    [Theory]
    [InlineData("line of threefold stitches", 3)]
    [InlineData("line of fivefold stitches", 5)]
    public void A_stitch_that_is_sewn_several_times_is_so_at_any_size(string way, int times)
    {
        foreach (var sample in Makings.All.Where(s => s.Way == way))
            foreach (var scale in new[] { 0.7, 1.0, 1.6 })
            {
                var made = Respacer.Make(ReadStitches.Of(sample.Stitches), new(scale, scale), default);
                var folded = ReadStitches.Of(made).Passages.Where(p => p.Kind == PassageKind.TripleRun).ToList();
                folded.ShouldAllBe(p => p.Fold == times);
                folded.Sum(p => p.Stitches).ShouldBeGreaterThan((int)(0.95 * (made.Count - 10)), $"{sample.Name} at {scale}");

                // Each as long as it was.
                var stitch = ReadStitches.Of(sample.Stitches).Passages.First(p => p.Kind == PassageKind.TripleRun).StitchLength;
                folded[0].StitchLength.ShouldBe(stitch, stitch * 0.2);
            }
    }

    [Theory]
    [InlineData("plain")]
    [InlineData("noise")]
    public void Rows_with_ragged_ends_are_a_fill(string how)
    {
        // Steps from row to row lie nearly along the rows, as in fur.
        var (random, builder) = (new Random(3), new StitchBuilder());
        for (var k = 0; k < 120; k++)
        {
            var (left, right) = ((random.NextDouble() * 3) - 2, 9 + (random.NextDouble() * 5));
            for (var s = 0; s <= 3; s++) builder.Stitch(new(left + ((right - left) * (k % 2 == 0 ? s : 3 - s) / 3), k * 0.3));
        }

        var ragged = BoughtStitches.Damaged(builder.ToBlob(), how);
        var fills = ReadStitches.Of(ragged).Passages.Where(p => p.Kind == PassageKind.Fill && p.Confidence >= Passage.Sure).ToList();
        fills.Count.ShouldBeLessThan(4);
        fills.Sum(p => p.Stitches).ShouldBeGreaterThan((int)(0.95 * ragged.Count));
        foreach (var size in new[] { 0.85, 1.2 }) MakingMeasures.At(ragged, 0.4, size, size).Hole.ShouldBeLessThan(0.35, $"{size}");
    }

    [Theory]
    [InlineData("plain")]
    [InlineData("noise")]
    public void A_leaf_that_is_thrown_to_its_middle_from_either_side_is_not_called_a_drawing(string how)
    {
        var builder = new StitchBuilder();
        for (var k = 0; k < 160; k++)
        {
            var (x, side, reach) = (k * 0.25, k % 2 == 0 ? 1 : -1, 1 + (5 * Math.Sin(Math.PI * k / 160)));
            builder.Stitch(new(x, side * reach));
            builder.Stitch(new(x + 2.5, side * -0.5));
        }

        // Larger it only is stretched, and bare: the card has to say that it was not understood.
        ReadStitches.Of(BoughtStitches.Damaged(builder.ToBlob(), how)).NotUnderstood.ShouldBeGreaterThan(0.95);
    }

    [Fact]
    public void Crosses_motifs_and_combs_keep_every_stitch()
    {
        foreach (var sample in Makings.All.Where(s => s.Way.StartsWith("crosses", StringComparison.Ordinal) || s.Way.StartsWith("motif", StringComparison.Ordinal) || s.Way == "comb stitch"))
            foreach (var scale in new[] { 0.8, 1.3 })
            {
                var made = Respacer.Make(ReadStitches.Of(sample.Stitches), new(scale, scale), default);
                made.Count.ShouldBe(sample.Stitches.Count, $"{sample.Way}, {sample.Name}");
                for (var i = 5; i < made.Count - 5; i++) made.At(i).DistanceTo(sample.Stitches.At(i) * scale).ShouldBeLessThan(1e-6, sample.Way);
            }
    }

    [Theory]
    [InlineData(0.7)]
    [InlineData(1.3)]
    public void A_pattern_that_is_carved_into_satin_stays(double scale)
    {
        // A bar of throws 11 mm wide whose needle points lie on a wave.
        var sample = Makings.All.First(s => s is { Way: "satin carved by a wave", Name: "bar" });
        var made = Respacer.Make(ReadStitches.Of(sample.Stitches), new(scale, scale), default);
        var was = Enumerable.Range(5, sample.Stitches.Count - 10).Select(sample.Stitches.At).Where(p => Math.Abs(p.Y) < 5).ToList();
        var now = Enumerable.Range(5, made.Count - 10).Select(made.At).Where(p => Math.Abs(p.Y) < 5 * scale).ToList();
        was.Count.ShouldBeGreaterThan(200);

        // Every old point has a new one near where it grew to, and where throws are not split further nearly all new ones lie on the wave.
        was.ShouldAllBe(p => now.Exists(q => q.DistanceTo(p * scale) < 0.5));
        if (scale < 1) now.Count(q => was.Exists(p => q.DistanceTo(p * scale) < 0.5)).ShouldBeGreaterThan((int)(0.95 * now.Count));
    }

    [Fact]
    public void The_longest_throw_that_was_bought_stays_the_longest()
    {
        foreach (var sample in Makings.All.Where(s => s.Way == "satin of long throws"))
        {
            var longest = StitchLook.Stitches(sample.Stitches).Max(s => s.A.DistanceTo(s.B));
            longest.ShouldBeGreaterThan(9);
            foreach (var scale in new[] { 0.85, 1.2, 1.6 })
            {
                var made = StitchLook.Stitches(Respacer.Make(ReadStitches.Of(sample.Stitches), new(scale, scale), default)).Max(s => s.A.DistanceTo(s.B));
                made.ShouldBeInRange(scale < 1 ? 0.95 * scale * longest : 0.6 * longest, longest + 0.1, $"{sample.Name} at {scale}");
            }
        }
    }
}
