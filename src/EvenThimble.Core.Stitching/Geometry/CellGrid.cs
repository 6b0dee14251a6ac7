using EvenThimble.Core.Digitizing.Fill;

namespace EvenThimble.Core.Geometry;

/// <summary>Small squares over a rectangle of the cloth, each with a number; 0 where nothing was laid.</summary>
public sealed class CellGrid
{
    private readonly int[] _cells;
    private readonly double _left;
    private readonly double _top;

    /// <summary>Squares of a side (mm) over a rectangle.</summary>
    public CellGrid(Box bounds, double side)
    {
        Side = side;
        (_left, _top) = (bounds.IsEmpty ? 0 : bounds.MinX - side, bounds.IsEmpty ? 0 : bounds.MinY - side);
        (Columns, Rows) = ((int)Math.Ceiling(bounds.Width / side) + 3, (int)Math.Ceiling(bounds.Height / side) + 3);
        _cells = new int[Columns * Rows];
    }

    private CellGrid(CellGrid lattice, Box bounds)
    {
        Side = lattice.Side;
        double Snapped(double from, double at) => from + (Math.Floor((at - Side - from) / Side) * Side);
        (_left, _top) = (Snapped(lattice._left, bounds.MinX), Snapped(lattice._top, bounds.MinY));
        (Columns, Rows) = ((int)Math.Ceiling((bounds.MaxX - _left) / Side) + 2, (int)Math.Ceiling((bounds.MaxY - _top) / Side) + 2);
        _cells = new int[Columns * Rows];
    }

    /// <summary>The squares of a grid that lie about a rectangle, and those that lie there beyond it, with nothing laid yet: the middles of both are the same.</summary>
    public static CellGrid SameSquares(CellGrid lattice, Box bounds) => new(lattice, bounds);

    /// <summary>Side of a square, mm.</summary>
    public double Side { get; }

    /// <summary>Squares across.</summary>
    public int Columns { get; }

    /// <summary>Squares down.</summary>
    public int Rows { get; }

    /// <summary>The numbers, row by row.</summary>
    public Span<int> Cells => _cells;

    /// <summary>The number at a place; 0 outside.</summary>
    public int At(Point p)
    {
        var (column, row) = ((int)Math.Floor((p.X - _left) / Side), (int)Math.Floor((p.Y - _top) / Side));
        return (uint)column < (uint)Columns && (uint)row < (uint)Rows ? _cells[(row * Columns) + column] : 0;
    }

    /// <summary>The middle of a square, by its place in <see cref="Cells"/>.</summary>
    public Point Middle(int cell) => new(_left + (((cell % Columns) + 0.5) * Side), _top + (((cell / Columns) + 0.5) * Side));

    /// <summary>Gives the square at a place a number; nothing happens outside.</summary>
    public void Fill(Point p, int number)
    {
        var (column, row) = ((int)Math.Floor((p.X - _left) / Side), (int)Math.Floor((p.Y - _top) / Side));
        if ((uint)column < (uint)Columns && (uint)row < (uint)Rows) _cells[(row * Columns) + column] = number;
    }

    /// <summary>Gives every square whose middle lies in a triangle a number.</summary>
    public void Fill(Point a, Point b, Point c, int number)
    {
        var (minY, maxY) = (Math.Min(a.Y, Math.Min(b.Y, c.Y)), Math.Max(a.Y, Math.Max(b.Y, c.Y)));
        var first = Math.Max(0, (int)Math.Ceiling(((minY - _top) / Side) - 0.5));
        var last = Math.Min(Rows - 1, (int)Math.Floor(((maxY - _top) / Side) - 0.5));
        for (var row = first; row <= last; row++)
        {
            var y = _top + ((row + 0.5) * Side);
            var (from, to) = (double.PositiveInfinity, double.NegativeInfinity);
            Cross(a, b, y, ref from, ref to);
            Cross(b, c, y, ref from, ref to);
            Cross(c, a, y, ref from, ref to);
            var left = Math.Max(0, (int)Math.Ceiling(((from - _left) / Side) - 0.5));
            var right = Math.Min(Columns - 1, (int)Math.Floor(((to - _left) / Side) - 0.5));
            for (var column = left; column <= right; column++) _cells[(row * Columns) + column] = number;
        }
    }

    private static void Cross(Point a, Point b, double y, ref double from, ref double to)
    {
        if (Math.Min(a.Y, b.Y) > y || Math.Max(a.Y, b.Y) < y) return;
        var x = a.Y == b.Y ? a.X : a.X + ((y - a.Y) / (b.Y - a.Y) * (b.X - a.X));
        (from, to) = (Math.Min(from, x), Math.Max(to, x));
        if (a.Y == b.Y) (from, to) = (Math.Min(from, b.X), Math.Max(to, b.X));
    }
}
