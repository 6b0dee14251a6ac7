using EvenThimble.Core.Geometry;

namespace EvenThimble.Core.Tests.Cutting;

/// <summary>Thirty outlines, each by a formula of its own: round, straight, sharp, concave, thin, small and large ones. None repeats its first point.</summary>
internal static class CutShapes
{
    public static IReadOnlyList<(string Name, Point[] Ring)> All { get; } =
    [
        ("circle", Round(28, _ => 1)),
        ("small circle", Round(4, _ => 1)),
        ("large circle", Round(85, _ => 1)),
        ("ellipse", [.. Round(30, _ => 1).Select(p => new Point(p.X, p.Y * 0.45))]),
        ("square", [new(-20, -20), new(20, -20), new(20, 20), new(-20, 20)]),
        ("small square", [new(0, 0), new(7, 0), new(7, 7), new(0, 7)]),
        ("triangle", [new(-25, 20), new(25, 20), new(0, -24)]),
        ("sharp triangle", [new(-30, 6), new(30, 0), new(-30, -6)]),
        ("five-pointed star", Star(5, 32, 13)),
        ("sharp star", Star(8, 36, 12)),
        ("small star", Star(5, 9, 4)),
        ("crescent", Crescent()),
        ("heart", Round(26, a => 0.75 + (0.25 * Math.Abs(Math.Cos(a / 2 + Math.PI / 4))))),
        ("flower", Round(26, a => 0.8 + (0.2 * Math.Cos(6 * a)))),
        ("deep flower", Round(30, a => 0.62 + (0.38 * Math.Cos(5 * a)))),
        ("gear", Steps(12, 30, 24)),
        ("L", [new(0, 0), new(12, 0), new(12, 40), new(36, 40), new(36, 52), new(0, 52)]),
        ("T", [new(0, 0), new(44, 0), new(44, 10), new(27, 10), new(27, 50), new(17, 50), new(17, 10), new(0, 10)]),
        ("cross", [new(-6, -25), new(6, -25), new(6, -6), new(25, -6), new(25, 6), new(6, 6), new(6, 25), new(-6, 25), new(-6, 6), new(-25, 6), new(-25, -6), new(-6, -6)]),
        ("comb", Comb(6, 5, 26)),
        ("arrow", [new(-40, -5), new(10, -5), new(10, -16), new(42, 0), new(10, 16), new(10, 5), new(-40, 5)]),
        ("notch", [new(-25, -25), new(-2, -25), new(0, 10), new(2, -25), new(25, -25), new(25, 25), new(-25, 25)]),
        ("hourglass", [new(-18, -25), new(18, -25), new(2, 0), new(18, 25), new(-18, 25), new(-2, 0)]),
        ("bar", [new(-45, -2.5), new(45, -2.5), new(45, 2.5), new(-45, 2.5)]),
        ("drop", Round(22, a => 1 - (0.45 * Math.Pow(Math.Abs(Math.Sin(a / 2)), 6)))),
        ("wave", Wave()),
        ("blob one", Blob(3)),
        ("blob two", Blob(8)),
        ("blob three", Blob(21)),
        ("stairs", Stairs(7, 7)),
    ];

    private static Point[] Round(double radius, Func<double, double> factor)
    {
        var n = Math.Max(48, (int)(radius * 24));
        return [.. Enumerable.Range(0, n).Select(i => i * Math.Tau / n).Select(a => new Point(Math.Cos(a), Math.Sin(a)) * (radius * factor(a)))];
    }

    private static Point[] Star(int points, double outer, double inner) =>
        [.. Enumerable.Range(0, 2 * points).Select(i => (A: i * Math.PI / points, R: i % 2 == 0 ? outer : inner)).Select(p => new Point(Math.Sin(p.A), -Math.Cos(p.A)) * p.R)];

    private static Point[] Steps(int teeth, double outer, double inner) =>
        [.. Enumerable.Range(0, 4 * teeth).Select(i => (A: i * Math.Tau / (4 * teeth), R: i % 4 < 2 ? outer : inner)).Select(p => new Point(Math.Sin(p.A), -Math.Cos(p.A)) * p.R)];

    /// <summary>Between two arcs, with sharp horns.</summary>
    private static Point[] Crescent()
    {
        const int n = 260;
        var outer = Enumerable.Range(0, n).Select(i => (50 + (260.0 * i / n)) * Math.PI / 180).Select(a => new Point(Math.Cos(a), Math.Sin(a)) * 40);
        var (from, to) = (new Point(Math.Cos(310 * Math.PI / 180), Math.Sin(310 * Math.PI / 180)) * 40, new Point(Math.Cos(50 * Math.PI / 180), Math.Sin(50 * Math.PI / 180)) * 40);
        var middle = new Point(18, 0);
        var radius = middle.DistanceTo(from);
        var (a0, a1) = (Math.Atan2(from.Y, from.X - 18), Math.Atan2(to.Y, to.X - 18));
        var inner = Enumerable.Range(0, n).Select(i => a0 - ((Math.Tau - (a1 - a0)) * i / n)).Select(a => middle + (new Point(Math.Cos(a), Math.Sin(a)) * radius));
        return [.. outer, .. inner];
    }

    private static Point[] Comb(int teeth, double wide, double deep)
    {
        var ring = new List<Point> { new(0, deep + 8), new(0, 0) };
        for (var i = 0; i < teeth; i++)
        {
            var x = i * 2 * wide;
            ring.AddRange([new(x, 0), new(x + wide, 0)]);
            if (i + 1 < teeth) ring.AddRange([new(x + wide, deep), new(x + (2 * wide), deep)]);
        }

        ring.Add(new(((2 * teeth) - 1) * wide, deep + 8));
        return [.. ring.Distinct()];
    }

    private static Point[] Wave()
    {
        var top = Enumerable.Range(0, 161).Select(i => i * 0.5).Select(x => new Point(x, 6 * Math.Sin(x / 6)));
        return [.. top, .. top.Reverse().Select(p => p + new Point(0, 9))];
    }

    private static Point[] Blob(int seed)
    {
        var random = new Random(seed);
        var waves = Enumerable.Range(2, 5).Select(k => (K: k, Size: random.NextDouble() * 0.32 / k, At: random.NextDouble() * 6)).ToArray();
        return Round(30, a => 0.8 + waves.Sum(w => w.Size * Math.Cos((w.K * a) + w.At)));
    }

    private static Point[] Stairs(int steps, double step)
    {
        var ring = new List<Point>();
        for (var i = 0; i < steps; i++) ring.AddRange([new(i * step, -i * step), new(i * step, -(i + 1) * step)]);
        ring.Add(new(steps * step, -steps * step));
        ring.Add(new(steps * step, 0));
        return [.. ring];
    }
}
