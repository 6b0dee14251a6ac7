using EvenThimble.Core.Geometry;

namespace EvenThimble.Core.Outlining;

/// <summary>Tells quickly of many places whether they lie within a distance of a line.</summary>
public sealed class NearLine
{
    private readonly Dictionary<(int X, int Y), List<int>> _cells = [];
    private readonly IReadOnlyList<Point> _line;
    private readonly double _distance;
    private readonly double _cell;

    /// <summary>Of a line and a distance, mm.</summary>
    public NearLine(IReadOnlyList<Point> line, double distance)
    {
        (_line, _distance, _cell) = (line, distance, Math.Max(1, 2 * distance));
        for (var i = 0; i + 1 < line.Count; i++)
        {
            var (a, b) = (line[i], line[i + 1]);
            for (var x = Cell(Math.Min(a.X, b.X) - distance); x <= Cell(Math.Max(a.X, b.X) + distance); x++)
                for (var y = Cell(Math.Min(a.Y, b.Y) - distance); y <= Cell(Math.Max(a.Y, b.Y) + distance); y++)
                    (_cells.TryGetValue((x, y), out var there) ? there : _cells[(x, y)] = []).Add(i);
        }
    }

    /// <summary>Whether a place lies within the distance.</summary>
    public bool Reaches(Point place) => _cells.TryGetValue((Cell(place.X), Cell(place.Y)), out var there) && there.Exists(i => DistanceTo(place, _line[i], _line[i + 1]) <= _distance);

    private int Cell(double v) => (int)Math.Floor(v / _cell);

    private static double DistanceTo(Point p, Point a, Point b)
    {
        var d = b - a;
        return a.Toward(b, Math.Clamp((p - a).Dot(d) / Math.Max(1e-12, d.Dot(d)), 0, 1)).DistanceTo(p);
    }
}
