using EvenThimble.Core.Craft;
using EvenThimble.Core.Digitizing;
using EvenThimble.Core.Digitizing.Fill;
using EvenThimble.Core.Digitizing.Lines;
using EvenThimble.Core.Digitizing.Satin;
using EvenThimble.Core.Geometry;
using EvenThimble.Core.Shapes;
using EvenThimble.Core.Stitches;
using EvenThimble.Core.Tests.Quality;

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
        var points = RunLine.Along(Outlines.Circle(new(0, 0), 3), 2.2);
        foreach (var (a, b) in points.Zip(points.Skip(1))) (3 - a.Toward(b, 0.5).Length).ShouldBeLessThan(0.12);
        Lengths(points).Max().ShouldBeGreaterThan(0.8);
    }

    [Fact]
    public void A_triple_run_sews_each_stitch_forward_back_and_forward() =>
        RunLine.Tripled([new(0, 0), new(2, 0), new(4, 0)]).ShouldBe([new(0, 0), new(2, 0), new(0, 0), new(2, 0), new(4, 0), new(2, 0), new(4, 0)]);

    [Theory]
    [InlineData(3)]
    [InlineData(6.5)]
    [InlineData(11)]
    public void Satin_throws_go_from_rail_to_rail_at_the_spacing_and_are_split_when_too_long(double width)
    {
        var points = SatinRails.Throws([new(0, 0), new(40, 0)], [new(0, width), new(40, width)], new(0.4, 0));
        Lengths(points).Max().ShouldBeLessThanOrEqualTo(Limits.LongestThrow);
        var onRail = points.Where(p => p.Y < 1e-9).Select(p => p.X).ToList();
        onRail.Zip(onRail.Skip(1), (a, b) => b - a).ShouldAllBe(d => Math.Abs(d - Limits.SatinSpacing) < 0.01);
        points.ShouldAllBe(p => p.Y >= -1e-9 && p.Y <= width + 1e-9);
    }

    [Fact]
    public void Satin_on_a_bend_stays_square_to_the_stroke()
    {
        var middle = Outlines.Arc(new(0, 0), 20, 20, 0, 180);
        var points = SatinRails.Throws(Polylines.Offset(middle, _ => 2), Polylines.Offset(middle, _ => -2), new(0.4, 0));
        for (var i = 0; i + 1 < points.Count; i += 2)
        {
            var across = (points[i + 1] - points[i]).Unit();
            var outwards = points[i].Toward(points[i + 1], 0.5).Unit();
            Math.Abs(across.Dot(outwards)).ShouldBeGreaterThan(0.985);
        }
    }

    [Fact]
    public void On_a_tight_bend_some_throws_stop_short_of_the_inner_edge()
    {
        var ring = Area.Of([Outlines.Circle(new(0, 0), 5), Outlines.Circle(new(0, 0), 1)])[0];
        var throws = SatinSewing.Sew(ring, new(0.4, 0));
        var innermost = throws.Where(p => p.Length < 1.05).ToList();
        innermost.Count.ShouldBeLessThan(throws.Count(p => p.Length > 4.95) * 2 / 3);
    }

    [Theory]
    [InlineData(false)]
    [InlineData(true)]
    public void A_satin_line_has_its_width_all_along_and_closes_without_a_gap(bool closed)
    {
        Point[] line = [new(0, 0), new(30, 0), new(30, 20), new(0, 20)];
        var runs = Digitizer.Runs(Of(line, closed), new(StitchWay.LineSatin) { WidthMm = 3, CompensationMm = 0 }, ClothProfiles.Cotton);
        runs.Count.ShouldBe(1);
        var box = Box.Around(runs[0]);
        box.MinY.ShouldBe(-1.5, 0.1);
        box.MaxX.ShouldBe(31.5, 0.1);
        box.MaxY.ShouldBe(21.5, 0.1);
        box.MinX.ShouldBe(closed ? -1.5 : 0, 0.1);
        var covered = Quality.StitchMeasure.Of([.. LineBand.Of(line, closed, 3)[0].Rings], runs, 0.2);
        covered.Coverage.ShouldBeGreaterThan(97);
    }

    [Fact]
    public void Motifs_fill_each_side_evenly_and_alternate_sides()
    {
        Motifs.All.Count.ShouldBeGreaterThanOrEqualTo(12);
        foreach (var motif in Motifs.All)
        {
            (motif.Path[0].Length + motif.Path[^1].DistanceTo(new(1, 0))).ShouldBeLessThan(1e-9, motif.Name);
            var row = MotifRow.Along([.. Square, Square[0]], motif, 6.5);
            foreach (var corner in Square) row.Min(p => p.DistanceTo(corner)).ShouldBeLessThan(0.41, motif.Name);
            Lengths(row).Max().ShouldBeLessThan(Limits.LongestThrow);
        }

        var peaks = Motifs.Find("peaks")!;
        MotifRow.Along([new(0, 0), new(24, 0)], peaks, 6).Where(p => p.Y < -3).Select(p => Math.Round(p.X)).ShouldBe([3.0, 9, 15, 21]);
        MotifRow.Along([new(0, 0), new(24, 0)], peaks, 6, MotifTurn.Mirrored).ShouldAllBe(p => p.Y >= -1e-9);
        MotifRow.Along([new(0, 0), new(24, 0)], peaks, 6, MotifTurn.Alternating).Count(p => p.Y > 1).ShouldBeGreaterThan(1);
    }

    [Theory]
    [InlineData(0)]
    [InlineData(37)]
    [InlineData(90)]
    public void Rows_lie_at_the_angle_and_the_spacing(double angle)
    {
        var area = Area.Of([Square])[0];
        var rows = new RowFill(angle).Of(area).Select(p => p.Turned(-angle, Point.Zero)).ToList();
        var level = rows.Zip(rows.Skip(1)).Where(s => Math.Abs(s.First.X - s.Second.X) > 2 && Math.Abs(s.First.Y - s.Second.Y) < 0.01).Select(s => Math.Round(s.First.Y, 2)).Distinct().Order().Skip(8).SkipLast(8).ToList();
        level.Count.ShouldBeGreaterThan(50);
        level.Zip(level.Skip(1), (a, b) => b - a).ShouldAllBe(d => Math.Abs(d - Limits.FillSpacing) < 0.02);
    }

    [Fact]
    public void Neighbouring_rows_do_not_put_their_needle_points_side_by_side()
    {
        var run = new RowFill(0).Of(Area.Of([Square])[0]);
        var inner = run.Where(p => p.X is > 2 and < 28).GroupBy(p => Math.Round(p.Y, 3)).OrderBy(g => g.Key).Select(g => g.Select(p => p.X).Order().ToList()).ToList();
        foreach (var (above, below) in inner.Zip(inner.Skip(1)))
            foreach (var x in above) below.Min(other => Math.Abs(other - x)).ShouldBeGreaterThan(0.5);
    }

    [Fact]
    public void A_fill_and_a_satin_start_and_end_where_they_are_asked_to()
    {
        Point[] bar = [new(0, 0), new(30, 0), new(30, 5), new(0, 5)];

        // A row ends where it ends, and a throw on one of its two edges.
        (StitchWay Way, Point[] Outline, Point Start, Point End, double Near)[] asked =
        [
            (StitchWay.Fill, Square, new(1, 29), new(29, 1), 2), (StitchWay.PatternedFill, Square, new(1, 29), new(29, 1), 2), (StitchWay.Fill, Square, new(29, 1), new(1, 29), 2),
            (StitchWay.Satin, bar, new(0.5, 2.5), new(29.5, 2.5), 3), (StitchWay.Satin, bar, new(29.5, 2.5), new(0.5, 2.5), 3), (StitchWay.Satin, bar, new(0.5, 2.5), new(1, 2.5), 3),
        ];
        foreach (var (way, outline, start, end, near) in asked)
        {
            var run = Digitizer.Runs(Of(outline, true), new(way) { Start = start, End = end }, ClothProfiles.Cotton).Single();
            run[0].DistanceTo(start).ShouldBeLessThan(0.5, way.InWords());
            run[^1].DistanceTo(end).ShouldBeLessThan(near, way.InWords());
        }
    }

    [Fact]
    public void Needle_points_of_a_patterned_fill_lie_on_the_lines_of_its_tile()
    {
        Tiles.All.Count.ShouldBeGreaterThanOrEqualTo(8);
        var tile = new Tile("uprights", "uprights", 5, 5, [[new(0, 0), new(0, 5)]]);
        var run = new RowFill(0) { Tile = new(tile, 1, 0), SpacingMm = 0.5 }.Of(Area.Of([Square])[0]);
        var inner = run.Where(p => p.X is > 2 and < 28 && p.Y is > 1 and < 29).ToList();
        inner.Count(p => Math.Abs((p.X / 5) - Math.Round(p.X / 5)) < 0.01).ShouldBeGreaterThan(inner.Count * 9 / 10);
    }

    [Fact]
    public void Every_tile_draws_a_pattern_of_its_own_without_long_or_short_stitches()
    {
        var seen = new HashSet<string>();
        foreach (var tile in Tiles.All)
        {
            var run = Digitizer.Runs(Of(Square, true), new(StitchWay.PatternedFill) { Tile = tile.Id, Angle = 0 }, ClothProfiles.Cotton).Single();
            Lengths(run).Max().ShouldBeLessThanOrEqualTo(Limits.LongestThrow + 0.01, tile.Name);
            seen.Add(string.Join(' ', run.Select(p => $"{p.X:0.0}"))).ShouldBeTrue(tile.Name);
        }
    }

    [Fact]
    public void Compensation_lengthens_rows_and_throws_only()
    {
        var (plain, wide) = (Runs(0), Runs(0.4));
        Box.Around(wide).Width.ShouldBe(Box.Around(plain).Width + 0.8, 0.05);
        Box.Around(wide).Height.ShouldBe(Box.Around(plain).Height, 0.05);

        static List<Point> Runs(double by) => Digitizer.Runs(Of(Square, true), new(StitchWay.Fill) { Angle = 0, CompensationMm = by, Underlay = UnderlayLayers.None }, ClothProfiles.Cotton).Single();
    }

    [Fact]
    public void Each_kind_of_underlay_adds_stitches_inside_the_edge()
    {
        foreach (var way in new[] { StitchWay.Fill, StitchWay.Satin })
        {
            DrawnShape bar = BasicShapes.Rectangle(40, 5);
            var bare = Digitizer.Runs(bar, new(way) { Underlay = UnderlayLayers.None }, ClothProfiles.Cotton).Single();
            foreach (var layer in new[] { Underlay.Edge, Underlay.Zigzag, Underlay.DoubleZigzag, Underlay.Light })
            {
                var under = Digitizer.Runs(bar, new(way) { Underlay = new(layer) }, ClothProfiles.Cotton).Single();
                under.Count.ShouldBeGreaterThan(bare.Count, $"{way} {layer}");
                under.Take(under.Count - bare.Count).ShouldAllBe(p => Math.Abs(p.Y) <= 2.5 && Math.Abs(p.X) <= 20.1, $"{way} {layer}");
            }
        }
    }

    [Fact]
    public void Runs_are_tied_in_and_off_inside_the_shape_and_trimmed()
    {
        var blob = Digitizer.Stitch(Of(Square, true), new(StitchWay.Fill), ClothProfiles.Cotton);
        (blob.Kinds[0], blob.Kinds[1], blob.Kinds[^1]).ShouldBe((StitchKind.Jump, StitchKind.Stitch, StitchKind.Trim));
        for (var i = 2; i < 5; i++) blob.At(i).DistanceTo(blob.At(i - 1)).ShouldBeLessThanOrEqualTo(0.71);
        for (var i = blob.Count - 2; i > blob.Count - 5; i--) blob.At(i).DistanceTo(blob.At(i - 1)).ShouldBeLessThanOrEqualTo(0.71);
    }

    [Fact]
    public void What_begins_beside_the_needle_is_sewn_on_without_a_cut()
    {
        // Lines end to end, the second begun at the end of the first.
        int Runs(double gap) => Digitizer.Runs(new([.. new[] { 0, 10 + gap }.Select(x => ShapePath.Through([new(x, 0), new(x + 10, 0)], closed: false))]), new(StitchWay.Run), ClothProfiles.Cotton).Count;
        Runs(0.5).ShouldBe(1);
        Runs(0.05).ShouldBe(1);
        Runs(1).ShouldBe(2, "that thread would be seen");
    }

    [Fact]
    public void A_fine_line_that_ends_at_what_is_sewn_is_not_tied_twice_there()
    {
        // Drawn out and back it ends where it begins, and beside the edge of a bar there are needle points already.
        foreach (var (width, apart, at, turn) in from w in new[] { 1.2, 2, 4 } from d in new[] { 0.02, 0.1 } from y in new[] { -3.0, 0, 3 } from t in new[] { 0.0, 40 } select (w, d, y, t))
        {
            var hairline = BasicShapes.Rectangle(5, 0.2).Moved(p => (p + new Point(2.5, 0)).Turned(turn, Point.Zero) + new Point((width / 2) + apart + (turn > 0 ? 0.07 : 0), at));
            Point[][] outlines = [.. new[] { BasicShapes.Rectangle(width, 10), hairline }.Select(s => s.Paths[0].Flattened().ToArray())];
            LayMeasure.Of(outlines, LetterLook.Sewn(outlines, StitchWay.Satin)).Crowd.ShouldBeLessThanOrEqualTo(8, $"a bar of {width} mm, {apart} mm away at {at}, {turn}°");
        }
    }

    [Fact]
    public void Width_decides_between_run_satin_and_fill_place_by_place()
    {
        double RowsOf(DrawnShape shape, Func<Point, bool> where)
        {
            var run = Digitizer.Runs(shape, new(), ClothProfiles.Cotton).Single();
            var there = run.Zip(run.Skip(1)).Where(s => where(s.First) && where(s.Second)).ToList();
            var rows = there.Count(s => Math.Abs(((Math.Atan2(s.Second.Y - s.First.Y, s.Second.X - s.First.X) * 180 / Math.PI) - StitchSettings.UsualAngle + 720) % 180) is < 3 or > 177);
            return rows / (double)there.Count;
        }

        var dumbbell = Of(QualityShapes.All["dumbbell"][0], true);
        RowsOf(dumbbell, p => p.X < 4).ShouldBeGreaterThan(0.5, "the wide end is filled");
        RowsOf(dumbbell, p => p.X is > 10 and < 30).ShouldBeLessThan(0.2, "the bar is satin");
        RowsOf(BasicShapes.Rectangle(50, 4), _ => true).ShouldBeLessThan(0.2, "a narrow bar is satin");
        RowsOf(BasicShapes.Rectangle(50, 20), _ => true).ShouldBeGreaterThan(0.6, "a wide one is filled");
    }

    [Fact]
    public void Islands_are_sewn_one_after_another_the_nearest_next()
    {
        var shape = new DrawnShape([.. new[] { 0.0, 80, 40 }.Select(x => ShapePath.Through(Square.Select(p => p + new Point(x, 0)), closed: true))]);
        var runs = Digitizer.Runs(shape, new(StitchWay.Fill) { Start = new(0, 0) }, ClothProfiles.Cotton);
        runs.Select(r => Math.Floor(r[0].X / 40)).ShouldBe([0, 1, 2]);
    }

    [Fact]
    public void Nothing_is_stitched_of_what_has_no_area()
    {
        foreach (var points in new Point[][] { [new(0, 0), new(10, 0)], [new(3, 3), new(3, 3), new(3, 3)], [new(0, 0), new(20, 0), new(10, 0)] })
            Digitizer.Stitch(Of(points, true), new(StitchWay.Fill), ClothProfiles.Cotton).Count.ShouldBe(0);
    }

    private static DrawnShape Of(Point[] points, bool closed) => new([ShapePath.Through(points, closed)]);

    private static IEnumerable<double> Lengths(IReadOnlyList<Point> points) => points.Zip(points.Skip(1), (a, b) => a.DistanceTo(b));
}
