using EvenThimble.Core.Craft;
using EvenThimble.Core.Geometry;
using EvenThimble.Core.Shapes;

namespace EvenThimble.Core.Digitizing;

/// <summary>What is too small for throws or rows, as the dot of a small letter, is one stitch across it; with its ties that is thread enough to be seen.</summary>
internal static class Dot
{
    // The two needle points lie farther apart than what counts as one place.
    private const double LeastStitch = 0.5;

    /// <summary>Two needle points along the longest way across an area; thread reaches half its width beyond each.</summary>
    public static List<Point> Across(Area area)
    {
        var corners = area.Corners.ToList();
        var from = corners[0];
        var one = corners.MaxBy(from.DistanceTo);
        var other = corners.MaxBy(one.DistanceTo);
        var (middle, along) = (one.Toward(other, 0.5), (other - one).Unit());
        var half = Math.Max(LeastStitch, one.DistanceTo(other) - Limits.ThreadWidth) / 2;
        return [middle - (along * half), middle + (along * half)];
    }
}
