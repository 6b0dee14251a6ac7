using EvenThimble.Core.Geometry;
using EvenThimble.Core.Stitches;

namespace EvenThimble.Core.Recognition;

/// <summary>Small stitches at the ends of a thread that hold it.</summary>
internal static class TieReading
{
    private const double TieStitch = 1.05;
    private const double TieSpot = 0.25;
    private const double ReturnSpot = 0.22;
    private const double TinyStep = 0.75;
    private const double StepAfter = 1.8;

    /// <summary>
    /// Where small stitches end that begin at a point and hold the thread: to and fro between two spots, out and back to the first spot as in a triangle or a star, or a few tiny steps forward before
    /// longer ones or under what is sewn over them; the same point when there are none.
    /// </summary>
    public static int End(IReadOnlyList<Point> points, int start, int step)
    {
        const int mostStitches = 9, fewestStitches = 3;
        var (small, between, returned, tiny) = (0, 0, 0, 0);
        Point? other = null;
        var (twoSpots, atStart) = (true, true);
        double Length(int k) => points[start + ((k - 1) * step)].DistanceTo(points[start + (k * step)]);
        bool GoesOn(int k) => k == 1 || (points[start + (k * step)] - points[start + ((k - 1) * step)]).Dot(points[start + ((k - 1) * step)] - points[start + ((k - 2) * step)]) > 0;
        bool IsThere(int k) => start + (k * step) is var at && at >= 0 && at < points.Count;
        for (var k = 1; k <= mostStitches && IsThere(k) && Length(k) <= TieStitch; k++)
        {
            var (at, away) = (points[start + (k * step)], points[start + (k * step)].DistanceTo(points[start]));
            small = k;
            if (tiny == k - 1 && Length(k) <= TinyStep && GoesOn(k)) tiny = k;
            // To and fro: throws of a satin that begins in a tip lie near both spots, but do not go from one to the other.
            if (away <= TieSpot && !atStart && twoSpots) (between, atStart) = (k, true);
            else if (twoSpots && atStart && (other ??= at).DistanceTo(at) <= ReturnSpot) (between, atStart) = (k, false);
            else twoSpots = false;
            if (away <= ReturnSpot && Length(k) >= TieSpot) returned = k;
        }

        // The last small stitch may already lead away.
        var held = Math.Max(between, returned);
        if (held < fewestStitches && tiny >= fewestStitches && tiny == small && IsThere(tiny + 1) && Length(tiny + 1) >= StepAfter * TinyStep) held = tiny;
        if (held < fewestStitches && (start, step) == (0, 1) && HeldSteps.Begin(points)) held = HeldSteps.Enough;
        return held < fewestStitches ? start : start + (held * step);
    }
}
