using EvenThimble.Core.Geometry;
using EvenThimble.Core.Work;

namespace EvenThimble.Core.Digitizing.Satin;

/// <summary>Where many needle points come close together the cloth is cut: there those are left out at which the thread goes straight on.</summary>
internal static class CrowdedPoints
{
    // More needle points than that, ties included, within so far (mm) of one cut the cloth; so many are crowded before ties come on top of them.
    public const int Harmless = 8;
    private const double Near = 0.3;
    private const int Crowded = 6;

    // A point is left out where the thread passes it so near, in a stitch no longer than this, mm.
    private const double Passes = 0.06;
    private const double Longest = 4;

    /// <summary>How many needle points lie close together where they are most.</summary>
    /// <param name="tied">The needle points of a run with its ties.</param>
    /// <param name="before">What is sewn already.</param>
    public static int Most(IEnumerable<Point> tied, IEnumerable<Point>? before = null)
    {
        var points = tied.Concat(before ?? []).ToList();
        WorkBudget.Current.Spend(points.Count / 2);
        var cells = ByCell(points);
        return points.Max(p => NearTo(p, cells).Count());
    }

    /// <summary>Takes needle points out of a run, but for its first and last.</summary>
    public static void Ease(List<Point> run)
    {
        var cells = ByCell(run);
        WorkBudget.Current.Spend(run.Count / 2);
        if (cells.Values.All(c => c.Count < 2)) return;
        var kept = new List<Point>(run.Count);
        for (var i = 0; i < run.Count; i++)
        {
            if (i > 0 && i < run.Count - 1 && IsPassed(kept[^1], run[i], run[i + 1]) && NearTo(run[i], cells).Skip(Crowded).Any()) cells[Cell(run[i])].Remove(run[i]);
            else kept.Add(run[i]);
        }

        run.Clear();
        run.AddRange(kept);
    }

    /// <summary>The needle points that lie near a place, any at the place itself included.</summary>
    private static IEnumerable<Point> NearTo(Point place, Dictionary<(int X, int Y), List<Point>> cells)
    {
        var (x, y) = Cell(place);
        for (var i = -1; i <= 1; i++)
        {
            for (var j = -1; j <= 1; j++)
            {
                if (!cells.TryGetValue((x + i, y + j), out var there)) continue;
                WorkBudget.Current.Spend(there.Count / 16);
                foreach (var point in there)
                    if (point.DistanceTo(place) <= Near)
                        yield return point;
            }
        }
    }

    private static Dictionary<(int X, int Y), List<Point>> ByCell(IEnumerable<Point> points)
    {
        var cells = new Dictionary<(int X, int Y), List<Point>>();
        foreach (var p in points)
        {
            if (!cells.TryGetValue(Cell(p), out var there)) cells[Cell(p)] = there = [];
            there.Add(p);
        }

        return cells;
    }

    private static (int X, int Y) Cell(Point p) => ((int)Math.Floor(p.X / Near), (int)Math.Floor(p.Y / Near));

    private static bool IsPassed(Point before, Point at, Point after)
    {
        var along = after - before;
        return along.Length <= Longest && (at - before).Dot(along) > 0 && (after - at).Dot(along) > 0 && Math.Abs(along.Unit().Cross(at - before)) <= Passes;
    }
}
