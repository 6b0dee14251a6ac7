using EvenThimble.Core.Geometry;
using EvenThimble.Core.Shapes;
using EvenThimble.Core.Work;

namespace EvenThimble.Core.Digitizing.Satin;

/// <summary>
/// Finds the strokes of an area: spurs of its chordal axis are pruned, junctions that lie in each other are taken as one, and at each junction the straightest pair of arms runs through.
/// Together the strokes' grounds are the whole area.
/// </summary>
internal sealed class StrokeFinder
{
    // Two arms run through a junction when the way turns by no more than this, degrees.
    private const double MostTurn = 50;

    // Up to this turn an arm goes on into another whatever the area does, degrees.
    private const double MostEvenTurn = 22;

    // A stem goes on past such an arm by so many of its widths, and by no more than these, where it would lie on a third arm; its outer edge keeps at least this part of its distance from the middle.
    private const double LeastOnwards = 1.3;
    private const double MostOnwards = 3;
    private const double StillAtEdge = 0.9;

    // It is looked at over so many of its widths before the junction, and is at least this part of the other arm's width.
    private const double Arriving = 2;
    private const double StemToArm = 0.75;

    // Up to this turn a corner is mitred; a sharper one is capped. Degrees.
    private const double MostMitred = 112;

    // So many arms that meet in one place are a star.
    private const int Many = 5;

    // Before a junction the axis veers over this part of the mouth; at least the rest of an arm is left.
    private const double Veering = 0.6;
    private const double MostLeft = 0.35;

    // In a corner an arm goes on beyond the other arm's edge by hardly more than the other's width.
    private const double MostBeyond = 1.45;

    // An arm leaves a stroke on one side when the sine of its angle is more than this.
    private const double Oblique = 0.2;

    // A stroke is straight when its ends lie this part of its length apart; strokes are alike when the longer has at most so many times the length of the other.
    private const double Straight = 0.97;
    private const double MostUnlike = 1.6;

    private readonly ChordalAxis _axis;
    private readonly InnerTriangles _triangles;
    // Where a full bend through a junction would leave the area, flatter ones are tried.
    private static readonly double[] Fullness = [1, 0.75, 0.5, 0.25, 0];

    private readonly Walls _outline;

    private StrokeFinder(ChordalAxis axis, Walls outline) => (_axis, _triangles, _outline) = (axis, axis.Triangles, outline);

    /// <summary>The strokes of one connected area.</summary>
    /// <param name="area">The area.</param>
    /// <param name="outline">Its outlines.</param>
    public static List<Stroke> Find(Area area, Walls outline) => new StrokeFinder(ChordalAxis.Of(area), outline).Assemble();

    private List<Stroke> Assemble()
    {
        var (clusters, arms) = (_axis.Clusters, _axis.Arms);

        // By cluster: which ends of arms come there; an end is 2 x arm, + 1 for its second end.
        var ends = clusters.ConvertAll(_ => new List<int>());
        for (var a = 0; a < arms.Count; a++)
        {
            if (arms[a].From >= 0) ends[arms[a].From].Add(2 * a);
            if (arms[a].To >= 0) ends[arms[a].To].Add((2 * a) + 1);
        }

        var through = new Dictionary<int, int>();
        var owner = new int[clusters.Count];
        var mitres = new Dictionary<int, (int Other, Mitre[] Mitres)>();
        var corners = new List<(int Cluster, Point Pivot)>();
        for (var c = 0; c < clusters.Count; c++)
        {
            WorkBudget.Current.Spend(ends[c].Count);
            if (ends[c].Count == 2 && _axis.TurnOf(ends[c][0], ends[c][1]) > ChordalAxis.SharpBend && _axis.PivotOf(c, ends[c][0], ends[c][1]) is { } pivot) corners.Add((c, pivot));
            else if (ends[c].Count >= Many && ends[c].DistinctBy(e => e / 2).Count() == ends[c].Count) owner[c] = Star(ends[c], mitres);
            else owner[c] = RunThrough(ends[c], through);
        }

        // What a corner is depends on the whole strokes that meet there.
        foreach (var (c, pivot) in corners) owner[c] = Corner(pivot, ends[c], mitres, through);

        var strokeOf = new int[arms.Count];
        Array.Fill(strokeOf, -1);
        var chains = new List<(List<int> Ends, bool Closed)>();
        for (var a = 0; a < arms.Count; a++)
        {
            if (strokeOf[a] >= 0) continue;

            // Back to where the chain begins, then along it; each entry is the end by which an arm is entered.
            var begin = 2 * a;
            while (through.TryGetValue(begin, out var other) && (other ^ 1) != 2 * a) begin = other ^ 1;
            var closed = through.TryGetValue(begin, out var last) && (last ^ 1) == 2 * a && begin != 2 * a;
            closed |= through.TryGetValue(2 * a, out var own) && own == ((2 * a) ^ 1);
            var chain = new List<int>();
            for (var at = closed ? 2 * a : begin; strokeOf[at / 2] < 0;)
            {
                chain.Add(at);
                strokeOf[at / 2] = chains.Count;
                if (!through.TryGetValue(at ^ 1, out at)) break;
            }

            chains.Add((chain, closed));
        }

        // By stroke: the junctions that are its own ground.
        var junctions = chains.ConvertAll(_ => new List<int>());
        for (var c = 0; c < clusters.Count; c++)
            foreach (var stroke in (owner[c] >= 0 ? [owner[c]] : ends[c]).Select(e => strokeOf[e / 2]).Distinct())
                junctions[stroke].Add(c);

        return [.. chains.Select((chain, i) => ToStroke(chain.Ends, chain.Closed, i))];

        HashSet<int> GroundOf(List<int> chain, int number)
        {
            var ground = new HashSet<int>();
            foreach (var entered in chain) ground.UnionWith(arms[entered / 2].Triangles.SelectMany(_axis.Ground));
            foreach (var c in junctions[number]) ground.UnionWith(clusters[c].SelectMany(_axis.Ground));
            WorkBudget.Current.Spend(1 + ground.Count);
            return ground;
        }

        Stroke ToStroke(List<int> chain, bool closed, int number)
        {
            WorkBudget.Current.Spend(4 * chain.Count);
            var ring = closed || (chain.Count == 1 && arms[chain[0] / 2].From == -2);
            var (middle, crossings) = MiddleOf(chain, closed, ends);
            if (ring) return new(middle, true, StrokeEnd.Free, StrokeEnd.Free, crossings);
            var (start, end) = (EndOf(chain[0], atStart: true), EndOf(chain[^1] ^ 1, atStart: false));
            if (start is { IsFree: true, Reach: 0 } && end is { IsFree: true, Reach: 0 } && GroundOf(chain, number) is var ground && StubbyGround.Is(_triangles, middle, ground)) return StubbyGround.Across(_triangles, ground);
            return new(middle, false, start, end, crossings);

            StrokeEnd EndOf(int end, bool atStart)
            {
                var cluster = _axis.ClusterAt(end);
                if (cluster < 0) return StrokeEnd.Free;
                var last = atStart ? middle[0] : middle[^1];
                var reach = _axis.ReachOf(cluster, last, _axis.Direction(end) * -1);
                var ahead = _axis.Direction(end) * (atStart ? 1 : -1);
                var others = ends[cluster].Where(e => e != end).ToList();
                var (opens, mouths) = (Open(ahead, others), others.ConvertAll(_axis.MouthOf));
                if (mitres.TryGetValue(end, out var mitre)) return new(strokeOf[mitre.Other / 2], mitre.Mitres, reach, opens, []);
                var on = strokeOf[owner[cluster] / 2];

                // The taker of a junction ends free, on ground of its own.
                return on == number && owner[cluster] == end ? new(-1, [], reach, opens, mouths) : new(on, [], reach, Sides.Left | Sides.Right, mouths);
            }
        }
    }

    /// <summary>The middle of a chain of arms. Near a junction the axis veers to its middle: the line leaves it before, and goes on straight or in an even bend to the next arm.</summary>
    private (List<Point> Middle, List<Crossing> Crossings) MiddleOf(List<int> chain, bool closed, List<List<int>> ends)
    {
        var (middle, crossings) = (new List<Point>(), new List<Crossing>());
        var length = 0.0;
        for (var i = 0; i < chain.Count; i++)
        {
            var line = LeftAlone(chain[i]);
            if (i > 0) Pass(line, chain[i - 1] ^ 1, chain[i]);
            length += Polylines.Length(line);
            middle.AddRange(line);
        }

        if (closed && middle.Count > 1 && _axis.ClusterAt(chain[0]) >= 0) Pass(LeftAlone(chain[0]), chain[^1] ^ 1, chain[0]);
        return (middle, crossings);

        void Pass(List<Point> next, int arriving, int leaving)
        {
            var others = ends[_axis.ClusterAt(leaving)].Where(e => e != arriving && e != leaving).ToList();
            var bridge = Bridge(middle, next);
            var from = length;
            length += Polylines.Length([middle[^1], .. bridge, next[0]]);
            crossings.Add(new(from, length, others.ConvertAll(_axis.MouthOf)));
            middle.AddRange(bridge);
        }
    }

    /// <summary>On which sides of a direction other arms leave; one that goes nearly the same way opens both.</summary>
    private Sides Open(Point ahead, IEnumerable<int> others)
    {
        var (left, sides) = (ahead.Normal(), Sides.None);
        foreach (var aside in others.Select(e => _axis.Direction(e).Dot(left)))
        {
            if (aside > -Oblique) sides |= Sides.Left;
            if (aside < Oblique) sides |= Sides.Right;
        }

        return sides;
    }

    /// <summary>The middle of an arm in the direction in which it is entered, without what junctions bend.</summary>
    private List<Point> LeftAlone(int entered)
    {
        var line = _axis.MiddleLine(_axis.Arms[entered / 2]);
        if (entered % 2 == 1) line.Reverse();
        var most = Polylines.Length(line) * MostLeft;
        if (_axis.ClusterAt(entered) >= 0) line = Shortened(line, Math.Min(most, Veering * _axis.MouthOf(entered).Length));
        if (_axis.ClusterAt(entered ^ 1) < 0) return line;
        line.Reverse();
        line = Shortened(line, Math.Min(most, Veering * _axis.MouthOf(entered ^ 1).Length));
        line.Reverse();
        return line;
    }

    private static List<Point> Shortened(List<Point> line, double by)
    {
        for (var i = 1; i < line.Count; i++)
        {
            var step = line[i - 1].DistanceTo(line[i]);
            if (step >= by) return [line[i - 1].Toward(line[i], step < 1e-9 ? 0 : by / step), .. line[i..]];
            by -= step;
        }

        return [line[^1]];
    }

    /// <summary>Points of an even bend from the end of one line to the beginning of the next, both left out: as full as the area has room for.</summary>
    private List<Point> Bridge(List<Point> before, List<Point> after)
    {
        var bend = new List<Point>();
        foreach (var full in Fullness)
        {
            bend = [.. Bend(before, after, full)];
            if (StaysInside([before[^1], .. bend, after[0]])) break;
        }

        return bend;
    }

    private bool StaysInside(List<Point> line)
    {
        for (var i = 1; i < line.Count; i++)
        {
            var step = line[i] - line[i - 1];
            if (step.Length > 1e-9 && !(_outline.Leave(line[i - 1], step.Unit()) > step.Length)) return false;
        }

        return true;
    }

    /// <summary>A cubic of Hermite, of which the lines at its ends are tangents, so strong.</summary>
    private static IEnumerable<Point> Bend(List<Point> before, List<Point> after, double full)
    {
        var (a, b) = (before[^1], after[0]);
        var far = a.DistanceTo(b);
        var (u, v) = (Heading(before, -1, far) * (far * full), Heading(after, 1, far) * (far * full));
        const int pieces = 8;
        for (var k = 1; k < pieces && far > 1e-6; k++)
        {
            var t = k / (double)pieces;
            var (t2, t3) = (t * t, t * t * t);
            yield return (a * ((2 * t3) - (3 * t2) + 1)) + (u * (t3 - (2 * t2) + t)) + (b * ((3 * t2) - (2 * t3))) + (v * (t3 - t2));
        }
    }

    /// <summary>The direction in which a line arrives at its end (-1) or leaves its beginning (1), looked at over a way; zero for a line of one point.</summary>
    private static Point Heading(List<Point> line, int way, double look)
    {
        var (i, end) = way > 0 ? (0, line.Count - 1) : (line.Count - 1, 0);
        var from = line[i];
        while (i != end && line[i].DistanceTo(from) < look) i += way;
        return (line[i] - from).Unit() * way;
    }

    /// <summary>
    /// Two arms meet in a corner. Strokes of one sort are mitred where the turn allows; else one runs to the edge and the other tucks under it: the straight one before the bent one,
    /// as a stem before a bowl, and of two such the longer. Its end is returned (-1: both).
    /// </summary>
    private int Corner(Point pivot, List<int> ends, Dictionary<int, (int Other, Mitre[] Mitres)> mitres, Dictionary<int, int> through)
    {
        var (one, two) = (WholeOf(ends[0], through), WholeOf(ends[1], through));

        // One that goes on far beyond the other, as a stem with a foot, is no side of a corner.
        var (onwards, aside) = (Beyond(ends[0], ends[1]), Beyond(ends[1], ends[0]));
        if (Math.Max(onwards, aside) > MostBeyond) return onwards > aside ? ends[0] : ends[1];
        var alike = one.IsStraight == two.IsStraight && Math.Max(one.Length, two.Length) < MostUnlike * Math.Min(one.Length, two.Length);
        if (!alike || _axis.TurnOf(ends[0], ends[1]) > MostMitred || ends[0] / 2 == ends[1] / 2)
            return one.IsStraight != two.IsStraight ? (one.IsStraight ? ends[0] : ends[1]) : one.Length >= two.Length ? ends[0] : ends[1];
        var (a, b) = (_axis.Direction(ends[0]), _axis.Direction(ends[1]));
        var across = (a + b).Unit().Normal();
        if (across.Dot(a) < 0) across *= -1;
        mitres[ends[0]] = (ends[1], [new(pivot, across)]);
        mitres[ends[1]] = (ends[0], [new(pivot, across * -1)]);
        return -1;
    }

    /// <summary>How far the area goes on beyond an arm that ends at another, in widths of the other.</summary>
    private double Beyond(int end, int other) => _axis.ReachOf(_axis.ClusterAt(end), _axis.MouthOf(end).Middle, _axis.Direction(end) * -1) / Math.Max(_axis.MouthOf(other).Length, 1e-6);

    /// <summary>Where many arms meet, as in a star, each is sewn to the middle, cut from its neighbours half way between them.</summary>
    private int Star(List<int> ends, Dictionary<int, (int Other, Mitre[] Mitres)> mitres)
    {
        var around = ends.Select(e => (End: e, Out: _axis.Direction(e))).OrderBy(e => Math.Atan2(e.Out.Y, e.Out.X)).ToList();
        var mouths = ends.ConvertAll(e => _axis.MouthOf(e).Middle);
        var middle = mouths.Aggregate(Point.Zero, (sum, p) => sum + p) / mouths.Count;
        for (var i = 0; i < around.Count; i++)
        {
            var (end, own) = around[i];
            var (before, after) = (around[(i + around.Count - 1) % around.Count], around[(i + 1) % around.Count]);
            mitres[end] = (after.End, [Between(own, before.Out), Between(own, after.Out)]);
        }

        return -1;

        // Of length one across the line half way, to the own side.
        Mitre Between(Point own, Point other) => new(middle, (own - other).Unit() is var aside && aside != Point.Zero ? aside : own);
    }

    /// <summary>Of the whole stroke that begins at the end of an arm: its length (mm), and whether it is straight.</summary>
    private (double Length, bool IsStraight) WholeOf(int end, Dictionary<int, int> through)
    {
        var (length, first, last, at) = (0.0, default(Point?), Point.Zero, end);
        for (var k = 0; k < _axis.Arms.Count; k++)
        {
            WorkBudget.Current.Spend(4);
            var line = LeftAlone(at);
            first ??= line[0];
            length += (k > 0 ? last.DistanceTo(line[0]) : 0) + Polylines.Length(line);
            last = line[^1];
            if (!through.TryGetValue(at ^ 1, out at) || at == end) break;
        }

        return (length, first!.Value.DistanceTo(last) > Straight * length);
    }

    /// <summary>Joins the straightest pair of arms at a junction; returns the end that owns the ground there.</summary>
    private int RunThrough(List<int> ends, Dictionary<int, int> through)
    {
        if (ends.Count == 0) return -1;
        var (best, bestTurn) = ((A: -1, B: -1), MostTurn);
        for (var i = 0; i < ends.Count; i++)
        {
            for (var j = i + 1; j < ends.Count; j++)
            {
                var turn = _axis.TurnOf(ends[i], ends[j]);
                if (turn < bestTurn) (best, bestTurn) = ((ends[i], ends[j]), turn);
            }
        }

        if (best.A < 0) return ends.MaxBy(e => Polylines.Length(_axis.MiddleLine(_axis.Arms[e / 2])));
        if (bestTurn > MostEvenTurn && StemOf(best) is { } stem) return stem;
        (through[best.A], through[best.B]) = (best.B, best.A);
        return best.A;
    }

    /// <summary>Of two arms that would bend into one another, the straight one whose outer edge goes straight on past the other, as a stem's does where an arch leaves it; null where neither does.</summary>
    private int? StemOf((int A, int B) pair)
    {
        var (a, b) = (Onwards(pair.A, pair.B), Onwards(pair.B, pair.A));
        return Math.Max(a, b) < LeastOnwards ? null : a > b ? pair.A : pair.B;
    }

    /// <summary>How far the outer edge of an arm that arrives straight goes straight on, away from another that it meets, in widths; 0 for a bent one, and for one that is thinner than the other.</summary>
    private double Onwards(int end, int other)
    {
        var line = LeftAlone(end);
        var arriving = Shortened([.. line.AsEnumerable().Reverse()], Math.Max(0, Polylines.Length(line) - (Arriving * _axis.MouthOf(end).Length)));
        if (arriving.Count < 2 || arriving[0].DistanceTo(arriving[^1]) <= Straight * Polylines.Length(arriving)) return 0;
        var (from, ahead) = (arriving[^1], (arriving[^1] - arriving[0]).Unit());
        var outer = ahead.Normal() * (_axis.Direction(other).Dot(ahead.Normal()) > 0 ? -1 : 1);
        if (_outline.Leave(from, outer) is not { } half || _outline.Leave(from, ahead) is not { } far || 2 * half < StemToArm * _axis.MouthOf(other).Length || far > MostOnwards * 2 * half) return 0;
        const int steps = 24;
        for (var i = 1; i <= steps; i++)
            if ((_outline.Leave(from + (ahead * (far * i / (steps + 1))), outer) ?? 0) < StillAtEdge * half)
                return far * (i - 1) / steps / (2 * half);
        return far / (2 * half);
    }
}
