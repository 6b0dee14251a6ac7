using EvenThimble.Core.Craft;
using EvenThimble.Core.Geometry;
using EvenThimble.Core.Shapes;

namespace EvenThimble.Core.Digitizing;

/// <summary>What is too small for throws or rows, as the dot of a small letter, is one stitch across it; with its ties that is thread enough to be seen.</summary>
internal static class Dot
{
    // The two needle points lie farther apart than what counts as one place.
    private const double LeastStitch = 0.5;

    // Nothing larger is a dot, mm.
    private const double Largest = 2 * Limits.ThreadWidth;

    // About as long as the longest way across is so much of it; about so many corners are looked at.
    private const double AboutAsLong = 0.9;
    private const int Looked = 64;

    /// <summary>Whether an area is so small that one stitch can stand for it.</summary>
    public static bool IsOf(Area area) => Math.Max(area.Bounds.Width, area.Bounds.Height) <= Largest;

    /// <summary>Two needle points along the longest way across an area, or of several that are about as long the one that lies most square to where the needle comes from; thread reaches half its width beyond each.</summary>
    /// <param name="area">The area.</param>
    /// <param name="start">Where the needle comes to it, if that is known: what ends there leaves less room for needle points.</param>
    public static List<Point> Across(Area area, Point? start = null)
    {
        var all = area.Corners.ToList();
        var corners = all.Where((_, i) => i % (1 + (all.Count / Looked)) == 0).ToList();
        var ways = corners.ConvertAll(c => (One: c, Other: corners.MaxBy(c.DistanceTo)));
        var longest = ways.Max(w => w.One.DistanceTo(w.Other));
        var (one, other) = start is { } from ? ways.FindAll(w => w.One.DistanceTo(w.Other) >= AboutAsLong * longest).MinBy(Slant) : ways.MaxBy(w => w.One.DistanceTo(w.Other));
        var (middle, along) = (one.Toward(other, 0.5), (other - one).Unit());
        var half = Math.Max(LeastStitch, one.DistanceTo(other) - Limits.ThreadWidth) / 2;
        return [middle - (along * half), middle + (along * half)];

        double Slant((Point One, Point Other) way) => Math.Abs((way.Other - way.One).Unit().Dot((way.One.Toward(way.Other, 0.5) - from).Unit()));
    }
}
