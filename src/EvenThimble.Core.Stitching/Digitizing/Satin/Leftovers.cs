using EvenThimble.Core.Craft;
using EvenThimble.Core.Geometry;
using EvenThimble.Core.Shapes;
using EvenThimble.Core.Work;

namespace EvenThimble.Core.Digitizing.Satin;

/// <summary>
/// Places of an area that no throw of its strokes reaches, such as lobes behind a notch: found on a raster, so that they can be filled before the satin is sewn.
/// </summary>
internal sealed class Leftovers
{
    private const double LeastArea = 0.5;
    private const double LeastPart = 0.012;
    private const double Overlap = 0.25;
    private const double HalfThread = Limits.ThreadWidth / 2;
    private const int MostCells = 2_000_000;
    private readonly double _cell;
    private readonly double _left;
    private readonly double _top;
    private readonly int _columns;
    private readonly int _rows;
    private readonly byte[] _cells;
    private readonly Point[] _quad = new Point[4];
    private readonly Point[][] _between;
    private readonly List<double> _crossings = [];

    private const byte Outside = 0;
    private const byte Bare = 1;
    private const byte Covered = 2;

    private Leftovers(Area area)
    {
        var box = area.Bounds;
        _cell = Math.Max(Math.Clamp(Math.Sqrt(area.SquareMm) / 60, 0.08, 0.2), Math.Sqrt((box.Width + 1) * (box.Height + 1) / MostCells));
        (_left, _top) = (box.MinX - _cell, box.MinY - _cell);
        (_columns, _rows) = ((int)(box.Width / _cell) + 3, (int)(box.Height / _cell) + 3);
        _cells = new byte[_columns * _rows];
        _between = [_quad];
    }

    /// <summary>The places that throws leave bare.</summary>
    public static IReadOnlyList<Area> Of(Area area, IEnumerable<StrokeRungs> strokes)
    {
        var found = new Leftovers(area);
        found.Paint([.. area.Rings], Outside, Bare);
        foreach (var stroke in strokes)
        {
            var rungs = stroke.Rungs;
            for (var i = 1; i < rungs.Count; i++) found.PaintBetween(rungs[i - 1], rungs[i]);
            if (stroke.Closed && rungs.Count > 1) found.PaintBetween(rungs[^1], rungs[0]);
        }

        return found.Bared(area);
    }

    private void PaintBetween(Rung a, Rung b)
    {
        // A little more all round: the thread is as wide as that.
        var along = (b.Middle - a.Middle).Unit() * HalfThread;
        var (across, onwards) = ((a.Left - a.Right).Unit() * HalfThread, (b.Left - b.Right).Unit() * HalfThread);
        (_quad[0], _quad[1], _quad[2], _quad[3]) = (a.Left + across - along, b.Left + onwards + along, b.Right - onwards + along, a.Right - across - along);
        Paint(_between, Bare, Covered);
    }

    /// <summary>Paints cells whose middle lies inside rings, those that have one colour in another.</summary>
    private void Paint(Point[][] rings, byte from, byte to)
    {
        var (lowest, highest, crossings) = (double.PositiveInfinity, double.NegativeInfinity, _crossings);
        foreach (var p in rings[0]) (lowest, highest) = (Math.Min(lowest, p.Y), Math.Max(highest, p.Y));
        for (var row = Math.Max(0, (int)((lowest - _top) / _cell)); row <= Math.Min(_rows - 1, (int)((highest - _top) / _cell)); row++)
        {
            var y = _top + ((row + 0.5) * _cell);
            crossings.Clear();
            foreach (var ring in rings)
            {
                for (var i = 0; i < ring.Length; i++)
                {
                    var (a, b) = (ring[i], ring[i + 1 == ring.Length ? 0 : i + 1]);
                    if (a.Y <= y != b.Y <= y) crossings.Add(a.X + ((y - a.Y) / (b.Y - a.Y) * (b.X - a.X)));
                }
            }

            crossings.Sort();
            WorkBudget.Current.Spend(1 + (crossings.Count / 2));
            for (var i = 0; i + 1 < crossings.Count; i += 2)
            {
                var (first, last) = (Math.Max(0, (int)Math.Ceiling(((crossings[i] - _left) / _cell) - 0.5)), Math.Min(_columns - 1, (int)Math.Floor(((crossings[i + 1] - _left) / _cell) - 0.5)));
                for (var c = first; c <= last; c++)
                    if (_cells[(row * _columns) + c] == from)
                        _cells[(row * _columns) + c] = to;
            }
        }
    }

    private List<Area> Bared(Area area)
    {
        // In a small shape a smaller place is seen.
        var least = Math.Min(LeastArea, area.SquareMm * LeastPart);
        var found = new List<Area>();
        for (var i = 0; i < _cells.Length; i++)
        {
            if (_cells[i] != Bare) continue;
            var patch = new List<int> { i };
            _cells[i] = Covered;
            for (var k = 0; k < patch.Count; k++)
            {
                foreach (var n in new[] { patch[k] - 1, patch[k] + 1, patch[k] - _columns, patch[k] + _columns })
                {
                    if (n < 0 || n >= _cells.Length || _cells[n] != Bare) continue;
                    _cells[n] = Covered;
                    patch.Add(n);
                }
            }

            if (patch.Count * _cell * _cell < least) continue;
            var squares = patch.GroupBy(c => c / _columns).SelectMany(Stretches).Select(s => new Box(s.From, s.Top, s.To, s.Top + _cell));
            found.AddRange(Region.OfBoxes(squares).Grown(Overlap).Within(area).Areas.Where(p => p.SquareMm > least));
        }

        return found;
    }

    private IEnumerable<(double From, double To, double Top)> Stretches(IGrouping<int, int> row)
    {
        var columns = row.Select(c => c % _columns).Order().ToList();
        for (var i = 0; i < columns.Count;)
        {
            var k = i;
            while (k + 1 < columns.Count && columns[k + 1] == columns[k] + 1) k++;
            yield return (_left + (columns[i] * _cell), _left + ((columns[k] + 1) * _cell), _top + (row.Key * _cell));
            i = k + 1;
        }
    }
}
