using EvenThimble.Core.Geometry;
using EvenThimble.Core.Recognition;
using EvenThimble.Core.Respacing;
using EvenThimble.Core.Stitches;
using EvenThimble.Core.Tests.Quality;
using Shouldly;
using Xunit;

namespace EvenThimble.Core.Tests.Respacing;

/// <summary>
/// Fills of shapes that no single block of rows covers: sections one after another, with straight ways between. Ways and steps along slanted edges lie nearly in line with rows, and some sections are of a row or
/// two, so which stitches are rows is told by those beside them.
/// </summary>
public class SectionedFillTests
{
    private const double Spacing = 0.4;

    // A bare place larger than this is seen, mm².
    private const double Seen = 0.3;

    [Theory]
    [InlineData("heart")]
    [InlineData("star of 5")]
    [InlineData("zigzag")]
    [InlineData("Lora R 60 mm")]
    [InlineData("Lora g 60 mm")]
    [InlineData("Lora a 20 mm")]
    [InlineData("Lora & 20 mm")]
    [InlineData("Lora g 20 mm")]
    [InlineData("sharp star of 9")]
    public void It_stays_closed_however_its_rows_lie(string shape)
    {
        // Of twelve slants six in each state, the others in the next.
        foreach (var ((how, size, mostOfAll, most), i) in new[] { ("plain", 1.5, 0, Seen), ("plain", 2.0, 0, Seen), ("tenths", 2.0, 1, 0.4), ("noise", 2.0, 2, 0.7) }.Select((state, i) => (state, i)))
        {
            var holes = Enumerable.Range(0, 6).Select(k => Sewn(shape, (k * 30) + (i % 2 * 15))).Select(s => Hole(s.Sewn, s.Rows, how, size)).ToList();
            holes.Count(h => h > Seen).ShouldBeLessThanOrEqualTo(mostOfAll, $"{how}, {size}: {string.Join(" ", holes.Select(h => $"{h:0.00}"))}");
            holes.Max().ShouldBeLessThan(most, $"{how}, {size}: {string.Join(" ", holes.Select(h => $"{h:0.00}"))}");
        }
    }

    [Theory]
    [InlineData("grid of holes", 1.2)]
    [InlineData("sieve", 3)]
    public void It_stays_closed_about_many_holes(string shape, double mostNoisy)
    {
        // Rows are parted by the holes, and most ways between lie among them as rows do: so near that rows were taken for half as far apart.
        foreach (var (how, slants, mostOfAll, most) in new[] { ("plain", new[] { 0, 60, 120 }, 0, Seen), ("tenths", [30, 90, 150], 0, Seen), ("noise", [0, 30, 60, 90, 120, 150], 3, mostNoisy) })
        {
            var holes = slants.Select(slant => Sewn(shape, slant)).Select(s => Hole(s.Sewn, s.Rows, how, 2)).ToList();
            holes.Count(h => h > Seen).ShouldBeLessThanOrEqualTo(mostOfAll, $"{how}: {string.Join(" ", holes.Select(h => $"{h:0.00}"))}");
            holes.Max().ShouldBeLessThanOrEqualTo(most, $"{how}: {string.Join(" ", holes.Select(h => $"{h:0.00}"))}");
        }
    }

    [Theory]
    [InlineData("plain")]
    [InlineData("tenths")]
    [InlineData("noise")]
    public void A_section_of_two_rows_is_of_rows(string how)
    {
        // Under a block of rows, at its right end, two more; then a way back to a section that begins at its left.
        var block = Enumerable.Range(0, 20).SelectMany(k => Row(0, 24, k * Spacing, k % 2 == 1));
        var two = Row(16, 24, 20 * Spacing, false).Concat(Row(16.4, 23.6, 21 * Spacing, true));
        var beside = Enumerable.Range(20, 12).SelectMany(k => Row(0, 9, k * Spacing, k % 2 == 1));
        var read = ReadStitches.Of(BoughtStitches.Damaged(Blob([.. block, .. two, .. beside]), how));
        var rows = read.Passages.Where(p => p.Kind == PassageKind.Fill).Select(p => p.Rungs.Length).ToList();
        rows.ShouldContain(2);
        rows.Sum().ShouldBe(20 + 2 + 12);
    }

    [Theory]
    [InlineData("plain")]
    [InlineData("tenths")]
    public void Single_rows_between_two_sections_are_sections(string how)
    {
        var above = Enumerable.Range(0, 16).SelectMany(k => Row(0, 24, k * Spacing, k % 2 == 1));
        var one = Row(14, 24, 16 * Spacing, false);
        var left = Row(0, 9, 16 * Spacing, false);
        var below = Enumerable.Range(17, 16).SelectMany(k => Row(0, 24, k * Spacing, k % 2 == 0));
        var read = ReadStitches.Of(BoughtStitches.Damaged(Blob([.. above, .. one, .. left, .. below]), how));
        read.Passages.Count(p => p is { Kind: PassageKind.Fill, Rungs.Length: 1 }).ShouldBe(2);

        // Twice as large more than one lies in its place.
        var made = Respacer.Make(read, new(2, 2), default);
        var between = Enumerable.Range(0, made.Count).Select(made.At).Where(p => p.X > 30 && p.X < 46 && Math.Abs(p.Y - (32 * Spacing)) < 0.9 * Spacing).ToList();
        between.Select(p => Math.Round(p.Y / 0.1)).Distinct().Count().ShouldBeGreaterThanOrEqualTo(2);
    }

    [Theory]
    [InlineData("plain")]
    [InlineData("tenths")]
    [InlineData("noise")]
    public void A_few_throws_along_the_rows_of_a_fill_beside_them_stay_throws(string how)
    {
        // Below a block of rows, and a short way from its end, a bar of satin whose throws go the way of the rows, slanted both ways or square over and on the slant back.
        var block = Enumerable.Range(0, 20).SelectMany(k => Row(0, 24, k * Spacing, k % 2 == 1)).ToList();
        var taken = new List<string>();
        foreach (var (width, apart, square) in from w in new[] { 3.0, 4.5, 6.0 } from a in new[] { 0.36, 0.5, 0.8 } from s in new[] { false, true } select (w, a, s))
        {
            for (var throws = 6; throws <= 16; throws += 2)
            {
                var bar = Enumerable.Range(0, throws + 1).Select(k => new Point(k % 2 == 0 ? 24 - width : 24, (20 * Spacing) + (apart * (square ? k / 2 : k / 2.0))));
                Point[] way = [new(26, 18.5 * Spacing), new(28.5, 19.5 * Spacing), new(26, 20 * Spacing)];
                var read = ReadStitches.Of(BoughtStitches.Damaged(Blob([.. block, .. way, .. bar.Reverse()]), how));
                if (read.Passages.Where(p => p.Kind == PassageKind.Fill).Sum(p => p.Rungs.Length) != 20) taken.Add($"{throws} throws of {width} mm, {apart} apart, {(square ? "square over" : "slanted")}");
            }
        }

        // Of 108; with points so far off bars of six throws are taken for rows now and then.
        taken.Count.ShouldBeLessThanOrEqualTo(how == "noise" ? 5 : 0, string.Join("; ", taken));
    }

    [Fact]
    public void Ways_that_lean_against_the_rows_beside_them_are_no_rows()
    {
        // A way that leans across the block, out and back, is a line however near it lies.
        var block = Enumerable.Range(0, 30).SelectMany(k => Row(0, 24, k * Spacing, k % 2 == 1)).ToList();
        IEnumerable<Point> away = Enumerable.Range(1, 10).Select(k => new Point(k * 2.4, (29 * Spacing) + (k * 0.35)));
        IEnumerable<Point> back = Enumerable.Range(1, 10).Select(k => new Point(24 - (k * 2.4), (29 * Spacing) + 3.5 + (k * 0.35)));
        var read = ReadStitches.Of(Blob([.. block, .. away, .. back]));
        read.Passages.Where(p => p.Kind == PassageKind.Fill).Sum(p => p.Rungs.Length).ShouldBe(30);
    }

    /// <summary>A straight row across, of stitches of some 3.3 mm, there or back.</summary>
    internal static IEnumerable<Point> Row(double from, double to, double y, bool back)
    {
        var pieces = Math.Max(1, (int)((to - from) / 3.3));
        return Enumerable.Range(0, pieces + 1).Select(s => new Point(from + ((to - from) * (back ? pieces - s : s) / pieces), y));
    }

    /// <summary>A shape filled with ways between its sections, and its rows by themselves.</summary>
    private static (StitchBlob Sewn, StitchBlob Rows) Sewn(string shape, double turn)
    {
        var sections = RareMakings.Sections([.. QualityShapes.All[shape].Select(o => o.ToArray())], turn);
        var rows = new StitchBuilder();
        foreach (var section in sections)
        {
            rows.Jump(section[0]);
            foreach (var p in section) rows.Stitch(p);
        }

        return (Blob([.. RareMakings.WithWays(sections)]), rows.ToBlob());
    }

    private static StitchBlob Blob(IReadOnlyList<Point> points)
    {
        var builder = new StitchBuilder(points.Count);
        foreach (var p in points)
            if (builder.Count == 0 || builder.Needle.DistanceTo(p) > 0.05) builder.Stitch(p);
        return builder.ToBlob();
    }

    /// <summary>The largest bare place where rows lay, mm²; those whose points were rounded to tenths may lie a tenth farther apart.</summary>
    private static double Hole(StitchBlob sewn, StitchBlob rows, string how, double size)
    {
        var read = ReadStitches.Of(BoughtStitches.Damaged(sewn, how));
        var made = Respacer.Make(read, new(size, size), default);
        var drawn = MakingMeasures.Scaled(rows, size, size);
        var box = drawn.BoundsOf(0, drawn.Count);
        return MakingMeasures.Hole(rows, made, new(box.MinX - 3, box.MinY - 3, box.MaxX + 3, box.MaxY + 3), size, size, Spacing * (how == "tenths" ? 1.1 : 1));
    }
}
