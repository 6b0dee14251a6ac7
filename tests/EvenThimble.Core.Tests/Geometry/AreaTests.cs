using EvenThimble.Core.Geometry;
using EvenThimble.Core.Shapes;
using NetTopologySuite;
using NetTopologySuite.Geometries;
using Point = EvenThimble.Core.Geometry.Point;

namespace EvenThimble.Core.Tests.Geometry;

/// <summary>What an area tells of places and lines, and what of outlines is too thin to be an area.</summary>
public class AreaTests
{
    internal static readonly GeometryFactory Factory = new NtsGeometryServices(GeometryOverlay.NG).CreateGeometryFactory();

    [Fact]
    public void How_far_a_place_lies_and_how_much_of_a_line_lies_inside_are_as_overlays_tell()
    {
        var random = new Random(12);
        for (var n = 0; n < 120; n++)
        {
            var area = Area.Of([Star(random, 8), [.. Star(random, 2.5).Select(p => p + new Point(random.NextDouble(), random.NextDouble()))]]).MaxBy(a => a.SquareMm)!;
            var polygon = PolygonOf(area);
            var corners = area.Corners.ToList();
            for (var k = 0; k < 40; k++)
            {
                // From corner to corner as well: there a line begins and ends on an edge. Whether an edge itself lies inside is nobody's question.
                var (from, to) = k % 4 == 0 ? (corners[random.Next(corners.Count)], corners[random.Next(corners.Count)]) : (Anywhere(), Anywhere());
                if (corners.Zip(corners.Skip(1)).Any(e => e == (from, to) || e == (to, from))) continue;
                area.DistanceTo(from).ShouldBe(polygon.Distance(Factory.CreatePoint(new Coordinate(from.X, from.Y))), 1e-9);
                area.LengthOf(from, to).ShouldBe(polygon.Intersection(Factory.CreateLineString([new(from.X, from.Y), new(to.X, to.Y)])).Length, 1e-6);
            }
        }

        Point Anywhere() => new((random.NextDouble() * 24) - 12, (random.NextDouble() * 24) - 12);
    }

    [Theory]
    [InlineData(0.05, 1)]
    [InlineData(0.02, 1)]
    [InlineData(0.008, 2)]
    public void A_neck_parts_an_area_only_where_it_is_thinner_than_any_hairline(double width, int parts)
    {
        for (var turned = 0; turned < 90; turned += 15)
        {
            foreach (var length in new[] { 0.5, 1.0, 3.0 })
            {
                Point[] outline = [new(0, 0), new(3, 0), new(3, 1), new(3 + length, 1), new(3 + length, 0), new(6 + length, 0), new(6 + length, 3), new(3 + length, 3), new(3 + length, 1 + width), new(3, 1 + width), new(3, 3), new(0, 3)];
                var areas = Area.Of([Array.ConvertAll(outline, p => p.Turned(turned, Point.Zero))]);
                areas.Count.ShouldBe(parts);
                areas.Sum(a => a.SquareMm).ShouldBe(18, 0.2);
            }
        }
    }

    [Fact]
    public void Hairs_on_an_edge_are_left_out_and_slits_in_it_stay()
    {
        // A block with hairs on its edges that are too thin to be stitched, and with slits as thin in them.
        var (outline, hair) = (new List<Point>(), 0.01);
        for (var side = 0; side < 4; side++)
        {
            for (var k = 0; k < 3; k++)
            {
                var (at, far) = (new Point(-4 + (k * 2.5), -5), k == 1 ? 2 : -2.0);
                Point[] part = [at, at + new Point(0.5, 0), at + new Point(0.5, far), at + new Point(0.5 + hair, far), at + new Point(0.5 + hair, 0)];
                outline.AddRange(part.Select(p => p.Turned(side * 90, Point.Zero)));
            }

            outline.Add(new Point(5, -5).Turned(side * 90, Point.Zero));
        }

        var area = Area.Of([outline]).ShouldHaveSingleItem();
        area.Bounds.Width.ShouldBe(10, 0.01);
        area.Bounds.Height.ShouldBe(10, 0.01);
        area.EdgeLength.ShouldBe(40 + (4 * 2 * 2), 2);
    }

    private static Point[] Star(Random random, double size) =>
        [.. Enumerable.Range(0, 14).Select(i => i * 2 * Math.PI / 14).Select(a => new Point(Math.Cos(a), Math.Sin(a)) * (size * (0.5 + (random.NextDouble() / 2))))];

    internal static Polygon PolygonOf(Area area)
    {
        var rings = area.Rings.Select(r => Factory.CreateLinearRing([.. r.Append(r[0]).Select(p => new Coordinate(p.X, p.Y))])).ToList();
        return Factory.CreatePolygon(rings[0], [.. rings.Skip(1)]);
    }
}
