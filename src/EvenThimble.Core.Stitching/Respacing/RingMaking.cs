using EvenThimble.Core.Craft;
using EvenThimble.Core.Digitizing.Fill;
using EvenThimble.Core.Digitizing.Lines;
using EvenThimble.Core.Geometry;
using EvenThimble.Core.Recognition;
using EvenThimble.Core.Shapes;
using EvenThimble.Core.Work;

namespace EvenThimble.Core.Respacing;

/// <summary>
/// A fill in rings made anew: its ground is what its lines lie on, its edge the outermost of them, and from there rings are laid inwards (or outwards, as they were sewn) at the spacing that is wanted.
/// </summary>
internal sealed class RingMaking(Remaking making, Passage passage)
{
    // Neighbouring lines are taken as one ground when each reaches a little beyond half the way to the other; gaps up to a line's distance are closed.
    private const double Reach = 0.62;
    private const double Closing = 0.5;

    // From ring to ring needle points are shifted by this part of a stitch, so that they make no furrow.
    private const double Shift = 0.38;
    private const double Flat = 0.01;

    // Beside each other, lines that cut their curves by more than this let the cloth be seen between them, mm.
    private const double ChordError = 0.05;

    // A hole that this many lines would not fit into is a place where stitches cut a corner, and no window.
    private const double LeastWindow = 2.2;

    // The spacing may give so much for the rings of an area to meet in its middle without a gap.
    private const double Give = 0.06;

    // Where no whole ring fits any more, in the middle or in a neck, a last one closes a gap that is wider than this many times the spacing, if so much would stay bare, mm².
    private const double Open = 1.12;
    private const double LeastOpen = 0.25;

    // Lines that wind around each other lie nearer on one side than on the other; how far apart they lie in all is told by the ground that they share, but for so much.
    private const double Nearer = 0.8;
    private const double Farther = 1.3;

    private double _spacing;

    /// <summary>A ring, and the rings that lie one spacing farther in beside it.</summary>
    private sealed record Ring(Point[] Line, List<Ring> Next)
    {
        /// <summary>How many rings there are from it on.</summary>
        public int Count => 1 + Next.Sum(r => r.Count);
    }

    /// <summary>Appends the rings to what is made, from the first needle point of the passage to its last.</summary>
    public void Make()
    {
        var was = Enumerable.Range(passage.First, passage.Stitches + 1).Select(making.Was).ToArray();
        var outlines = Outlines(was);
        _spacing = Usual(was, Area.Of(outlines)) * making.Lighter;
        List<Area> ground = [.. Area.Of(outlines.ConvertAll(r => (IReadOnlyList<Point>)[.. r.Select(making.Size.Apply)]))];
        var end = making.Sized(passage.Last);
        var sewing = new Sewing(making, Math.Max(passage.StitchLength, Limits.ShortestStitch), Turning(was) > 0, ground, end);
        var inwards = Inwards(was);
        foreach (var area in ground.OrderBy(a => a.DistanceTo(making.Run[^1])))
        {
            // From the edge of a window, or where all goes outwards, rings are sewn from the middle to the edge.
            var edges = RingsOf(area, Fitting(area));
            if (inwards) sewing.Inwards(edges[0]);
            foreach (var edge in inwards ? edges.Skip(1) : edges.AsEnumerable().Reverse()) sewing.Outwards(edge);
        }

        sewing.Go(end);
        making.EndAt(end);
    }

    /// <summary>How far lines lie apart when their thread is shared out evenly over the ground, mm: the outermost ones have half of their strip beyond its edge.</summary>
    private double Usual(Point[] was, IEnumerable<Area> ground)
    {
        var strips = ground.Sum(a => a.SquareMm + (a.EdgeLength * passage.SpacingMm / 2));
        return Math.Clamp(strips / Polylines.Length(was), Nearer * passage.SpacingMm, Farther * passage.SpacingMm);
    }

    /// <summary>The outlines of the ground inside the outermost lines, as it was.</summary>
    private List<IReadOnlyList<Point>> Outlines(Point[] was)
    {
        var (reach, closing) = (Reach * passage.SpacingMm, Closing * passage.SpacingMm);
        var lain = LineGround.Of(was, reach + closing).DrawnIn(reach + closing);
        return [.. lain.Areas.SelectMany(a => a.Rings.Where((r, i) => i == 0 || Area.Of([r]).Any(hole => !hole.Grown(-LeastWindow * passage.SpacingMm).IsEmpty)))];
    }

    /// <summary>The spacing at which the innermost rings of an area lie one spacing apart, as near to what is wanted as may be.</summary>
    private double Fitting(Area area)
    {
        var (reaches, isTooFar) = (0.0, Math.Min(area.Bounds.Width, area.Bounds.Height) / 2 + Flat);
        while (isTooFar - reaches > Flat)
        {
            var half = (reaches + isTooFar) / 2;
            if (area.Grown(-half).IsEmpty) isTooFar = half;
            else reaches = half;
        }

        var rings = Math.Max(1, Math.Round((reaches / _spacing) - 0.5));
        return Math.Clamp(reaches / (rings + 0.5), (1 - Give) * _spacing, (1 + Give) * _spacing);
    }

    /// <summary>The rings along the edges of an area, the outer one first, with those that lie farther in.</summary>
    private static List<Ring> RingsOf(Area area, double spacing)
    {
        WorkBudget.CheckDepth();
        var edges = area.Rings.Select(r => new Ring(r, [])).ToList();
        var deeper = area.Grown(-spacing).Simplified(Flat).Areas;
        var reached = Region.Of(deeper).Grown(spacing / 2);
        var open = area.Grown(-spacing * Open / 2).Areas.SelectMany(a => a.Without(reached).Areas).Where(a => a.SquareMm >= LeastOpen).SelectMany(a => a.Rings);
        foreach (var ring in open.Select(r => new Ring(r, [])).Concat(deeper.SelectMany(a => RingsOf(a, spacing)))) edges.MinBy(e => Apart(e.Line, ring.Line))!.Next.Add(ring);
        return edges;
    }

    /// <summary>The least distance of the corners of one ring from those of another, mm.</summary>
    private static double Apart(Point[] ring, Point[] other)
    {
        WorkBudget.Current.Spend(1 + (ring.Length * other.Length / 64));
        return ring.Min(p => other.Min(p.DistanceTo));
    }

    private static Point[] Turned(Point[] ring, bool clockwise) => Polylines.IsClockwise(ring) == clockwise ? ring : [.. ring.AsEnumerable().Reverse()];

    /// <summary>By how much the line turns in all, clockwise, radians.</summary>
    private static double Turning(Point[] line)
    {
        var sum = 0.0;
        for (var i = 2; i < line.Length; i++)
        {
            var (a, b) = (line[i - 1] - line[i - 2], line[i] - line[i - 1]);
            sum += Math.Atan2(a.Cross(b), a.Dot(b));
        }

        return sum;
    }

    /// <summary>Whether it was sewn from the edge inwards: the first fifth of it lies farther out than the last.</summary>
    private static bool Inwards(Point[] line)
    {
        var fifth = Math.Max(2, line.Length / 5);
        return Box.Around(line[..fifth]) is var first && Box.Around(line[^fifth..]) is var last && first.Width + first.Height >= last.Width + last.Height;
    }

    /// <summary>Sews rings so that every way from one to another lies on ground that is not sewn yet.</summary>
    private sealed class Sewing(Remaking making, double stitch, bool clockwise, List<Area> ground, Point end)
    {
        private const double WayStitch = 2.5;
        private readonly Dictionary<Area, RowSections> _sections = [];
        private int _rings;

        /// <summary>From the edge inwards; where the ground parts, all branches but the last are sewn from their middles outwards.</summary>
        public void Inwards(Ring ring)
        {
            while (true)
            {
                Sew(ring.Line, making.Run[^1]);
                if (ring.Next.Count == 0) return;
                var last = ring.Next.MaxBy(r => r.Count)!;
                OutwardsEach(ring.Next.Where(r => r != last));
                ring = last;
            }
        }

        /// <summary>From the middle outwards, so that the last ring is left near the end that is wanted.</summary>
        public void Outwards(Ring ring)
        {
            WorkBudget.CheckDepth();
            OutwardsEach(ring.Next);
            Sew(ring.Line, end);
        }

        /// <summary>One branch after another, the nearest first.</summary>
        private void OutwardsEach(IEnumerable<Ring> branches)
        {
            var left = branches.ToList();
            while (left.Count > 0)
            {
                var next = left.MinBy(r => r.Line.Min(making.Run[^1].DistanceTo))!;
                left.Remove(next);
                Outwards(next);
            }
        }

        private void Sew(Point[] ring, Point near)
        {
            var turned = Turned(ring, clockwise);
            var line = new MeasuredLine([.. turned, turned[0]]);
            var start = (line.Nearest(near) + (_rings++ % 3 * Shift * stitch)) % line.Length;
            var around = line.Between(start, line.Length);
            around.AddRange(line.Between(0, start).Skip(1));
            Go(around[0]);
            Add(RunLine.Along(around, stitch, ChordError));
        }

        /// <summary>Goes to a place on a way that stays on the ground.</summary>
        public void Go(Point to)
        {
            var from = making.Run[^1];
            if (from.DistanceTo(to) <= WayStitch && ground.Exists(a => a.DistanceTo(from.Toward(to, 0.5)) < Flat)) return;
            List<Point> way = [from, to];
            if (ground.Find(a => a.DistanceTo(from) < Flat && a.DistanceTo(to) < Flat) is { } area)
            {
                if (!_sections.TryGetValue(area, out var sections)) _sections.Add(area, sections = new(area, 0, Limits.FillSpacing));
                way = sections.Way(from, to);
            }

            Add(RunLine.Along(way, WayStitch).Skip(1));
        }

        /// <summary>Adds needle points. Corners are kept, so that no stitch cuts one: what lies just before gives way.</summary>
        private void Add(IEnumerable<Point> points)
        {
            foreach (var p in points)
            {
                if (making.Run.Count > 1 && making.Run[^1].DistanceTo(p) < Limits.ShortestStitch) making.Run[^1] = p;
                else making.Add(p);
            }
        }
    }
}
