using EvenThimble.Core.Geometry;
using EvenThimble.Core.Shapes;
using EvenThimble.Core.Stitches;
using EvenThimble.Core.Work;

namespace EvenThimble.Core.Outlining;

/// <summary>
/// The outer edge of stitches together, as a patch is cut: the hull of triangles between needle points that a small circle cannot pass between (alpha shape; H. Edelsbrunner, D. Kirkpatrick and
/// R. Seidel, "On the shape of a set of points in the plane", 1983), without its holes.
/// </summary>
public static class OuterEdge
{
    private const double CircleMm = 2.5;
    private const double StepMm = 1;
    private const double SmallestMm2 = 20;
    private const double ClosedOverMm = 1.5;

    /// <summary>The edges around ranges of records, largest first, mm; empty where there is nothing to go around.</summary>
    public static IReadOnlyList<FoundLine> Of(StitchBlob records, IReadOnlyList<(int First, int End)> ranges)
    {
        var places = new HashSet<Point>();
        foreach (var (first, end) in ranges)
        {
            for (var i = first; i < end; i++)
            {
                if (records.Kinds[i] != StitchKind.Stitch) continue;
                var at = records.At(i);
                places.Add(at);
                if (i == first || records.Kinds[i - 1] != StitchKind.Stitch) continue;
                var before = records.At(i - 1);
                var pieces = (int)Math.Ceiling(before.DistanceTo(at) / StepMm);
                for (var k = 1; k < pieces; k++) places.Add(before.Toward(at, k / (double)pieces));
            }
        }

        WorkBudget.Current.Spend(places.Count * 4);
        if (places.Count < 3) return [];
        var points = NearTheEdge(places);
        WorkBudget.Current.Spend(points.Length * 20);
        var triangles = Delaunay.Of(points);
        var corners = triangles.Corners;
        var covered = new bool[corners.Length / 3];
        for (var t = 0; t < covered.Length; t++) covered[t] = Circle(points[corners[3 * t]], points[corners[(3 * t) + 1]], points[corners[(3 * t) + 2]]) <= CircleMm;
        var edges = Region.Of(Area.Of(Borders(points, triangles, covered))).Grown(ClosedOverMm).Grown(-ClosedOverMm).Areas.Select(a => a.Rings.First()).Select(r => (Ring: r, Area: Area.Of([r])[0])).Where(e => e.Area.SquareMm >= SmallestMm2).OrderByDescending(e => e.Area.SquareMm).ToList();
        return [.. edges.Where((e, n) => !edges.Take(n).Any(o => o.Area.DistanceTo(e.Ring[0]) == 0)).Select(e => new FoundLine([.. e.Ring], true))];
    }

    /// <summary>Those of many places that have an empty square near them: what lies deep inside is on no edge.</summary>
    private static Point[] NearTheEdge(HashSet<Point> places)
    {
        const int near = 3;
        static (int X, int Y) Square(Point p) => ((int)Math.Floor(p.X / StepMm), (int)Math.Floor(p.Y / StepMm));
        var taken = places.Select(Square).ToHashSet();
        var deep = taken.Where(s => !Enumerable.Range(-near, (2 * near) + 1).Any(dx => Enumerable.Range(-near, (2 * near) + 1).Any(dy => !taken.Contains((s.X + dx, s.Y + dy))))).ToHashSet();
        return [.. places.Where(p => !deep.Contains(Square(p)))];
    }

    /// <summary>The rings along which covered triangles border on others.</summary>
    private static List<List<Point>> Borders(Point[] points, Delaunay triangles, bool[] covered)
    {
        var corners = triangles.Corners;
        var twins = triangles.Twins;
        var next = new Dictionary<int, Stack<int>>();
        for (var e = 0; e < corners.Length; e++)
        {
            if (!covered[e / 3] || (twins[e] >= 0 && covered[twins[e] / 3])) continue;
            var to = corners[(e / 3 * 3) + ((e + 1) % 3)];
            (next.TryGetValue(corners[e], out var there) ? there : next[corners[e]] = new()).Push(to);
        }

        var rings = new List<List<Point>>();
        foreach (var start in next.Keys)
        {
            while (next[start].Count > 0)
            {
                var ring = new List<Point>();
                for (var at = start; next[at].TryPop(out var on); at = on) ring.Add(points[at]);
                if (ring.Count > 2) rings.Add(ring);
            }
        }

        return rings;
    }

    /// <summary>The radius of the circle through three points.</summary>
    private static double Circle(Point a, Point b, Point c)
    {
        var twice = Math.Abs((b - a).Cross(c - a));
        return twice < 1e-9 ? double.PositiveInfinity : a.DistanceTo(b) * b.DistanceTo(c) * c.DistanceTo(a) / (2 * twice);
    }
}
