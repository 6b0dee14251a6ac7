using EvenThimble.Core.Craft;
using EvenThimble.Core.Geometry;

namespace EvenThimble.Core.Digitizing.Lines;

/// <summary>Stitches along a line.</summary>
public static class RunLine
{
    /// <summary>Angle at which a bend of the line is a corner that must be a needle point, degrees.</summary>
    public const double CornerDegrees = 35;

    /// <summary>
    /// Needle points along the line, both ends included. Corners stay needle points; between them stitches are even, at most
    /// <paramref name="stitch"/> mm, and shorter where the line curves so that the chord stays within <paramref name="chordError"/> mm, but not
    /// below <paramref name="shortest"/> mm.
    /// </summary>
    public static List<Point> Along(IReadOnlyList<Point> line, double stitch = Limits.RunStitch, double chordError = Limits.ChordError, double shortest = Limits.ShortestCurveStitch)
    {
        var points = new List<Point> { line[0] };
        foreach (var stretch in Stretches(line))
        {
            if (Polylines.Length(stretch) > 1e-6) AddStretch(points, stretch, stitch, chordError, Math.Min(shortest, stitch));
        }

        return points;
    }

    /// <summary>Each stitch of a run three times: forward, back and forward.</summary>
    public static List<Point> Tripled(IReadOnlyList<Point> run) => Folded(run, 3);

    /// <summary>Each stitch of a run an odd number of times: forward, back and forward, and so on.</summary>
    public static List<Point> Folded(IReadOnlyList<Point> run, int times)
    {
        var points = new List<Point> { run[0] };
        for (var i = 1; i < run.Count; i++)
            for (var k = 0; k < times; k++)
                points.Add(run[k % 2 == 0 ? i : i - 1]);
        return points;
    }

    /// <summary>The stretches of a line between its corners; each shares its ends with its neighbours. Steps too short to sew do not make corners.</summary>
    public static IEnumerable<Point[]> Stretches(IReadOnlyList<Point> line)
    {
        var stretch = new List<Point> { line[0] };
        for (var i = 1; i < line.Count; i++)
        {
            if (line[i].DistanceTo(stretch[^1]) < 1e-9 && i < line.Count - 1) continue;
            stretch.Add(line[i]);
            if (i == line.Count - 1 || !IsCorner(stretch[^2], line[i], line[i + 1])) continue;
            yield return [.. stretch];
            stretch = [line[i]];
        }

        if (stretch.Count > 1) yield return [.. stretch];
    }

    /// <summary>Whether a line bends so sharply at a point that it is a corner.</summary>
    public static bool IsCorner(Point before, Point at, Point after)
    {
        var (a, b) = ((at - before).Unit(), (after - at).Unit());
        return a.Dot(b) < Math.Cos(CornerDegrees * Math.PI / 180);
    }

    /// <summary>Divides a stretch so that each stitch takes an equal share of what the stretch needs, more where it curves.</summary>
    private static void AddStretch(List<Point> points, Point[] stretch, double stitch, double chordError, double shortest)
    {
        var need = new double[stretch.Length];
        for (var i = 1; i < stretch.Length; i++)
        {
            var middle = i == 1 || i == stretch.Length - 1 ? (From: Math.Max(0, i - 2), To: Math.Min(stretch.Length - 1, i + 1)) : (From: i - 2, To: i + 1);
            need[i] = need[i - 1] + (stretch[i - 1].DistanceTo(stretch[i]) / StitchFor(stretch, middle.From, middle.To, stitch, chordError, shortest));
        }

        var count = Math.Max(1, (int)Math.Ceiling(need[^1] - 1e-9));
        for (int k = 1, i = 1; k <= count; k++)
        {
            var target = need[^1] * k / count;
            while (i < stretch.Length - 1 && need[i] < target) i++;
            var share = need[i] - need[i - 1];
            points.Add(k == count ? stretch[^1] : stretch[i - 1].Toward(stretch[i], share < 1e-12 ? 0 : Math.Clamp((target - need[i - 1]) / share, 0, 1)));
        }
    }

    /// <summary>On a circle of radius r a chord c leaves c²/8r uncovered; the turning about a piece of the line gives its radius there. A piece is looked at over a usual stitch.</summary>
    private static double StitchFor(Point[] stretch, int from, int to, double stitch, double chordError, double shortest)
    {
        while (from > 0 && stretch[from].DistanceTo(stretch[to]) < stitch / 2) from--;
        while (to < stretch.Length - 1 && stretch[from].DistanceTo(stretch[to]) < stitch) to++;
        double turning = 0, length = 0;
        for (var i = from + 1; i <= to; i++)
        {
            length += stretch[i - 1].DistanceTo(stretch[i]);
            if (i == to) break;
            var (a, b) = (stretch[i] - stretch[i - 1], stretch[i + 1] - stretch[i]);
            turning += Math.Abs(Math.Atan2(a.Cross(b), a.Dot(b)));
        }

        // Half of the first and of the last piece lie outside the turns that were counted.
        length -= (stretch[from].DistanceTo(stretch[from + 1]) + stretch[to - 1].DistanceTo(stretch[to])) / 2;
        if (turning < 1e-6) return stitch;
        return Math.Clamp(Math.Sqrt(8 * (length / turning) * chordError), shortest, stitch);
    }
}
