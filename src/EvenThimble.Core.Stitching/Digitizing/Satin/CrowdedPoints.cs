using System.Runtime.InteropServices;
using EvenThimble.Core.Geometry;
using EvenThimble.Core.Work;

namespace EvenThimble.Core.Digitizing.Satin;

/// <summary>Where many needle points come close together the cloth is cut: there those are left out at which the thread goes straight on, and where that is not enough others end elsewhere.</summary>
internal static class CrowdedPoints
{
    // More needle points than that, ties included, within so far (mm) of one cut the cloth; so many are crowded before ties come on top of them.
    public const int Harmless = 8;
    private const double Near = 0.3;
    private const int Crowded = 6;

    // What lies near a place of a cell as large lies in a block of so many.
    private const int Block = 9;

    // A cell has one number: its column so many times, and its row.
    private const long Column = 1L << 32;

    // A point is left out where the thread passes it so near, in a stitch no longer than this, mm.
    private const double Passes = 0.06;
    private const double Longest = 4;

    // One that ends elsewhere is moved by such steps, so often, mm. No more changes are made than that.
    private const double Step = 0.25;
    private const int Steps = 6;
    private const int MostChanges = 6;

    /// <summary>How many needle points lie close together where they are most; never less than what is harmless.</summary>
    /// <param name="tied">The needle points of a run with its ties.</param>
    /// <param name="before">What is sewn already.</param>
    public static int Most(IEnumerable<Point> tied, IEnumerable<Point>? before = null) => Densest([.. tied, .. before ?? []]).Count;

    /// <summary>Moves needle points of a finished run away from where too many lie, ties included, or leaves them out, as far as nothing comes to be bare or to lie alone.</summary>
    /// <param name="run">The run.</param>
    /// <param name="inside">The squares of its area.</param>
    /// <param name="layout">The strokes of that.</param>
    /// <param name="longest">No stitch may be longer, mm.</param>
    public static void Spread(List<Point> run, BitGrid inside, StrokeLayout layout, double longest)
    {
        for (var done = 0; done < MostChanges; done++)
        {
            var tied = Ties.Tied(run).ToList();
            var (place, count) = Densest(tied);
            if (count <= Harmless) return;
            var trial = new RunTrial(run, inside, layout, Enumerable.Range(1, run.Count - 2).Where(i => run[i].DistanceTo(place) <= Near).SelectMany(i => Changes(run, i, longest)), longest);
            var (best, fewest) = (default(RunChange?), count);
            tied.RemoveAll(p => !trial.Part.Holds(p));
            foreach (var change in trial.Changes)
                if (MostAfter(change, run, tied, place) is var most && most < fewest && trial.AloneAfter(change, Math.Max(LoneThread.Unseen, trial.Alone)) is not null)
                    (best, fewest) = (change, most);
            if (best is null) return;
            best.Make(run);
        }
    }

    /// <summary>How many needle points lie close together after a change; away from the crowded place and from where others come instead all is as it was.</summary>
    private static int MostAfter(RunChange change, List<Point> run, List<Point> tied, Point place)
    {
        var about = change.Made.Append(place).Select(p => Box.Between(p, p).Grown(2 * Near)).ToArray();
        var near = tied.FindAll(IsNear);

        // A tie goes toward the needle point that is next to it.
        if (change.First > 0 && change.Last < run.Count - 1)
        {
            foreach (var gone in run[(change.First + 1)..change.Last]) near.Remove(gone);
            near.AddRange(change.Made);
        }
        else
        {
            var changed = run.ToList();
            change.Make(changed);
            near = Ties.Tied(changed).Where(IsNear).ToList();
        }

        return near.Count == 0 ? 0 : Most(near);

        bool IsNear(Point p) => Array.Exists(about, b => b.Holds(p));
    }

    private static IEnumerable<RunChange> Changes(List<Point> run, int number, double longest)
    {
        yield return new(number - 1, number + 1, []);
        if (number + 2 < run.Count) yield return new(number - 1, number + 2, []);
        foreach (var toward in new[] { run[number - 1], run[number + 1] })
        {
            var length = run[number].DistanceTo(toward);
            for (var k = 1; k <= Steps && k * Step < length; k++) yield return RunChange.Through(run, number - 1, number + 1, run[number].Toward(toward, k * Step / length), longest);
        }
    }

    /// <summary>Of needle points the one that most lie close to, the first of several, and how many do, where those are more than what is harmless.</summary>
    private static (Point Place, int Count) Densest(List<Point> points)
    {
        WorkBudget.Current.Spend(points.Count / 2);
        var counts = new Dictionary<long, int>();
        foreach (var p in points) CollectionsMarshal.GetValueRefOrAddDefault(counts, Cell(p), out _)++;
        var (best, crowded) = ((Place: points[0], Count: Harmless), points.FindAll(p => About(Cell(p)) > Harmless));
        if (crowded.Count == 0) return best;
        var cells = ByCell(points);
        foreach (var p in crowded)
            if (NearTo(p, cells).Count() is var count && count > best.Count)
                best = (p, count);
        return best;

        int About(long cell)
        {
            var count = 0;
            for (var k = 0; k < Block; k++) count += counts.GetValueOrDefault(InBlock(cell, k));
            return count;
        }
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
    private static IEnumerable<Point> NearTo(Point place, Dictionary<long, List<Point>> cells)
    {
        for (var (k, cell) = (0, Cell(place)); k < Block; k++)
        {
            if (!cells.TryGetValue(InBlock(cell, k), out var there)) continue;
            WorkBudget.Current.Spend(there.Count / 16);
            foreach (var point in there)
                if (point.DistanceTo(place) <= Near)
                    yield return point;
        }
    }

    /// <summary>One of the cells that hold all needle points near the places of a cell.</summary>
    private static long InBlock(long cell, int number) => cell + (((number / 3) - 1) * Column) + (number % 3) - 1;

    private static Dictionary<long, List<Point>> ByCell(IEnumerable<Point> points)
    {
        var cells = new Dictionary<long, List<Point>>();
        foreach (var p in points)
        {
            if (!cells.TryGetValue(Cell(p), out var there)) cells[Cell(p)] = there = [];
            there.Add(p);
        }

        return cells;
    }

    private static long Cell(Point p) => ((long)Math.Floor(p.X / Near) * Column) + (long)Math.Floor(p.Y / Near);

    private static bool IsPassed(Point before, Point at, Point after)
    {
        var along = after - before;
        return along.Length <= Longest && (at - before).Dot(along) > 0 && (after - at).Dot(along) > 0 && Math.Abs(along.Unit().Cross(at - before)) <= Passes;
    }
}
