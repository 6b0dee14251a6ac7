using EvenThimble.Core.Geometry;
using EvenThimble.Core.Work;

namespace EvenThimble.Core.Outlining;

/// <summary>
/// Walks along a line and takes off what it closes. Wherever the line comes to a place where it has been before, what lies between is a loop: one that encloses something is an edge, one
/// that does not was sewn there and back. What remains led to the edges, from them, or never closes. The method is our own.
/// </summary>
internal sealed class LineWalk
{
    private const double Touch = 0.3;
    private const double Same = 0.25;
    private const double ShortestWay = 2.5;
    private const double SmallestArea = 1.5;
    private const double NarrowestMean = 0.35;
    private const double ThereAndBack = 0.07;
    private const double CellMm = 2;
    private readonly List<Point> _way = [];
    private readonly List<double> _along = [];

    // Twice the area that the line has swept about the origin, up to each point: what any loop encloses is known at once.
    private readonly List<double> _swept = [];
    private readonly Dictionary<(int X, int Y), List<int>> _cells = [];

    /// <summary>What it closed, in the order of the walk; none repeats its first point.</summary>
    public List<List<Point>> Loops { get; } = [];

    /// <summary>What was sewn there and back and encloses nothing.</summary>
    public List<List<Point>> Spurs { get; } = [];

    /// <summary>What remains in the end.</summary>
    public IReadOnlyList<Point> Rest => _way;

    /// <summary>Walks from the first to the last of points.</summary>
    public static LineWalk Along(IReadOnlyList<Point> points)
    {
        var walk = new LineWalk();
        foreach (var point in points) walk.Go(point);
        return walk;
    }

    /// <summary>Whether a ring, closed by itself, encloses what could be cut out.</summary>
    public static bool Encloses(List<Point> ring)
    {
        var (twice, length) = (0.0, 0.0);
        for (var i = 0; i < ring.Count; i++)
        {
            var (a, b) = (ring[i], ring[(i + 1) % ring.Count]);
            twice += (a - ring[0]).Cross(b - ring[0]);
            length += a.DistanceTo(b);
        }

        return Math.Abs(twice) / 2 >= SmallestArea && Math.Abs(twice) / Math.Max(1e-9, length) >= NarrowestMean;
    }

    private void Go(Point to)
    {
        WorkBudget.Current.Spend(2);
        for (var turns = 0; turns < 8; turns++)
        {
            if (_way.Count == 0)
            {
                Push(to);
                return;
            }

            var top = _way[^1];
            if (to.DistanceTo(top) < 1e-6) return;
            if (_way.Count > 1 && GoesBack(top, to))
            {
                Pop(_way.Count - 1);
                continue;
            }

            if (FirstTouch(top, to) is not { } touch) break;
            Take(touch.Segment, touch.Place);
        }

        if (_way.Count == 0 || to.DistanceTo(_way[^1]) > 1e-6) Push(to);
    }

    /// <summary>Whether a stitch goes back over the one before it, into its hole or part of the way.</summary>
    private bool GoesBack(Point top, Point to)
    {
        var before = _way[^2];
        var (came, goes) = (top - before, to - top);
        if (came.Dot(goes) > -0.9 * came.Length * goes.Length) return false;
        return to.DistanceTo(before) <= Same || (goes.Length < came.Length && Math.Abs(came.Unit().Cross(to - before)) <= 0.12);
    }

    /// <summary>The first place of a stitch that comes near to where the line has been, such that what lies between is a loop or was sewn there and back.</summary>
    private (int Segment, Point Place)? FirstTouch(Point from, Point to)
    {
        (int Segment, Point Place, double At)? first = null;
        foreach (var k in Near(from, to))
        {
            if (k + 1 >= _way.Count || _along[^1] - _along[k + 1] < ShortestWay - from.DistanceTo(to)) continue;
            if (Meeting(from, to, _way[k], _way[k + 1]) is not { } meeting || (first is { } f && meeting.At >= f.At - 1e-9)) continue;
            var between = _along[^1] - _along[k] - _way[k].DistanceTo(meeting.Place) + (meeting.At * from.DistanceTo(to));
            if (between < ShortestWay || !IsLoop(k, meeting.Place, out _)) continue;
            first = (k, meeting.Place, meeting.At);
        }

        return first is { } found ? (found.Segment, found.Place) : null;
    }

    /// <summary>Whether the line from a place of a segment to its end comes to something: an edge, or a way there and back.</summary>
    private bool IsLoop(int segment, Point place, out bool encloses)
    {
        var (first, last) = (_way[segment + 1], _way[^1]);
        var twice = place.Cross(first) + (_swept[^1] - _swept[segment + 1]) + last.Cross(place);
        var length = place.DistanceTo(first) + (_along[^1] - _along[segment + 1]) + last.DistanceTo(place);
        var area = Math.Abs(twice) / 2;
        encloses = area >= SmallestArea && 2 * area / length >= NarrowestMean;
        return encloses || 2 * area / length < ThereAndBack;
    }

    private void Take(int segment, Point place)
    {
        IsLoop(segment, place, out var encloses);
        List<Point> loop = [place, .. _way.Skip(segment + 1)];
        if (loop[^1].DistanceTo(place) < 1e-6) loop.RemoveAt(loop.Count - 1);
        if (loop.Count > 2 && loop[1].DistanceTo(place) < 1e-6) loop.RemoveAt(1);
        if (encloses) Loops.Add(loop);
        else Spurs.Add(loop);
        Pop(segment + 1);
        if (place.DistanceTo(_way[^1]) > 1e-6) Push(place);
    }

    private void Push(Point at)
    {
        if (_way.Count > 0)
            foreach (var cell in CellsOf(_way[^1], at))
                (_cells.TryGetValue(cell, out var there) ? there : _cells[cell] = []).Add(_way.Count - 1);
        _along.Add(_way.Count == 0 ? 0 : _along[^1] + _way[^1].DistanceTo(at));
        _swept.Add(_way.Count == 0 ? 0 : _swept[^1] + _way[^1].Cross(at));
        _way.Add(at);
    }

    private void Pop(int keep)
    {
        for (var i = keep - 1; i < _way.Count - 1; i++)
            if (i >= 0)
                foreach (var cell in CellsOf(_way[i], _way[i + 1]))
                    _cells[cell].Remove(i);
        _way.RemoveRange(keep, _way.Count - keep);
        _along.RemoveRange(keep, _along.Count - keep);
        _swept.RemoveRange(keep, _swept.Count - keep);
    }

    private HashSet<int> Near(Point from, Point to)
    {
        var near = new HashSet<int>();
        foreach (var cell in CellsOf(from, to, Touch))
            if (_cells.TryGetValue(cell, out var there))
                near.UnionWith(there);
        return near;
    }

    private static IEnumerable<(int X, int Y)> CellsOf(Point a, Point b, double margin = 0)
    {
        var (minX, maxX) = ((int)Math.Floor((Math.Min(a.X, b.X) - margin) / CellMm), (int)Math.Floor((Math.Max(a.X, b.X) + margin) / CellMm));
        var (minY, maxY) = ((int)Math.Floor((Math.Min(a.Y, b.Y) - margin) / CellMm), (int)Math.Floor((Math.Max(a.Y, b.Y) + margin) / CellMm));
        for (var x = minX; x <= maxX; x++)
            for (var y = minY; y <= maxY; y++)
                yield return (x, y);
    }

    /// <summary>Where a stitch first comes within touch of another: how far along it, 0 to 1, and the place on the other.</summary>
    private static (double At, Point Place)? Meeting(Point from, Point to, Point a, Point b)
    {
        var (d, e) = (to - from, b - a);
        var cross = d.Cross(e);
        if (Math.Abs(cross) > 1e-9)
        {
            var (t, u) = ((a - from).Cross(e) / cross, (a - from).Cross(d) / cross);
            if (t is >= 0 and <= 1 && u is >= 0 and <= 1) return (t, a.Toward(b, u));
        }

        (double At, Point Place, double Off)? best = null;
        void Try(double t, double u)
        {
            var (p, q) = (from.Toward(to, t), a.Toward(b, u));
            var off = p.DistanceTo(q);
            if (off <= Touch && (best is not { } known || off < known.Off - 1e-9)) best = (t, q, off);
        }

        double On(Point p, Point s, Point w) => Math.Clamp((p - s).Dot(w) / Math.Max(1e-12, w.Dot(w)), 0, 1);
        Try(1, On(to, a, e));
        Try(On(a, from, d), 0);
        Try(On(b, from, d), 1);
        return best is { } found ? (found.At, found.Place) : null;
    }
}
