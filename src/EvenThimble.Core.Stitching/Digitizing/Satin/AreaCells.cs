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

    /// <summary>The cells of an area, all free.</summary>
    public AreaCells(Area area)
    {
        var box = area.Bounds;
        Size = Math.Max(Math.Clamp(Math.Sqrt(area.SquareMm) / 60, Finest, 0.2), Math.Sqrt((box.Width + 1) * (box.Height + 1) / MostCells));
        (_left, _top) = (box.MinX - Size, box.MinY - Size);
        (Columns, Rows) = ((int)(box.Width / Size) + 3, (int)(box.Height / Size) + 3);
        _cells = new byte[Columns * Rows];
        var crossings = new RowCrossings(area.Rings, _top, Size, Rows);
        WorkBudget.Current.Spend(Rows);
        for (var row = 0; row < Rows; row++) Paint(row, crossings.Of(row), Outside, Free);
    }

    private AreaCells(AreaCells other) => (Size, _left, _top, Columns, Rows, _cells) = (other.Size, other._left, other._top, other.Columns, other.Rows, [.. other._cells]);

    /// <summary>Length of a cell's side, mm.</summary>
    public double Size { get; }

    public int Columns { get; }

    public int Rows { get; }

    /// <summary>All cells, row by row.</summary>
    public Span<byte> All => _cells;

    /// <summary>The same cells again, to be taken by other things.</summary>
    public AreaCells Copy() => new(this);

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
        ReadOnlySpan<Point> quad = [a, b, c, d];
        var (lowest, highest) = (Math.Min(Math.Min(a.Y, b.Y), Math.Min(c.Y, d.Y)), Math.Max(Math.Max(a.Y, b.Y), Math.Max(c.Y, d.Y)));
        var (first, last) = (Math.Max(0, (int)((lowest - _top) / Size)), Math.Min(Rows - 1, (int)((highest - _top) / Size)));
        WorkBudget.Current.Spend(1 + Math.Max(0, last - first));
        Span<double> crossings = stackalloc double[quad.Length];
        for (var row = first; row <= last; row++)
        {
            var (y, count) = (_top + ((row + 0.5) * Size), 0);
            for (var i = 0; i < quad.Length; i++)
            {
                var (from, to) = (quad[i], quad[(i + 1) % quad.Length]);
                if (from.Y <= y != to.Y <= y) crossings[count++] = from.X + ((y - from.Y) / (to.Y - from.Y) * (to.X - from.X));
            }

            if (count == 2 && crossings[0] > crossings[1]) (crossings[0], crossings[1]) = (crossings[1], crossings[0]);
            else if (count > 2) crossings[..count].Sort();
            Paint(row, crossings[..count], Free, Taken);
        }
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
        for (var i = Array.IndexOf(_cells, Free); i >= 0; i = Array.IndexOf(_cells, Free, i + 1))
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

    /// <summary>Paints the cells of a row whose middles lie between a crossing and the next, of each two: those that are one thing as another.</summary>
    private void Paint(int row, ReadOnlySpan<double> crossings, byte from, byte to)
    {
        for (var i = 0; i + 1 < crossings.Length; i += 2)
        {
            var (first, last) = (Math.Max(0, (int)Math.Ceiling(((crossings[i] - _left) / Size) - 0.5)), Math.Min(Columns - 1, (int)Math.Floor(((crossings[i + 1] - _left) / Size) - 0.5)));
            if (first <= last) _cells.AsSpan((row * Columns) + first, last - first + 1).Replace(from, to);
        }
    }
}
