using EvenThimble.Core.Craft;
using EvenThimble.Core.Geometry;
using EvenThimble.Core.Shapes;
using EvenThimble.Core.Work;

namespace EvenThimble.Core.Digitizing.Satin;

/// <summary>
/// Tips and corners of a small shape that its finished stitches leave bare: as a hand would, the needle goes out into each from the nearest needle point, and back.
/// </summary>
internal static class SmallGaps
{
    /// <summary>Only of shapes up to so large, mm²; for larger ones there are <see cref="OpenSlots"/>.</summary>
    public const double LargestShape = 60;

    // Until no more than this part of the shape is bare.
    private const double MostLeft = 0.012;

    // A place is worth two stitches from this part of the shape on, when thread lies as far from the deepest of it, mm.
    private const double LeastPart = 0.003;
    private const double LeastDepth = Half + 0.04;

    // The needle point lies so far before the deepest, or as near to it as the shortest stitch leads, and no farther from the one that it is reached from; which is not nearer to the deepest than the last, mm.
    private const double Before = 0.12;
    private const double Longest = 1.2;
    private const double Shortest = Limits.ShortestStitch + 0.01;
    private const double Nearest = Shortest / 2;

    // No more needle points than these may lie within so far of one that gets another, mm.
    private const double Near = 0.3;
    private const int MostNear = 6;
    private const int OfTie = 3;

    private const double Half = Limits.ThreadWidth / 2;

    /// <summary>Puts needle points into a run over an area.</summary>
    public static void Close(List<Point> run, Area area, StrokeLayout layout, SatinStyle style)
    {
        if (area.SquareMm > LargestShape || run.Count < 2) return;
        var cells = layout.Cells();

        // Throws that are wanted farther apart than thread is wide count as closed.
        var half = Math.Max(Limits.ThreadWidth, style.SpacingMm) / 2;
        for (var i = 1; i < run.Count; i++) cells.TakeThread(run[i - 1], run[i], half);
        var square = cells.Size * cells.Size / area.SquareMm;
        while (cells.All.Count(AreaCells.Free) * square > MostLeft)
        {
            var tips = cells.FreePlaces().Where(p => p.Count * square >= LeastPart).OrderByDescending(p => p.Count).Select(p => Reached(run, p.ConvertAll(cells.Middle), layout));
            if (tips.FirstOrDefault(t => t is not null) is not { } tip) return;
            cells.TakeThread(run[tip.After], tip.Place, half);
            run.InsertRange(tip.After + 1, [tip.Place, run[tip.After]]);
        }
    }

    /// <summary>The needle point for a bare place, and that of the run from which it is reached; null where there is none.</summary>
    private static (int After, Point Place)? Reached(List<Point> run, List<Point> bare, StrokeLayout layout)
    {
        WorkBudget.Current.Spend(1 + (bare.Count * run.Count / 64));
        var deepest = bare.Select(p => (Place: p, Off: Off(p))).MaxBy(p => p.Off);
        if (deepest.Off < LeastDepth) return null;
        foreach (var i in Enumerable.Range(0, run.Count).OrderBy(i => run[i].DistanceTo(deepest.Place)))
        {
            var far = run[i].DistanceTo(deepest.Place);
            if (far > Longest + Before) return null;
            if (far < Nearest) continue;
            var tip = run[i].Toward(deepest.Place, Math.Max(far - Before, Shortest) / far);
            if (!layout.IsStraight(run[i], tip) || Crowd(run, run[i]) > MostNear) continue;
            return (i, tip);
        }

        return null;

        double Off(Point place)
        {
            var off = double.PositiveInfinity;
            for (var i = 1; i < run.Count; i++) off = Math.Min(off, place.DistanceToLine(run[i - 1], run[i]));
            return off;
        }
    }

    /// <summary>Needle points close to a place, with those of a tie where a run begins or ends there.</summary>
    public static int Crowd(List<Point> run, Point place) =>
        run.Count(p => p.DistanceTo(place) <= Near) + (run[0].DistanceTo(place) <= Near ? OfTie : 0) + (run[^1].DistanceTo(place) <= Near ? OfTie : 0);
}
