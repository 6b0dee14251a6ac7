using EvenThimble.Core.Geometry;
using EvenThimble.Core.Stitches;

namespace EvenThimble.Core.Tests.Cutting;

/// <summary>Sews outlines in many ways as other programs might, by formulas that know nothing of the engine; needle points stand in corners.</summary>
internal static class SewnLines
{
    public static Point[] Run(Point[] ring, double stitch, double from = 0)
    {
        var points = new List<Point>();
        var length = 0.0;
        for (var i = 0; i < ring.Length; i++)
        {
            var (a, b) = (ring[i], ring[(i + 1) % ring.Length]);
            var d = a.DistanceTo(b);
            if (IsCorner(ring, i) || i == 0)
            {
                points.Add(a);
                length = 0;
            }

            var next = Enumerable.Range(i + 1, ring.Length).First(k => IsCorner(ring, k % ring.Length) || k % ring.Length == 0);
            var whole = Length(ring, LastCorner(ring, i), next);
            var even = whole / Math.Max(1, Math.Round(whole / stitch));
            for (var at = even * (Math.Floor((length / even) + 1e-9) + 1); at < length + d - 1e-6 && at < whole - 1e-6; at += even) points.Add(a.Toward(b, (at - length) / d));
            length += d;
        }

        var shift = (int)(from * points.Count);
        return [.. points.Skip(shift), .. points.Take(shift), points[shift]];
    }

    public static Point[] Bean(Point[] run) => [run[0], .. run.Zip(run.Skip(1)).SelectMany(p => new[] { p.Second, p.First, p.Second })];

    /// <summary>Throws from side to side; about corners both sides are mitred.</summary>
    public static Point[] Zigzag(Point[] ring, double width, double spacing)
    {
        var centre = Resampled(ring, spacing / 2);
        var points = new List<Point>();
        for (var i = 0; i < centre.Length; i++)
        {
            var (before, after) = (centre[(i + centre.Length - 1) % centre.Length], centre[(i + 1) % centre.Length]);
            var (a, b) = ((centre[i] - before).Unit(), (after - centre[i]).Unit());
            var normal = (a + b).Unit().Normal();
            var side = width / 2 / Math.Max(0.5, normal.Dot(a.Normal()));
            points.Add(centre[i] + (normal * (i % 2 == 0 ? side : -side)));
        }

        return [.. points, points[0]];
    }

    public static StitchBlob Blob(params Point[][] threads)
    {
        var builder = new StitchBuilder(100);
        foreach (var thread in threads)
        {
            builder.Jump(thread[0]);
            foreach (var p in thread) builder.Stitch(p);
            builder.Trim();
        }

        return builder.ToBlob();
    }

    public static Point[] Tied(Point[] line, string form)
    {
        var (a, way) = (line[0], (line[1] - line[0]).Unit());
        Point At(double along, double aside) => a + (way * along) + (way.Normal() * aside);
        Point[] tie = form switch
        {
            "to and fro" => [At(0, 0), At(0.6, 0), At(0, 0), At(0.6, 0), At(0, 0)],
            "triangle" => [At(0, 0), At(0.5, 0.3), At(0.5, -0.3), At(0, 0), At(0.5, 0.3), At(0, 0)],
            _ => [At(0, 0), At(0.4, 0), At(0.8, 0), At(1.2, 0)],
        };
        return [.. tie, .. line.Skip(form == "steps" ? 1 : 1)];
    }

    public static Point[] Rounded(Point[] line) => [.. line.Select(p => new Point(Math.Round(p.X, 1), Math.Round(p.Y, 1)))];

    private static Point[] Resampled(Point[] ring, double step)
    {
        Point[] closed = [.. ring, ring[0]];
        var corners = Enumerable.Range(0, ring.Length).Where(i => IsCorner(ring, i)).DefaultIfEmpty(0).ToList();
        var points = new List<Point>();
        for (var k = 0; k < corners.Count; k++)
        {
            var (from, to) = (corners[k], corners[(k + 1) % corners.Count]);
            if (to <= from) to += ring.Length;
            var stretch = Enumerable.Range(from, to - from + 1).Select(i => ring[i % ring.Length]).ToArray();
            points.AddRange(Polylines.Divided(stretch, Math.Max(1, (int)Math.Round(Polylines.Length(stretch) / step))).SkipLast(1));
        }

        return points.Count % 2 == 0 ? [.. points] : [.. points, points[^1].Toward(points[0], 0.5)];
    }

    private static double Length(Point[] ring, int from, int to)
    {
        var length = 0.0;
        for (var i = from; i < to; i++) length += ring[i % ring.Length].DistanceTo(ring[(i + 1) % ring.Length]);
        return length;
    }

    private static int LastCorner(Point[] ring, int at)
    {
        while (at > 0 && !IsCorner(ring, at)) at--;
        return at;
    }

    private static bool IsCorner(Point[] ring, int i)
    {
        var (a, b) = (ring[i] - ring[(i + ring.Length - 1) % ring.Length], ring[(i + 1) % ring.Length] - ring[i]);
        return a.Dot(b) < 0.9 * a.Length * b.Length;
    }
}
