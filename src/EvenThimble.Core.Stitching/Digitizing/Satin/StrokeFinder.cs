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
    private const double MostTurn = 60;

    // Up to this turn a corner is mitred; a sharper one is capped. Degrees.
    private const double MostMitred = 112;

    // A middle whose square is less than this part of the area tells no direction, nor does that of an area as round as this: it is thrown across its longer side.
    private const double Stubby = 0.3;
    private const double RoundArea = 0.96;
    private const double RoundSides = 1.4;

    // It is thrown along its longer side only if that makes throws more square by so many degrees.
    private const double MuchMoreSquare = 8;

    private readonly ChordalAxis _axis;
    private readonly InnerTriangles _triangles;

    private StrokeFinder(ChordalAxis axis) => (_axis, _triangles) = (axis, axis.Triangles);

    /// <summary>The strokes of one connected area.</summary>
    public static List<Stroke> Find(Area area) => new StrokeFinder(ChordalAxis.Of(area)).Assemble();

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
        var mitres = new Dictionary<int, (int Other, Mitre Mitre)>();
        for (var c = 0; c < clusters.Count; c++)
        {
            if (ends[c].Count == 2 && _axis.PivotOf(c) is { } pivot && _axis.TurnOf(ends[c][0], ends[c][1]) > ChordalAxis.SharpBend) owner[c] = Corner(pivot, ends[c], mitres);
            else owner[c] = RunThrough(ends[c], through);
        }

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

        return [.. chains.Select((chain, i) => ToStroke(chain.Ends, chain.Closed, i))];

        Stroke ToStroke(List<int> chain, bool closed, int number)
        {
            var ground = new HashSet<int>();
            var middle = new List<Point>();
            foreach (var entered in chain)
            {
                var arm = arms[entered / 2];
                ground.UnionWith(arm.Triangles.SelectMany(_axis.Ground));
                var points = _axis.MiddleLine(arm);
                middle.AddRange(entered % 2 == 0 ? points : points.AsEnumerable().Reverse());
            }

            for (var c = 0; c < clusters.Count; c++)
                if (owner[c] >= 0 ? strokeOf[owner[c] / 2] == number : ends[c].Exists(e => strokeOf[e / 2] == number))
                    ground.UnionWith(clusters[c].SelectMany(_axis.Ground));
            var ring = closed || (chain.Count == 1 && arms[chain[0] / 2].From == -2);
            var (start, end) = (EndOf(chain[0]), EndOf(chain[^1] ^ 1));
            if (!ring && start.IsFree && end.IsFree && IsStubby(middle, ground)) return Across(ground);
            var beyond = ground;
            if (!ring && !(start.IsFree && end.IsFree))
            {
                beyond = [.. ground];
                foreach (var c in chain.SelectMany(e => new[] { arms[e / 2].From, arms[e / 2].To }).Where(c => c >= 0)) beyond.UnionWith(clusters[c].SelectMany(_axis.Ground));
            }

            var walls = Walls(ground);
            return new(middle, ring, ring ? StrokeEnd.Free : start, ring ? StrokeEnd.Free : end, walls, ReferenceEquals(beyond, ground) ? walls : Walls(beyond));

            StrokeEnd EndOf(int end)
            {
                var cluster = end % 2 == 0 ? arms[end / 2].From : arms[end / 2].To;
                if (cluster < 0) return StrokeEnd.Free;
                if (mitres.TryGetValue(end, out var mitre)) return new(strokeOf[mitre.Other / 2], mitre.Mitre);
                var on = strokeOf[owner[cluster] / 2];

                // The taker of a junction ends free, on ground of its own.
                return on == number && owner[cluster] == end ? StrokeEnd.Free : new(on);
            }
        }
    }

    /// <summary>Two arms meet in a corner: mitred where the turn allows; else the longer takes the ground, and its end is returned (-1: both).</summary>
    private int Corner(Point pivot, List<int> ends, Dictionary<int, (int Other, Mitre Mitre)> mitres)
    {
        var (a, b) = (_axis.Direction(ends[0]), _axis.Direction(ends[1]));
        if (_axis.TurnOf(ends[0], ends[1]) > MostMitred || ends[0] / 2 == ends[1] / 2) return ends.MaxBy(e => Polylines.Length(_axis.MiddleLine(_axis.Arms[e / 2])));
        var across = (a + b).Unit().Normal();
        if (across.Dot(a) < 0) across *= -1;
        mitres[ends[0]] = (ends[1], new(pivot, across));
        mitres[ends[1]] = (ends[0], new(pivot, across * -1));
        return -1;
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
        (through[best.A], through[best.B]) = (best.B, best.A);
        return best.A;
    }

    private bool IsStubby(List<Point> middle, HashSet<int> ground)
    {
        var (length, area) = (Polylines.Length(middle), ground.Sum(AreaOf));
        if (length * length < Stubby * area) return true;
        var hull = HullOf(ground);
        if (area < RoundArea * hull.SquareMm) return false;
        var (side, other) = hull.Sides();
        return Math.Max(side.Length, other.Length) < RoundSides * Math.Min(side.Length, other.Length);
    }

    private double AreaOf(int t) => Math.Abs((_triangles.Corner(t, 1) - _triangles.Corner(t, 0)).Cross(_triangles.Corner(t, 2) - _triangles.Corner(t, 0))) / 2;

    private Hull HullOf(HashSet<int> ground) => new(ground.SelectMany(_triangles.Corners).Distinct());

    /// <summary>A ground without a direction of its own, thrown across the longer side of its smallest rectangle.</summary>
    private Stroke Across(HashSet<int> ground)
    {
        var centre = Point.Zero;
        double area = 0;
        foreach (var t in ground)
        {
            var part = AreaOf(t);
            (centre, area) = (centre + (_triangles.Centre(t) * part), area + part);
        }

        centre /= area;
        var (side, other) = HullOf(ground).Sides();
        var walls = Walls(ground);
        var found = new Walls(walls);
        var (longer, shorter) = side.Length >= other.Length * 0.98 ? (side.Unit(), other.Unit()) : (other.Unit(), side.Unit());
        var along = FromSquare(found, centre, longer) > FromSquare(found, centre, shorter) + MuchMoreSquare ? shorter : longer;
        return new([centre - (along * 0.05), centre + (along * 0.05)], false, StrokeEnd.Free, StrokeEnd.Free, walls, walls);
    }

    /// <summary>By how many degrees throws across an axis would be off square to the edges at their ends, on average.</summary>
    private static double FromSquare(Walls walls, Point centre, Point along)
    {
        var across = along.Normal();
        if (walls.Hit(centre, along) is not { } ahead || walls.Hit(centre, along * -1) is not { } behind) return 90;
        double sum = 0;
        const int samples = 16;
        for (var i = 0; i < samples; i++)
        {
            var at = centre + (along * (-behind + ((ahead + behind) * (i + 0.5) / samples)));
            if (walls.Meet(at, across) is not { } left || walls.Meet(at, across * -1) is not { } right) return 90;
            var direction = (left.Along * Math.Sign(left.Along.Dot(along))) + (right.Along * Math.Sign(right.Along.Dot(along)));
            sum += Math.Acos(Math.Clamp(direction.Unit().Dot(along), -1, 1)) * 180 / Math.PI;
        }

        return sum / samples;
    }

    private List<(Point A, Point B)> Walls(HashSet<int> ground)
    {
        WorkBudget.Current.Spend(ground.Count);
        var walls = new List<(Point, Point)>();
        foreach (var t in ground.Order())
            for (var e = 0; e < 3; e++)
                if (_triangles.Beyond(t, e) is var n && (n < 0 || !ground.Contains(n)))
                    walls.Add((_triangles.Corner(t, e), _triangles.Corner(t, (e + 1) % 3)));
        return walls;
    }
}
