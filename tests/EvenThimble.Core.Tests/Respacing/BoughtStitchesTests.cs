using EvenThimble.Core.Geometry;
using EvenThimble.Core.Recognition;
using EvenThimble.Core.Respacing;
using EvenThimble.Core.Shapes;
using EvenThimble.Core.Stitches;
using Shouldly;
using Xunit;

namespace EvenThimble.Core.Tests.Respacing;

/// <summary>Stitches that the engine did not make, read and re-spaced, as they come and on tenths of a millimetre.</summary>
public class BoughtStitchesTests
{
    private const int TieStitches = 4;

    public static TheoryData<double, bool> Sizes()
    {
        var data = new TheoryData<double, bool>();
        foreach (var scale in DesignsAtSizesTests.Scales)
            foreach (var onTenths in new[] { false, true })
                data.Add(scale, onTenths);
        return data;
    }

    [Theory]
    [InlineData(false)]
    [InlineData(true)]
    public void They_are_read_as_what_they_are(bool onTenths)
    {
        foreach (var sample in BoughtStitches.All)
        {
            var read = ReadStitches.Of(onTenths ? BoughtStitches.OnTenths(sample.Stitches) : sample.Stitches);
            read.Kind.ShouldBe(sample.IsSatin ? PassageKind.Satin : PassageKind.Fill, sample.Name);
            read.Confidence.ShouldBeGreaterThan(0.6, sample.Name);
        }
    }

    [Theory]
    [MemberData(nameof(Sizes))]
    public void Their_spacing_their_count_and_their_edges_follow(double scale, bool onTenths)
    {
        foreach (var sample in BoughtStitches.All)
        {
            var blob = onTenths ? BoughtStitches.OnTenths(sample.Stitches) : sample.Stitches;
            var made = Respacer.Make(ReadStitches.Of(blob), new(scale, scale), default);
            var (name, count) = ($"{sample.Name} at {scale}", made.CountOf(StitchKind.Stitch) / (double)blob.CountOf(StitchKind.Stitch));
            if (sample.From != sample.To && (!sample.IsSatin || sample.Width * scale > 1.05))
                (StitchLook.UsualSpacing(made, sample.From * scale, sample.To * scale) / StitchLook.UsualSpacing(blob, sample.From, sample.To)).ShouldBeInRange(0.9, 1.1, name);

            // Rows of few stitches keep both ends; throws wider than 7 mm are split.
            if (sample.IsSatin ? sample.Width * scale <= 7 : sample.HasLongRows) (count / Math.Pow(scale, sample.IsSatin ? 1 : 2)).ShouldBeInRange(0.85, 1.15, name);
            var lengths = StitchLook.LengthsWithoutTies(made);
            lengths.Max().ShouldBeLessThan(12.1, name);
            ((double)lengths.Count(l => l < 0.4 - 1e-9)).ShouldBeLessThan((0.01 * lengths.Count) + 4, name); // a tip's last rows are as short as ties
            if (sample.IsSatin) continue;

            // All samples of rows are convex, so the outermost needle points are the edge. Rows on the slant leave out up to a spacing of it.
            var (was, now) = (Hull(blob, scale), Hull(made, 1));
            Math.Max(Beyond(was, now), Beyond(now, was)).ShouldBeLessThan(scale < 2 && !sample.Name.Contains("Slant", StringComparison.Ordinal) ? 0.3 : 0.6, name);
        }
    }

    [Theory]
    [InlineData(0.6)]
    [InlineData(1.5)]
    [InlineData(2.0)]
    public void Satins_look_the_same(double scale)
    {
        foreach (var sample in BoughtStitches.All.Where(s => s.IsSatin && s.Name.Contains("0.4", StringComparison.Ordinal)))
        {
            var box = Designs.Scaled(sample.Stitches.BoundsOf(0, sample.Stitches.Count), scale);
            var gap = 0.45 * Math.Max(1, scale);
            var made = Respacer.Make(ReadStitches.Of(sample.Stitches), new(scale, scale), default);
            var (before, after) = (StitchLook.Patch(sample.Stitches, box, gap, scale), StitchLook.Patch(made, box, gap));
            StitchLook.Alike(before, after).ShouldBeGreaterThan(0.965, $"{sample.Name} at {scale}");
            StitchLook.EdgeErrors(before, after, box).Edge.ShouldBeLessThanOrEqualTo(0.3, $"{sample.Name} at {scale}");
        }
    }

    /// <summary>The outermost needle points, ties aside, in their order about the middle (A. M. Andrew, "Another efficient algorithm for convex hulls in two dimensions", 1979).</summary>
    private static List<Point> Hull(StitchBlob blob, double scale)
    {
        var points = Enumerable.Range(TieStitches, blob.Count - (2 * TieStitches)).Select(i => blob.At(i) * scale).OrderBy(p => p.X).ThenBy(p => p.Y).ToList();
        var hull = new List<Point>();
        for (var half = 0; half < 2; half++, points.Reverse())
        {
            var start = hull.Count;
            foreach (var p in points)
            {
                while (hull.Count >= start + 2 && (hull[^1] - hull[^2]).Cross(p - hull[^2]) <= 0) hull.RemoveAt(hull.Count - 1);
                hull.Add(p);
            }

            hull.RemoveAt(hull.Count - 1);
        }

        return hull;
    }

    /// <summary>How far (mm) the outermost of some points lies outside a hull.</summary>
    private static double Beyond(List<Point> points, List<Point> hull) => points.Max(p =>
        Enumerable.Range(0, hull.Count).Max(i => (hull[i] - hull[(i + 1) % hull.Count]).Unit().Cross(p - hull[i])));
}
