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
    internal const int FewestRungs = 3;
    private const int FewestWideRungs = 5;

    /// <summary>The ladders between two needle points, in their order; they share no leg.</summary>
    public IEnumerable<Ladder> Find(int from, int to)
    {
        var (legs, sections) = (new LegReading(points).Find(from, to), new FillSections(points, Described));
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
                foreach (var section in sections.Of(found))
                    yield return section;
            i = ladder[^1] + 1;
        }
    }

    private Ladder Described(List<Leg> rungs) => new LadderLook(points, rungs).Described([.. rungs.Zip(rungs.Skip(1), (a, b) => Math.Abs(Beside(a, b, false) ?? 0))]);

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
                var length = legs[candidate].Length(points);

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
