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

    // Ways between sections lean by so much of the rows' distance, or more where they touch no row, and, unless outermost, are so much longer than the rows beside them, mm.
    private const double LeansBy = 0.5;
    private const double LeansByItself = 0.75;
    private const double MuchLonger = 2;

    // A row bends, mm, where a step along the edge was taken into it; on either side of the bend needle points lie no farther off than this part of that.
    private const double LeastBend = 0.08;
    private const double ClearBend = 0.5;

    // Of bends that leave hardly more beside their lines than the best, mm, that of the longest row is meant.
    private const double AsStraight = 0.03;

    // A row that lies nearer to the last than this part of what is usual among so many before and after lies upon it.
    private const double Upon = 0.3;
    private const int About = 3;

    // Of a row, a way and another row in line either row is at least so long, mm, and lies level within this part of the rows' distance.
    private const double ShortestRow = 1.0;
    private const double Level = 0.3;

    // Only rows of one direction are looked at for that: they turn by less than this, degrees.
    private const double MostTurn = 15;

    // What is left of it leans by no more than this part of the rows' distance.
    private const double LiesAlong = 0.45;

    // Where more of the rows than this part, and than so many, go on from the end of one the edge is ragged.
    private const double MostGoingOn = 0.25;
    private const int FewGoingOn = 2;
    private const double MostMerged = 0.32;

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
                foreach (var section in Parted(found).SelectMany(WithoutSteps).SelectMany(Sections).SelectMany(WithoutSteps))
                    yield return WithoutWays(section) is { } rows ? Described(rows) : section;
            i = ladder[^1] + 1;
        }
    }

    private Ladder Described(List<Leg> rungs) => new LadderLook(points, rungs).Described([.. rungs.Zip(rungs.Skip(1), (a, b) => Math.Abs(Beside(a, b, false) ?? 0))]);

    /// <summary>A fill, parted where a row lies upon the last one rather than beside it, and where what looks like one row is the last of a section, the way to another one and the first row of that, all nearly in line.</summary>
    private IEnumerable<Ladder> Parted(Ladder fill)
    {
        if (fill.Turn > MostTurn) return [fill];
        var parts = new List<List<Leg>> { new() };
        var asides = fill.Legs.Zip(fill.Legs.Skip(1), (a, b) => Beside(a, b, false) ?? 0).Select((aside, k) => k % 2 == 0 ? aside : -aside).ToList();
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

        return parts.Count == 1 ? [fill] : parts.Where(p => p.Count >= FewestRungs).Select(Described);
    }

    /// <summary>What lies along the rows at the beginning and at the end of a leg that leans against them by more than it does there; null where there is no way between.</summary>
    private (Leg First, Leg Last)? RowsWithin(Leg leg, Point along, double spacing)
    {
        if (Math.Abs(along.Cross(points[leg.To] - points[leg.From])) <= LeansByItself * spacing || LegReading.MostOffLine(points, leg.From, leg.To) < LeastBend) return null;
        var (end, begin) = (leg.From, leg.To);
        while (end < leg.To && Math.Abs(along.Cross(points[end + 1] - points[leg.From])) <= Level * spacing) end++;
        while (begin > leg.From && Math.Abs(along.Cross(points[begin - 1] - points[leg.To])) <= Level * spacing) begin--;
        var (first, last) = (leg with { To = end }, leg with { From = begin });
        return end < begin && Math.Min(Length(first), Length(last)) >= ShortestRow ? (first, last) : null;
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
            rows[k] = (later, earlier) is ({ } l, { } e) ? (Length(l) > Length(e) ? l : e) : later ?? earlier ?? rows[k];
        }

        if (rows.SequenceEqual(fill.Legs)) return [fill];
        var side = Math.Sign(Aside(Along(rows, 0), rows[0], rows[^1]));
        int[] parts = [0, .. Enumerable.Range(1, rows.Count - 1).Where(k => (rows[k - 1].To != fill.Legs[k - 1].To || rows[k].From != fill.Legs[k].From) && side * Aside(Along(rows, k), rows[k - 1], rows[k]) < LeansBy * fill.SpacingMm), rows.Count];
        return parts.Zip(parts.Skip(1), (from, end) => rows.GetRange(from, end - from)).Where(p => p.Count >= FewestRungs).Select(Described);

        double Aside(Point along, Leg from, Leg to) => along.Cross(points[to.From].Toward(points[to.To], 0.5) - points[from.From].Toward(points[from.To], 0.5));
    }

    /// <summary>Whether one of some rows goes on from the end of the one before it, without a step.</summary>
    private static bool GoesOn(List<Leg> rows, int row) => row > 0 && row < rows.Count && rows[row - 1].To == rows[row].From;

    /// <summary>The direction of the rows on either side of one, as if the first of all were sewn along it, of length one.</summary>
    private Point Along(List<Leg> rows, int row)
    {
        const int beside = 3;
        return Enumerable.Range(Math.Max(0, row - beside), Math.Min(rows.Count, row + beside + 1) - Math.Max(0, row - beside)).Where(k => k != row)
            .Aggregate(Point.Zero, (sum, k) => sum + ((points[rows[k].To] - points[rows[k].From]) * (k % 2 == 0 ? 1 : -1))).Unit();
    }

    /// <summary>What lies along the rows of a leg that leans against them and bends clearly, the longest of it; null where it is straight, or leans by less than so many distances of rows.</summary>
    private Leg? WithoutStep(Leg leg, Point along, double spacing, double least, bool atBegin)
    {
        var off = LegReading.MostOffLine(points, leg.From, leg.To);
        if (Lean(leg) <= least * spacing || off < LeastBend) return null;
        var bends = Enumerable.Range(leg.From + 1, leg.To - leg.From - 1)
            .Select(at => (Row: atBegin ? leg with { From = at } : leg with { To = at }, Off: Math.Max(LegReading.MostOffLine(points, leg.From, at), LegReading.MostOffLine(points, at, leg.To))))
            .Where(b => b.Off <= ClearBend * off && Lean(b.Row) <= LiesAlong * spacing).ToList();
        return bends.Count == 0 ? null : bends.Where(b => b.Off <= bends.Min(o => o.Off) + AsStraight).MaxBy(b => b.Row.To - b.Row.From).Row;

        double Lean(Leg of) => Math.Abs(along.Cross(points[of.To] - points[of.From]));
    }

    /// <summary>Whether many rows go on from the end of one, as along a ragged edge.</summary>
    private static bool IsRagged(List<Leg> rows, double most = MostGoingOn) => rows.Zip(rows.Skip(1)).Count(pair => pair.First.To == pair.Second.From) > Math.Max(FewGoingOn, most * rows.Count);

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
