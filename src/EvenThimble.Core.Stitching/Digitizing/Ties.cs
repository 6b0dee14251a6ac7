using EvenThimble.Core.Craft;
using EvenThimble.Core.Geometry;
using EvenThimble.Core.Stitches;

namespace EvenThimble.Core.Digitizing;

/// <summary>Ties the ends of runs, so that they hold when the thread is cut.</summary>
public static class Ties
{
    private const int TieStitches = 3;

    /// <summary>Appends a run: a jump to it, a tie-in along its first stitches, its needle points, a tie-off back along its last and a trim.</summary>
    public static void Add(StitchBuilder builder, IReadOnlyList<Point> run)
    {
        if (run.Count < 2) return;
        builder.Jump(run[0]);
        builder.Stitch(run[0]);
        Tie(builder, run[0], run[1]);
        for (var i = 1; i < run.Count; i++) builder.Stitch(run[i]);
        Tie(builder, run[^1], run[^2]);
        builder.Trim();
    }

    /// <summary>Small stitches from a needle point toward another one and back.</summary>
    public static void Tie(StitchBuilder builder, Point at, Point toward)
    {
        var step = (toward - at).Unit() * Math.Min(Limits.TieStitch, at.DistanceTo(toward));
        for (var k = 0; k < TieStitches + 1; k++) builder.Stitch(k % 2 == 0 ? at + step : at);
    }
}
