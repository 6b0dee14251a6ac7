using EvenThimble.Core.Geometry;
using EvenThimble.Core.Outlining;
using EvenThimble.Core.Shapes;

namespace EvenThimble.Core.Tests.Cutting;

/// <summary>Lines found in stitches that were laid apart from the engine, in ten ways and with ten kinds of beginnings and ends. The whole set is 3,000; a twentieth of it with a fixed seed is looked at.</summary>
public class OutlineTests
{
    private const int OneIn = 20;
    private static readonly string[] Lines = ["run", "twice", "there and back", "between", "bean"];
    private static readonly string[] Throws = ["zigzag", "dense zigzag", "satin", "satin over centre", "satin over edge"];
    private static readonly string[] Ends = ["plain", "overlap", "gap", "from the middle", "from outside", "tied", "tied in a triangle", "tied in steps", "tenths", "led out"];

    [Fact]
    public void A_line_that_is_run_is_found_once_and_exactly_however_it_begins_and_ends()
    {
        var (all, wrong, off) = Measured(Lines, 3);
        all.ShouldBeGreaterThan(50);
        wrong.Count.ShouldBeLessThanOrEqualTo(1, string.Join("; ", wrong));

        // A notch of 6° is closed where its sides are nearer than a thread; coordinates in tenths are off by their rounding.
        off.Count(o => !o.Says.StartsWith("notch") && o.Off > (o.Says.Contains("tenths") ? 0.08 : o.Says.Contains("steps") || o.Says.Contains("gap") ? 0.9 : 0.05))
            .ShouldBeLessThanOrEqualTo(1, string.Join("\n", off.OrderByDescending(o => o.Off).Take(20)));
    }

    [Fact]
    public void The_middle_of_zigzags_and_satins_is_found_once_with_its_corners()
    {
        var (all, wrong, off) = Measured(Throws, 5);
        wrong.Count.ShouldBeLessThanOrEqualTo(1);
        var sorted = off.Select(o => o.Off).Order().ToList();
        sorted[sorted.Count / 2].ShouldBeLessThan(0.05);
        sorted[sorted.Count * 9 / 10].ShouldBeLessThan(0.6, string.Join("\n", off.OrderByDescending(o => o.Off).Take(10)));
    }

    [Fact]
    public void Two_lines_in_one_thread_are_two_and_what_leads_from_one_to_the_other_is_left_out()
    {
        Point[] square = [new(0, 0), new(20, 0), new(20, 20), new(0, 20)];
        Point[] star = [.. CutShapes.All.First(s => s.Name == "small star").Ring.Select(p => p + new Point(60, 8))];
        Point[] thread = [.. SewnLines.Run(square, 2.4), new(8, 3), new(20, 5), new(35, 6), new(50, 6), .. SewnLines.Run(star, 2)];
        var blob = SewnLines.Blob(thread);
        var found = StitchOutlines.Of(blob, 0, blob.Count);
        found.Lines.Length.ShouldBe(2);
        found.Lines.ShouldAllBe(l => l.Closed);
        Off([.. found.Lines[0].Points], square).ShouldBeLessThan(0.05);
        Off([.. found.Lines[1].Points], star).ShouldBeLessThan(0.05);
        found.Left.ShouldContain(l => l.Why == LeftOutAs.Travel);
    }

    [Fact]
    public void A_line_in_two_halves_with_the_thread_cut_between_is_one()
    {
        var run = SewnLines.Run(CutShapes.All.First(s => s.Name == "ellipse").Ring, 2.4);
        var half = run.Length / 2;
        var blob = SewnLines.Blob(run[..(half + 1)], run[half..]);
        var line = StitchOutlines.Of(blob, 0, blob.Count).Lines.ShouldHaveSingleItem();
        line.Closed.ShouldBeTrue();
        Off([.. line.Points], run[..^1]).ShouldBeLessThan(0.05);
    }

    [Fact]
    public void An_open_line_stays_open_and_tells_how_far()
    {
        var run = SewnLines.Run(CutShapes.All.First(s => s.Name == "circle").Ring, 2.4)[..^12];
        var blob = SewnLines.Blob(run);
        var line = StitchOutlines.Of(blob, 0, blob.Count).Lines.ShouldHaveSingleItem();
        line.Closed.ShouldBeFalse();
        line.GapMm.ShouldBe(run[0].DistanceTo(run[^1]), 0.01);
    }

    [Fact]
    public void The_outer_edge_goes_through_the_outermost_needle_points()
    {
        Point[] ring = [.. Enumerable.Range(0, 200).Select(i => new Point(Math.Cos(i * Math.Tau / 200), Math.Sin(i * Math.Tau / 200)) * 30)];
        var rows = Enumerable.Range(-74, 149).Select(r => (Y: r * 0.4, Half: Math.Sqrt(Math.Max(0, 900 - (r * r * 0.16))))).Where(r => r.Half > 1).SelectMany((r, n) => n % 2 == 0 ? new Point[] { new(-r.Half, r.Y), new(r.Half, r.Y) } : [new(r.Half, r.Y), new(-r.Half, r.Y)]).ToArray();
        var blob = SewnLines.Blob(rows);
        var edge = OuterEdge.Of(blob, [(0, blob.Count)]).ShouldHaveSingleItem();
        Off([.. edge.Points], ring).ShouldBeLessThan(0.9);
        foreach (var p in rows) Math.Min(1, Area.Of([edge.Points])[0].DistanceTo(p)).ShouldBeLessThan(0.2);
    }

    private static (int All, List<string> Wrong, List<(double Off, string Says)> Off) Measured(string[] ways, int seed)
    {
        var random = new Random(seed);
        var (all, wrong, off) = (0, new List<string>(), new List<(double, string)>());
        foreach (var (name, ring) in CutShapes.All)
        {
            foreach (var way in ways)
            {
                foreach (var end in Ends)
                {
                    if (random.Next(OneIn) > 0) continue;
                    all++;
                    var (thread, truth) = Sewn(ring, way, end);
                    var blob = SewnLines.Blob(thread);
                    var found = StitchOutlines.Of(blob, 0, blob.Count).Lines;
                    if (found is not [{ Closed: true } line]) wrong.Add($"{name}, {way}, {end}: {found.Length} lines");
                    else off.Add((Off([.. line.Points], truth), $"{name}, {way}, {end}"));
                }
            }
        }

        return (all, wrong, off);
    }

    private static (Point[] Thread, Point[] Truth) Sewn(Point[] ring, string way, string end)
    {
        var run = SewnLines.Run(ring, 2.4, 0.13);
        Point[] line = way switch
        {
            "run" => run,
            "twice" => [.. run, .. run.Skip(1)],
            "there and back" => [.. run, .. run.Reverse().Skip(1)],
            "between" => [.. run, .. Between(run)],
            "bean" => SewnLines.Bean(run),
            "zigzag" => SewnLines.Zigzag(ring, 2, 2),
            "dense zigzag" => SewnLines.Zigzag(ring, 1.6, 1.2),
            "satin" => SewnLines.Zigzag(ring, 3.2, 0.4),
            "satin over centre" => [.. SewnLines.Run(ring, 2.4), .. SewnLines.Zigzag(ring, 3.2, 0.4)],
            _ => [.. SewnLines.Run(Inside(ring, 1.1), 2.4), .. SewnLines.Zigzag(ring, 3.2, 0.4)],
        };
        var truth = Lines.Contains(way) ? run[..^1] : ring;
        var middle = new Point(ring.Average(p => p.X), ring.Average(p => p.Y));
        var outside = new Point(ring.Min(p => p.X) - 15, ring.Min(p => p.Y) - 9);
        Point[] Way(Point from, Point to) => Polylines.Divided([from, to], Math.Max(1, (int)(from.DistanceTo(to) / 3)))[..^1];
        Point[] made = end switch
        {
            "overlap" => [.. line, .. line.Skip(1).Take(way is "run" or "twice" ? 3 : way == "bean" ? 9 : 12)],
            "gap" => way.Contains("satin") ? line[..^2] : [.. line[..^1], line[^2].Toward(line[^1], 0.7)],
            "from the middle" => [.. Way(middle, line[0]), .. line],
            "from outside" => [.. Way(outside, line[0]), .. line],
            "led out" => [.. line, .. Way(line[^1], outside).Skip(1), outside],
            "tied" => SewnLines.Tied(line, "to and fro"),
            "tied in a triangle" => [.. SewnLines.Tied([.. SewnLines.Tied(line, "triangle").Reverse()], "triangle").Reverse()],
            "tied in steps" => SewnLines.Tied(line, "steps"),
            "tenths" => SewnLines.Rounded(line),
            _ => line,
        };
        return (made, truth);
    }

    /// <summary>Needle points halfway between, and in the corners.</summary>
    private static Point[] Between(Point[] run) =>
        [.. run.Zip(run.Skip(1)).SelectMany((p, i) => i + 2 < run.Length && (p.Second - p.First).Unit().Dot((run[i + 2] - p.Second).Unit()) < 0.85 ? new[] { p.First.Toward(p.Second, 0.5), p.Second } : [p.First.Toward(p.Second, 0.5)]), run[^1]];

    private static Point[] Inside(Point[] ring, double by) => Core.Shapes.Outlines.Inset([.. ring, ring[0]], by) is { Count: > 3 } inset ? [.. inset.SkipLast(1)] : ring;

    /// <summary>The farthest that one of two rings lies from the other, mm.</summary>
    internal static double Off(Point[] one, Point[] other) => Math.Max(OneWay(one, other), OneWay(other, one));

    private static double OneWay(Point[] from, Point[] to) => Polylines.Divided([.. from, from[0]], 500).Max(p => Nearest(p, to));

    /// <summary>How far a place lies from a ring, mm.</summary>
    internal static double Nearest(Point p, IReadOnlyList<Point> ring)
    {
        var best = double.PositiveInfinity;
        for (var i = 0; i < ring.Count; i++)
        {
            var (a, d) = (ring[i], ring[(i + 1) % ring.Count] - ring[i]);
            best = Math.Min(best, a.Toward(a + d, Math.Clamp((p - a).Dot(d) / Math.Max(1e-12, d.Dot(d)), 0, 1)).DistanceTo(p));
        }

        return best;
    }
}
