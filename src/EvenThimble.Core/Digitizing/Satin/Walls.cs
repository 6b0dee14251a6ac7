using EvenThimble.Core.Geometry;

namespace EvenThimble.Core.Digitizing.Satin;

/// <summary>Walls in a grid, to find quickly what a ray meets first.</summary>
internal sealed class Walls
{
    private readonly List<(Point A, Point B)> _walls;
    private readonly Dictionary<(int, int), List<int>> _cells = [];
    private readonly double _cell;

    public Walls(List<(Point A, Point B)> walls)
    {
        _walls = walls;
        Bounds = Box.Around(walls.SelectMany(w => new[] { w.A, w.B }));
        _cell = Math.Clamp(Math.Max(Bounds.Width, Bounds.Height) / 40, 0.5, 4);
        for (var i = 0; i < walls.Count; i++)
        {
            var (a, b) = walls[i];
            for (var x = Cell(Math.Min(a.X, b.X)); x <= Cell(Math.Max(a.X, b.X)); x++)
                for (var y = Cell(Math.Min(a.Y, b.Y)); y <= Cell(Math.Max(a.Y, b.Y)); y++)
                    (_cells.TryGetValue((x, y), out var there) ? there : _cells[(x, y)] = []).Add(i);
        }
    }

    public Box Bounds { get; }

    /// <summary>Distance (mm) from a place to the first wall in a direction of length one; null when there is none.</summary>
    public double? Hit(Point from, Point direction) => Meet(from, direction)?.Distance;

    /// <summary>The first wall in a direction: how far it is (mm), and its own direction.</summary>
    public (double Distance, Point Along)? Meet(Point from, Point direction)
    {
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
            if (_cells.TryGetValue((x, y), out var there))
            {
                var (nearest, wall) = (double.PositiveInfinity, -1);
                foreach (var w in there)
                    if (Meets(from, direction, _walls[w]) is { } t && t < nearest)
                        (nearest, wall) = (t, w);
                if (nearest <= leave + 1e-9) return (nearest, (_walls[wall].B - _walls[wall].A).Unit());
            }

            if (leave > longest) return null;
            if (nextX < nextY) (x, nextX) = (x + stepX, nextX + deltaX);
            else (y, nextY) = (y + stepY, nextY + deltaY);
        }
    }

    private static double? Meets(Point from, Point direction, (Point A, Point B) wall)
    {
        var along = wall.B - wall.A;
        var cross = direction.Cross(along);
        if (Math.Abs(cross) < 1e-12) return null;
        var (t, u) = ((wall.A - from).Cross(along) / cross, (wall.A - from).Cross(direction) / cross);
        return t >= 0 && u is >= -1e-9 and <= 1 + 1e-9 ? t : null;
    }

    private int Cell(double v) => (int)Math.Floor(v / _cell);
}
