using EvenThimble.Core.Digitizing.Fill;
using EvenThimble.Core.Digitizing.Lines;
using EvenThimble.Core.Digitizing.Satin;
using EvenThimble.Core.Geometry;
using EvenThimble.Core.Shapes;
using EvenThimble.Core.Work;

namespace EvenThimble.Core.Digitizing;

/// <summary>
/// No stitch across open ground: where the coarse rows of an underlay fall apart in a thin place or along a slanted edge, throws fan out about a corner, or a step leads past one, the needle goes by a way inside the
/// area instead.
/// </summary>
/// <param name="area">The area.</param>
/// <param name="outline">Its outlines.</param>
/// <param name="ways">Its sections, in which ways are found; made when they are needed.</param>
/// <param name="mostOutside">A needle point may lie this far outside, mm.</param>
/// <param name="mostCrossed">A stitch may go this far outside, mm.</param>
internal sealed class OpenGround(Area area, Walls outline, Func<RowSections> ways, double mostOutside, double mostCrossed)
{
    // Stitches from this length on are looked at, mm.
    private const double LeastLooked = 1.0;

    /// <summary>The same needle points without those that lie too far outside, and with ways in place of stitches that go there.</summary>
    /// <param name="run">The needle points.</param>
    /// <param name="isLooked">Whether a stitch may go outside at all.</param>
    public List<Point> Avoided(List<Point> run, Func<Point, Point, bool> isLooked)
    {
        var avoided = new List<Point>(run.Count);
        foreach (var p in run)
        {
            WorkBudget.Current.Spend();
            if (avoided.Count == 0 || avoided[^1].DistanceTo(p) < LeastLooked || !isLooked(avoided[^1], p)) avoided.Add(p);
            else if (IsOutside(p, (p - avoided[^1]).Unit(), mostOutside)) continue;
            else if (Crosses(avoided[^1], p)) FillSewing.Append(avoided, RunLine.Along(ways().Way(avoided[^1], p)));
            else avoided.Add(p);
        }

        return avoided;
    }

    private bool Crosses(Point a, Point b)
    {
        for (var t = 0.2; t < 0.9; t += 0.2)
            if (IsOutside(a.Toward(b, t), (b - a).Unit(), mostCrossed))
                return true;
        return false;
    }

    private bool IsOutside(Point place, Point direction, double by) => outline.Leave(place, direction) is null && area.DistanceTo(place) > by;
}
