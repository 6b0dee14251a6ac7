using EvenThimble.Core.Geometry;

namespace EvenThimble.Core.Digitizing;

/// <summary>Stitches along a line.</summary>
public static class RunLine
{
    /// <summary>Angle at which a bend of the line is a corner that must be a needle point, degrees.</summary>
    private const double CornerDegrees = 35;

    /// <summary>
    /// Needle points along the line, both ends included. Corners stay needle points; between them stitches are of one length, at most
    /// <paramref name="stitch"/> mm, shortened on curves so that the chord stays within <see cref="Craft.ChordError"/>.
    /// </summary>
    public static List<Point> Along(IReadOnlyList<Point> line, double stitch = Craft.RunStitch)
    {
        var points = new List<Point> { line[0] };
        var start = 0;
        for (var i = 1; i < line.Count; i++)
        {
            if (i < line.Count - 1 && !IsCorner(line[i - 1], line[i], line[i + 1])) continue;
            var stretch = line.Skip(start).Take(i - start + 1).ToArray();
            var length = Polylines.Length(stretch);
            if (length > 1e-6) points.AddRange(Polylines.Divided(stretch, Math.Max(1, (int)Math.Ceiling(length / StitchFor(stretch, stitch, length)))).Skip(1));
            start = i;
        }

        return points;
    }

    private static bool IsCorner(Point before, Point at, Point after)
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
