using EvenThimble.Core.Geometry;
using EvenThimble.Core.Work;

namespace EvenThimble.Core.Recognition;

/// <summary>A line of which each stitch is sewn several times over.</summary>
/// <param name="From">The first needle point.</param>
/// <param name="To">The last one.</param>
/// <param name="Times">How often, an odd number from 3.</param>
/// <param name="StitchLength">Usual stitch, mm.</param>
internal readonly record struct FoldedLine(int From, int To, int Times, double StitchLength);

/// <summary>What the stitches of a line are.</summary>
/// <param name="StitchLength">Usual stitch, mm.</param>
/// <param name="IsDrawn">Whether each single stitch is part of a drawing.</param>
/// <param name="Confidence">How sure that is, 0 to 1.</param>
internal readonly record struct LineLook(double StitchLength, bool IsDrawn, double Confidence);

/// <summary>Tells lines: each stitch several times over, back through the holes they came from, drawn stitch by stitch as crosses and motifs are, or plain.</summary>
internal static class LineReading
{
    private const double SameSpot = 0.25;
    private const double ShortestFolded = 0.6;
    private const int MostTimes = 7;
    private const int FewestFolded = 3;

    // A stretch in shared holes goes on over others for as long as it gains more than it loses.
    private const double Loss = 1.5;
    private const int FewestInHoles = 12;

    // Throws close beside each other have the one before last, on the same side, nearly in the same place: that is no hole that is shared.
    private const int PassesApart = 3;

    // Of every so many points one is looked at first: most threads come back to no hole.
    private const int Sample = 5;
    private const double WorthALook = 0.15;

    // Lines of which so much has another line of the same thread close beside it are rows of a kind that is not understood, unless hardly any lies between two: then it is a line sewn twice.
    private const double RowsOfAKind = 0.6;
    private const double LeastBetween = 0.2;

    // Stitches of drawings are shorter than this, mm, or lie farther apart than what covers.
    private const double LongestOfDrawing = 2.5;
    private const double Covering = 0.8;
    private const double CornerDegrees = 35;
    private const double BackDegrees = 120;
    private const double Drawn = 0.5;
    private const double DrawnWhenRepeated = 0.3;
    private const int LongestRepeat = 80;
    private const double AlikeLength = 0.25;
    private const double AlikeDegrees = 12;
    private const double AlikeDegreesMm = 14;
    private const double MostAlike = 0.85;

    /// <summary>The stretches of which each stitch is sewn as many times over, three or more.</summary>
    public static List<FoldedLine> Folded(Point[] points, int from, int to)
    {
        var found = new List<FoldedLine>();
        var (begin, times, lengths) = (from, 0, new List<double>());
        for (var i = from; i < to;)
        {
            var count = Passes(points, i, to);
            if (count != times || lengths.Count == 0)
            {
                Put(i);
                (begin, times) = (i, count);
            }

            if (count >= 3) lengths.Add(points[i].DistanceTo(points[i + 1]));
            i += Math.Max(1, count);
        }

        Put(to);
        return found;

        void Put(int end)
        {
            if (lengths.Count >= FewestFolded) found.Add(new(begin, end, times, lengths.Median()));
            lengths.Clear();
        }
    }

    /// <summary>How often the stitch that begins at a point is sewn to and fro before the needle goes on from its other end; 0 when it does not go on, or never comes back.</summary>
    private static int Passes(Point[] points, int at, int to)
    {
        if (points[at].DistanceTo(points[at + 1]) < ShortestFolded) return 0;
        var count = 1;
        while (at + count + 1 <= to && count <= MostTimes && points[at + count + 1].DistanceTo(points[at + count - 1]) <= SameSpot) count++;
        if (count < 3 || count > MostTimes || count % 2 == 0) return 0;
        return at + count == to || points[at + count + 1].DistanceTo(points[at + count - 1]) >= ShortestFolded ? count : 0;
    }

    /// <summary>The stretches nearly all of whose needle points lie in holes that are sewn at another time too.</summary>
    public static List<(int From, int To)> InSharedHoles(Point[] points, int from, int to)
    {
        var found = new List<(int, int)>();
        if (to - from < FewestInHoles) return found;
        var grid = new HoleGrid(points, from, to);
        if (grid.IsCrowded) return found;
        bool IsShared(int i) => grid.IsShared(i, PassesApart);
        var looked = Enumerable.Range(0, ((to - from) / Sample) + 1).Select(k => from + (k * Sample)).ToList();
        if (looked.Count(IsShared) < WorthALook * looked.Count) return found;

        // Where the way back begins the points about its tip lie too near in the thread to count; they lie between others that do.
        var shared = Enumerable.Range(from, to - from + 1).Select(IsShared).ToArray();
        for (var at = from; at <= to;)
        {
            var (sum, best, last) = (0.0, 0.0, -1);
            var i = at;
            for (; i <= to && sum >= 0; i++)
            {
                sum += shared[i - from] ? 1 : -Loss;
                if (sum > best) (best, last) = (sum, i);
            }

            if (last - at >= FewestInHoles && best >= FewestInHoles / 2.0) found.Add((at, last));
            at = last > at ? last + 1 : Math.Max(at + 1, i);
        }

        return found;
    }

    /// <summary>What a line's stitches are.</summary>
    /// <param name="points">The needle points of its thread.</param>
    /// <param name="from">Its first one.</param>
    /// <param name="to">Its last one.</param>
    /// <param name="sharesHoles">Whether it comes back through its holes.</param>
    public static LineLook Described(Point[] points, int from, int to, bool sharesHoles)
    {
        var (lengths, turns) = (new List<double>(), new List<double>());
        var sharp = 0;
        for (var i = from; i < to; i++)
        {
            lengths.Add(points[i].DistanceTo(points[i + 1]));
            if (i == from) continue;
            var (a, b) = (points[i] - points[i - 1], points[i + 1] - points[i]);
            turns.Add(Turn.Between(a, b));
            if (a.Dot(b) < 0) sharp++;
        }

        var usual = lengths.Median();
        var corners = turns.Count == 0 ? 0 : turns.Count(t => Math.Abs(t) >= CornerDegrees) / (double)turns.Count;
        var repeats = corners > DrawnWhenRepeated && !GoesToAndFro(turns) && Repeats(lengths, turns);
        if (sharesHoles) return new(usual, corners > Drawn || repeats, 0.9);
        if (repeats) return new(usual, true, Covers(points, from, to, usual) ? Passage.NotUnderstood : 0.9);
        if (RingReading.Neighbours(points, from, to) is { Share: > RowsOfAKind, Between: > LeastBetween }) return new(usual, false, Passage.NotUnderstood);
        var wild = lengths.Count(l => l > 2.5 * usual || l < usual / 2.5) / (double)lengths.Count;
        return new(usual, false, Math.Clamp(1 - (sharp / (double)lengths.Count) - (0.4 * wild), 0.2, 1));
    }

    /// <summary>Whether long stitches lie so close on either side of each other that they cover, as those of a leaf that is thrown to its middle from either side: what they are is not known, but no drawing.</summary>
    private static bool Covers(Point[] points, int from, int to, double usual) => usual > LongestOfDrawing && RingReading.Neighbours(points, from, to, Covering).Between > RowsOfAKind;

    /// <summary>Whether nearly every stitch goes back beside the one before it, by turns to one side and to the other: throws, however close.</summary>
    private static bool GoesToAndFro(List<double> turns)
    {
        var back = 0;
        for (var i = 1; i < turns.Count; i++)
            if (Math.Min(Math.Abs(turns[i]), Math.Abs(turns[i - 1])) > BackDegrees && Math.Sign(turns[i]) != Math.Sign(turns[i - 1]))
                back++;
        return back >= MostAlike * (turns.Count - 1);
    }

    /// <summary>Whether stitches and turns come again and again, as those of a motif do.</summary>
    private static bool Repeats(List<double> lengths, List<double> turns)
    {
        WorkBudget.Current.Spend(turns.Count);
        for (var period = 2; period <= Math.Min(LongestRepeat, turns.Count / 3); period++)
        {
            var alike = 0;
            for (var i = 0; i + period < turns.Count; i++)
            {
                // The shorter the stitch the more a needle point that is a little off turns it.
                var within = AlikeDegrees + (AlikeDegreesMm / Math.Max(0.3, Math.Min(lengths[i], lengths[i + 1])));
                if (Math.Abs(lengths[i] - lengths[i + period]) <= AlikeLength && Math.Abs(Degrees(turns[i] - turns[i + period])) <= within) alike++;
            }

            if (alike >= MostAlike * (turns.Count - period)) return true;
        }

        return false;
    }

    private static double Degrees(double turn) => turn > 180 ? turn - 360 : turn < -180 ? turn + 360 : turn;
}
