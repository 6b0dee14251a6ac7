using EvenThimble.Core.Craft;
using EvenThimble.Core.Digitizing.Lines;
using EvenThimble.Core.Geometry;

namespace EvenThimble.Core.Digitizing.Satin;

/// <summary>Satin between two rails that face each other.</summary>
public static class SatinRails
{
    private const double UnderlaySpacing = 1.8;

    /// <summary>The needle points: a run along the middle, its way back as underlay, and throws from the rails' first ends to their last.</summary>
    public static List<Point> Sew(IReadOnlyList<Point> left, IReadOnlyList<Point> right, SatinStyle style)
    {
        var (a, b) = Rungs(left, right, 1.5);
        Point[] centre = [.. a.Zip(b, (p, q) => p.Toward(q, 0.5))];
        var run = RunLine.Along(centre);
        var widest = a.Zip(b, (p, q) => p.DistanceTo(q)).Max();
        var zigzag = style.Underlay.Any(u => u is Underlay.Zigzag or Underlay.DoubleZigzag) && widest > 1.6;
        foreach (var p in zigzag ? Zigzag([.. right.Reverse()], [.. left.Reverse()], UnderlaySpacing, Limits.UnderlayInset) : RunLine.Along([.. centre.Reverse()])) SatinThrows.Append(run, p);
        Throw(run, left, right, style);
        return run;
    }

    /// <summary>Only the throws, evenly along whichever rail is longer there.</summary>
    public static List<Point> Throws(IReadOnlyList<Point> left, IReadOnlyList<Point> right, SatinStyle style)
    {
        var run = new List<Point>();
        Throw(run, left, right, style);
        return run;
    }

    private static void Throw(List<Point> run, IReadOnlyList<Point> left, IReadOnlyList<Point> right, SatinStyle style)
    {
        var (a, b) = Rungs(left, right, style.SpacingMm);
        SatinThrows.Add(run, [.. a.Zip(b, (l, r) => new Rung(0, l, r, l.Toward(r, 0.5)))], style);
    }

    /// <summary>A zigzag from rail to rail, drawn in by an inset, with wide spacing.</summary>
    public static List<Point> Zigzag(IReadOnlyList<Point> left, IReadOnlyList<Point> right, double spacing, double inset)
    {
        var (a, b) = Rungs(left, right, spacing);
        var points = new List<Point>();
        for (var i = 0; i < a.Length; i++)
        {
            var width = a[i].DistanceTo(b[i]);
            var t = width <= 2 * inset ? 0.5 : inset / width;
            SatinThrows.Append(points, i % 2 == 0 ? a[i].Toward(b[i], t) : b[i].Toward(a[i], t));
        }

        return points;
    }

    /// <summary>
    /// Where throws start and end. Rails of as many points are taken to face each other point by point, which keeps throws square on bends;
    /// others are each divided evenly.
    /// </summary>
    private static (Point[] Left, Point[] Right) Rungs(IReadOnlyList<Point> left, IReadOnlyList<Point> right, double spacing)
    {
        if (left.Count != right.Count)
        {
            var even = Math.Max(2, (int)Math.Round(Math.Max(Polylines.Length(left), Polylines.Length(right)) / spacing));
            return (Polylines.Divided(left, even), Polylines.Divided(right, even));
        }

        var along = new double[left.Count];
        for (var i = 1; i < along.Length; i++) along[i] = along[i - 1] + Math.Max(left[i - 1].DistanceTo(left[i]), right[i - 1].DistanceTo(right[i]));
        var throws = Math.Max(2, (int)Math.Round(along[^1] / spacing));
        var (a, b, segment) = (new Point[throws + 1], new Point[throws + 1], 1);
        for (var k = 0; k <= throws; k++)
        {
            var target = along[^1] * k / throws;
            while (segment < along.Length - 1 && along[segment] < target) segment++;
            var step = along[segment] - along[segment - 1];
            var t = step < 1e-9 ? 0 : Math.Clamp((target - along[segment - 1]) / step, 0, 1);
            (a[k], b[k]) = (left[segment - 1].Toward(left[segment], t), right[segment - 1].Toward(right[segment], t));
        }

        return (a, b);
    }
}
