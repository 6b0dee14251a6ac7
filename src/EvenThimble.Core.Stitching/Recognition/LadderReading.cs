using EvenThimble.Core.Geometry;

namespace EvenThimble.Core.Recognition;

/// <summary>Legs that go back and forth beside each other, always farther to one side: throws or rows.</summary>
/// <param name="Kind">Satin or fill.</param>
/// <param name="Legs">In the order they are sewn.</param>
/// <param name="Stepped">Whether most are joined by small stitches along the edge.</param>
/// <param name="SpacingMm">Usual distance of rows, or of needle points on one side of a satin, mm.</param>
/// <param name="StitchLength">Usual stitch within a leg, mm; 0 where there is none.</param>
/// <param name="Confidence">How sure that is, 0 to 1.</param>
internal sealed record Ladder(PassageKind Kind, List<Leg> Legs, bool Stepped, double SpacingMm, double StitchLength, double Confidence)
{
    /// <summary>How far its direction turns over it, degrees.</summary>
    public double Turn { get; init; }

    /// <summary>The place that its legs run out from and back to, where there is one.</summary>
    public Point? Hub { get; init; }

    /// <summary>Whether each leg is drawn, as a ray of a star or a sun, or a stitch that lies half over the one before: as many are sewn at any size.</summary>
    public bool IsDrawn { get; init; }
}

/// <summary>Finds throws of satin, rows of fill and wide underlay in a thread: legs that go to and fro beside each other are taken together as ladders.</summary>
/// <param name="points">The needle points of the thread.</param>
internal sealed class LadderReading(Point[] points)
{
    private const double Back = -0.15;
    private const double WidestSpacing = 3.8;
    private const double LeastOverlap = 0.4;
    private const double LeastLengthRatio = 0.2;
    private const double AlwaysAlike = 1.5;
    private const double LongestStep = 14;
    private const double StepOfRow = 0.6;
    private const double LongerStep = 0.5;
    private const double LeastSpacing = 0.07;
    private const double WrongWay = 0.12;

    // Rows come no nearer to each other than this part of what is usual, or than by so much less, mm.
    private const double NearestRow = 0.55;
    private const double MuchNearer = 0.2;
    private const int FewestRungs = 3;
    private const int FewestWideRungs = 5;

    // Ways between sections lean by so much of the rows' distance, and, unless outermost, are so much longer than the rows beside them, mm.
    private const double LeansBy = 0.5;
    private const double MuchLonger = 2;

    // A row bends, mm, where a step along the edge was taken into it; on either side of the bend needle points lie no farther off than this part of that.
    private const double LeastBend = 0.08;
    private const double ClearBend = 0.5;

    // Only rows of one direction are looked at for that: they turn by less than this, degrees.
    private const double MostTurn = 15;

    // What is left of it leans by no more than this part of the rows' distance.
    private const double LiesAlong = 0.45;

    // Where more of the rows than this go on from the end of one the edge is ragged.
    private const double MostGoingOn = 0.25;

    // An outermost row that reaches so far beyond the edge of the next ones begins where a needle point lies so near to that edge, mm.
    private const double BeyondEdge = 2;
    private const double NearEdge = 1;

    /// <summary>The ladders between two needle points, in their order; they share no leg.</summary>
    public IEnumerable<Ladder> Find(int from, int to)
    {
        var legs = new LegReading(points).Find(from, to);
        for (var i = 0; i < legs.Count;)
        {
            var ladder = Climb(legs, i);
            if (ladder.Count > 0 && i + 1 < legs.Count && Climb(legs, i + 1) is { Count: > 0 } later && later.Count > ladder.Count + 1) ladder = [];
            if (ladder.Count == 0)
            {
                i++;
                continue;
            }

            var found = Described(ladder.ConvertAll(l => legs[l]));
            if (found is not { Kind: PassageKind.Fill, Stepped: true }) yield return found;
            else
                foreach (var section in WithoutSteps(found).SelectMany(Sections).SelectMany(WithoutSteps))
                    yield return WithoutWays(section) is { } rows ? Described(rows) : section;
            i = ladder[^1] + 1;
        }
    }

    private Ladder Described(List<Leg> rungs) => new LadderLook(points, rungs).Described([.. rungs.Zip(rungs.Skip(1), (a, b) => Math.Abs(Beside(a, b, false) ?? 0))]);

    /// <summary>
    /// A fill whose rows begin and end at their own needle points: where an edge slants along the rows a step along it can be as long as a row, and be taken for the begin or the end of one. What
    /// goes on from one row and into the next is a way. If instead of a step it was a way back to where another section begins, the fill is parted there.
    /// </summary>
    private IEnumerable<Ladder> WithoutSteps(Ladder fill)
    {
        if (fill.Turn > MostTurn || IsRagged(fill.Legs)) return [fill];
        var (rows, parts) = (new List<Leg>(fill.Legs), new List<int> { 0 });
        for (var k = 1; k < rows.Count; k++)
        {
            if (!Touch(k)) continue;
            var along = Along(rows, k);
            if (!Touch(k + 1) && WithoutStep(rows[k], along, fill.SpacingMm, atBegin: true) is { } later) rows[k] = later;
            else if (!Touch(k - 1) && WithoutStep(rows[k - 1], along, fill.SpacingMm, atBegin: false) is { } earlier) rows[k - 1] = earlier;
            else continue;
            if (Aside(fill.Legs[0], fill.Legs[^1]) * Aside(rows[k - 1], rows[k]) < 0) parts.Add(k);
        }

        if (rows.SequenceEqual(fill.Legs)) return [fill];
        return parts.Zip(parts.Skip(1).Append(rows.Count), (from, end) => rows.GetRange(from, end - from)).Where(p => p.Count >= FewestRungs).Select(Described);

        bool Touch(int k) => k > 0 && k < rows.Count && rows[k - 1].To == rows[k].From;
        double Aside(Leg from, Leg to) => Along(rows, 1).Cross(points[to.From].Toward(points[to.To], 0.5) - points[from.From].Toward(points[from.To], 0.5));
    }

    /// <summary>The direction of the rows on either side of two that follow each other, of length one.</summary>
    private Point Along(List<Leg> rows, int second)
    {
        var sum = Point.Zero;
        for (var k = Math.Max(0, second - 3); k < Math.Min(rows.Count, second + 3); k++)
            if (k != second && k != second - 1) sum += (points[rows[k].To] - points[rows[k].From]) * ((k - second) % 2 == 0 ? 1 : -1);
        return sum.Unit();
    }

    /// <summary>What lies along the rows of a leg that leans against them and bends clearly, the longest of it; null where it is straight.</summary>
    private Leg? WithoutStep(Leg leg, Point along, double spacing, bool atBegin)
    {
        var off = LegReading.MostOffLine(points, leg.From, leg.To);
        if (Lean(leg) <= LeansBy * spacing || off < LeastBend) return null;
        foreach (var i in Enumerable.Range(1, leg.To - leg.From - 1))
        {
            var bend = atBegin ? leg.From + i : leg.To - i;
            var row = atBegin ? leg with { From = bend } : leg with { To = bend };
            if (Lean(row) <= LiesAlong * spacing && Math.Max(LegReading.MostOffLine(points, leg.From, bend), LegReading.MostOffLine(points, bend, leg.To)) <= ClearBend * off) return row;
        }

        return null;

        double Lean(Leg of) => Math.Abs(along.Cross(points[of.To] - points[of.From]));
    }

    /// <summary>Whether many rows go on from the end of one, as along a ragged edge.</summary>
    private static bool IsRagged(List<Leg> rows) => rows.Zip(rows.Skip(1)).Count(pair => pair.First.To == pair.Second.From) > MostGoingOn * rows.Count;

    /// <summary>
    /// The sections of a fill, or all of it. A way from one to the next lies beside rows as another row would, but leans, goes on from the end of one without a step, and is outermost or much longer.
    /// </summary>
    private List<Ladder> Sections(Ladder fill)
    {
        var legs = fill.Legs;
        if (IsRagged(legs)) return [fill];
        var along = legs.Select((l, k) => (points[l.To] - points[l.From]) * (k % 2 == 0 ? 1 : -1)).Aggregate(Point.Zero, (sum, way) => sum + way).Unit();
        bool IsWay(int k)
        {
            if (Math.Abs(along.Cross(points[legs[k].To] - points[legs[k].From])) <= LeansBy * fill.SpacingMm) return false;
            var (goesOn, isGoneOnFrom) = (k > 0 && legs[k - 1].To == legs[k].From, k < legs.Count - 1 && legs[k].To == legs[k + 1].From);
            if (!goesOn && !isGoneOnFrom) return false;
            if (k == 0 || k == legs.Count - 1) return true;
            var (before, after) = (Length(legs[k - 1]), Length(legs[k + 1]));
            return Length(legs[k]) > MuchLonger + (goesOn && isGoneOnFrom ? Math.Min(before, after) : Math.Max(before, after));
        }

        var (sections, from) = (new List<Ladder>(), 0);
        for (var k = 0; k <= legs.Count; k++)
        {
            if (k < legs.Count && !IsWay(k)) continue;
            if (k - from >= FewestRungs) sections.Add(k - from == legs.Count ? fill : Described(legs.GetRange(from, k - from)));
            from = k + 1;
        }

        return sections.Count == 0 ? [fill] : sections;
    }

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

    private double Length(Leg leg) => points[leg.From].DistanceTo(points[leg.To]);

    /// <summary>The legs of the ladder that begins at a leg, or none.</summary>
    private List<int> Climb(List<Leg> legs, int at)
    {
        var rungs = new List<int> { at };
        var (side, usual, total, steps) = (0, 0.0, 0.0, 0);
        while (true)
        {
            var (next, longest, chosen, between) = (-1, 0.0, 0.0, 0.0);
            for (var step = 1; step <= 3 && rungs[^1] + step < legs.Count; step++)
            {
                var candidate = rungs[^1] + step;
                var length = Length(legs[candidate]);

                // What lies between two rows is a step along the edge; of a step and a row that both go back the row is meant.
                if (between <= Math.Min(LongestStep, StepOfRow * length) && length > longest && Beside(legs[rungs[^1]], legs[candidate], step > 1) is { } aside)
                {
                    // Seen along the way of a leg the next lies to one side, seen along the way of that one to the other.
                    var spacing = rungs.Count % 2 == 1 ? aside : -aside;

                    // Rows do not come nearer to each other than they are wont to: what does is the way back over the last one.
                    var least = rungs.Count > 3 && steps * 5 > rungs.Count * 3 ? Math.Min(NearestRow * usual, usual - MuchNearer) : -WrongWay;
                    if (side == 0 || (spacing * side >= least && Math.Abs(spacing) <= (2.8 * usual) + 0.1)) (next, longest, chosen) = (candidate, length / LongerStep, spacing);
                }

                between += length;
            }

            if (next < 0) break;
            if (side == 0 || rungs.Count < 4) side = Math.Sign(chosen + (side * 0.01));
            total += Math.Abs(chosen);
            if (next > rungs[^1] + 1) steps++;
            rungs.Add(next);
            usual = total / (rungs.Count - 1);
        }

        var few = usual > LadderLook.WideSpacing / 2 ? FewestWideRungs : FewestRungs;
        return rungs.Count >= few && usual >= LeastSpacing ? rungs : [];
    }

    /// <summary>How far to the side the second of two legs lies that go back and forth beside each other, mm, with a sign; null when they do not.</summary>
    private double? Beside(Leg a, Leg b, bool stepped)
    {
        var (va, vb) = (points[a.To] - points[a.From], points[b.To] - points[b.From]);
        var (la, lb) = (va.Length, vb.Length);
        if (va.Dot(vb) > Back * la * lb) return null;
        var (shorter, longer) = (Math.Min(la, lb), Math.Max(la, lb));
        if (shorter < LeastLengthRatio * longer && longer - shorter > AlwaysAlike) return null;
        var along = (va.Unit() - vb.Unit()).Unit();
        var (middleA, middleB) = (points[a.From].Toward(points[a.To], 0.5), points[b.From].Toward(points[b.To], 0.5));
        var spacing = along.Cross(middleB - middleA);

        if (Math.Abs(spacing) > WidestSpacing) return null;
        var (a0, a1, b0, b1) = (along.Dot(points[a.From]), along.Dot(points[a.To]), along.Dot(points[b.To]), along.Dot(points[b.From]));
        if (Math.Min(a1, b1) - Math.Max(a0, b0) < LeastOverlap * shorter) return null;
        if (stepped)
        {
            var step = points[a.To].DistanceTo(points[b.From]);
            if (step > LongestStep || step > Math.Max(Math.Max(1.0, 0.8 * shorter), (3 * Math.Abs(spacing)) + 0.3)) return null;
        }

        return spacing;
    }
}
