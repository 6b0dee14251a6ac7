using EvenThimble.Core.Geometry;
using EvenThimble.Core.Shapes;

namespace EvenThimble.Core.Digitizing.Satin;

/// <summary>Finds how the free ends of an area's strokes are cut: between which two corners of the outline the last throw lies.</summary>
internal sealed class Terminals(Area area)
{
    // The corners of a cut lie this far to the side of the middle line, in half widths, and about so far from the place where it leaves the area.
    private const double LeastAside = 0.45;
    private const double MostAside = 1.9;
    private const double Near = 2.4;

    // How far the area may bulge beyond a cut: by so much, and so much more for each mm of half the width, mm.
    private const double MostBeyond = 0.15;

    // A cut more slanted than this is a point, degrees.
    private const double MostSlant = 62;

    private readonly Point[] _corners = [.. area.Rings.SelectMany((r, i) => OutlineCorners.Outer(r, isHole: i > 0))];

    /// <summary>The corners to the left and right of the end of a stroke, or null where it has no straight cut.</summary>
    /// <param name="from">A place on the middle line shortly before the end.</param>
    /// <param name="ahead">The direction of the middle line there, of length one, towards the end.</param>
    /// <param name="tip">Where the line, taken straight on, leaves the area.</param>
    /// <param name="half">Half the width of the stroke, mm.</param>
    public (Point Left, Point Right)? Cut(Point from, Point ahead, Point tip, double half)
    {
        var across = ahead.Normal();
        (Point At, double Score)? left = null, right = null;
        foreach (var c in _corners)
        {
            if (c.DistanceTo(tip) > Near * half) continue;
            var (onwards, aside) = ((c - from).Dot(ahead), (c - from).Dot(across));
            if (onwards < -0.3 * half || Math.Abs(aside) < LeastAside * half || Math.Abs(aside) > MostAside * half) continue;

            // The corner that is farthest out to its side and on is the one that the edge of the stroke ends in.
            var score = (0.3 * Math.Abs(Math.Abs(aside) - half)) - onwards;
            if (aside > 0 && (left is null || score < left.Value.Score)) left = (c, score);
            if (aside < 0 && (right is null || score < right.Value.Score)) right = (c, score);
        }

        if (left is not { } l || right is not { } r) return null;

        // Where the area goes on beyond the line between them, that is no cut.
        if ((tip - l.At.Toward(r.At, 0.5)).Dot(ahead) > MostBeyond + (MostBeyond * half)) return null;
        return Math.Abs(Slant(across, l.At, r.At)) > MostSlant * Math.PI / 180 ? null : (l.At, r.At);
    }

    /// <summary>The angle from a direction to that from the right to the left corner, radians.</summary>
    public static double Slant(Point across, Point left, Point right) => Math.Atan2(across.Cross(left - right), across.Dot(left - right));
}
