using EvenThimble.Core.Digitizing;
using EvenThimble.Core.Geometry;
using EvenThimble.Core.Recognition;

namespace EvenThimble.Core.Respacing;

/// <summary>Rows of fill: their ends follow both edges at their size; needle points within the rows follow the pattern they had.</summary>
internal sealed class RowMaking
{
    private const double EvenStitch = 0.08;
    private const double SuddenlyLonger = 2.0;

    // What comes next goes on from the last row; only if that ends farther than this from where it did, the needle goes there first.
    private const double FarFromEnd = 1.0;
    private readonly Remaking _making;
    private readonly Passage _passage;
    private readonly Point[] _left;
    private readonly Point[] _right;
    private readonly Point _along;
    private readonly double _stitch;
    private readonly double[]? _phases;
    private readonly double _shift;

    public RowMaking(Remaking making, Passage passage)
    {
        (_making, _passage) = (making, passage);
        var rows = passage.Rungs;
        (_left, _right) = (new Point[rows.Length], new Point[rows.Length]);
        var along = Point.Zero;
        for (var k = 0; k < rows.Length; k++)
        {
            var (a, b) = (making.Sized(rows[k].First), making.Sized(rows[k].Last));
            (_left[k], _right[k]) = k % 2 == 0 ? (a, b) : (b, a);
            along += _right[k] - _left[k];
        }

        _along = along.Unit();
        _stitch = passage.StitchLength > 0.8 ? passage.StitchLength : Craft.FillStitch;
        (_phases, _shift) = Pattern();
    }

    public void Make()
    {
        var weights = new double[_left.Length - 1];
        for (var k = 0; k < weights.Length; k++) weights[k] = Growth(k) / _making.Lighter;
        var places = Remaking.Places(weights, _passage.IsDense);
        // The last row ends where it did; so the first may have to begin at its other end, reached by a way that the row then covers.
        var endsRight = (_left.Length - 1) % 2 == 0;
        var goesRight = (places.Length - 1) % 2 == 0 ? endsRight : !endsRight;
        if (!goesRight) Row(places[0], rightwards: true, -1);
        for (var k = 0; k < places.Length; k++, goesRight = !goesRight) Row(places[k], goesRight, k);
        var end = _making.Sized(_passage.Last);
        if (_making.Run[^1].DistanceTo(end) > FarFromEnd) _making.Run.Add(Divide(end));
    }

    /// <summary>How many times as far apart two rows lie.</summary>
    private double Growth(int k)
    {
        var size = _making.Size;
        if (size.IsEven) return size.Across;

        // Areas grow by the sizing's, and rows by what they do along themselves; the rest is between them.
        var row = _right[k] - _left[k];
        if (row.Length < 1e-6) row = _along;
        return size.OfArea / (row.Length / size.Undo(row).Length);
    }

    private void Row(double place, bool rightwards, int number)
    {
        var at = Math.Clamp((int)Math.Floor(place), 0, _left.Length - 2);
        var t = place - at;
        var (left, right) = (Edge(_left, at, t), Edge(_right, at, t));
        if ((right - left).Dot(_along) <= 0) left = right = left.Toward(right, 0.5); // beyond a tip
        var (from, to) = rightwards ? (left, right) : (right, left);
        var run = _making.Run;
        var length = from.DistanceTo(to);
        if (length < Remaking.Nearest)
        {
            _making.Add(from.Toward(to, 0.5));
            return;
        }

        var way = (to - from).Unit();
        if (run[^1].DistanceTo(from) < Remaking.Nearest)
        {
            // Too near to the end of the row before: this one is drawn in.
            var gap = run[^1] - from;
            var beside = Math.Abs(way.Cross(gap));
            var aside = way.Dot(gap) + Math.Sqrt(Math.Max(0, (Remaking.Nearest * Remaking.Nearest) - (beside * beside)));
            from += way * Math.Clamp(aside, 0, length);
        }

        if (run[^1].DistanceTo(from) >= Craft.ShortestStitch) run.Add(Divide(from));
        foreach (var p in Needles(from, to, way, number, (int)Math.Round(place))) _making.Add(p);
        _making.Add(to);
    }

    /// <summary>
    /// The place of an edge between two rows. Where rows suddenly become longer (a section begins there, or another shape) the edge is not drawn from one end to the other:
    /// each row has the strip beside it.
    /// </summary>
    private Point Edge(Point[] ends, int at, double t)
    {
        var step = _along.Dot(ends[at + 1] - ends[at]);
        var (before, after) = (at > 0 ? Math.Abs(_along.Dot(ends[at] - ends[at - 1])) : 0, at + 2 < ends.Length ? Math.Abs(_along.Dot(ends[at + 2] - ends[at + 1])) : 0);
        if (Math.Abs(step) < SuddenlyLonger + (3 * Math.Max(before, after)) || t is < 0 or > 1) return ends[at].Toward(ends[at + 1], t);
        var aside = ends[at + 1] - ends[at] - (_along * step);
        return t < 0.5 ? ends[at] + (aside * t) : ends[at + 1] - (aside * (1 - t));
    }

    /// <summary>A long way to a row is divided.</summary>
    private Point Divide(Point to)
    {
        var run = _making.Run;
        var (from, length) = (run[^1], run[^1].DistanceTo(to));
        var pieces = (int)Math.Ceiling(length / Math.Max(_stitch + 1.5, Craft.FillStitch));
        for (var s = 1; s < pieces; s++) run.Add(from.Toward(to, s / (double)pieces));
        return to;
    }

    private IEnumerable<Point> Needles(Point from, Point to, Point way, int number, int nearest)
    {
        var (length, forward) = (from.DistanceTo(to), way.Dot(_along) >= 0);
        var start = forward ? _along.Dot(from) : _along.Dot(to);
        var places = new List<double>();
        if (_phases is not null)
        {
            var phase = _shift >= 0 ? _phases[0] + (number * _shift) : _phases[(number + _phases.Length) % _phases.Length];
            for (var x = start + Mod(phase - start, _stitch); x < start + length; x += _stitch) places.Add(x - start);
            var clear = Math.Min(1.0, _stitch / 4);
            places.RemoveAll(p => p < clear || p > length - clear);
        }
        else
        {
            // A pattern: its needle points are those of the nearest row, and grow with it.
            var row = _passage.Rungs[Math.Clamp(nearest, 0, _passage.Rungs.Length - 1)];
            for (var i = row.First + 1; i < row.Last; i++) places.Add(_along.Dot(_making.Sized(i)) - start);
            places.RemoveAll(p => p < 0.6 || p > length - 0.6);
            places.Sort();
        }

        var last = 0.0;
        var longest = Math.Max(Craft.LongestThrow, Math.Min(_stitch + 1.5, Craft.LongestStitch - 0.5));
        var all = new List<double>();
        foreach (var p in places.Append(length))
        {
            var pieces = (int)Math.Ceiling((p - last) / longest);
            for (var s = 1; s < pieces; s++) all.Add(last + ((p - last) * s / pieces));
            if (p < length) all.Add(p);
            last = p;
        }

        return (forward ? all : all.AsEnumerable().Reverse()).Select(p => from + (way * (forward ? p : length - p)));
    }

    /// <summary>Where the needle falls within the rows, when that follows a rule: the places of the first rows within one stitch, and the shift from row to row (below 0 when it changes).</summary>
    private (double[]? Phases, double Shift) Pattern()
    {
        var (even, all) = (0, 0);
        var phases = new List<double>();
        foreach (var row in _passage.Rungs)
        {
            var (cos, sin, seen) = (0.0, 0.0, 0);
            for (var i = row.First + 1; i < row.Last; i++)
            {
                if (i + 1 < row.Last)
                {
                    all++;
                    if (Math.Abs(_making.Was(i).DistanceTo(_making.Was(i + 1)) - _stitch) < EvenStitch * _stitch) even++;
                }

                // At even sizes the pattern is looked for before the sizing and used after it: only the shift counts.
                var angle = _making.Size.Undo(_along).Unit().Dot(_making.Was(i)) / _stitch * 2 * Math.PI;
                (cos, sin, seen) = (cos + Math.Cos(angle), sin + Math.Sin(angle), seen + 1);
            }

            if (seen > 0) phases.Add(Mod(Math.Atan2(sin, cos) / (2 * Math.PI) * _stitch, _stitch));
        }

        if (all > 0 && even < 0.6 * all) return (null, -1);
        if (phases.Count < 3) return ([0], Craft.RowShift * _stitch);
        var shifts = phases.Zip(phases.Skip(1), (a, b) => Mod(b - a, _stitch)).Order().ToArray();
        var usual = shifts[shifts.Length / 2];
        var steady = shifts.Count(s => Math.Abs(s - usual) < 0.1 * _stitch || Math.Abs(s - usual) > 0.9 * _stitch);
        return steady >= 0.6 * shifts.Length ? ([phases[0]], usual) : ([.. phases], -1);
    }

    private static double Mod(double value, double by) => ((value % by) + by) % by;
}
