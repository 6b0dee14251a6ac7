using EvenThimble.Core.Geometry;
using EvenThimble.Core.Work;

namespace EvenThimble.Core.Planning.Splitting;

/// <summary>Finds which threads of a part lie so close that they hang together: as near as rows of a fill do.</summary>
internal static class HangingTogether
{
    private const double Touching = 0.5;
    private const double Cell = 1.0;

    /// <summary>For each thread the number of a thread that it hangs together with, directly or by others; the same for all of them.</summary>
    /// <param name="threads">Their needle points, mm.</param>
    public static int[] Groups(IReadOnlyList<IReadOnlyList<Point>> threads)
    {
        var group = Enumerable.Range(0, threads.Count).ToArray();
        var cells = new Dictionary<(int X, int Y), List<(int Thread, Point A, Point B)>>();
        for (var t = 0; t < threads.Count; t++)
        {
            var stitches = threads[t].Count == 1 ? [(threads[t][0], threads[t][0])] : Enumerable.Range(1, threads[t].Count - 1).Select(i => (threads[t][i - 1], threads[t][i])).ToList();
            foreach (var (a, b) in stitches)
                foreach (var cell in About(a, b))
                    if (cells.TryGetValue(cell, out var near))
                    {
                        WorkBudget.Current.Spend(1);
                        foreach (var (thread, c, d) in near)
                            if (Root(group, thread) != Root(group, t) && Distance(a, b, c, d) < Touching)
                                group[Root(group, t)] = Root(group, thread);
                    }

            foreach (var (a, b) in stitches)
                foreach (var cell in About(a, b))
                {
                    if (!cells.TryGetValue(cell, out var near)) cells[cell] = near = [];
                    near.Add((t, a, b));
                }
        }

        for (var t = 0; t < group.Length; t++) group[t] = Root(group, t);
        return group;
    }

    /// <summary>The cells that a stitch comes nearer to than threads touch.</summary>
    private static IEnumerable<(int X, int Y)> About(Point a, Point b)
    {
        const double half = Touching / 2;
        var seen = (int.MinValue, int.MinValue, int.MinValue, int.MinValue);
        var steps = Math.Max(1, (int)Math.Ceiling(a.DistanceTo(b) / (Cell / 2)));
        var cells = new HashSet<(int, int)>();
        for (var s = 0; s <= steps; s++)
        {
            var p = a.Toward(b, s / (double)steps);
            var box = ((int)Math.Floor((p.X - half) / Cell), (int)Math.Floor((p.X + half) / Cell), (int)Math.Floor((p.Y - half) / Cell), (int)Math.Floor((p.Y + half) / Cell));
            if (box == seen) continue;
            seen = box;
            for (var x = box.Item1; x <= box.Item2; x++)
                for (var y = box.Item3; y <= box.Item4; y++)
                    cells.Add((x, y));
        }

        return cells;
    }

    /// <summary>How far two stitches lie apart, mm.</summary>
    private static double Distance(Point a, Point b, Point c, Point d)
    {
        var (one, other) = (b - a, d - c);
        if (((c - a).Cross(one) > 0) != ((d - a).Cross(one) > 0) && ((a - c).Cross(other) > 0) != ((b - c).Cross(other) > 0)) return 0;
        return Math.Min(Math.Min(ToLine(a, c, d), ToLine(b, c, d)), Math.Min(ToLine(c, a, b), ToLine(d, a, b)));
    }

    private static double ToLine(Point p, Point from, Point to)
    {
        var way = to - from;
        var t = Math.Clamp((p - from).Dot(way) / Math.Max(1e-12, way.Dot(way)), 0, 1);
        return p.DistanceTo(from.Toward(to, t));
    }

    private static int Root(int[] group, int i)
    {
        while (group[i] != i) i = group[i] = group[group[i]];
        return i;
    }
}
