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
    private const double LeastPart = 0.025;
    private const double Overlap = 0.25;

    /// <summary>The places that throws leave bare, looked at as thread of its true width; throws that are wanted farther apart than that count as closed.</summary>
    public static IReadOnlyList<Area> Of(Area area, IEnumerable<StrokeRungs> strokes, SatinStyle style)
    {
        var cells = new AreaCells(area);
        var half = Math.Max(Limits.ThreadWidth, style.SpacingMm) / 2;
        var run = new List<Point>();
        foreach (var stroke in strokes)
        {
            run.Clear();
            SatinThrows.Add(run, stroke.Closed ? [.. stroke.Rungs, .. stroke.Rungs.Take(1)] : stroke.Rungs, style);
            for (var i = 1; i < run.Count; i++) Take(cells, run[i - 1], run[i], half);
        }

        return Bared(area, cells);
    }

    private static void Take(AreaCells cells, Point from, Point to, double half)
    {
        var along = (to - from).Unit() * half;
        var aside = along.Normal();
        cells.Take(from - along + aside, to + along + aside, to + along - aside, from - along - aside);
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
