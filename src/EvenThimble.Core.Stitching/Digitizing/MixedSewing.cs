using EvenThimble.Core.Craft;
using EvenThimble.Core.Digitizing.Fill;
using EvenThimble.Core.Digitizing.Lines;
using EvenThimble.Core.Digitizing.Satin;
using EvenThimble.Core.Geometry;
using EvenThimble.Core.Shapes;
using EvenThimble.Core.Work;

namespace EvenThimble.Core.Digitizing;

/// <summary>
/// One connected area in what suits the width of its strokes: satin where they are narrow along their length (a junction is wide only because strokes meet there), fill where they are wide,
/// both only where strokes truly differ. Then the wide places and the arms between them are visited as a tree, so that ways are always covered by what is sewn last.
/// </summary>
internal sealed class MixedSewing(Area area, RowFill rows, IReadOnlyList<Underlay> fillUnderlay, SatinStyle satin)
{
    // Strokes up to this width are satin (the wider of them split), mm.
    private const double WidestSatin = 10;

    // A stroke may swell to so many times the width of its narrower parts and still be one kind.
    private const double MostSwelling = 2.2;

    // With less than this part of the area in strokes of another kind there is one kind.
    private const double TrulyDifferent = 0.12;

    // What throws leave bare tells whether a shape is made of strokes at all: at most this part.
    private const double MostBare = 0.15;

    // What remains when all wide places are taken away is an arm if it reaches this far beyond them, mm; else it is a corner.
    private const double ShortestArm = 5.25;

    // Arms reach this far into the wide places, so that no gap opens between.
    private const double Overlap = 0.5;

    // A strip so wide is nothing, mm.
    private const double Hair = 0.02;

    private sealed record Place(Area Area, bool IsWide)
    {
        public List<int> Touches { get; } = [];
    }

    private readonly List<Point> _run = [];
    private readonly List<Place> _places = [];
    private readonly StrokeLayout _layout = StrokeLayout.Of(area, satin);
    private bool[] _sewn = [];

    public List<Point> Sew(Point? start, Point? end)
    {
        var narrow = PartInNarrow();
        if (narrow > 1 - TrulyDifferent) return SatinSewing.Sew(area, _layout, satin, start, end);
        if (narrow < TrulyDifferent || !Differ(_layout.Strokes)) return FillSewing.Sew(area, rows, fillUnderlay, start, end);
        Divide();
        if (_places.Count == 1) return _places[0].IsWide ? FillSewing.Sew(area, rows, fillUnderlay, start, end) : SatinSewing.Sew(area, _layout, satin, start, end);
        _sewn = new bool[_places.Count];
        var root = end is { } e ? Nearest(e) : Enumerable.Range(0, _places.Count).MaxBy(i => _places[i].Area.SquareMm);
        if (start is { } s)
        {
            _run.Add(s);
            if (_places[root].Area.DistanceTo(s) > Overlap) Enter(_places[root].Area);
        }

        Visit(root, end);
        for (var i = 0; i < _places.Count; i++)
        {
            if (_sewn[i]) continue;
            Go(_layout.Ways, _places[i].Area.InnerPlace);
            Visit(i, null);
        }

        // Where satin meets fill both lie upon each other, with what lies under them.
        if (satin.Closes && new Finishing(area, _layout, satin) is var finishing && finishing.GoOver(_run) > 0) finishing.ThinMore(_run, HeapedThread.MostLenient);
        return _run;
    }

    /// <summary>Which part of the area lies in strokes that are satin by their usual width; 0 where it is not made of strokes.</summary>
    private double PartInNarrow()
    {
        var strokes = _layout.Strokes;
        var all = strokes.Sum(s => s.Covers());
        if (all <= 0) return 0;
        var narrow = strokes.Sum(s => s.Covers(s.LowerQuartile > WidestSatin ? WidestSatin : Math.Max(WidestSatin, MostSwelling * s.LowerQuartile))) / all;

        // What is left bare costs more to find than all else here: not looked for where the answer is fill anyway.
        return narrow < TrulyDifferent || _layout.Bare.AreMoreThan(MostBare) ? 0 : narrow;
    }

    /// <summary>Whether wide strokes are so much wider than narrow ones that each is sewn in its own kind; a stroke that swells by itself is both.</summary>
    private static bool Differ(IReadOnlyList<StrokeRungs> strokes)
    {
        var wide = strokes.Where(s => s.LowerQuartile > WidestSatin).ToList();
        return wide.Count == 0 || Usual(wide) > MostSwelling * Usual(strokes.Except(wide));

        // The width that half of what they cover is at most.
        static double Usual(IEnumerable<StrokeRungs> some)
        {
            var (widths, half, sum) = (some.Select(s => (Width: s.LowerQuartile, Covers: s.Covers())).OrderBy(s => s.Width).ToList(), 0.0, 0.0);
            half = widths.Sum(s => s.Covers) / 2;
            return widths.FirstOrDefault(s => (sum += s.Covers) >= half).Width;
        }
    }

    private void Divide()
    {
        const double half = WidestSatin / 2;
        var wide = area.Grown(-half).Grown(half).Areas;
        if (wide.Count > 0)
        {
            var all = Region.Of(wide);
            var arms = area.Without(all.Grown(Hair)).Areas
                .Where(p => all.FarthestOf(p) > ShortestArm)
                .ToList();
            if (arms.Count > 0)
            {
                // A hair more than the arms is taken away: else splinters of the wide places might be left along their edges, and be filled.
                var armsTogether = Region.Of(arms).Grown(Hair);
                foreach (var p in area.Without(armsTogether).Areas.Where(p => p.SquareMm > 1)) _places.Add(new(p, true));
                foreach (var arm in arms)
                    if (area.Within(arm.Grown(Overlap)).Areas.MaxBy(p => p.SquareMm) is { } grown)
                        _places.Add(new(grown, false));
                for (var i = 0; i < _places.Count; i++)
                    for (var j = 0; j < _places.Count; j++)
                        if (_places[i].IsWide != _places[j].IsWide && _places[i].Area.Meets(_places[j].Area))
                            _places[i].Touches.Add(j);
                return;
            }
        }

        _places.Add(new(area, wide.Count > 0));
    }

    private int Nearest(Point to) => Enumerable.Range(0, _places.Count).MinBy(i => _places[i].Area.DistanceTo(to));

    /// <summary>Sews a place and all beyond it, ending near a wanted point.</summary>
    private void Visit(int number, Point? end)
    {
        WorkBudget.CheckDepth();
        _sewn[number] = true;
        var here = _places[number];
        var ways = new Lazy<RowSections>(() => new(here.Area, 0, Limits.FillSpacing));
        foreach (var next in here.Touches)
        {
            if (_sewn[next]) continue;

            // There and back within this place, which is sewn after it: a shorter way might lead across one that is finished.
            var door = Door(here.Area, _places[next].Area);
            Go(ways.Value, door);
            Visit(next, door);
            if (here.Area.DistanceTo(_run[^1]) > Overlap) Enter(here.Area);
            Go(ways.Value, door);
        }

        var last = _run.Count > 0 ? _run[^1] : (Point?)null;
        FillSewing.Append(_run, here.IsWide ? FillSewing.Sew(here.Area, rows, fillUnderlay, last, end) : SatinSewing.Sew(here.Area, satin, last, end));
    }

    /// <summary>A place inside what two neighbours share.</summary>
    private static Point Door(Area a, Area b)
    {
        var shared = a.SharedWith(b);
        return shared.Areas.MaxBy(p => p.SquareMm)?.InnerPlace ?? shared.Corners.Cast<Point?>().FirstOrDefault() ?? b.InnerPlace;
    }

    /// <summary>Goes to the nearest place of another area that is reached straight.</summary>
    private void Enter(Area other)
    {
        var from = _run[^1];
        if (other.Corners.OrderBy(from.DistanceTo).Where(IsInside).Cast<Point?>().FirstOrDefault() is { } entry)
            FillSewing.Append(_run, RunLine.Along([from, entry]));
        else Go(_layout.Ways, other.Corners.MinBy(from.DistanceTo));

        bool IsInside(Point to)
        {
            for (var at = 0.0; at < from.DistanceTo(to); at += Overlap)
                if (area.DistanceTo(from.Toward(to, at / from.DistanceTo(to))) > Overlap)
                    return false;
            return true;
        }
    }

    private void Go(RowSections ways, Point to)
    {
        if (_run.Count > 0) FillSewing.Append(_run, RunLine.Along(ways.Way(_run[^1], to)));
    }
}
