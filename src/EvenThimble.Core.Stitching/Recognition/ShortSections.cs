using EvenThimble.Core.Geometry;
using EvenThimble.Core.Work;

namespace EvenThimble.Core.Recognition;

/// <summary>
/// Finds sections of so few rows that they could be the loops of a line: between ways to and from them lie stitches as straight, as far apart and in the same direction as the rows of a fill of the same
/// thread, and beside one of them.
/// </summary>
internal sealed class ShortSections
{
    // Rows lie so far from each other as those of the fill do, but for this part of it, and beside each other along so much of the shorter.
    private const double AsFar = 0.35;
    private const double LeastBeside = 0.4;

    // A row that is too long for a throw lies upon another that is no more than so much of the rows' distance away, and beside it along so much of its length.
    private const double Upon = 0.25;
    private const double LeastUpon = 0.75;

    // A single row, between rows on either side, is no shorter than this, mm; two beside each other, of which each tells of the other, no shorter than that: throws are not so long.
    private const double ShortestAlone = 2.5;
    private const double LongAlone = 10;

    // The step from one to the next is no longer than this part of the longer, and so much, mm.
    private const double StepOfRow = 0.9;
    private const double Step = 1.0;

    // A needle point lies beside its row by no more than this, mm, and that part of how much those of the fill usually spread.
    private const double OffRow = 0.045;
    private const double OfSpread = 0.75;

    // Rows of a fill that turn farther than this, degrees, have no one direction.
    private const double MostTurn = 5;

    // Another section lies beside one of so many rows at either end of a fill; as many tell whether it turns.
    private const int Outer = 4;

    // Or beside one that ends by so much elsewhere than the next, mm.
    private const double Suddenly = 2.0;

    // What stands in place of the number of a candidate for what is known from the outset.
    private const int Known = -1;

    // So many rows are set in order in the time of one step of work.
    private const int RowsOfOne = 16;

    private readonly Point[] _points;
    private readonly Point _along;
    private readonly double _spacing;
    private readonly double _off;

    // What can be a section, and every row of those and of what is known, by how far to the side it lies.
    private readonly List<Candidate> _candidates = [];
    private (Row Row, int Candidate)[] _bySide = [];

    /// <summary>A row: its needle points, where it begins and ends along the direction of all, and how far to the side it lies, mm.</summary>
    private readonly record struct Row(int First, int Last, double From, double To, double Aside)
    {
        public double Length => Math.Abs(To - From);

        /// <summary>Along which length both lie beside each other, mm; below 0 they do not.</summary>
        public double Beside(Row other) => Math.Min(Math.Max(From, To), Math.Max(other.From, other.To)) - Math.Max(Math.Min(From, To), Math.Min(other.From, other.To));
    }

    /// <summary>Rows that go back and forth beside each other, as many as there are, between two ways; what they lie beside; and whether they are known to be a section.</summary>
    private sealed class Candidate(int stretch)
    {
        public int Stretch { get; } = stretch;

        public List<Row> Rows { get; } = [];

        /// <summary>Others, or what is known from the outset, and on which side (1, -1).</summary>
        public HashSet<(int Candidate, int Side)> Beside { get; } = [];

        public bool IsKnown { get; set; }

        /// <summary>Whether it tells of a single row beside it, before it is known itself.</summary>
        public bool Tells => Rows.Count > 1 || Rows[0].Length >= LongAlone;
    }

    private ShortSections(Point[] points, List<Leg> rows, double spacing)
    {
        (_points, _spacing) = (points, spacing);
        _along = FillSections.Direction(points, rows, 0, rows.Count);
        var spreads = rows.ConvertAll(r => Enumerable.Range(r.From, r.To - r.From + 1).Select(i => _along.Cross(points[i])) is var asides ? asides.Max() - asides.Min() : 0);
        _off = OffRow + (OfSpread * spreads.Median());
        var few = Math.Min(Outer, rows.Count);
        IsStraight = Math.Abs(Turn.Between(FillSections.Direction(points, rows, 0, few), FillSections.Direction(points, rows, rows.Count - few, rows.Count))) <= MostTurn;
    }

    private bool IsStraight { get; }

    /// <summary>The sections within stretches of needle points whose rows lie as those of a fill do, beside some of those that are outermost in its sections, or beside each other; none where its rows turn.</summary>
    /// <param name="points">The needle points of the thread.</param>
    /// <param name="stretches">The first and last needle point of each.</param>
    /// <param name="rows">The rows of the fill.</param>
    /// <param name="spacing">How far apart they lie, mm.</param>
    /// <param name="outermost">The first and last rows of all sections.</param>
    /// <returns>For each stretch its sections, in their order.</returns>
    public static List<List<Leg>>[] Find(Point[] points, IReadOnlyList<(int From, int To)> stretches, List<Leg> rows, double spacing, IReadOnlyCollection<Leg> outermost)
    {
        var (fill, found) = (new ShortSections(points, rows, spacing), new List<List<Leg>>[stretches.Count]);
        for (var k = 0; k < found.Length; k++) found[k] = [];
        if (!fill.IsStraight) return found;
        WorkBudget.Current.Spend(1 + (outermost.Count / RowsOfOne));
        fill._bySide = [.. outermost.Select(r => (Row: fill.RowOf(r.From, r.To), Known)).OrderBy(r => r.Row.Aside)];
        for (var k = 0; k < found.Length; k++) fill.Seek(k, stretches[k].From, stretches[k].To);
        fill.Know();
        foreach (var section in fill._candidates.Where(c => c.IsKnown)) found[section.Stretch].Add(section.Rows.ConvertAll(r => new Leg(r.First, r.Last)));
        return found;
    }

    /// <summary>Of the rows of a section those that can be outermost where another lies beside it: the first and the last, and where rows suddenly become longer or shorter.</summary>
    public static IEnumerable<Leg> OutermostOf(Point[] points, List<Leg> rows) =>
        rows.Where((row, k) => k < Outer || k >= rows.Count - Outer || IsSudden(points, rows[k - 1], row) || IsSudden(points, row, rows[k + 1]));

    /// <summary>Whether a row ends elsewhere than the next by much, along the rows.</summary>
    private static bool IsSudden(Point[] points, Leg row, Leg next)
    {
        var along = (points[row.To] - points[row.From]).Unit();
        return Math.Max(Math.Abs(along.Dot(points[next.From] - points[row.To])), Math.Abs(along.Dot(points[next.To] - points[row.From]))) >= Suddenly;
    }

    /// <summary>Adds what can be sections of a stretch; what lies upon a known row is a way back over it.</summary>
    private void Seek(int stretch, int from, int to)
    {
        var first = _candidates.Count;
        foreach (var row in Rows(from, to).Where(row => row.Length < LongAlone || !At(row, Upon * _spacing).Any(other => row.Beside(other.Row) >= LeastUpon * row.Length)))
        {
            if (_candidates.Count == first || !GoesOn(_candidates[^1].Rows, row)) _candidates.Add(new(stretch));
            _candidates[^1].Rows.Add(row);
        }
    }

    /// <summary>What lies beside a known row is a section, and what lies beside such a section.</summary>
    private void Know()
    {
        _bySide = [.. _bySide.Concat(_candidates.SelectMany((c, k) => c.Rows.Select(row => (row, k)))).OrderBy(r => r.Item1.Aside)];
        for (var k = 0; k < _candidates.Count; k++)
            foreach (var row in _candidates[k].Rows)
                _candidates[k].Beside.UnionWith(Beside(row, k));
        var next = new Queue<int>(Enumerable.Range(0, _candidates.Count));
        while (next.TryDequeue(out var k))
        {
            WorkBudget.Current.Spend(1);
            if (_candidates[k].IsKnown || !IsSection(_candidates[k])) continue;
            _candidates[k].IsKnown = true;
            foreach (var (other, _) in _candidates[k].Beside.Where(b => b.Candidate != Known)) next.Enqueue(other);
        }
    }

    /// <summary>Whether two rows are too long for throws, or rows lie beside others that are known: a single one between such on both sides, of which one may be of what only can be a section.</summary>
    private bool IsSection(Candidate rows)
    {
        bool IsKnown(int other) => other == Known || _candidates[other].IsKnown;
        if (rows.Rows.Count(r => r.Length >= LongAlone) > 1) return true;
        if (!rows.Beside.Any(b => IsKnown(b.Candidate))) return false;
        return rows.Rows.Count > 1
            || (rows.Rows[0].Length >= ShortestAlone && rows.Beside.Where(b => IsKnown(b.Candidate) || _candidates[b.Candidate].Tells).Select(b => b.Side).Distinct().Count() == 2);
    }

    /// <summary>What lies beside a row of a candidate, but for that itself.</summary>
    private IEnumerable<(int Candidate, int Side)> Beside(Row row, int candidate) => At(row, _spacing + Trembling)
        .Where(other => other.Candidate != candidate && IsNext(Math.Abs(row.Aside - other.Row.Aside)) && row.Beside(other.Row) >= LeastBeside * Math.Min(row.Length, other.Row.Length))
        .Select(other => (other.Candidate, Math.Sign(other.Row.Aside - row.Aside)));

    /// <summary>The rows that lie no farther to either side of one than so much, mm.</summary>
    private IEnumerable<(Row Row, int Candidate)> At(Row row, double reach)
    {
        var (low, high) = (0, _bySide.Length);
        while (low < high)
        {
            var middle = (low + high) / 2;
            if (_bySide[middle].Row.Aside < row.Aside - reach) low = middle + 1;
            else high = middle;
        }

        for (var at = low; at < _bySide.Length && _bySide[at].Row.Aside <= row.Aside + reach; at++) yield return _bySide[at];
    }

    /// <summary>How much nearer or farther than usual the next row may lie, mm.</summary>
    private double Trembling => Math.Max(AsFar * _spacing, _off);

    private bool IsNext(double aside) => Math.Abs(aside - _spacing) <= Trembling;

    /// <summary>Whether a row is the next of a section: back beside the last one, on the side on which that lay.</summary>
    private bool GoesOn(List<Row> section, Row row)
    {
        var last = section[^1];
        if ((row.To > row.From) == (last.To > last.From) || !IsNext(Math.Abs(row.Aside - last.Aside))) return false;
        if (section.Count > 1 && row.Aside > last.Aside != last.Aside > section[^2].Aside) return false;
        return last.Beside(row) >= LeastBeside * Math.Min(last.Length, row.Length) && Sewn(last.Last, row.First) <= Step + (StepOfRow * Math.Max(last.Length, row.Length));
    }

    /// <summary>Length of thread between two needle points, mm.</summary>
    private double Sewn(int from, int to) => Enumerable.Range(from, to - from).Sum(i => _points[i].DistanceTo(_points[i + 1]));

    /// <summary>What lies straight along the rows of the fill, in the order in which it is sewn.</summary>
    private IEnumerable<Row> Rows(int from, int to)
    {
        WorkBudget.Current.Spend(1 + ((to - from) / 8));
        for (var first = from; first < to;)
        {
            var (last, sum, onwards) = (first, Aside(first), Math.Sign(Way(first)));
            while (last < to && Math.Sign(Way(last)) == onwards)
            {
                // The ends of a row tell less of where it lies than all of it.
                var isEnd = last == first || last + 1 == to || Math.Sign(Way(last + 1)) != onwards;
                if (Math.Abs(Aside(last + 1) - (sum / (last - first + 1))) > (isEnd ? 2 : 1) * _off) break;
                sum += Aside(++last);
            }

            if (last > first && RowOf(first, last) is { Length: >= FillSections.ShortestRow } row)
            {
                yield return row;
                first = last;
            }
            else
            {
                first++;
            }
        }

        double Aside(int point) => _along.Cross(_points[point]);
        double Way(int stitch) => _along.Dot(_points[stitch + 1] - _points[stitch]);
    }

    private Row RowOf(int first, int last) =>
        new(first, last, _along.Dot(_points[first]), _along.Dot(_points[last]), Enumerable.Range(first, last - first + 1).Average(i => _along.Cross(_points[i])));
}
