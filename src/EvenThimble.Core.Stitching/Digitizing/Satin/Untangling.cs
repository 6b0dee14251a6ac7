using EvenThimble.Core.Geometry;

namespace EvenThimble.Core.Digitizing.Satin;

/// <summary>Rungs of a stroke in such an order that none is in another's way: where they turn, none goes back along an edge, crosses another or lies upon one.</summary>
internal static class Untangling
{
    // A rung is left out that lies within the one part of the spacing of the last, where the next lies within the other part of it.
    private const double LeastApart = 0.45;
    private const double MostApart = 1.1;

    // One whose middle lies so far beside it no longer runs as it was thrown, mm; it may leave the area by so much of its length.
    private const double Beside = 0.1;
    private const double MostOutside = 0.8;

    /// <summary>The same rungs untangled, fewer where they lie upon each other.</summary>
    /// <param name="rungs">In their order along the stroke.</param>
    /// <param name="outline">The edges of the area, beyond which none goes.</param>
    /// <param name="spacing">How far apart throws lie, mm.</param>
    public static List<Rung> Of(List<Rung> rungs, Walls outline, double spacing) => Thinned(Inside(Uncrossed(Unfolded(rungs, outline)), outline), spacing);

    /// <summary>Where rungs turn faster than an edge allows, their ends would come back along it: there they are spread evenly from the last before the fold to the first behind it, as a fan; at an end of the stroke they fan out from the place that was reached farthest.</summary>
    private static List<Rung> Unfolded(List<Rung> rungs, Walls outline)
    {
        if (rungs.Count < 3) return rungs;
        var unfolded = rungs.ToList();
        foreach (var isLeft in new[] { true, false })
        {
            // How far along its edge each end lies.
            var along = new double[rungs.Count];
            for (var i = 1; i < rungs.Count; i++)
                along[i] = along[i - 1] + (End(i) - End(i - 1)).Dot(Forward(rungs[i - 1]) + Forward(rungs[i])) / 2;
            for (var i = 1; i < rungs.Count; i++)
            {
                if (along[i] >= along[i - 1]) continue;
                var (first, last, most, least) = (i - 1, i, along[i - 1], along[i]);
                for (var grown = true; grown;)
                {
                    grown = false;
                    while (first > 0 && along[first - 1] > least) (first, most, grown) = (first - 1, Math.Max(most, along[first - 1]), true);
                    while (last < rungs.Count - 1 && along[last + 1] < most) (last, least, grown) = (last + 1, Math.Min(least, along[last + 1]), true);
                }

                if (first > 0 && last < rungs.Count - 1)
                {
                    for (var k = first; k <= last; k++) PutEnd(k, Within(rungs[k].Middle, End(first - 1).Toward(End(last + 1), (k - first + 1) / (double)(last - first + 2))));
                }
                else if (first > 0)
                {
                    var turn = Enumerable.Range(first, last - first + 1).MaxBy(k => along[k]);
                    for (var k = turn + 1; k <= last; k++) PutEnd(k, Within(rungs[k].Middle, End(turn)));
                }
                else if (last < rungs.Count - 1)
                {
                    var turn = Enumerable.Range(first, last - first + 1).MinBy(k => along[k]);
                    for (var k = first; k < turn; k++) PutEnd(k, Within(rungs[k].Middle, End(turn)));
                }

                i = last;
            }

            Point End(int i) => isLeft ? rungs[i].Left : rungs[i].Right;

            void PutEnd(int i, Point end) => unfolded[i] = isLeft ? unfolded[i] with { Left = end } : unfolded[i] with { Right = end };
        }

        return unfolded;

        static Point Forward(Rung r) => (r.Right - r.Left).Unit().Normal();

        Point Within(Point from, Point end) => outline.Leave(from, (end - from).Unit()) is { } wall && wall < from.DistanceTo(end) ? from + ((end - from).Unit() * wall) : end;
    }

    /// <summary>Where a rung whose ends were moved leaves the area it ends there; without one that lies beyond its edge altogether.</summary>
    private static List<Rung> Inside(List<Rung> rungs, Walls outline)
    {
        var inside = new List<Rung>(rungs.Count);
        foreach (var r in rungs)
        {
            if (r.Middle.DistanceToLine(r.Left, r.Right) < Beside)
            {
                inside.Add(r);
                continue;
            }

            var (length, across) = (r.Width, (r.Right - r.Left).Unit());
            var at = Math.Clamp((r.Middle - r.Left).Dot(across), 0, length);
            var from = r.Left + (across * at);
            if (outline.Leave(from, across) is { } right && outline.Leave(from, across * -1) is { } left)
                inside.Add(r with { Left = left < at - MostOutside ? from - (across * left) : r.Left, Right = right < length - at - MostOutside ? from + (across * right) : r.Right });
        }

        return inside;
    }

    /// <summary>Where rungs turn to and fro and lie upon each other along their whole length, those are left out that the one before covers, as long as the next is no farther from it than usual.</summary>
    private static List<Rung> Thinned(List<Rung> rungs, double spacing)
    {
        var thinned = new List<Rung>(rungs.Count);
        for (var i = 0; i < rungs.Count; i++)
            if (i == 0 || i == rungs.Count - 1 || Apart(thinned[^1], rungs[i]) > LeastApart * spacing || Apart(thinned[^1], rungs[i + 1]) > MostApart * spacing)
                thinned.Add(rungs[i]);
        return thinned;

        static double Apart(Rung a, Rung b) => Math.Max(b.Left.DistanceToLine(a.Left, a.Right), b.Right.DistanceToLine(a.Left, a.Right));
    }

    /// <summary>No rung crosses the one before: on the inside of a tight bend it stops short of it.</summary>
    private static List<Rung> Uncrossed(List<Rung> rungs)
    {
        const double apart = 0.05;
        for (var i = 1; i < rungs.Count; i++)
        {
            var (a, b) = (rungs[i - 1], rungs[i]);
            var (u, v) = (a.Right - a.Left, b.Right - b.Left);
            var cross = v.Cross(u);
            if (Math.Abs(cross) < 1e-9) continue;
            var (t, w) = ((a.Left - b.Left).Cross(u) / cross, (a.Left - b.Left).Cross(v) / cross);
            if (t is <= 0 or >= 1 || w is <= 0 or >= 1) continue;
            var back = Math.Min(0.3, apart / Math.Max(v.Length, 1e-9));
            rungs[i] = t > 0.5 ? b with { Right = b.Left.Toward(b.Right, Math.Max(0.5, t - back)) } : b with { Left = b.Left.Toward(b.Right, Math.Min(0.5, t + back)) };
        }

        return rungs;
    }
}
