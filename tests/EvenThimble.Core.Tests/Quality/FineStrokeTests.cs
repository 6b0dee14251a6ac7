using EvenThimble.Core.Craft;
using EvenThimble.Core.Digitizing;
using EvenThimble.Core.Geometry;
using EvenThimble.Core.Shapes;

namespace EvenThimble.Core.Tests.Quality;

/// <summary>Strokes too fine for satin, as small letters have them, drawn by formula: they are drawn in two lines side by side, which cover them with less thread.</summary>
public sealed class FineStrokeTests
{
    [Fact]
    public void A_fine_stroke_is_drawn_along_itself_and_covered()
    {
        var random = new Random(31);
        for (var i = 0; i < 24; i++)
        {
            var (width, swing, turned) = (0.2 + (random.NextDouble() * 0.18), random.NextDouble() * 1.5, random.NextDouble() * 180);
            var outline = Wave(width, swing).ConvertAll(p => p.Turned(turned, Point.Zero));
            var (runs, name) = (LetterLook.Sewn([[.. outline]], StitchWay.Satin), $"{width:0.00} mm wide, swinging by {swing:0.0}, turned by {turned:0}°");
            Holds([[.. outline]], runs, name);

            // Across goes only what turns round at an end, and ties.
            var across = runs.SelectMany(r => r.Zip(r.Skip(1))).Count(s => Math.Abs((s.Second - s.First).Unit().Dot(new Point(1, 0).Turned(turned, Point.Zero))) < 0.5);
            across.ShouldBeLessThanOrEqualTo(swing > 1 ? 12 : 3, name);
        }
    }

    [Fact]
    public void A_fine_ring_is_drawn_round_and_round()
    {
        for (var radius = 1.5; radius < 5; radius += 0.7)
        {
            Point[][] ring = [Circle(radius), Circle(radius - 0.35)];
            Holds(ring, LetterLook.Sewn(ring, StitchWay.Satin), $"a ring of {radius:0.0} mm");
        }
    }

    [Fact]
    public void A_fine_stroke_that_forks_is_covered_to_all_its_ends()
    {
        var random = new Random(32);
        for (var i = 0; i < 20; i++)
        {
            var (width, degrees, at) = (0.25 + (random.NextDouble() * 0.13), 40 + (random.NextDouble() * 100), random.NextDouble() * 6);
            var stem = Bar(new(0, 0), new(0, 8), width);
            var arm = Bar(new(0, at), new Point(0, at) + (new Point(0, 4).Turned(-degrees, Point.Zero)), width);
            Point[][] outlines = [.. Area.Of([stem, arm], Inside.AnyWinding).SelectMany(a => a.Rings)];
            Holds(outlines, LetterLook.Sewn(outlines, StitchWay.Satin), $"{width:0.00} mm wide, an arm at {degrees:0}°, {at:0.0} mm along it");
        }
    }

    [Fact]
    public void Where_fine_strokes_meet_in_a_corner_no_throws_sit_on_the_line_like_a_knot()
    {
        // An N, whose corners are broader than its strokes.
        var random = new Random(33);
        for (var i = 0; i < 20; i++)
        {
            var (width, high, wide) = (0.45 + (random.NextDouble() * 0.15), 4 + (random.NextDouble() * 3), 2.5 + (random.NextDouble() * 2));
            Point[][] outlines = [.. Area.Of([Bar(new(0, 0), new(0, high), width), Bar(new(0, 0), new(wide, high), width), Bar(new(wide, 0), new(wide, high), width)], Inside.AnyWinding).SelectMany(a => a.Rings)];
            var (runs, name) = (LetterLook.Sewn(outlines, StitchWay.Satin), $"{width:0.00} mm strokes, {high:0.0} high, {wide:0.0} wide");
            Holds(outlines, runs, name);
            LayMeasure.Of(outlines, runs).Off.ShouldBeLessThan(12, name);
        }
    }

    [Fact]
    public void No_slit_opens_between_the_two_lines_of_the_broadest_stroke_that_is_drawn()
    {
        var random = new Random(36);
        for (var i = 0; i < 24; i++)
        {
            var (width, turned) = (0.62 + (random.NextDouble() * 0.13), random.NextDouble() * 180);
            Point[][] outlines = [Array.ConvertAll(Bar(new(0, 0), new(0, 9), width), p => p.Turned(turned, Point.Zero))];
            var (runs, name) = (LetterLook.Sewn(outlines, StitchWay.Satin), $"{width:0.00} mm, turned by {turned:0}°");
            Holds(outlines, runs, name);
            LayMeasure.Of(outlines, runs).Bare.ShouldBeLessThan(0.1, name);
            runs.SelectMany(r => r.Zip(r.Skip(1))).Count(s => Math.Abs((s.Second - s.First).Unit().Dot(new Point(1, 0).Turned(turned, Point.Zero))) > 0.7).ShouldBeLessThanOrEqualTo(6, name);
        }
    }

    [Fact]
    public void A_short_foot_of_a_fine_stroke_is_drawn_on_and_a_dot_is_thrown()
    {
        // A stem with a foot and an arm a little broader than itself, each so short that three throws would do.
        var random = new Random(34);
        for (var i = 0; i < 20; i++)
        {
            var (width, foot, broader) = (0.5 + (random.NextDouble() * 0.1), 0.9 + (random.NextDouble() * 0.4), 0.05 + (random.NextDouble() * 0.1));
            Point[] stem = Bar(new(0, 0), new(0, 5), width), below = Bar(new(0, 5), new(foot, 5), width + broader), above = Bar(new(-foot, 0.3), new(0, 0.3), width + broader);
            Point[][] outlines = [.. Area.Of([stem, below, above], Inside.AnyWinding).SelectMany(a => a.Rings)];
            var (runs, name) = (LetterLook.Sewn(outlines, StitchWay.Satin), $"{width:0.00} mm, a foot of {foot:0.00} by {width + broader:0.00}");
            Holds(outlines, runs, name);

            // Along the foot and the arm go lines, and no more than three stitches that turn round or begin there lie across.
            foreach (var (from, to, y) in new[] { (width, foot + 0.3, 5.0), (-foot - 0.3, -width, 0.3) })
                runs.SelectMany(r => r.Zip(r.Skip(1))).Count(s => s.First.Toward(s.Second, 0.5) is var m && m.X > from && m.X < to && Math.Abs(m.Y - y) < 0.6 && Math.Abs(s.First.Y - s.Second.Y) > 0.7 * width).ShouldBeLessThanOrEqualTo(3, name);
        }

        var dot = Bar(new(0, 0), new(0, 0.9), 0.7);
        LetterLook.Sewn([dot], StitchWay.Satin).SelectMany(r => r.Zip(r.Skip(1))).Count(s => s.First.DistanceTo(s.Second) > 0.8 && Math.Abs(s.First.X - s.Second.X) > 0.6).ShouldBeGreaterThan(2);
    }

    [Fact]
    public void A_hairline_of_uneven_breadth_is_drawn_as_a_whole()
    {
        // A stem that is thrown, with a hairline beside it that could be thrown here and there.
        var random = new Random(37);
        for (var i = 0; i < 20; i++)
        {
            var (width, uneven, wave, turned) = (0.38 + (random.NextDouble() * 0.06), 0.1 + (random.NextDouble() * 0.06), 2.5 + (random.NextDouble() * 3), random.NextDouble() * 180);
            List<Point> Edge(int side) => [.. Enumerable.Range(0, 91).Select(k => k * 0.2).Select(x => new Point(x, side * (width + (uneven * Math.Sin(x * 2 * Math.PI / wave))) / 2))];
            Point[][] outlines = [.. Area.Of([Bar(new(-1, -6), new(-1, 6), 2.5), [.. Edge(-1), .. Edge(1).AsEnumerable().Reverse()]], Inside.AnyWinding).SelectMany(a => a.Rings)];
            outlines = [.. outlines.Select(o => Array.ConvertAll(o, p => p.Turned(turned, Point.Zero)))];
            var (runs, name) = (LetterLook.Sewn(outlines, StitchWay.Satin), $"{width:0.00} mm, uneven by {uneven:0.00} over {wave:0.0} mm, turned by {turned:0}°");
            Holds(outlines, runs, name);
            var stitches = runs.SelectMany(r => r.Zip(r.Skip(1))).Select(s => (A: s.First.Turned(-turned, Point.Zero), B: s.Second.Turned(-turned, Point.Zero))).ToList();
            stitches.Count(s => s.A.X > 1 && s.B.X > 1 && Math.Abs(s.A.Y - s.B.Y) > Math.Abs(s.A.X - s.B.X)).ShouldBeLessThanOrEqualTo(2, name);
            stitches.Count(s => s.A.X < 1 && s.B.X < 1 && Math.Abs(s.A.X - s.B.X) > 2).ShouldBeGreaterThan(40, name);
        }
    }

    [Fact]
    public void A_curl_that_nearly_closes_is_covered_to_its_end()
    {
        // At the end of a hairline; what its strokes leave bare there takes more than one stitch out and back.
        var random = new Random(38);
        for (var i = 0; i < 24; i++)
        {
            var (width, curl, gap) = (0.25 + (random.NextDouble() * 0.15), 0.6 + (random.NextDouble() * 0.5), 0.05 + (random.NextDouble() * 0.2));
            Point[] way = [new(0, 0), new(0, 3), new(-curl / 2, 3.2), new(-curl, 2.9), new(-curl, 2.9 - width - gap), new(-width - gap, 2.9 - width - gap)];
            Point[][] outlines = [.. Area.Of([.. way.Zip(way.Skip(1)).Select(b => Bar(b.First, b.Second + ((b.Second - b.First).Unit() * width / 2), width))], Inside.AnyWinding).SelectMany(a => a.Rings)];
            var (runs, name) = (LetterLook.Sewn(outlines, StitchWay.Satin), $"{width:0.00} mm, a curl of {curl:0.00} mm, {gap:0.00} mm open");
            StitchQualityTests.Measured(outlines, runs).Coverage.ShouldBeGreaterThan(97.5, name);
            LayMeasure.Of(outlines, runs).Crowd.ShouldBeLessThanOrEqualTo(8, name);
        }
    }

    [Fact]
    public void What_swells_is_thrown_where_it_is_wide_and_drawn_where_it_is_fine()
    {
        // A stroke as a broad pen draws it: from a hairline to 2 mm and back.
        List<Point> Edge(int side) => [.. Enumerable.Range(0, 61).Select(k => new Point(k * 0.3, side * (0.15 + (0.85 * Math.Pow(Math.Sin(Math.PI * k / 60), 3)))))];
        Point[][] outline = [[.. Edge(-1), .. Edge(1).AsEnumerable().Reverse()]];
        var runs = LetterLook.Sewn(outline, StitchWay.Satin);
        Holds(outline, runs, "a stroke that swells");
        var stitches = runs.SelectMany(r => r.Zip(r.Skip(1))).ToList();
        stitches.Count(s => s.First.DistanceTo(s.Second) > 1.5 && Math.Abs(s.First.X - s.Second.X) < 0.5).ShouldBeGreaterThan(20, "throws where it is wide");
        stitches.ShouldNotContain(s => (s.First.X < 2 || s.First.X > 16) && Math.Abs(s.First.Y - s.Second.Y) > 0.5, "none where it is fine");
    }

    [Theory]
    [InlineData(0.45, 0)]
    [InlineData(0.62, 0)]
    [InlineData(1.5, 12)]
    public void What_is_drawn_is_decided_by_the_strokes_of_a_text_and_not_of_a_letter(double strokeMm, int leastThrows)
    {
        // Strokes that could be thrown as well, 0.5 to 0.75 mm.
        for (var width = 0.5; width <= 0.75; width += 0.05)
        {
            var stroke = new DrawnShape([ShapePath.Through(Bar(new(0, 0), new(0, 8), width), closed: true)]);
            var throws = Digitizer.Runs(stroke, new(StitchWay.Satin) { StrokeMm = strokeMm }, ClothProfiles.Cotton).SelectMany(r => r.Zip(r.Skip(1))).Count(s => Math.Abs(s.First.X - s.Second.X) > 0.7 * width);
            if (leastThrows == 0) throws.ShouldBeLessThanOrEqualTo(2, $"{width:0.00} mm wide: drawn, but for what turns round at an end");
            else throws.ShouldBeGreaterThan(leastThrows, $"{width:0.00} mm wide: thrown");
        }
    }

    [Fact]
    public void A_hairline_far_finer_than_thread_is_sewn_to_its_end()
    {
        // A stem with a hairline that swings out of it, as the small letters of a pen have them.
        for (var fine = 0.016; fine < 0.2; fine *= 1.5)
        {
            List<Point> Edge(double side) => [.. Enumerable.Range(0, 41).Select(k => new Point(3 * Math.Sin(k * Math.PI / 80), 2 - (2 * Math.Cos(k * Math.PI / 80))) is var p ? p + (new Point(Math.Cos(k * Math.PI / 80), Math.Sin(k * Math.PI / 80)).Normal() * (side * fine / 2)) : p)];
            List<Point> hairline = [.. Edge(-1), .. Edge(1).AsEnumerable().Reverse()];
            Point[][] outlines = [.. Area.Of([Bar(new(0, -2), new(0, 4), 0.7), hairline], Inside.AnyWinding).SelectMany(a => a.Rings)];
            var ends = LetterLook.Sewn(outlines, StitchWay.Satin).SelectMany(r => r).Min(p => p.DistanceTo(new(3, 2)));
            ends.ShouldBeLessThan(0.3, $"{fine:0.000} mm");
        }
    }

    [Fact]
    public void Tips_of_small_letters_are_reached()
    {
        // A stem with a foot and a head that run out into points, as those of an old book hand.
        var random = new Random(12);
        for (var i = 0; i < 24; i++)
        {
            var (half, high, tip, thick) = (0.18 + (random.NextDouble() * 0.15), 1.8 + random.NextDouble(), 0.3 + (random.NextDouble() * 0.25), 0.25 + (random.NextDouble() * 0.2));
            Point[] stem =
            [
                new(-half, high - thick), new(-half, thick), new(-half - tip, thick / 3), new(-half, 0), new(half, 0), new(half + tip, thick / 2), new(half, thick),
                new(half, high - thick), new(half + tip, high - (thick / 3)), new(half, high), new(-half, high), new(-half - tip, high - (thick / 2)),
            ];
            var (runs, name) = (LetterLook.Sewn([stem], StitchWay.Satin), $"{2 * half:0.00} mm wide, {high:0.0} mm high, tips of {tip:0.00} mm, {thick:0.00} mm thick");
            StitchQualityTests.Measured([stem], runs).Coverage.ShouldBeGreaterThan(97, name);
            LayMeasure.Of([stem], runs).Out.ShouldBeLessThan(ClothProfiles.Cotton.CompensationMm + 0.2, name);
            LayMeasure.Of([stem], runs).Crowd.ShouldBeLessThanOrEqualTo(9, name);
        }
    }

    [Fact]
    public void Where_a_fine_line_swells_into_satin_it_is_drawn_up_to_the_first_throw()
    {
        // Else a stitch lies aslant over what is open between them.
        var random = new Random(34);
        for (var i = 0; i < 80; i++)
        {
            var (fine, more, at, over, swing) = (0.35 + (random.NextDouble() * 0.25), 0.6 + (random.NextDouble() * 0.4), 3 + (random.NextDouble() * 6), 1.2 + random.NextDouble(), random.NextDouble() * 2.5);
            Point[][] outlines = [[.. Wave(x => fine + (more * Math.Exp(-(x - at) * (x - at) / (over * over))), swing)]];
            var (runs, name) = (LetterLook.Sewn(outlines, StitchWay.Satin), $"{i}: {fine:0.00} mm, at {at:0.0} over {over:0.0} mm {more:0.0} more, swinging by {swing:0.0}");
            LayMeasure.Of(outlines, runs).Stray.ShouldBeLessThan(0.45, name);
            StitchQualityTests.Measured(outlines, runs).Coverage.ShouldBeGreaterThan(98, name);
        }
    }

    [Fact]
    public void A_fine_line_and_a_dot_below_it_do_not_crowd_one_place()
    {
        var random = new Random(35);
        for (var i = 0; i < 60; i++)
        {
            var (width, high, gap, radius, slant) = (0.15 + (random.NextDouble() * 0.2), 2 + random.NextDouble(), 0.05 + (random.NextDouble() * 0.4), 0.15 + (random.NextDouble() * 0.2), (random.NextDouble() - 0.5) * 0.8);
            Point[][] outlines = [Bar(new(0, 0), new(slant, -high), width), Array.ConvertAll(Circle(radius), p => p + new Point(0, gap + radius))];
            LayMeasure.Of(outlines, LetterLook.Sewn(outlines, StitchWay.Satin)).Crowd.ShouldBeLessThanOrEqualTo(8, $"{i}: {width:0.00} mm wide, {high:0.0} high, leaning by {slant:0.00}, {gap:0.00} above a dot of {2 * radius:0.00}");
        }
    }

    [Fact]
    public void A_hairline_that_touches_a_stem_is_not_tied_twice_on_it()
    {
        // The hairline runs out to nothing where it touches, so that it is an area of its own.
        var random = new Random(36);
        for (var i = 0; i < 40; i++)
        {
            var (width, fine, at, out1, up) = (1.3 + random.NextDouble(), 0.1 + (random.NextDouble() * 0.15), 4 + (random.NextDouble() * 12), 0.3 + random.NextDouble(), -1 - (random.NextDouble() * 3));
            var (touch, tip) = (new Point(width, at), new Point(width + out1, at + up));
            var aside = (tip - touch).Unit().Normal() * (fine / 2);
            Point[][] outlines = [[new(0, 0), new(width, 0), touch, new(width, 20), new(0, 20)], [touch, tip + aside, tip - aside]];
            var (lay, name) = (LayMeasure.Of(outlines, LetterLook.Sewn(outlines, StitchWay.Satin)), $"{i}: {fine:0.00} mm wide, {out1:0.0} out and {up:0.0} along from {at:0.0} on a stem of {width:0.0}");
            lay.Thickest.ShouldBeLessThan(14, name);
            lay.Crowd.ShouldBeLessThanOrEqualTo(8, name);
        }
    }

    private static void Holds(Point[][] outlines, List<List<Point>> runs, string name)
    {
        var (edge, lay) = (StitchQualityTests.Measured(outlines, runs), LayMeasure.Of(outlines, runs));
        runs.Count.ShouldBe(1, name);
        edge.Coverage.ShouldBeGreaterThan(96.5, name);
        edge.Outside.ShouldBeLessThan(2, name);
        lay.OverFour.ShouldBeLessThan(2, name);
        lay.Crowd.ShouldBeLessThanOrEqualTo(8, name);
        lay.Stray.ShouldBeLessThanOrEqualTo(0.6, name);
        lay.Out.ShouldBeLessThan(ClothProfiles.Cotton.CompensationMm + 0.5, name);
    }

    private static List<Point> Wave(double width, double swing) => Wave(_ => width, swing);

    private static List<Point> Wave(Func<double, double> width, double swing)
    {
        List<Point> Edge(double side) => [.. Enumerable.Range(0, 121).Select(k =>
        {
            var (x, slope) = (k * 0.1, swing * Math.PI / 6 * Math.Cos(k * 0.1 * Math.PI / 6));
            return new Point(x, swing * Math.Sin(x * Math.PI / 6)) + (new Point(1, slope).Unit().Normal() * (side * width(x) / 2));
        })];
        return [.. Edge(-1), .. Edge(1).AsEnumerable().Reverse()];
    }

    private static Point[] Bar(Point from, Point to, double width)
    {
        var aside = (to - from).Unit().Normal() * (width / 2);
        return [from + aside, to + aside, to - aside, from - aside];
    }

    private static Point[] Circle(double radius) => [.. Enumerable.Range(0, 90).Select(k => new Point(radius, 0).Turned(k * 4, Point.Zero))];
}
