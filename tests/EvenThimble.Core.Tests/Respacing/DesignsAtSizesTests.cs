using EvenThimble.Core.Geometry;
using EvenThimble.Core.Recognition;
using EvenThimble.Core.Respacing;
using EvenThimble.Core.Shapes;
using EvenThimble.Core.Stitches;
using Shouldly;
using Xunit;

namespace EvenThimble.Core.Tests.Respacing;

/// <summary>Every demo design, re-spaced at other sizes.</summary>
public class DesignsAtSizesTests
{
    private const double LargestPart = 7_500;

    // Larger than a jacket's back, mm²; the parts of such a design are like those of the smaller ones.
    private const double LargestDesign = 60_000;

    public static readonly double[] Scales = [0.6, 0.8, 1.25, 1.5, 2.0];

    public static TheoryData<int, double> DesignsAndScales()
    {
        var data = new TheoryData<int, double>();
        for (var design = 0; design < Designs.Count; design++)
            foreach (var scale in ScalesOf(design))
                data.Add(design, scale);
        return data;
    }

    public static TheoryData<int, double> DesignsUpToAJacketsBack()
    {
        var data = new TheoryData<int, double>();
        foreach (var design in Enumerable.Range(0, Designs.Count))
            foreach (var scale in ScalesUpToAJacketsBack(design))
                data.Add(design, scale);
        return data;
    }

    /// <summary>Two of the scales for each design, others for the next: every scale is that of two designs in five.</summary>
    private static IEnumerable<double> ScalesOf(int design) => Enumerable.Range(2 * design, 2).Select(i => Scales[i % Scales.Length]);

    private static IEnumerable<double> ScalesUpToAJacketsBack(int design) =>
        ScalesOf(design).Where(s => Designs.Scaled(Designs.Drawn(design).Bounds, s) is var box && box.Width * box.Height <= LargestDesign);

    public static TheoryData<int> AllDesigns() => [.. Enumerable.Range(0, Designs.Count)];

    private static StitchBlob At(StitchBlob blob, double scale) => Respacer.Make(ReadStitches.Of(blob), new(scale, scale), default);

    [Theory]
    [MemberData(nameof(DesignsUpToAJacketsBack))]
    public void A_design_looks_the_same(int number, double scale)
    {
        var design = Designs.Drawn(number);
        var box = Designs.Scaled(design.Bounds, scale);
        var made = At(design.Stitches, scale);
        var (before, after) = (StitchLook.Picture(design.Stitches, box, scale, threadGrows: scale > 1), StitchLook.Picture(made, box));
        StitchLook.SamePixels(before, after).ShouldBeGreaterThan(0.97);

        // Lines do not get thicker; where there are hardly any, what is covered is nearly the same by itself.
        if (!design.Title.StartsWith("Crescent", StringComparison.Ordinal)) StitchLook.Alike(before, after).ShouldBeGreaterThan(0.965);
        var lengths = StitchLook.LengthsWithoutTies(made);
        (lengths.Count(l => l < 0.4 - 1e-9) / (double)lengths.Count).ShouldBeLessThan(0.01);
        lengths.Max().ShouldBeLessThan(12.1);
    }

    [Theory]
    [MemberData(nameof(DesignsAndScales))]
    public void Edges_stay_where_the_scaled_edges_are(int number, double scale)
    {
        // The smallest part of each design, and what is not too large to be compared in a moment.
        var parts = DenseParts(Designs.Drawn(number)).Select(p => (p.Stitches, p.Name, Box: Designs.Scaled(p.Stitches.BoundsOf(0, p.Stitches.Count), scale))).OrderBy(p => p.Box.Width * p.Box.Height).ToList();
        foreach (var (blob, name, box) in parts.Where((p, i) => i == 0 || p.Box.Width * p.Box.Height <= LargestPart))
        {
            // Drawn at twice the size the old rows lie 0.8 mm apart, and so do the teeth of their edge.
            var gap = 0.45 * Math.Max(1, scale);
            var (before, after) = (StitchLook.Patch(blob, box, gap, scale), StitchLook.Patch(At(blob, scale), box, gap));
            var (edge, stray) = StitchLook.EdgeErrors(before, after, box);
            edge.ShouldBeLessThanOrEqualTo(scale < 2 ? 0.3 : 0.45, $"{name} at {scale}");
            stray.ShouldBeLessThan(1, $"{name} at {scale}: something lies where nothing was");
        }
    }

    [Theory]
    [MemberData(nameof(AllDesigns))]
    public void As_much_thread_of_rows_and_throws_lies_in_any_place(int number)
    {
        // Ways, edge runs and underlay of few rows stay as many, and so are not counted.
        const double reach = 1.5, fromEdge = 2;
        var compared = 0;
        foreach (var (blob, name) in DenseParts(Designs.Drawn(number)))
        {
            var places = StitchLook.Inside(blob, fromEdge / Scales[0]);
            foreach (var scale in ScalesUpToAJacketsBack(number))
            {
                List<Point> inside = [.. places.Where(p => p.ToEdge >= fromEdge / Math.Min(1, scale)).Select(p => p.At)];
                if (inside.Count <= 20) continue; // a few millimetres wide
                compared++;

                var times = StitchLook.ThreadNear(Dense(At(blob, scale)), [.. inside.Select(p => p * scale)], reach) / StitchLook.ThreadNear(Dense(blob), inside, reach);
                times.ShouldBeInRange(0.9, 1.1, $"{name} at {scale}");
            }
        }

        compared.ShouldBeGreaterThan(0);
    }

    [Theory]
    [MemberData(nameof(AllDesigns))]
    public void Satin_has_stitches_by_its_length_and_fill_by_its_area(int number)
    {
        var design = Designs.Drawn(number).Stitches;
        var counted = 0;
        foreach (var passage in StitchReader.Read(design).Where(p => p.IsDense && p.Rungs.Length >= 20 && p.Confidence >= Passage.Sure))
        {
            var lengths = passage.Rungs.Select(r => design.At(r.First).DistanceTo(design.At(r.Last))).ToList();
            var blob = design.Cut(passage.First, passage.Stitches + 1);
            foreach (var scale in Scales)
            {
                // Rows of few stitches keep both ends, throws wider than 7 mm, before or after, are split and ones narrower than a needle left out.
                if (passage.Kind == PassageKind.Fill ? passage.StitchLength == 0 || lengths.Average() * Math.Min(1, scale) < 6 * passage.StitchLength : lengths.Max() * Math.Max(1, scale) > 7 || lengths.Min() * scale < 0.75) continue;
                counted++;
                var count = At(blob, scale).CountOf(StitchKind.Stitch) / (double)blob.CountOf(StitchKind.Stitch);
                (count / Math.Pow(scale, passage.Kind == PassageKind.Fill ? 2 : 1)).ShouldBeInRange(0.85, 1.15, $"{passage.Kind} of {passage.Rungs.Length} at {scale}");
            }
        }

        counted.ShouldBeGreaterThan(0);
    }

    private static StitchBlob Dense(StitchBlob blob)
    {
        var dense = new StitchBuilder();
        foreach (var passage in StitchReader.Read(blob).Where(p => p is { IsDense: true, IsUnder: false }))
        {
            dense.Trim();
            for (var i = passage.First; i <= passage.Last; i++) dense.Stitch(blob.At(i));
        }

        return dense.ToBlob();
    }

    [Fact]
    public void At_its_own_size_nothing_is_made_anew()
    {
        foreach (var design in Enumerable.Range(0, Designs.Count).Select(Designs.Drawn))
            Respacer.Make(ReadStitches.Of(design.Stitches), Sizing.Original, default).ShouldBeSameAs(design.Stitches);
    }

    /// <summary>The parts that are mostly satin or fill; lines and wide zigzags have no edge and no spacing.</summary>
    private static IEnumerable<(StitchBlob Stitches, string Name)> DenseParts(StitchFile design)
    {
        var found = 0;
        foreach (var part in design.Parts)
        {
            var blob = design.Stitches.Cut(part.First, part.Count);
            if (StitchReader.Read(blob).Where(p => p.IsDense && p.Confidence >= Passage.Sure).Sum(p => p.Stitches) < 0.6 * blob.Count) continue;
            found++;
            yield return (blob, $"{design.Title}, {part.Thread.Name}");
        }

        found.ShouldBeGreaterThan(0);
    }
}
