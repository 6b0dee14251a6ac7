using EvenThimble.Core.Craft;
using EvenThimble.Core.Geometry;
using EvenThimble.Core.Recognition;

namespace EvenThimble.Core.Respacing;

/// <summary>Rows that are bowed, wavy or fanned out: a new row lies between two old ones, each place of it as far along the way from the one to the other, whatever their shape.</summary>
internal sealed class BentRowMaking
{
    private const double Fine = 0.5;

    // The direction in which a row begins is seen so far along it, mm.
    private const double Ahead = 0.3;

    // A place of a row that lies so many times farther than usual from the next has nothing beside it there: one of them is longer.
    private const double NothingBeside = 2.8;
    private const int LooksAhead = 12;

    // Long and short rows take turns where the length changes by more than this part of the longer, and back within so many rows.
    private const double TurnsBy = 0.15;
    private const int TurnsWithin = 3;
    private readonly Remaking _making;
    private readonly Passage _passage;

    // The old rows at their size, from left to right, finely divided and rounded.
    private readonly Point[][] _rows;
    private readonly double _stitch;
    private readonly double _usual;

    // Lengths of the old rows, and between which two of them long and short take turns; how much longer new rows were so far than old ones on the same ground, mm.
    private readonly double[] _lengths;
    private readonly bool[] _takeTurns;
    private double _tooLong;

    public BentRowMaking(Remaking making, Passage passage)
    {
        (_making, _passage) = (making, passage);
        _rows = [.. passage.Rungs.Select((r, k) => Rounded([.. Enumerable.Range(r.First, r.Last - r.First + 1).Select(making.Sized)], reversed: k % 2 == 1))];
        _usual = passage.SpacingMm * making.Size.OfLength;
        _lengths = Array.ConvertAll(_rows, Polylines.Length);
        _takeTurns = TakeTurns(_lengths);

        // Made smaller, bends are tighter: stitches are a little shorter there, so that they do not cut them.
        _stitch = passage.IsUndivided ? making.LongestThrow(passage) : (passage.StitchLength > 0.8 ? passage.StitchLength : Limits.FillStitch) * Math.Min(1, Math.Sqrt(making.Size.OfLength));
    }

    public void Make()
    {
        var weights = new double[_rows.Length - 1];
        for (var k = 0; k < weights.Length; k++) weights[k] = Growth(k) / _making.Lighter;
        RowPlaces.Sew(_making, _passage, weights, weights, [], _stitch, (place, _, rightwards, number) => Sew(place, rightwards, number));
    }

    /// <summary>How many rows take the place of one: areas grow by the sizing's, and rows by what they do along themselves.</summary>
    private double Growth(int k)
    {
        var size = _making.Size;
        if (size.IsEven) return size.Across;
        var rung = _passage.Rungs[k];
        var (was, now) = (0.0, 0.0);
        for (var i = rung.First; i < rung.Last; i++) (was, now) = (was + _making.Was(i).DistanceTo(_making.Was(i + 1)), now + _making.Sized(i).DistanceTo(_making.Sized(i + 1)));
        return was < 1e-6 ? size.OfLength : size.OfArea / (now / was);
    }

    private void Sew(double place, bool rightwards, int number)
    {
        var row = At(place, rightwards);
        var length = Polylines.Length(row);
        var clear = Math.Min(1.0, _stitch / 4);
        var shift = number * Limits.RowShift * _stitch;
        var places = new List<double> { 0 };
        for (var x = shift - (Math.Floor(shift / _stitch) * _stitch); x < length - clear; x += _stitch)
            if (x > clear)
                places.Add(x);
        if (length >= Remaking.Nearest) places.Add(length);
        if (!rightwards) places.Reverse();
        var points = Along(row, places);
        if (length > 2 * Remaking.Nearest)
        {
            var ahead = Along(row, [rightwards ? Ahead : length - Ahead])[0] - points[0];
            if (_making.DrawnIn(points[0], ahead.Unit()) is var aside and > 0) points[0] = Along(row, [rightwards ? aside : length - aside])[0];
        }

        if (_making.Run[^1].DistanceTo(points[0]) >= Limits.ShortestStitch) _making.GoTo(points[0], _stitch);
        foreach (var p in points.Skip(1)) _making.Add(p);
    }

    /// <summary>The line at a place among the old rows; beyond the outermost it goes on as they do.</summary>
    private Point[] At(double place, bool rightwards)
    {
        var at = Math.Clamp((int)Math.Floor(place), 0, _rows.Length - 2);
        var t = place - at;
        var (row, other, part) = TakesFirst(at, t, rightwards) ? (_rows[at], _rows[at + 1], t) : (_rows[at + 1], _rows[at], 1 - t);
        var steps = Steps(row, other);
        return [.. row.Select((p, i) => p + (steps[i] * part))];
    }

    /// <summary>Between which rows, each and the next, the length changes by much, and back before and after.</summary>
    private static bool[] TakeTurns(double[] lengths)
    {
        int[] changes = [.. lengths.Skip(1).Select((next, k) => Math.Abs(next - lengths[k]) > TurnsBy * Math.Max(next, lengths[k]) ? Math.Sign(next - lengths[k]) : 0)];
        return [.. changes.Select((change, k) => change != 0 && IsBack(k, -1) && IsBack(k, 1))];

        // The nearest other change on a side, if there is one in reach, goes the other way.
        bool IsBack(int k, int step)
        {
            for (var j = k + step; j >= 0 && j < changes.Length && Math.Abs(j - k) <= TurnsWithin; j += step)
                if (changes[j] != 0)
                    return changes[j] != changes[k];
            return k + (step * TurnsWithin) is var end && (end < 0 || end >= changes.Length);
        }
    }

    /// <summary>
    /// Whether a new row takes the shape of the old one before it rather than of that after it, and notes by how much it is too long then. It takes that of the nearer; where long and short rows take turns, of the one that begins where
    /// the last ended, or else of the one that keeps as much of either as there was: otherwise of every second row all the short ones could be left out.
    /// </summary>
    private bool TakesFirst(int at, double t, bool rightwards)
    {
        if (!_takeTurns[at]) return t < 0.5;
        double Away(int k) => _making.Run[^1].DistanceTo(rightwards ? _rows[k][0] : _rows[k][^1]);
        var (first, second, due) = (_lengths[at], _lengths[at + 1], LengthAbout(at + t));
        var farther = Away(at + 1) - Away(at);
        var isFirst = Math.Abs(farther) > Math.Abs(first - second) / 2 ? farther > 0 : Math.Abs(_tooLong + first - due) < Math.Abs(_tooLong + second - due);
        _tooLong += (isFirst ? first : second) - due;
        return isFirst;
    }

    /// <summary>The mean length of the old rows on whose ground a new one lies, mm.</summary>
    private double LengthAbout(double place)
    {
        var half = _making.Lighter / _making.Size.OfLength / 2;
        var (from, to) = (Math.Max(-0.5, place - half), Math.Min(_rows.Length - 0.5, place + half));
        var (sum, all) = (0.0, 0.0);
        for (var k = (int)Math.Round(from); k <= (int)Math.Round(to) && k < _rows.Length; k++)
        {
            var part = Math.Min(to, k + 0.5) - Math.Max(from, k - 0.5);
            (sum, all) = (sum + (part * _lengths[k]), all + part);
        }

        return sum / all;
    }

    /// <summary>From each place of a row the way to the nearest of another; where nothing of it lies beside, as far square to the row as usual.</summary>
    private Point[] Steps(Point[] row, Point[] other)
    {
        var (steps, sides, at) = (new Point?[row.Length], 0, 0);
        for (var i = 0; i < row.Length; i++)
        {
            // Both go the same way: the nearest place moves on with this one.
            var (nearest, best) = (double.PositiveInfinity, other[0]);
            for (var k = i == 0 ? 0 : Math.Max(0, at - 2); k < other.Length - 1 && (i == 0 || k < at + LooksAhead); k++)
            {
                var (a, way) = (other[k], other[k + 1] - other[k]);
                var q = a + (way * Math.Clamp((row[i] - a).Dot(way) / Math.Max(1e-9, way.Dot(way)), 0, 1));
                if (q.DistanceTo(row[i]) >= nearest) continue;
                (nearest, best, at) = (q.DistanceTo(row[i]), q, k);
            }

            if (nearest > NothingBeside * _usual) continue;
            steps[i] = best - row[i];
            sides += Math.Sign(Way(row, i).Cross(best - row[i]));
        }

        return [.. steps.Select((s, i) => s ?? (new Point(-Way(row, i).Y, Way(row, i).X) * (_usual * Math.Sign(sides))))];
    }

    private static Point Way(Point[] row, int i) => (row[Math.Min(row.Length - 1, i + 1)] - row[Math.Max(0, i - 1)]).Unit();

    /// <summary>The points of a line at distances from its beginning that rise or fall steadily.</summary>
    private static List<Point> Along(Point[] line, List<double> places)
    {
        var walked = new double[line.Length];
        for (var i = 1; i < line.Length; i++) walked[i] = walked[i - 1] + line[i - 1].DistanceTo(line[i]);
        return places.ConvertAll(place =>
        {
            var found = Array.BinarySearch(walked, place);
            var at = Math.Clamp(found >= 0 ? found : ~found - 1, 0, line.Length - 2);
            var step = walked[at + 1] - walked[at];
            return line[at].Toward(line[at + 1], step < 1e-9 ? 0 : Math.Clamp((place - walked[at]) / step, 0, 1));
        });
    }

    /// <summary>A curve through needle points, finely divided (Catmull and Rom, "A class of local interpolating splines", 1974; centripetal, after Yuksel, Schaefer and Keyser, 2011).</summary>
    private static Point[] Rounded(Point[] through, bool reversed)
    {
        if (reversed) Array.Reverse(through);
        var line = new List<Point> { through[0] };
        for (var i = 0; i + 1 < through.Length; i++)
        {
            var (b, c) = (through[i], through[i + 1]);
            var (a, d) = (i > 0 ? through[i - 1] : b + (b - c), i + 2 < through.Length ? through[i + 2] : c + (c - b));
            var pieces = Math.Max(1, (int)Math.Ceiling(b.DistanceTo(c) / Fine));
            var (ab, bc, cd) = (Knot(a, b), Knot(b, c), Knot(c, d));
            for (var s = 1; s <= pieces; s++)
            {
                var t = bc * s / pieces;
                var (p, q, r) = (a.Toward(b, (ab + t) / ab), b.Toward(c, t / bc), c.Toward(d, (t - bc) / cd));
                line.Add(p.Toward(q, (ab + t) / (ab + bc)).Toward(q.Toward(r, t / (bc + cd)), t / bc));
            }
        }

        return [.. line];

        static double Knot(Point from, Point to) => Math.Max(1e-3, Math.Sqrt(from.DistanceTo(to)));
    }
}
