using EvenThimble.Core.Digitizing;
using EvenThimble.Core.Digitizing.Satin;
using EvenThimble.Core.Geometry;
using EvenThimble.Core.Recognition;

namespace EvenThimble.Core.Respacing;

/// <summary>Throws of satin: both rails are followed at their size, and the needle goes from one to the other.</summary>
internal sealed class ThrowMaking
{
    private const double ShortReach = 0.9;
    private const double TooNarrow = 0.6;
    private const double NarrowStitch = 1.0;
    private readonly Remaking _making;
    private readonly Point[] _points;
    private readonly int[] _sides;
    private readonly double[] _reach;
    private readonly double _longest;

    public ThrowMaking(Remaking making, Passage passage)
    {
        _making = making;

        // The ends of throws in turn; where a throw begins anew beside the last the side stays.
        var (points, sides) = (new List<int> { passage.Rungs[0].First, passage.Rungs[0].Last }, new List<int> { 0, 1 });
        var longest = 0.0;
        foreach (var rung in passage.Rungs.Skip(1))
        {
            if (rung.First != points[^1])
            {
                points.Add(rung.First);
                sides.Add(sides[^1]);
            }

            points.Add(rung.Last);
            sides.Add(1 - sides[^1]);
        }

        foreach (var rung in passage.Rungs)
            for (var i = rung.First; i < rung.Last; i++)
                longest = Math.Max(longest, making.Was(i).DistanceTo(making.Was(i + 1)));
        (_points, _sides) = ([.. points.Select(making.Sized)], [.. sides]);
        _longest = Math.Max(Craft.LongestThrow, Math.Min(longest, Craft.LongestStitch - 1));
        _reach = Reaches();
    }

    public void Make()
    {
        var weights = new double[_points.Length - 1];
        for (var k = 0; k < weights.Length; k++) weights[k] = Growth(k) / _making.Lighter;
        var places = Remaking.Places(weights, asStrips: false);

        // It ends on the side where it ended; so it may have to begin on the other, with one throw more.
        var side = _sides[^1];
        if ((places.Length - 1) % 2 == 1) side = 1 - side;
        var number = 0;
        if (side != _sides[0]) Throw(0, side, number++);
        for (var k = 1; k < places.Length; k++)
        {
            side = 1 - side;
            Throw(places[k], side, number++, isLast: k == places.Length - 1);
        }
    }

    /// <summary>How many times as long the way along the rails becomes at a throw.</summary>
    private double Growth(int k)
    {
        var size = _making.Size;
        if (size.IsEven) return size.Across;
        var (from, to) = (Math.Max(0, k - 2), Math.Min(_points.Length - 1, k + 3));
        if ((to - from) % 2 == 1) to = to - 1 > from ? to - 1 : to;
        var way = _points[to] - _points[from];
        var was = size.Undo(way);
        return was.Length < 1e-6 ? size.OfLength : way.Length / was.Length;
    }

    /// <summary>
    /// How far each needle point reaches of what the points about it on its side reach: below 1 where a throw was made short on the inside of a bend. Reach is measured from the middle
    /// of the points opposite, since those may be short themselves.
    /// </summary>
    private double[] Reaches()
    {
        var from = new double[_points.Length];
        for (var k = 0; k < from.Length; k++)
        {
            var (sum, seen) = (Point.Zero, 0);
            foreach (var j in Around(k, 1 - _sides[k])) (sum, seen) = (sum + _points[j], seen + 1);
            from[k] = seen == 0 ? 0 : _points[k].DistanceTo(sum / seen);
        }

        var reach = new double[_points.Length];
        for (var k = 0; k < reach.Length; k++)
        {
            var (before, after) = (0.0, 0.0);
            foreach (var j in Around(k, _sides[k]))
            {
                if (j < k) before = Math.Max(before, from[j]);
                if (j > k) after = Math.Max(after, from[j]);
            }

            var usual = Math.Min(before, after);
            reach[k] = usual > 1 && from[k] < ShortReach * usual ? from[k] / usual : 1;
        }

        return reach;
    }

    /// <summary>The nearest points of a side before and after a point.</summary>
    private IEnumerable<int> Around(int k, int side)
    {
        const int each = 3;
        for (int j = k - 1, seen = 0; j >= 0 && seen < each; j--)
        {
            if (_sides[j] != side) continue;
            seen++;
            yield return j;
        }

        for (int j = k + 1, seen = 0; j < _points.Length && seen < each; j++)
        {
            if (_sides[j] != side) continue;
            seen++;
            yield return j;
        }
    }

    private void Throw(double place, int side, int number, bool isLast = false)
    {
        var to = isLast ? _points[^1] : On(side, place);
        var run = _making.Run;
        var from = run[^1];
        if (isLast && from.DistanceTo(to) < Remaking.Nearest)
        {
            _making.EndAt(to, Remaking.Nearest);
            return;
        }

        // Where both rails run together a line is left of the satin.
        if (!isLast && On(1 - side, place).DistanceTo(to) < TooNarrow)
        {
            var middle = On(1 - side, place).Toward(to, 0.5);
            if (from.DistanceTo(middle) >= NarrowStitch) run.Add(middle);
            return;
        }

        if (from.DistanceTo(to) >= Remaking.Nearest) SatinThrows.Throw(run, to, number, _longest);
    }

    /// <summary>The place of a rail at a place along the throws.</summary>
    private Point On(int side, double place)
    {
        var at = Math.Clamp((int)Math.Floor(place), 0, _points.Length - 1);
        var (before, after) = (Full(at, -1, side), Full(Math.Min(at + 1, _points.Length - 1), 1, side));
        var full = before < 0 ? _points[after] : after < 0 ? _points[before] : before == after ? _points[before]
            : _points[before].Toward(_points[after], Math.Clamp((place - before) / (after - before), 0, 1));
        var nearest = Nearby(place, side);
        if (_reach[nearest] >= 1) return full;

        // As short as the nearest throw on this side was.
        var (b, a) = (Full(at, -1, 1 - side), Full(Math.Min(at + 1, _points.Length - 1), 1, 1 - side));
        var facing = b < 0 ? _points[Math.Max(a, 0)] : a < 0 || a == b ? _points[b] : _points[b].Toward(_points[a], Math.Clamp((place - b) / (a - b), 0, 1));
        return facing.Toward(full, _reach[nearest]);
    }

    private int Full(int from, int step, int side)
    {
        for (var k = from; k >= 0 && k < _points.Length; k += step)
            if (_sides[k] == side && _reach[k] >= 1)
                return k;
        return -1;
    }

    private int Nearby(double place, int side)
    {
        var at = (int)Math.Round(place);
        for (var d = 0; d < _points.Length; d++)
        {
            if (at - d >= 0 && at - d < _points.Length && _sides[at - d] == side) return at - d;
            if (at + d >= 0 && at + d < _points.Length && _sides[at + d] == side) return at + d;
        }

        return 0;
    }
}
