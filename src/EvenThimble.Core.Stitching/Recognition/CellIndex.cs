using EvenThimble.Core.Geometry;

namespace EvenThimble.Core.Recognition;

/// <summary>The needle points of a thread, or its stitches, by the cells of a square grid that they, or the boxes about them, touch.</summary>
internal sealed class CellIndex
{
    // No more cells than these, nor than so many for each thing: a short thread may go far.
    private const double MostCells = 400_000;
    private const double FewestCells = 1_000;
    private const double CellsOfThing = 8;

    private readonly Point _min;
    private readonly int _columns;
    private readonly int _rows;

    // The things of a cell stand in a row from one begin to the next.
    private readonly int[] _begins;
    private readonly int[] _things;

    /// <summary>Takes needle points, or the stitches between them.</summary>
    /// <param name="points">The needle points of a thread.</param>
    /// <param name="from">The first.</param>
    /// <param name="to">The last.</param>
    /// <param name="span">How many points a thing goes on: 0 for the points themselves, 1 for the stitches that begin in them.</param>
    /// <param name="cell">Least side of a cell, mm: it grows with the box about all.</param>
    public CellIndex(Point[] points, int from, int to, int span, double cell)
    {
        var (min, max) = (points[from], points[from]);
        for (var i = from + 1; i <= to; i++) (min, max) = (new(Math.Min(min.X, points[i].X), Math.Min(min.Y, points[i].Y)), new(Math.Max(max.X, points[i].X), Math.Max(max.Y, points[i].Y)));
        _min = min;
        CellMm = Math.Max(cell, Math.Sqrt((max.X - min.X + cell) * (max.Y - min.Y + cell) / Math.Clamp(CellsOfThing * (to - from), FewestCells, MostCells)));
        (_columns, _rows) = (Column(max.X) + 1, Row(max.Y) + 1);
        _begins = new int[(_columns * _rows) + 1];
        for (var i = from; i <= to - span; i++)
        {
            var (left, right, top, bottom) = CellsOf(points[i], points[i + span]);
            for (var row = top; row <= bottom; row++)
                for (var column = left; column <= right; column++)
                    _begins[(row * _columns) + column + 1]++;
        }

        for (var c = 1; c < _begins.Length; c++) _begins[c] += _begins[c - 1];
        _things = new int[_begins[^1]];
        var next = _begins.AsSpan(0, _begins.Length - 1).ToArray();
        for (var i = from; i <= to - span; i++)
        {
            var (left, right, top, bottom) = CellsOf(points[i], points[i + span]);
            for (var row = top; row <= bottom; row++)
                for (var column = left; column <= right; column++)
                    _things[next[(row * _columns) + column]++] = i;
        }
    }

    /// <summary>Side of a cell, mm.</summary>
    public double CellMm { get; }

    /// <summary>How many things touch the fullest cell.</summary>
    public int Most => Enumerable.Range(0, _begins.Length - 1).Max(c => _begins[c + 1] - _begins[c]);

    /// <summary>The things that touch the cell of a place and the eight about it, cell by cell: all within a cell's side, and some beyond. One that touches several comes several times.</summary>
    public NearThings Near(Point p) => new(this, p);

    private (int Left, int Right, int Top, int Bottom) CellsOf(Point a, Point b) => (Column(Math.Min(a.X, b.X)), Column(Math.Max(a.X, b.X)), Row(Math.Min(a.Y, b.Y)), Row(Math.Max(a.Y, b.Y)));

    private int Column(double x) => (int)Math.Floor((x - _min.X) / CellMm);

    private int Row(double y) => (int)Math.Floor((y - _min.Y) / CellMm);

    /// <summary>Goes through the things near a place without an allocation: rows of cells are looked through as one stretch each.</summary>
    public struct NearThings
    {
        private readonly CellIndex _index;
        private readonly int _left;
        private readonly int _right;
        private readonly int _bottom;
        private int _row;
        private int _at;
        private int _end;

        internal NearThings(CellIndex index, Point p)
        {
            (_index, _left, _right) = (index, Math.Max(0, index.Column(p.X) - 1), Math.Min(index._columns - 1, index.Column(p.X) + 1));
            (_row, _bottom) = (Math.Max(0, index.Row(p.Y) - 1) - 1, Math.Min(index._rows - 1, index.Row(p.Y) + 1));
        }

        /// <summary>The number of the thing that was gone on to.</summary>
        public readonly int Current => _index._things[_at - 1];

        /// <summary>Itself.</summary>
        public readonly NearThings GetEnumerator() => this;

        /// <summary>Goes on to the next; false when there is none.</summary>
        public bool MoveNext()
        {
            while (_at >= _end)
            {
                if (++_row > _bottom || _left > _right) return false;
                (_at, _end) = (_index._begins[(_row * _index._columns) + _left], _index._begins[(_row * _index._columns) + _right + 1]);
            }

            _at++;
            return true;
        }
    }
}
