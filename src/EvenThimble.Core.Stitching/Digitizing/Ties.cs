using EvenThimble.Core.Craft;
using EvenThimble.Core.Geometry;
using EvenThimble.Core.Stitches;

namespace EvenThimble.Core.Digitizing;

/// <summary>Ties the ends of runs, so that they hold when the thread is cut.</summary>
public static class Ties
{
    private const int TieStitches = 3;

    /// <summary>Appends a run: a jump to it, a tie-in, its needle points, a tie-off and a trim.</summary>
    public static void Add(StitchBuilder builder, IReadOnlyList<Point> run)
    {
        if (run.Count < 2) return;
        builder.Jump(run[0]);
        foreach (var point in Tied(run)) builder.Stitch(point);
        builder.Trim();
    }

    /// <summary>The needle points of a run of two or more, with those of the ties at its ends. The first is of small steps where the run begins with a way that the rest is sewn over; else the thread goes to and fro.</summary>
    internal static IEnumerable<Point> Tied(IReadOnlyList<Point> run) =>
        SmallSteps(run) is var (steps, passed) ? [run[0], .. steps, .. TiedOff(run).Skip(passed)] : [run[0], .. ToAndFro(run[0], run[1]), .. TiedOff(run).Skip(1)];

    /// <summary>The same where the thread is tied before it: with those of the tie at its end alone.</summary>
    internal static IEnumerable<Point> TiedOff(IReadOnlyList<Point> run) => [.. run, .. ToAndFro(run[^1], run[^2])];

    /// <summary>Small stitches from a needle point toward another one and back.</summary>
    public static void Tie(StitchBuilder builder, Point at, Point toward)
    {
        foreach (var point in Tie(at, toward, TieStitches + 1)) builder.Stitch(point);
    }

    /// <summary>A tie that ends on its way to the other point, where that is far enough; else back where it begins.</summary>
    private static IEnumerable<Point> ToAndFro(Point at, Point toward) =>
        Tie(at, toward, at.DistanceTo(toward) - Limits.TieStitch >= Limits.ShortestStitch ? TieStitches : TieStitches + 1);

    private static IEnumerable<Point> Tie(Point at, Point toward, int stitches)
    {
        var step = (toward - at).Unit() * Math.Min(Limits.TieStitch, at.DistanceTo(toward));
        return Enumerable.Range(0, stitches).Select(k => k % 2 == 0 ? at + step : at);
    }

    /// <summary>Small steps along the way that a run begins with, and how many of its first points they take the place of; null where too little is sewn over them.</summary>
    private static (List<Point> Steps, int Passed)? SmallSteps(IReadOnlyList<Point> run)
    {
        var (steps, passed) = (new List<Point>(), 1);
        while (steps.Count < HeldSteps.Enough && passed < run.Count)
        {
            var (from, to, wanted) = (run[passed - 1], run[passed], HeldSteps.Enough - steps.Count);
            var length = from.DistanceTo(to);
            if (length - (wanted * Limits.TieStitch) >= Limits.ShortestStitch)
            {
                steps.AddRange(Enumerable.Range(1, wanted).Select(k => from.Toward(to, k * Limits.TieStitch / length)));
                break;
            }

            var pieces = Math.Ceiling(length / HeldSteps.Longest);
            for (var k = 1; k <= pieces; k++) steps.Add(from.Toward(to, k / pieces));
            passed++;
        }

        return steps.Count >= HeldSteps.Enough && HeldSteps.Hold([run[0], .. steps], run, passed) ? (steps, passed) : null;
    }
}
