using System.Collections.Immutable;
using EvenThimble.Core.Geometry;
using EvenThimble.Core.Stitches;
using EvenThimble.Core.Work;

namespace EvenThimble.Core.Outlining;

/// <summary>
/// Finds the lines that stitches draw, each edge once and clean: sewn once, twice or threefold, as a run, a zigzag or a satin, with the way that leads to it and the overlap that ends it left out.
/// Nothing is assumed about what made the stitches; the method is our own.
/// </summary>
public static class StitchOutlines
{
    private const double Near = 0.6;
    private const double WorthTelling = 1.5;
    private const double SharpTurn = 0.5; // cosine of 60°
    private const int MostBeginnings = 10;
    private const int MostLoops = 24;
    private const int ManyPoints = 2_000;
    private const double LongerIsBetter = 0.3;
    private const double MostBare = 0.2;
    private const double LeastGap = 0.6;
    private const double MostGap = 3;
    private const double GapShare = 0.06;

    /// <summary>The lines of a range of records, mm.</summary>
    public static FoundLines Of(StitchBlob records, int first, int end)
    {
        var found = new List<FoundLine>();
        var left = new List<LeftOut>();
        var open = new List<FoundLine>();
        for (var i = first; i < end;)
        {
            if (records.Kinds[i] != StitchKind.Stitch)
            {
                i++;
                continue;
            }

            // The needle comes down first where a jump has led it.
            var thread = new List<Point>();
            for (; i < end && records.Kinds[i] == StitchKind.Stitch; i++)
                if (thread.Count == 0 || records.At(i).DistanceTo(thread[^1]) > 1e-9)
                    thread.Add(records.At(i));
            if (thread.Count < 2) continue;
            var reading = Read(thread);
            found.AddRange(reading.Loops);
            left.AddRange(reading.Left);
            open.AddRange(reading.Open);
        }

        found.AddRange(Joined(open));
        return EachOnce([.. found.Select(Sharp)], left);
    }

    private static FoundLine Sharp(FoundLine line) => line is { Closed: true, HalfWidth: > 0 } ? line with { Points = [.. MiddleCorners.Sharpened(line.Points, line.HalfWidth)] } : line;

    private sealed record Reading(List<FoundLine> Loops, List<FoundLine> Open, List<LeftOut> Left, double Unexplained)
    {
        /// <summary>Of readings that leave about as much unexplained the one with the longest line is better.</summary>
        public double Cost => Unexplained - (LongerIsBetter * Loops.Select(l => l.Length).DefaultIfEmpty(0).Max());
    }

    /// <summary>One unbroken thread: each of its runs and zigzags by itself; runs that are not closed beside others that are led to them.</summary>
    private static Reading Read(List<Point> needles)
    {
        var (loops, open, left) = (new List<FoundLine>(), new List<FoundLine>(), new List<LeftOut>());
        foreach (var reading in ThreadLine.Of(needles).Select(ReadStretch))
        {
            loops.AddRange(reading.Loops);
            open.AddRange(reading.Open);
            left.AddRange(reading.Left);
        }

        // Runs that lie in the middle of throws are their underlay, or led through them.
        var throws = open.FindAll(o => o.HalfWidth > 0);
        foreach (var line in open.Concat(loops).Where(o => o.HalfWidth == 0 && throws.Count > 0 && Bare([.. o.AsPath], throws) < MostBare * o.Length).ToList())
        {
            open.Remove(line);
            loops.Remove(line);
            left.Add(new(LeftOutAs.Again, line.Points));
        }

        if (loops.Count == 0) return new(loops, open, left, 0);
        foreach (var line in open) Tell([.. line.Points], loops, left);
        return new(loops, [], left, 0);
    }

    /// <summary>A stretch of thread: walked along from its beginning and from its end, and from where a way that led to the line may have ended; what explains most of it holds.</summary>
    private static Reading ReadStretch(ThreadLine.Stretch stretch)
    {
        Reading? best = null;
        foreach (var backwards in (ReadOnlySpan<bool>)[false, true])
        {
            List<Point> points = backwards ? [.. Enumerable.Reverse(stretch.Points)] : stretch.Points;
            foreach (var from in Beginnings(points))
            {
                var reading = ReadFrom(points, stretch.HalfWidth, from);
                if (best is null || reading.Cost < best.Cost - WorthTelling) best = reading;
                if (best.Unexplained <= WorthTelling) return best;
            }
        }

        return best!;
    }

    /// <summary>Where the line itself may begin: at the first point, and at sharp turns.</summary>
    private static IEnumerable<int> Beginnings(List<Point> line)
    {
        yield return 0;
        var given = 0;
        var most = line.Count > ManyPoints ? 2 : MostBeginnings;
        for (var i = 1; i + 1 < line.Count * 2 / 3 && given < most; i++)
        {
            var (a, b) = (line[i] - line[i - 1], line[i + 1] - line[i]);
            if (a.Dot(b) > SharpTurn * a.Length * b.Length) continue;
            given++;
            yield return i;
        }
    }

    /// <summary>What is read when the line begins anew at one of its points; what comes before is read by itself.</summary>
    private static Reading ReadFrom(List<Point> line, double halfWidth, int from)
    {
        var (loops, open, left) = (new List<FoundLine>(), new List<FoundLine>(), new List<LeftOut>());
        var rests = new List<List<Point>>();
        foreach (var points in from == 0 ? [line] : new[] { line[..(from + 1)], line[from..] })
        {
            var walk = LineWalk.Along(points);
            var isLast = points[^1] == line[^1];

            // What closes that often is a fill or a drawing, and no line to cut along.
            if (walk.Loops.Count > MostLoops) return new([], [new([.. line], false) { HalfWidth = halfWidth, GapMm = line[0].DistanceTo(line[^1]) }], [], Polylines.Length(line));
            if (!isLast && walk.Loops.Count == 0)
            {
                // Nothing closes before: it led to where the line begins.
                left.Add(new(LeftOutAs.Travel, [.. points]));
                continue;
            }

            loops.AddRange(walk.Loops.Select(l => new FoundLine([.. l], true) { HalfWidth = halfWidth }));
            List<Point> rest = [.. walk.Rest];
            if (isLast && Closing(rest, halfWidth) is { } closing && Bare(rest[closing.From..], loops) > Polylines.Length(rest[closing.From..]) / 2)
            {
                // Where a zigzag closes there is a step as between any two throws.
                var ring = rest[closing.From..];
                var step = Polylines.Length(ring) / (ring.Count - 1);
                loops.Add(new FoundLine([.. ring], true) { HalfWidth = halfWidth, GapMm = halfWidth > 0 && closing.Gap <= Math.Max(2.5 * step, halfWidth) ? 0 : closing.Gap });
                rest = rest[..(closing.From + 1)];
            }

            rests.AddRange(walk.Spurs);
            rests.Add(rest);
        }

        foreach (var rest in rests.Where(r => r.Count > 1))
        {
            if (loops.Count > 0) Tell(rest, loops, left);
            else open.Add(new([.. rest], false) { HalfWidth = halfWidth, GapMm = rest[0].DistanceTo(rest[^1]) });
        }

        return new(loops, open, left, left.Where(l => l.Why == LeftOutAs.Travel).Sum(l => Polylines.Length(l.Points)) + open.Sum(o => o.Length) + Shared(loops));
    }

    /// <summary>How much of loops lies on others that are not the same, mm: no edge is one of two pieces, so a way across was taken for an edge there.</summary>
    private static double Shared(List<FoundLine> loops) =>
        loops.Sum(l => loops.FindAll(o => o != l && !LiesOn(l, o)) is { Count: > 0 } others ? l.Length - Bare([.. l.AsPath], others) : 0);

    /// <summary>Where a line nearly comes back to: the last point of it to whose place its end comes, or the whole where its ends are near.</summary>
    private static (int From, double Gap)? Closing(List<Point> line, double halfWidth)
    {
        if (line.Count < 4) return null;
        var length = Polylines.Length(line);
        var most = Math.Clamp(GapShare * length, LeastGap, MostGap) + halfWidth;
        var (best, gap, along) = (-1, double.PositiveInfinity, 0.0);
        for (var i = 0; i < line.Count && along < length / 2; i++)
        {
            if (i > 0) along += line[i - 1].DistanceTo(line[i]);
            var off = line[i].DistanceTo(line[^1]);
            if (off < gap) (best, gap) = (i, off);
        }

        return gap <= most && LineWalk.Encloses(line[best..]) ? (best, gap) : null;
    }

    /// <summary>Notes what was left out, by whether it lies on a line.</summary>
    private static void Tell(List<Point> way, List<FoundLine> loops, List<LeftOut> left)
    {
        if (way.Count < 2 || Polylines.Length(way) < WorthTelling) return;
        left.Add(new(Bare(way, loops) <= WorthTelling ? LeftOutAs.Overlap : LeftOutAs.Travel, [.. way]));
    }

    /// <summary>How much of a way lies on none of the lines, mm.</summary>
    private static double Bare(List<Point> way, List<FoundLine> loops)
    {
        if (way.Count < 2) return 0;
        const double step = 0.5;
        var bare = 0;
        var measures = loops.ConvertAll(l => new NearLine(l.AsPath, Math.Max(Near, l.HalfWidth + 0.3)));
        var pieces = Math.Max(1, (int)(Polylines.Length(way) / step));
        foreach (var p in Polylines.Divided(way, pieces))
            if (!measures.Exists(m => m.Reaches(p)))
                bare++;
        return bare * Polylines.Length(way) / (pieces + 1);
    }

    /// <summary>Open lines whose ends meet are one; what closes by that is closed.</summary>
    private static List<FoundLine> Joined(List<FoundLine> open)
    {
        const double meets = 1;
        var lines = open.ToList();
        for (var joined = true; joined && lines.Count > 1;)
        {
            joined = false;
            var best = (A: -1, B: -1, Gap: double.PositiveInfinity, TurnA: false, TurnB: false);
            for (var a = 0; a < lines.Count; a++)
            {
                for (var b = a + 1; b < lines.Count; b++)
                {
                    WorkBudget.Current.Spend(1);
                    foreach (var (turnA, turnB) in ((bool, bool)[])[(false, false), (true, false), (false, true), (true, true)])
                    {
                        var gap = (turnA ? lines[a].Points[0] : lines[a].Points[^1]).DistanceTo(turnB ? lines[b].Points[^1] : lines[b].Points[0]);
                        if (gap <= meets + lines[a].HalfWidth + lines[b].HalfWidth && gap < best.Gap) best = (a, b, gap, turnA, turnB);
                    }
                }
            }

            if (best.A < 0) break;
            var (one, other) = (lines[best.A], lines[best.B]);
            var points = (best.TurnA ? one.Points.Reverse() : one.Points).Concat(best.TurnB ? other.Points.Reverse() : other.Points);
            lines[best.A] = new FoundLine([.. points], false) { HalfWidth = Math.Max(one.HalfWidth, other.HalfWidth) };
            lines.RemoveAt(best.B);
            joined = true;
        }

        return lines.ConvertAll(l => Closing([.. l.Points], l.HalfWidth) is { } closing ? l with { Points = l.Points[closing.From..], Closed = true, GapMm = closing.Gap } : l with { GapMm = l.Points[0].DistanceTo(l.Points[^1]) });
    }

    /// <summary>Of lines that lie on each other only one, the middle of a satin before its underlay, be that a run or a wide zigzag; open ones that lie on others are overlaps.</summary>
    private static FoundLines EachOnce(List<FoundLine> found, List<LeftOut> left)
    {
        var kept = new List<(FoundLine Line, int Place)>();
        foreach (var (line, place) in found.Select((l, i) => (l, i)).OrderByDescending(l => l.l.Closed).ThenByDescending(l => l.l.HalfWidth > 0).ThenBy(l => l.l.HalfWidth > 0 ? l.l.Length / l.l.Points.Length : 0))
        {
            if (kept.Exists(k => k.Line.Closed && (LiesOn(line, k.Line) || IsUnder(line, k.Line)))) left.Add(new(line.Closed ? LeftOutAs.Again : LeftOutAs.Overlap, line.Points));
            else kept.Add((line, place));
        }

        return new([.. kept.OrderBy(k => k.Place).Select(k => k.Line)], [.. left]);
    }

    /// <summary>Whether a line lies on another all along: a closed one and the other along all of it too.</summary>
    public static bool LiesOn(FoundLine line, FoundLine other)
    {
        var near = Math.Max(Near, Math.Max(line.HalfWidth, other.HalfWidth) + 0.3);
        const double share = 0.95;
        return ShareOn(line, other, near) >= share && (!line.Closed || ShareOn(other, line, near) >= share);
    }

    /// <summary>Whether a run is the underlay of a satin, along its edge.</summary>
    private static bool IsUnder(FoundLine run, FoundLine satin) => run.HalfWidth == 0 && satin.HalfWidth > 0.6 && ShareOn(run, satin, satin.HalfWidth + 0.2) >= 0.6 && ShareOn(satin, run, satin.HalfWidth + 0.2) >= 0.6;

    private static double ShareOn(FoundLine line, FoundLine other, double near)
    {
        var measure = new NearLine(other.AsPath, near);
        var path = line.AsPath;
        var places = Polylines.Divided(path, Math.Max(8, (int)(line.Length / 0.7)));
        return places.Count(measure.Reaches) / (double)places.Length;
    }
}
