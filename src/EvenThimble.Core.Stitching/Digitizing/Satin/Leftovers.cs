using EvenThimble.Core.Craft;
using EvenThimble.Core.Geometry;
using EvenThimble.Core.Shapes;

namespace EvenThimble.Core.Digitizing.Satin;

/// <summary>
/// Places of an area that no throw of its strokes reaches, such as lobes behind a notch: found on cells, so that they can be filled before the satin is sewn.
/// </summary>
internal static class Leftovers
{
    private const double LeastArea = 0.28;
    private const double LeastPart = 0.012;
    private const double Overlap = 0.25;
    private const double HalfThread = Limits.ThreadWidth / 2;

    /// <summary>The places that throws leave bare.</summary>
    public static IReadOnlyList<Area> Of(Area area, IEnumerable<StrokeRungs> strokes)
    {
        var cells = new AreaCells(area);
        foreach (var stroke in strokes)
        {
            var rungs = stroke.Rungs;
            for (var i = 1; i < rungs.Count; i++) Take(cells, rungs[i - 1], rungs[i]);
            if (stroke.Closed && rungs.Count > 1) Take(cells, rungs[^1], rungs[0]);
        }

        return Bared(area, cells);
    }

    private static void Take(AreaCells cells, Rung a, Rung b)
    {
        // A little more all round: the thread is as wide as that.
        var along = (b.Middle - a.Middle).Unit() * HalfThread;
        var (across, onwards) = ((a.Left - a.Right).Unit() * HalfThread, (b.Left - b.Right).Unit() * HalfThread);
        cells.Take(a.Left + across - along, b.Left + onwards + along, b.Right - onwards + along, a.Right - across - along);
    }

    private static List<Area> Bared(Area area, AreaCells cells)
    {
        // In a small shape a smaller place is seen.
        var least = Math.Min(LeastArea, area.SquareMm * LeastPart);
        var all = cells.All;
        var (found, columns) = (new List<Area>(), cells.Columns);
        for (var i = 0; i < all.Length; i++)
        {
            if (all[i] != AreaCells.Free) continue;
            var patch = new List<int> { i };
            all[i] = AreaCells.Taken;
            for (var k = 0; k < patch.Count; k++)
            {
                foreach (var n in new[] { patch[k] - 1, patch[k] + 1, patch[k] - columns, patch[k] + columns })
                {
                    if (n < 0 || n >= all.Length || all[n] != AreaCells.Free) continue;
                    all[n] = AreaCells.Taken;
                    patch.Add(n);
                }
            }

            if (patch.Count * cells.Size * cells.Size < least) continue;
            var squares = patch.GroupBy(c => c / columns).SelectMany(row => Stretches(row, cells));
            found.AddRange(Region.OfBoxes(squares).Grown(Overlap).Within(area).Areas.Where(p => p.SquareMm > least));
        }

        return found;
    }

    private static IEnumerable<Box> Stretches(IGrouping<int, int> row, AreaCells cells)
    {
        var columns = row.Select(c => c % cells.Columns).Order().ToList();
        for (var i = 0; i < columns.Count;)
        {
            var k = i;
            while (k + 1 < columns.Count && columns[k + 1] == columns[k] + 1) k++;
            yield return cells.SquareOf(row.Key, columns[i], columns[k]);
            i = k + 1;
        }
    }
}
