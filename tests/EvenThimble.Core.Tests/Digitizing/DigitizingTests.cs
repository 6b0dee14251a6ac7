using EvenThimble.Core.Digitizing;
using EvenThimble.Core.Geometry;

namespace EvenThimble.Core.Tests.Digitizing;

public class DigitizingTests
{
    private static readonly Point[] Square = [new(0, 0), new(30, 0), new(30, 30), new(0, 30)];

    [Fact]
    public void A_run_keeps_its_corners_and_divides_each_side_evenly()
    {
        var points = RunLine.Along([new(0, 0), new(10, 0), new(10, 7)], 2.2);
        points.ShouldContain(new Point(10, 0));
        Lengths(points).ShouldAllBe(l => l <= 2.2 + 1e-9 && l > 1.5);
        (points[0], points[^1]).ShouldBe((new Point(0, 0), new Point(10, 7)));
    }

    [Fact]
    public void A_run_on_a_tight_curve_takes_shorter_stitches()
    {
        var points = RunLine.Along(Shapes.Circle(new(0, 0), 3), 2.2);
        foreach (var (a, b) in points.Zip(points.Skip(1))) (3 - a.Toward(b, 0.5).Length).ShouldBeLessThan(0.12);
        Lengths(points).Max().ShouldBeGreaterThan(0.8);
    }

    [Theory]
    [InlineData(3)]
    [InlineData(6.5)]
    [InlineData(11)]
    public void Satin_throws_go_from_rail_to_rail_at_the_spacing_and_are_split_when_too_long(double width)
    {
        var points = SatinColumn.Between([new(0, 0), new(40, 0)], [new(0, width), new(40, width)]);
        Lengths(points).Max().ShouldBeLessThanOrEqualTo(Craft.LongestThrow + 0.35);
        var onRail = points.Where(p => p.Y < 1e-9).Select(p => p.X).ToList();
        onRail.Zip(onRail.Skip(1), (a, b) => b - a).ShouldAllBe(d => Math.Abs(d - Craft.SatinSpacing) < 0.01);
        points.ShouldAllBe(p => p.Y >= -1e-9 && p.Y <= width + 1e-9);
    }

    [Fact]
    public void Satin_on_a_bend_stays_square_to_the_stroke()
    {
        var middle = Shapes.Arc(new(0, 0), 20, 20, 0, 180);
        var points = SatinColumn.Between(Polylines.Offset(middle, _ => 2), Polylines.Offset(middle, _ => -2));
        for (var i = 0; i + 1 < points.Count; i += 2)
        {
            var across = (points[i + 1] - points[i]).Unit();
            var outwards = points[i].Toward(points[i + 1], 0.5).Unit();
            Math.Abs(across.Dot(outwards)).ShouldBeGreaterThan(0.985);
        }
    }

    public static TheoryData<string, double> FilledShapes()
    {
        var data = new TheoryData<string, double>();
        foreach (var shape in new[] { "square", "disc", "ring", "comb", "crescent" })
            foreach (var angle in new[] { 0.0, 37, 90, -22.5 })
                data.Add(shape, angle);
        return data;
    }

    [Theory]
    [MemberData(nameof(FilledShapes))]
    public void A_fill_covers_its_shape_stays_inside_and_makes_one_run(string shape, double angle)
    {
        var rings = Rings(shape);
        var runs = new RowFill(angle).Of(rings);
        runs.Count.ShouldBe(1);
        var (covered, outside) = Measure(rings, runs);
        covered.ShouldBeGreaterThan(0.95);
        outside.ShouldBeLessThan(0.03);
        var lengths = Lengths(runs[0]).ToList();
        lengths.Max().ShouldBeLessThanOrEqualTo(Craft.LongestThrow + 1e-9);
        (lengths.Count(l => l < 0.35) / (double)lengths.Count).ShouldBeLessThan(0.01);
    }

    [Fact]
    public void Islands_are_filled_one_after_another()
    {
        var runs = new RowFill(0).Of([Square, [.. Square.Select(p => p + new Point(50, 0))]]);
        runs.Count.ShouldBe(2);
    }

    [Fact]
    public void The_same_shape_gives_the_same_stitches() =>
        new RowFill(31).Of(Rings("crescent"))[0].ShouldBe(new RowFill(31).Of(Rings("crescent"))[0]);

    [Fact]
    public void Neighbouring_rows_do_not_put_their_needle_points_side_by_side()
    {
        var run = new RowFill(0).Of([Square])[0];
        var inner = run.Where(p => p.X is > 2 and < 28).GroupBy(p => Math.Round(p.Y, 3)).OrderBy(g => g.Key).Select(g => g.Select(p => p.X).Order().ToList()).ToList();
        foreach (var (above, below) in inner.Zip(inner.Skip(1)))
            foreach (var x in above) below.Min(other => Math.Abs(other - x)).ShouldBeGreaterThan(0.5);
    }

    private static IReadOnlyList<IReadOnlyList<Point>> Rings(string shape) => shape switch
    {
        "disc" => [Shapes.Circle(new(5, 5), 16)],
        "ring" => [Shapes.Circle(new(0, 0), 18), Shapes.Circle(new(0, 0), 9)],
        "comb" => [[new(0, 0), new(40, 0), new(40, 30), new(34, 30), new(34, 8), new(24, 8), new(24, 30), new(16, 30), new(16, 8), new(6, 8), new(6, 30), new(0, 30)]],
        "crescent" => [[.. Shapes.Arc(new(0, 0), 20, 20, 51.4, 308.6), .. Shapes.Arc(new(9, 0), 16, 16, 282.5, 77.5)]],
        _ => [Square],
    };

    /// <summary>
    /// Draws thread 0.4 mm wide on a grid of 0.1 mm and compares with the shape, all worked out here. Returns the part of the shape that is covered,
    /// and the part of the thread that lies more than 0.4 mm (half a thread and 0.2 mm) beyond the edge.
    /// </summary>
    private static (double Covered, double Outside) Measure(IReadOnlyList<IReadOnlyList<Point>> rings, List<List<Point>> runs)
    {
        const double cell = 0.1;
        var box = Box.Around(rings.SelectMany(r => r));
        var (columns, rows) = ((int)((box.Width + 4) / cell), (int)((box.Height + 4) / cell));
        var thread = new bool[columns, rows];
        foreach (var run in runs)
        {
            foreach (var (a, b) in run.Zip(run.Skip(1)))
            {
                var steps = Math.Max(1, (int)(a.DistanceTo(b) / (cell / 2)));
                for (var s = 0; s <= steps; s++)
                {
                    var p = a.Toward(b, s / (double)steps);
                    for (var dx = -2; dx <= 2; dx++)
                        for (var dy = -2; dy <= 2; dy++)
                        {
                            if ((dx * dx) + (dy * dy) > 4) continue;
                            var (c, r) = ((int)Math.Round((p.X - box.MinX + 2) / cell) + dx, (int)Math.Round((p.Y - box.MinY + 2) / cell) + dy);
                            if (c >= 0 && r >= 0 && c < columns && r < rows) thread[c, r] = true;
                        }
                }
            }
        }

        int inside = 0, covered = 0, sewn = 0, outside = 0;
        for (var c = 0; c < columns; c++)
            for (var r = 0; r < rows; r++)
            {
                var p = new Point(box.MinX - 2 + (c * cell), box.MinY - 2 + (r * cell));
                var within = Inside(rings, p);
                if (within) inside++;
                if (within && thread[c, r]) covered++;
                if (thread[c, r]) sewn++;
                if (thread[c, r] && !within && EdgeDistance(rings, p) > 0.4) outside++;
            }

        return (covered / (double)inside, outside / (double)sewn);
    }

    private static bool Inside(IReadOnlyList<IReadOnlyList<Point>> rings, Point p)
    {
        var inside = false;
        foreach (var ring in rings)
            for (int i = 0, j = ring.Count - 1; i < ring.Count; j = i++)
                if (ring[i].Y > p.Y != ring[j].Y > p.Y && p.X < ((ring[j].X - ring[i].X) * (p.Y - ring[i].Y) / (ring[j].Y - ring[i].Y)) + ring[i].X)
                    inside = !inside;
        return inside;
    }

    private static double EdgeDistance(IReadOnlyList<IReadOnlyList<Point>> rings, Point p) => rings.Min(ring => Enumerable.Range(0, ring.Count).Min(i =>
    {
        var (a, b) = (ring[i], ring[(i + 1) % ring.Count]);
        var length = (b - a).Dot(b - a);
        var t = length == 0 ? 0 : Math.Clamp((p - a).Dot(b - a) / length, 0, 1);
        return p.DistanceTo(a.Toward(b, t));
    }));

    private static IEnumerable<double> Lengths(IReadOnlyList<Point> points) => points.Zip(points.Skip(1), (a, b) => a.DistanceTo(b));
}
