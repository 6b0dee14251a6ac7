using EvenThimble.Core.Geometry;

namespace EvenThimble.Core.Digitizing;

/// <summary>Satin between two rails.</summary>
public static class SatinColumn
{
    /// <summary>
    /// Needle points thrown from rail to rail, evenly along whichever is longer there, <paramref name="spacing"/> mm apart on it. Each throw is made longer by
    /// <paramref name="compensation"/> mm at both ends. Throws over <see cref="Craft.LongestThrow"/> are split, the splits staggered so that they form no line.
    /// </summary>
    public static List<Point> Between(IReadOnlyList<Point> left, IReadOnlyList<Point> right, double spacing = Craft.SatinSpacing, double compensation = 0)
    {
        var (a, b) = Rungs(left, right, spacing);
        var points = new List<Point>(2 * a.Length);
        for (var i = 0; i < a.Length; i++)
        {
            var across = (b[i] - a[i]).Unit() * compensation;
            Throw(points, a[i] - across, 2 * i);
            Throw(points, b[i] + across, (2 * i) + 1);
        }

        return points;
    }

    /// <summary>A zigzag for under a satin: the same rails drawn in, with wide spacing.</summary>
    public static List<Point> Zigzag(IReadOnlyList<Point> left, IReadOnlyList<Point> right, double spacing, double inset)
    {
        var (a, b) = Rungs(left, right, spacing);
        var points = new List<Point>();
        for (var i = 0; i < a.Length; i++)
        {
            var width = a[i].DistanceTo(b[i]);
            var t = width <= 2 * inset ? 0.5 : inset / width;
            var point = i % 2 == 0 ? a[i].Toward(b[i], t) : b[i].Toward(a[i], t);
            if (points.Count == 0 || points[^1].DistanceTo(point) >= Craft.ShortestStitch) points.Add(point);
        }

        return points;
    }

    /// <summary>
    /// Where throws start and end. Rails of as many points are taken to face each other point by point, which keeps throws square on bends;
    /// others are each divided evenly.
    /// </summary>
    public static (Point[] Left, Point[] Right) Rungs(IReadOnlyList<Point> left, IReadOnlyList<Point> right, double spacing)
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

    private static void Throw(List<Point> points, Point to, int number)
    {
        if (points.Count > 0)
        {
            var from = points[^1];
            var length = from.DistanceTo(to);
            if (length < Craft.ShortestStitch) return;
            var pieces = (int)Math.Ceiling(length / Craft.LongestThrow);
            double[] stagger = [0, 0.18, -0.18, 0.09, -0.09];
            for (var s = 1; s < pieces; s++) points.Add(from.Toward(to, (s + stagger[number / 2 % stagger.Length]) / pieces));
        }

        points.Add(to);
    }
}
