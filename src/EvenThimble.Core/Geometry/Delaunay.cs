namespace EvenThimble.Core.Geometry;

/// <summary>
/// Delaunay triangulation by a radial sweep: points are taken by their distance from a first triangle, joined to the hull of those before them, and edges are flipped until no
/// point lies in the circle of a triangle (D. Sinclair, "S-hull: a fast radial sweep-hull routine for Delaunay triangulation", 2010). Grows as sorting does. Plain double
/// arithmetic: points that lie on one line or circle to the last bits may give any of the triangulations that are equally good there.
/// </summary>
public sealed class Delaunay
{
    private readonly double[] _x;
    private readonly double[] _y;
    private readonly int[] _corners;
    private readonly int[] _twins;
    private readonly int[] _hullBefore;
    private readonly int[] _hullNext;
    private readonly int[] _hullEdge;
    private readonly int[] _hullByAngle;
    private readonly Stack<int> _toCheck = new();
    private Point _centre;
    private int _hullStart;
    private int _length;

    private Delaunay(IReadOnlyList<Point> points)
    {
        var n = points.Count;
        (_x, _y) = (new double[n], new double[n]);
        for (var i = 0; i < n; i++) (_x[i], _y[i]) = (points[i].X, points[i].Y);
        var most = Math.Max((2 * n) - 5, 0) * 3;
        (_corners, _twins) = (new int[most], new int[most]);
        (_hullBefore, _hullNext, _hullEdge) = (new int[n], new int[n], new int[n]);
        _hullByAngle = new int[Math.Max(1, (int)Math.Ceiling(Math.Sqrt(n)))];
        Array.Fill(_hullByAngle, -1);
    }

    /// <summary>Triangulates points of which no two are the same; there are no triangles when there are fewer than three or all lie on a line.</summary>
    public static Delaunay Of(IReadOnlyList<Point> points)
    {
        var made = new Delaunay(points);
        if (points.Count >= 3) made.Sweep();
        return made;
    }

    /// <summary>Three numbers of points for each triangle. Edge e goes from the point of entry e to the next of its triangle.</summary>
    public ReadOnlySpan<int> Corners => _corners.AsSpan(0, _length);

    /// <summary>By edge: the same edge of the neighbouring triangle; -1 on the hull.</summary>
    public ReadOnlySpan<int> Twins => _twins.AsSpan(0, _length);

    private void Sweep()
    {
        if (Seed() is not var (a, b, c)) return;
        _centre = Circumcentre(a, b, c);
        var order = new int[_x.Length];
        var distance = new double[_x.Length];
        for (var i = 0; i < order.Length; i++) (order[i], distance[i]) = (i, Squared(_x[i] - _centre.X, _y[i] - _centre.Y));
        Array.Sort(distance, order);

        _hullStart = a;
        (_hullNext[a], _hullNext[b], _hullNext[c]) = (b, c, a);
        (_hullBefore[a], _hullBefore[b], _hullBefore[c]) = (c, a, b);
        (_hullEdge[a], _hullEdge[b], _hullEdge[c]) = (0, 1, 2);
        foreach (var i in new[] { a, b, c }) _hullByAngle[AngleKey(i)] = i;
        Add(a, b, c, -1, -1, -1);
        foreach (var i in order)
            if (i != a && i != b && i != c)
                Join(i);
    }

    /// <summary>Three points near the middle whose circle is small, in the order that the sweep wants.</summary>
    private (int A, int B, int C)? Seed()
    {
        var (middleX, middleY) = ((_x.Min() + _x.Max()) / 2, (_y.Min() + _y.Max()) / 2);
        var a = Best(i => Squared(_x[i] - middleX, _y[i] - middleY));
        var b = Best(i => i == a ? double.PositiveInfinity : Squared(_x[i] - _x[a], _y[i] - _y[a]));
        var c = Best(i => i == a || i == b ? double.PositiveInfinity : SquaredRadius(a, b, i));
        if (double.IsInfinity(SquaredRadius(a, b, c))) return null;
        return IsVisible(_x[a], _y[a], b, c) ? (a, c, b) : (a, b, c);
    }

    private int Best(Func<int, double> cost)
    {
        var (best, least) = (0, double.PositiveInfinity);
        for (var i = 0; i < _x.Length; i++)
            if (cost(i) is var here && here < least)
                (best, least) = (i, here);
        return best;
    }

    /// <summary>Joins a point beyond the hull to all edges that it sees.</summary>
    private void Join(int i)
    {
        var (x, y) = (_x[i], _y[i]);
        var key = AngleKey(i);
        var start = 0;
        for (var j = 0; j < _hullByAngle.Length; j++)
        {
            start = _hullByAngle[(key + j) % _hullByAngle.Length];
            if (start != -1 && start != _hullNext[start]) break;
        }

        start = _hullBefore[start];
        var edge = start;
        while (!IsVisible(x, y, edge, _hullNext[edge]))
        {
            edge = _hullNext[edge];
            if (edge == start) return;
        }

        var t = Add(edge, i, _hullNext[edge], -1, -1, _hullEdge[edge]);
        _hullEdge[i] = Legalize(t + 2);
        _hullEdge[edge] = t;

        var next = _hullNext[edge];
        for (var q = _hullNext[next]; IsVisible(x, y, next, q); q = _hullNext[next])
        {
            t = Add(next, i, q, _hullEdge[i], -1, _hullEdge[next]);
            _hullEdge[i] = Legalize(t + 2);
            _hullNext[next] = next;
            next = q;
        }

        if (edge == start)
        {
            for (var q = _hullBefore[edge]; IsVisible(x, y, q, edge); q = _hullBefore[edge])
            {
                t = Add(q, i, edge, -1, _hullEdge[edge], _hullEdge[q]);
                Legalize(t + 2);
                _hullEdge[q] = t;
                _hullNext[edge] = edge;
                edge = q;
            }
        }

        _hullStart = _hullBefore[i] = edge;
        _hullNext[edge] = _hullBefore[next] = i;
        _hullNext[i] = next;
        _hullByAngle[key] = i;
        _hullByAngle[AngleKey(edge)] = edge;
    }

    /// <summary>Flips edges from one on until their triangles are Delaunay's; returns the edge that came in its place on the hull's side.</summary>
    private int Legalize(int a)
    {
        _toCheck.Clear();
        while (true)
        {
            var b = _twins[a];
            var a0 = a - (a % 3);
            var ar = a0 + ((a + 2) % 3);
            if (b == -1)
            {
                if (!_toCheck.TryPop(out a)) return ar;
                continue;
            }

            var b0 = b - (b % 3);
            var (al, bl) = (a0 + ((a + 1) % 3), b0 + ((b + 2) % 3));
            if (!InCircle(_corners[ar], _corners[a], _corners[al], _corners[bl]))
            {
                if (!_toCheck.TryPop(out a)) return ar;
                continue;
            }

            (_corners[a], _corners[b]) = (_corners[bl], _corners[ar]);
            var beyond = _twins[bl];
            if (beyond == -1)
            {
                // The flip took an edge of the hull with it.
                var e = _hullStart;
                do
                {
                    if (_hullEdge[e] == bl)
                    {
                        _hullEdge[e] = a;
                        break;
                    }

                    e = _hullBefore[e];
                }
                while (e != _hullStart);
            }

            Link(a, beyond);
            Link(b, _twins[ar]);
            Link(ar, bl);
            _toCheck.Push(b0 + ((b + 1) % 3));
        }
    }

    private int Add(int i0, int i1, int i2, int a, int b, int c)
    {
        var t = _length;
        (_corners[t], _corners[t + 1], _corners[t + 2]) = (i0, i1, i2);
        Link(t, a);
        Link(t + 1, b);
        Link(t + 2, c);
        _length += 3;
        return t;
    }

    private void Link(int a, int b)
    {
        _twins[a] = b;
        if (b != -1) _twins[b] = a;
    }

    /// <summary>Whether a place lies outside the hull's edge from one point to the next.</summary>
    private bool IsVisible(double x, double y, int from, int to) => ((_y[from] - y) * (_x[to] - _x[from])) - ((_x[from] - x) * (_y[to] - _y[from])) < 0;

    private bool InCircle(int a, int b, int c, int p)
    {
        var (dx, dy, ex, ey, fx, fy) = (_x[a] - _x[p], _y[a] - _y[p], _x[b] - _x[p], _y[b] - _y[p], _x[c] - _x[p], _y[c] - _y[p]);
        var (ap, bp, cp) = (Squared(dx, dy), Squared(ex, ey), Squared(fx, fy));
        return (dx * ((ey * cp) - (bp * fy))) - (dy * ((ex * cp) - (bp * fx))) + (ap * ((ex * fy) - (ey * fx))) < 0;
    }

    private double SquaredRadius(int a, int b, int c)
    {
        var centre = Circumcentre(a, b, c);
        var squared = Squared(centre.X - _x[a], centre.Y - _y[a]);
        return double.IsNaN(squared) || double.IsInfinity(squared) ? double.PositiveInfinity : squared;
    }

    private Point Circumcentre(int a, int b, int c)
    {
        var (dx, dy, ex, ey) = (_x[b] - _x[a], _y[b] - _y[a], _x[c] - _x[a], _y[c] - _y[a]);
        var (bl, cl, d) = (Squared(dx, dy), Squared(ex, ey), 0.5 / ((dx * ey) - (dy * ex)));
        return new(_x[a] + (((ey * bl) - (dy * cl)) * d), _y[a] + (((dx * cl) - (ex * bl)) * d));
    }

    /// <summary>A number that grows with the angle about the centre.</summary>
    private int AngleKey(int i)
    {
        var (dx, dy) = (_x[i] - _centre.X, _y[i] - _centre.Y);
        var size = Math.Abs(dx) + Math.Abs(dy);
        var p = size == 0 ? 0 : dx / size;
        var turn = (dy > 0 ? 3 - p : 1 + p) / 4;
        return (int)Math.Floor(turn * _hullByAngle.Length) % _hullByAngle.Length;
    }

    private static double Squared(double x, double y) => (x * x) + (y * y);
}
