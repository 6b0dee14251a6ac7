using EvenThimble.Core.Craft;
using EvenThimble.Core.Digitizing;
using EvenThimble.Core.Digitizing.Fill;
using EvenThimble.Core.Geometry;
using EvenThimble.Core.Shapes;
using FsCheck.Xunit;
using NetTopologySuite.Geometries;
using NetTopologySuite.Operation.Polygonize;
using NetTopologySuite.Operation.Union;
using Plane = NetTopologySuite.Geometries.Geometry;
using Point = EvenThimble.Core.Geometry.Point;

namespace EvenThimble.Core.Tests.Geometry;

/// <summary>Outlines that cross themselves beyond counting, crowd together, or are pierced a hundred times.</summary>
public class CrossedOutlinesTests
{
    [Theory]
    [InlineData(60, 100)]
    [InlineData(300, 100)]
    [InlineData(800, 60)]
    public void A_scribble_is_stitched_within_its_own_reach(int points, double size)
    {
        var random = new Random(points);
        var outline = Enumerable.Range(0, points).Select(_ => new Point(random.NextDouble() * size, random.NextDouble() * size)).ToList();
        var areas = Area.Of([outline], Inside.OddCrossings);
        areas.ShouldNotBeEmpty();
        var reach = Box.Around(outline).Grown(2);
        areas.ShouldAllBe(a => reach.Holds(new(a.Bounds.MinX, a.Bounds.MinY)) && reach.Holds(new(a.Bounds.MaxX, a.Bounds.MaxY)));
        areas.Sum(a => a.SquareMm).ShouldBeInRange(0.25 * size * size, size * size);
        var blob = Digitizer.Stitch(new DrawnShape([ShapePath.Through(outline, closed: true)]), new(StitchWay.Fill), ClothProfiles.Cotton);
        blob.Count.ShouldBeGreaterThan(500);
    }

    [Fact]
    public void Large_faces_of_a_figure_that_crosses_often_are_kept()
    {
        var wheel = Enumerable.Range(0, 3_000).Select(i => i * 2 * Math.PI * 31 / 3_000).Select(a => new Point((100 * Math.Cos(a)) + (70 * Math.Cos(a * 17 / 31)), (100 * Math.Sin(a)) - (70 * Math.Sin(a * 17 / 31)))).ToList();
        var areas = Area.Of([wheel], Inside.OddCrossings);
        areas.Count.ShouldBeGreaterThan(100);

        // As many places are inside as a look at the outline itself says.
        var random = new Random(4);
        var (same, looked) = (0, 4_000);
        for (var n = 0; n < looked; n++)
        {
            var p = new Point((random.NextDouble() * 340) - 170, (random.NextDouble() * 340) - 170);
            if (IsInside(wheel, p) == areas.Any(a => a.Bounds.Holds(p) && a.DistanceTo(p) == 0)) same++;
        }

        (same / (double)looked).ShouldBeGreaterThan(0.93);
    }

    [Fact]
    public void Fine_parts_of_a_shape_of_many_points_are_not_taken_for_noise()
    {
        // A block with four fine bars, each rounded by hundreds of points: without the bars its outline is far shorter, and its area nearly the same.
        var corners = new List<Point>();
        for (var side = 0; side < 4; side++)
            corners.AddRange(new Point[] { new(-2, -2), new(-0.06, -2), new(-0.06, -3.5), new(0.06, -3.5), new(0.06, -2), new(2, -2) }.Select(p => p.Turned(side * 90, Point.Zero)).SkipLast(1));
        var outline = corners.SelectMany((c, i) => Enumerable.Range(0, 30).Select(k => c.Toward(corners[(i + 1) % corners.Count], k / 30.0) + new Point(0.004 * Math.Sin(k), 0.004 * Math.Cos(k)))).ToList();
        var area = Area.Of([outline]).ShouldHaveSingleItem();
        foreach (var side in new[] { 0, 90, 180, 270 }) area.DistanceTo(new Point(0, -3.4).Turned(side, Point.Zero)).ShouldBeLessThan(0.02);
    }

    [Theory]
    [InlineData(0.05, 25)]
    [InlineData(0.3, 25)]
    [InlineData(0.2, 80)]
    public void Noise_of_an_outline_of_many_points_is_calmed(double noise, double radius)
    {
        var random = new Random(5);
        var outline = Enumerable.Range(0, 20_000).Select(i => new Point(radius + (noise * ((2 * random.NextDouble()) - 1)), 0).Turned(i * 360.0 / 20_000, Point.Zero)).ToList();
        var area = Area.Of([outline]).ShouldHaveSingleItem();
        area.Corners.Count().ShouldBeLessThan(1_500);
        area.EdgeLength.ShouldBe(2 * Math.PI * radius, 0.6 * radius);
        area.SquareMm.ShouldBe(Math.PI * radius * radius, 0.02 * radius * radius);
        area.Corners.ShouldAllBe(c => Math.Abs(c.Length - radius) < noise + 0.2);
    }

    [Theory]
    [InlineData(20_000, 0.1)]
    [InlineData(5_000, 0.6)]
    [InlineData(2_000, 0.3)]
    public void Noise_goes_and_fine_parts_stay(int count, double noise)
    {
        // A disc whose edge trembles, with a hairline of 3 mm at its left.
        var random = new Random(5);
        var outline = Enumerable.Range(0, count).Select(i => new Point(25 + (noise * random.NextDouble()), 0).Turned(i * 360.0 / count, Point.Zero)).ToList();
        outline.InsertRange(count / 2, [new(-25, 0.15), new(-28, 0.1), new(-28, -0.1), new(-25, -0.15)]);
        var area = Area.Of([outline]).ShouldHaveSingleItem();
        area.DistanceTo(new Point(-27.5, 0)).ShouldBeLessThan(0.05);
        area.Corners.Count().ShouldBeLessThan(500);
        area.EdgeLength.ShouldBe((2 * Math.PI * 25) + 6, 20);
    }

    [Fact]
    public void A_fine_comb_and_a_sieve_keep_their_area()
    {
        var comb = Enumerable.Range(0, 1_000).Select(i => new Point(i * 0.3, i % 2 == 0 ? 0 : 30)).Append(new(300, 50)).Append(new(0, 50)).ToList();
        Area.Of([comb]).Sum(a => a.SquareMm).ShouldBeInRange(8_000, 12_500);
        var holes = Enumerable.Range(0, 400).Select(i => BasicShapes.Ellipse(1.4, 1.4).Moved(p => p + new Point(i % 20 * 3, i / 20 * 3)).Paths[0].Flattened());
        var sieve = Area.Of([.. holes, [new(-3, -3), new(60, -3), new(60, 60), new(-3, 60)]]).ShouldHaveSingleItem();
        sieve.Rings.Count().ShouldBe(401);
        var grown = sieve.Grown(-0.2).Areas.ShouldHaveSingleItem();
        grown.SquareMm.ShouldBe(sieve.SquareMm - (0.2 * sieve.EdgeLength) - (400 * Math.PI * 0.2 * 0.2), 10);
    }

    [Fact]
    public void Ways_lead_through_spikes_thinner_than_the_rows_can_follow()
    {
        var star = BasicShapes.Star(600, 12, 5, 0.45);
        var area = Area.Of([star.Paths[0].Flattened()]).ShouldHaveSingleItem();
        var run = FillSewing.Sew(area, new RowFill(35), []);
        run.Count.ShouldBeGreaterThan(1_000);
        var outside = 0.0;
        for (var i = 1; i < run.Count; i++)
            if (area.DistanceTo(run[i - 1].Toward(run[i], 0.5)) > 0.6) outside += run[i - 1].DistanceTo(run[i]);
        (outside / Polylines.Length(run)).ShouldBeLessThan(0.02);
    }

    private static bool IsInside(List<Point> outline, Point p)
    {
        var inside = false;
        for (var i = 0; i < outline.Count; i++)
        {
            var (a, b) = (outline[i], outline[(i + 1) % outline.Count]);
            if (a.Y <= p.Y != b.Y <= p.Y && a.X + ((p.Y - a.Y) / (b.Y - a.Y) * (b.X - a.X)) > p.X) inside = !inside;
        }

        return inside;
    }

    [Fact]
    public void A_way_to_the_next_outline_is_hardly_longer_than_it_has_to_be()
    {
        // A plate with a small hole far to the right, and one to sew after its edge: neither is in the way.
        var random = new Random(44);
        for (var i = 0; i < 30; i++)
        {
            var (wide, high, degrees) = (40 + (random.NextDouble() * 40), 15 + (random.NextDouble() * 15), random.NextDouble() * 360);
            var (near, far) = (new Point(4 + (random.NextDouble() * 6), high * (0.5 + (random.NextDouble() * 0.3))), new Point(wide - 4, high * (0.2 + (random.NextDouble() * 0.2))));
            Point[][] rings = [[new(0, 0), new(wide, 0), new(wide, high), new(0, high)], Square(near, 2), Square(far, 2)];
            var area = Area.Of(rings.Select(r => r.Select(p => p.Turned(degrees, Point.Zero)).ToArray()))[0];
            var run = FillSewing.Sew(area, new RowFill(degrees), [Underlay.Edge]).ConvertAll(p => p.Turned(-degrees, Point.Zero));

            // The edge line is what is sewn first, ring after ring; each way lies between the last needle point along one and the first along the next.
            var (last, way) = (0, 0.0);
            for (var k = 1; k < run.Count && last >= 0; k++)
            {
                way += run[k].DistanceTo(run[k - 1]);
                if (Ring(run[k]) is not { } ring) continue;
                if (ring != last)
                {
                    way.ShouldBeLessThan((1.3 * rings[ring].Min(c => c.DistanceTo(run[0]))) + 4, $"{i}: {wide:0} by {high:0} mm, holes at {near} and {far}");
                    last = -1;
                }

                way = 0;
            }

            last.ShouldBe(-1, "there was a way");

            int? Ring(Point p) => Enumerable.Range(0, 3).Cast<int?>().FirstOrDefault(r => Enumerable.Range(0, 4).Min(c => p.DistanceToLine(rings[r!.Value][c], rings[r.Value][(c + 1) % 4])) < 0.35);
        }

        static Point[] Square(Point at, double half) => [at + new Point(-half, -half), at + new Point(half, -half), at + new Point(half, half), at + new Point(-half, half)];
    }

    [Fact]
    public void The_bar_of_an_A_that_begins_inside_its_leg_stays()
    {
        Point[] legs = [new(0, 20), new(10, 0), new(20, 20), new(16, 20), new(10, 6), new(4, 20)];
        Point[] bar = [new(5, 12), new(15, 12), new(15, 15), new(5, 15)];
        var areas = Area.Of([legs, bar], Inside.AnyWinding);
        areas.Count.ShouldBe(1);
        areas[0].DistanceTo(new Point(10, 13.5)).ShouldBe(0);
        areas[0].Rings.Count().ShouldBe(2, "and closes the counter above it");
    }

    /// <summary>Letters of many fonts are drawn as strokes that overlap, in either direction.</summary>
    [Property(MaxTest = 150)]
    public void Wherever_outlines_wind_around_is_inside(int seed)
    {
        var random = new Random(seed);
        Point Corner() => new(Math.Round((random.NextDouble() * 20) - 10, 2), Math.Round((random.NextDouble() * 20) - 10, 2));
        var rings = Enumerable.Range(0, random.Next(2, 6)).Select(_ =>
        {
            var (middle, wide, high, turn) = (Corner(), 1 + (random.NextDouble() * 9), 1 + (random.NextDouble() * 9), random.Next(180));
            Point[] ring = [middle + new Point(-wide, -high), middle + new Point(wide, -high), middle + new Point(wide, high), middle + new Point(-wide, high)];
            return Array.ConvertAll(random.Next(4) == 0 ? [.. ring.Reverse()] : ring, p => p.Turned(turn, middle));
        }).ToList();
        var areas = Area.Of(rings, Inside.AnyWinding);
        for (var n = 0; n < 60; n++)
        {
            var place = Corner();
            if (rings.Min(r => new MeasuredLine([.. r, r[0]]) is var l ? l.PointAt(l.Nearest(place)).DistanceTo(place) : 9) < 0.1) continue;
            areas.Any(a => a.DistanceTo(place) == 0).ShouldBe(Winding(rings, place) != 0, $"{place}");
        }
    }

    /// <summary>On a coarse grid outlines lie upon each other, run back on themselves, and cross and touch in one place.</summary>
    [Property(MaxTest = 150)]
    public void What_outlines_enclose_that_lie_upon_each_other_is_made_of_the_faces_they_cut(int seed)
    {
        var random = new Random(seed);
        var turn = random.Next(4) * 11;
        var rings = Enumerable.Range(0, random.Next(1, 5)).Select(_ => Enumerable.Range(0, random.Next(3, 10)).Select(_ => new Point(random.Next(7), random.Next(7)).Turned(turn, Point.Zero)).ToArray()).ToList();
        foreach (var rule in new[] { Inside.OddCrossings, Inside.AnyWinding })
        {
            var areas = Area.Of(rings, rule).Select(AreaTests.PolygonOf).ToList();
            areas.ShouldAllBe(a => a.IsValid, $"{rule}");
            var faces = Faces(rings, rule);
            var differs = faces.SymmetricDifference(UnaryUnionOp.Union(areas.ConvertAll(a => (Plane)a).AsEnumerable()) ?? faces.Factory.CreatePolygon());

            // Threads thinner than a hair, what they leave in specks, and holes as small are left out of what is stitched.
            Enumerable.Range(0, differs.NumGeometries).Select(differs.GetGeometryN).ShouldAllBe(d => d.Area < 0.12 || d.Buffer(-0.05).IsEmpty, $"{rule}");
        }

        // Told apart by NetTopologySuite.
        static Plane Faces(List<Point[]> rings, Inside rule)
        {
            var (factory, lines) = (AreaTests.Factory, rings.ConvertAll(r => r.Append(r[0]).Select(p => new Coordinate(Math.Round(p.X, 6), Math.Round(p.Y, 6))).ToArray()));
            var faces = new Polygonizer();
            faces.Add(UnaryUnionOp.Union((Plane)factory.CreateMultiLineString([.. lines.Select(factory.CreateLineString)])));
            return UnaryUnionOp.Union((IEnumerable<Plane>)faces.GetPolygons().Where(f => Winding(rings, new(f.InteriorPoint.X, f.InteriorPoint.Y)) is var times && (rule == Inside.AnyWinding ? times != 0 : times % 2 != 0))) ?? factory.CreatePolygon();
        }
    }

    private static int Winding(List<Point[]> rings, Point p) => rings.Sum(r => r.Select((a, i) => (A: a, B: r[(i + 1) % r.Length]))
        .Where(e => e.A.Y <= p.Y != e.B.Y <= p.Y && e.A.X + ((p.Y - e.A.Y) / (e.B.Y - e.A.Y) * (e.B.X - e.A.X)) > p.X).Sum(e => e.A.Y < e.B.Y ? 1 : -1));
}
