using EvenThimble.Core.Craft;
using EvenThimble.Core.Geometry;
using EvenThimble.Core.Stitches;

namespace EvenThimble.Core.Digitizing;

/// <summary>Ties the ends of runs, so that they hold when the thread is cut.</summary>
public static class Ties
{
    private const int TieStitches = 3;

    /// <summary>Appends a run: a jump to it, a tie-in along its first stitch, its needle points, a tie-off back along its last and a trim.</summary>
    public static void Add(StitchBuilder builder, IReadOnlyList<Point> run)
    {
        if (run.Count < 2) return;
        builder.Jump(run[0]);
        builder.Stitch(run[0]);
        TieOn(builder, run[0], run[1]);
        for (var i = 1; i < run.Count; i++) builder.Stitch(run[i]);
        TieOn(builder, run[^1], run[^2]);
        builder.Trim();
    }

    /// <summary>Small stitches from a needle point toward another one and back.</summary>
    public static void Tie(StitchBuilder builder, Point at, Point toward) => Tie(builder, at, toward, TieStitches + 1);

    /// <summary>A tie that ends on its way to the other point, where that is far enough; else back where it begins.</summary>
    private static void TieOn(StitchBuilder builder, Point at, Point toward) =>
        Tie(builder, at, toward, at.DistanceTo(toward) - Limits.TieStitch >= Limits.ShortestStitch ? TieStitches : TieStitches + 1);

    private static void Tie(StitchBuilder builder, Point at, Point toward, int stitches)
    {
        var step = (toward - at).Unit() * Math.Min(Limits.TieStitch, at.DistanceTo(toward));
        for (var k = 0; k < stitches; k++) builder.Stitch(k % 2 == 0 ? at + step : at);
    }
}
