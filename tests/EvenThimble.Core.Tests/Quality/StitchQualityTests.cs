using EvenThimble.Core.Craft;
using EvenThimble.Core.Digitizing;
using EvenThimble.Core.Geometry;
using EvenThimble.Core.Shapes;
using FsCheck.Xunit;

namespace EvenThimble.Core.Tests.Quality;

public class StitchQualityTests
{
    private const double BeyondCompensation = 0.2;

    // What has no strokes has no direction that throws could be square to; these figures only tell that it gets no worse.
    private static readonly Dictionary<string, double> Strokeless = new() { ["3,000 points"] = 20, ["8,000 noisy points"] = 35, ["sieve"] = 25, ["hole that touches the edge"] = 17 };

    public static TheoryData<string> Names => [.. QualityShapes.All.Keys];

    // The largest is all satin or all fill, which are measured by themselves.
    public static TheoryData<string> NamesButTheLargest => [.. QualityShapes.All.Keys.Where(n => n != "8,000 noisy points")];

    public static IReadOnlyList<List<Point>> Stitched(Point[][] outlines, StitchWay way) =>
        Digitizer.Runs(new([.. outlines.Select(o => ShapePath.Through(o, closed: true))]), new(way), ClothProfiles.Cotton);

    public static StitchMeasure Measured(Point[][] outlines, IReadOnlyList<List<Point>> runs) =>
        StitchMeasure.Of(outlines, runs, ClothProfiles.Cotton.CompensationMm + BeyondCompensation);

    [Theory]
    [MemberData(nameof(Names))]
    public void Fill_covers_a_shape_and_keeps_to_it(string name) => Judge(QualityShapes.All[name], StitchWay.Fill, 97);

    [Theory]
    [MemberData(nameof(Names))]
    public void Satin_covers_a_shape_and_is_thrown_square(string name) => Judge(QualityShapes.All[name], StitchWay.Satin, 96, Strokeless.GetValueOrDefault(name, 15));

    [Theory]
    [MemberData(nameof(NamesButTheLargest))]
    public void Stitches_chosen_by_width_cover_a_shape_and_keep_to_it(string name) => Judge(QualityShapes.All[name], StitchWay.Automatic, 96);

    [Property(MaxTest = 100)]
    public void Any_shape_is_covered_by_fill(int seed) => Judge(QualityShapes.Random(seed), StitchWay.Fill, 97);

    [Property(MaxTest = 100)]
    public void Any_shape_is_covered_by_satin(int seed) => Judge(QualityShapes.Random(seed), StitchWay.Satin, 96, mostFromSquare: 30);

    [Fact]
    public void Throws_over_many_shapes_are_square_on_average() =>
        Enumerable.Range(0, 80).Select(QualityShapes.Random).Average(s => Measured(s, Stitched(s, StitchWay.Satin)).FromSquare).ShouldBeLessThan(12);

    [Property(MaxTest = 80)]
    public void Any_shape_is_covered_by_what_suits_its_width(int seed) => Judge(QualityShapes.Random(seed), StitchWay.Automatic, 96);

    [Property(MaxTest = 40)]
    public void The_same_shape_gives_the_same_stitches(int seed)
    {
        foreach (var way in new[] { StitchWay.Fill, StitchWay.Satin, StitchWay.Automatic })
            Stitched(QualityShapes.Random(seed), way).SelectMany(r => r).ShouldBe(Stitched(QualityShapes.Random(seed), way).SelectMany(r => r));
    }

    private static void Judge(Point[][] outlines, StitchWay way, double leastCoverage, double mostFromSquare = 15)
    {
        var runs = Stitched(outlines, way);
        var found = Measured(outlines, runs);
        found.Coverage.ShouldBeGreaterThanOrEqualTo(leastCoverage, $"coverage in percent; {found}");
        found.Outside.ShouldBeLessThanOrEqualTo(2, $"percent of thread beyond the edge; {found}");
        found.Longest.ShouldBeLessThanOrEqualTo(Limits.LongestStitch, $"longest stitch; {found}");
        found.Short.ShouldBeLessThan(1, $"percent of stitches that are too short; {found}");
        runs.Count.ShouldBeLessThanOrEqualTo(Area.Of(outlines).Count, "one unbroken run for each connected area");
        if (way == StitchWay.Satin) found.FromSquare.ShouldBeLessThanOrEqualTo(mostFromSquare, $"degrees off square; {found}");
    }
}
