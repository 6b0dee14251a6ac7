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

    private LineTour(IReadOnlyList<IReadOnlyList<Point>> lines)
    {
        foreach (var line in lines) Divide(line, lines);
    }

    /// <summary>A piece of the way: points in the direction of sewing, and whether it is the way back.</summary>
    public readonly record struct Leg(List<Point> Line, bool Back);

    /// <summary>The tours of lines: one for all that hang together, in the order of the lines; each begins at an end of a line, the one nearest to a wanted start, and comes back to it.</summary>
    /// <param name="lines">Open lines of at least two points.</param>
    /// <param name="start">Where to begin; null: at the first line's beginning.</param>
    public static IReadOnlyList<IReadOnlyList<Leg>> Of(IReadOnlyList<IReadOnlyList<Point>> lines, Point? start)
    {
        var tour = new LineTour(lines);
        var (tours, sewn, needle) = (new List<IReadOnlyList<Leg>>(), new HashSet<int>(), start);
        while (sewn.Count < tour._pieces.Count)
        {
            var from = Enumerable.Range(0, tour._pieces.Count).Where(p => !sewn.Contains(p)).SelectMany(p => new[] { tour._pieces[p].A, tour._pieces[p].B });
            var node = needle is { } at ? from.MinBy(n => tour._nodes[n].DistanceTo(at)) : from.First();
            var legs = new List<Leg>();
            tour.Walk(node, null, sewn, legs);
            tours.Add(legs);
            needle = tour._nodes[node];
        }

        return tours;
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

    /// <summary>Takes a line apart where others end on it or cross it.</summary>
    private void Divide(IReadOnlyList<Point> line, IReadOnlyList<IReadOnlyList<Point>> lines)
    {
        var measured = new MeasuredLine([.. line]);
        var cuts = new List<double> { 0, measured.Length };
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
