using EvenThimble.Core.Geometry;
using EvenThimble.Core.Shapes;
using FsCheck.Xunit;

namespace EvenThimble.Core.Tests.Geometry;

public class DelaunayTests
{
    [Property(MaxTest = 60)]
    public void No_point_lies_in_the_circle_of_a_triangle_and_together_they_are_the_hull(int seed)
    {
        var random = new Random(seed);
        var points = Enumerable.Range(0, random.Next(3, 120)).Select(_ => new Point(random.NextDouble() * 50, random.NextDouble() * 50)).Distinct().ToArray();
        var made = Delaunay.Of(points);
        double area = 0;
        for (var e = 0; e < made.Corners.Length; e += 3)
        {
            var (a, b, c) = (points[made.Corners[e]], points[made.Corners[e + 1]], points[made.Corners[e + 2]]);
            area += Math.Abs((b - a).Cross(c - a)) / 2;
            var d = 2 * (b - a).Cross(c - a);
            var (u, v) = (b - a, c - a);
            var centre = a + (new Point((v.Y * u.Dot(u)) - (u.Y * v.Dot(v)), (u.X * v.Dot(v)) - (v.X * u.Dot(u))) / d);
            points.Where(p => p.DistanceTo(centre) <= centre.DistanceTo(a) * (1 - 1e-9)).ShouldBeEmpty();
        }

        var hull = new NetTopologySuite.Geometries.MultiPoint([.. points.Select(p => new NetTopologySuite.Geometries.Point(p.X, p.Y))]).ConvexHull();
        area.ShouldBe(hull.Area, 1e-6 * Math.Max(1, hull.Area));
        for (var e = 0; e < made.Corners.Length; e++)
            if (made.Twins[e] is >= 0 and var twin)
                made.Twins[twin].ShouldBe(e);
    }

    [Fact]
    public void Points_on_a_line_make_no_triangles() =>
        Delaunay.Of([new(0, 0), new(1, 1), new(2, 2), new(3, 3)]).Corners.Length.ShouldBe(0);
}
