using EvenThimble.Core.Craft;
using EvenThimble.Core.Geometry;

namespace EvenThimble.Core.Digitizing.Lines;

/// <summary>A small figure that is repeated along a line.</summary>
/// <param name="Id">Short name in files.</param>
/// <param name="Name">As the user reads it.</param>
/// <param name="Path">Needle path from (0, 0) to (1, 0) for a figure of length 1 along the line; y below 0 lies to the left of the line.</param>
public sealed record Motif(string Id, string Name, Point[] Path);

/// <summary>The figures for motif rows.</summary>
public static class Motifs
{
    /// <summary>All motifs, the plainest first.</summary>
    public static IReadOnlyList<Motif> All { get; } =
    [
        new("peaks", "peaks", [new(0, 0), new(0.5, -0.7), new(1, 0)]),
        new("steps", "steps", [new(0, 0), new(0, -0.5), new(0.5, -0.5), new(0.5, 0), new(1, 0)]),
        new("ripple", "ripple", [.. Turning(0, 16, i => new(i / 16.0, -0.32 * Math.Sin(i * Math.PI / 8)))]),
        new("loops", "loops", [new(0, 0), new(0.36, 0), .. Turning(0, 12, i => Around(0.5, -0.3, 0.3, 90 - (i * 30))), new(0.64, 0), new(1, 0)]),
        new("beads", "beads", [new(0, 0), new(0.2, 0), .. Turning(0, 12, i => Around(0.5, 0, 0.3, 180 + (i * 30))), .. Turning(1, 6, i => Around(0.5, 0, 0.3, 180 - (i * 30))), new(1, 0)]),
        new("leaf", "leaves", [new(0, 0), new(0.25, 0), new(0.35, -0.22), new(0.6, -0.4), new(0.9, -0.5), new(0.75, -0.22), new(0.5, -0.04), new(0.25, 0), new(0.55, -0.2), new(0.25, 0), new(1, 0)]),
        new("fern", "fern", [new(0, 0), new(0.3, 0), new(0.1, -0.4), new(0.3, 0), new(0.1, 0.4), new(0.3, 0), new(0.65, 0), new(0.45, -0.4), new(0.65, 0), new(0.45, 0.4), new(0.65, 0), new(1, 0)]),
        new("star", "stars", [new(0, 0), new(0.2, 0), .. Turning(0, 5, i => Around(0.5, 0, 0.42, 180 + (i * 144))), new(0.2, 0), new(0.5, 0.05), new(0.8, 0), new(1, 0)]),
        new("moon", "moons", [new(0, 0), new(0.3, 0), .. Turning(0, 8, i => Around(0.5, -0.36, 0.36, 80 + (i * 27))), .. Turning(0, 6, i => Around(0.62, -0.38, 0.25, 262 - (i * 29))), new(0.45, 0), new(1, 0)]),
        new("comet", "comets", [new(0, 0), new(0.5, -0.1), new(0.15, -0.35), new(0.55, -0.2), new(0.4, -0.55), new(0.66, -0.28), .. Turning(0, 8, i => Around(0.72, -0.14, 0.16, 250 + (i * 40))), new(0.72, 0), new(1, 0)]),
        new("orbit", "orbits", [new(0, 0), .. Turning(0, 12, i => new Point(0.5 - (0.5 * Math.Cos(i * Math.PI / 6)), -0.2 * Math.Sin(i * Math.PI / 6))), .. Turning(1, 6, i => new Point(0.5 - (0.22 * Math.Cos(i * Math.PI / 3)), -0.22 * Math.Sin(i * Math.PI / 3))), new(0.28, 0), new(1, 0)]),
        new("petals", "petals", [new(0, 0), new(0.5, 0), .. Petal(-45), .. Petal(-135), .. Petal(135), .. Petal(45), new(1, 0)]),
        new("heart", "hearts", [new(0, 0), new(0.5, 0), new(0.18, -0.34), new(0.22, -0.56), new(0.38, -0.6), new(0.5, -0.45), new(0.62, -0.6), new(0.78, -0.56), new(0.82, -0.34), new(0.5, 0), new(1, 0)]),
        new("kites", "kites", [new(0, 0), new(0.5, -0.45), new(1, 0), new(0.5, 0.45), new(0, 0), new(0.5, -0.45), new(1, 0)]),
    ];

    /// <summary>The motif of a short name, or null.</summary>
    public static Motif? Find(string? id) => All.FirstOrDefault(m => m.Id == id);

    private static IEnumerable<Point> Turning(int from, int to, Func<int, Point> at) => Enumerable.Range(from, to - from + 1).Select(at);

    private static Point Around(double x, double y, double radius, double degrees) =>
        new(x + (radius * Math.Cos(degrees * Math.PI / 180)), y + (radius * Math.Sin(degrees * Math.PI / 180)));

    private static Point[] Petal(double degrees) =>
        [.. new Point[] { new(0.18, -0.12), new(0.4, -0.1), new(0.5, 0), new(0.4, 0.1), new(0.18, 0.12), new(0, 0) }.Select(p => p.Turned(degrees, Point.Zero) + new Point(0.5, 0))];
}

/// <summary>Motifs in a row along a line.</summary>
public static class MotifRow
{
    private const double LongestPiece = 3.0;

    /// <summary>
    /// Needle points. As many motifs as come nearest to the wanted length fill each stretch between corners evenly, so that corners and ends are met exactly.
    /// </summary>
    public static List<Point> Along(IReadOnlyList<Point> line, Motif motif, double length, MotifTurn turn = MotifTurn.Alike)
    {
        var points = new List<Point>();
        var number = 0;
        foreach (var stretch in RunLine.Stretches(line))
        {
            var places = Polylines.Divided(stretch, Math.Max(1, (int)Math.Round(Polylines.Length(stretch) / length)));
            for (var i = 0; i + 1 < places.Length; i++, number++)
            {
                var along = places[i + 1] - places[i];
                var side = turn == MotifTurn.Mirrored || (turn == MotifTurn.Alternating && number % 2 == 1) ? -1 : 1;
                var across = along.Normal() * -side * (length / Math.Max(along.Length, 1e-9));
                foreach (var p in motif.Path) Add(points, places[i] + (along * p.X) + (across * p.Y));
            }
        }

        return points;
    }

    private static void Add(List<Point> points, Point to)
    {
        if (points.Count > 0)
        {
            var (from, way) = (points[^1], points[^1].DistanceTo(to));
            if (way < Limits.ShortestStitch) return;
            var pieces = (int)Math.Ceiling(way / LongestPiece);
            for (var k = 1; k < pieces; k++) points.Add(from.Toward(to, k / (double)pieces));
        }

        points.Add(to);
    }
}
