using EvenThimble.Core.Craft;
using EvenThimble.Core.Digitizing.Lines;
using EvenThimble.Core.Digitizing.Satin;
using EvenThimble.Core.Geometry;
using EvenThimble.Core.Shapes;
using EvenThimble.Core.Work;

namespace EvenThimble.Core.Digitizing.Fill;

/// <summary>Fill of an area with all that lies under it, in one unbroken run.</summary>
public static class FillSewing
{
    // The thread of the edge line lies just inside the edge: rows that end there find a firm edge, and rows along it leave no slit.
    private const double EdgeLineInset = Limits.ThreadWidth / 2;

    // A stitch may go so far outside, mm.
    private const double MostCrossed = 0.3;
    private const double LightInset = 0.7;
    private const double LightSpacing = 2.8;
    private const double LightStitch = 3.4;

    /// <summary>The needle points of one connected area: underlay, then rows.</summary>
    public static List<Point> Sew(Area area, RowFill fill, IReadOnlyList<Underlay> underlay, Point? start = null, Point? end = null)
    {
        var ways = new RowSections(area, fill.Angle, fill.SpacingMm);
        var run = new List<Point>();
        if (underlay.Count > 0 && start is { } s) run.Add(s);
        foreach (var layer in underlay)
        {
            switch (layer)
            {
                case Underlay.Edge:
                    Edge(run, ways, area);
                    break;
                case Underlay.Light:
                    Light(run, ways, area, fill.Angle + 90, LightSpacing);
                    break;
                case Underlay.Zigzag:
                    Light(run, ways, area, fill.Angle + 60, LightSpacing);
                    break;
                case Underlay.DoubleZigzag:
                    Light(run, ways, area, fill.Angle + 60, LightSpacing);
                    Light(run, ways, area, fill.Angle - 60, LightSpacing);
                    break;
                case Underlay.Centre:
                    Light(run, ways, area, fill.Angle + 90, 2 * LightSpacing);
                    break;
            }
        }

        Append(run, fill.Of(ways, run.Count > 0 ? run[^1] : start, end));

        // Rows keep to the area by themselves, and are not looked at.
        var along = new Point(1, 0).Turned(fill.Angle, Point.Zero);
        return new OpenGround(area, Walls.Of(area), () => ways, MostCrossed + fill.CompensationMm, MostCrossed).Avoided(run, (a, b) => Math.Abs((b - a).Unit().Dot(along)) <= 0.99);
    }

    private static void Edge(List<Point> run, RowSections ways, Area area)
    {
        var rings = area.Grown(-EdgeLineInset).Simplified(0.04).Areas.SelectMany(a => a.Rings).ToList();
        while (rings.Count > 0)
        {
            var (ring, at) = run.Count == 0 ? (rings[0], 0) : Nearest(rings, run[^1]);
            rings.Remove(ring);
            Point[] round = [.. ring[at..], .. ring[..at], ring[at]];
            if (Polylines.Length(round) < 2 * Limits.RunStitch) continue;
            GoTo(run, ways, round[0]);
            Append(run, RunLine.Along(round));
        }
    }

    private static void Light(List<Point> run, RowSections ways, Area area, double angle, double spacing)
    {
        var left = area.Grown(-LightInset).Areas.Where(p => p.SquareMm > spacing * spacing).ToList();
        while (left.Count > 0)
        {
            var next = run.Count == 0 ? left[0] : left.MinBy(p => p.Corners.Min(c => run[^1].DistanceTo(c)))!;
            left.Remove(next);
            var rows = new RowFill(angle) { SpacingMm = spacing, StitchMm = LightStitch };
            var nearest = next.Corners.MinBy(p => run.Count == 0 ? 0 : p.DistanceTo(run[^1]));
            GoTo(run, ways, nearest);
            Append(run, rows.Of(next, nearest));
        }
    }

    private static (Point[] Ring, int At) Nearest(List<Point[]> rings, Point from)
    {
        var (best, at, nearest) = (rings[0], 0, double.PositiveInfinity);
        foreach (var ring in rings)
        {
            for (var i = 0; i < ring.Length; i++)
            {
                var distance = ring[i].DistanceTo(from);
                if (distance < nearest) (best, at, nearest) = (ring, i, distance);
            }
        }

        return (best, at);
    }

    private static void GoTo(List<Point> run, RowSections ways, Point to)
    {
        if (run.Count > 0) Append(run, RunLine.Along(ways.Way(run[^1], to)));
    }

    /// <summary>Goes on with more needle points; those too near to the last are left out.</summary>
    internal static void Append(List<Point> run, List<Point> more)
    {
        foreach (var p in more)
            if (run.Count == 0 || run[^1].DistanceTo(p) >= Limits.ShortestStitch)
                run.Add(p);
    }
}
