using EvenThimble.Core.Geometry;
using EvenThimble.Core.Work;

namespace EvenThimble.Core.Recognition;

/// <summary>
/// Finds the sections of a fill in legs that go back and forth beside each other. A fill of any shape is sewn in sections, with ways between; those, and steps along a slanted edge, can lie so nearly in line with
/// rows that they were taken for some, or for a piece of one.
/// </summary>
/// <param name="points">The needle points of the thread.</param>
/// <param name="described">Tells what rows are.</param>
internal sealed class FillSections(Point[] points, Func<List<Leg>, Ladder> described)
{
    // Ways between sections lean by so much of the rows' distance, or more where they touch no row, and, unless outermost, are so much longer than the rows beside them, mm.
    private const double LeansBy = 0.5;
    private const double LeansByItself = 0.75;
    private const double MuchLonger = 2;

    // A row bends, mm, where a step along the edge was taken into it; on either side of the bend needle points lie no farther off than this part of that.
    private const double LeastBend = 0.08;
    private const double ClearBend = 0.5;

    // Of bends that leave hardly more beside their lines than the best, mm, that of the longest row is meant.
    private const double AsStraight = 0.03;

    // A row that lies nearer to the last than this part of what is usual among so many before and after lies upon it; as many tell the direction.
    private const double Upon = 0.3;
    private const int About = 3;

    /// <summary>Shorter than this, mm, nothing among ways is a row.</summary>
    public const double ShortestRow = 1.0;

    // Of a row, a way and another row in line either row lies level within this part of the rows' distance.
    private const double Level = 0.3;

    // Only rows of one direction are looked at for that: they turn by less than this, degrees.
    private const double MostTurn = 15;

    // What is left of it leans by no more than this part of the rows' distance.
    private const double LiesAlong = 0.45;

    // Where more of the rows than this part, and than so many, go on from the end of one the edge is ragged; of rows that may have a step in them a few more.
    private const double MostGoingOn = 0.25;
    private const double MostMerged = 0.32;
    private const int FewGoingOn = 2;

    // So many points are looked at in the time of one step of work; each may be the bend, and a leg of more than these is no row.
    private const int StepsOfOne = 32;
    private const int MostPoints = 1_000;

    // An outermost row that reaches so far beyond the edge of the next ones begins where a needle point lies so near to that edge, mm.
    private const double BeyondEdge = 2;
    private const double NearEdge = 1;

    /// <summary>The sections of a fill, in their order; those of fewer rows than are known for some by themselves are left out.</summary>
    public IEnumerable<Ladder> Of(Ladder fill) =>
        Parted(fill).SelectMany(WithoutSteps).SelectMany(Sections).SelectMany(WithoutSteps).Select(section => WithoutWays(section) is { } rows ? described(rows) : section);

    /// <summary>A fill, parted where a row lies upon the last one rather than beside it, and where what looks like one row is the last of a section, the way to another one and the first row of that, all nearly in line.</summary>
    private IEnumerable<Ladder> Parted(Ladder fill)
    {
        if (fill.Turn > MostTurn) return [fill];
        var parts = new List<List<Leg>> { new() };
        var asides = Enumerable.Range(1, fill.Legs.Count - 1).Select(k => Aside(Along(fill.Legs, k), fill.Legs[k - 1], fill.Legs[k])).ToList();
        var side = Math.Sign(asides.Sum());
        for (var k = 0; k < fill.Legs.Count; k++)
        {
            if (k > 0 && side * asides[k - 1] < Upon * asides[Math.Max(0, k - 1 - About)..Math.Min(asides.Count, k + About)].ConvertAll(Math.Abs).Median()) parts.Add([]);
            if (!GoesOn(fill.Legs, k) && !GoesOn(fill.Legs, k + 1) && RowsWithin(fill.Legs[k], Along(fill.Legs, k), fill.SpacingMm) is var (last, first))
            {
                parts[^1].Add(last);
                parts.Add([first]);
            }
            else
            {
                parts[^1].Add(fill.Legs[k]);
            }
        }

        return parts.Count == 1 ? [fill] : parts.Where(p => p.Count >= LadderReading.FewestRungs).Select(described);
    }

    /// <summary>What lies along the rows at the beginning and at the end of a leg that leans against them by more than it does there; null where there is no way between.</summary>
    private (Leg First, Leg Last)? RowsWithin(Leg leg, Point along, double spacing)
    {
        if (Lean(leg, along) <= LeansByItself * spacing || LegReading.MostOffLine(points, leg.From, leg.To) < LeastBend) return null;
        var (end, begin) = (leg.From, leg.To);
        while (end < leg.To && Math.Abs(along.Cross(points[end + 1] - points[leg.From])) <= Level * spacing) end++;
        while (begin > leg.From && Math.Abs(along.Cross(points[begin - 1] - points[leg.To])) <= Level * spacing) begin--;
        var (first, last) = (leg with { To = end }, leg with { From = begin });
        return end < begin && Math.Min(first.Length(points), last.Length(points)) >= ShortestRow ? (first, last) : null;
    }

    /// <summary>
    /// A fill whose rows begin and end at their own needle points: where an edge slants along the rows a step along it can be as long as a row, and be taken for the begin or the end of one, and so can a
    /// way that leads on in line with it. What goes on from one row and into the next is a way by itself. Where after a way the next row does not lie beside the last another section begins.
    /// </summary>
    private IEnumerable<Ladder> WithoutSteps(Ladder fill)
    {
        if (fill.Turn > MostTurn || IsRagged(fill.Legs, MostMerged)) return [fill];
        List<Leg> rows = [.. fill.Legs];
        for (var k = 0; k < rows.Count; k++)
        {
            var (begins, ends) = (GoesOn(rows, k), GoesOn(rows, k + 1));
            if (begins && ends) continue;
            var (along, least) = (Along(rows, k), begins || ends ? LeansBy : LeansByItself);
            var later = ends ? null : WithoutStep(rows[k], along, fill.SpacingMm, least, atBegin: true);
            var earlier = begins ? null : WithoutStep(rows[k], along, fill.SpacingMm, least, atBegin: false);
            rows[k] = (later, earlier) is ({ } l, { } e) ? (l.Length(points) > e.Length(points) ? l : e) : later ?? earlier ?? rows[k];
        }

        if (rows.SequenceEqual(fill.Legs)) return [fill];
        var side = Math.Sign(Aside(Along(rows, 0), rows[0], rows[^1]));
        int[] parts = [0, .. Enumerable.Range(1, rows.Count - 1).Where(k => (rows[k - 1].To != fill.Legs[k - 1].To || rows[k].From != fill.Legs[k].From) && side * Aside(Along(rows, k), rows[k - 1], rows[k]) < LeansBy * fill.SpacingMm), rows.Count];
        return parts.Zip(parts.Skip(1), (from, end) => rows.GetRange(from, end - from)).Where(p => p.Count >= LadderReading.FewestRungs).Select(described);
    }

    /// <summary>How far to the side of a direction the middle of a row lies from that of another, mm.</summary>
    private double Aside(Point along, Leg from, Leg to) => along.Cross(points[to.From].Toward(points[to.To], 0.5) - points[from.From].Toward(points[from.To], 0.5));

    /// <summary>Whether one of some rows goes on from the end of the one before it, without a step.</summary>
    private static bool GoesOn(List<Leg> rows, int row) => row > 0 && row < rows.Count && rows[row - 1].To == rows[row].From;

    /// <summary>The direction of rows from one number to before another, as if the first of all were sewn along it, of length one.</summary>
    /// <param name="points">The needle points of the thread.</param>
    /// <param name="rows">Rows that go back and forth.</param>
    /// <param name="from">The first that counts.</param>
    /// <param name="end">The first after those.</param>
    /// <param name="but">One that does not count; below 0: all do.</param>
    public static Point Direction(Point[] points, List<Leg> rows, int from, int end, int but = -1)
    {
        var sum = Point.Zero;
        for (var k = from; k < end; k++)
            if (k != but) sum += (points[rows[k].To] - points[rows[k].From]) * (k % 2 == 0 ? 1 : -1);
        return sum.Unit();
    }

    /// <summary>The direction of the rows on either side of one.</summary>
    private Point Along(List<Leg> rows, int row) => Direction(points, rows, Math.Max(0, row - About), Math.Min(rows.Count, row + About + 1), but: row);

    /// <summary>How much farther to the side of a direction a leg ends than it begins, mm.</summary>
    private double Lean(Leg leg, Point along) => Math.Abs(along.Cross(points[leg.To] - points[leg.From]));

    /// <summary>What lies along the rows of a leg that leans against them and bends clearly, the longest of it; null where it is straight, or leans by less than so many distances of rows.</summary>
    private Leg? WithoutStep(Leg leg, Point along, double spacing, double least, bool atBegin)
    {
        var off = LegReading.MostOffLine(points, leg.From, leg.To);
        if (Lean(leg, along) <= least * spacing || off < LeastBend || leg.To - leg.From > MostPoints) return null;
        WorkBudget.Current.Spend(1 + ((leg.To - leg.From) * (leg.To - leg.From) / StepsOfOne));
        var bends = Enumerable.Range(leg.From + 1, leg.To - leg.From - 1)
            .Select(at => (Row: atBegin ? leg with { From = at } : leg with { To = at }, Off: Math.Max(LegReading.MostOffLine(points, leg.From, at), LegReading.MostOffLine(points, at, leg.To))))
            .Where(b => b.Off <= ClearBend * off && Lean(b.Row, along) <= LiesAlong * spacing).ToList();
        if (bends.Count == 0) return null;
        var straightest = bends.Min(b => b.Off);
        return bends.Where(b => b.Off <= straightest + AsStraight).MaxBy(b => b.Row.To - b.Row.From).Row;
    }

    /// <summary>Whether many rows go on from the end of one, as along a ragged edge.</summary>
    private static bool IsRagged(List<Leg> rows, double most = MostGoingOn) => Enumerable.Range(1, rows.Count - 1).Count(k => GoesOn(rows, k)) > Math.Max(FewGoingOn, most * rows.Count);

    /// <summary>
    /// The sections of a fill, or all of it. A way from one to the next lies beside rows as another row would, but leans, goes on from the end of one without a step, and is outermost or much longer.
    /// </summary>
    private List<Ladder> Sections(Ladder fill)
    {
        var legs = fill.Legs;
        if (IsRagged(legs)) return [fill];
        var along = Direction(points, legs, 0, legs.Count);
        bool IsWay(int k)
        {
            if (Lean(legs[k], along) <= LeansBy * fill.SpacingMm) return false;
            var (goesOn, isGoneOnFrom) = (GoesOn(legs, k), GoesOn(legs, k + 1));
            if (!goesOn && !isGoneOnFrom) return false;
            if (k == 0 || k == legs.Count - 1 || (goesOn && isGoneOnFrom && IsStraight(legs[k]))) return true;
            var (before, after) = (legs[k - 1].Length(points), legs[k + 1].Length(points));
            return legs[k].Length(points) > MuchLonger + (goesOn && isGoneOnFrom ? Math.Min(before, after) : Math.Max(before, after));
        }

        var (sections, from) = (new List<Ladder>(), 0);
        for (var k = 0; k <= legs.Count; k++)
        {
            if (k < legs.Count && !IsWay(k)) continue;
            if (k - from >= LadderReading.FewestRungs) sections.Add(k - from == legs.Count ? fill : described(legs.GetRange(from, k - from)));
            from = k + 1;
        }

        return sections.Count == 0 ? [fill] : sections;
    }

    /// <summary>Whether the needle points of a leg, of which there are some within, lie on a line: a row with a step at either end bends.</summary>
    private bool IsStraight(Leg leg) => leg.To - leg.From > 1 && LegReading.MostOffLine(points, leg.From, leg.To) < LeastBend;

    /// <summary>The rows of a fill without ways that lead to the first, or on from the last, in line with them; null where there are none.</summary>
    private List<Leg>? WithoutWays(Ladder fill)
    {
        List<Leg> rows = [.. fill.Legs];
        (rows[0], rows[^1]) = (rows[0] with { From = BeginsAt(rows[0].From, rows[0].To, rows[1].To, rows[2].From) }, rows[^1] with { To = BeginsAt(rows[^1].To, rows[^1].From, rows[^2].From, rows[^3].To) });
        return rows[0] == fill.Legs[0] && rows[^1] == fill.Legs[^1] ? null : rows;
    }

    /// <summary>Where an outermost row begins that a way goes on in line with, from beyond the edge of the two next rows; else its very end.</summary>
    /// <param name="end">The end of the row and way.</param>
    /// <param name="other">The other end of the row.</param>
    /// <param name="next">Where the next row ends at this edge.</param>
    /// <param name="third">Where the one after that begins at it.</param>
    private int BeginsAt(int end, int other, int next, int third)
    {
        var way = (points[other] - points[end]).Unit();
        double Along(int i) => way.Dot(points[i] - points[end]);
        if (Along(next) < BeyondEdge || Math.Abs(Along(next) - Along(third)) > Along(next) / 2) return end;
        var step = Math.Sign(other - end);
        var nearest = end;
        for (var i = end; i != other; i += step)
            if (Math.Abs(Along(i) - Along(next)) < Math.Abs(Along(nearest) - Along(next)))
                nearest = i;
        return Math.Abs(Along(nearest) - Along(next)) <= NearEdge ? nearest : end;
    }
}
