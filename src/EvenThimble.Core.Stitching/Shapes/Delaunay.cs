using EvenThimble.Core.Geometry;

namespace EvenThimble.Core.Shapes;

/// <summary>
/// Delaunay triangulation by divide and conquer (L. Guibas and J. Stolfi, "Primitives for the manipulation of general subdivisions and the computation of Voronoi diagrams",
/// ACM Transactions on Graphics 4, 1985, section 9): both halves of the points are triangulated, then stitched together from the lower common tangent up. Grows as sorting does.
/// Places are taken on a grid of a 2^30th of their extent (at most 2^-22 mm) and reckoned with in whole numbers, so that no rounding can tangle the triangles. Of points on one circle any of
/// the triangulations may come that are equally good there.
/// </summary>
public sealed class Delaunay
{
    private const int MostBits = 30;
    private const int FinestBits = 22;

    // Relative error of the in-circle determinant in double arithmetic (J. Shewchuk, "Adaptive precision floating-point arithmetic and fast robust geometric predicates", 1997).
    private const double CircleError = 1.2e-15;
    private readonly long[] _x;
    private readonly long[] _y;
    private readonly int[] _corners;
    private readonly int[] _twins;

    // An edge is two numbers, one for each direction, that differ in the last bit. By directed edge: where it begins, and the edges before and after it, counted
    // anticlockwise in a plane with y upwards, about that point; an edge that was taken out again begins nowhere.
    private int[] _from;
    private int[] _after;
    private int[] _before;
    private int _edges;

    private Delaunay(IReadOnlyList<Point> points)
    {
        var box = Box.Around(points);
        var bits = points.Count == 0 ? 0 : Math.Min(FinestBits, MostBits - (int)Math.Ceiling(Math.Log2(Math.Max(1e-6, Math.Max(box.Width, box.Height)))));

        // With y upwards, as the paper has it: triangles run anticlockwise on the screen.
        _x = [.. points.Select(p => (long)Math.Round(Math.ScaleB(p.X - box.MinX, bits)))];
        _y = [.. points.Select(p => (long)Math.Round(Math.ScaleB(box.MaxY - p.Y, bits)))];
        var order = new int[_x.Length];
        for (var i = 0; i < order.Length; i++) order[i] = i;
        Array.Sort(order, (a, b) => _x[a] != _x[b] ? _x[a].CompareTo(_x[b]) : _y[a] != _y[b] ? _y[a].CompareTo(_y[b]) : a.CompareTo(b));

        // Of points that are one on the grid only the first is taken.
        order = [.. order.Where((p, i) => i == 0 || _x[p] != _x[order[i - 1]] || _y[p] != _y[order[i - 1]])];

        // So many there are in the end at most; of those that are taken out again more may be made on the way.
        (_from, _after, _before) = (new int[6 * order.Length], new int[6 * order.Length], new int[6 * order.Length]);
        if (order.Length >= 3) Triangulate(order);
        (_corners, _twins) = Triangles();
    }

    /// <summary>Triangulates points of which no two are the same; there are no triangles when there are fewer than three or all lie on a line.</summary>
    public static Delaunay Of(IReadOnlyList<Point> points) => new(points);

    /// <summary>Three numbers of points for each triangle. Edge e goes from the point of entry e to the next of its triangle.</summary>
    public ReadOnlySpan<int> Corners => _corners;

    /// <summary>By edge: the same edge of the neighbouring triangle; -1 on the hull.</summary>
    public ReadOnlySpan<int> Twins => _twins;

    /// <summary>Triangulates points that are sorted; the edges of the hull that leave the leftmost point anticlockwise and the rightmost clockwise.</summary>
    private (int Left, int Right) Triangulate(ReadOnlySpan<int> order)
    {
        if (order.Length == 2)
        {
            var edge = Edge(order[0], order[1]);
            return (edge, Back(edge));
        }

        if (order.Length == 3)
        {
            var (a, b) = (Edge(order[0], order[1]), Edge(order[1], order[2]));
            Splice(Back(a), b);
            var side = SideOf(order[0], order[1], order[2]);
            if (side == 0) return (a, Back(b));
            var c = Connect(b, a);
            return side > 0 ? (a, Back(b)) : (Back(c), c);
        }

        var middle = order.Length / 2;
        var (leftOuter, leftInner) = Triangulate(order[..middle]);
        var (rightInner, rightOuter) = Triangulate(order[middle..]);
        return Merge(leftOuter, leftInner, rightInner, rightOuter);
    }

    /// <summary>Stitches two triangulations together that lie side by side.</summary>
    private (int Left, int Right) Merge(int leftOuter, int leftInner, int rightInner, int rightOuter)
    {
        while (true)
        {
            // Down to the lower common tangent.
            if (IsLeftOf(_from[rightInner], leftInner)) leftInner = OnLeft(leftInner);
            else if (IsRightOf(_from[leftInner], rightInner)) rightInner = _after[Back(rightInner)];
            else break;
        }

        var tangent = Connect(Back(rightInner), leftInner);
        if (_from[leftInner] == _from[leftOuter]) leftOuter = Back(tangent);
        if (_from[rightInner] == _from[rightOuter]) rightOuter = tangent;
        while (true)
        {
            var left = LeftCandidate(tangent);
            var right = RightCandidate(tangent);
            var (hasLeft, hasRight) = (IsAbove(left, tangent), IsAbove(right, tangent));
            if (!hasLeft && !hasRight) return (leftOuter, rightOuter);
            tangent = !hasLeft || (hasRight && InCircle(To(left), _from[left], _from[right], To(right)))
                ? Connect(right, Back(tangent))
                : Connect(Back(tangent), Back(left));
        }
    }

    /// <summary>The first edge on the left of the seam that will be its neighbour; those in whose circle a point lies are taken out.</summary>
    private int LeftCandidate(int tangent)
    {
        var candidate = _after[Back(tangent)];
        while (IsAbove(candidate, tangent) && InCircle(To(tangent), _from[tangent], To(candidate), To(_after[candidate])))
        {
            var next = _after[candidate];
            TakeOut(candidate);
            candidate = next;
        }

        return candidate;
    }

    private int RightCandidate(int tangent)
    {
        var candidate = _before[tangent];
        while (IsAbove(candidate, tangent) && InCircle(To(tangent), _from[tangent], To(candidate), To(_before[candidate])))
        {
            var next = _before[candidate];
            TakeOut(candidate);
            candidate = next;
        }

        return candidate;
    }

    private static int Back(int edge) => edge ^ 1;

    private int To(int edge) => _from[edge ^ 1];

    /// <summary>The edge that comes next about the face on the left.</summary>
    private int OnLeft(int edge) => _before[edge ^ 1];

    private int Edge(int from, int to)
    {
        var edge = _edges;
        _edges += 2;
        if (_edges > _from.Length)
        {
            Array.Resize(ref _from, 2 * _edges);
            Array.Resize(ref _after, 2 * _edges);
            Array.Resize(ref _before, 2 * _edges);
        }

        (_from[edge], _from[edge + 1]) = (from, to);
        (_after[edge], _after[edge + 1]) = (edge, edge + 1);
        (_before[edge], _before[edge + 1]) = (edge, edge + 1);
        return edge;
    }

    /// <summary>Joins the rings of edges about two points, or parts one ring in two.</summary>
    private void Splice(int a, int b)
    {
        var (afterA, afterB) = (_after[a], _after[b]);
        (_after[a], _after[b]) = (afterB, afterA);
        (_before[afterB], _before[afterA]) = (a, b);
    }

    /// <summary>A new edge from the end of one to the start of another, which lie about the same face.</summary>
    private int Connect(int a, int b)
    {
        var edge = Edge(To(a), _from[b]);
        Splice(edge, OnLeft(a));
        Splice(Back(edge), b);
        return edge;
    }

    private void TakeOut(int edge)
    {
        Splice(edge, _before[edge]);
        Splice(Back(edge), _before[Back(edge)]);
        (_from[edge], _from[Back(edge)]) = (-1, -1);
    }

    private bool IsAbove(int candidate, int tangent) => IsRightOf(To(candidate), tangent);

    private bool IsLeftOf(int point, int edge) => SideOf(point, _from[edge], To(edge)) > 0;

    private bool IsRightOf(int point, int edge) => SideOf(point, To(edge), _from[edge]) > 0;

    /// <summary>Above 0 where three points follow each other anticlockwise, 0 on a line. Differences have 30 bits, so that products are exact.</summary>
    private int SideOf(int a, int b, int c) => Math.Sign(((_x[b] - _x[a]) * (_y[c] - _y[a])) - ((_y[b] - _y[a]) * (_x[c] - _x[a])));

    /// <summary>Whether a point lies inside the circle through three others that follow each other anticlockwise.</summary>
    private bool InCircle(int a, int b, int c, int point)
    {
        var (ux, uy, vx, vy, wx, wy) = (_x[a] - _x[point], _y[a] - _y[point], _x[b] - _x[point], _y[b] - _y[point], _x[c] - _x[point], _y[c] - _y[point]);
        var (uu, vv, ww) = ((ux * ux) + (uy * uy), (vx * vx) + (vy * vy), (wx * wx) + (wy * wy));
        var (vw, wu, uv) = ((vx * wy) - (vy * wx), (wx * uy) - (wy * ux), (ux * vy) - (uy * vx));
        var (first, second, third) = ((double)uu * vw, (double)vv * wu, (double)ww * uv);
        var about = first + second + third;
        var error = CircleError * (Math.Abs(first) + Math.Abs(second) + Math.Abs(third));
        return Math.Abs(about) > error ? about > 0 : ((Int128)uu * vw) + ((Int128)vv * wu) + ((Int128)ww * uv) > 0;
    }

    /// <summary>The faces with three edges, and by edge what lies beyond it.</summary>
    private (int[] Corners, int[] Twins) Triangles()
    {
        var corners = new List<int>(6 * _x.Length);
        var number = new int[_edges];
        Array.Fill(number, -1);
        for (var e = 0; e < number.Length; e++)
        {
            if (_from[e] < 0 || number[e] >= 0) continue;
            var (f, g) = (OnLeft(e), OnLeft(OnLeft(e)));
            if (OnLeft(g) != e || SideOf(_from[e], _from[f], _from[g]) <= 0) continue;
            foreach (var side in (ReadOnlySpan<int>)[e, f, g])
            {
                number[side] = corners.Count;
                corners.Add(_from[side]);
            }
        }

        var twins = new int[corners.Count];
        for (var e = 0; e < number.Length; e++)
            if (number[e] >= 0)
                twins[number[e]] = number[Back(e)];
        return ([.. corners], twins);
    }
}
