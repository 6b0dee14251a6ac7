using EvenThimble.Core.Geometry;
using EvenThimble.Core.Shapes;

namespace EvenThimble.Core.Digitizing.Satin;

/// <summary>Walls in a grid, to find quickly what a ray meets first.</summary>
internal sealed class Walls
{
    private const int MostCells = 250_000;
    private readonly List<(Point A, Point B)> _walls;
    private readonly double _cell;
    private readonly int _left;
    private readonly int _top;
    private readonly int _columns;
    private readonly int _rows;

    // By cell: where its walls begin in the list of all cells' walls.
    private readonly int[] _starts;
    private readonly int[] _there;

    public Walls(List<(Point A, Point B)> walls)
    {
        _walls = walls;
        var (minX, minY, maxX, maxY) = Box.Empty;
        foreach (var (a, b) in walls)
            (minX, minY, maxX, maxY) = (Math.Min(minX, Math.Min(a.X, b.X)), Math.Min(minY, Math.Min(a.Y, b.Y)), Math.Max(maxX, Math.Max(a.X, b.X)), Math.Max(maxY, Math.Max(a.Y, b.Y)));
        Bounds = new(minX, minY, maxX, maxY);
        _cell = Math.Max(Math.Clamp(Math.Max(Bounds.Width, Bounds.Height) / 40, 0.5, 4), Math.Sqrt(Bounds.Width * Bounds.Height / MostCells));
        (_left, _top) = (Cell(minX), Cell(minY));
        (_columns, _rows) = walls.Count == 0 ? (0, 0) : (Cell(maxX) - _left + 1, Cell(maxY) - _top + 1);
        _starts = new int[(_columns * _rows) + 1];
        for (var i = 0; i < walls.Count; i++)
            foreach (var c in CellsOf(walls[i]))
                _starts[c + 1]++;
        for (var c = 1; c < _starts.Length; c++) _starts[c] += _starts[c - 1];
        _there = new int[_starts[^1]];
        var filled = new int[_starts.Length];
        for (var i = 0; i < walls.Count; i++)
            foreach (var c in CellsOf(walls[i]))
                _there[_starts[c] + filled[c]++] = i;
    }

    public Box Bounds { get; }

    /// <summary>The edges of an area, clockwise about it as seen on the screen: those of holes run the other way.</summary>
    public static Walls Of(Area area) =>
        new([.. area.Rings.SelectMany((ring, i) => Edges(Polylines.IsClockwise(ring) == (i == 0) ? ring : [.. ring.AsEnumerable().Reverse()]))]);

    /// <summary>Distance (mm) from a place to the first wall in a direction of length one; null when there is none.</summary>
    public double? Hit(Point from, Point direction) => Meet(from, direction)?.Distance;

    /// <summary>Distance (mm) from a place inside to the wall at which a direction leaves the area; null from a place outside. The walls run clockwise about the area, as seen on the screen.</summary>
    public double? Leave(Point from, Point direction) => Meet(from, direction) is var (distance, along) && direction.Cross(along) > 0 ? distance : null;

    /// <summary>The first wall in a direction: how far it is (mm), and its own direction.</summary>
    public (double Distance, Point Along)? Meet(Point from, Point direction)
    {
        if (direction == Point.Zero) return null;

        // Walks the cells that the ray passes (Amanatides and Woo 1987).
        var (x, y) = (Cell(from.X), Cell(from.Y));
        var (stepX, stepY) = (Math.Sign(direction.X), Math.Sign(direction.Y));
        var (deltaX, deltaY) = (stepX == 0 ? double.PositiveInfinity : _cell / Math.Abs(direction.X), stepY == 0 ? double.PositiveInfinity : _cell / Math.Abs(direction.Y));
        var nextX = stepX == 0 ? double.PositiveInfinity : (((x + (stepX > 0 ? 1 : 0)) * _cell) - from.X) / direction.X;
        var nextY = stepY == 0 ? double.PositiveInfinity : (((y + (stepY > 0 ? 1 : 0)) * _cell) - from.Y) / direction.Y;
        var longest = Bounds.Width + Bounds.Height + Bounds.Middle.DistanceTo(from);
        while (true)
        {
            var leave = Math.Min(nextX, nextY);
            var (column, row) = (x - _left, y - _top);
            if (column >= 0 && row >= 0 && column < _columns && row < _rows)
            {
                var cell = (row * _columns) + column;
                var (nearest, wall) = (double.PositiveInfinity, -1);
                for (var k = _starts[cell]; k < _starts[cell + 1]; k++)
                    if (Meets(from, direction, _walls[_there[k]]) is { } t && t < nearest)
                        (nearest, wall) = (t, _there[k]);
                if (nearest <= leave + 1e-9) return (nearest, (_walls[wall].B - _walls[wall].A).Unit());
            }

            if (leave > longest) return null;
            if (nextX < nextY) (x, nextX) = (x + stepX, nextX + deltaX);
            else (y, nextY) = (y + stepY, nextY + deltaY);
        }
    }

    private static IEnumerable<(Point A, Point B)> Edges(Point[] ring) => ring.Select((p, i) => (p, ring[(i + 1) % ring.Length]));

    private static double? Meets(Point from, Point direction, (Point A, Point B) wall)
    {
        var along = wall.B - wall.A;
        var cross = direction.Cross(along);
        if (Math.Abs(cross) < 1e-12) return null;
        var (t, u) = ((wall.A - from).Cross(along) / cross, (wall.A - from).Cross(direction) / cross);
        return t >= 0 && u is >= -1e-9 and <= 1 + 1e-9 ? t : null;
    }

    private IEnumerable<int> CellsOf((Point A, Point B) wall)
    {
        var (a, b) = wall;
        for (var y = Cell(Math.Min(a.Y, b.Y)); y <= Cell(Math.Max(a.Y, b.Y)); y++)
            for (var x = Cell(Math.Min(a.X, b.X)); x <= Cell(Math.Max(a.X, b.X)); x++)
                yield return ((y - _top) * _columns) + x - _left;
    }

    private int Cell(double v) => (int)Math.Floor(v / _cell);
}
