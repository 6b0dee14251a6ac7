using EvenThimble.Core.Geometry;
using EvenThimble.Core.Recognition;

namespace EvenThimble.Core.Outlining;

/// <summary>
/// An unbroken thread as the line that it draws: a run through its needle points, a zigzag or satin along its middle. What ties the thread is passed over. The method is our own.
/// </summary>
internal sealed class ThreadLine
{
    private const double TurnOfZigzag = -0.04; // cosine of 92°
    private const double ThrowAcross = 0.42; // sine of 25°
    private const double StraightOn = 0.99; // cosine of 8°
    private const double OffThrow = 0.12;
    private const double WidestThrow = 14;
    private const double WidestStep = 6;
    private const double DenseStep = 1.5;
    private const int FewestThrows = 8;
    private const int FewestBetweenCorners = 2;
    private const double TaperShare = 0.85;
    private const double LongestTaper = 1.5;
    private const double SameHole = 0.1;
    private const int MostBetween = 8;

    private readonly List<Point> _points;

    // Needle points within throws do not count where throws are looked for.
    private readonly List<int> _ends = [];

    private ThreadLine(List<Point> points)
    {
        _points = points;
        for (var i = 0; i < points.Count; i++)
            if (i == 0 || i == points.Count - 1 || !IsWithinThrow(points[_ends[^1]], points[i], points[i + 1]))
                _ends.Add(i);
    }

    /// <summary>A part of a thread: a run, or the middle of throws.</summary>
    /// <param name="Points">Its points, mm.</param>
    /// <param name="HalfWidth">Half the width of the throws, mm; 0: a run.</param>
    public readonly record struct Stretch(List<Point> Points, double HalfWidth);

    /// <summary>What a thread of needle points (mm) draws, in the order it is sewn.</summary>
    public static List<Stretch> Of(IReadOnlyList<Point> needles) => new ThreadLine(WithoutTies(needles)).Stretches();

    /// <summary>The needle points from the first to the last without the small stitches that hold both ends.</summary>
    private static List<Point> WithoutTies(IReadOnlyList<Point> needles)
    {
        if (needles.Count < 8) return [.. needles];
        var (first, last) = (TieReading.End(needles, 0, 1), TieReading.End(needles, needles.Count - 1, -1));
        if (first >= last) return [.. needles];
        var kept = new List<Point>(needles.Count) { needles[0] };
        for (var i = Math.Max(1, first); i <= Math.Min(last, needles.Count - 2); i++)
            if (needles[i].DistanceTo(kept[^1]) > 1e-9)
                kept.Add(needles[i]);
        if (needles[^1].DistanceTo(kept[^1]) > 1e-9) kept.Add(needles[^1]);
        return kept;
    }

    private static bool IsWithinThrow(Point before, Point at, Point after)
    {
        var (came, goes) = (at - before, after - at);
        return came.Dot(goes) > StraightOn * came.Length * goes.Length && Math.Abs((after - before).Unit().Cross(came)) < OffThrow;
    }

    private List<Stretch> Stretches()
    {
        var (stretches, at) = (new List<Stretch>(), 0);
        foreach (var (from, to) in Zigzags())
        {
            // The first and last end of a throw are also the ends of what leads there and away.
            AddRun(stretches, at, _ends[from]);
            stretches.Add(new(Middles(from, to), Width(from, to) / 2));
            at = _ends[to];
        }

        AddRun(stretches, at, _points.Count - 1);
        return stretches;
    }

    /// <summary>
    /// The middles of the throws of a zigzag. Where it turns, they lie to one side and to the other in turn, so each is taken with its neighbours. At the ends those are left out that belong to
    /// a mitre or a point, where throws grow shorter and leave the line.
    /// </summary>
    private List<Point> Middles(int from, int to)
    {
        var (width, first, last) = (Width(from, to), from, to - 1);
        bool IsShort(int i) => End(i).DistanceTo(End(i + 1)) < TaperShare * width;
        for (var i = from; i < to - FewestThrows && Middle(i).DistanceTo(Middle(from)) < LongestTaper * width; i++)
            if (IsShort(i))
                first = i + 1;
        for (var i = to - 1; i > first + FewestThrows && Middle(i).DistanceTo(Middle(to - 1)) < LongestTaper * width; i--)
            if (IsShort(i))
                last = i - 1;
        return [.. Enumerable.Range(first, last - first + 1).Select(i => i == first || i == last ? Middle(i) : (Middle(i - 1) + (Middle(i) * 2) + Middle(i + 1)) / 4)];
    }

    private void AddRun(List<Stretch> stretches, int from, int to)
    {
        if (to > from) stretches.Add(new(_points[from..(to + 1)], 0));
    }

    private Point End(int i) => _points[_ends[i]];

    private Point Middle(int i) => End(i).Toward(End(i + 1), 0.5);

    /// <summary>Stretches in which the thread goes from side to side, from the first end of a throw to the last.</summary>
    private List<(int From, int To)> Zigzags()
    {
        var stretches = new List<(int From, int To)>();
        var from = -1;
        for (var i = 1; i < _ends.Count; i++)
        {
            var goesOn = i + 1 < _ends.Count && Turns(i) && (from < 0 || i - 1 < from + 1 || Side(i) != Side(i - 1));
            if (goesOn && from < 0) from = i - 1;
            if (goesOn || from < 0) continue;
            if (i - from >= FewestBetweenCorners)
            {
                if (stretches.Count > 0 && from - stretches[^1].To <= MostBetween && IsAcross(stretches[^1].From, i)) stretches[^1] = (stretches[^1].From, i);
                else stretches.Add((Math.Max(from, stretches.Count > 0 ? stretches[^1].To : 0), i));
            }

            from = i + 1 < _ends.Count && Turns(i) ? i - 1 : -1;
        }

        return stretches.FindAll(s => s.To - s.From >= FewestThrows && IsAcross(s.From, s.To));
    }

    private bool Turns(int i)
    {
        var (a, b) = (End(i) - End(i - 1), End(i + 1) - End(i));
        return a.Dot(b) < TurnOfZigzag * a.Length * b.Length;
    }

    private bool Side(int i) => (End(i) - End(i - 1)).Cross(End(i + 1) - End(i)) > 0;

    /// <summary>Whether most throws of a stretch lie across the way that their middles take; stitches that are sewn to and fro lie along it.</summary>
    private bool IsAcross(int from, int to)
    {
        const int reach = 3;
        var across = 0;
        for (var i = from; i < to; i++)
        {
            var (way, thrown) = (Middle(Math.Min(i + reach, to - 1)) - Middle(Math.Max(i - reach, from)), End(i + 1) - End(i));
            if (Math.Abs(way.Cross(thrown)) > ThrowAcross * way.Length * thrown.Length) across++;
        }

        if (across < 0.75 * (to - from) || Width(from, to) > WidestThrow) return false;

        // A line that is sewn threefold comes back into holes it has left.
        if (Enumerable.Range(from, to - from - 1).Count(i => End(i).DistanceTo(End(i + 2)) < SameHole) > 0.5 * (to - from)) return false;

        // Throws with needle points within them are those of a dense satin; a star that is run along has such points too, but no such steps.
        var step = Middling(Enumerable.Range(from, to - from - 1).Select(i => End(i).DistanceTo(End(i + 2))));
        return step <= (Enumerable.Range(from, to - from).Count(i => _ends[i + 1] - _ends[i] > 1) > 0.3 * (to - from) ? DenseStep : WidestStep);
    }

    private double Width(int from, int to) => Middling(Enumerable.Range(from, to - from).Select(i => End(i).DistanceTo(End(i + 1))));

    private static double Middling(IEnumerable<double> values) => values.Order().ToList() is { Count: > 0 } all ? all[all.Count / 2] : 0;
}
