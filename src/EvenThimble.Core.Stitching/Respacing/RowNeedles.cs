using EvenThimble.Core.Craft;
using EvenThimble.Core.Geometry;
using EvenThimble.Core.Recognition;
using EvenThimble.Core.Shapes;

namespace EvenThimble.Core.Respacing;

/// <summary>
/// Where the needle falls within rows, found out from bought rows and gone on with in new ones. A pattern keeps its size in millimetres however large the area becomes, and is
/// the same over all sections of a fill, since it hangs on the cloth rather than on where a row begins.
/// </summary>
internal sealed class RowNeedles
{
    private const double EvenStitch = 0.08;
    private const double Most = 0.6;
    private const double SamePlace = 0.15;
    private const double NearestToEnd = 0.6;
    private const double LongestRepeat = 25;
    private const double ShortestRepeat = 1.5;
    private const int MostRowsOfRepeat = 60;

    /// <summary>A row as it came: across all rows, the places of its ends and of its needle points along them, mm.</summary>
    private sealed record Row(double Across, double From, double To, double[] Inside);

    private readonly Row[] _rows;
    private readonly Point _along;
    private readonly double _stitch;
    private readonly double _spacing;
    private readonly double _lighter;
    private readonly Func<Row, int, int, IEnumerable<double>> _fall;

    /// <summary>Reads the rows of a passage.</summary>
    /// <param name="making">Whose stitches they are.</param>
    /// <param name="passage">Of rows.</param>
    /// <param name="along">The way of the rows at their new size.</param>
    public RowNeedles(Remaking making, Passage passage, Point along)
    {
        (_along, _lighter) = (along, making.Lighter);
        _stitch = passage.StitchLength > 0.8 ? passage.StitchLength : Limits.FillStitch;

        // Rows that are leaned or widened unevenly change their direction: the pattern is turned with them.
        var was = making.Size.Undo(along).Unit();
        Point AsItCame(Point p) => new(was.Dot(p), was.Cross(p));
        _rows = [.. passage.Rungs.Select(r =>
        {
            double[] places = [.. Enumerable.Range(r.First, r.Last - r.First + 1).Select(i => AsItCame(making.Was(i)).X).Order()];
            return new Row(AsItCame(making.Was(r.First).Toward(making.Was(r.Last), 0.5)).Y, places[0], places[^1], places[1..^1]);
        })];
        double[] gaps = [.. _rows.Zip(_rows.Skip(1), (a, b) => Math.Abs(b.Across - a.Across)).Order()];
        _spacing = Math.Max(gaps.Length == 0 ? 0 : gaps[gaps.Length / 2], 0.1);
        _fall = Evenly() ?? Regular() ?? Tiled() ?? Drawn(making.Size) ?? Irregular();
    }

    /// <summary>The needle points within a new row, between its ends and in its direction; none too near to them and no stitch too long.</summary>
    /// <param name="from">Where the row begins, mm.</param>
    /// <param name="to">Where it ends, mm.</param>
    /// <param name="number">Of the row, counted from the first new one.</param>
    /// <param name="nearest">Number of the old row that lies nearest.</param>
    public IEnumerable<Point> Between(Point from, Point to, int number, int nearest)
    {
        var length = from.DistanceTo(to);
        var forward = (to - from).Dot(_along) >= 0;
        var (left, right) = forward ? (from, to) : (to, from);
        var start = _along.Dot(left);
        var row = new Row(_along.Cross(left.Toward(right, 0.5)), start, start + length, []);
        var (last, all) = (0.0, new List<double>());
        foreach (var p in _fall(row, number, Math.Clamp(nearest, 0, _rows.Length - 1)).Select(x => x - start).Where(p => p > NearestToEnd && p < length - NearestToEnd).Append(length))
        {
            var pieces = (int)Math.Ceiling((p - last) / Longest);
            for (var s = 1; s < pieces; s++) all.Add(last + ((p - last) * s / pieces));
            if (p < length) all.Add(p);
            last = p;
        }

        if (!forward) all.Reverse();
        return all.Select(p => left.Toward(right, p / length));
    }

    private double Longest => Math.Max(Limits.LongestThrow, Math.Min(_stitch + 1.5, Limits.LongestStitch - 0.5));

    /// <summary>Each row in equal stitches.</summary>
    private Func<Row, int, int, IEnumerable<double>>? Evenly()
    {
        var (even, all, length, stitches) = (0, 0, 0.0, 0);
        foreach (var row in _rows.Where(r => r.Inside.Length > 1))
        {
            var usual = (row.To - row.From) / (row.Inside.Length + 1);
            all++;
            (length, stitches) = (length + row.To - row.From, stitches + row.Inside.Length + 1);
            if (Stitches(row).All(s => Math.Abs(s - usual) < EvenStitch * usual)) even++;
        }

        if (all < 3 || even < Most * all) return null;
        var stitch = length / stitches;
        return (row, _, _) =>
        {
            var pieces = Math.Max(1, (int)Math.Round((row.To - row.From) / stitch));
            return Enumerable.Range(1, pieces - 1).Select(k => row.From + ((row.To - row.From) * k / pieces));
        };
    }

    private static IEnumerable<double> Stitches(Row row) => row.Inside.Append(row.To).Zip(row.Inside.Prepend(row.From), (b, a) => b - a);

    /// <summary>Equal stitches on lines that run across all rows, or that each row sets anew.</summary>
    private Func<Row, int, int, IEnumerable<double>>? Regular()
    {
        var steps = _rows.SelectMany(r => r.Inside.Zip(r.Inside.Skip(1), (a, b) => b - a)).ToList();
        if (steps.Count > 0 && steps.Count(s => Math.Abs(s - _stitch) < EvenStitch * _stitch) < Most * steps.Count) return null;
        var seen = _rows.Where(r => r.Inside.Length > 0).Select(r => (r.Across, Phase: Mean(r.Inside, _stitch))).ToList();
        if (seen.Count < 3)
        {
            if (steps.Count == 0 && _rows.Any(r => r.To - r.From > 2 * _stitch)) return null;
            return (row, number, _) => From(row, number * Limits.RowShift * _stitch);
        }

        // How far the phase moves from a row to the next, and whether always so.
        var shifts = seen.Zip(seen.Skip(1), (a, b) => (Shift: Mod(b.Phase - a.Phase, _stitch), Rows: (b.Across - a.Across) / _spacing)).Where(s => Math.Abs(Math.Abs(s.Rows) - 1) < 0.3).ToList();
        var moves = shifts.Select(s => Mod(s.Shift * Math.Sign(s.Rows), _stitch)).Order().ToList();
        if (moves.Count == 0) return (row, number, _) => From(row, number * Limits.RowShift * _stitch);
        var usual = moves[moves.Count / 2];
        var steady = moves.Count(s => Math.Abs(s - usual) < 0.1 * _stitch || Math.Abs(s - usual) > 0.9 * _stitch);
        if (steady < Most * moves.Count) return (row, number, _) => From(row, seen[((number % seen.Count) + seen.Count) % seen.Count].Phase);
        var shift = usual > _stitch / 2 ? usual - _stitch : usual;
        var first = Mean([.. seen.Select(s => s.Phase - (shift * s.Across / _spacing))], _stitch);
        return (row, _, _) => From(row, first + (shift * row.Across / (_spacing * _lighter))); // the same from row to row, however far they are apart

        IEnumerable<double> From(Row row, double phase)
        {
            var clear = Math.Min(1.0, _stitch / 4);
            for (var x = row.From + Mod(phase - row.From, _stitch); x < row.To - clear; x += _stitch)
                if (x > row.From + clear)
                    yield return x;
        }
    }

    /// <summary>A drawing that repeats along the rows and from row to row.</summary>
    private Func<Row, int, int, IEnumerable<double>>? Tiled()
    {
        var width = Repeat();
        if (width == 0) return null;
        var offset = Mean([.. _rows.Select(r => r.Across)], _spacing);
        int Number(double across) => (int)Math.Round((across - offset) / _spacing);
        var phases = new Dictionary<int, double[]>();
        foreach (var group in _rows.GroupBy(r => Number(r.Across)))
            phases[group.Key] = Apart([.. group.SelectMany(r => r.Inside).Select(x => Mod(x, width)).Order()]);
        for (var rows = 1; rows <= Math.Min(MostRowsOfRepeat, phases.Count / 2); rows++)
        {
            var (same, all) = (0, 0);
            foreach (var (number, points) in phases)
            {
                if (!phases.TryGetValue(number + rows, out var others)) continue;
                all += points.Length;
                same += points.Count(p => others.Any(o => Math.Abs(Mod(p - o + (width / 2), width) - (width / 2)) < SamePlace));
            }

            if (all == 0 || same < Most * all) continue;
            var table = Enumerable.Range(0, rows).Select(k => phases.Where(p => Mod(p.Key, rows) == k).Select(p => p.Value).MaxBy(p => p.Length) ?? []).ToArray();
            return (row, _, _) => table[(int)Mod(Number(row.Across), rows)]
                .SelectMany(phase => Steps(row.From + Mod(phase - row.From, width), row.To, width)).Order();
        }

        return null;
    }

    /// <summary>After which distance (mm) needle points of rows come again; 0 when they do not.</summary>
    private double Repeat()
    {
        const int bins = 10;
        var (met, could) = (new int[(int)(LongestRepeat * bins) + 2], new int[(int)(LongestRepeat * bins) + 2]);
        foreach (var row in _rows)
        {
            for (var i = 0; i < row.Inside.Length; i++)
            {
                // All distances that lie within the row could be met.
                for (var d = 0; d <= Math.Min(LongestRepeat, row.To - 1 - row.Inside[i]) * bins; d++) could[d]++;
                for (var k = i + 1; k < row.Inside.Length && row.Inside[k] - row.Inside[i] <= LongestRepeat; k++) met[(int)Math.Round((row.Inside[k] - row.Inside[i]) * bins)]++;
            }
        }

        for (var d = (int)(ShortestRepeat * bins); d < met.Length - 1; d++)
            if (could[d] > 20 && met[d - 1] + met[d] + met[d + 1] >= Most * could[d] && met[d] >= met[d - 1] && met[d] >= met[d + 1])
                return ((met[d - 1] * (d - 1.0)) + (met[d] * d) + (met[d + 1] * (d + 1.0))) / (met[d - 1] + met[d] + met[d + 1]) / bins;
        return 0;
    }

    /// <summary>Lines drawn across rows by their needle points: they grow with the area, those of the nearest row.</summary>
    private Func<Row, int, int, IEnumerable<double>>? Drawn(Sizing size)
    {
        var (onLine, all) = (0, 0);
        for (var k = 1; k + 1 < _rows.Length; k++)
        {
            foreach (var x in _rows[k].Inside)
            {
                all++;
                if (_rows[k - 1].Inside.Any(a => Math.Abs(a - x) < 1 && _rows[k + 1].Inside.Any(b => Math.Abs(a + b - (2 * x)) < 2 * SamePlace))) onLine++;
            }
        }

        if (all == 0 || onLine < Most * all) return null;
        var grows = size.Apply(size.Undo(_along).Unit()).Length;
        return (row, _, nearest) =>
        {
            // From the middle of the old row to that of the new one.
            var old = _rows[nearest];
            var (was, now) = ((old.From + old.To) / 2, (row.From + row.To) / 2);
            return Apart([.. old.Inside.Select(x => now + ((x - was) * grows))]);
        };
    }

    /// <summary>Stitches as long as theirs, one after another.</summary>
    private Func<Row, int, int, IEnumerable<double>> Irregular()
    {
        var lengths = _rows.SelectMany(r => r.Inside.Zip(r.Inside.Prepend(r.From), (b, a) => b - a)).Where(s => s >= NearestToEnd).ToArray();
        if (lengths.Length == 0) lengths = [_stitch];
        var next = 0;
        return (row, _, _) =>
        {
            var places = new List<double>();
            for (var x = row.From; ; next = (next + 1) % lengths.Length)
            {
                x += lengths[next];
                if (x > row.To - NearestToEnd) return places;
                places.Add(x);
            }
        };
    }

    private static IEnumerable<double> Steps(double from, double to, double step)
    {
        for (var x = from; x < to; x += step) yield return x;
    }

    /// <summary>The places without those that come too near to the one before.</summary>
    private static double[] Apart(double[] places)
    {
        var kept = new List<double>();
        foreach (var p in places)
            if (kept.Count == 0 || p - kept[^1] > NearestToEnd)
                kept.Add(p);
        return [.. kept];
    }

    /// <summary>The mean of places within a period, mm.</summary>
    private static double Mean(double[] places, double period)
    {
        var (sin, cos) = (0.0, 0.0);
        foreach (var p in places) (sin, cos) = (sin + Math.Sin(p / period * 2 * Math.PI), cos + Math.Cos(p / period * 2 * Math.PI));
        return Mod(Math.Atan2(sin, cos) / (2 * Math.PI) * period, period);
    }

    private static double Mod(double value, double by) => ((value % by) + by) % by;
}
