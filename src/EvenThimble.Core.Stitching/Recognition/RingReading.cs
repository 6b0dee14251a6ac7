using EvenThimble.Core.Geometry;
using EvenThimble.Core.Work;

namespace EvenThimble.Core.Recognition;

/// <summary>Stitches of a thread that lie in rings: lines of one direction beside each other at a steady distance.</summary>
/// <param name="From">The first needle point.</param>
/// <param name="To">The last one.</param>
/// <param name="SpacingMm">Usual distance of neighbouring lines, mm.</param>
/// <param name="Confidence">How sure that is, 0 to 1.</param>
internal readonly record struct RingStretch(int From, int To, double SpacingMm, double Confidence);

/// <summary>
/// Finds fills whose rows follow the edge inwards or wind in a spiral. Square to each stitch, on either side, the nearest other line of the thread is looked for: in rings it goes the same way at a
/// steady distance, where rows and throws that go to and fro have the opposite way beside them. The method is our own.
/// </summary>
internal sealed class RingReading
{
    private const double Widest = 1.3;

    // Lines that are farther apart are no rows unless they are read as such.
    private const double WidestRows = 0.9;

    // Lines that run about a shape at a distance of more than this are an echo of it, and no fill, mm.
    private const double WidestRings = 1.0;
    private const double Nearest = 0.12;
    private const double SameWay = 0.85;
    private const double OtherWay = -0.7;
    private const double ClearlyNearer = 0.75;
    private const double ShortestLooked = 0.25;

    // A stretch goes on over stitches that are none for as long as it gains more than it loses.
    private const double Loss = 1.2;
    private const int FewestStitches = 30;
    private const double LeastShare = 0.8;
    private const double LeastInside = 0.4;
    private const double LeastSteady = 0.75;
    private const double Narrower = 0.65;
    private const double Wider = 1.4;

    // What is left before and after a stretch is of it too when it is so much shorter and has so much of rings.
    private const double MostRest = 0.25;
    private const double LeastOfRest = 0.2;

    // Of every so many stitches one is looked at first: most threads have no rings at all.
    private const int Sample = 7;
    private const double WorthALook = 0.3;

    private readonly Point[] _points;
    private readonly CellIndex _stitches;

    private RingReading(Point[] points, int from, int to)
    {
        _points = points;
        _stitches = new(points, from, to, span: 1, Widest);
    }

    /// <summary>The stretches between two needle points of an unbroken thread that lie in rings, in their order.</summary>
    public static List<RingStretch> Find(Point[] points, int from, int to)
    {
        var found = new List<RingStretch>();
        if (to - from >= FewestStitches) new RingReading(points, from, to).Find(from, to, found);
        return found;
    }

    /// <summary>How much of a thread has other lines of it beside it.</summary>
    /// <param name="Share">The part with one on any side, 0 to 1.</param>
    /// <param name="Between">The part with one on either side, 0 to 1.</param>
    /// <param name="UsualMm">How far the nearest usually lies, mm.</param>
    public readonly record struct LinesBeside(double Share, double Between, double UsualMm);

    /// <summary>How much of the thread between two needle points has another line of it beside it within a distance, whichever way that goes; nothing where there is too little to tell.</summary>
    /// <param name="points">The needle points.</param>
    /// <param name="from">The first one.</param>
    /// <param name="to">The last one.</param>
    /// <param name="within">The distance, mm.</param>
    public static LinesBeside Neighbours(Point[] points, int from, int to, double within = WidestRows)
    {
        if (to - from < FewestStitches) return default;
        var reading = new RingReading(points, from, to);
        var (all, beside, between, distances) = (0.0, 0.0, 0.0, new List<double>());
        for (var i = from; i < to; i++)
        {
            var length = reading.Length(i);
            all += length;
            var (one, other) = reading.Around(i).OnEitherSide;
            if (Math.Min(one, other) > within) continue;
            beside += length;
            if (Math.Max(one, other) <= within) between += length;
            distances.Add(Math.Min(one, other));
        }

        return all > 0 ? new(beside / all, between / all, distances.Median()) : default;
    }

    private void Find(int from, int to, List<RingStretch> found)
    {
        if (to - from < FewestStitches) return;
        var looked = Enumerable.Range(0, (to - from) / Sample).Select(k => from + (k * Sample)).ToList();
        if (looked.Count(i => Beside(i).Count > 0) < WorthALook * looked.Count) return;

        // The stretch with the most of them: gained by what has a neighbour, lost by what has none.
        var beside = Enumerable.Range(from, to - from).Select(i => Beside(i)).ToArray();
        var (sum, begin, best, first, last) = (0.0, from, 0.0, from, from);
        for (var i = from; i < to; i++)
        {
            sum += Length(i) * (beside[i - from].Count > 0 ? 1 : -Loss);
            if (sum <= 0) (sum, begin) = (0, i + 1);
            else if (sum > best) (best, first, last) = (sum, begin, i + 1);
        }

        var within = Box.Around(_points.Skip(first).Take(last - first + 1));
        (first, last) = (Rest(from, first) ? from : first, Rest(last, to) ? to : last);
        if (Stretch(first, last, beside[(first - from)..(last - from)]) is not { } stretch) return;
        Find(from, first, found);
        found.Add(stretch);
        Find(last, to, found);

        // Small rings about the middle of a branch are hardly longer than the way to them.
        bool Rest(int begin, int end)
        {
            var (all, ring) = (0.0, 0.0);
            for (var i = begin; i < end; i++)
            {
                all += Length(i);
                if (beside[i - from].Count > 0) ring += Length(i);
            }

            return all > 0 && all < MostRest * best && ring >= LeastOfRest * all && Enumerable.Range(begin, end - begin + 1).All(i => within.Holds(_points[i]));
        }
    }

    private double Length(int i) => _points[i].DistanceTo(_points[i + 1]);

    private RingStretch? Stretch(int first, int last, List<double>[] beside)
    {
        if (last - first < FewestStitches) return null;
        var (all, ring, inside) = (0.0, 0.0, 0.0);
        var distances = new List<double>();
        for (var i = first; i < last; i++)
        {
            var (length, sides) = (Length(i), beside[i - first]);
            all += length;
            if (sides.Count > 0) ring += length;
            if (sides.Count > 1) inside += length;
            distances.AddRange(sides);
        }

        if (ring < LeastShare * all || inside < LeastInside * ring) return null;
        distances.Sort();
        var usual = distances[distances.Count / 2];
        var steady = distances.Count(d => d >= Narrower * usual && d <= Wider * usual) / (double)distances.Count;
        return usual > WidestRings || steady < LeastSteady ? null : new(first, last, usual, Math.Min(ring / all, steady));
    }

    /// <summary>The distances of the lines of the same way beside a stitch, on either side, mm; none where it goes to and fro.</summary>
    private List<double> Beside(int stitch)
    {
        var around = Around(stitch);
        var nearest = Math.Min(around.One, around.Other);
        if (double.IsInfinity(nearest) || Math.Min(around.BackOne, around.BackOther) < ClearlyNearer * nearest) return [];
        var sides = new List<double>(2);
        if (!double.IsInfinity(around.One)) sides.Add(around.One);
        if (!double.IsInfinity(around.Other)) sides.Add(around.Other);
        return sides;
    }

    /// <summary>How far, square to a stitch, other lines lie from it, mm; infinitely far where there is none.</summary>
    /// <param name="One">The nearest of the same way on one side.</param>
    /// <param name="Other">The nearest of the same way on the other side.</param>
    /// <param name="BackOne">The nearest of the opposite way on the one side.</param>
    /// <param name="BackOther">The nearest of the opposite way on the other side.</param>
    private readonly record struct Aside(double One, double Other, double BackOne, double BackOther)
    {
        /// <summary>The nearest of any way on either side; a line that comes back over itself has nothing beside it.</summary>
        public (double One, double Other) OnEitherSide => Math.Min(BackOne, BackOther) < Nearest ? (One, Other) : (Math.Min(One, BackOne), Math.Min(Other, BackOther));
    }

    /// <summary>What lies beside a stitch.</summary>
    private Aside Around(int stitch)
    {
        const double far = double.PositiveInfinity;
        var (a, b) = (_points[stitch], _points[stitch + 1]);
        if (a.DistanceTo(b) < ShortestLooked) return new(far, far, far, far);
        WorkBudget.Current.Spend(2);
        var (way, middle) = ((b - a).Unit(), a.Toward(b, 0.5));
        var (one, other, backOne, backOther) = (far, far, far, far);
        var aside = new Point(-way.Y, way.X);
        foreach (var line in _stitches.Near(middle))
        {
            if (line == stitch) continue;

            // Where the square through the middle meets it.
            var (c, d) = (_points[line] - middle, _points[line + 1] - middle);
            var (fromC, fromD) = (way.Dot(c), way.Dot(d));
            if (fromC > 0 == fromD > 0) continue;
            var at = aside.Dot(c.Toward(d, fromC / (fromC - fromD)));
            if (Math.Abs(at) > Widest) continue;
            var alike = way.Dot((d - c).Unit());

            // Throws go to and fro however close they lie.
            if (alike < OtherWay)
            {
                if (at > 0) backOne = Math.Min(backOne, at);
                else backOther = Math.Min(backOther, -at);
            }
            else if (Math.Abs(at) < Nearest) continue;
            else if (alike > SameWay && Math.Abs(line - stitch) > 1)
            {
                if (at > 0) one = Math.Min(one, at);
                else other = Math.Min(other, -at);
            }
        }

        return new(one, other, backOne, backOther);
    }
}
