using EvenThimble.Core.Geometry;
using EvenThimble.Core.Work;

namespace EvenThimble.Core.Digitizing.Satin;

/// <summary>A stroke that joins another one.</summary>
/// <param name="Other">The stroke at the other side.</param>
/// <param name="At">How far along this stroke, mm.</param>
/// <param name="AtOther">How far along the other, mm.</param>
internal readonly record struct Joint(int Other, double At, double AtOther);

/// <summary>
/// How the strokes of an area hang together, and by which joints each is entered from another so that the least goes wrong: every way there and back is taken before it is covered.
/// </summary>
internal sealed class StrokeTree
{
    // Nearer to an end of a stroke than this is at its end, mm.
    private const double AtEnd = 1.0;
    private const int MostRoots = 12;

    // Places along a stroke are looked at so far apart, mm.
    private const double Step = 0.4;

    // So many points of a line are looked at in the time of one step of work.
    private const int StepsOfOne = 16;

    // What goes wrong, by how much it shows: a stroke sewn from the middle to both sides, one that has to begin its satin on itself, one that lies on what it should tuck under.
    private const double FromMiddle = 1;
    private const double OnItself = 1.5;
    private const double OnItsOwner = 0.8;

    private readonly StrokeLayout _layout;
    private readonly List<StrokeRungs> _strokes;
    private readonly List<Joint>[] _joints;

    /// <summary>The strokes of an area, joined where they meet.</summary>
    public StrokeTree(StrokeLayout layout)
    {
        (_layout, _strokes) = (layout, layout.Strokes);
        _joints = [.. _strokes.Select(_ => new List<Joint>())];
        for (var i = 0; i < _strokes.Count; i++)
        {
            if (!_strokes[i].Source.Start.IsFree) Join(i, 0, _strokes[i].Source.Start.Other);
            if (!_strokes[i].Source.End.IsFree) Join(i, _strokes[i].Length, _strokes[i].Source.End.Other);
        }

        JoinAll();
    }

    private void Join(int joining, double at, int owner)
    {
        // A stroke may come back to itself, as the bow of a loop does: there the ways need no joint.
        if (owner == joining) return;
        if (_joints[joining].Exists(j => j.Other == owner && Math.Abs(j.At - at) < 1)) return;
        var (here, there) = Places(_strokes[joining], at, _strokes[owner]);
        _joints[joining].Add(new(owner, here, there));
        _joints[owner].Add(new(joining, there, here));
    }

    /// <summary>Where a stroke is left near an end of it, and where another is entered, mm along them, so that the straight way between lies inside if that can be.</summary>
    private (double Here, double There) Places(StrokeRungs joining, double at, StrokeRungs owner)
    {
        var end = joining.Line.PointAt(at);
        var nearest = owner.Line.Nearest(end);
        if (IsSeen(at, nearest)) return (at, nearest);

        // An end of the other is entered also from a little farther back, for from there that is sewn in one go.
        if (!owner.Closed && IsAtEnd(owner, nearest) && Back(Math.Min(joining.Width, joining.Length / 2)).Where(h => IsSeen(h, nearest)).Select(h => (double?)h).FirstOrDefault() is { } here) return (here, nearest);

        // Else where the other is seen from the end, or if it is nowhere, where they see each other from nearest by.
        var seen = Enumerable.Range(0, (int)(owner.Length / Step) + 1).Select(k => (Here: at, There: k * Step)).Where(p => IsSeen(p.Here, p.There)).ToList();
        if (seen.Count == 0) seen = Back(joining.Length).Select(h => (Here: h, There: owner.Line.Nearest(joining.Line.PointAt(h)))).Where(p => IsSeen(p.Here, p.There)).ToList();
        return seen.Count == 0 ? (at, nearest) : seen.MinBy(p => joining.Line.PointAt(p.Here).DistanceTo(owner.Line.PointAt(p.There)));

        bool IsSeen(double here, double there) => _layout.IsStraight(joining.Line.PointAt(here), owner.Line.PointAt(there));

        IEnumerable<double> Back(double upTo) => Enumerable.Range(1, (int)(upTo / Step)).Select(k => at < joining.Length / 2 ? at + (k * Step) : at - (k * Step));
    }

    /// <summary>Strokes that no junction leads to are joined to the others where they come nearest, so that the way there is taken before it is covered.</summary>
    private void JoinAll()
    {
        var together = Enumerable.Range(0, _strokes.Count).ToArray();
        for (var i = 0; i < _strokes.Count; i++)
            foreach (var joint in _joints[i]) Unite(i, joint.Other);
        if (together.All(t => t == together[0])) return;
        WorkBudget.Current.Spend(_strokes.Count * _strokes.Sum(s => s.Line.Points.Length) / StepsOfOne);
        foreach (var (i, at, other, _) in Nearest().OrderBy(n => n.Apart))
        {
            if (together[i] == together[other]) continue;
            Join(i, at, other);
            Unite(i, other);
        }

        void Unite(int a, int b)
        {
            var (kept, lost) = (together[a], together[b]);
            for (var k = 0; k < together.Length; k++)
                if (together[k] == lost) together[k] = kept;
        }

        IEnumerable<(int Stroke, double At, int Other, double Apart)> Nearest() =>
            from i in Enumerable.Range(0, _strokes.Count)
            from other in Enumerable.Range(0, _strokes.Count)
            where together[i] != together[other]
            from at in _strokes[i].Closed ? [0] : new[] { 0, _strokes[i].Length }
            let place = _strokes[i].Line.PointAt(at)
            let there = _strokes[other].Line.PointAt(_strokes[other].Line.Nearest(place))
            where _layout.IsStraight(place, there)
            select (i, at, other, place.DistanceTo(there));
    }

    /// <summary>The stroke to be finished last, and where along it the needle enters and so ends: the one with which the fewest things go wrong first, then the others.</summary>
    public IEnumerable<(int Stroke, double At)> Roots(Point? end, Point? start)
    {
        if ((end ?? start) is { } wanted)
        {
            var best = Enumerable.Range(0, _strokes.Count)
                .Select(i => (Stroke: i, At: _strokes[i].Line.Nearest(wanted)))
                .MinBy(c => _strokes[c.Stroke].Line.PointAt(c.At).DistanceTo(wanted));
            var length = _strokes[best.Stroke].Length;

            // From an end it is sewn in one go; where only the start is given it ends at the far end if that costs nothing.
            if (_strokes[best.Stroke].Closed || (end is not null && best.At > 0.15 * length && best.At < 0.85 * length)) return [best];
            return [(best.Stroke, best.At < length / 2 ? 0 : length)];
        }

        // From the ends of the longest strokes that are there: of each from the better one first, for from the other little differs.
        return Enumerable.Range(0, _strokes.Count).OrderByDescending(i => _strokes[i].Length).Take(MostRoots)
            .Select(i => new[] { 0, _strokes[i].Length }.Select(at => (Stroke: i, At: at, From(i, at).Faults)).OrderBy(r => r.Faults).ToArray())
            .SelectMany(ends => ends.Select((r, rank) => (Root: r, Rank: rank)))
            .OrderBy(r => r.Rank).ThenBy(r => r.Root.Faults)
            .Select(r => (r.Root.Stroke, r.Root.At));
    }

    /// <summary>The strokes that each is left for, by the joints where the least goes wrong (grown from the root as in Prim 1957), and how much does.</summary>
    /// <param name="root">The stroke that is entered first and finished last.</param>
    /// <param name="at">Where along it, mm.</param>
    public (List<Joint>[] Into, double Faults) From(int root, double at)
    {
        var (into, reached, faults) = (_strokes.ConvertAll(_ => new List<Joint>()).ToArray(), new bool[_strokes.Count], Faults(root, at));
        var open = new PriorityQueue<(int From, Joint Joint), (double Faults, int Order)>();
        var order = 0;
        Reach(root);
        while (open.TryDequeue(out var next, out var cost))
        {
            if (reached[next.Joint.Other]) continue;
            into[next.From].Add(next.Joint);
            faults += cost.Faults;
            Reach(next.Joint.Other);
        }

        return (into, faults);

        void Reach(int stroke)
        {
            reached[stroke] = true;
            foreach (var joint in _joints[stroke])
                if (!reached[joint.Other])
                    open.Enqueue((stroke, joint), (Faults(joint.Other, joint.AtOther) + (TucksUnder(stroke, joint.Other) ? OnItsOwner : 0), order++));
        }
    }

    /// <summary>What goes wrong when a stroke is entered at a place: it is sewn from the middle to both sides, or ends on itself there, where its satin has to begin.</summary>
    private double Faults(int number, double at)
    {
        var stroke = _strokes[number];
        if (!stroke.Closed && !IsAtEnd(stroke, at)) return FromMiddle;
        return (at < stroke.Length / 2 ? stroke.Source.Start : stroke.Source.End) is { Tucks: true } end && end.Other == number ? OnItself : 0;
    }

    /// <summary>Whether a place along a stroke is one of its ends: from there it is sewn in one go.</summary>
    public static bool IsAtEnd(StrokeRungs stroke, double at) => at <= AtEnd || at >= stroke.Length - AtEnd;

    private bool TucksUnder(int stroke, int other) => _strokes[stroke].Source is var s && ((s.Start.Tucks && s.Start.Other == other) || (s.End.Tucks && s.End.Other == other));
}
