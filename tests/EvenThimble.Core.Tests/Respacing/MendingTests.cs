using EvenThimble.Core.Craft;
using EvenThimble.Core.Geometry;
using EvenThimble.Core.Recognition;
using EvenThimble.Core.Respacing;
using EvenThimble.Core.Stitches;
using Shouldly;
using Xunit;

namespace EvenThimble.Core.Tests.Respacing;

/// <summary>What was closed as it came and would open when made larger is closed by rows there and back; what was open stays so.</summary>
public class MendingTests
{
    private const double Spacing = 0.4;

    /// <summary>Rows of every length, as in fur: where a long one follows short ones a wedge would open.</summary>
    private static StitchBlob Fur(int seed)
    {
        var random = new Random(seed);
        var fur = new List<Point>();
        for (var k = 0; k < 90; k++) fur.AddRange(SectionedFillTests.Row(random.NextDouble() * 8, 14 + (random.NextDouble() * 8), k * Spacing, k % 2 == 1));
        return Blob(fur);
    }

    [Theory]
    [InlineData(1)]
    [InlineData(2)]
    [InlineData(3)]
    [InlineData(4)]
    public void Rows_of_every_length_stay_closed_and_keep_their_density(int seed)
    {
        foreach (var how in new[] { "plain", "tenths", "noise" })
        {
            foreach (var size in new[] { 1.5, 2 })
            {
                var faults = MakingMeasures.At(BoughtStitches.Damaged(Fur(seed), how), Spacing, size, size);
                if (how != "noise") faults.Hole.ShouldBeLessThan(0.3, $"{how} at {size}");
                faults.Density.ShouldBeInRange(0.9, 1.1, $"{how} at {size}");
                faults.Piles.ShouldBe(0, $"{how} at {size}");
            }
        }
    }

    [Theory]
    [InlineData(0.9)]
    [InlineData(1.4)]
    public void Cloth_that_showed_between_two_blocks_still_shows(double apart)
    {
        const int rows = 30;
        var above = Enumerable.Range(0, rows).SelectMany(k => SectionedFillTests.Row(0, 20, k * Spacing, k % 2 == 1));
        var below = Enumerable.Range(0, rows).SelectMany(k => SectionedFillTests.Row(0, 20, ((rows - 1) * Spacing) + apart + (k * Spacing), k % 2 == 1));
        var made = Respacer.Make(ReadStitches.Of(Blob([.. above, .. below])), new(2, 2), default);
        var (from, to) = (2 * (rows - 1) * Spacing, 2 * (((rows - 1) * Spacing) + apart));
        var middle = (from + to) / 2;
        Enumerable.Range(0, made.Count).Select(made.At).Where(p => p.X is > 3 and < 37).ShouldAllBe(p => Math.Abs(p.Y - middle) > 0.3);
    }

    [Theory]
    [InlineData("plain")]
    [InlineData("tenths")]
    [InlineData("noise")]
    public void Rows_that_grow_apart_are_no_seam(string how)
    {
        // From 0.35 to 0.65 mm: what is far apart at its end was so as it came.
        var (rows, y) = (new List<Point>(), 0.0);
        for (var k = 0; k < 60; k++, y += 0.35 + (k * 0.005)) rows.AddRange(SectionedFillTests.Row(0, 22, y, k % 2 == 1));
        var was = BoughtStitches.Damaged(Blob(rows), how);
        MakingMeasures.At(was, Spacing, 2, 2).Density.ShouldBeInRange(0.93, 1.07);
    }

    [Fact]
    public void Fur_made_smaller_keeps_its_density()
    {
        var read = ReadStitches.Of(Fur(5));
        foreach (var size in new[] { 0.6, 0.85 }) (StitchLook.Thread(Respacer.Make(read, new(size, size), default)) / StitchLook.Thread(read.Stitches) / (size * size)).ShouldBeInRange(0.9, 1.1, $"{size}");
    }

    [Fact]
    public void What_was_told_by_hand_still_belongs_to_its_stitches()
    {
        // Two pieces of fur of one thread, the second left as it came: however many needle points mend the first, the second begins where it did.
        var (one, other) = (Fur(6), Fur(7));
        var both = new StitchBuilder();
        for (var i = 0; i < one.Count; i++) both.Stitch(one.At(i));
        var first = both.Count;
        for (var i = 0; i < other.Count; i++) both.Stitch(other.At(i) + new Point(60, 0));
        var made = Respacer.MakeTold(ReadStitches.Of(both.ToBlob(), [new(first, both.Count - 1, ReadAs.AsItIs)]), new(2, 2), default);
        var (begins, ends) = (made.Told[0].First, made.Told[^1].Last);
        made.Told.ShouldAllBe(t => t.As == ReadAs.AsItIs);
        made.Stitches.At(begins).ShouldBe((other.At(0) + new Point(60, 0)) * 2);
        made.Stitches.At(ends).ShouldBe((other.At(other.Count - 1) + new Point(60, 0)) * 2);

        // Only stitches that grew longer than a machine sews are more than one.
        var divided = Enumerable.Range(1, other.Count - 1).Count(i => 2 * other.At(i - 1).DistanceTo(other.At(i)) > Limits.LongestStitch);
        (ends - begins).ShouldBe(other.Count - 1 + divided);
    }

    private static StitchBlob Blob(IReadOnlyList<Point> points)
    {
        var builder = new StitchBuilder(points.Count);
        foreach (var p in points) builder.Stitch(p);
        return builder.ToBlob();
    }
}
