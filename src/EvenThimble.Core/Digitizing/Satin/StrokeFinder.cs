using EvenThimble.Core.Geometry;
using NetTopologySuite.Geometries;
using Point = EvenThimble.Core.Geometry.Point;

namespace EvenThimble.Core.Digitizing.Satin;

/// <summary>How one end of a stroke meets the rest of its area.</summary>
/// <param name="Other">The stroke that it meets; -1 when there is none.</param>
/// <param name="Mitre">The line at which both are cut, where they meet in a corner; null where it ends on the other's ground.</param>
internal readonly record struct StrokeEnd(int Other, Mitre? Mitre = null)
{
    public static readonly StrokeEnd Free = new(-1);

    public bool IsFree => Other < 0;
}

/// <summary>The cut of a corner: a place on it, and the direction of length one that points to the stroke's own side.</summary>
internal readonly record struct Mitre(Point At, Point Own);

/// <summary>A stroke of an area.</summary>
/// <param name="Middle">Its rough middle from end to end.</param>
/// <param name="Closed">Whether it is a ring.</param>
/// <param name="Start">How its first end meets others.</param>
/// <param name="End">How its last end meets others.</param>
/// <param name="Walls">Around the ground that is its own.</param>
/// <param name="Beyond">Around its own ground and that of the junctions it ends in, for throws that overlap others there.</param>
internal sealed record Stroke(List<Point> Middle, bool Closed, StrokeEnd Start, StrokeEnd End, List<(Point A, Point B)> Walls, List<(Point A, Point B)> Beyond);

/// <summary>
/// Finds the strokes of an area: spurs of its chordal axis are pruned, junctions that lie in each other are taken as one, and at each junction the straightest pair of arms runs through.
/// Together the strokes' grounds are the whole area.
/// </summary>
internal sealed class StrokeFinder
{
    // A branch is a stroke of its own when it reaches farther beyond its mouth than this many mouths; a square corner reaches half a mouth.
    private const double ShortestStroke = 1.0;

    // Two arms run through a junction when the way turns by no more than this, degrees.
    private const double MostTurn = 60;

    // Where the way turns about one point by more than this there is a corner; up to the other it is mitred, a sharper one is capped. Degrees.
    private const double SharpBend = 50;
    private const double MostMitred = 112;

    // Junctions are one when the centre of the one lies within this part of the other's circle.
    private const double SameJunction = 0.9;

    // A middle whose square is less than this part of the area tells no direction, nor does that of an area as round as this: it is thrown across its longer side.
    private const double Stubby = 0.3;
    private const double RoundArea = 0.96;
    private const double RoundSides = 1.4;

    // It is thrown along its longer side only if that makes throws more square by so many degrees.
    private const double MuchMoreSquare = 8;

    private readonly InnerTriangles _triangles;
    private readonly bool[] _alive;
    private readonly List<int>?[] _hung;
    private readonly int[] _cluster;
    private readonly Dictionary<int, Point> _pivots = [];

    private sealed record Arm(List<int> Triangles, int From, int FromMouth, int To, int ToMouth);

    private StrokeFinder(InnerTriangles triangles)
    {
        _triangles = triangles;
        _alive = new bool[triangles.Count];
        Array.Fill(_alive, true);
        _hung = new List<int>?[triangles.Count];
        _cluster = new int[triangles.Count];
        Array.Fill(_cluster, -1);
    }

    /// <summary>The strokes of one connected area.</summary>
    public static List<Stroke> Find(Polygon area) => new StrokeFinder(InnerTriangles.Of(area)).Find();

    private List<Stroke> Find()
    {
        while (Prune())
        {
        }

        var clusters = Cluster();
        Bends(clusters);
        var arms = Arms(clusters);
        return Assemble(clusters, arms);
    }

    private IEnumerable<int> Next(int triangle)
    {
        for (var e = 0; e < 3; e++)
            if (_triangles.Beyond(triangle, e) is >= 0 and var n && _alive[n])
                yield return n;
    }

    private int Degree(int triangle) => Next(triangle).Count();

    /// <summary>Takes away all spurs that are seen now; false when there is none.</summary>
    private bool Prune()
    {
        var spurs = new Dictionary<int, List<List<int>>>();
        var degrees = new int[_triangles.Count];
        for (var t = 0; t < degrees.Length; t++) degrees[t] = _alive[t] ? Degree(t) : 0;
        for (var t = 0; t < degrees.Length; t++)
        {
            if (!_alive[t] || degrees[t] != 1) continue;
            var (branch, junction) = ToJunction(t, degrees);
            if (junction < 0 || !IsSpur(branch, junction)) continue;
            if (!spurs.TryGetValue(junction, out var there)) spurs[junction] = there = [];
            there.Add(branch);
        }

        foreach (var (junction, branches) in spurs)
        {
            foreach (var t in branches.SelectMany(b => b))
            {
                _alive[t] = false;
                (_hung[junction] ??= []).Add(t);
                if (_hung[t] is { } more) _hung[junction]!.AddRange(more);
            }
        }

        return spurs.Count > 0;
    }

    private (List<int> Branch, int Junction) ToJunction(int leaf, int[] degrees)
    {
        var branch = new List<int> { leaf };
        var (before, at) = (-1, leaf);
        while (true)
        {
            var next = -1;
            foreach (var n in Next(at))
                if (n != before)
                    next = n;
            if (next < 0) return (branch, -1);
            if (degrees[next] >= 3) return (branch, next);
            branch.Add(next);
            (before, at) = (at, next);
        }
    }

    private bool IsSpur(List<int> branch, int junction)
    {
        var (a, b) = _triangles.EdgeTo(branch[^1], junction);
        var (mouth, width) = (a.Toward(b, 0.5), a.DistanceTo(b));
        var reach = branch.SelectMany(Ground).SelectMany(Corners).Max(p => p.DistanceTo(mouth));
        return reach < Math.Max(ShortestStroke * width, Craft.NarrowestSatin / 2);
    }

    private IEnumerable<int> Ground(int triangle) => _hung[triangle] is { } hung ? hung.Prepend(triangle) : [triangle];

    private Point[] Corners(int t) => [_triangles.Corner(t, 0), _triangles.Corner(t, 1), _triangles.Corner(t, 2)];

    /// <summary>Junctions that lie within each other's circle, with the way between them; each triangle of a cluster is marked with its number.</summary>
    private List<List<int>> Cluster()
    {
        var junctions = Enumerable.Range(0, _triangles.Count).Where(t => _alive[t] && Degree(t) >= 3).ToList();
        var isJunction = junctions.ToHashSet();
        var clusters = new List<List<int>>();
        foreach (var seed in junctions)
        {
            if (_cluster[seed] >= 0) continue;
            var (centre, radius) = (Centre(seed), _triangles.Radius(seed));
            var cluster = new List<int> { seed };
            _cluster[seed] = clusters.Count;
            for (var k = 0; k < cluster.Count; k++)
            {
                if (!isJunction.Contains(cluster[k])) continue;
                foreach (var n in Next(cluster[k]).ToList())
                {
                    if (_cluster[n] >= 0) continue;
                    var (way, end, length) = ToNextJunction(cluster[k], n);
                    if (end < 0 || end == cluster[k] || (_cluster[end] >= 0 && _cluster[end] != clusters.Count)) continue;
                    var reach = Math.Max(radius, _triangles.Radius(end));
                    if (way.Count > 0 && (length > 2 * reach || Centre(end).DistanceTo(centre) > SameJunction * reach)) continue;
                    foreach (var t in way.Append(end).Where(t => _cluster[t] < 0))
                    {
                        _cluster[t] = clusters.Count;
                        cluster.Add(t);
                    }
                }
            }

            clusters.Add(cluster);
        }

        return clusters;
    }

    /// <summary>Corners of a stroke: where it turns sharply about a corner of its inner edge, the triangles there are a cluster too, in which two strokes meet.</summary>
    private void Bends(List<List<int>> clusters)
    {
        foreach (var pivot in _triangles.InnerCorners)
        {
            var fan = _triangles.Around(pivot).Where(t => _alive[t]).ToList();
            if (fan.Count == 0 || fan.Exists(t => _cluster[t] >= 0 || Degree(t) != 2) || BendAbout(fan) < SharpBend) continue;
            foreach (var t in fan) _cluster[t] = clusters.Count;
            _pivots[clusters.Count] = _triangles.Points[pivot];
            clusters.Add(fan);
        }
    }

    /// <summary>By how much the way turns from before a run of triangles to behind it, looked at over about its width; degrees.</summary>
    private double BendAbout(List<int> fan)
    {
        var inFan = fan.ToHashSet();
        var directions = new List<Point>();
        foreach (var (t, outside) in fan.SelectMany(t => Next(t).Where(n => !inFan.Contains(n)).Select(n => (t, n))))
        {
            var (a, b) = _triangles.EdgeTo(t, outside);
            var (mouth, look) = (a.Toward(b, 0.5), Math.Max(a.DistanceTo(b), 0.6));
            var (before, at, place) = (t, outside, mouth);
            while (place.DistanceTo(mouth) < look && Degree(at) == 2 && !inFan.Contains(at))
            {
                var next = Next(at).First(n => n != before);
                place = MiddleOf(at, next);
                (before, at) = (at, next);
            }

            directions.Add(place.DistanceTo(mouth) > 0.5 * look ? (place - mouth).Unit() : (Centre(at) - mouth).Unit());
        }

        return directions.Count != 2 ? 0 : Math.Acos(Math.Clamp(-directions[0].Dot(directions[1]), -1, 1)) * 180 / Math.PI;
    }

    private Point Centre(int t) => (_triangles.Corner(t, 0) + _triangles.Corner(t, 1) + _triangles.Corner(t, 2)) / 3;

    private (List<int> Way, int End, double Length) ToNextJunction(int from, int first)
    {
        var (way, before, at, length) = (new List<int>(), from, first, 0.0);
        while (Degree(at) < 3)
        {
            way.Add(at);
            var next = Next(at).Where(n => n != before).Select(n => (int?)n).FirstOrDefault();
            if (next is not { } n || way.Count > _triangles.Count) return (way, -1, length);
            length += MiddleOf(before, at).DistanceTo(MiddleOf(at, n));
            (before, at) = (at, n);
        }

        return (way, at, length);
    }

    private Point MiddleOf(int triangle, int neighbour)
    {
        var (a, b) = _triangles.EdgeTo(triangle, neighbour);
        return a.Toward(b, 0.5);
    }

    /// <summary>The runs of triangles between clusters, free ends and, in rings, themselves.</summary>
    private List<Arm> Arms(List<List<int>> clusters)
    {
        var arms = new List<Arm>();
        var taken = new bool[_triangles.Count];
        Arm Walk(int from, int first)
        {
            var (before, at, run) = (from, first, new List<int>());
            while (true)
            {
                taken[at] = true;
                run.Add(at);
                var next = -1;
                foreach (var n in Next(at))
                    if (n != before && (!taken[n] || _cluster[n] >= 0))
                        next = n;

                // From the first triangle of an arm back into the cluster that it came from is no way on.
                if (next < 0) return new(run, from < 0 ? -1 : _cluster[from], from, -1, -1);
                if (_cluster[next] >= 0) return new(run, from < 0 ? -1 : _cluster[from], from, _cluster[next], next);
                (before, at) = (at, next);
            }
        }

        foreach (var junction in clusters.SelectMany(c => c))
            foreach (var n in Next(junction).ToList())
                if (_cluster[n] < 0 && !taken[n])
                    arms.Add(Walk(junction, n));
        for (var t = 0; t < _triangles.Count; t++)
            if (_alive[t] && !taken[t] && _cluster[t] < 0 && Degree(t) <= 1)
                arms.Add(Walk(-1, t));
        for (var t = 0; t < _triangles.Count; t++)
            if (_alive[t] && !taken[t] && _cluster[t] < 0)
                arms.Add(Walk(-1, t) with { From = -2 }); // a ring without a junction
        return arms;
    }

    private List<Stroke> Assemble(List<List<int>> clusters, List<Arm> arms)
    {
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
            if (ends[c].Count == 2 && PivotOf(c, clusters[c]) is { } pivot && TurnOf(ends[c][0], ends[c][1], arms) > SharpBend) owner[c] = Corner(pivot, ends[c], arms, mitres);
            else owner[c] = RunThrough(ends[c], arms, through);
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
                ground.UnionWith(arm.Triangles.SelectMany(Ground));
                var points = MiddleLine(arm);
                middle.AddRange(entered % 2 == 0 ? points : points.AsEnumerable().Reverse());
            }

            for (var c = 0; c < clusters.Count; c++)
                if (owner[c] >= 0 ? strokeOf[owner[c] / 2] == number : ends[c].Exists(e => strokeOf[e / 2] == number))
                    ground.UnionWith(clusters[c].SelectMany(Ground));
            var ring = closed || (chain.Count == 1 && arms[chain[0] / 2].From == -2);
            var (start, end) = (EndOf(chain[0]), EndOf(chain[^1] ^ 1));
            if (!ring && start.IsFree && end.IsFree && IsStubby(middle, ground)) return Across(ground);
            var beyond = ground;
            if (!ring && !(start.IsFree && end.IsFree))
            {
                beyond = [.. ground];
                foreach (var c in chain.SelectMany(e => new[] { arms[e / 2].From, arms[e / 2].To }).Where(c => c >= 0)) beyond.UnionWith(clusters[c].SelectMany(Ground));
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
    private int Corner(Point pivot, List<int> ends, List<Arm> arms, Dictionary<int, (int Other, Mitre Mitre)> mitres)
    {
        var (a, b) = (Direction(ends[0], arms), Direction(ends[1], arms));
        if (TurnOf(ends[0], ends[1], arms) > MostMitred || ends[0] / 2 == ends[1] / 2) return ends.MaxBy(e => Polylines.Length(MiddleLine(arms[e / 2])));
        var across = (a + b).Unit().Normal();
        if (across.Dot(a) < 0) across *= -1;
        mitres[ends[0]] = (ends[1], new(pivot, across));
        mitres[ends[1]] = (ends[0], new(pivot, across * -1));
        return -1;
    }

    /// <summary>Joins the straightest pair of arms at a junction; returns the end that owns the ground there.</summary>
    private int RunThrough(List<int> ends, List<Arm> arms, Dictionary<int, int> through)
    {
        if (ends.Count == 0) return -1;
        var (best, bestTurn) = ((A: -1, B: -1), MostTurn);
        for (var i = 0; i < ends.Count; i++)
        {
            for (var j = i + 1; j < ends.Count; j++)
            {
                var turn = TurnOf(ends[i], ends[j], arms);
                if (turn < bestTurn) (best, bestTurn) = ((ends[i], ends[j]), turn);
            }
        }

        if (best.A < 0) return ends.MaxBy(e => Polylines.Length(MiddleLine(arms[e / 2])));
        (through[best.A], through[best.B]) = (best.B, best.A);
        return best.A;
    }

    /// <summary>By how much the way turns from one arm into another, degrees.</summary>
    private double TurnOf(int end, int other, List<Arm> arms) => Math.Acos(Math.Clamp(-Direction(end, arms).Dot(Direction(other, arms)), -1, 1)) * 180 / Math.PI;

    /// <summary>The corner of the inner edge that a cluster turns about, if there is one.</summary>
    private Point? PivotOf(int number, List<int> cluster)
    {
        if (_pivots.TryGetValue(number, out var pivot)) return pivot;
        var corners = cluster.SelectMany(Corners).ToHashSet();
        return _triangles.InnerCorners.Select(i => (Point?)_triangles.Points[i]).FirstOrDefault(p => corners.Contains(p!.Value));
    }

    /// <summary>The direction in which an arm leaves its junction, looked at over about its own width.</summary>
    private Point Direction(int end, List<Arm> arms)
    {
        var arm = arms[end / 2];
        var line = MiddleLine(arm);
        if (end % 2 == 1) line.Reverse();
        var (a, b) = end % 2 == 0 ? _triangles.EdgeTo(arm.Triangles[0], arm.FromMouth) : _triangles.EdgeTo(arm.Triangles[^1], arm.ToMouth);
        var look = Math.Max(a.DistanceTo(b), 0.6);
        var walked = 0.0;
        for (var i = 1; i < line.Count; i++)
        {
            walked += line[i].DistanceTo(line[i - 1]);
            if (walked >= look) return (line[i] - line[0]).Unit();
        }

        return line.Count > 1 ? (line[^1] - line[0]).Unit() : (line[0] - a.Toward(b, 0.5)).Unit();
    }

    /// <summary>Middles of the chords that an arm crosses, from mouth to mouth.</summary>
    private List<Point> MiddleLine(Arm arm)
    {
        var line = new List<Point>();
        if (arm.FromMouth >= 0) line.Add(MiddleOf(arm.Triangles[0], arm.FromMouth));
        for (var i = 1; i < arm.Triangles.Count; i++) line.Add(MiddleOf(arm.Triangles[i - 1], arm.Triangles[i]));
        if (arm.ToMouth >= 0) line.Add(MiddleOf(arm.Triangles[^1], arm.ToMouth));
        if (line.Count == 0) line.Add(Centre(arm.Triangles[0]));
        return line;
    }

    private bool IsStubby(List<Point> middle, HashSet<int> ground)
    {
        var (length, area) = (Polylines.Length(middle), ground.Sum(AreaOf));
        if (length * length < Stubby * area) return true;
        var hull = Hull(ground);
        if (area < RoundArea * hull.Area) return false;
        var (side, other) = Sides(hull);
        return Math.Max(side.Length, other.Length) < RoundSides * Math.Min(side.Length, other.Length);
    }

    private double AreaOf(int t) => Math.Abs((_triangles.Corner(t, 1) - _triangles.Corner(t, 0)).Cross(_triangles.Corner(t, 2) - _triangles.Corner(t, 0))) / 2;

    private NetTopologySuite.Geometries.Geometry Hull(HashSet<int> ground) =>
        new MultiPoint([.. ground.SelectMany(Corners).Distinct().Select(p => new NetTopologySuite.Geometries.Point(p.X, p.Y))]).ConvexHull();

    /// <summary>Two sides of the smallest rectangle about an area.</summary>
    private static (Point Side, Point Other) Sides(NetTopologySuite.Geometries.Geometry area)
    {
        var r = NetTopologySuite.Algorithm.MinimumDiameter.GetMinimumRectangle(area).Coordinates;
        return r.Length < 4 ? (new(1, 0), new(0, 1)) : (new(r[1].X - r[0].X, r[1].Y - r[0].Y), new(r[2].X - r[1].X, r[2].Y - r[1].Y));
    }

    /// <summary>A ground without a direction of its own, thrown across the longer side of its smallest rectangle.</summary>
    private Stroke Across(HashSet<int> ground)
    {
        var centre = Point.Zero;
        double area = 0;
        foreach (var t in ground)
        {
            var part = AreaOf(t);
            (centre, area) = (centre + (Centre(t) * part), area + part);
        }

        centre /= area;
        var (side, other) = Sides(Hull(ground));
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
        var walls = new List<(Point, Point)>();
        foreach (var t in ground.Order())
            for (var e = 0; e < 3; e++)
                if (_triangles.Beyond(t, e) is var n && (n < 0 || !ground.Contains(n)))
                    walls.Add((_triangles.Corner(t, e), _triangles.Corner(t, (e + 1) % 3)));
        return walls;
    }
}
