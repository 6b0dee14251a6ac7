using EvenThimble.Core.Geometry;

namespace EvenThimble.Core.Outlining;

/// <summary>
/// Makes the corners of a ring sharp that was found as the middle of throws: about a corner throws fan out, and their middles pass it on one side or the other. Where the ways before and after
/// it are straight, both are led on to where they meet. The method is our own.
/// </summary>
internal sealed class MiddleCorners
{
    private const double SharpTurn = 0.5; // radians
    private const double StraightMm = 1.6;
    private const double StraightWithin = 0.05;
    private const double FanTurn = 1.2;
    private const double FlattestCross = 0.05;
    private const double FanRadius = 1.25; // half widths: throws that fan out about the inside of a corner
    private const int MostBetween = 30;
    private readonly IReadOnlyList<Point> _ring;
    private readonly double _halfWidth;

    private MiddleCorners(IReadOnlyList<Point> ring, double halfWidth) => (_ring, _halfWidth) = (ring, halfWidth);

    /// <summary>The ring, which does not repeat its first point, with sharp corners.</summary>
    public static List<Point> Sharpened(IReadOnlyList<Point> ring, double halfWidth) => ring.Count < 8 ? [.. ring] : new MiddleCorners(ring, halfWidth).Sharpened();

    private List<Point> Sharpened()
    {
        var n = _ring.Count;
        var ways = Enumerable.Range(0, n).Select(i => (Into: Straight(i, -1), Out: Straight(i, 1))).ToArray();
        var step = Enumerable.Range(0, n).Select(i => _ring[i].DistanceTo(_ring[(i + 1) % n])).Order().ElementAt(n / 2);
        var corners = new List<(int Before, int Between, Point At)>();
        for (var i = 0; i < n; i++)
        {
            if (ways[i].Into is not { } came) continue;
            for (var between = 0; between <= MostBetween; between++)
            {
                var after = (i + between + 1) % n;
                if (ways[after].Out is not { } goes) continue;
                var cross = came.Way.Cross(goes.Way);
                // What would turn as far if it went on bending as before is no corner.
                var bent = Math.Max(came.Bend, goes.Bend) * (StraightMm + ((between + 1) * step));
                var turn = Math.Abs(Math.Atan2(cross, came.Way.Dot(goes.Way)));
                if (Math.Abs(cross) < FlattestCross || turn < (between > 2 ? FanTurn : SharpTurn) + (1.5 * bent) || (between > 2 && between * step > FanRadius * _halfWidth * turn)) continue;
                var (from, to) = (_ring[i], _ring[after]);
                var (ahead, behind) = ((to - from).Cross(goes.Way) / cross, (to - from).Cross(came.Way) / cross);
                // A tip that is rounded begins farther from where its sides would meet.
                var most = (1.1 * _halfWidth) + (1.5 * step);
                if (ahead <= -0.05 || behind > 0.05 || ahead > most || -behind > most) continue;
                corners.Add((i, between, from + (came.Way * ahead)));
                break;
            }
        }

        // Of corners that share points the one that leaves out least.
        var taken = new bool[n];
        var chosen = new Dictionary<int, (int Between, Point At)>();
        foreach (var (before, between, at) in corners.OrderBy(c => c.Between))
        {
            var its = Enumerable.Range(before, between + 2).Select(k => k % n).ToList();
            if (its.Exists(k => taken[k])) continue;
            its.ForEach(k => taken[k] = true);
            chosen[before] = (between, at);
        }

        var dropped = chosen.SelectMany(c => Enumerable.Range(c.Key + 1, c.Value.Between).Select(k => k % n)).ToHashSet();
        var made = new List<Point>(n);
        for (var i = 0; i < n; i++)
        {
            if (!dropped.Contains(i)) made.Add(_ring[i]);
            if (chosen.TryGetValue(i, out var corner)) made.Add(corner.At);
        }

        return made;
    }

    /// <summary>The direction in which the ring goes where the points before a place, or behind it, lie on a nearly straight line, and how much that bends, radians a mm; null where they do not.</summary>
    private (Point Way, double Bend)? Straight(int at, int step)
    {
        var n = _ring.Count;
        var (length, k) = (0.0, 0);
        while ((length < StraightMm || k < 2) && k < n / 3)
        {
            length += Of(at + (k * step)).DistanceTo(Of(at + ((k + 1) * step)));
            k++;
        }

        if (k < 2) return null;
        var unit = (Of(at + (k * step)) - Of(at)).Unit();
        var off = 0.0;
        for (var j = 1; j < k; j++) off = Math.Max(off, Math.Abs((Of(at + (j * step)) - Of(at)).Cross(unit)));
        return off > StraightWithin ? null : (unit * step, 8 * off / (length * length));
    }

    private Point Of(int i) => _ring[((i % _ring.Count) + _ring.Count) % _ring.Count];
}
