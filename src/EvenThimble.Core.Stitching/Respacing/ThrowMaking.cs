using EvenThimble.Core.Craft;
using EvenThimble.Core.Digitizing.Satin;
using EvenThimble.Core.Geometry;
using EvenThimble.Core.Recognition;

namespace EvenThimble.Core.Respacing;

/// <summary>Throws of satin, or rows that run on the slant from edge to edge: both rails are followed at their size, and the needle goes from one to the other.</summary>
internal sealed class ThrowMaking
{
    private const double ShortReach = 0.9;
    private const double TooNarrow = 0.45;
    private const double NarrowStitch = 1.0;
    private const double MostOff = 0.06;
    private const double Sharp = Math.PI / 3;
    private const double ArmLength = 0.8;
    private const int FewestBetween = 4;

    // How far the number of throws of a wide zigzag goes from what keeps them as far apart to what keeps their thread.
    private const double TowardThread = 0.4;

    // Of throws that have become so short that hardly any would have as much thread, that many are meant, as a part of what keeps them as far apart.
    private const double LeastThread = 0.6;

    // A ring closes where its last throw lies so many spacings from its first, and as much along it as the cosine tells.
    private const double ClosesWithin = 1.6;
    private const double ClosesAlong = 0.9;

    // Along a rail, a stitch of less than this part of a throw is a step.
    private const double StepOfThrow = 0.1;

    // A needle point within a throw is not sewn nearer than this to another, mm.
    private const double NearestSplit = 1.0;

    // Length of the mean of all directions (1 when they are the same) below which rows fan out.
    private const double Together = 0.95;
    private readonly Remaking _making;
    private readonly Point[] _points;
    private readonly int[] _sides;
    private readonly double[] _reach;
    private readonly double _longest;
    private readonly bool _dense;
    private readonly RowNeedles? _needles;

    // Where needle points fall within the throw from a point to the next, as parts of its length; and whether any throw has some.
    private readonly double[][] _splits;
    private readonly bool _isSplit;
    private readonly double[] _shortsDue = [0.5, 0.5];

    // How many throws, in old ones, would lead from the last point to the first, where they close a ring; 0 where they do not.
    private readonly double _closing;

    public ThrowMaking(Remaking making, Passage passage)
    {
        _making = making;

        // The ends of throws in turn; where a throw begins anew beside the last the side stays.
        var (points, sides) = (new List<int> { passage.Rungs[0].First, passage.Rungs[0].Last }, new List<int> { 0, 1 });
        var splits = new List<double[]> { SplitsOf(passage.Rungs[0]) };
        foreach (var rung in passage.Rungs.Skip(1))
        {
            if (rung.First != points[^1])
            {
                points.Add(rung.First);
                sides.Add(sides[^1]);
                splits.Add([]);
            }

            points.Add(rung.Last);
            sides.Add(1 - sides[^1]);
            splits.Add(SplitsOf(rung));
        }

        (_points, _sides) = ([.. points.Select(making.Sized)], [.. sides]);
        (_splits, _isSplit) = ([.. splits], splits.Exists(s => s.Length > 0));
        _longest = making.LongestThrow(passage);
        _dense = passage.IsDense;
        _needles = passage.Kind == PassageKind.Fill && !Fans(passage) ? new(making, passage, Along(passage)) : null;

        // Wide zigzags and rows have no short throws.
        _reach = _dense && _needles is null ? Reaches() : [.. _points.Select(_ => 1.0)];
        _closing = _dense && _needles is null ? Closing(passage.SpacingMm * making.Size.OfLength) : 0;
    }

    public void Make()
    {
        var weights = new double[_points.Length - 1];

        // A step along a rail is no throw; longer ones are throws that were made short.
        for (var k = 0; k < weights.Length; k++)
        {
            var asFarApart = IsStep(k) ? 0 : Growth(k) / _making.Lighter;
            weights[k] = _dense || _needles is not null ? asFarApart : Leaning(k, asFarApart);
        }

        var (number, from) = (0, 0);
        foreach (var to in Fixed())
        {
            // From one fixed point to the next as many throws as lead to its side; where that would change the spacing too much, one more on the spot.
            // The gap that closes a ring grows with it, and more throws fill it.
            var more = to == _points.Length - 1 ? _closing * (weights[to - 1] - 1) : 0;
            var closes = more > 0;
            var total = weights.Skip(from).Take(to - from).Sum() + Math.Max(0, more);
            var throws = Math.Max(1, (int)Math.Round(total));
            var side = _sides[from];
            if (throws % 2 == 1 == (side == _sides[to]))
            {
                var other = throws > total && throws > 1 ? throws - 1 : throws + 1;
                if (Math.Abs(other - total) <= MostOff * total) throws = other;
                else Throw(from, side = 1 - side, number++);
            }

            var (at, sum) = (from, 0.0);
            for (var k = 1; k <= throws; k++)
            {
                var wanted = total * k / throws;
                while (at < to - 1 && sum + weights[at] < wanted) sum += weights[at++];
                side = 1 - side;
                Throw(k == throws && !closes ? to : at + (weights[at] < 1e-9 ? 1 : Math.Clamp((wanted - sum) / weights[at], 0, closes ? 1 + _closing : 1)), side, number++, isLast: k == throws && to == _points.Length - 1 && !closes);
            }

            if (closes) _making.EndsAcross = true;
            from = to;
        }
    }

    /// <summary>How many throws would lead from the last point to the first, as far apart as usual; 0 where the first does not lie beside the last, farther on.</summary>
    /// <param name="spacing">Of needle points on one side, mm at their size.</param>
    private double Closing(double spacing)
    {
        const int back = 6;
        var n = _points.Length - 1;
        if (n < 2 * back) return 0;
        var (steps, seen) = (0.0, 0);
        foreach (var first in new[] { 0, 1 })
        {
            var last = _sides[n] == _sides[first] ? n : n - 1;
            if (_sides[last] != _sides[first] || _sides[last - back] != _sides[first]) return 0;
            var (way, on) = (_points[first] - _points[last], _points[last] - _points[last - back]);
            if (way.Length > ClosesWithin * spacing) return 0;
            if (on.Length < spacing) continue; // throws turn about this side
            if (way.Dot(on) < ClosesAlong * way.Length * on.Length) return 0;
            (steps, seen) = (steps + (back * way.Length / on.Length), seen + 1);
        }

        return seen == 0 ? 0 : Math.Max(0, (steps / seen) - 1);
    }

    private bool IsStep(int k) => _sides[k] == _sides[k + 1] && k > 0 && _points[k].DistanceTo(_points[k + 1]) < StepOfThrow * _points[k - 1].DistanceTo(_points[k]);

    /// <summary>Points that are sewn at every size: the last; where a rail of a wide zigzag turns; both ends of the first and last of rows on the slant, whose ends lie far apart.</summary>
    private IEnumerable<int> Fixed()
    {
        var last = _points.Length - 1;
        if (last < 2 * FewestBetween) return [last];
        if (_needles is not null) return [1, last - 1, last];
        return _dense ? [last] : [.. Corners(), last];
    }

    /// <summary>Points where a rail turns sharply: a throw of a wide zigzag leads to each of them at every size, so that tips are not cut off.</summary>
    private List<int> Corners()
    {
        var turns = new double[_points.Length];
        for (var k = 0; k < turns.Length; k++)
            if (_reach[k] >= 1 && Arm(k, -1) is { } before && Arm(k, 1) is { } after && _points[before].DistanceTo(_points[after]) is var span)
                turns[k] = span < 1e-6 ? Math.PI : Math.Acos(Math.Clamp((_points[k] - _points[before]).Unit().Dot((_points[after] - _points[k]).Unit()), -1, 1));
        var corners = new List<int>();
        foreach (var k in Enumerable.Range(0, turns.Length).Where(k => turns[k] > Sharp).OrderByDescending(k => turns[k]))
            if (k >= FewestBetween && k < turns.Length - FewestBetween && corners.TrueForAll(c => Math.Abs(c - k) >= FewestBetween))
                corners.Add(k);
        corners.Sort();
        return corners;
    }

    /// <summary>The nearest point on the same side that lies far enough to tell a direction; null beyond the end.</summary>
    private int? Arm(int k, int step)
    {
        for (var j = k + step; j >= 0 && j < _points.Length; j += step)
            if (_sides[j] == _sides[k] && _points[j].DistanceTo(_points[k]) >= ArmLength)
                return j;
        return null;
    }

    /// <summary>How many throws take the place of one: areas grow by the sizing's, and throws by what they do along themselves; the rest is between them.</summary>
    private double Growth(int k)
    {
        var size = _making.Size;
        if (size.IsEven) return size.Across;

        // Throws slant both ways: their middle direction is that of two together.
        var throws = _points[k + 1] - _points[k];
        var other = k + 2 < _points.Length ? _points[k + 1] - _points[k + 2] : k > 0 ? _points[k - 1] - _points[k] : throws;
        var way = throws.Unit() + other.Unit();
        if (way.Length < 0.1) way = throws;
        return way.Length < 1e-6 ? size.OfLength : size.OfArea / (way.Length / size.Undo(way).Length);
    }

    /// <summary>
    /// How many throws of a wide zigzag take the place of one. As far apart as before they lie more on the slant the shorter they are, and so closer to each other and with more thread;
    /// with as much thread they lie farther apart. In between neither is off by much.
    /// </summary>
    /// <param name="k">The throw.</param>
    /// <param name="asFarApart">How many would lie as far apart along the zigzag as before.</param>
    private double Leaning(int k, double asFarApart)
    {
        var (way, was) = (_points[k + 1] - _points[k], _making.Size.Undo(_points[k + 1] - _points[k]).Length);
        var next = k + 2 < _points.Length ? k + 2 : k - 1;
        if (next < 0 || _sides[next] != _sides[k] || asFarApart < 1e-9) return asFarApart;

        // Along the zigzag, and across: what two throws together go on, and what is left of one.
        var on = Math.Min((_points[next] - _points[k]).Length / 2, way.Length);
        var across = Math.Sqrt((way.Length * way.Length) - (on * on));
        var thread = was * _making.Size.OfArea / _making.Lighter;
        if (across < Remaking.Nearest) return asFarApart;
        var asMuch = Math.Sqrt(Math.Max(0, (thread * thread) - (on * on))) / across;
        return asFarApart * Math.Pow(Math.Max(LeastThread, asMuch / asFarApart), TowardThread);
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
        var to = isLast ? _points[^1] : Reached(side, place);
        var run = _making.Run;
        var from = run[^1];
        if (isLast && from.DistanceTo(to) < Remaking.Nearest)
        {
            _making.EndAt(to, Remaking.Nearest);
            return;
        }

        // Where both rails run together a line is left of the satin.
        if (!isLast && Rail(1 - side, place).DistanceTo(to) < TooNarrow)
        {
            var middle = Rail(1 - side, place).Toward(to, 0.5);
            if (from.DistanceTo(middle) >= NarrowStitch) run.Add(middle);
            return;
        }

        if (from.DistanceTo(to) < Remaking.Nearest) return;
        if (_needles is null)
        {
            foreach (var p in Splits(place, side).Select(part => from.Toward(to, part)).Where(p => p.DistanceTo(to) >= NearestSplit && p.DistanceTo(from) >= NearestSplit))
                if (run[^1].DistanceTo(p) >= NearestSplit)
                    SatinThrows.Throw(run, p, number, _longest);
            SatinThrows.Throw(run, to, number, _longest);
            return;
        }

        run.AddRange(_needles.Between(from, to, number, (int)place));
        run.Add(to);
    }

    /// <summary>Where the needle falls within a throw to a side, as parts of its length: as in the nearest old throw of that direction, so that a pattern in them stays.</summary>
    private double[] Splits(double place, int side)
    {
        if (!_isSplit) return [];
        var at = Math.Clamp((int)Math.Ceiling(place) - 1, 0, _splits.Length - 1);
        for (var d = 0; d < _splits.Length; d++)
        {
            if (at - d >= 0 && IsTo(at - d)) return _splits[at - d];
            if (at + d < _splits.Length && IsTo(at + d)) return _splits[at + d];
        }

        return [];

        bool IsTo(int k) => _sides[k + 1] == side && _sides[k] != side;
    }

    private double[] SplitsOf(LadderRung rung)
    {
        var way = _making.Was(rung.Last) - _making.Was(rung.First);
        return [.. Enumerable.Range(rung.First + 1, Math.Max(0, rung.Last - rung.First - 1)).Select(i => (_making.Was(i) - _making.Was(rung.First)).Dot(way) / Math.Max(1e-9, way.Dot(way))).Where(part => part is > 0 and < 1).Order()];
    }

    /// <summary>Whether rows turn so far that there is no one way along all of them.</summary>
    private bool Fans(Passage passage)
    {
        var ways = passage.Rungs.Select((r, k) => ((_making.Was(r.Last) - _making.Was(r.First)) * (k % 2 == 0 ? 1 : -1)).Unit()).ToList();
        var mean = ways.Aggregate(Point.Zero, (sum, way) => sum + way) / ways.Count;
        return mean.Length < Together;
    }

    /// <summary>The way of rows that go there and back.</summary>
    private Point Along(Passage passage) => passage.Rungs
        .Select((r, k) => (_making.Sized(r.Last) - _making.Sized(r.First)) * (k % 2 == 0 ? 1 : -1))
        .Aggregate(Point.Zero, (sum, way) => sum + way).Unit();

    /// <summary>Where a throw ends: on the rail, or short of it as often and by as much as throws about there were.</summary>
    private Point Reached(int side, double place)
    {
        var full = Rail(side, place);
        var nearest = Nearby(place, side);
        var (shorts, seen, reach) = (0, 0, 0.0);
        foreach (var k in Around(nearest, side).Append(nearest))
        {
            seen++;
            if (_reach[k] >= 1) continue;
            shorts++;
            reach += _reach[k];
        }

        if (shorts == 0) return full;
        _shortsDue[side] += shorts / (double)seen;
        if (_shortsDue[side] < 1) return full;
        _shortsDue[side]--;
        return Rail(1 - side, place).Toward(full, reach / shorts);
    }

    /// <summary>The place of a rail at a place along the throws, drawn through the points that are not short.</summary>
    private Point Rail(int side, double place)
    {
        var last = _points.Length - 1;
        if (place > last && Full(last, -1, side) is >= 0 and var end && Full(0, 1, side) is >= 0 and var begin)
            return _points[end].Toward(_points[begin], Math.Clamp((place - end) / (last - end + _closing + begin), 0, 1));
        var at = Math.Clamp((int)Math.Floor(place), 0, last);
        var (before, after) = (Full(at, -1, side), Full(Math.Min(at + 1, last), 1, side));
        return before < 0 ? _points[Math.Max(after, 0)] : after < 0 || before == after ? _points[before]
            : _points[before].Toward(_points[after], Math.Clamp((place - before) / (after - before), 0, 1));
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
