using EvenThimble.Core.Geometry;

namespace EvenThimble.Core.Shapes;

/// <summary>
/// Outlines cut wherever they cross or touch, for what they enclose together. After Weiler, "Polygon comparison using a graph representation", SIGGRAPH 1980. All lies on a grid on which it is exact
/// what meets; crossings are rounded to it, and where lines cross anew for that they are cut again.
/// </summary>
internal sealed class OutlineNetwork
{
    // After so many rounds lines that cross anew are cut no more.
    private const int MostRounds = 8;

    private List<(GridPoint A, GridPoint B)> _lines = [];

    // Of each line the places within it where others meet it.
    private List<GridPoint>?[] _cuts;

    /// <summary>Finds where outlines meet.</summary>
    /// <param name="rings">The outlines, closed by themselves: three or more points, none like the next.</param>
    /// <param name="mostCounted">Of more crossings than so many no more are counted, and nothing is told of what they enclose.</param>
    public OutlineNetwork(IEnumerable<GridPoint[]> rings, int mostCounted)
    {
        var next = new List<int>();
        foreach (var ring in rings)
        {
            var first = _lines.Count;
            for (var i = 0; i < ring.Length; i++)
            {
                _lines.Add((ring[i], ring[(i + 1) % ring.Length]));
                next.Add(first + ((i + 1) % ring.Length));
            }
        }

        (_cuts, Crossings, Meets) = Crossed(_lines, (i, j) => next[i] == j || next[j] == i, mostCounted);
    }

    /// <summary>How often lines cross.</summary>
    public int Crossings { get; }

    /// <summary>Whether an outline crosses or touches another, or itself.</summary>
    public bool Meets { get; }

    /// <summary>The rings about what the outlines enclose, the inside on the same side of each; they touch at single places at most. Null where lines so nearly meet that the grid cannot tell them apart.</summary>
    /// <param name="rule">What counts as inside.</param>
    public List<GridPoint[]>? Rings(Inside rule)
    {
        for (var round = 0; Array.Exists(_cuts, c => c is not null); round++)
        {
            if (round == MostRounds) return null;
            _lines = Pieces();
            (_cuts, _, _) = Crossed(_lines, (_, _) => false, int.MaxValue);
        }

        return new OutlineChains(_lines).Rings(rule);
    }

    /// <summary>The lines, each from cut to cut.</summary>
    private List<(GridPoint A, GridPoint B)> Pieces()
    {
        var pieces = new List<(GridPoint A, GridPoint B)>(_lines.Count * 2);
        for (var i = 0; i < _lines.Count; i++)
        {
            var (from, to) = _lines[i];
            foreach (var cut in (_cuts[i] ?? []).OrderBy(c => c.SquaredTo(from)).Append(to))
            {
                if (cut == from) continue;
                pieces.Add((from, cut));
                from = cut;
            }
        }

        return pieces;
    }

    private static (List<GridPoint>?[] Cuts, int Crossings, bool Meets) Crossed(List<(GridPoint A, GridPoint B)> lines, Func<int, int, bool> areNext, int mostCounted)
    {
        var (cuts, crossings, meets) = (new List<GridPoint>?[lines.Count], 0, false);
        foreach (var (i, j) in AreaOfOutlines.NearPairs([.. lines.Select(l => (l.A.Mm, l.B.Mm))], 0))
        {
            var ((a, b), (c, d)) = (lines[i], lines[j]);
            var (sideC, sideD) = (c.SideOf(a, b), d.SideOf(a, b));
            if (sideC * sideD > 0) continue;
            var (sideA, sideB) = (a.SideOf(c, d), b.SideOf(c, d));
            if (sideA * sideB > 0) continue;
            if (sideA * sideB * sideC * sideD > 0)
            {
                meets = true;
                if (++crossings > mostCounted) break;
                var crossing = Crossing(a, b, c, d);
                Cut(i, crossing);
                Cut(j, crossing);
                continue;
            }

            // One end or more lies on the other line; that a line begins where the one before it ends is no meeting.
            if (sideC == 0 && c.IsBetween(a, b)) Cut(i, c);
            if (sideD == 0 && d.IsBetween(a, b)) Cut(i, d);
            if (sideA == 0 && a.IsBetween(c, d)) Cut(j, a);
            if (sideB == 0 && b.IsBetween(c, d)) Cut(j, b);
            meets |= (a == c || a == d || b == c || b == d) && !areNext(i, j);
        }

        return (cuts, crossings, meets);

        void Cut(int line, GridPoint at)
        {
            if (at == lines[line].A || at == lines[line].B) return;
            (cuts[line] ??= []).Add(at);
            meets = true;
        }
    }

    /// <summary>Where lines cross, rounded.</summary>
    private static GridPoint Crossing(GridPoint a, GridPoint b, GridPoint c, GridPoint d)
    {
        var (along, other, apart) = (new Point(b.X - a.X, b.Y - a.Y), new Point(d.X - c.X, d.Y - c.Y), new Point(c.X - a.X, c.Y - a.Y));
        var part = apart.Cross(other) / along.Cross(other);
        return new(a.X + (long)Math.Round(part * along.X), a.Y + (long)Math.Round(part * along.Y));
    }
}
