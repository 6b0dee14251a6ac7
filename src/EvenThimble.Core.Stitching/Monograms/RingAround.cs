using EvenThimble.Core.Geometry;
using EvenThimble.Core.Shapes;

namespace EvenThimble.Core.Monograms;

/// <summary>Closed lines at a distance around something.</summary>
public static class RingAround
{
    // Motifs are set along the line in pieces not longer than this, mm.
    private const double Piece = 0.4;

    /// <summary>The line around an outline at a distance, clockwise from its topmost middle; below 0 within it. Empty where nothing is left.</summary>
    /// <param name="outline">The outline, closed, mm.</param>
    /// <param name="distance">How far outside, mm.</param>
    /// <param name="sharp">Outer corners stay sharp instead of round.</param>
    public static IReadOnlyList<Point> Of(IReadOnlyList<Point> outline, double distance, bool sharp = false)
    {
        var ring = Math.Abs(distance) < 1e-9 ? [.. outline] : Area.Of([outline]).SelectMany(a => (sharp ? Region.Of([a]).DrawnIn(-distance) : a.Grown(distance)).Areas).OrderByDescending(a => a.SquareMm).FirstOrDefault()?.Rings.First();
        return ring is null ? [] : Begun(ring);
    }

    /// <summary>A closed line in small pieces, clockwise from its topmost middle.</summary>
    public static IReadOnlyList<Point> Begun(IReadOnlyList<Point> ring)
    {
        var points = Polylines.IsClockwise(ring) ? ring.ToList() : [.. ring.Reverse()];
        var box = Box.Around(points);
        var line = new MeasuredLine([.. points, points[0]]);
        var top = Enumerable.Range(0, points.Count).Select(i => (A: line.Points[i], B: line.Points[i + 1], At: line.AlongAt(i))).Where(p => p.A.X <= box.Middle.X != p.B.X <= box.Middle.X)
            .Select(p => ((box.Middle.X - p.A.X) / (p.B.X - p.A.X)) is var t ? (p.A.Toward(p.B, t).Y, At: p.At + (t * p.A.DistanceTo(p.B))) : default).MinBy(p => p.Y).At;
        var pieces = Math.Max(24, (int)Math.Ceiling(line.Length / Piece));

        // Places at even distances, and all that were there, so that corners stay.
        return [.. Enumerable.Range(0, pieces).Select(i => line.Length * i / pieces).Concat(Enumerable.Range(0, points.Count).Select(line.AlongAt).Select(a => a - top).Select(a => a < 0 ? a + line.Length : a)).Order()
            .Aggregate(new List<double>(), (kept, at) => { if (kept.Count == 0 || at - kept[^1] > 1e-3) kept.Add(at); return kept; })
            .Select(at => line.PointAt((top + at) % line.Length))];
    }
}
