using EvenThimble.Core.Geometry;
using EvenThimble.Core.Work;

namespace EvenThimble.Core.Digitizing.Lines;

/// <summary>
/// A way over lines that meet, as the strokes of a letter do, without a jump: out along each piece and back along it (a walk around a tree of the lines, depth first). What is sewn on the way
/// out lies under what is sewn on the way back, and so does all travel.
/// </summary>
public sealed class LineTour
{
    /// <summary>Lines that come as near as this meet, mm.</summary>
    public const double Meeting = 0.12;

    private readonly List<Point> _nodes = [];
    private readonly List<(int A, int B, List<Point> Line)> _pieces = [];

    private LineTour(IReadOnlyList<IReadOnlyList<Point>> lines, IReadOnlyList<Point> wanted)
    {
        foreach (var line in lines) Divide(line, lines, wanted);
    }

    /// <summary>A piece of the way: points in the direction of sewing, and whether it is the way back.</summary>
    public readonly record struct Leg(List<Point> Line, bool Back);

    /// <summary>
    /// The tours of lines: one for all that hang together, the nearest next. A tour comes back to where it begins; where it is to end elsewhere it first goes there along the lines, and then
    /// around from there.
    /// </summary>
    /// <param name="lines">Open lines of at least two points.</param>
    /// <param name="start">Near where to begin the first; null: at the first line's beginning, or where the last one ends.</param>
    /// <param name="end">Near where to end the last; null: wherever it began.</param>
    public static IReadOnlyList<IReadOnlyList<Leg>> Of(IReadOnlyList<IReadOnlyList<Point>> lines, Point? start, Point? end = null)
    {
        var tour = new LineTour(lines, [.. new[] { start, end }.OfType<Point>()]);
        var (left, tours, needle) = (tour.Together(), new List<IReadOnlyList<Leg>>(), start);
        while (left.Count > 0)
        {
            // What lies nearest to the wanted end comes last.
            var last = end is { } e && left.Count > 1 ? left.MinBy(c => c.Min(n => tour._nodes[n].DistanceTo(e))) : null;
            var next = left.Where(c => c != last).MinBy(c => needle is { } at ? c.Min(n => tour._nodes[n].DistanceTo(at)) : 0)!;
            left.Remove(next);
            var from = needle is { } here ? next.MinBy(n => tour._nodes[n].DistanceTo(here)) : (int?)null;
            var to = left.Count == 0 && end is { } goal ? next.MinBy(n => tour._nodes[n].DistanceTo(goal)) : from ?? next[0];
            var legs = tour.Path(from ?? to, to);
            tour.Walk(to, null, [], legs);
            tours.Add(legs);
            needle = tour._nodes[to];
        }

        return tours;
    }

    /// <summary>The nodes of all that hang together, each group in the order of its lines.</summary>
    private List<List<int>> Together()
    {
        var groups = new List<List<int>>();
        foreach (var (a, b, _) in _pieces)
        {
            var (one, other) = (groups.Find(g => g.Contains(a)), groups.Find(g => g.Contains(b)));
            if (one is null && other is null) groups.Add(a == b ? [a] : [a, b]);
            else if (one is null) other!.Add(a);
            else if (other is null) one.Add(b);
            else if (one != other)
            {
                one.AddRange(other);
                groups.Remove(other);
            }
        }

        return groups;
    }

    /// <summary>The way along the lines from a node to another by the fewest pieces.</summary>
    private List<Leg> Path(int from, int to)
    {
        var (came, queue) = (new Dictionary<int, int> { [from] = -1 }, new Queue<int>([from]));
        while (!came.ContainsKey(to) && queue.TryDequeue(out var node))
        {
            for (var i = 0; i < _pieces.Count; i++)
            {
                var (a, b, _) = _pieces[i];
                if ((a == node || b == node) && came.TryAdd(a == node ? b : a, i)) queue.Enqueue(a == node ? b : a);
            }
        }

        var legs = new List<Leg>();
        for (var node = to; came[node] is >= 0 and var piece; node = _pieces[piece].A == node ? _pieces[piece].B : _pieces[piece].A)
            legs.Insert(0, new([.. From(piece, node).AsEnumerable().Reverse()], Back: false));
        return legs;
    }

    /// <summary>From a node along every piece that is not sewn yet; the one that goes straight on comes last, so that a stroke is covered in one go over what branches off.</summary>
    private void Walk(int first, Point? heading, HashSet<int> sewn, List<Leg> legs)
    {
        // By hand rather than by calls: a scribble has thousands of pieces behind each other.
        var open = new Stack<(int Node, Point? Heading, int Came)>();
        open.Push((first, heading, -1));
        while (open.Count > 0)
        {
            WorkBudget.Current.Spend(8);
            var (node, ahead, came) = open.Peek();
            var next = Next(node, ahead, sewn);
            if (next < 0)
            {
                open.Pop();
                if (came >= 0) legs.Add(new(From(came, node), Back: true));
                continue;
            }

            sewn.Add(next);
            var line = From(next, node);
            legs.Add(new(line, Back: false));
            open.Push((_pieces[next].A == node ? _pieces[next].B : _pieces[next].A, line[^1] - line[^2], next));
        }
    }

    private int Next(int node, Point? heading, HashSet<int> sewn)
    {
        var (best, most) = (-1, double.NegativeInfinity);
        for (var i = 0; i < _pieces.Count; i++)
        {
            if (sewn.Contains(i) || (_pieces[i].A != node && _pieces[i].B != node)) continue;
            var line = From(i, node);
            var turn = heading is { } h ? -h.Unit().Dot((line[1] - line[0]).Unit()) : -i;
            if (turn > most) (best, most) = (i, turn);
        }

        return best;
    }

    private List<Point> From(int piece, int node) => _pieces[piece].A == node ? _pieces[piece].Line : [.. _pieces[piece].Line.AsEnumerable().Reverse()];

    /// <summary>Takes a line apart where others end on it or cross it, and where the tour is to begin or end.</summary>
    private void Divide(IReadOnlyList<Point> line, IReadOnlyList<IReadOnlyList<Point>> lines, IReadOnlyList<Point> wanted)
    {
        var measured = new MeasuredLine([.. line]);
        var cuts = new List<double> { 0, measured.Length };
        cuts.AddRange(wanted.Where(w => lines.MinBy(l => new MeasuredLine([.. l]) is var m ? m.PointAt(m.Nearest(w)).DistanceTo(w) : 0) == line).Select(measured.Nearest));
        foreach (var other in lines)
        {
            if (ReferenceEquals(other, line)) continue;
            foreach (var end in new[] { other[0], other[^1] })
                if (measured.Nearest(end) is var at && measured.PointAt(at).DistanceTo(end) <= Meeting) cuts.Add(at);
            foreach (var crossing in Crossings(line, other)) cuts.Add(measured.Nearest(crossing));
        }

        cuts.Sort();
        var from = 0.0;
        foreach (var cut in cuts.Skip(1))
        {
            // A cut so near to an end is that end.
            var to = measured.Length - cut < Meeting ? measured.Length : cut;
            if (to - from < Meeting && !(to == measured.Length && from == 0)) continue;
            var piece = measured.Between(from, to);
            var (a, b) = (NodeAt(piece[0]), NodeAt(piece[^1]));
            _pieces.Add((a, b, piece));
            from = to;
        }
    }

    private int NodeAt(Point place)
    {
        var known = _nodes.FindIndex(n => n.DistanceTo(place) <= Meeting);
        if (known >= 0) return known;
        _nodes.Add(place);
        return _nodes.Count - 1;
    }

    private static IEnumerable<Point> Crossings(IReadOnlyList<Point> one, IReadOnlyList<Point> other)
    {
        WorkBudget.Current.Spend(one.Count * other.Count / 16);
        for (var i = 1; i < one.Count; i++)
        {
            for (var k = 1; k < other.Count; k++)
            {
                var (along, beside) = (one[i] - one[i - 1], other[k] - other[k - 1]);
                var cross = along.Cross(beside);
                if (Math.Abs(cross) < 1e-12) continue;
                var (t, u) = ((other[k - 1] - one[i - 1]).Cross(beside) / cross, (other[k - 1] - one[i - 1]).Cross(along) / cross);
                if (t is >= 0 and <= 1 && u is >= 0 and <= 1) yield return one[i - 1] + (along * t);
            }
        }
    }
}
