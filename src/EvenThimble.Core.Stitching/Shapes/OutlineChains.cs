using EvenThimble.Core.Work;

namespace EvenThimble.Core.Shapes;

/// <summary>
/// Lines that meet at their ends alone, strung together from one place where others than two meet to the next: all along such a chain the same lies on either side of it. How often the outlines go round
/// a place tells which chains part inside from outside. Left is where it would be if y went up.
/// </summary>
internal sealed class OutlineChains
{
    // So many lines are looked at in the time of one step of work.
    private const int LinesOfOne = 64;

    private readonly List<GridPoint> _places = [];

    // Of lines that lie upon each other there is one; times is how many more of them go that way than back.
    private readonly List<(int From, int To, int Times)> _lines = [];

    // Of each place the lines that end there.
    private readonly List<List<int>> _at = [];

    /// <summary>Takes lines, each in the direction of its outline.</summary>
    public OutlineChains(IEnumerable<(GridPoint A, GridPoint B)> lines)
    {
        var (numbers, known) = (new Dictionary<GridPoint, int>(), new Dictionary<(int, int), int>());
        var all = new List<(int From, int To, int Times)>();
        foreach (var (a, b) in lines)
        {
            var (from, to) = (Number(a), Number(b));
            var isBack = from > to;
            if (isBack) (from, to) = (to, from);
            if (known.TryAdd((from, to), all.Count)) all.Add((from, to, 0));
            var same = known[(from, to)];
            all[same] = all[same] with { Times = all[same].Times + (isBack ? -1 : 1) };
        }

        // What is gone along as often there as back parts nothing.
        foreach (var line in all.Where(l => l.Times != 0))
        {
            _at[line.From].Add(_lines.Count);
            _at[line.To].Add(_lines.Count);
            _lines.Add(line);
        }

        int Number(GridPoint place)
        {
            if (numbers.TryAdd(place, _places.Count))
            {
                _places.Add(place);
                _at.Add([]);
            }

            return numbers[place];
        }
    }

    /// <summary>The rings that part inside from outside, with the inside on their left: rings about areas turn left, rings about holes in them right. They touch at single places at most.</summary>
    /// <param name="rule">What counts as inside.</param>
    public List<GridPoint[]> Rings(Inside rule)
    {
        var edges = Chains().Select(c => Edge(c, rule)).OfType<List<int>>().ToList();
        var leaving = edges.ToLookup(e => e[0]);
        var (rings, walked) = (new List<GridPoint[]>(), new HashSet<List<int>>());
        foreach (var first in edges)
        {
            var ring = new List<int>();

            // On along the edge that bounds the same ground: the first to the left.
            for (var edge = first; walked.Add(edge); edge = leaving[edge[^1]].MinBy(e => Turn(edge[^2], edge[^1], e[1]))!) ring.AddRange(edge.SkipLast(1));
            rings.AddRange(Loops(ring).Select(l => l.ConvertAll(p => _places[p]).ToArray()));
        }

        return rings;
    }

    private IEnumerable<List<int>> Chains()
    {
        var strung = new bool[_lines.Count];

        // Those from one such place to another, then those that close in themselves.
        foreach (var place in Enumerable.Range(0, _places.Count).OrderBy(p => _at[p].Count == 2))
            foreach (var line in _at[place])
                if (!strung[line])
                    yield return Strung(place, line);

        List<int> Strung(int place, int line)
        {
            var chain = new List<int> { place };
            while (!strung[line])
            {
                strung[line] = true;
                place = _lines[line].From == place ? _lines[line].To : _lines[line].From;
                chain.Add(place);
                if (_at[place].Count == 2) line = _at[place][0] == line ? _at[place][1] : _at[place][0];
            }

            return chain;
        }
    }

    /// <summary>A chain with the inside on its left; null where both sides are inside or outside.</summary>
    private List<int>? Edge(List<int> chain, Inside rule)
    {
        // Told beside its longest line.
        var at = Enumerable.Range(1, chain.Count - 1).MaxBy(i => _places[chain[i]].SquaredTo(_places[chain[i - 1]]));
        var (left, right) = Around(chain[at - 1], chain[at]);
        if (IsInside(left) == IsInside(right)) return null;
        if (IsInside(right)) chain.Reverse();
        return chain;

        bool IsInside(int times) => rule == Inside.OddCrossings ? times % 2 != 0 : times != 0;
    }

    /// <summary>How often outlines go round the places on the left and on the right of the middle of a line.</summary>
    private (int Left, int Right) Around(int a, int b)
    {
        // In halves of the grid, for the middle. A ray goes from it to the right, or down where the line is flat; the place where it begins lies beside the line.
        var (middle, isFlat) = (new GridPoint(_places[a].X + _places[b].X, _places[a].Y + _places[b].Y), Math.Abs(_places[b].X - _places[a].X) > Math.Abs(_places[b].Y - _places[a].Y));
        var (around, own) = (0, 0);
        WorkBudget.Current.Spend(_lines.Count / LinesOfOne);
        foreach (var (from, to, times) in _lines)
        {
            if ((from == a && to == b) || (from == b && to == a))
            {
                own = from == a ? times : -times;
                continue;
            }

            var (p, q) = (_places[from].Doubled(), _places[to].Doubled());
            if (isFlat ? p.X > middle.X == q.X > middle.X : p.Y > middle.Y == q.Y > middle.Y) continue;
            if (middle.SideOf(p, q) > 0 == TurnsLeft(p, q)) around += TurnsLeft(p, q) ? times : -times;
        }

        return TurnsLeft(_places[a], _places[b]) ? (around + own, around) : (around, around - own);

        // Whether what crosses the ray goes round its beginning to the left.
        bool TurnsLeft(GridPoint from, GridPoint to) => isFlat ? to.X < from.X : to.Y > from.Y;
    }

    /// <summary>How far one turns right at a place from the way back to the way on.</summary>
    private double Turn(int before, int at, int after)
    {
        var turn = Angle(before) - Angle(after);
        return turn > 0 ? turn : turn + (2 * Math.PI);

        double Angle(int to) => Math.Atan2(_places[to].Y - _places[at].Y, _places[to].X - _places[at].X);
    }

    /// <summary>A ring that comes to a place again as rings that do not.</summary>
    private static IEnumerable<List<int>> Loops(List<int> ring)
    {
        var (loop, known) = (new List<int>(), new Dictionary<int, int>());
        foreach (var place in ring)
        {
            if (known.TryGetValue(place, out var since))
            {
                var closed = loop.GetRange(since, loop.Count - since);
                loop.RemoveRange(since, closed.Count);
                closed.ForEach(p => known.Remove(p));
                yield return closed;
            }

            known[place] = loop.Count;
            loop.Add(place);
        }

        if (loop.Count > 0) yield return loop;
    }
}
