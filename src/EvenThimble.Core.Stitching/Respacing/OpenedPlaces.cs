using EvenThimble.Core.Craft;
using EvenThimble.Core.Geometry;
using EvenThimble.Core.Recognition;
using EvenThimble.Core.Work;

namespace EvenThimble.Core.Respacing;

/// <summary>Finds where cloth shows between stitches that were made anew, and did not as they came.</summary>
internal sealed class OpenedPlaces
{
    // Rows close what lies between them when they are no farther apart than this many times what is usual. A place that opens goes on to where they are no farther apart than that.
    private const double ClosedUpTo = 1.35;
    private const double ClosedSurely = 1.15;

    // Nothing is looked for beyond the outermost rows, nor nearer to them than this, mm as they came.
    private const double AtEdge = 0.05;

    // A line may be a row where it goes along those of a fill, by the cosine.
    private const double AlongRows = 0.98;

    // Other rows tell how far apart some may lie that are surer than this, and lie no farther from each other than so many times as far.
    private const double ClearlyRows = 0.8;
    private const double TwiceAsFar = 2.2;

    // Side of the squares that are looked at, mm, unless there would be more of them than so many.
    private const double Square = 0.1;
    private const double MostSquares = 6_000_000;

    // So many stitches are laid in the time of one step of work.
    private const int StitchesOfOne = 4;

    // Smaller places than this are none, mm².
    private const double Least = 0.2;

    private readonly ReadStitches _read;
    private readonly Remaking _making;
    private readonly List<Passage> _closing;

    // Straight rows and their direction; and how far apart rows are where they still close, mm, where that is farther than usual among them.
    private readonly List<(Point Way, Passage Rows)> _straight;
    private readonly Dictionary<Passage, double> _farther = [];

    /// <summary>A place that is open.</summary>
    /// <param name="Squares">The middles of small squares.</param>
    /// <param name="IsClear">Whether rows on either side of it lie so far apart that they would not close it where they grow apart either.</param>
    public sealed record Place(List<Point> Squares, bool IsClear);

    /// <summary>Of stitches as they came.</summary>
    /// <param name="read">The stitches as they came.</param>
    /// <param name="making">The size and spacing at which they are made anew.</param>
    public OpenedPlaces(ReadStitches read, Remaking making)
    {
        (_read, _making, _closing) = (read, making, [.. read.Passages.Where(Closes)]);
        Point[] points = [.. Enumerable.Range(0, read.Stitches.Count).Select(making.Was)];
        _straight = [.. _closing.Where(p => p is { Kind: PassageKind.Fill, InRings: false, Bent: false, Rungs.Length: > 0 })
            .Select(p => (FillSections.Direction(points, [.. p.Rungs.Select(r => new Leg(r.First, r.Last))], 0, p.Rungs.Length), p))];
        SeekFarther();
    }

    /// <summary>Whether a passage is made anew by its spacing, and closes what lies between its rows or throws.</summary>
    public static bool Closes(Passage p) => p is { IsDense: true, IsUnder: false, Confidence: >= Passage.Sure };

    /// <summary>How far apart rows on either side of what is closed may be, mm, where they usually lie so far from each other.</summary>
    public static double ClosedGap(double spacing) => ClosedSurely * spacing;

    /// <summary>How far apart they may be at most, mm.</summary>
    public static double WidestClosed(double spacing) => ClosedUpTo * spacing;

    /// <summary>Ways back over the cloth between rows lie among them as more rows do: such close with the distance of others in the same direction, up to twice their own.</summary>
    private void SeekFarther()
    {
        List<(Point Way, Passage Rows)> sure = [.. _straight.Where(s => s.Rows.Confidence > ClearlyRows && s.Rows.Rungs.Length >= LadderReading.FewestRungs).OrderByDescending(s => s.Rows.SpacingMm)];
        foreach (var (way, rows) in _straight)
        {
            WorkBudget.Current.Spend(1 + (sure.Count / StitchesOfOne));
            var other = sure.Find(s => s.Rows.SpacingMm <= TwiceAsFar * rows.SpacingMm && Math.Abs(s.Way.Dot(way)) > AlongRows).Rows;
            if (other is not null && other.SpacingMm > rows.SpacingMm) _farther[rows] = other.SpacingMm;
        }
    }

    /// <summary>How far apart rows or throws lie, mm, where they close what lies between them.</summary>
    private double GapOf(Passage p) => _farther.GetValueOrDefault(p, p.SpacingMm);

    /// <summary>The places that threads leave open, the largest first.</summary>
    public List<Place> Of(IReadOnlyList<SewnThread> threads)
    {
        if (_closing.Count == 0) return [];
        var box = threads.Aggregate(Box.Empty, (all, t) => all.With(Box.Around(t.Points))).Grown(_closing.Max(p => p.SpacingMm) * _making.Size.OfLength);
        var side = Math.Max(Square, Math.Sqrt(box.Width * box.Height / MostSquares));
        var open = AsTheyCame(box, side);
        open.Remove(Closed(threads, ClosedSurely, new(box, side)));
        var places = open.TakePlaces().FindAll(place => place.Count * side * side >= Least);
        if (places.Count == 0) return [];
        var nearly = Closed(threads, ClosedUpTo, new(box, side));
        return [.. places.OrderByDescending(place => place.Count).Select(place => new Place(place, place.Exists(p => !nearly.Has(p))))];
    }

    /// <summary>What threads close, where rows close what lies between them when they are no farther apart than so many times what is usual.</summary>
    private BitGrid Closed(IReadOnlyList<SewnThread> threads, double times, BitGrid closed)
    {
        foreach (var thread in threads)
        {
            WorkBudget.Current.Spend(thread.Points.Count / StitchesOfOne);
            foreach (var (from, end, passage) in thread.Stretches)
                for (var i = from; i < end; i++)
                    Lay(closed, thread.Points[i], thread.Points[i + 1], Closes(passage) ? times * Math.Max(GapOf(passage), WidestGap(passage)) * _making.Lighter : Limits.ThreadWidth, Sizing.Original);
        }

        return closed;
    }

    /// <summary>Lays what a stitch closes, sized: so broad a strip, mm, and half of that beyond its ends.</summary>
    private static void Lay(BitGrid grid, Point from, Point to, double broad, Sizing size)
    {
        var along = (to - from).Unit() * (broad / 2);
        grid.Lay(size.Apply(from - along), size.Apply(to + along), size.Apply(along.Normal()));
    }

    /// <summary>How far apart rows usually lie where they are farthest, mm: one that begins where the last one ends lies twice as far from it at its other end.</summary>
    private static double WidestGap(Passage p) => p is { Kind: PassageKind.Fill, Stepped: false, InRings: false } ? 2 * p.SpacingMm : p.SpacingMm;

    /// <summary>What the stitches closed as they came, but for its edge, at its size.</summary>
    private BitGrid AsTheyCame(Box box, double side)
    {
        var (grid, size) = (new BitGrid(box, side), _making.Size);
        foreach (var passage in _closing)
            for (var i = passage.First; i < passage.Last; i++)
                Lay(grid, _making.Was(i), _making.Was(i + 1), ClosedUpTo * GapOf(passage), size);
        LayLines(grid);
        var edge = (ClosedUpTo * _closing.Max(p => p.SpacingMm) / 2) + AtEdge;
        return grid.DrawnIn(edge * size.Across, edge * size.Down, size.Lean / size.Down);
    }

    /// <summary>A row that was taken for a line closes as rows do; ways, which run in any direction, do not.</summary>
    private void LayLines(BitGrid grid)
    {
        List<(Point Way, Passage Rows)> rows = _straight.FindAll(s => s.Rows.Stepped);
        if (rows.Count == 0) return;
        foreach (var line in _read.Passages.Where(p => p is { Kind: PassageKind.Run, IsUnder: false }))
        {
            for (var i = line.First; i < line.Last; i++)
            {
                var (from, to) = (_making.Was(i), _making.Was(i + 1));
                var way = (to - from).Unit();
                var alike = rows.MaxBy(r => Math.Abs(r.Way.Dot(way)));
                if (Math.Abs(alike.Way.Dot(way)) > AlongRows) Lay(grid, from, to, ClosedUpTo * alike.Rows.SpacingMm, _making.Size);
            }
        }
    }
}
