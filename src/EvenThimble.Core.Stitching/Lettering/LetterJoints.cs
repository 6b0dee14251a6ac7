using EvenThimble.Core.Craft;
using EvenThimble.Core.Geometry;
using EvenThimble.Core.Shapes;

namespace EvenThimble.Core.Lettering;

/// <summary>
/// Where letters that nearly touch are left and entered: at the places where they are nearest to each other. Of places that are about equally near the lowest counts, so that stems side by side
/// are joined at their feet. Larger letters are joined only at their feet or heads, so that no stem is entered in its middle and seamed there; between others the thread is cut.
/// </summary>
public static class LetterJoints
{
    /// <summary>Letters as near as this are sewn on from one to the next in a stitch, mm.</summary>
    public const double NearlyTouching = 0.9;

    /// <summary>Between letters of small text no nearer than that the thread is led over up to this, mm; farther apart it is trimmed.</summary>
    public const double Led = 2.0;

    /// <summary>Text with capitals up to this height is small: there trims cost more than they are worth, mm.</summary>
    public const double SmallText = 10;

    /// <summary>How far the thread is led over between two letters that are stitched so, mm: what of it lies within the two strokes of a pen is not seen.</summary>
    public static double LedBetween(StitchSettings one, StitchSettings other) => Led + (one.OutAndBack && other.OutAndBack ? OfPen * Math.Min(one.WidthMm ?? 0, other.WidthMm ?? 0) : 0);

    // The last throw of a pen ends at its side, half a pen from its line and a little more.
    private const double OfPen = 1.65;
    private const double EquallyNear = 0.3;

    // Feet and heads of a larger letter are this part of its height.
    private const double AtEnds = 0.2;

    /// <summary>Where each of some letters is entered and left, in the order they sew; null: wherever is best.</summary>
    /// <param name="letters">The letters where they lie, mm.</param>
    /// <param name="capitalMm">Height of their capitals, mm.</param>
    /// <param name="penMm">Width of the pen where they are lines, mm; else 0.</param>
    public static IReadOnlyList<(Point? Start, Point? End)> Of(IReadOnlyList<DrawnShape> letters, double capitalMm, double penMm)
    {
        var joints = new (Point? Start, Point? End)[letters.Count];
        var isSmall = capitalMm <= SmallText;
        var points = letters.Select(l => l.Paths.SelectMany(Places).ToList()).Select(p => isSmall ? p : Ends(p)).ToList();
        for (var i = 1; i < letters.Count; i++)
            if (Nearest(points[i - 1], points[i], isSmall ? Led + penMm : NearlyTouching) is var (from, to))
                (joints[i - 1].End, joints[i].Start) = (from, to);
        return joints;
    }

    private static IEnumerable<Point> Places(ShapePath path)
    {
        const double step = 0.4;
        var line = path.Flattened();
        for (var i = 0; i < (path.Closed ? line.Count : line.Count - 1); i++)
        {
            var (a, b) = (line[i], line[(i + 1) % line.Count]);
            var pieces = Math.Max(1, (int)(a.DistanceTo(b) / step));
            for (var k = 0; k < pieces; k++) yield return a.Toward(b, k / (double)pieces);
        }

        if (!path.Closed && line.Count > 0) yield return line[^1];
    }

    private static List<Point> Ends(List<Point> letter)
    {
        var box = Box.Around(letter);
        return letter.FindAll(p => Math.Min(p.Y - box.MinY, box.MaxY - p.Y) <= AtEnds * box.Height);
    }

    private static (Point From, Point To)? Nearest(List<Point> left, List<Point> right, double led)
    {
        if (left.Count == 0 || right.Count == 0) return null;
        var (one, other) = (Box.Around(left), Box.Around(right));
        if (other.MinX - one.MaxX > led || one.MinX - other.MaxX > led || other.MinY - one.MaxY > led || one.MinY - other.MaxY > led) return null;
        var facing = left.Where(p => other.DistanceTo(p) <= led).ToList();
        var theirs = right.Where(p => one.DistanceTo(p) <= led).ToList();
        var nearest = facing.SelectMany(_ => theirs, (a, b) => a.DistanceTo(b)).DefaultIfEmpty(double.PositiveInfinity).Min();
        if (nearest > led) return null;
        var within = Math.Min(nearest + EquallyNear, led);
        return facing.SelectMany(_ => theirs, (a, b) => (From: a, To: b)).Where(p => p.From.DistanceTo(p.To) <= within).MaxBy(p => p.From.Y + p.To.Y);
    }
}
