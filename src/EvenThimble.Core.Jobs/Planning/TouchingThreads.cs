using EvenThimble.Core.Stitches;
using EvenThimble.Core.Work;

namespace EvenThimble.Core.Planning;

/// <summary>Which threads of a plan lie beside or over each other on the cloth, so that one sees where one ends and the other begins.</summary>
public static class TouchingThreads
{
    // Threads of neighbouring squares touch; a line that only crosses another, or an end that lies beside it, is no border.
    private const double CellMm = 1;
    private const int FewestCells = 3;

    /// <summary>Pairs of threads by their numbers in <see cref="SewingPlan.Threads"/>, the lesser first.</summary>
    public static IReadOnlySet<(int One, int Other)> Of(SewingPlan plan)
    {
        var numbers = plan.Threads.Select((t, n) => (t, n)).ToDictionary(t => t.t, t => t.n);
        var cells = new Dictionary<(int Column, int Row), HashSet<int>>();
        foreach (var part in plan.Parts)
        {
            var thread = numbers[part.Thread];
            for (var i = part.First; i < part.End; i++)
            {
                if (plan.Records.Kinds[i] != StitchKind.Stitch) continue;
                var to = plan.Records.At(i);
                var from = i > part.First && plan.Records.Kinds[i - 1] == StitchKind.Stitch ? plan.Records.At(i - 1) : to;
                var steps = 1 + (int)(from.DistanceTo(to) / CellMm);
                WorkBudget.Current.Spend(steps);
                for (var s = 0; s <= steps; s++)
                {
                    var p = from.Toward(to, s / (double)steps);
                    var cell = ((int)Math.Floor(p.X / CellMm), (int)Math.Floor(p.Y / CellMm));
                    if (!cells.TryGetValue(cell, out var there)) cells[cell] = there = [];
                    there.Add(thread);
                }
            }
        }

        var shared = new Dictionary<(int, int), int>();
        foreach (var (cell, there) in cells)
        {
            WorkBudget.Current.Spend(4);
            var near = new HashSet<int>(there);
            foreach (var beside in new[] { (cell.Column + 1, cell.Row), (cell.Column, cell.Row + 1) })
                if (cells.TryGetValue(beside, out var others))
                    near.UnionWith(others);
            foreach (var one in there)
                foreach (var other in near.Where(o => o != one))
                    shared[Pair(one, other)] = shared.GetValueOrDefault(Pair(one, other)) + 1;
        }

        return shared.Where(s => s.Value >= FewestCells).Select(s => s.Key).ToHashSet();
    }

    private static (int, int) Pair(int a, int b) => a < b ? (a, b) : (b, a);
}
