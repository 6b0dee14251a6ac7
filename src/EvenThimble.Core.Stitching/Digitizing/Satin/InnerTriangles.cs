using EvenThimble.Core.Digitizing.Lines;
using EvenThimble.Core.Geometry;
using EvenThimble.Core.Shapes;
using EvenThimble.Core.Work;

namespace EvenThimble.Core.Digitizing.Satin;

/// <summary>
/// The inside of an area as Delaunay triangles between points along its outlines. Chords from side to side of a stroke are edges of these triangles, so their
/// neighbourhood is the chordal axis of the area (L. Prasad, "Morphological analysis of shapes", 1997).
/// </summary>
internal sealed class InnerTriangles
{
    private const double TurnDegrees = 17.3;
    private const int MostRounds = 9;
    private const int MostPoints = 24_000;

    // Pieces of outline that are no longer are not divided, mm, others no more often in one round than halved so many times.
    private const double ShortestDivided = 0.02;
    private const int MostHalved = 3;
    private readonly int[] _corners;
    private readonly int[] _neighbours;

    private readonly ILookup<int, int> _around;

    private InnerTriangles(Point[] points, int[] corners, int[] neighbours, List<int> innerCorners)
    {
        (Points, _corners, _neighbours, InnerCorners) = (points, corners, neighbours, innerCorners);
        var wanted = innerCorners.ToHashSet();
        _around = Enumerable.Range(0, corners.Length).Where(i => wanted.Contains(corners[i])).ToLookup(i => corners[i], i => i / 3);
    }

    public Point[] Points { get; }

    /// <summary>Points at which the outline turns sharply into the area.</summary>
    public List<int> InnerCorners { get; }

    /// <summary>The triangles at an inner corner.</summary>
    public IEnumerable<int> Around(int innerCorner) => _around[innerCorner];

    public int Count => _corners.Length / 3;

    /// <summary>A corner (0 to 2) of a triangle.</summary>
    public Point Corner(int triangle, int which) => Points[_corners[(3 * triangle) + which]];

    /// <summary>All corners of a triangle.</summary>
    public Point[] Corners(int triangle) => [Corner(triangle, 0), Corner(triangle, 1), Corner(triangle, 2)];

    /// <summary>The mean of its corners.</summary>
    public Point Centre(int triangle) => (Corner(triangle, 0) + Corner(triangle, 1) + Corner(triangle, 2)) / 3;

    /// <summary>The triangle beyond the edge from corner <paramref name="edge"/> to the next, or -1 at the outline.</summary>
    public int Beyond(int triangle, int edge) => _neighbours[(3 * triangle) + edge];

    /// <summary>The edge by which a triangle touches a neighbour.</summary>
    public (Point A, Point B) EdgeTo(int triangle, int neighbour)
    {
        for (var e = 0; e < 3; e++)
            if (Beyond(triangle, e) == neighbour)
                return (Corner(triangle, e), Corner(triangle, (e + 1) % 3));
        throw new ArgumentException("The triangles do not touch.");
    }

    /// <summary>Half the longest edge, mm: about half the width of the area there. (The circle through the corners would be far too large about a flat triangle.)</summary>
    public double Radius(int triangle)
    {
        var (a, b, c) = (Corner(triangle, 0), Corner(triangle, 1), Corner(triangle, 2));
        return Math.Max(a.DistanceTo(b), Math.Max(b.DistanceTo(c), c.DistanceTo(a))) / 2;
    }

    /// <summary>Triangulates an area. Points along the outlines are set closer until every piece of outline is an edge.</summary>
    public static InnerTriangles Of(Area area)
    {
        var step = Step(area);
        var rings = area.Rings.Select(r => Sampled(r, step)).ToList();
        for (var round = 1; ; round++)
        {
            var index = new Dictionary<Point, int>();
            WorkBudget.Current.Spend(8 * rings.Sum(r => r.Count));
            foreach (var p in rings.SelectMany(r => r)) index.TryAdd(p, index.Count);
            var points = new Point[index.Count];
            foreach (var (p, i) in index) points[i] = p;

            // Turned, since points in rows and columns, as drawings have them, would often lie on one line or circle.
            var triangles = Delaunay.Of(Array.ConvertAll(points, p => p.Turned(TurnDegrees, Point.Zero)));
            var isOutline = OutlineEdges(rings, index, triangles, out var missing);
            if (missing.Count > 0 && round < MostRounds && points.Length < MostPoints && Divided(rings, missing, round) is { } divided)
            {
                rings = divided;
                continue;
            }

            // Where a piece of outline is missing, a region of triangles could reach across it, and each is judged by itself.
            var isInside = InsideOf(rings, points, triangles, missing.Count == 0 ? isOutline : null);
            return Kept(points, triangles, isInside, rings, index, step);
        }
    }

    /// <summary>How closely points are set: a small part of the usual width, so that thin strokes are found too.</summary>
    public static double Step(Area area)
    {
        var width = 2 * area.SquareMm / area.EdgeLength;
        return Math.Max(Math.Clamp(0.25 * width, 0.15, 0.7), area.EdgeLength / MostPoints * 2);
    }

    private static List<Point> Sampled(Point[] ring, double step)
    {
        var sampled = new List<Point>();
        for (var i = 0; i < ring.Length; i++)
        {
            var (a, b) = (ring[i], ring[(i + 1) % ring.Length]);
            if (sampled.Count > 0 && sampled[^1].DistanceTo(a) < step / 3 && !Lines.RunLine.IsCorner(sampled[^1], a, b)) continue;
            sampled.Add(a);
            var pieces = (int)Math.Ceiling(a.DistanceTo(b) / step);
            for (var k = 1; k < pieces; k++) sampled.Add(a.Toward(b, k / (double)pieces));
        }

        return sampled.Count < 3 ? [.. ring] : sampled;
    }

    /// <summary>Which edges of triangles are pieces of outline, and the pieces (counted through all rings) that are no edge.</summary>
    private static bool[] OutlineEdges(List<List<Point>> rings, Dictionary<Point, int> index, Delaunay triangles, out HashSet<int> missing)
    {
        // Where an outline touches itself, more than one piece begins at a point: from each the chain leads on to the one before it.
        var count = rings.Sum(r => r.Count);
        var (to, chain, last) = (new int[count], new int[count], new int[index.Count]);
        Array.Fill(last, -1);
        var piece = 0;
        foreach (var ring in rings)
        {
            var (first, from) = (index[ring[0]], index[ring[0]]);
            for (var i = 1; i <= ring.Count; i++, piece++)
            {
                var next = i == ring.Count ? first : index[ring[i]];
                (to[piece], chain[piece], last[from]) = (next, last[from], piece);
                from = next;
            }
        }

        var corners = triangles.Corners;
        var (isOutline, isJoined) = (new bool[corners.Length], new bool[count]);
        for (var e = 0; e < corners.Length; e++)
        {
            var (a, b) = (corners[e], corners[Next(e)]);
            isOutline[e] = Join(a, b) | Join(b, a);
        }

        missing = [];
        for (piece = 0; piece < count; piece++)
            if (!isJoined[piece])
                missing.Add(piece);
        return isOutline;

        bool Join(int a, int b)
        {
            var isPiece = false;
            for (var at = last[a]; at >= 0; at = chain[at])
                if (to[at] == b)
                    isPiece = isJoined[at] = true;
            return isPiece;
        }
    }

    private static int Next(int edge) => edge % 3 == 2 ? edge - 2 : edge + 1;

    /// <summary>Rings with more points in each missing piece: one in the middle; more of what is missing when it was divided already, for each round takes a triangulation. Null where all are too short.</summary>
    private static List<List<Point>>? Divided(List<List<Point>> rings, HashSet<int> missing, int round)
    {
        var (piece, isDivided) = (0, false);
        var all = rings.ConvertAll(ring =>
        {
            var divided = new List<Point>(ring.Count);
            for (var i = 0; i < ring.Count; i++)
            {
                divided.Add(ring[i]);
                var next = ring[(i + 1) % ring.Count];
                if (!missing.Contains(piece++) || ring[i].DistanceTo(next) is not (> ShortestDivided and var length)) continue;
                var pieces = Math.Min(1 << Math.Min(round, MostHalved), (int)Math.Ceiling(length / ShortestDivided));
                isDivided = true;
                for (var k = 1; k < pieces; k++) divided.Add(ring[i].Toward(next, k / (double)pieces));
            }

            return divided;
        });
        return isDivided ? all : null;
    }

    /// <summary>
    /// Whether each triangle lies inside the rings. With the edges that are outline given, triangles that touch by other edges lie on one side of it together,
    /// so that one look for each region does; a look takes time with the number of outlines left and right of it.
    /// </summary>
    private static bool[] InsideOf(List<List<Point>> rings, Point[] points, Delaunay triangles, bool[]? isOutline)
    {
        var places = new PlaceFinder(rings);
        var corners = triangles.Corners;
        var twins = triangles.Twins;
        var (inside, seen) = (new bool[corners.Length / 3], new bool[corners.Length / 3]);
        var region = new List<int>();
        for (var first = 0; first < inside.Length; first++)
        {
            if (seen[first]) continue;
            region.Clear();
            region.Add(first);
            seen[first] = true;
            for (var i = 0; i < region.Count && isOutline is not null; i++)
                for (var e = 3 * region[i]; e < (3 * region[i]) + 3; e++)
                    if (!isOutline[e] && twins[e] >= 0 && !seen[twins[e] / 3])
                    {
                        seen[twins[e] / 3] = true;
                        region.Add(twins[e] / 3);
                    }

            // The largest triangle tells for the region: the middle of a sliver can lie on the outline.
            var (largest, most) = (first, -1.0);
            foreach (var t in region)
                if (TwiceArea(points, corners, t) is var area && area > most)
                    (largest, most) = (t, area);
            var middle = (points[corners[3 * largest]] + points[corners[(3 * largest) + 1]] + points[corners[(3 * largest) + 2]]) / 3;
            if (!places.IsInside(middle)) continue;
            foreach (var t in region) inside[t] = TwiceArea(points, corners, t) > 1e-10;
        }

        return inside;
    }

    private static double TwiceArea(Point[] points, ReadOnlySpan<int> corners, int triangle)
    {
        var a = points[corners[3 * triangle]];
        return Math.Abs((points[corners[(3 * triangle) + 1]] - a).Cross(points[corners[(3 * triangle) + 2]] - a));
    }

    private static InnerTriangles Kept(Point[] points, Delaunay triangles, bool[] isInside, List<List<Point>> rings, Dictionary<Point, int> index, double step)
    {
        var all = triangles.Corners;
        var twins = triangles.Twins;
        var number = new int[isInside.Length];
        var count = 0;
        for (var t = 0; t < number.Length; t++) number[t] = isInside[t] ? count++ : -1;

        var (corners, neighbours) = (new int[3 * count], new int[3 * count]);
        for (var e = 0; e < all.Length; e++)
        {
            if (number[e / 3] < 0) continue;
            var to = (3 * number[e / 3]) + (e % 3);
            (corners[to], neighbours[to]) = (all[e], twins[e] < 0 ? -1 : number[twins[e] / 3]);
        }

        return new(points, corners, neighbours, [.. rings.SelectMany((r, i) => OutlineCorners.Inner(r, isHole: i > 0, most: 0.9 * step)).Select(p => index[p]).Distinct()]);
    }
}
