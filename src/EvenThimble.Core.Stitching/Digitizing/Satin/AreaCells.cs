using EvenThimble.Core.Geometry;
using EvenThimble.Core.Shapes;
using EvenThimble.Core.Work;

namespace EvenThimble.Core.Digitizing.Satin;

/// <summary>An area as small square cells, each of which is outside, free or taken; to find out quickly what throws have covered.</summary>
internal sealed class AreaCells
{
    /// <summary>Not of the area.</summary>
    public const byte Outside = 0;

    /// <summary>Of the area, and nothing has taken it.</summary>
    public const byte Free = 1;

    /// <summary>Taken by something.</summary>
    public const byte Taken = 2;

    // Length of a cell's side at least, mm.
    private const double Finest = 0.05;

    /// <summary>A round end of thread covers as much as a square one that reaches this part of half the thread's width.</summary>
    public const double RoundEnd = Math.PI / 4;

    private const int MostCells = 2_000_000;
    private readonly double _left;
    private readonly double _top;
    private readonly byte[] _cells;
    private readonly List<double> _crossings = [];
    private readonly Point[] _quad = new Point[4];
    private readonly Point[][] _quads;

    /// <summary>The cells of an area, all free.</summary>
    public AreaCells(Area area)
    {
        var box = area.Bounds;
        Size = Math.Max(Math.Clamp(Math.Sqrt(area.SquareMm) / 60, Finest, 0.2), Math.Sqrt((box.Width + 1) * (box.Height + 1) / MostCells));
        (_left, _top) = (box.MinX - Size, box.MinY - Size);
        (Columns, Rows) = ((int)(box.Width / Size) + 3, (int)(box.Height / Size) + 3);
        _cells = new byte[Columns * Rows];
        _quads = [_quad];
        Paint([.. area.Rings], Outside, Free);
    }

    /// <summary>Length of a cell's side, mm.</summary>
    public double Size { get; }

    public int Columns { get; }

    public int Rows { get; }

    /// <summary>All cells, row by row.</summary>
    public Span<byte> All => _cells;

    /// <summary>What the cell of a place is.</summary>
    public byte At(Point place)
    {
        var (column, row) = ((int)Math.Floor((place.X - _left) / Size), (int)Math.Floor((place.Y - _top) / Size));
        return column < 0 || row < 0 || column >= Columns || row >= Rows ? Outside : _cells[(row * Columns) + column];
    }

    /// <summary>The middle of a cell, by its place in <see cref="All"/>.</summary>
    public Point Middle(int cell) => new(_left + (((cell % Columns) + 0.5) * Size), _top + (((cell / Columns) + 0.5) * Size));

    /// <summary>Takes what lies between four corners.</summary>
    public void Take(Point a, Point b, Point c, Point d)
    {
        (_quad[0], _quad[1], _quad[2], _quad[3]) = (a, b, c, d);
        Paint(_quads, Free, Taken);
    }

    /// <summary>Takes what lies under thread that goes straight from place to place and covers so much to either side, mm.</summary>
    public void TakeThread(Point from, Point to, double half)
    {
        var (along, aside) = ((to - from).Unit() * (half * RoundEnd), (to - from).Unit().Normal() * half);
        Take(from - along + aside, to + along + aside, to + along - aside, from - along - aside);
    }

    /// <summary>The free cells, those together that touch by a side.</summary>
    public List<List<int>> FreePlaces()
    {
        var (seen, places) = (new bool[_cells.Length], new List<List<int>>());
        for (var i = 0; i < _cells.Length; i++)
        {
            if (!IsNew(i)) continue;
            var place = new List<int> { i };
            for (var k = 0; k < place.Count; k++)
                foreach (var n in (ReadOnlySpan<int>)[place[k] - 1, place[k] + 1, place[k] - Columns, place[k] + Columns])
                    if (IsNew(n))
                        place.Add(n);
            places.Add(place);
        }

        return places;

        // The outermost cells are not of the area.
        bool IsNew(int cell)
        {
            if (_cells[cell] != Free || seen[cell]) return false;
            seen[cell] = true;
            return true;
        }
    }

    /// <summary>Paints cells whose middle lies inside rings, those that are one thing as another.</summary>
    private void Paint(Point[][] rings, byte from, byte to)
    {
        var (lowest, highest, crossings) = (double.PositiveInfinity, double.NegativeInfinity, _crossings);
        foreach (var p in rings[0]) (lowest, highest) = (Math.Min(lowest, p.Y), Math.Max(highest, p.Y));
        for (var row = Math.Max(0, (int)((lowest - _top) / Size)); row <= Math.Min(Rows - 1, (int)((highest - _top) / Size)); row++)
        {
            var y = _top + ((row + 0.5) * Size);
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
                var (first, last) = (Math.Max(0, (int)Math.Ceiling(((crossings[i] - _left) / Size) - 0.5)), Math.Min(Columns - 1, (int)Math.Floor(((crossings[i + 1] - _left) / Size) - 0.5)));
                for (var c = first; c <= last; c++)
                    if (_cells[(row * Columns) + c] == from)
                        _cells[(row * Columns) + c] = to;
            }
        }
    }
}
