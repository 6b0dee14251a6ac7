using EvenThimble.Core.Craft;
using EvenThimble.Core.Geometry;
using EvenThimble.Core.Shapes;

namespace EvenThimble.Core.Tests.Quality;

/// <summary>Strokes that bend, end aslant or fork, drawn by formula and measured as thread: as wide as letters of 30 to 80 mm have them, where throws are long and every slot is seen.</summary>
public sealed class BentStrokeTests
{
    private const double LegMm = 22;

    [Fact]
    public void A_bend_is_closed_and_nothing_is_heaped_on_its_inner_side()
    {
        var random = new Random(20);
        for (var i = 0; i < 24; i++)
        {
            var (width, degrees, round) = (3 + (random.NextDouble() * 9), 15 + (random.NextDouble() * 125), random.NextDouble() * 3);
            var lay = Sewn(Bend(width, degrees, round));
            var name = $"{width:0.0} mm wide, bent by {degrees:0}° about {round:0.0} mm";
            lay.Bare.ShouldBeLessThan(0.3, name);
            lay.Stray.ShouldBeLessThan(0.6, name);
            lay.Out.ShouldBeLessThan(ClothProfiles.Cotton.CompensationMm + 0.5, name);
            lay.Thickest.ShouldBeLessThan(14, name);
        }
    }

    [Fact]
    public void Where_an_arch_springs_from_a_stem_throws_that_fan_out_do_not_lie_upon_each_other()
    {
        var random = new Random(24);
        for (var i = 0; i < 30; i++)
        {
            var (stem, far, thin) = (5 + (random.NextDouble() * 5), 12 + (random.NextDouble() * 12), 0.5 + (random.NextDouble() * 2.5));
            var lay = Sewn(Arch(stem, far, thin));
            var name = $"a stem of {stem:0.0} mm, an arch of {far:0.0}, {thin:0.0} where it springs";
            lay.Thickest.ShouldBeLessThan(14, name);
            lay.Bare.ShouldBeLessThan(0.3, name);
        }
    }

    [Fact]
    public void A_stem_whose_corner_is_cut_off_is_thrown_across_as_far_down_as_that()
    {
        // Half of a stencilled U: a stem, its outer corner cut off, and a short foot.
        var (random, aslant) = (new Random(28), new List<string>());
        for (var i = 0; i < 20; i++)
        {
            var (width, foot, high, scale) = (5 + (random.NextDouble() * 0.1), 6.8 + (random.NextDouble() * 0.1), 14.5 + (random.NextDouble() * 0.7), 0.9 + (random.NextDouble() * 0.4));
            Point[] outline = [new(0, 0), new(width, 0), new(width, high - 3), new(foot, high - 3), new(foot, high), new(3, high), new(0, high - 3)];
            var throws = LetterLook.Sewn([Array.ConvertAll(outline, p => p * scale)], StitchWay.Satin).SelectMany(r => r.Zip(r.Skip(1))).Where(t => t.First.DistanceTo(t.Second) > 0.6 * width * scale && t.First.Toward(t.Second, 0.5).Y < (high - 4) * scale);
            if (throws.Any(t => Math.Abs((t.Second - t.First).Unit().Y) > 0.6)) aslant.Add($"{width:0.00} mm, {high:0.0} high, a foot of {foot:0.00}, times {scale:0.00}");
        }

        aslant.ShouldBeEmpty();
    }

    [Fact]
    public void Where_an_edge_steps_away_no_strip_along_it_stays_bare()
    {
        var (random, hairlines) = (new Random(26), new List<string>());
        for (var i = 0; i < 30; i++)
        {
            var (stem, left, right, from, high) = (7 + (random.NextDouble() * 7), 2.5 + (random.NextDouble() * 4), 2.5 + (random.NextDouble() * 4), 12 + random.NextDouble(), 6 + (random.NextDouble() * 4));
            var to = from + high;
            var lay = Sewn([[new(0, 0), new(stem, 0), new(stem, from), new(stem + right, from), new(stem + right, to), new(stem, to), new(stem, 34), new(0, 34), new(0, to), new(-left, to), new(-left, from), new(0, from)]]);
            var name = $"a stem of {stem:0.0} mm, {left:0.0} and {right:0.0} wider over {high:0.0}";
            lay.Stray.ShouldBeLessThan(0.6, name);
            lay.Thickest.ShouldBeLessThan(14, name);

            // A strip of 0.05 mm is hardly seen, and more than 0.3 mm² where it is 7 mm long.
            lay.Bare.ShouldBeLessThan(0.5, name);
            if (lay.Bare >= 0.3) hairlines.Add(name);
        }

        hairlines.Count.ShouldBeLessThanOrEqualTo(1, string.Join("; ", hairlines));
    }

    [Fact]
    public void A_slanted_end_is_closed_by_throws_that_lie_as_the_others_do()
    {
        var random = new Random(21);
        for (var i = 0; i < 24; i++)
        {
            var (width, rise) = (4 + (random.NextDouble() * 9), random.NextDouble() * 2.6);
            var lay = Sewn([[new(0, 0), new(width, 0), new(width, 40), new(0, 40 - (width * rise))]]);
            var name = $"{width:0.0} mm wide, cut off {rise:0.0} times as high as wide";
            lay.Bare.ShouldBeLessThan(0.3, name);
            lay.Stray.ShouldBeLessThan(0.6, name);
            lay.Turning.ShouldBeLessThan(2, name);
        }
    }

    [Fact]
    public void Where_strokes_fork_no_way_lies_on_what_is_finished()
    {
        var random = new Random(22);
        var strays = new List<string>();
        for (var i = 0; i < 30; i++)
        {
            var (width, arm, degrees, at) = (3 + (random.NextDouble() * 7), 2 + (random.NextDouble() * 5), 35 + (random.NextDouble() * 110), 0.15 + (random.NextDouble() * 0.7));
            var lay = Sewn(Fork(width, arm, degrees, at));
            if (lay.Stray > 0.6) strays.Add($"{width:0.0} mm, an arm of {arm:0.0} at {degrees:0}°, {at:0.00} along it: {lay.Stray:0.0}");
            lay.Out.ShouldBeLessThan(ClothProfiles.Cotton.CompensationMm + 0.5);
        }

        strays.Count.ShouldBeLessThanOrEqualTo(1, string.Join("; ", strays));
    }

    [Fact]
    public void Where_broad_strokes_run_into_each_other_nothing_is_heaped_and_nothing_lies_alone()
    {
        var random = new Random(28);
        for (var i = 0; i < 16; i++)
        {
            var (width, upper, lower, squeezed) = (6 + (random.NextDouble() * 7), 2 + (random.NextDouble() * 5), 4 + (random.NextDouble() * 5), 0.6 + (random.NextDouble() * 0.5));
            var outlines = Eight(width, upper, lower, squeezed);
            var runs = LetterLook.Sewn(outlines, StitchWay.Satin);
            var lay = LayMeasure.Of(outlines, runs);
            var name = $"an eight {width:0.0} mm wide about windows of {upper:0.0} and {lower:0.0}, {squeezed:0.00} times as broad as high";
            lay.Thickest.ShouldBeLessThan(14, name);
            lay.Stray.ShouldBeLessThan(0.6, name);
            lay.Bare.ShouldBeLessThan(0.3, name);
            lay.Crowd.ShouldBeLessThanOrEqualTo(8, name);
            lay.Out.ShouldBeLessThan(ClothProfiles.Cotton.CompensationMm + 0.5, name);
            StitchQualityTests.Measured(outlines, runs).Coverage.ShouldBeGreaterThan(99, name);
        }
    }

    [Fact]
    public void The_edge_of_a_moon_has_no_dent()
    {
        // Throws fan out from the inner edge, and thread is taken out where it is heaped there: neither may leave that edge bare for as long as is seen.
        var random = new Random(29);
        for (var i = 0; i < 24; i++)
        {
            var (width, wider, off) = (8 + (random.NextDouble() * 9), 1.05 + (random.NextDouble() * 0.5), 0.25 + (random.NextDouble() * 0.3));
            var (radius, inner) = (width * wider, 1 - (((1 / wider) - off) / 2));
            var outlines = Moon(radius, inner, off);
            LongestBare(outlines, LetterLook.Sewn(outlines, StitchWay.Satin)).ShouldBeLessThan(0.2, $"{i}: {width:0.0} mm wide at most, on a disc of {radius:0.0}, its hole {off:0.00} of that over the edge");
        }
    }

    [Fact]
    public void A_tie_does_not_lie_on_a_joint_where_thread_is_heaped_already()
    {
        // A stem with three arms that tuck under it, as E has: at each joint lie two layers, at both corners with the ends of the stem.
        var random = new Random(35);
        var heaped = new List<string>();
        for (var i = 0; i < 60; i++)
        {
            var (width, high, wide) = (0.9 + (random.NextDouble() * 0.9), 5 + (random.NextDouble() * 5), 3 + (random.NextDouble() * 3));
            Point[] Box(double x, double y, double right, double bottom) => [new(x, y), new(right, y), new(right, bottom), new(x, bottom)];
            Point[][] outlines = [.. Area.Of([Box(0, 0, width * 1.2, high), Box(0, 0, wide, width), Box(0, (high - width) / 2, wide * 0.9, (high + width) / 2), Box(0, high - width, wide, high)], Inside.AnyWinding).SelectMany(a => a.Rings)];
            var lay = LayMeasure.Of(outlines, LetterLook.Sewn(outlines, StitchWay.Satin));
            if (lay.Thickest > 14) heaped.Add($"{width:0.00} mm, {high:0.0} by {wide:0.0}: {lay.Thickest:0.0}");
            lay.Stray.ShouldBeLessThanOrEqualTo(0.6);
        }

        heaped.ShouldBeEmpty();
    }

    [Fact]
    public void Where_slabs_meet_a_small_stem_nothing_is_heaped()
    {
        // An r of slabs, so small that its strokes and their ties lie upon each other.
        var random = new Random(39);
        var heaped = new List<string>();
        for (var i = 0; i < 300; i++)
        {
            var (size, stem, slab, beyond, high) = (0.55 + (random.NextDouble() * 0.45), 1.6 + (random.NextDouble() * 0.6), 0.5 + (random.NextDouble() * 0.3), 0.6 + (random.NextDouble() * 0.4), 5 + random.NextDouble());
            Point[] Box(double x, double y, double right, double bottom) => [new(x, y), new(right, y), new(right, bottom), new(x, bottom)];
            Point[] Arc(Point middle, double across, double down) => [.. Enumerable.Range(0, 13).Select(k => k * Math.PI / 24).Select(a => middle - new Point(across * Math.Cos(a), down * Math.Sin(a)))];
            Point[] bow = [.. Arc(new(stem + 1.9, 2.8), 2.1, 2.9), new(stem + 2.7, 0), new(stem + 2.7, 1.7), new(stem + 2.1, 1.7), .. Arc(new(stem + 1.4, 2.8), 1.5, 1.9).AsEnumerable().Reverse()];
            Point[][] outlines = [.. Area.Of([Box(0, 0, stem, high), Box(-beyond, 0, stem, slab), Box(-beyond, high - slab, stem + beyond, high), bow], Inside.AnyWinding).SelectMany(a => a.Rings).Select(r => Array.ConvertAll(r, p => p * size))];
            var lay = LayMeasure.Of(outlines, LetterLook.Sewn(outlines, StitchWay.Satin));
            if (lay.Thickest > 14) heaped.Add($"{size:0.00} times {stem:0.00} mm, {high:0.0} high, slabs {slab:0.00} by {beyond:0.00}: {lay.Thickest:0.0}");
        }

        heaped.ShouldBeEmpty();
    }

    [Fact]
    public void A_window_that_touches_the_outline_in_a_point_is_kept_open()
    {
        // An elbow whose window has a corner in the inner corner of the elbow: two pieces of outline begin at that point.
        for (var n = 0; n < 6; n++)
        {
            var (inner, far, degrees) = (new Point(6, 6), 2.2 + (n * 0.3), 7.0 * n);
            Point[][] straight = [[new(0, 0), new(16, 0), new(16, 6), inner, new(6, 16), new(0, 16)], [inner, new(2, far), new(far, 2)]];
            var outlines = Array.ConvertAll(straight, o => Array.ConvertAll(o, p => p.Turned(degrees, Point.Zero)));
            var runs = LetterLook.Sewn(outlines, StitchWay.Satin);
            var lay = LayMeasure.Of(outlines, runs);
            StitchQualityTests.Measured(outlines, runs).Coverage.ShouldBeGreaterThan(99, $"{degrees}°");
            lay.OverFour.ShouldBeLessThan(2, $"{degrees}°");
            lay.Stray.ShouldBeLessThan(0.6, $"{degrees}°");
            lay.Out.ShouldBeLessThan(ClothProfiles.Cotton.CompensationMm + 0.5, $"{degrees}°");
        }
    }

    private static LayMeasure Sewn(Point[][] outlines) => LayMeasure.Of(outlines, LetterLook.Sewn(outlines, StitchWay.Satin));

    /// <summary>A disc without a smaller one that reaches over its edge.</summary>
    private static Point[][] Moon(double radius, double inner, double off)
    {
        Point[] Round(double r, double x) => [.. Enumerable.Range(0, 90).Select(k => (2 * Math.PI * k / 90) is var t ? new Point(x + (Math.Cos(t) * r), Math.Sin(t) * r) : default)];
        var hole = Region.Of(Area.Of([Round(radius * inner, radius * (1 - inner + off))]));
        return [.. Area.Of([Round(radius, 0)]).SelectMany(a => a.Without(hole).Areas).SelectMany(a => a.Rings)];
    }

    /// <summary>Along which length at most an outline lies on no thread, mm, its horns aside: there it is narrower than thread.</summary>
    private static double LongestBare(Point[][] outlines, List<List<Point>> runs)
    {
        const double step = 0.05, horn = 1.5;
        var (stitches, longest) = (runs.SelectMany(r => r.Zip(r.Skip(1))).ToList(), 0.0);
        foreach (var ring in outlines)
        {
            var horns = ring.Where((p, k) => (p - ring[(k + ring.Length - 1) % ring.Length]).Unit().Dot((ring[(k + 1) % ring.Length] - p).Unit()) < 0.5).ToList();

            // Twice around, for a bare stretch may begin before the first point.
            var bare = 0.0;
            foreach (var (a, b) in Enumerable.Range(0, 2 * ring.Length).Select(k => (ring[k % ring.Length], ring[(k + 1) % ring.Length])))
            {
                var pieces = Math.Max(1, (int)Math.Ceiling(a.DistanceTo(b) / step));
                for (var k = 0; k < pieces; k++)
                {
                    var p = a.Toward(b, (k + 0.5) / pieces);
                    var isOpen = !horns.Exists(h => h.DistanceTo(p) < horn) && !stitches.Exists(s => p.DistanceToLine(s.First, s.Second) < Limits.ThreadWidth / 2);
                    bare = isOpen ? bare + (a.DistanceTo(b) / pieces) : 0;
                    longest = Math.Max(longest, bare);
                }
            }
        }

        return longest;
    }

    /// <summary>Two legs, and an arc between them about a point a little beyond the inner edge.</summary>
    private static Point[][] Bend(double width, double degrees, double round)
    {
        List<Point> Edge(double radius)
        {
            var edge = new List<Point> { new(-LegMm, -radius) };
            for (var k = 0; k <= 24; k++) edge.Add(new Point(0, -radius).Turned(degrees * k / 24, Point.Zero));
            edge.Add(edge[^1] + (new Point(1, 0).Turned(degrees, Point.Zero) * LegMm));
            return edge;
        }

        return [[.. Edge(round + width), .. Edge(round).AsEnumerable().Reverse()]];
    }

    /// <summary>A stem and a second one, and from the first to the second an arch that is thin where it springs, as in an n.</summary>
    private static Point[][] Arch(double stem, double far, double thin)
    {
        Point[] Box(double x) => [new(x, 0), new(x + stem, 0), new(x + stem, 40), new(x, 40)];
        var (middle, half) = ((stem + far + stem) / 2, (far / 2) + stem);
        var outer = Enumerable.Range(0, 41).Select(k => (Math.PI * k / 40) is var t ? new Point(middle - (Math.Cos(t) * half), 12 - (Math.Sin(t) * 12)) : default);
        var inner = Enumerable.Range(0, 41).Select(k => (Math.PI * k / 40) is var t ? new Point(middle - (Math.Cos(t) * far / 2), 12 + thin - (Math.Sin(t) * 8)) : default);
        return [.. Area.Of([Box(0), Box(far + stem), [.. outer, .. inner.Reverse()]], Inside.AnyWinding).SelectMany(a => a.Rings)];
    }

    /// <summary>Two rings of a width about round windows, the lower one reaching into the upper one by that width.</summary>
    private static Point[][] Eight(double width, double upper, double lower, double squeezed)
    {
        Point[] Round(double radius, double y) => [.. Enumerable.Range(0, 72).Select(k => (2 * Math.PI * k / 72) is var t ? new Point(Math.Cos(t) * radius * squeezed, y + (Math.Sin(t) * radius)) : default)];
        var apart = upper + width + lower;
        var solid = Area.Of([Round(upper + width, 0), Round(lower + width, apart)], Inside.AnyWinding).SelectMany(a => a.Rings);
        return [.. solid, Round(upper, 0), Round(lower, apart)];
    }

    /// <summary>A stem, and an arm that leaves it aslant.</summary>
    private static Point[][] Fork(double width, double arm, double degrees, double at)
    {
        Point[] stem = [new(0, 0), new(width, 0), new(width, 40), new(0, 40)];
        var (from, way) = (new Point(width / 2, 40 * at), new Point(0, 1).Turned(-degrees, Point.Zero));
        var aside = way.Normal() * (arm / 2);
        Point[] branch = [from + aside, from + (way * 24) + aside, from + (way * 24) - aside, from - aside];
        return [.. Area.Of([stem, branch], Inside.AnyWinding).SelectMany(a => a.Rings)];
    }
}
