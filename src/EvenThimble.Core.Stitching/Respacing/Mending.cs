using EvenThimble.Core.Craft;
using EvenThimble.Core.Geometry;
using EvenThimble.Core.Recognition;
using EvenThimble.Core.Work;

namespace EvenThimble.Core.Respacing;

/// <summary>
/// Closes what opened when stitches were made larger. Sections of a fill are known from nothing but the places of their rows; where those tremble, or were taken for something else, cloth shows at a seam that
/// the stitches closed as they came. There the needle goes out from the nearest rows, along the bare place and back, as a hand would.
/// </summary>
internal sealed class Mending
{
    // Of all places no more than so many are mended, the largest first.
    private const int MostPlaces = 400;

    // A place that is so many times as long as broad is mended along its length, any other along the stitches beside it. It is followed in pieces so long, mm.
    private const double Long = 2;
    private const double Piece = 0.5;

    // The needle goes out to a place, and comes back from it, no farther than this, mm.
    private const double Farthest = 5;

    // A stitch shorter than this can be left out, mm: a step from one row to the next. A shorter line is one needle point.
    private const double Step = 0.8;

    // A stitch as long tells the direction of those about it, mm.
    private const double Clear = 1;

    // So many needle points are looked at in the time of one step of work.
    private const int PointsOfOne = 16;

    private readonly List<(SewnThread Thread, Passage Passage, Box Box)> _closing;

    private Mending(List<SewnThread> threads) =>
        _closing = [.. threads.SelectMany(t => t.Stretches.Where(s => OpenedPlaces.Closes(s.Passage) && s.End > s.From).Select(s => (t, s.Passage, Box.Around(t.Points[s.From..(s.End + 1)]).Grown(Farthest))))];

    /// <summary>Puts needle points into threads where they leave open what was closed.</summary>
    /// <param name="read">The stitches as they came.</param>
    /// <param name="making">The size and spacing at which they were made anew.</param>
    /// <param name="threads">What was made.</param>
    public static void Close(ReadStitches read, Remaking making, List<SewnThread> threads)
    {
        if (Math.Max(making.Size.Across, making.Size.Down) * making.Lighter <= 1) return;
        var places = new OpenedPlaces(read, making).Of(threads);
        if (places.Count == 0) return;
        var mending = new Mending(threads);
        foreach (var place in places.Take(MostPlaces))
            if (mending.Beside(place) is var (thread, at, passage))
                mending.Sew(Lines(place, thread.Points[at + 1] - thread.Points[at], passage.SpacingMm * making.Lighter));
    }

    /// <summary>The stretches of threads that close, near a place.</summary>
    private IEnumerable<(SewnThread Thread, int From, int End, Passage Passage)> Near(Box place)
    {
        foreach (var (thread, passage, _) in _closing.Where(c => c.Box.Meets(place)))
        {
            var (from, end, _) = thread.Stretches.First(s => ReferenceEquals(s.Passage, passage));
            WorkBudget.Current.Spend(1 + ((end - from) / PointsOfOne));
            yield return (thread, from, end, passage);
        }
    }

    /// <summary>The clear stitch nearest to the middle of a place, by the needle point in which it begins, and what it belongs to; null where there is none.</summary>
    private (SewnThread Thread, int At, Passage Passage)? Beside(List<Point> place)
    {
        var middle = place.MinBy(Middle(place).DistanceTo);
        (SewnThread Thread, int At, Passage Passage)? nearest = null;
        var least = Farthest;
        foreach (var (thread, from, end, passage) in Near(Box.Around(place)))
        {
            for (var i = from; i < end; i++)
            {
                var far = middle.DistanceToLine(thread.Points[i], thread.Points[i + 1]);
                if (far < least && thread.Points[i].DistanceTo(thread.Points[i + 1]) >= Clear) (least, nearest) = (far, (thread, i, passage));
            }
        }

        return nearest;
    }

    private static Point Middle(List<Point> place) => place.Aggregate(Point.Zero, (a, b) => a + b) * (1.0 / place.Count);

    /// <summary>Lines side by side along a place, an even number: as far apart as rows are, or closer, with the rows on either side.</summary>
    private static List<List<Point>> Lines(List<Point> place, Point beside, double spacing)
    {
        var way = IsLong(place, out var main) ? main : beside.Unit();
        var across = way.Normal();
        var pieces = place.GroupBy(p => (int)Math.Floor(way.Dot(p) / Piece)).OrderBy(g => g.Key).Select(g => (At: (g.Key + 0.5) * Piece, Low: g.Min(across.Dot), High: g.Max(across.Dot))).ToList();
        var (first, last) = (place.Min(way.Dot), place.Max(way.Dot));
        (pieces[0], pieces[^1]) = (pieces[0] with { At = first }, pieces[^1] with { At = pieces.Count == 1 ? (first + last) / 2 : last });

        // What rows on either side close is not bare.
        var closed = OpenedPlaces.ClosedGap(spacing);
        var count = Math.Max(2, 2 * (int)Math.Ceiling(pieces.Max(p => p.High - p.Low) / spacing / 2));
        return [.. Enumerable.Range(1, count).Select(k => pieces.ConvertAll(p => (way * p.At) + (across * (p.Low - (closed / 2) + ((p.High - p.Low + closed) * k / (count + 1))))))];
    }

    /// <summary>Whether a place is much longer than broad, and its direction then, by its second moments.</summary>
    private static bool IsLong(List<Point> place, out Point way)
    {
        var (middle, xx, xy, yy) = (Middle(place), 0.0, 0.0, 0.0);
        foreach (var p in place.Select(p => p - middle)) (xx, xy, yy) = (xx + (p.X * p.X), xy + (p.X * p.Y), yy + (p.Y * p.Y));
        var (sin, cos) = Math.SinCos(Math.Atan2(2 * xy, xx - yy) / 2);
        way = new(cos, sin);
        return place.Max(way.Dot) - place.Min(way.Dot) > Long * (place.Max(way.Normal().Dot) - place.Min(way.Normal().Dot));
    }

    /// <summary>Sews lines there and back from where a thread has the least way to them.</summary>
    private void Sew(List<List<Point>> lines)
    {
        List<List<Point>>[] orders = [lines, [.. Enumerable.Reverse(lines)]];
        List<List<Point>>[] ways = [.. orders, .. orders.Select(o => o.ConvertAll(l => Enumerable.Reverse(l).ToList()))];
        var (least, best, after, order) = (2 * Farthest, ((SewnThread Thread, Passage Passage)?)null, 0, lines);
        foreach (var (thread, from, end, passage) in Near(Box.Around(lines.SelectMany(l => l))))
        {
            for (var i = from; i < end; i++)
            {
                foreach (var way in ways)
                {
                    var length = thread.Points[i].DistanceTo(way[0][0]) + way[^1][0].DistanceTo(BackTo(thread, i));
                    if (length < least) (least, best, after, order) = (length, (thread, passage), i, way);
                }
            }
        }

        if (best is var (sewn, beside)) Insert(sewn, after, order, beside.StitchLength > Step ? beside.StitchLength : Limits.FillStitch);
    }

    /// <summary>Where a thread that leaves its line after a needle point comes back to: to the next one after a step along an edge, or else to the same, so that no stitch is missing.</summary>
    private static Point BackTo(SewnThread thread, int point) => thread.Points[thread.Points[point].DistanceTo(thread.Points[point + 1]) < Step ? point + 1 : point];

    /// <summary>Puts the needle points of lines, the first sewn as it comes, the next back, into a thread.</summary>
    private static void Insert(SewnThread thread, int after, List<List<Point>> lines, double stitch)
    {
        var (from, back) = (thread.Points[after], BackTo(thread, after));
        var points = new List<Point> { from };
        for (var k = 0; k < lines.Count; k++)
        {
            var (line, length) = (k % 2 == 0 ? lines[k] : [.. Enumerable.Reverse(lines[k])], Polylines.Length(lines[k]));
            foreach (var p in length < Step ? [line[line.Count / 2]] : Polylines.Divided(line, (int)Math.Ceiling(length / stitch)))
                if (points[^1].DistanceTo(p) >= Limits.ShortestStitch)
                    points.Add(p);
        }

        while (points.Count > 1 && points[^1].DistanceTo(back) < Limits.ShortestStitch) points.RemoveAt(points.Count - 1);
        if (points.Count == 1) return;
        if (back == from) points.Add(back);
        thread.Insert(after + 1, points[1..]);
    }
}
