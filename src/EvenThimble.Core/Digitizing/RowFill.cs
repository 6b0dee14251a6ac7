using EvenThimble.Core.Geometry;

namespace EvenThimble.Core.Digitizing;

/// <summary>Fill in rows of a shape given by closed rings; what an odd number of rings encloses is filled.</summary>
/// <param name="Angle">Direction of the rows, degrees clockwise from across.</param>
public sealed record RowFill(double Angle)
{
    /// <summary>Between rows, mm.</summary>
    public double Spacing { get; init; } = Craft.FillSpacing;

    /// <summary>Stitch within a row, mm.</summary>
    public double Stitch { get; init; } = Craft.FillStitch;

    // Needle points of four rows in turn lie at these parts of a stitch, so that no furrow runs across.
    private static readonly double[] RowShift = [0, 0.5, 0.25, 0.75];

    private readonly record struct Span(double From, double To);

    /// <summary>Rows that lie one over another without parting or joining.</summary>
    private sealed class Section(int firstRow)
    {
        public int FirstRow { get; } = firstRow;

        public List<Span> Spans { get; } = [];

        public int LastRow => FirstRow + Spans.Count - 1;

        public HashSet<int> Neighbours { get; } = [];
    }

    /// <summary>
    /// Runs of needle points that fill the shape. Sections are entered one from another inside the shape; a new run begins only where the
    /// shape is not connected.
    /// </summary>
    public List<List<Point>> Of(IReadOnlyList<IReadOnlyList<Point>> rings)
    {
        var turned = rings.Select(r => r.Select(p => p.Turned(-Angle, Point.Zero)).ToArray()).ToList();
        var box = Box.Around(turned.SelectMany(r => r));
        if (box.IsEmpty) return [];
        var rows = Math.Max(1, (int)Math.Floor(box.Height / Spacing));
        var top = box.MinY + ((box.Height - ((rows - 1) * Spacing)) / 2);
        var sections = Sections([.. Enumerable.Range(0, rows).Select(r => SpansAt(turned, top + (r * Spacing)))]);
        return [.. Sew(sections, top).Select(run => run.Select(p => p.Turned(Angle, Point.Zero)).ToList())];
    }

    private static List<Span> SpansAt(List<Point[]> rings, double y)
    {
        var crossings = new List<double>();
        foreach (var ring in rings)
        {
            for (var i = 0; i < ring.Length; i++)
            {
                var (a, b) = (ring[i], ring[(i + 1) % ring.Length]);
                if (a.Y <= y != b.Y <= y) crossings.Add(a.X + ((y - a.Y) / (b.Y - a.Y) * (b.X - a.X)));
            }
        }

        crossings.Sort();
        var spans = new List<Span>();
        for (var i = 0; i + 1 < crossings.Count; i += 2)
            if (crossings[i + 1] > crossings[i])
                spans.Add(new(crossings[i], crossings[i + 1]));
        return spans;
    }

    private static List<Section> Sections(List<List<Span>> rows)
    {
        var sections = new List<Section>();
        var (above, aboveSections) = (new List<Span>(), new List<int>());
        for (var row = 0; row < rows.Count; row++)
        {
            var below = rows[row];
            var belowSections = new List<int>();
            foreach (var span in below)
            {
                var touching = Enumerable.Range(0, above.Count).Where(i => Overlap(above[i], span)).ToList();
                var single = touching.Count == 1 && below.Count(s => Overlap(above[touching[0]], s)) == 1;
                var section = single ? aboveSections[touching[0]] : sections.Count;
                if (!single)
                {
                    sections.Add(new(row));
                    foreach (var t in touching)
                    {
                        sections[section].Neighbours.Add(aboveSections[t]);
                        sections[aboveSections[t]].Neighbours.Add(section);
                    }
                }

                sections[section].Spans.Add(span);
                belowSections.Add(section);
            }

            (above, aboveSections) = (below, belowSections);
        }

        return sections;
    }

    /// <summary>Whether spans of neighbouring rows belong together; in a slanting point they may miss each other by about a thread.</summary>
    private static bool Overlap(Span a, Span b) => a.From < b.To + Craft.FillSpacing && b.From < a.To + Craft.FillSpacing;

    private List<List<Point>> Sew(List<Section> sections, double top)
    {
        var left = Enumerable.Range(0, sections.Count).ToHashSet();
        var runs = new List<List<Point>>();
        while (left.Count > 0)
        {
            var run = new List<Point>();
            var at = left.Min();
            SewSection(run, sections[at], top);
            left.Remove(at);
            while (NearestUnsewn(sections, at, left) is { } path)
            {
                foreach (var next in path.Skip(1))
                {
                    LeaveToward(run, sections[at], sections[next], top);
                    at = next;
                }

                SewSection(run, sections[at], top);
                left.Remove(at);
            }

            runs.Add(run);
        }

        return runs;
    }

    /// <summary>The shortest way over neighbouring sections to one that is not sewn yet, or null.</summary>
    private static List<int>? NearestUnsewn(List<Section> sections, int from, HashSet<int> left)
    {
        var cameFrom = new Dictionary<int, int> { [from] = from };
        var queue = new Queue<int>([from]);
        while (queue.TryDequeue(out var at))
        {
            if (left.Contains(at))
            {
                var path = new List<int> { at };
                while (path[^1] != from) path.Add(cameFrom[path[^1]]);
                path.Reverse();
                return path;
            }

            foreach (var next in sections[at].Neighbours.Order().Where(n => cameFrom.TryAdd(n, at))) queue.Enqueue(next);
        }

        return null;
    }

    private void SewSection(List<Point> run, Section section, double top)
    {
        var rows = section.Spans.Count;
        var fromTop = run.Count == 0 || Math.Abs(run[^1].Y - RowY(section.FirstRow, top)) <= Math.Abs(run[^1].Y - RowY(section.LastRow, top));
        var first = fromTop ? 0 : rows - 1;
        var rightwards = run.Count == 0 || Math.Abs(run[^1].X - section.Spans[first].From) <= Math.Abs(run[^1].X - section.Spans[first].To);
        for (var k = 0; k < rows; k++, rightwards = !rightwards)
        {
            var i = fromTop ? k : rows - 1 - k;
            SewRow(run, section.Spans[i], section.FirstRow + i, RowY(section.FirstRow + i, top), rightwards);
        }
    }

    private void SewRow(List<Point> run, Span span, int row, double y, bool rightwards)
    {
        // Too narrow for a stitch: one needle point keeps the rows above and below together.
        if (span.To - span.From < Craft.ShortestStitch)
        {
            Add(run, new((span.From + span.To) / 2, y));
            return;
        }

        var shift = RowShift[row % RowShift.Length] * Stitch;
        var inner = new List<double>();
        const double free = 0.7; // nothing nearer to a row's end than this, so that no stitch gets short
        for (var x = (Math.Ceiling((span.From + free - shift) / Stitch) * Stitch) + shift; x <= span.To - free; x += Stitch) inner.Add(x);
        if (!rightwards) inner.Reverse();
        Add(run, new(rightwards ? span.From : span.To, y));
        foreach (var x in inner) Add(run, new(x, y));
        Add(run, new(rightwards ? span.To : span.From, y));
    }

    /// <summary>Runs through a section to the end where the next one touches it, near its left edge; nothing when the needle is there.</summary>
    private void LeaveToward(List<Point> run, Section section, Section next, double top)
    {
        var downwards = next.FirstRow > section.LastRow;
        var exit = RowY(downwards ? section.LastRow : section.FirstRow, top);
        if (Math.Abs(run[^1].Y - exit) <= 2 * Spacing) return;
        var every = Math.Max(1, (int)(Craft.RunStitch / Spacing));
        for (var k = 0; k < section.Spans.Count; k += every)
        {
            var i = downwards ? k : section.Spans.Count - 1 - k;
            var (span, y) = (section.Spans[i], RowY(section.FirstRow + i, top));
            if (downwards ? y > run[^1].Y : y < run[^1].Y) Add(run, new(Math.Min(span.From + 0.8, (span.From + span.To) / 2), y));
        }
    }

    private static void Add(List<Point> run, Point p)
    {
        if (run.Count > 0)
        {
            var length = run[^1].DistanceTo(p);
            if (length < Craft.ShortestStitch - 0.05) return;
            var pieces = (int)Math.Ceiling(length / Craft.LongestThrow);
            var from = run[^1];
            for (var s = 1; s < pieces; s++) run.Add(from.Toward(p, s / (double)pieces));
        }

        run.Add(p);
    }

    private double RowY(int row, double top) => top + (row * Spacing);
}
