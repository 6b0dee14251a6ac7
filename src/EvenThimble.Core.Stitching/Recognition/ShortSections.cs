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

    // So many boxes are looked at in the time of one step of work.
    private const int BoxesOfOne = 64;

    // Or beside one that ends by so much elsewhere than the next, mm.
    private const double Suddenly = 2.0;

    private readonly Point[] _points;
    private readonly Point _along;
    private readonly double _spacing;
    private readonly double _off;
    private readonly IReadOnlyList<Outermost> _outermost;

    /// <summary>A row: its needle points, where it begins and ends along the direction of all, and how far to the side it lies, mm.</summary>
    private readonly record struct Row(int First, int Last, double From, double To, double Aside)
    {
        public double Length => Math.Abs(To - From);

        /// <summary>Along which length both lie beside each other, mm; below 0 they do not.</summary>
        public double Beside(Row other) => Math.Min(Math.Max(From, To), Math.Max(other.From, other.To)) - Math.Max(Math.Min(From, To), Math.Min(other.From, other.To));
    }

    /// <summary>A row that can be outermost in its section, and the box about it.</summary>
    public readonly record struct Outermost(Leg Row, Box Box);

    private ShortSections(Point[] points, List<Leg> rows, double spacing, IReadOnlyList<Outermost> outermost)
    {
        (_points, _spacing, _outermost) = (points, spacing, outermost);
        _along = FillSections.Direction(points, rows, 0, rows.Count);
        var spreads = rows.ConvertAll(r => Enumerable.Range(r.From, r.To - r.From + 1).Select(i => _along.Cross(points[i])) is var asides ? asides.Max() - asides.Min() : 0);
        _off = OffRow + (OfSpread * spreads.Median());
        var few = Math.Min(Outer, rows.Count);
        IsStraight = Math.Abs(Turn.Between(FillSections.Direction(points, rows, 0, few), FillSections.Direction(points, rows, rows.Count - few, rows.Count))) <= MostTurn;
    }

    private bool IsStraight { get; }

    /// <summary>The sections between two needle points whose rows lie as those of a fill do, beside some of those that are outermost in its sections, in their order; none where its rows turn.</summary>
    /// <param name="points">The needle points of the thread.</param>
    /// <param name="from">The first.</param>
    /// <param name="to">The last.</param>
    /// <param name="rows">The rows of the fill.</param>
    /// <param name="spacing">How far apart they lie, mm.</param>
    /// <param name="outermost">The first and last rows of all sections.</param>
    public static List<List<Leg>> Find(Point[] points, int from, int to, List<Leg> rows, double spacing, IReadOnlyList<Outermost> outermost)
    {
        var fill = new ShortSections(points, rows, spacing, outermost);
        return fill.IsStraight ? [.. fill.Sections(from, to).Select(s => s.ConvertAll(r => new Leg(r.First, r.Last)))] : [];
    }

    /// <summary>Of the rows of a section those that can be outermost where another lies beside it: the first and the last, and where rows suddenly become longer or shorter.</summary>
    public static IEnumerable<Outermost> OutermostOf(Point[] points, List<Leg> rows) => rows
        .Where((row, k) => k < Outer || k >= rows.Count - Outer || IsSudden(points, rows[k - 1], row) || IsSudden(points, row, rows[k + 1]))
        .Select(row => new Outermost(row, Box.Around(Enumerable.Range(row.From, row.To - row.From + 1).Select(i => points[i]))));

    /// <summary>Whether a row ends elsewhere than the next by much, along the rows.</summary>
    private static bool IsSudden(Point[] points, Leg row, Leg next)
    {
        var along = (points[row.To] - points[row.From]).Unit();
        return Math.Max(Math.Abs(along.Dot(points[next.From] - points[row.To])), Math.Abs(along.Dot(points[next.To] - points[row.From]))) >= Suddenly;
    }

    /// <summary>Rows that go back and forth beside each other, as many as there are, where they are a section: beside one that is known, or beside such a section.</summary>
    private IEnumerable<List<Row>> Sections(int from, int to)
    {
        var candidates = Candidates(from, to);
        var known = new bool[candidates.Count];
        for (var any = true; any;)
        {
            any = false;
            for (var i = 0; i < candidates.Count; i++)
            {
                WorkBudget.Current.Spend(1 + (candidates.Count / BoxesOfOne));
                if (known[i] || !IsSection(candidates[i], candidates.Where((_, k) => known[k]).SelectMany(c => c), candidates.Where((c, k) => k != i && (c.Count > 1 || c[0].Length >= LongAlone)).SelectMany(c => c))) continue;
                known[i] = any = true;
            }
        }

        return candidates.Where((_, i) => known[i]);
    }

    private List<List<Row>> Candidates(int from, int to)
    {
        var candidates = new List<List<Row>>();
        foreach (var row in Rows(from, to))
        {
            if (candidates.Count > 0 && GoesOn(candidates[^1], row)) candidates[^1].Add(row);
            else candidates.Add([row]);
        }

        return candidates;
    }

    /// <summary>Whether rows lie beside others that are known: a single one between such on both sides, of which one may be of what only can be a section.</summary>
    private bool IsSection(List<Row> rows, IEnumerable<Row> known, IEnumerable<Row> possible)
    {
        WorkBudget.Current.Spend(rows.Count * _outermost.Count / BoxesOfOne);
        var beside = rows.SelectMany(row => Near(row).Concat(known).SelectMany(other => SideOf(row, other))).ToHashSet();
        if (beside.Count == 0 || rows.Count > 1) return beside.Count > 0;
        return rows[0].Length >= ShortestAlone && beside.Concat(possible.SelectMany(other => SideOf(rows[0], other))).Distinct().Count() == 2;
    }

    /// <summary>The outermost rows of other sections about a row.</summary>
    private IEnumerable<Row> Near(Row row)
    {
        var near = Box.Between(_points[row.First], _points[row.Last]).Grown(2 * _spacing);
        return _outermost.Where(o => near.Meets(o.Box)).Select(o => RowOf(o.Row.From, o.Row.To));
    }

    /// <summary>On which side of a row (1, -1) another lies beside it; none where it does not.</summary>
    private IEnumerable<int> SideOf(Row row, Row other) =>
        IsNext(Math.Abs(row.Aside - other.Aside)) && row.Beside(other) >= LeastBeside * Math.Min(row.Length, other.Length) ? [Math.Sign(other.Aside - row.Aside)] : [];

    private bool IsNext(double aside) => Math.Abs(aside - _spacing) <= Math.Max(AsFar * _spacing, _off);

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
