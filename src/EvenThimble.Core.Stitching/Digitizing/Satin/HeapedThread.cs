using EvenThimble.Core.Craft;
using EvenThimble.Core.Geometry;
using EvenThimble.Core.Work;

namespace EvenThimble.Core.Digitizing.Satin;

/// <summary>
/// Where finished stitches lie so thick that the needle would cut the thread below, as where throws fan out about an inner corner or a stroke goes on under another: there throws end sooner or are left out, as long
/// as others close all that they leave.
/// </summary>
internal sealed class HeapedThread
{
    // Thread on a mm² is heaped from so much on, mm; so much more is worth a longer search.
    private const double Heaped = 11.5;
    private const double FarTooMuch = 13.2;

    // With more cells than so many nothing is looked at. So many are gone over in the time of one step of work.
    private const int MostCells = 3_000_000;
    private const int CellsOfOne = 60;

    // A throw turns back where it ends; what takes the place of some throws, or shows where they lay, goes about their way: the cosines.
    private const double TurnsBack = 0.5;
    private const double TheirWay = 0.87;

    // A throw ends sooner by such steps, and none gets shorter than the other, mm.
    private const double Step = 0.25;
    private const double ShortestThrow = 0.8;

    // A throw is seen that lies on top in more than half of so many places along it.
    private const int Looks = 8;

    // The end of a throw lies no farther outside, mm.
    private const double Overhang = 0.5;

    // It is worth it where heaps lose so much thread, mm, of which what shows counts for a part.
    private const double Worth = 0.1;
    private const double Showing = 0.4;

    // So much may be bare after it that was covered, and so much may show thread of another way, mm².
    private const double MostBare = 0.02;
    private const double MostShowing = 0.08;

    // So often all heaps are gone over. What passes so near to a place where thread came to lie alone is left as it is, mm.
    private const int MostRounds = 6;
    private const double Spared = 0.8;

    private readonly BitGrid _inside;
    private readonly StrokeLayout _layout;

    // The needle points where thread turns, their numbers in the run, whether they were moved, and which of them come before and after each; a throw goes from one to the next, and has the number of the first.
    private readonly List<Point> _run;
    private readonly List<Point> _turns = [];
    private readonly List<int> _numbers = [];
    private readonly bool[] _moved;
    private readonly int[] _before;
    private readonly int[] _after;

    private readonly ThrowCells _cells;
    private readonly HeapMap _heaps;

    private HeapedThread(List<Point> run, HeapMap heaps, ThrowCells cells, BitGrid inside, StrokeLayout layout)
    {
        (_run, _heaps, _cells, _inside, _layout) = (run, heaps, cells, inside, layout);
        for (var i = 0; i < run.Count; i++)
        {
            if (i > 0 && i < run.Count - 1 && RunChange.GoesOn(run, i)) continue;
            _turns.Add(run[i]);
            _numbers.Add(i);
        }

        _moved = new bool[_turns.Count];
        (_before, _after) = ([.. Enumerable.Range(-1, _turns.Count)], [.. Enumerable.Range(1, _turns.Count)]);
        for (var k = 1; k < _turns.Count; k++) cells.Lay(_turns[k - 1], _turns[k], k);
    }

    /// <summary>Takes thread out of a run where it is heaped, unless more would lie alone then.</summary>
    /// <param name="run">The run.</param>
    /// <param name="inside">The squares of its area.</param>
    /// <param name="layout">The strokes of that.</param>
    /// <param name="longest">No stitch may be longer, mm.</param>
    public static void Thin(List<Point> run, BitGrid inside, StrokeLayout layout, double longest)
    {
        var box = Box.Around(run).Grown(2);
        if (ThrowCells.Count(box) > MostCells) return;
        var heaps = new HeapMap(Ties.Tied(run), box, Heaped);
        if (!heaps.HasHeaps) return;
        var (known, spared) = (default(List<LonePiece>), new List<LonePiece>());
        for (var round = 0; round < MostRounds && Thinner(spared) is { } thinned; round++) spared.AddRange(Taken(thinned));

        // Where far too much is left, what comes to lie alone is hidden rather than spared.
        heaps ??= new HeapMap(Ties.Tied(run), box, Heaped);
        if (heaps.Most < FarTooMuch || Thinner([]) is not { } last) return;
        LoneThread.Hide(last, inside, layout, longest);
        Taken(last);

        List<Point>? Thinner(List<LonePiece> sparing)
        {
            // A map that was looked at but not changed is as good as new.
            var map = heaps ?? new HeapMap(Ties.Tied(run), box, Heaped);
            heaps = null;
            if (!map.HasHeaps)
            {
                heaps = map;
                return null;
            }

            using var cells = new ThrowCells(box);
            if (new HeapedThread(run, map, cells, inside, layout).Thinned(sparing, longest) is { } thinner) return thinner;
            heaps = map;
            return null;
        }

        // Takes a thinner run for the run, unless more lies alone there than did before: that is what is returned.
        List<LonePiece> Taken(List<Point> thinner)
        {
            known ??= ShowingThread.Alone(run, LoneThread.Unseen);
            var lone = ShowingThread.Alone(thinner, LoneThread.Unseen).FindAll(p => !known.Exists(k => k.Length >= p.Length && k.Middle.DistanceTo(p.Middle) < Spared));
            if (lone.Count > 0) return lone;
            run.Clear();
            run.AddRange(thinner);
            return lone;
        }
    }

    /// <summary>The needle points without what can be done without; null where that is nothing.</summary>
    private List<Point>? Thinned(List<LonePiece> spared, double longest)
    {
        var heat = Enumerable.Range(0, _turns.Count - 1).Select(k => Heat(k, _turns[k], _turns[k + 1])).ToArray();
        var hot = Enumerable.Range(1, Math.Max(0, _turns.Count - 2)).Where(TurnsBackAt).Select(k => (Turn: k, Heat: heat[k - 1] + heat[k]));
        var thinner = false;
        foreach (var (turn, _) in hot.Where(h => h.Heat >= Worth).OrderByDescending(h => h.Heat).ToList())
        {
            if (_after[turn] < 0 || !TurnsBackAt(turn)) continue;
            var (from, here, to) = (_turns[_before[turn]], _turns[turn], _turns[_after[turn]]);
            if (spared.Exists(p => Math.Min(p.Middle.DistanceToLine(from, here), p.Middle.DistanceToLine(here, to)) < Spared + (p.Length / 2))) continue;
            if (!_heaps.IsHeaped(from, here) && !_heaps.IsHeaped(here, to)) continue;
            var (place, saved) = Sooner(turn);
            if (!LeaveOut(turn, Math.Max(Worth, saved)))
            {
                if (saved <= Worth) continue;
                EndAt(turn, place);
            }

            thinner = true;
        }

        if (!thinner) return null;
        var made = new List<Point> { _turns[0] };
        for (var (from, to) = (0, _after[0]); to < _turns.Count; (from, to) = (to, _after[to]))
        {
            if (to == from + 1 && !_moved[from] && !_moved[to]) made.AddRange(_run[(_numbers[from] + 1)..(_numbers[to] + 1)]);
            else SatinThrows.Throw(made, _turns[to], 2 * to, longest);
        }

        return made;
    }

    private bool TurnsBackAt(int turn) => _after[turn] < _turns.Count && (_turns[_before[turn]] - _turns[turn]).Unit().Dot((_turns[_after[turn]] - _turns[turn]).Unit()) > TurnsBack;

    /// <summary>Leaves out a turn and the one after it, where that saves more than so much, mm.</summary>
    private bool LeaveOut(int turn, double least)
    {
        var (before, next) = (_before[turn], _after[turn]);
        if (next >= _turns.Count - 1 || !TurnsBackAt(next)) return false;
        var beyond = _after[next];
        var (a, b, c, d) = (_turns[before], _turns[turn], _turns[next], _turns[beyond]);
        if (a.DistanceTo(d) < ShortestThrow || (d - a).Unit().Dot((b - a).Unit()) < TheirWay || !IsWithin(a, d)) return false;
        var saved = Heat(before, a, b) + Heat(turn, b, c) + Heat(next, c, d) - Heat(before, a, d);
        if (saved <= least || !Places(before, turn, next).TakenBy((a, d))) return false;
        Change([(a, b), (b, c), (c, d)], [(a, d)]);
        (_after[before], _before[beyond], _after[turn], _after[next]) = (beyond, before, -1, -1);
        return true;
    }

    private void EndAt(int turn, Point place)
    {
        var (from, to) = (_turns[_before[turn]], _turns[_after[turn]]);
        Change([(from, _turns[turn]), (_turns[turn], to)], [(from, place), (place, to)]);
        (_turns[turn], _moved[turn]) = (place, true);
    }

    /// <summary>Where a throw can end sooner, so that most is saved, mm.</summary>
    private (Point Place, double Saved) Sooner(int turn)
    {
        var (from, end, to) = (_turns[_before[turn]], _turns[turn], _turns[_after[turn]]);
        var places = Places(_before[turn], turn);
        var (best, most, all) = (end, 0.0, Heat(_before[turn], from, end) + Heat(turn, end, to));
        foreach (var other in new[] { from, to })
        {
            // The farther it comes inwards the more it leaves, so the farthest is found by halving.
            var length = end.DistanceTo(other);
            var (near, far) = (0, 1 + (int)((length - ShortestThrow) / Step));
            while (far - near > 1)
            {
                var middle = (near + far) / 2;
                var place = end.Toward(other, middle * Step / length);
                if (Math.Min(place.DistanceTo(from), place.DistanceTo(to)) >= ShortestThrow && IsWithin(place, from) && IsWithin(place, to) && places.TakenBy((from, place), (place, to))) near = middle;
                else far = middle;
            }

            var sooner = end.Toward(other, near * Step / length);
            var saved = near == 0 ? 0 : all - Heat(_before[turn], from, sooner) - Heat(turn, sooner, to);
            if (saved > most) (best, most) = (sooner, saved);
        }

        return (best, most);
    }

    /// <summary>Whether thread goes straight from a place to the end of a throw without leaving the area, but for that end.</summary>
    private bool IsWithin(Point place, Point end) => _layout.IsStraight(place, place.Toward(end, Math.Max(0, 1 - (Overhang / place.DistanceTo(end)))));

    /// <summary>How much thread of a throw lies in heaps, mm; what shows counts for less.</summary>
    private double Heat(int number, Point from, Point to) => _heaps.Heat(from, to, place => _cells.Top(place) == number + 1 ? Showing : 1);

    /// <summary>The places where it would be seen that some throws were gone: nothing would cover them, or thread that goes another way.</summary>
    private Left Places(params int[] numbers)
    {
        var throws = Array.ConvertAll(numbers, n => (_turns[n], _turns[_after[n]]));
        var way = (throws[0].Item2 - throws[0].Item1).Unit();
        var (bare, showing) = _cells.Without(throws, Shows);

        // Beyond the edge of the area nothing has to be covered, but what makes an edge that is seen is not to leave a dent in it.
        return new(Array.Exists(numbers, Shown) ? bare : bare.FindAll(_inside.Has), showing);

        bool Shown(int number) => Enumerable.Range(1, Looks).Count(k => _cells.Top(_turns[number].Toward(_turns[_after[number]], k / (Looks + 1.0))) == number + 1) > Looks / 2;

        bool Shows(Point place, ReadOnlySpan<int> tops)
        {
            if (!numbers.Contains(tops[0] - 1)) return false;
            foreach (var top in tops)
            {
                // What was left out or ends sooner by now may not lie there any more.
                if (top == 0 || numbers.Contains(top - 1) || _after[top - 1] != top || !ThrowCells.Covers(_turns[top - 1], _turns[top], place)) continue;
                return Math.Abs((_turns[top] - _turns[top - 1]).Unit().Dot(way)) < TheirWay;
            }

            return true;
        }
    }

    private void Change((Point From, Point To)[] old, (Point From, Point To)[] made)
    {
        _cells.Cover(old, -1);
        _cells.Cover(made, 1);
        foreach (var (from, to) in old) _heaps.Remove(from, to);
        foreach (var (from, to) in made) _heaps.Add(from, to);
    }

    /// <summary>The middles of cells that some throws leave, bare or seen.</summary>
    private readonly record struct Left(List<Point> Bare, List<Point> Showing)
    {
        /// <summary>Whether others take them, but for what nobody sees.</summary>
        public bool TakenBy(params (Point From, Point To)[] throws) => Take(Bare, MostBare, throws) && Take(Showing, MostShowing, throws);

        private static bool Take(List<Point> cells, double most, (Point From, Point To)[] throws)
        {
            var left = (int)(most / ThrowCells.SquareMm);
            if (cells.Count <= left) return true;
            WorkBudget.Current.Spend(1 + (cells.Count * throws.Length / CellsOfOne));
            foreach (var cell in cells)
                if (!Array.Exists(throws, t => ThrowCells.Covers(t.From, t.To, cell)) && --left < 0)
                    return false;
            return true;
        }
    }
}
