using EvenThimble.Core.Craft;
using EvenThimble.Core.Digitizing;
using EvenThimble.Core.Geometry;
using EvenThimble.Core.Recognition;
using EvenThimble.Core.Respacing;
using EvenThimble.Core.Shapes;
using EvenThimble.Core.Stitches;
using EvenThimble.Core.Tests.Quality;

namespace EvenThimble.Core.Tests.Digitizing;

/// <summary>Each thread holds where it begins and where it ends: three small stitches go to and fro, or, under what is sewn over them, on along the way.</summary>
public class TiesTests
{
    private const double Longest = 0.81;

    public static TheoryData<StitchWay> Ways() => [.. Enum.GetValues<StitchWay>().Where(w => w.IsOfArea())];

    [Theory]
    [MemberData(nameof(Ways))]
    public void Every_thread_of_an_area_is_tied_at_both_ends(StitchWay way)
    {
        var (held, loose) = (0, new List<string>());
        foreach (var (name, outlines) in QualityShapes.All.Where((_, i) => i % 3 == 0))
            foreach (var size in new[] { 0.2, 1 })
                foreach (var run in LetterLook.Sewn([.. outlines.Select(o => o.Select(p => p * size).ToArray())], way))
                {
                    if (IsHeld(run)) held++;
                    else if (!IsToAndFro(run)) loose.Add($"{name} at {size} begins");
                    run.Reverse();
                    if (!IsToAndFro(run)) loose.Add($"{name} at {size} ends");
                }

        loose.ShouldBeEmpty();
        held.ShouldBeGreaterThan(10, "some are tied by steps along their way");
    }

    [Theory]
    [InlineData(0.9)]
    [InlineData(2.5)]
    [InlineData(6)]
    public void What_is_sewn_over_the_way_that_it_begins_with_has_no_thread_upon_thread_there(double width)
    {
        var bar = BasicShapes.Rectangle(30, width);
        var run = Digitizer.Runs(bar, new(StitchWay.Satin), ClothProfiles.Cotton).Single();
        var tied = LetterLook.Sewn([.. bar.Paths.Select(p => p.Flattened().ToArray())], StitchWay.Satin).Single();
        IsHeld(tied).ShouldBeTrue();
        tied.Take(4).ShouldAllBe(p => tied.Take(5).Count(q => q.DistanceTo(p) < 0.35) == 1);
        (Polylines.Length(tied) - Polylines.Length(run)).ShouldBe(3 * Limits.TieStitch, 0.01, "the tie at its end alone");
    }

    [Fact]
    public void A_line_that_nothing_is_sewn_over_is_tied_to_and_fro()
    {
        foreach (var way in new[] { StitchWay.Run, StitchWay.TripleRun })
        {
            var blob = Digitizer.Stitch(new([ShapePath.Through([new(0, 0), new(20, 0), new(30, 15)], closed: false)]), new(way), ClothProfiles.Cotton);
            var run = Enumerable.Range(0, blob.Count).Where(i => blob.Kinds[i] == StitchKind.Stitch).Select(blob.At).ToList();
            IsToAndFro(run).ShouldBeTrue(way.InWords());
        }
    }

    [Theory]
    [InlineData(0.5)]
    [InlineData(0.8)]
    [InlineData(1.5)]
    [InlineData(2)]
    public void Read_as_bought_such_a_tie_stays_small_at_any_size(double scale)
    {
        var (held, lost) = (0, new List<string>());
        foreach (var (name, outlines) in QualityShapes.All.Where((_, i) => i % 2 == 0))
        {
            var blob = Digitizer.Stitch(new([.. outlines.Select(o => ShapePath.Through([.. o.Select(p => p * 0.25)], closed: true))]), new(StitchWay.Satin), ClothProfiles.Cotton);
            if (!IsHeld(Stitches(blob))) continue;
            held++;
            if (!AreSmall(Stitches(Respacer.Make(ReadStitches.Of(blob), new(scale, scale), default)))) lost.Add(name);
        }

        lost.ShouldBeEmpty();
        held.ShouldBeGreaterThan(10);
    }

    private static List<Point> Stitches(StitchBlob blob) => [.. Enumerable.Range(0, blob.Count).Where(i => blob.Kinds[i] == StitchKind.Stitch).Select(blob.At)];

    private static bool AreSmall(List<Point> run) => run.Count > 4 && Enumerable.Range(0, 3).All(i => run[i].DistanceTo(run[i + 1]) < Longest);

    private static bool IsToAndFro(List<Point> run) => AreSmall(run) && run[2].DistanceTo(run[0]) < 0.01 && run[3].DistanceTo(run[1]) < 0.01;

    /// <summary>Whether three small steps lie under stitches that come later, each under one at least.</summary>
    private static bool IsHeld(List<Point> run) => AreSmall(run) && Enumerable.Range(0, 3).All(i => Enumerable.Range(4, run.Count - 5).Any(k => LieAcross(run[i], run[i + 1], run[k], run[k + 1])));

    private static bool LieAcross(Point a, Point b, Point c, Point d)
    {
        var (u, v, w) = (b - a, d - c, c - a);
        var (s, t) = (w.Cross(v) / u.Cross(v), w.Cross(u) / u.Cross(v));
        return s is > 0 and < 1 && t is > 0 and < 1;
    }
}
