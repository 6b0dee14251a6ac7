using EvenThimble.Core.Geometry;

namespace EvenThimble.Core.Digitizing.Satin;

/// <summary>
/// Thread that lies alone across other thread when all is sewn, as the last throw of a stroke may on the ground of another, or a way that nothing covers: the throw ends sooner, the needle goes a little aside, or
/// a needle point is left out, as long as others close all that it leaves.
/// </summary>
internal static class LoneThread
{
    /// <summary>A piece is seen from this length on, mm.</summary>
    public const double Unseen = 0.5;

    // A change has to make it shorter by so much, mm.
    private const double Worth = 0.15;

    // What leaves no more than this, mm, is taken without a look at what comes after it.
    private const double GoodEnough = 0.3;

    // A throw ends sooner by such steps, mm, or by this part of the way so far, but is no shorter than the third, mm.
    private const double Step = 0.25;
    private const double StepsOfWay = 4;
    private const double Shortest = 0.5;

    // A needle point is tried so far aside, mm, in so many directions; and one more at these parts of a stitch.
    private static readonly double[] Aside = [0.3, 0.6, 0.9];
    private const int Directions = 8;
    private static readonly double[] Parts = [0.25, 0.5, 0.75];

    private const int MostChanges = 8;

    // No more needle points than these lie close to one that is moved.
    private const int MostNear = 7;

    /// <summary>Changes a run until no piece of its thread is seen alone, as far as that can be.</summary>
    /// <param name="run">The run.</param>
    /// <param name="inside">The squares of its area.</param>
    /// <param name="layout">The strokes of that.</param>
    /// <param name="longest">No stitch may be longer, mm.</param>
    /// <param name="part">The part of the cloth that is looked at; null for all of it.</param>
    public static void Hide(List<Point> run, BitGrid inside, StrokeLayout layout, double longest, Box? part = null)
    {
        for (var changes = 0; ; changes++)
        {
            var piece = ShowingThread.LongestAlone(run, Unseen, part);
            if (piece.Length <= Unseen || changes == MostChanges || Best(run, piece.Stitch, inside, layout, longest) is not { } change) return;
            change.Make(run);
        }
    }

    private static RunChange? Best(List<Point> run, int stitch, BitGrid inside, StrokeLayout layout, double longest)
    {
        // The thread that the stitch is of goes straight from where it turns before it to where it turns after it.
        var (from, to) = (stitch - 1, stitch);
        while (from > 0 && RunChange.GoesOn(run, from)) from--;
        while (to < run.Count - 1 && RunChange.GoesOn(run, to)) to++;
        var trial = new RunTrial(run, inside, layout, Changes(run, from, to, longest), longest);
        var (best, least) = (default(RunChange?), trial.Alone - Worth);
        foreach (var change in trial.Changes)
        {
            if (trial.AloneAfter(change, least) is not { } alone || alone >= least || change.Made.Any(p => SmallGaps.Crowd(run, p) > MostNear)) continue;
            (best, least) = (change, alone);
            if (least <= GoodEnough) break;
        }

        return best;
    }

    /// <summary>What may be changed about thread that goes straight from one needle point of a run to another, the simplest first.</summary>
    private static IEnumerable<RunChange> Changes(List<Point> run, int from, int to, double longest)
    {
        var ends = new[] { (End: to, Other: from, Beyond: to + 1), (End: from, Other: to, Beyond: from - 1) }.Where(e => e.End > 0 && e.End < run.Count - 1).Select(e => (e.End, e.Other, First: Math.Min(e.Other, e.Beyond), Last: Math.Max(e.Other, e.Beyond))).ToList();
        foreach (var (end, other, first, last) in ends)
        {
            // It ends sooner, or the needle does not go there, or not to the one beyond it either.
            var length = run[end].DistanceTo(run[other]);
            for (var d = Step; d <= length - Shortest; d += Math.Max(Step, d / StepsOfWay)) yield return RunChange.Through(run, first, last, run[end].Toward(run[other], d / length), longest);
            yield return new(first, last, []);
            if (end == to && last < run.Count - 1) yield return new(first, last + 1, []);
            if (end == from && first > 0) yield return new(first - 1, last, []);
        }

        if (ends.Count == 2) yield return new(from - 1, to + 1, []);
        foreach (var (end, _, first, last) in ends)
        {
            for (var k = 0; k < Directions; k++)
            {
                var (sin, cos) = Math.SinCos(2 * Math.PI * k / Directions);
                foreach (var far in Aside) yield return RunChange.Through(run, first, last, run[end] + (new Point(cos, sin) * far), longest);
            }
        }

        var across = (run[to] - run[from]).Unit().Normal();
        foreach (var part in Parts)
            foreach (var aside in Aside)
                foreach (var side in new[] { -1, 1 })
                    yield return RunChange.Through(run, from, to, run[from].Toward(run[to], part) + (across * (side * aside)), longest);
    }
}
