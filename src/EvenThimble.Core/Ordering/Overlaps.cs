using EvenThimble.Core.Geometry;
using EvenThimble.Core.Sequencing;
using EvenThimble.Core.Stitches;

namespace EvenThimble.Core.Ordering;

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
        var grid = new Dictionary<(int X, int Y), List<int>>();
        for (var n = 0; n < plan.Parts.Length; n++)
        {
            var part = plan.Parts[n];
            for (var i = Math.Max(1, part.First); i < part.End; i++)
            {
                if (plan.Records.Kinds[i] != StitchKind.Stitch || (plan.Records.Kinds[i - 1] != StitchKind.Stitch && i > part.First)) continue;
                var (a, b) = (i == part.First ? plan.Records.At(i) : plan.Records.At(i - 1), plan.Records.At(i));
                var steps = Math.Max(1, (int)Math.Ceiling(a.DistanceTo(b) / Cell));
                for (var s = 0; s <= steps; s++)
                {
                    var p = a.Toward(b, s / (double)steps);
                    var cell = ((int)Math.Floor(p.X / Cell), (int)Math.Floor(p.Y / Cell));
                    if (!grid.TryGetValue(cell, out var there)) grid[cell] = there = new(1);
                    if (there.Count == 0 || there[^1] != n) there.Add(n);
                }
            }
        }

        var shared = new Dictionary<(int, int), (int Cells, Point Sum)>();
        foreach (var (cell, parts) in grid)
            for (var i = 0; i < parts.Count; i++)
                for (var j = i + 1; j < parts.Count; j++)
                {
                    var (cells, sum) = shared.GetValueOrDefault((parts[i], parts[j]));
                    shared[(parts[i], parts[j])] = (cells + 1, sum + new Point((cell.X + 0.5) * Cell, (cell.Y + 0.5) * Cell));
                }

        foreach (var (pair, (cells, sum)) in shared)
            if (cells >= FewestCells)
                found._pairs[pair] = sum / cells;
        return found;
    }

    /// <summary>Where two parts (by their numbers in the plan) lie over each other, about the middle of it, mm; null when they do not.</summary>
    public Point? Where(int a, int b) => _pairs.TryGetValue(a < b ? (a, b) : (b, a), out var at) ? at : null;
}
