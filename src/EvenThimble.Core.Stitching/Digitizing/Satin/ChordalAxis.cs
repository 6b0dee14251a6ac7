using EvenThimble.Core.Craft;
using EvenThimble.Core.Geometry;
using EvenThimble.Core.Shapes;
using EvenThimble.Core.Work;

namespace EvenThimble.Core.Digitizing.Satin;

/// <summary>A run of triangles between two junctions, or a junction and a free end.</summary>
/// <param name="Triangles">In their order.</param>
/// <param name="From">The cluster at its first end; -1 when that is free, -2 for a ring without a junction.</param>
/// <param name="FromMouth">The triangle of that cluster that it begins at.</param>
/// <param name="To">The cluster at its last end; -1 when that is free.</param>
/// <param name="ToMouth">The triangle of that cluster that it ends at.</param>
internal sealed record Arm(List<int> Triangles, int From, int FromMouth, int To, int ToMouth);

/// <summary>
/// The chordal axis of an area without its spurs, as arms between clusters: junctions that lie in each other are one cluster, and sharp corners of a stroke are clusters too.
/// An end of an arm is named by a number: twice the arm's, and one more for its last end.
/// </summary>
internal sealed class ChordalAxis
{
    /// <summary>Where the way turns about one point by more than this there is a corner, degrees.</summary>
    public const double SharpBend = 50;

    // A branch is a stroke of its own when it reaches farther beyond its mouth than this many mouths; a square corner reaches half a mouth.
    private const double ShortestStroke = 0.95;

    // A branch of more than so many chords tapers if they are at its far end less than this part of what they are near its mouth.
    private const int FewChords = 6;
    private const double Tapering = 0.7;

    // Junctions are one when the centre of the one lies within this part of the other's circle.
    private const double SameJunction = 0.9;

    private readonly InnerTriangles _triangles;
    private readonly bool[] _alive;
    private readonly List<int>?[] _hung;
    private readonly int[] _cluster;
    private readonly Dictionary<int, Point> _pivots = [];
    private readonly Dictionary<int, Point> _directions = [];
    private readonly Lazy<HashSet<Point>> _innerCorners;

    private ChordalAxis(InnerTriangles triangles)
    {
        _triangles = triangles;
        _innerCorners = new(() => triangles.InnerCorners.Select(i => triangles.Points[i]).ToHashSet());
        _alive = new bool[triangles.Count];
        Array.Fill(_alive, true);
        _hung = new List<int>?[triangles.Count];
        _cluster = new int[triangles.Count];
        Array.Fill(_cluster, -1);
        while (Prune())
        {
        }

        Clusters = Cluster();
        Bends(Clusters);
        Clusters = Merged(Clusters);
        Arms = FindArms(Clusters);
    }

    public InnerTriangles Triangles => _triangles;

    /// <summary>By number: the triangles of a junction or corner.</summary>
    public List<List<int>> Clusters { get; private init; }

    public List<Arm> Arms { get; }

    /// <summary>The axis of one connected area.</summary>
    public static ChordalAxis Of(Area area) => new(InnerTriangles.Of(area));

    /// <summary>A triangle with the spurs that hung on it.</summary>
    public IEnumerable<int> Ground(int triangle) => _hung[triangle] is { } hung ? hung.Prepend(triangle) : [triangle];

    /// <summary>Middles of the chords that an arm crosses, from mouth to mouth.</summary>
    public List<Point> MiddleLine(Arm arm)
    {
        WorkBudget.Current.Spend(1 + (arm.Triangles.Count / 2));
        var line = new List<Point>();
        if (arm.FromMouth >= 0) line.Add(MiddleOf(arm.Triangles[0], arm.FromMouth));
        for (var i = 1; i < arm.Triangles.Count; i++) line.Add(MiddleOf(arm.Triangles[i - 1], arm.Triangles[i]));
        if (arm.ToMouth >= 0) line.Add(MiddleOf(arm.Triangles[^1], arm.ToMouth));
        if (line.Count == 0) line.Add(_triangles.Centre(arm.Triangles[0]));

        // One point has no direction: such an arm is a stub between its mouth and the farthest corner beyond.
        if (line.Count == 1 && arm.FromMouth >= 0) line.Add(line[0].Toward(Farthest(line[0], arm), 0.7));
        return line;
    }

    private Point Farthest(Point from, Arm arm) => arm.Triangles.SelectMany(Ground).SelectMany(_triangles.Corners).MaxBy(from.DistanceTo);

    /// <summary>By how much the way turns from one arm into another, degrees.</summary>
    public double TurnOf(int end, int other) => Math.Acos(Math.Clamp(-Direction(end).Dot(Direction(other)), -1, 1)) * 180 / Math.PI;

    /// <summary>The direction in which an arm leaves its junction, looked at over about its own width.</summary>
    public Point Direction(int end)
    {
        if (!_directions.TryGetValue(end, out var direction)) _directions[end] = direction = FindDirection(end);
        return direction;
    }

    private Point FindDirection(int end)
    {
        var line = MiddleLine(Arms[end / 2]);
        if (end % 2 == 1) line.Reverse();
        var mouth = MouthOf(end);
        var look = Math.Max(mouth.Length, 0.6);
        var walked = 0.0;
        for (var i = 1; i < line.Count; i++)
        {
            walked += line[i].DistanceTo(line[i - 1]);
            if (walked >= look) return (line[i] - line[0]).Unit();
        }

        return line.Count > 1 ? (line[^1] - line[0]).Unit() : (line[0] - mouth.Middle).Unit();
    }

    /// <summary>The cluster at an end of an arm; below 0 at a free end.</summary>
    public int ClusterAt(int end) => end % 2 == 0 ? Arms[end / 2].From : Arms[end / 2].To;

    /// <summary>The chord by which an arm leaves its junction.</summary>
    public Mouth MouthOf(int end)
    {
        var (arm, first) = (Arms[end / 2], end % 2 == 0);
        var (inside, junction) = first ? (arm.Triangles[0], arm.FromMouth) : (arm.Triangles[^1], arm.ToMouth);
        var (a, b) = _triangles.EdgeTo(inside, junction);
        return (_triangles.Centre(inside) - _triangles.Centre(junction)).Cross(b - a) > 0 ? new(a, b) : new(b, a);
    }

    /// <summary>
    /// The corner that two arms turn about in a cluster, on the inner side of the turn; null where the outline turns into the area on the outer side too, as where the other arms of
    /// a cross were pruned.
    /// </summary>
    public Point? PivotOf(int number, int end, int other)
    {
        if (_pivots.TryGetValue(number, out var pivot)) return pivot;
        var corners = Clusters[number].SelectMany(_triangles.Corners).ToHashSet();
        var centre = corners.Aggregate(Point.Zero, (sum, p) => sum + p) / corners.Count;
        var inward = (Direction(end) + Direction(other)).Unit();
        var turning = corners.Where(_innerCorners.Value.Contains).ToLookup(p => (p - centre).Dot(inward) > 0);
        WorkBudget.Current.Spend(corners.Count);
        return turning[false].Any() ? null : turning[true].Select(p => (Point?)p).MinBy(p => p!.Value.DistanceTo(centre));
    }

    /// <summary>How far a cluster, with what hangs on it, reaches from a place in a direction, mm.</summary>
    public double ReachOf(int number, Point from, Point direction) =>
        Clusters[number].SelectMany(Ground).SelectMany(_triangles.Corners).Max(p => (p - from).Dot(direction));

    private IEnumerable<int> Next(int triangle)
    {
        for (var e = 0; e < 3; e++)
            if (_triangles.Beyond(triangle, e) is >= 0 and var n && _alive[n])
                yield return n;
    }

    private int Degree(int triangle)
    {
        var degree = 0;
        for (var e = 0; e < 3; e++)
            if (_triangles.Beyond(triangle, e) is >= 0 and var n && _alive[n])
                degree++;
        return degree;
    }

    /// <summary>The triangle that comes after one that was entered from another and has no more neighbours than those; below 0: there is none.</summary>
    private int After(int triangle, int before)
    {
        for (var e = 0; e < 3; e++)
            if (_triangles.Beyond(triangle, e) is >= 0 and var n && n != before && _alive[n])
                return n;
        return -1;
    }

    /// <summary>Takes away all spurs that are seen now; false when there is none.</summary>
    private bool Prune()
    {
        var spurs = new Dictionary<int, List<List<int>>>();
        WorkBudget.Current.Spend(_triangles.Count);
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
            var next = After(at, before);
            if (next < 0) return (branch, -1);
            if (degrees[next] >= 3) return (branch, next);
            branch.Add(next);
            (before, at) = (at, next);
        }
    }

    /// <summary>
    /// Whether a branch is only a corner: it reaches no farther than its mouth is wide, which at an oblique junction says little; one that does not taper, like a foot, is measured by its own width.
    /// </summary>
    private bool IsSpur(List<int> branch, int junction)
    {
        var (a, b) = _triangles.EdgeTo(branch[^1], junction);
        var (mouth, width) = (a.Toward(b, 0.5), a.DistanceTo(b));
        var reach = branch.SelectMany(Ground).SelectMany(_triangles.Corners).Max(p => p.DistanceTo(mouth));
        if (branch.Count > FewChords)
        {
            var (far, half, near) = (ChordAt(branch, 0.25), ChordAt(branch, 0.5), ChordAt(branch, 0.75));
            if (far > Tapering * near && half < width) width = half;
        }

        return reach < Math.Max(ShortestStroke * width, Limits.NarrowestSatin / 2);
    }

    private double ChordAt(List<int> branch, double part)
    {
        var i = (int)(part * (branch.Count - 1));
        var (a, b) = _triangles.EdgeTo(branch[i], branch[i + 1]);
        return a.DistanceTo(b);
    }

    /// <summary>Junctions that lie within each other's circle, with the way between them; each triangle of a cluster is marked with its number.</summary>
    private List<List<int>> Cluster()
    {
        var junctions = Enumerable.Range(0, _triangles.Count).Where(t => _alive[t] && Degree(t) >= 3).ToList();
        var isJunction = junctions.ToHashSet();
        var clusters = new List<List<int>>();
        foreach (var seed in junctions)
        {
            if (_cluster[seed] >= 0) continue;
            var (centre, radius) = (_triangles.Centre(seed), _triangles.Radius(seed));
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
                    if (way.Count > 0 && (length > 2 * reach || _triangles.Centre(end).DistanceTo(centre) > SameJunction * reach)) continue;
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
            WorkBudget.Current.Spend(4);
            var fan = _triangles.Around(pivot).Where(t => _alive[t]).ToList();
            if (fan.Count == 0 || fan.Exists(t => _cluster[t] >= 0 || Degree(t) != 2) || BendAbout(fan) < SharpBend) continue;
            foreach (var t in fan) _cluster[t] = clusters.Count;
            _pivots[clusters.Count] = _triangles.Points[pivot];
            clusters.Add(fan);
        }
    }

    /// <summary>Clusters that touch are one: no arm could lead from one to the other.</summary>
    private List<List<int>> Merged(List<List<int>> clusters)
    {
        var into = Enumerable.Range(0, clusters.Count).ToArray();
        foreach (var t in clusters.SelectMany(c => c))
            foreach (var n in Next(t))
                if (_cluster[n] >= 0 && Root(_cluster[n]) != Root(_cluster[t]))
                    into[Math.Max(Root(_cluster[n]), Root(_cluster[t]))] = Math.Min(Root(_cluster[n]), Root(_cluster[t]));
        var roots = Enumerable.Range(0, clusters.Count).Where(c => into[c] == c).ToList();
        if (roots.Count == clusters.Count) return clusters;
        var byRoot = Enumerable.Range(0, clusters.Count).ToLookup(Root);
        var merged = roots.ConvertAll(r => byRoot[r].SelectMany(c => clusters[c]).ToList());
        var pivots = roots.Select((r, i) => (r, i)).Where(r => _pivots.ContainsKey(r.r) && merged[r.i].Count == clusters[r.r].Count).ToDictionary(r => r.i, r => _pivots[r.r]);
        _pivots.Clear();
        foreach (var (c, pivot) in pivots) _pivots[c] = pivot;
        for (var c = 0; c < merged.Count; c++)
            foreach (var t in merged[c])
                _cluster[t] = c;
        return merged;

        int Root(int c)
        {
            while (into[c] != c) c = into[c] = into[into[c]];
            return c;
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
                var next = After(at, before);
                place = MiddleOf(at, next);
                (before, at) = (at, next);
            }

            directions.Add(place.DistanceTo(mouth) > 0.5 * look ? (place - mouth).Unit() : (_triangles.Centre(at) - mouth).Unit());
        }

        return directions.Count != 2 ? 0 : Math.Acos(Math.Clamp(-directions[0].Dot(directions[1]), -1, 1)) * 180 / Math.PI;
    }

    private (List<int> Way, int End, double Length) ToNextJunction(int from, int first)
    {
        var (way, before, at, length) = (new List<int>(), from, first, 0.0);
        while (Degree(at) < 3)
        {
            WorkBudget.Current.Spend();
            way.Add(at);
            var next = After(at, before);
            if (next < 0 || way.Count > _triangles.Count) return (way, -1, length);
            length += MiddleOf(before, at).DistanceTo(MiddleOf(at, next));
            (before, at) = (at, next);
        }

        return (way, at, length);
    }

    private Point MiddleOf(int triangle, int neighbour)
    {
        var (a, b) = _triangles.EdgeTo(triangle, neighbour);
        return a.Toward(b, 0.5);
    }

    /// <summary>The runs of triangles between clusters, free ends and, in rings, themselves.</summary>
    private List<Arm> FindArms(List<List<int>> clusters)
    {
        var arms = new List<Arm>();
        var taken = new bool[_triangles.Count];
        Arm Walk(int from, int first)
        {
            WorkBudget.Current.Spend(2);
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
}
