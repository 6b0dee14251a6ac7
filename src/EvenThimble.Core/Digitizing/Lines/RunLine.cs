using EvenThimble.Core.Geometry;

namespace EvenThimble.Core.Digitizing.Lines;

/// <summary>Stitches along a line.</summary>
public static class RunLine
{
    /// <summary>Angle at which a bend of the line is a corner that must be a needle point, degrees.</summary>
    public const double CornerDegrees = 35;

    /// <summary>
    /// Needle points along the line, both ends included. Corners stay needle points; between them stitches are of one length, at most
    /// <paramref name="stitch"/> mm, shortened on curves so that the chord stays within <see cref="Craft.ChordError"/>.
    /// </summary>
    public static List<Point> Along(IReadOnlyList<Point> line, double stitch = Craft.RunStitch)
    {
        var points = new List<Point> { line[0] };
        foreach (var stretch in Stretches(line))
        {
            var length = Polylines.Length(stretch);
            if (length > 1e-6) points.AddRange(Polylines.Divided(stretch, Math.Max(1, (int)Math.Ceiling((length / StitchFor(stretch, stitch, length)) - 1e-9))).Skip(1));
        }

        return points;
    }

    /// <summary>Each stitch of a run three times: forward, back and forward.</summary>
    public static List<Point> Tripled(IReadOnlyList<Point> run)
    {
        var points = new List<Point> { run[0] };
        for (var i = 1; i < run.Count; i++) points.AddRange([run[i], run[i - 1], run[i]]);
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

    /// <summary>On a circle of radius r a chord c leaves c²/8r uncovered; the turning of the stretch gives its mean radius.</summary>
    private static double StitchFor(Point[] stretch, double stitch, double length)
    {
        double turning = 0;
        for (var i = 1; i < stretch.Length - 1; i++)
        {
            var (a, b) = ((stretch[i] - stretch[i - 1]).Unit(), (stretch[i + 1] - stretch[i]).Unit());
            turning += Math.Acos(Math.Clamp(a.Dot(b), -1, 1));
        }

        if (turning < 1e-6) return stitch;
        return Math.Clamp(Math.Sqrt(8 * (length / turning) * Craft.ChordError), Math.Min(Craft.ShortestCurveStitch, stitch), stitch);
    }
}
