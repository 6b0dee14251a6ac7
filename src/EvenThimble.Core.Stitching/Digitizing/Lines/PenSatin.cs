using EvenThimble.Core.Geometry;

namespace EvenThimble.Core.Digitizing.Lines;

/// <summary>Throws from side to side along a line, as wide as a pen: satin for strokes too fine to have an outline.</summary>
public static class PenSatin
{
    /// <summary>The needle points of the throws, from the line's beginning to its end.</summary>
    /// <param name="line">The middle of the stroke.</param>
    /// <param name="width">From side to side, mm.</param>
    /// <param name="spacing">Between throws of the same side, measured where they are farthest apart, mm.</param>
    public static List<Point> Along(IReadOnlyList<Point> line, double width, double spacing)
    {
        var measured = new MeasuredLine([.. line]);
        var points = new List<Point>();
        var (at, side) = (0.0, 1);
        while (true)
        {
            points.Add(measured.PointAt(at) + (Across(measured, at, width) * (side * width / 2)));
            side = -side;
            if (at >= measured.Length) return points;
            at = Math.Min(at + Step(measured, at, width, spacing / 2), measured.Length);

            // The last throw lies square on the end.
            if (measured.Length - at < spacing / 4) at = measured.Length;
        }
    }

    /// <summary>How far to go along the middle so that the outer side of a bend is not thinner than the rest.</summary>
    private static double Step(MeasuredLine line, double at, double width, double wanted)
    {
        var to = Math.Min(at + wanted, line.Length);
        var (a, b) = (Across(line, at, width), Across(line, to, width));
        var outer = (to - at) + (Math.Abs(Math.Atan2(a.Cross(b), a.Dot(b))) * width / 2);
        return outer <= wanted + 1e-9 ? wanted : Math.Max(wanted * (to - at) / outer, wanted / 4);
    }

    /// <summary>The direction across the line, turned gradually where it has a corner.</summary>
    private static Point Across(MeasuredLine line, double at, double width)
    {
        var (from, to) = (line.PointAt(Math.Max(0, at - (width / 2))), line.PointAt(Math.Min(line.Length, at + (width / 2))));
        if (from.DistanceTo(to) < width / 8) (from, to) = (line.PointAt(Math.Max(0, at - (width / 8))), line.PointAt(Math.Min(line.Length, at + (width / 8))));
        return (to - from).Unit().Normal();
    }
}
