using EvenThimble.Core.Geometry;
using EvenThimble.Core.Stitches;

namespace EvenThimble.Core.Tests.Respacing;

/// <summary>Further ways in which bought designs are sewn: lines of all sorts, decorative stitches, split satins, rows that bend, spread or fan out. Each is made by a formula of its own.</summary>
internal static class Makings
{
    /// <summary>What stitches ought to be read as.</summary>
    public enum Truth
    {
        /// <summary>Lines, or what is to stay as it is stitch by stitch.</summary>
        Line,

        /// <summary>Throws.</summary>
        Satin,

        /// <summary>Rows.</summary>
        Fill,

        /// <summary>Throws and lines in turn.</summary>
        Mixed,
    }

    /// <summary>Stitches, how they are made, and what they are.</summary>
    public sealed record Sample(string Way, string Name, StitchBlob Stitches, Truth Truth);

    /// <summary>Every sample.</summary>
    public static IReadOnlyList<Sample> All { get; } = [.. Lines(), .. Decorative(), .. Satins(), .. Fills(), .. RareMakings.All().Select(m => new Sample(m.Way, m.Name, Sewn(m.Points), m.Truth))];

    private static IEnumerable<Sample> Lines()
    {
        Sample Line(string way, string name, IEnumerable<Point> points) => new(way, name, Sewn(points), Truth.Line);
        foreach (var stitch in new[] { 1.6, 2.5, 4.0 }) yield return Line("line of one stitch", $"wave {stitch}", Even(Wave(80), stitch));
        yield return Line("line of many stitches", "wave", Uneven(Wave(80), 1.2, 4.5));
        yield return Line("line of many stitches", "zigzag mountain", Uneven([new(0, 0), new(12, 18), new(20, 2), new(31, 22), new(44, 0)], 1.5, 3.5));
        foreach (var stitch in new[] { 2.0, 3.0 }) yield return Line("line out and back in the same holes", $"wave {stitch}", OutAndBack([.. Even(Wave(70), stitch)]));
        yield return Line("line out and back in the same holes", "twigs", Twigs());
        yield return Line("line out and back between the holes", "wave", Shifted([.. Even(Wave(70), 3)]));
        foreach (var times in new[] { 3, 5 })
            foreach (var stitch in new[] { 2.0, 3.2 })
                yield return Line(times == 3 ? "line of threefold stitches" : "line of fivefold stitches", $"wave {times} {stitch}", Manifold([.. Even(Wave(70), stitch)], times));
        yield return Line("line of threefold stitches", "star", Manifold([.. Even(Star(14, 6), 2.5)], 3));
        yield return Line("line of fivefold stitches", "star", Manifold([.. Even(Star(14, 6), 2.5)], 5));
        yield return Line("two forward, one back", "wave", Backstitch([.. Even(Wave(70), 2.2)]));
        yield return Line("echo lines", "about a heart", EchoLines(2.0));
        yield return Line("echo lines", "about a heart, near", EchoLines(1.7));
        yield return Line("meander", "large", Meander(40, 30, 4));
        yield return Line("meander", "small", Meander(30, 20, 2.5));
        yield return new("wide zigzag", "3 mm", Sewn(Enumerable.Range(0, 60).Select(k => new Point(k, k % 2 * 3))), Truth.Satin);
        yield return Line("comb stitch", "3 mm", Enumerable.Range(0, 30).SelectMany(k => new Point[] { new(k * 2, 0), new(k * 2, 3), new(k * 2, 0) }));
        yield return Line("comb stitch", "on a ring", Enumerable.Range(0, 50).SelectMany(k => new[] { Polar(15, k * 7.2), Polar(18, k * 7.2), Polar(15, k * 7.2) }));
    }

    private static IEnumerable<Sample> Decorative()
    {
        Sample Kept(string way, string name, IEnumerable<Point> points) => new(way, name, Sewn(points), Truth.Line);
        yield return Kept("crosses one by one", "2 mm", CrossByCross(14, 10, 2));
        yield return Kept("crosses one by one", "3 mm", CrossByCross(9, 8, 3));
        yield return Kept("crosses in rows out and back", "2 mm", CrossRows(14, 10, 2));
        yield return Kept("crosses in rows out and back", "2.5 mm", CrossRows(12, 9, 2.5));
        yield return Kept("knots", "stars", Spots(p => Enumerable.Range(0, 7).SelectMany(k => new[] { p + Polar(0.9, k * 51.4), p })));
        yield return Kept("knots", "coils", Spots(p => Enumerable.Range(0, 16).Select(k => p + Polar(0.25 + (k * 0.05), k * 70))));
        yield return new("satin dots on a line", "blocks", Sewn(Spots(p => Enumerable.Range(0, 9).Select(k => p + new Point((k * 0.15) - 0.6, k % 2 * 1.4)))), Truth.Mixed);
        yield return Kept("candlewick dots", "rings", Spots(p => Enumerable.Range(0, 18).Select(k => p + Polar(0.8, k * 160))));
        Point[] leaf = [new(0, 0), new(1.5, 0), new(2.5, 1.6), new(4, 2), new(3.2, 0.6), new(1.5, 0), new(2.5, -1.6), new(4, -2), new(3.2, -0.6), new(1.5, 0), new(3, 0)];
        Point[] loop = [new(0, 0), new(2, 0), new(3.2, 1), new(3, 2.4), new(2, 3), new(1, 2.4), new(0.8, 1), new(2, 0), new(4, 0)];
        yield return Kept("motif line", "leaves", Enumerable.Range(0, 16).SelectMany(k => leaf.Select(p => p + new Point(k * 3.0, 0))));
        yield return Kept("motif line", "loops on a ring", Enumerable.Range(0, 20).SelectMany(k => loop.Select(p => Turn(new(p.X - 2, p.Y + 14), k * 18.0))));
        yield return Kept("motif ground", "loops", Enumerable.Range(0, 6).SelectMany(row => Enumerable.Range(0, 10).SelectMany(k => loop.Select(p => new Point(row % 2 == 0 ? p.X + (k * 4) : 40 - p.X - (k * 4), p.Y + (row * 4))))));
        yield return Kept("lattice", "4 mm", Enumerable.Range(0, 9).SelectMany(k => Even(k % 2 == 0 ? [new(0, k * 4), new(40, k * 4)] : [new(40, k * 4), new(0, k * 4)], 2.5)).Concat(Enumerable.Range(0, 9).SelectMany(k => Even(k % 2 == 0 ? [new(k * 5, 32), new(k * 5, 0)] : [new(k * 5, 0), new(k * 5, 32)], 2.5))));
    }

    private static IEnumerable<Sample> Satins()
    {
        // A carved pattern: needle points on lines that run across the throws; by chance; or none within long throws.
        yield return Throws("satin carved by a wave", "bar", t => new(50 * t, 0), _ => 11, 50, 0.4, (t, side) => [0.5 + (0.25 * Math.Sin(t * 12))]);
        yield return Throws("satin carved by a wave", "ring", t => Polar(18, t * 350), _ => 9, 110, 0.4, (t, side) => [0.35, 0.65]);
        yield return Throws("satin carved by brick", "bar", t => new(50 * t, 8 * t), _ => 12, 50, 0.4, (t, side) => (int)(t * 125) % 2 == 0 ? [0.33, 0.66] : [0.17, 0.5, 0.83]);
        var random = new Random(4);
        yield return Throws("satin split by chance", "bar", t => new(50 * t, 0), _ => 9, 50, 0.4, (t, side) => [0.3 + (0.4 * random.NextDouble())]);
        yield return Throws("satin split by chance", "leaf", t => new(40 * t, 3 * Math.Sin(3 * t)), t => 1 + (9 * Math.Sin(Math.PI * t)), 40, 0.4, (t, side) => Math.Sin(Math.PI * t) > 0.7 ? [0.3 + (0.4 * random.NextDouble())] : []);
        yield return Throws("satin of long throws", "bar", t => new(50 * t, 0), _ => 11, 50, 0.4, (_, _) => []);
        yield return Throws("satin of long throws", "wedge", t => new(50 * t, 0), t => 3 + (7.5 * t), 50, 0.45, (_, _) => []);
        yield return Throws("satin with cusps", "leaf", t => new(30 * t, 5 * Math.Sin(2 * t)), t => 6 * Math.Sin(Math.PI * t), 32, 0.4, (_, _) => []);
        yield return Throws("satin with cusps", "moon", t => Polar(12, 20 + (t * 250)), t => 5 * Math.Sin(Math.PI * t), 52, 0.4, (_, _) => []);
        yield return Throws("satin with cusps", "thorn", t => new(24 * t, 0), t => 5 * (1 - t), 24, 0.35, (_, _) => []);
        yield return Throws("satin on the slant", "bar", t => new(50 * t, 0), _ => 4, 50, 0.4, (_, _) => [], 40);
        yield return Throws("satin on the slant", "wave", t => new(60 * t, 6 * Math.Sin(6 * t)), _ => 3.5, 75, 0.4, (_, _) => [], 25);
        yield return new("satin with short throws inside bends", "tight ring", Sewn(Enumerable.Range(0, 420).Select(k => Polar(k % 2 == 0 ? 9 : k % 4 == 1 ? 3 : 5, k * 0.84))), Truth.Satin);
        foreach (var spacing in new[] { 0.16, 0.2, 0.24 })
            yield return Throws("dense satin", $"ring {spacing}", t => Polar(14, t * 340), _ => 3.6, 83, spacing, (_, _) => []);
        yield return new("satin with underlay", "edge run and zigzag", Sewn(
            Even([new(0, -1.6), new(50, -1.6), new(50, 1.6), new(0, 1.6), new(0, -1.6)], 2.5)
                .Concat(Enumerable.Range(0, 40).Select(k => new Point(k * 1.25, k % 2 == 0 ? -1.5 : 1.5)))
                .Concat(Enumerable.Range(0, 250).Select(k => new Point(50 - (k * 0.2), k % 2 == 0 ? -2.2 : 2.2)))), Truth.Satin);
    }

    private static IEnumerable<Sample> Fills()
    {
        foreach (var (name, bend) in new[] { ("slightly", 1.2), ("much", 6.0), ("very much", 12.0) })
            yield return Rows("bowed rows", name, 60, k => x => new(x, (k * 0.4) + (bend * Math.Sin(Math.PI * x / 40))), _ => (0, 40));
        foreach (var waves in new[] { 1.0, 2.5 })
            yield return Rows("wavy rows", $"{waves} waves", 70, k => x => new(x, (k * 0.4) + (1.8 * Math.Sin(2 * Math.PI * waves * x / 45))), _ => (0, 45));
        yield return Rows("wavy rows", "on a disc", 70, k => x => new(x, (k * 0.4) + (1.5 * Math.Sin(x / 4))), k => (-Math.Sqrt(Math.Max(4, 196 - Math.Pow((k * 0.4) - 14, 2))), Math.Sqrt(Math.Max(4, 196 - Math.Pow((k * 0.4) - 14, 2)))));
        foreach (var (name, inner, outer) in new[] { ("to a hub", 0.6, 14.0), ("a wide ring", 6.0, 20.0), ("a fan", 3.0, 18.0) })
        {
            var turn = name == "a fan" ? 120.0 : 358;
            var count = (int)(turn * Math.PI / 180 * outer / 0.42);
            yield return Rows("spokes", name, count, k => r => Polar(r, k * turn / count), _ => (inner, outer));
        }

        yield return Rows("spokes of three lengths", "disc", 200, k => r => Polar(r, k * 1.79), k => (k % 4 == 0 ? 1 : k % 2 == 0 ? 4 : 8, 15));
        foreach (var steep in new[] { 1.0, 2.5 })
            yield return Rows("rows of a gradient", $"{steep}", 50, k => x => new(x, (0.35 * k) + (steep * k * k / 200.0)), _ => (0, 35));
        yield return Rows("loose rows", "0.8", 32, k => x => new(x, k * 0.8), _ => (0, 35));
        yield return Rows("loose rows", "1.1, turned", 26, k => x => Turn(new(x, k * 1.1), 30), _ => (0, 35));
        yield return Rows("rows of sudden lengths", "H", 60, k => x => new(x, k * 0.4), k => k is >= 24 and < 36 ? (0, 30) : (0, 9));
        yield return Rows("rows of sudden lengths", "stairs", 72, k => x => new(x, k * 0.4), k => (k / 18 * 6, 12 + (k / 18 * 6)));
        yield return Rows("rows that end in a tip", "triangle", 60, k => x => new(x, k * 0.4), k => (15 - (k * 0.25), 15 + (k * 0.25)));
        yield return Rows("rows that end in a tip", "diamond", 80, k => x => Turn(new(x, k * 0.4), 45), k => (-12 + (0.3 * Math.Abs(k - 40)), 12 - (0.3 * Math.Abs(k - 40))));
        yield return Rows("rows that end in a tip", "leaf", 80, k => x => Turn(new(x, k * 0.4), 20), k => (-7 * Math.Sin(Math.PI * k / 79), 7 * Math.Sin(Math.PI * k / 79)));
        var (over, under) = (Rows("", "", 40, k => x => new(x, k), _ => (0, 40)).Stitches, Rows("", "", 40, k => x => new(k, x), _ => (0, 40)).Stitches);
        yield return new("two loose layers crosswise", "1 mm", Sewn(Enumerable.Range(0, over.Count).Select(over.At).Concat(Enumerable.Range(0, under.Count).Select(k => under.At(under.Count - 1 - k)))), Truth.Fill);
    }

    /// <summary>Rows there and back; each is a line from one place to another by its own measure, with needle points 3.6 mm apart or less, shifted from row to row.</summary>
    private static Sample Rows(string way, string name, int count, Func<int, Func<double, Point>> row, Func<int, (double From, double To)> ends)
    {
        var points = new List<Point>();
        for (var k = 0; k < count; k++)
        {
            var (from, to) = ends(k);
            var places = new List<double> { from };
            const double fine = 0.02;
            for (var (at, sewn) = (from, k % 3 * 1.2); at < to; at += fine)
            {
                sewn += row(k)(at).DistanceTo(row(k)(at + fine));
                if (sewn < 3.6) continue;
                sewn -= 3.6;
                if (at - from > 0.8 && to - at > 0.8) places.Add(at);
            }

            if (to - from > 0.3) places.Add(to);
            if (k % 2 == 1) places.Reverse();
            points.AddRange(places.Select(row(k)));
        }

        return new(way, name, Sewn(points), Truth.Fill);
    }

    /// <summary>Throws about a middle line, slanted both ways; needle points within them by a rule, as parts of the throw from the left.</summary>
    private static Sample Throws(string way, string name, Func<double, Point> middle, Func<double, double> width, double length, double spacing, Func<double, int, double[]> split, double lean = 0)
    {
        var (points, throws) = (new List<Point>(), (int)(2 * length / spacing));
        for (var k = 0; k <= throws; k++)
        {
            var t = k / (double)throws;
            var ahead = (middle(Math.Min(1, t + 0.001)) - middle(Math.Max(0, t - 0.001))).Unit();
            var across = Turn(new Point(-ahead.Y, ahead.X), lean) * (width(t) / 2 / Math.Cos(lean * Math.PI / 180));
            var to = middle(t) + (across * (k % 2 == 0 ? 1 : -1));
            if (points.Count > 0)
            {
                var from = points[^1];
                points.AddRange(split(t, k % 2).Order().Select(p => from.Toward(to, k % 2 == 0 ? p : 1 - p)).OrderBy(from.DistanceTo));
            }

            points.Add(to);
        }

        return new(way, name, Sewn(points), Truth.Satin);
    }

    private static StitchBlob Sewn(IEnumerable<Point> points)
    {
        var (builder, all) = (new StitchBuilder(), points.ToList());
        void Tie(Point at, Point toward)
        {
            var aside = (toward - at).Unit() * 0.7;
            for (var k = 0; k < 4; k++) builder.Stitch(at + (aside * (k % 2)));
        }

        Tie(all[0], all[1]);
        foreach (var p in all)
            if (builder.Needle.DistanceTo(p) > 0.05)
                builder.Stitch(p);
        Tie(all[^1], all[^2]);
        return builder.ToBlob();
    }

    private static Point Polar(double r, double degrees) => new(r * Math.Cos(degrees * Math.PI / 180), r * Math.Sin(degrees * Math.PI / 180));

    private static Point Turn(Point p, double degrees) => new((p.X * Math.Cos(degrees * Math.PI / 180)) - (p.Y * Math.Sin(degrees * Math.PI / 180)), (p.X * Math.Sin(degrees * Math.PI / 180)) + (p.Y * Math.Cos(degrees * Math.PI / 180)));

    private static List<Point> Wave(double length) => [.. Enumerable.Range(0, 801).Select(i => i / 800.0 * length).Select(x => new Point(x, 7 * Math.Sin(x / 9)))];

    private static List<Point> Star(double outer, double inner) => [.. Enumerable.Range(0, 11).Select(k => Polar(k % 2 == 0 ? outer : inner, k * 36))];

    private static List<Point> Heart(double size) => [.. Enumerable.Range(0, 241).Select(i => i * Math.PI / 120).Select(t => new Point(size * Math.Pow(Math.Sin(t), 3), -size / 16 * ((13 * Math.Cos(t)) - (5 * Math.Cos(2 * t)) - (2 * Math.Cos(3 * t)) - Math.Cos(4 * t))))];

    /// <summary>A line in stitches of one length; corners are sewn.</summary>
    private static IEnumerable<Point> Even(List<Point> line, double stitch) => Uneven(line, stitch, stitch);

    private static List<Point> Uneven(List<Point> line, double least, double most)
    {
        var (random, sewn, due) = (new Random(7), new List<Point> { line[0] }, 0.0);
        var next = least;
        for (var i = 1; i < line.Count; i++)
        {
            var (a, length) = (line[i - 1], line[i - 1].DistanceTo(line[i]));
            for (var at = next - due; at < length; at += next = least + ((most - least) * random.NextDouble())) (sewn, due) = ([.. sewn, a.Toward(line[i], at / length)], -at);
            due += length;
            if (i + 1 < line.Count && (line[i] - a).Unit().Dot((line[i + 1] - line[i]).Unit()) < 0.7) (sewn, due) = ([.. sewn, line[i]], 0);
        }

        if (sewn[^1].DistanceTo(line[^1]) > 1.2) sewn.Add(line[^1]);
        else sewn[^1] = line[^1];
        return sewn;
    }

    private static List<Point> OutAndBack(List<Point> line) => [.. line, .. line.AsEnumerable().Reverse().Skip(1)];

    /// <summary>The way back lies in the middle of the stitches of the way out.</summary>
    private static List<Point> Shifted(List<Point> line) => [.. line, .. Enumerable.Range(1, line.Count - 1).Reverse().Select(i => line[i - 1].Toward(line[i], 0.5)), line[0]];

    private static List<Point> Manifold(List<Point> line, int times)
    {
        var sewn = new List<Point> { line[0] };
        for (var i = 1; i < line.Count; i++)
            for (var k = 0; k < times; k++)
                sewn.Add(line[k % 2 == 0 ? i : i - 1]);
        return sewn;
    }

    private static List<Point> Backstitch(List<Point> line)
    {
        var sewn = new List<Point> { line[0] };
        for (var i = 2; i < line.Count; i++) sewn.AddRange([line[i], line[i - 1]]);
        return sewn;
    }

    private static List<Point> Twigs()
    {
        var sewn = new List<Point>();
        void Branch(Point from, double way, double length, int depth)
        {
            var line = Even([from, from + Polar(length, way)], 2.2).ToList();
            sewn.AddRange(line);
            if (depth > 0)
                foreach (var aside in new[] { -35.0, 30 })
                    Branch(line[^1], way + aside, length * 0.7, depth - 1);
            sewn.AddRange(line.AsEnumerable().Reverse());
        }

        Branch(new(0, 0), -90, 16, 4);
        return sewn;
    }

    private static List<Point> EchoLines(double apart) => [.. Enumerable.Range(0, 4).SelectMany(k => Even(Heart(10 + (k * apart)), 2.2))];

    /// <summary>A wandering line that never crosses itself: rows of uneven loops.</summary>
    private static List<Point> Meander(double width, double height, double loop)
    {
        var line = new List<Point>();
        for (var row = 0; row * 2 * loop < height; row++)
            for (var i = 0; i <= 200; i++)
            {
                var x = (row % 2 == 0 ? i : 200 - i) * width / 200;
                line.Add(new(x + (0.3 * loop * Math.Sin(x * 2.1)), (row * 2 * loop) + (0.8 * loop * Math.Sin(x * Math.PI / loop)) + (0.2 * loop * Math.Sin(x * 1.7))));
            }

        return [.. Even(line, 1.8)];
    }

    private static IEnumerable<Point> CrossByCross(int columns, int rows, double side)
    {
        for (var row = 0; row < rows; row++)
            for (var i = 0; i < columns; i++)
            {
                var c = row % 2 == 0 ? i : columns - 1 - i;
                Point at = new(c * side, row * side);
                foreach (var p in new Point[] { new(0, 0), new(side, side), new(0, side), new(side, 0) }) yield return at + p;
            }
    }

    private static IEnumerable<Point> CrossRows(int columns, int rows, double side)
    {
        for (var row = 0; row < rows; row++)
        {
            for (var c = 0; c < columns; c++)
            {
                yield return new(c * side, row * side);
                yield return new((c + 1) * side, (row + 1) * side);
                yield return new((c + 1) * side, row * side);
            }

            for (var c = columns - 1; c >= 0; c--)
            {
                yield return new((c + 1) * side, row * side);
                yield return new(c * side, (row + 1) * side);
                yield return new(c * side, row * side);
            }
        }
    }

    /// <summary>Spots all over a ground, with a way of running stitches between them.</summary>
    private static IEnumerable<Point> Spots(Func<Point, IEnumerable<Point>> spot)
    {
        for (var row = 0; row < 5; row++)
            for (var i = 0; i < 7; i++)
            {
                Point at = new((row % 2 == 0 ? i : 6 - i) * 6, row * 5);
                foreach (var p in spot(at)) yield return p;
                var next = i < 6 ? at + new Point(row % 2 == 0 ? 6 : -6, 0) : at + new Point(0, 5);
                yield return at.Toward(next, 0.35);
                yield return at.Toward(next, 0.7);
            }
    }
}
