using EvenThimble.Core.Geometry;
using EvenThimble.Core.Shapes;
using EvenThimble.Core.Work;

namespace EvenThimble.Core.Digitizing.Fill;

/// <summary>
/// An area cut by fine rows of one direction into sections that are monotone across them (a trapezoidal decomposition as of Chazelle and Incerpi 1984, on a raster of rows),
/// and ways through them that do not leave the area. All places here are turned so that rows lie across.
/// </summary>
internal sealed class RowSections
{
    /// <summary>Fine rows for each row that is sewn; thin places are connected by the fine ones.</summary>
    public const int Fine = 5;

    /// <summary>How far ways keep off the edge where there is room, mm.</summary>
    public const double WayMargin = 0.5;

    // So often the doors on a way are moved to where it is shorter.
    private const int TautRounds = 4;

    private readonly double _angle;
    private readonly double _top;
    private readonly double _pitch;

    /// <summary>Cuts an area for rows at an angle (degrees clockwise from across), about a spacing (mm) apart.</summary>
    public RowSections(Area area, double angle, double spacing)
    {
        _angle = angle;
        var rings = area.Rings.Select(r => r.Select(p => p.Turned(-angle, Point.Zero)).ToArray()).ToList();
        var box = Box.Around(rings[0]);
        var rows = Math.Max(1, (int)Math.Round((box.Height / spacing) + 0.25));
        (_top, _pitch) = (box.MinY, box.Height / (rows * Fine));
        Rows = rows;
        var spans = SpansOf(rings, rows * Fine);
        (Sections, var sectionOf) = Cut(spans);
        Connect(rings, spans, sectionOf);
    }

    /// <summary>Number of rows that are sewn.</summary>
    public int Rows { get; }

    public List<RowSection> Sections { get; }

    public double Y(int fineRow) => _top + ((fineRow + 0.5) * _pitch);

    /// <summary>The fine row that is sewn as a row.</summary>
    public static int RowOf(int row) => (row * Fine) + (Fine / 2);

    /// <summary>Between rows, mm.</summary>
    public double SpacingMm => _pitch * Fine;

    public Point Turned(Point place) => place.Turned(-_angle, Point.Zero);

    public Point Unturned(Point place) => place.Turned(_angle, Point.Zero);

    /// <summary>The section that a place lies in, or the one nearest to it, and the fine row.</summary>
    public (int Section, int Row) Find(Point place)
    {
        var wanted = (int)Math.Floor((place.Y - _top) / _pitch);
        var (best, bestRow, nearest) = (0, Sections[0].FirstRow, double.PositiveInfinity);
        for (var i = 0; i < Sections.Count; i++)
        {
            // A place beside a step of the edge may be nearer to the next row of a section than to its own.
            var (first, last) = (Sections[i].FirstRow, Sections[i].LastRow);
            for (var off = Math.Max(0, Math.Max(first - wanted, wanted - last)); off * _pitch < nearest && (wanted - off >= first || wanted + off <= last); off++)
            {
                Look(i, wanted - off);
                Look(i, wanted + off);
            }
        }

        return (best, bestRow);

        void Look(int section, int row)
        {
            if (row < Sections[section].FirstRow || row > Sections[section].LastRow) return;
            var span = Sections[section].At(row);
            var distance = Math.Abs(place.X - Math.Clamp(place.X, span.From, span.To)) + (Math.Abs(row - wanted) * _pitch);
            if (distance < nearest) (best, bestRow, nearest) = (section, row, distance);
        }
    }

    /// <summary>By section: the door that leads one step towards a root section; the root's own leads to itself. Breadth first, so there are few of them on any way.</summary>
    public Door[] TreeFrom(int root)
    {
        var towards = new Door[Sections.Count];
        var seen = new bool[Sections.Count];
        var queue = new Queue<int>([root]);
        (seen[root], towards[root]) = (true, new(root, 0, 0, 0, 0));
        while (queue.TryDequeue(out var at))
        {
            foreach (var door in Sections[at].Doors)
            {
                if (seen[door.To]) continue;
                (seen[door.To], towards[door.To]) = (true, new(at, door.RowThere, door.XThere, door.Row, door.X));
                queue.Enqueue(door.To);
            }
        }

        return towards;
    }

    /// <summary>Appends a way inside one section, straight wherever that stays inside.</summary>
    public void AddWay(List<Point> way, int section, (int Row, double X) from, (int Row, double X) to)
    {
        var s = Sections[section];
        var step = Math.Sign(to.Row - from.Row);
        var (row, x) = from;
        while (row != to.Row)
        {
            // The slopes (mm a row) under which the way is straight as far as it has been looked at.
            var (low, high, at) = (double.NegativeInfinity, double.PositiveInfinity, row);
            (int Row, double X)? bend = null;
            while (at != to.Row)
            {
                WorkBudget.Current.Spend();
                var next = at + step;
                var span = s.At(next);
                var margin = Math.Min(WayMargin, span.Width * 0.3);
                double d = Math.Abs(next - row);
                var (left, right) = next == to.Row ? (to.X, to.X) : (span.From + margin, span.To - margin);
                var (l, r) = ((left - x) / d, (right - x) / d);
                if (l > high || r < low)
                {
                    // Blocked: bend at the last row that was seen, as far over as was free.
                    var slope = l > high ? high : low;
                    bend = at == row ? (next, Math.Clamp(x, span.From + margin, span.To - margin)) : (at, x + (slope * Math.Abs(at - row)));
                    break;
                }

                (low, high, at) = (Math.Max(low, l), Math.Min(high, r), next);
            }

            (row, x) = bend ?? to;
            if ((row, x) != to) way.Add(new(x, Y(row)));
        }

        way.Add(new(to.X, Y(to.Row)));
    }

    /// <summary>A way inside the area from place to place (both as drawn, not turned), ends included.</summary>
    public List<Point> Way(Point from, Point to)
    {
        var (a, b) = (Turned(from), Turned(to));
        var ((section, row), (goal, goalRow)) = (Find(a), Find(b));
        var way = new List<Point> { a };
        var (x, goalX) = (Sections[section].At(row).Within(a.X), Sections[goal].At(goalRow).Within(b.X));
        foreach (var door in Taut(Doors(section, new(x, Y(row)), goal), new(x, Y(row)), new(goalX, Y(goalRow))))
        {
            AddWay(way, section, (row, x), (door.Row, door.X));
            way.Add(new(door.XThere, Y(door.RowThere)));
            (section, row, x) = (door.To, door.RowThere, door.XThere);
        }

        AddWay(way, goal, (row, x), (goalRow, goalX));
        way.Add(b);
        return way.ConvertAll(Unturned);
    }

    /// <summary>The doors on the shortest way from a place (turned) in one section to another section (Dijkstra, "A note on two problems in connexion with graphs", 1959); within a section a way counts as straight, to where the next door is nearest.</summary>
    private List<Door> Doors(int from, Point place, int goal)
    {
        var (came, reached, done) = (new (int From, Door Door)[Sections.Count], new (double Length, Point At)[Sections.Count], new bool[Sections.Count]);
        Array.Fill(reached, (double.PositiveInfinity, default));
        reached[from] = (0, place);
        var queue = new PriorityQueue<int, double>([(from, 0)]);
        while (queue.TryDequeue(out var section, out _) && section != goal)
        {
            if (done[section]) continue;
            done[section] = true;
            WorkBudget.Current.Spend(Sections[section].Doors.Count);
            foreach (var any in Sections[section].Doors)
            {
                var door = any.At(reached[section].At.X);
                var length = reached[section].Length + reached[section].At.DistanceTo(new(door.X, Y(door.Row)));
                if (length >= reached[door.To].Length) continue;
                (reached[door.To], came[door.To]) = ((length, new(door.XThere, Y(door.RowThere))), (section, door));
                queue.Enqueue(door.To, length);
            }
        }

        var doors = new List<Door>();
        for (var section = goal; section != from && double.IsFinite(reached[goal].Length); section = came[section].From) doors.Add(came[section].Door);
        doors.Reverse();
        return doors;
    }

    /// <summary>Doors on a way (turned), each gone through where the way is shortest between those beside it.</summary>
    private List<Door> Taut(List<Door> doors, Point from, Point to)
    {
        WorkBudget.Current.Spend(doors.Count);
        for (var round = 0; round < TautRounds; round++)
        {
            for (var i = 0; i < doors.Count; i++)
            {
                var (before, after) = (i == 0 ? from : new(doors[i - 1].XThere, Y(doors[i - 1].RowThere)), i == doors.Count - 1 ? to : new(doors[i + 1].X, Y(doors[i + 1].Row)));
                var (up, down) = (Math.Abs(before.Y - Y(doors[i].Row)), Math.Abs(after.Y - Y(doors[i].RowThere)));

                // Where the way comes back to the side that it came from, this is where a mirror would be struck.
                doors[i] = doors[i].At(up + down == 0 ? before.X : before.X + ((after.X - before.X) * up / (up + down)));
            }
        }

        return doors;
    }

    private List<Span>[] SpansOf(List<Point[]> rings, int rows)
    {
        var crossings = new List<double>[rows];
        for (var r = 0; r < rows; r++) crossings[r] = [];
        foreach (var ring in rings)
        {
            for (var i = 0; i < ring.Length; i++)
            {
                var (a, b) = (ring[i], ring[(i + 1) % ring.Length]);
                if (a.Y > b.Y) (a, b) = (b, a);
                var (first, end) = (RowAtOrBelow(a.Y), Math.Min(rows, RowAtOrBelow(b.Y)));
                WorkBudget.Current.Spend((end - first) / 4);
                for (var r = Math.Max(0, first); r < end; r++) crossings[r].Add(CrossingAt(a, b, r));
            }
        }

        return Array.ConvertAll(crossings, xs =>
        {
            xs.Sort();
            var spans = new List<Span>(xs.Count / 2);
            for (var i = 0; i + 1 < xs.Count; i += 2)
                if (xs[i + 1] > xs[i])
                    spans.Add(new(xs[i], xs[i + 1], i == 0 ? double.PositiveInfinity : xs[i] - xs[i - 1], i + 2 < xs.Count ? xs[i + 2] - xs[i + 1] : double.PositiveInfinity));
            return spans;
        });
    }

    private int RowAtOrBelow(double y) => (int)Math.Ceiling(((y - _top) / _pitch) - 0.5);

    /// <summary>The sections, and by row and span in which each lies.</summary>
    private static (List<RowSection> Sections, int[][] SectionOf) Cut(List<Span>[] rows)
    {
        var sections = new List<RowSection>();
        var sectionOf = new int[rows.Length][];
        var (above, aboveSections) = (new List<Span>(), Array.Empty<int>());
        for (var row = 0; row < rows.Length; row++)
        {
            var below = rows[row];
            WorkBudget.Current.Spend(1 + below.Count);
            var belowSections = sectionOf[row] = new int[below.Count];
            var touchesOfAbove = new int[above.Count];
            foreach (var (a, _) in Touching(above, below)) touchesOfAbove[a]++;
            var pairs = Touching(above, below).GroupBy(t => t.Below).ToDictionary(g => g.Key, g => g.Select(t => t.Above).ToArray());
            for (var b = 0; b < below.Count; b++)
            {
                var touching = pairs.GetValueOrDefault(b, []);
                if (touching.Length == 1 && touchesOfAbove[touching[0]] == 1)
                {
                    belowSections[b] = aboveSections[touching[0]];
                }
                else
                {
                    belowSections[b] = sections.Count;
                    sections.Add(new(row));
                    foreach (var a in touching)
                    {
                        var open = new Span(Math.Max(above[a].From, below[b].From), Math.Min(above[a].To, below[b].To));
                        var x = open.Within((above[a].From + above[a].To) / 2);
                        sections[^1].Doors.Add(new(aboveSections[a], row, x, row - 1, x, open));
                        sections[aboveSections[a]].Doors.Add(new(sections.Count - 1, row - 1, x, row, x, open));
                    }
                }

                sections[belowSections[b]].Spans.Add(below[b]);
            }

            (above, aboveSections) = (below, belowSections);
        }

        return (sections, sectionOf);
    }

    /// <summary>Pairs of spans of neighbouring rows, both sorted, that overlap.</summary>
    private static IEnumerable<(int Above, int Below)> Touching(List<Span> above, List<Span> below)
    {
        for (int a = 0, b = 0; a < above.Count && b < below.Count;)
        {
            if (above[a].From < below[b].To && below[b].From < above[a].To) yield return (a, b);
            if (above[a].To < below[b].To) a++;
            else b++;
        }
    }

    /// <summary>
    /// Where an area is thinner than the fine rows can follow, its sections are joined along its outline, which goes on there: of rows that it crosses one after another the sections belong together.
    /// Every ring is met, since next to each gap of a row lie two pieces of one ring.
    /// </summary>
    private void Connect(List<Point[]> rings, List<Span>[] rows, int[][] sectionOf)
    {
        if (Sections.Count < 2) return;
        var together = new int[Sections.Count];
        for (var i = 0; i < together.Length; i++) together[i] = i;
        for (var i = 0; i < Sections.Count; i++)
            foreach (var door in Sections[i].Doors)
                together[Root(i)] = Root(door.To);
        foreach (var ring in rings)
        {
            (int Section, int Row, double X)? first = null, before = null;
            foreach (var (row, x) in CrossedBy(ring, rows.Length))
            {
                if (SpanAt(rows[row], x) is not { } span) continue;
                var here = (Section: sectionOf[row][span], Row: row, X: x);
                if (before is { } last) Join(last, here);
                first ??= here;
                before = here;
            }

            if (first is { } f && before is { } l) Join(l, f);
        }

        void Join((int Section, int Row, double X) a, (int Section, int Row, double X) b)
        {
            if (Root(a.Section) == Root(b.Section)) return;
            together[Root(a.Section)] = Root(b.Section);
            Sections[a.Section].Doors.Add(new(b.Section, a.Row, a.X, b.Row, b.X));
            Sections[b.Section].Doors.Add(new(a.Section, b.Row, b.X, a.Row, a.X));
        }

        int Root(int i)
        {
            while (together[i] != i) i = together[i] = together[together[i]];
            return i;
        }
    }

    /// <summary>The rows that a ring crosses one after another, and where.</summary>
    private IEnumerable<(int Row, double X)> CrossedBy(Point[] ring, int rows)
    {
        for (var i = 0; i < ring.Length; i++)
        {
            var (a, b) = (ring[i], ring[(i + 1) % ring.Length]);
            var down = a.Y <= b.Y;
            var (low, high) = down ? (a, b) : (b, a);
            var (first, end) = (Math.Max(0, RowAtOrBelow(low.Y)), Math.Min(rows, RowAtOrBelow(high.Y)));
            for (var k = first; k < end; k++)
            {
                var row = down ? k : end - 1 - (k - first);
                yield return (row, CrossingAt(low, high, row));
            }
        }
    }

    private double CrossingAt(Point low, Point high, int row) => low.X + ((Y(row) - low.Y) / (high.Y - low.Y) * (high.X - low.X));

    /// <summary>The span of a row that begins or ends at a place, or null.</summary>
    private static int? SpanAt(List<Span> spans, double x)
    {
        var (low, high) = (0, spans.Count - 1);
        while (low <= high)
        {
            var middle = (low + high) / 2;
            if (x < spans[middle].From) high = middle - 1;
            else if (x > spans[middle].To) low = middle + 1;
            else return middle;
        }

        return null;
    }
}
