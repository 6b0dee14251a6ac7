using EvenThimble.Core.Geometry;
using EvenThimble.Core.Work;

namespace EvenThimble.Core.Recognition;

/// <summary>Rows that bend, there and back beside each other.</summary>
/// <param name="Rows">In the order they are sewn.</param>
/// <param name="SpacingMm">How far they usually lie apart, mm.</param>
/// <param name="StitchLength">Usual stitch in them, mm.</param>
/// <param name="Confidence">How sure that is, 0 to 1.</param>
internal sealed record BentRows(List<Leg> Rows, double SpacingMm, double StitchLength, double Confidence);

/// <summary>
/// Finds fills whose rows are bowed or wavy. A thread is cut where it turns back; the lines between, whatever their shape, are rows where each lies beside the one before it at a steady distance, the
/// other way and farther to the same side. The method is our own.
/// </summary>
/// <param name="points">The needle points of the thread.</param>
internal sealed class BentReading(Point[] points)
{
    private const double TurnsBack = 60;
    private const double BentBy = 0.25;
    private const double ShortestRow = 0.8;
    private const double Widest = 2.6;
    private const double Nearest = 0.05;
    private const double OtherWay = -0.5;
    private const double Beside = 0.6;
    private const double Farther = 2.8;
    private const int Looks = 7;
    private const int LooksAhead = 3;
    private const double LongerThanStep = 2.5;
    private const double LongestStep = 5;
    private const double LongestStepInRow = 1.6;
    private const double TurnsToStep = 20;
    private const int FewestRows = 5;
    private const int FewRows = 8;
    private const double BentShare = 0.4;
    private const int FewestStitches = 2;

    /// <summary>The stretches of bent rows between two needle points, in their order.</summary>
    public IEnumerable<BentRows> Find(int from, int to)
    {
        var lines = Lines(from, to);
        if (lines.Count(IsBent) < FewestRows) yield break;
        for (var i = 0; i < lines.Count;)
        {
            var (rows, distances, next) = Chain(lines, i);
            if (rows.Count < FewestRows || rows.Count(IsBent) < BentShare * rows.Count)
            {
                i = rows.Count < FewestRows ? i + 1 : next;
                continue;
            }

            var usual = distances.Median();
            var uneven = distances.Zip(distances.Skip(1), (a, b) => Math.Abs(a - b)).ToList().Median() / usual;
            var stitches = rows.SelectMany(r => Enumerable.Range(r.From, r.To - r.From)).Select(k => points[k].DistanceTo(points[k + 1])).ToList();
            yield return new(rows, usual, stitches.Median(), Math.Clamp(1 - (0.5 * uneven) - (rows.Count < FewRows ? 0.15 : 0), Passage.Sure, 1));
            i = next;
        }
    }

    /// <summary>The lines between places where the thread turns back.</summary>
    private List<Leg> Lines(int from, int to)
    {
        var lines = new List<Leg>();
        var start = from;
        for (var i = from + 1; i <= to; i++)
        {
            if (i < to && TurnAt(i) < TurnsBack) continue;

            // A row that meets its edge at a small angle lies nearly in line with the step along it.
            var (first, last) = (start, i);
            if (last - first > 2 && points[first].DistanceTo(points[first + 1]) < LongestStepInRow && TurnAt(first + 1) > TurnsToStep) lines.Add(new(first, ++first));
            if (last - first > 2 && points[last].DistanceTo(points[last - 1]) < LongestStepInRow && TurnAt(last - 1) > TurnsToStep) last--;
            lines.Add(new(first, last));
            if (last < i) lines.Add(new(last, i));
            start = i;
        }

        return lines;
    }

    /// <summary>How far the thread turns at a needle point, degrees.</summary>
    private double TurnAt(int i) => Math.Abs(Turn.Between(points[i] - points[i - 1], points[i + 1] - points[i]));

    /// <summary>Whether a line leaves the straight way; a short stitch at either end may be the step along the edge and does not count.</summary>
    private bool IsBent(Leg line)
    {
        var (from, to) = (line.From, line.To);
        if (to - from > 1 && points[from].DistanceTo(points[from + 1]) < LongestStepInRow) from++;
        if (to - from > 1 && points[to].DistanceTo(points[to - 1]) < LongestStepInRow) to--;
        if (to - from < FewestStitches) return false;
        var way = (points[to] - points[from]).Unit();
        for (var i = from + 1; i < to; i++)
            if (Math.Abs(way.Cross(points[i] - points[from])) > BentBy)
                return true;
        return false;
    }

    private double Length(Leg line)
    {
        var length = 0.0;
        for (var i = line.From; i < line.To; i++) length += points[i].DistanceTo(points[i + 1]);
        return length;
    }

    /// <summary>The rows that begin with a line, how far apart they lie, and the number of the line after them.</summary>
    private (List<Leg> Rows, List<double> Distances, int Next) Chain(List<Leg> lines, int first)
    {
        var (rows, distances, at, side, total) = (new List<Leg> { lines[first] }, new List<double>(), first, 0, 0.0);
        while (true)
        {
            var (next, apart, between, longest) = (-1, 0.0, 0.0, 0.0);
            for (var k = at + 1; k <= at + LooksAhead && k < lines.Count && between <= LongestStep; k++)
            {
                // Of a step that goes back and a row the row is meant.
                var length = Length(lines[k]);
                if (length >= ShortestRow && length > LongerThanStep * longest && between <= length && Distance(rows[^1], lines[k]) is { } aside)
                {
                    // Seen along a row the next lies to one side, seen along that one to the other.
                    var signed = rows.Count % 2 == 1 ? aside : -aside;
                    if ((side == 0 || Math.Sign(signed) == side) && (distances.Count < 2 || Math.Abs(signed) <= (Farther * total / distances.Count) + 0.1)) (next, apart, longest) = (k, signed, length);
                }

                between += length;
            }

            if (next < 0) return (rows, distances, at + 1);
            side = Math.Sign(apart);
            total += Math.Abs(apart);
            distances.Add(Math.Abs(apart));
            rows.Add(lines[next]);
            at = next;
        }
    }

    /// <summary>How far to the side of a row a line lies that goes the other way, mm, with a sign; null when it does not lie beside it.</summary>
    private double? Distance(Leg row, Leg line)
    {
        WorkBudget.Current.Spend(1 + ((row.To - row.From + (line.To - line.From)) / 16));
        var (shorter, other) = Length(line) < Length(row) ? (line, row) : (row, line);
        var (seen, left, distances) = (0, 0, new List<double>(Looks));
        foreach (var p in Polylines.Divided([.. Enumerable.Range(shorter.From, shorter.To - shorter.From + 1).Select(i => points[i])], Looks + 1)[1..^1])
        {
            seen++;
            var (distance, at) = (double.PositiveInfinity, -1);
            var foot = p;
            for (var i = other.From; i < other.To; i++)
            {
                var (a, b) = (points[i], points[i + 1]);
                var t = Math.Clamp((p - a).Dot(b - a) / Math.Max(1e-9, (b - a).Dot(b - a)), 0, 1);
                var q = a.Toward(b, t);
                if (q.DistanceTo(p) < distance) (distance, at, foot) = (q.DistanceTo(p), i, q);
            }

            // The way of the line at that place: by its nearest stitch.
            if (distance is < Nearest or > Widest) continue;
            var way = (points[at + 1] - points[at]).Unit();
            var own = Enumerable.Range(shorter.From, shorter.To - shorter.From).MinBy(i => points[i].Toward(points[i + 1], 0.5).DistanceTo(p));
            if (way.Dot((points[own + 1] - points[own]).Unit()) > OtherWay) continue;

            // As seen along the row.
            var aside = shorter == line ? way.Cross(p - foot) : (points[own + 1] - points[own]).Cross(foot - p);
            if (aside > 0) left++;
            distances.Add(distance);
        }

        if (distances.Count < Beside * seen) return null;
        if (left > 0.3 * distances.Count && left < 0.7 * distances.Count) return null;
        return distances.Median() * (left * 2 > distances.Count ? 1 : -1);
    }
}
