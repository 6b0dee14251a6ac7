using EvenThimble.Core.Geometry;
using EvenThimble.Core.Stitches;
using EvenThimble.Core.Work;

namespace EvenThimble.Core.Planning.Ordering;

/// <summary>Which parts of a plan lie over each other, by the thread that is seen on each small square of the cloth.</summary>
public sealed class Overlaps
{
    private const double Cell = 0.5;
    private const int FewestCells = 3;
    private readonly Dictionary<(int, int), Point> _pairs = [];

    private Overlaps()
    {
    }

    /// <summary>Looks at all parts of a plan.</summary>
    public static Overlaps Of(SewingPlan plan)
    {
        var found = new Overlaps();
        if (plan.Bounds.IsEmpty) return found;
        var (left, top) = (plan.Bounds.MinX - Cell, plan.Bounds.MinY - Cell);
        var cells = new Dictionary<(int Column, int Row), List<int>>();
        var shared = new Dictionary<(int, int), (int Cells, Point Sum)>();
        for (var n = 0; n < plan.Parts.Length; n++)
        {
            var part = plan.Parts[n];
            var last = (-1, -1);
            for (var i = part.First; i < part.End; i++)
            {
                if (plan.Records.Kinds[i] != StitchKind.Stitch) continue;
                var b = plan.Records.At(i);
                var a = i > part.First && plan.Records.Kinds[i - 1] == StitchKind.Stitch ? plan.Records.At(i - 1) : b;
                var steps = Math.Max(1, (int)Math.Ceiling(a.DistanceTo(b) / Cell));
                for (var s = 0; s <= steps; s++)
                {
                    var p = a.Toward(b, s / (double)steps);
                    WorkBudget.Current.Spend();
                    var cell = ((int)((p.X - left) / Cell), (int)((p.Y - top) / Cell));
                    if (cell == last) continue;
                    last = cell;
                    if (!cells.TryGetValue(cell, out var there)) cells[cell] = there = new(1);
                    if (there.Count > 0 && there[^1] == n) continue;
                    WorkBudget.Current.Spend(there.Count);
                    foreach (var other in there)
                    {
                        var (count, sum) = shared.GetValueOrDefault((other, n));
                        shared[(other, n)] = (count + 1, sum + p);
                    }

                    there.Add(n);
                }
            }
        }

        foreach (var (pair, (count, sum)) in shared)
            if (count >= FewestCells)
                found._pairs[pair] = sum / count;
        return found;
    }

    /// <summary>Where two parts (by their numbers in the plan) lie over each other, about the middle of it, mm; null when they do not.</summary>
    public Point? Where(int a, int b) => _pairs.TryGetValue(a < b ? (a, b) : (b, a), out var at) ? at : null;
}
