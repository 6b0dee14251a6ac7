using EvenThimble.Core.Craft;
using EvenThimble.Core.Digitizing.Lines;
using EvenThimble.Core.Geometry;
using EvenThimble.Core.Shapes;
using EvenThimble.Core.Work;

namespace EvenThimble.Core.Digitizing.Satin;

/// <summary>
/// What the finished stitches of a larger shape leave bare, whatever the reason: a slot between long throws, a strip along an edge, a corner. As a hand would, the needle goes from the nearest needle point along
/// it, and back.
/// </summary>
internal static class OpenSlots
{
    // A place is seen from the one size on, mm², where cloth lies so far from the edge of the thread on either side, mm; larger than the other it is no slot. No more than so many are closed.
    private const double LeastArea = 0.13;
    private const double MostArea = 6;
    private const double LeastDepth = 0.02;
    private const int MostPlaces = 60;

    // Side of the squares that are looked at, mm, unless there would be more of them than so many; where they would be larger than the second nothing so narrow is found.
    private const double Finest = 0.06;
    private const double Coarsest = 0.12;
    private const double MostSquares = 4_000_000;

    // A place that is so many times as long as broad is followed along its length, in pieces so long, mm; of any other the deepest is reached.
    private const double Long = 2.5;
    private const double Piece = 0.6;

    // What lies along the threads beside it, by the cosine, is closed when it is seen; what lies across them when cloth lies so far from the edge of the thread on either side, mm.
    private const double AlongThreads = 0.87;
    private const double DeepAcross = 0.12;

    // Where the middle of a piece lies farther from the place than this, the place is no slot but a comb, mm.
    private const double OffPlace = 0.15;

    // The needle turns so far before the end of a place, and comes from no farther than so, mm.
    private const double Before = 0.15;
    private const double Farthest = 1.5;

    // Along it goes in stitches of this length, mm.
    private const double Stitch = 3.5;

    // No more needle points may lie about the one that it comes from.
    private const int MostNear = 6;

    // So much is looked at in the time of one step of work.
    private const int StepsOfOne = 64;

    /// <summary>Puts needle points into a run over an area.</summary>
    /// <returns>Whether there was anything to close.</returns>
    public static bool Close(List<Point> run, Area area, StrokeLayout layout, SatinStyle style)
    {
        if (area.SquareMm <= SmallGaps.LargestShape) return false;
        var box = area.Bounds.Grown(1);
        var side = Math.Max(Finest, Math.Sqrt(box.Width * box.Height / MostSquares));
        if (side > Coarsest) return false;

        // Throws that are wanted farther apart than thread is wide count as closed.
        var half = Math.Max(Limits.ThreadWidth, style.SpacingMm) / 2;
        var (open, closed) = (new BitGrid(box, side), new BitGrid(box, side));
        open.LayInside(area.Rings);
        WorkBudget.Current.Spend(run.Count);
        for (var i = 1; i < run.Count; i++)
        {
            var along = (run[i] - run[i - 1]).Unit() * half;
            closed.Lay(run[i - 1] - (along * AreaCells.RoundEnd), run[i] + (along * AreaCells.RoundEnd), along.Normal());
        }

        open.Remove(closed);
        var square = side * side;
        var count = run.Count;
        foreach (var place in open.TakePlaces().FindAll(p => p.Count * square is >= LeastArea and <= MostArea).OrderByDescending(p => p.Count).Take(MostPlaces))
            if (Line(place, run, half) is { } line)
                Sew(line, run, layout);
        return run.Count > count;
    }

    /// <summary>The line along which a place is closed; null where it is so narrow that nobody sees it.</summary>
    private static List<Point>? Line(List<Point> place, List<Point> run, double half)
    {
        WorkBudget.Current.Spend(1 + ((place.Count + run.Count) / StepsOfOne));
        var beside = Polylines.Near(run, Box.Around(place).Grown(2 * half));
        WorkBudget.Current.Spend(place.Count * beside.Count / StepsOfOne);
        var (deepest, off) = place.Select(p => (Place: p, Off: beside.Count == 0 ? double.PositiveInfinity : beside.Min(i => p.DistanceToLine(run[i - 1], run[i])))).MaxBy(p => p.Off);
        if (off < half + LeastDepth) return null;
        var way = Scatter.MainDirection(place);
        var (first, last) = (place.Min(way.Dot) + Before, place.Max(way.Dot) - Before);
        if (last - first < Piece || last - first < Long * Scatter.Extent(place, way.Normal())) return [deepest];

        // One thread across others is seen more than what is bare between it and them.
        var next = beside.Count == 0 ? 0 : beside.MinBy(i => deepest.DistanceToLine(run[i - 1], run[i]));
        if (off < half + DeepAcross && next > 0 && Math.Abs(way.Dot((run[next] - run[next - 1]).Unit())) < AlongThreads) return null;
        var line = place.GroupBy(p => (int)Math.Floor((way.Dot(p) - first) / Piece)).OrderBy(g => g.Key).Select(g => Scatter.Middle([.. g])).ToList();
        if (line.Exists(p => place.Min(p.DistanceTo) > OffPlace)) return [deepest];
        (line[0], line[^1]) = (line[0] + (way * (first - way.Dot(line[0]))), line[^1] + (way * (last - way.Dot(line[^1]))));
        return line;
    }

    /// <summary>Sews along a line and back from the nearest needle point from which there is a way to it inside the area.</summary>
    private static void Sew(List<Point> line, List<Point> run, StrokeLayout layout)
    {
        List<Point>[] ways = line.Count == 1 ? [line] : [line, [.. Enumerable.Reverse(line)]];
        var begins = ways.SelectMany(w => Enumerable.Range(0, run.Count).Select(i => (After: i, Way: w, Far: run[i].DistanceTo(w[0])))).Where(b => b.Far <= Farthest);
        foreach (var (after, way, _) in begins.OrderBy(b => b.Far))
        {
            var points = new List<Point> { run[after] };
            foreach (var p in RunLine.Along([run[after], .. way], Stitch)) SatinThrows.Append(points, p);
            if (points.Count == 1 || Enumerable.Range(1, points.Count - 1).Any(i => !layout.IsStraight(points[i - 1], points[i])) || SmallGaps.Crowd(run, run[after]) > MostNear) continue;
            run.InsertRange(after + 1, [.. points.Skip(1), .. points.AsEnumerable().Reverse().Skip(1)]);
            return;
        }
    }
}
