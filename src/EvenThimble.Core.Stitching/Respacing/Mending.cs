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

    // Each thread, with the number of its first needle point among those of all.
    private readonly List<(SewnThread Thread, int First)> _threads = [];

    // The needle points of all threads, one after another, and what the stitch that begins in each belongs to; null where it does not close.
    private readonly Point[] _points;
    private readonly Passage?[] _passages;
    private readonly CellIndex _stitches;

    // The needle points that mend, by the one that they follow.
    private readonly SortedDictionary<int, List<Point>> _mended = [];

    private Mending(List<SewnThread> threads)
    {
        _points = [.. threads.SelectMany(t => t.Points)];
        _passages = new Passage?[_points.Length];
        var first = 0;
        foreach (var thread in threads)
        {
            _threads.Add((thread, first));
            foreach (var (from, end, passage) in thread.Stretches)
                if (OpenedPlaces.Closes(passage))
                    Array.Fill(_passages, passage, first + from, end - from);
            first += thread.Points.Count;
        }

        _stitches = new(_points, 0, _points.Length - 1, span: 1, Farthest);
    }

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
        foreach (var (place, _) in places.Where(p => p.IsClear || mending.IsSeam(p.Squares, making.Lighter)).Take(MostPlaces))
            if (mending.Beside(place) is var (stitch, passage))
                mending.Sew(Lines(place, mending._points[stitch + 1] - mending._points[stitch], passage.SpacingMm * making.Lighter));
        mending.Insert();
    }

    /// <summary>Whether different passages lie on either side of a place: within one, rows that grow apart, or tremble, leave narrow slits as they came.</summary>
    private bool IsSeam(List<Point> place, double lighter)
    {
        var seams = 0;
        foreach (var p in place)
        {
            Passage? first = null;
            foreach (var i in _stitches.Near(p))
            {
                WorkBudget.Current.Spend();
                if (_passages[i] is not { } passage || passage == first || p.DistanceToLine(_points[i], _points[i + 1]) > OpenedPlaces.WidestClosed(passage.SpacingMm * lighter)) continue;
                if (first is not null)
                {
                    seams++;
                    break;
                }

                first = passage;
            }
        }

        return 2 * seams > place.Count;
    }

    /// <summary>The clear stitch nearest to the middle of a place, by the needle point in which it begins, and what it belongs to; null where there is none.</summary>
    private (int Stitch, Passage Passage)? Beside(List<Point> place)
    {
        var middle = place.MinBy(Scatter.Middle(place).DistanceTo);
        ((int Stitch, Passage Passage)? nearest, var least) = (null, Farthest);
        foreach (var i in _stitches.Near(middle))
        {
            WorkBudget.Current.Spend();
            if (_passages[i] is not { } passage || _points[i].DistanceTo(_points[i + 1]) < Clear) continue;
            var far = middle.DistanceToLine(_points[i], _points[i + 1]);
            if (far < least) (least, nearest) = (far, (i, passage));
        }

        return nearest;
    }

    /// <summary>Lines side by side along a place, an even number: as far apart as rows are, or closer, with the rows on either side.</summary>
    private static List<List<Point>> Lines(List<Point> place, Point beside, double spacing)
    {
        var main = Scatter.MainDirection(place);
        var way = Scatter.Extent(place, main) > Long * Scatter.Extent(place, main.Normal()) ? main : beside.Unit();
        var across = way.Normal();
        var pieces = place.GroupBy(p => (int)Math.Floor(way.Dot(p) / Piece)).OrderBy(g => g.Key).Select(g => (At: (g.Key + 0.5) * Piece, Low: g.Min(across.Dot), High: g.Max(across.Dot))).ToList();
        var (first, last) = (place.Min(way.Dot), place.Max(way.Dot));
        (pieces[0], pieces[^1]) = (pieces[0] with { At = first }, pieces[^1] with { At = pieces.Count == 1 ? (first + last) / 2 : last });

        // What rows on either side close is not bare.
        var closed = OpenedPlaces.ClosedGap(spacing);
        var count = Math.Max(2, 2 * (int)Math.Ceiling(pieces.Max(p => p.High - p.Low) / spacing / 2));
        return [.. Enumerable.Range(1, count).Select(k => pieces.ConvertAll(p => (way * p.At) + (across * (p.Low - (closed / 2) + ((p.High - p.Low + closed) * k / (count + 1))))))];
    }

    /// <summary>Sews lines there and back from where a thread has the least way to them, and nothing else is mended from.</summary>
    private void Sew(List<List<Point>> lines)
    {
        List<List<Point>>[] orders = [lines, [.. Enumerable.Reverse(lines)]];
        List<List<Point>>[] ways = [.. orders, .. orders.Select(o => o.ConvertAll(l => Enumerable.Reverse(l).ToList()))];
        var (least, after, order) = (2 * Farthest, -1, lines);
        foreach (var way in ways)
        {
            foreach (var i in _stitches.Near(way[0][0]))
            {
                WorkBudget.Current.Spend();
                if (_passages[i] is null || _mended.ContainsKey(i)) continue;
                var length = _points[i].DistanceTo(way[0][0]) + way[^1][0].DistanceTo(_points[BackTo(i)]);
                if (length < least) (least, after, order) = (length, i, way);
            }
        }

        if (after >= 0 && Sewn(after, order) is { Count: > 0 } sewn) _mended.Add(after, sewn);
    }

    /// <summary>Where a thread that leaves its line after a needle point comes back to: to the next one after a step along an edge, or else to the same, so that no stitch is missing.</summary>
    private int BackTo(int point) => _points[point].DistanceTo(_points[point + 1]) < Step ? point + 1 : point;

    /// <summary>The needle points of lines, the first sewn as it comes, the next back, between a needle point and where the thread comes back to.</summary>
    private List<Point> Sewn(int after, List<List<Point>> lines)
    {
        var (passage, back) = (_passages[after]!, BackTo(after));
        var stitch = passage.StitchLength > Step ? passage.StitchLength : Limits.FillStitch;
        var points = new List<Point> { _points[after] };
        for (var k = 0; k < lines.Count; k++)
        {
            var (line, length) = (k % 2 == 0 ? lines[k] : [.. Enumerable.Reverse(lines[k])], Polylines.Length(lines[k]));
            foreach (var p in length < Step ? [line[line.Count / 2]] : Polylines.Divided(line, (int)Math.Ceiling(length / stitch)))
                if (points[^1].DistanceTo(p) >= Limits.ShortestStitch)
                    points.Add(p);
        }

        while (points.Count > 1 && points[^1].DistanceTo(_points[back]) < Limits.ShortestStitch) points.RemoveAt(points.Count - 1);
        if (points.Count > 1 && back == after) points.Add(_points[back]);
        return points[1..];
    }

    /// <summary>Puts what mends into the threads, the last first, so that the numbers of those before still hold.</summary>
    private void Insert()
    {
        var thread = _threads.Count - 1;
        foreach (var (after, points) in _mended.Reverse())
        {
            while (_threads[thread].First > after) thread--;
            _threads[thread].Thread.Insert(after - _threads[thread].First + 1, points);
        }
    }
}
