using System.Runtime.Intrinsics;
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
    /// <summary>With more thread than 14 mm on a mm², wherever its edges lie, a needle cuts what is below; with a margin for those that are not looked at, mm.</summary>
    public const double Harmful = 13;

    // What was changed last may lie a little differently than it was counted.
    private const double NearlyHarmful = Harmful - 1.1;

    // Thread on a mm² is heaped from so much on, mm; so much more is worth a longer search.
    private const double Heaped = 11.5;
    private const double FarTooMuch = 13.2;

    // With more cells than so many nothing is looked at. So many are gone over in the time of one step of work.
    private const int MostCells = 3_000_000;
    private const int CellsOfOne = 60;

    // A part of the cloth holds so many throws before and after those to a heap; so far about it throws are laid, and so far about it is looked what is heaped and what lies alone, mm.
    private const int Neighbours = 3;
    private const double Margin = 0.5;
    private const double About = 2;

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

    // So much may be bare after it that was covered, so much where it lay over the edge, and so much may show thread of another way, mm².
    private const double MostBare = 0.02;
    private const double MostDent = 0.05;
    private const double MostShowing = 0.08;

    // So many times as much of each where far too much thread is left otherwise.
    private const double Lenience = 4;

    // What lies no farther from it counts as one place with what is bare already, mm.
    private const double Beside = 0.6;

    // So often all heaps are gone over. What passes so near to a place where thread came to lie alone is left as it is, mm.
    private const int MostRounds = 6;
    private const double Spared = 0.8;

    // A piece that lay alone before is hardly longer when it is looked at again, mm.
    private const double Same = 0.1;

    // In a part of the cloth throws are looked at that lie all in it.
    private readonly Box _part;
    private readonly BitGrid _inside;
    private readonly StrokeLayout _layout;

    // The needle points where thread turns, their numbers in the run, whether they were moved or tried in vain, and which of them come before and after each (below 0: it is left out); a throw goes from one to the
    // next, and has the number of the first.
    private readonly List<Point> _run;
    private readonly List<Point> _turns;
    private readonly List<int> _numbers;
    private readonly bool[] _moved;
    private readonly bool[] _stuck;
    private readonly int[] _before;
    private readonly int[] _after;

    private readonly ThrowCells _cells;
    private readonly HeapMap _heaps;

    // How what was changed since it was last kept is undone, and the part of the cloth that holds it.
    private readonly Stack<Action> _undo = [];
    private Box _changed = Box.Empty;

    // The middles of the cells that are bare since all changes.
    private readonly List<Point> _bared = [];

    // How many times as much as usual may be bare.
    private readonly double _lenience;

    private HeapedThread(List<Point> run, HeapMap heaps, ThrowCells cells, Box part, BitGrid inside, StrokeLayout layout, bool isLenient)
    {
        (_run, _heaps, _cells, _part, _inside, _layout, _lenience) = ([.. run], heaps, cells, part, inside, layout, isLenient ? Lenience : 1);
        (_turns, _numbers) = Turns(run);
        (_moved, _stuck) = (new bool[_turns.Count], new bool[_turns.Count]);
        (_before, _after) = ([.. Enumerable.Range(-1, _turns.Count)], [.. Enumerable.Range(1, _turns.Count)]);
        foreach (var k in Polylines.Near(_turns, part.Grown(Margin))) cells.Lay(_turns[k - 1], _turns[k], k);
    }

    /// <summary>Takes thread out of a run where it is heaped, unless more would lie alone then.</summary>
    /// <param name="run">The run.</param>
    /// <param name="inside">The squares of its area.</param>
    /// <param name="layout">The strokes of that.</param>
    /// <param name="longest">No stitch may be longer, mm.</param>
    /// <param name="isLenient">Whether a little more than usual may be bare after it: that nobody sees either, but a hand would avoid it.</param>
    /// <returns>Whether some is nearly too much for a cloth still.</returns>
    public static bool Thin(List<Point> run, BitGrid inside, StrokeLayout layout, double longest, bool isLenient = false)
    {
        var box = Box.Around(run).Grown(About);
        if (HeapMap.Squares(box) > HeapMap.MostSquares) return false;
        using var heaps = new HeapMap(box, Ties.Tied(run), Heaped);
        if (!heaps.HasHeaps) return false;
        foreach (var part in Parts(run, heaps)) Thin(run, part, heaps, inside, layout, longest, isLenient);
        heaps.Look(box);
        return heaps.Most > NearlyHarmful;
    }

    /// <summary>The needle points where thread turns, and their numbers in a run.</summary>
    private static (List<Point> Turns, List<int> Numbers) Turns(List<Point> run)
    {
        var (turns, numbers) = (new List<Point>(), new List<int>());
        for (var i = 0; i < run.Count; i++)
        {
            if (i > 0 && i < run.Count - 1 && RunChange.GoesOn(run, i)) continue;
            turns.Add(run[i]);
            numbers.Add(i);
        }

        return (turns, numbers);
    }

    /// <summary>The parts of the cloth that hold all throws to heaps and their neighbours; so far from each other that each is looked at alone.</summary>
    private static List<Box> Parts(List<Point> run, HeapMap heaps)
    {
        var (turns, _) = Turns(run);
        var heat = Enumerable.Range(1, turns.Count - 1).Select(k => heaps.Heat(turns[k - 1], turns[k])).ToArray();
        var parts = new List<Box>();
        for (var k = 1; k < turns.Count - 1; k++)
        {
            if (heat[k - 1] + heat[k] < Worth) continue;
            var part = Box.Around(turns[Math.Max(0, k - Neighbours)..Math.Min(turns.Count, k + Neighbours + 1)]);
            for (var i = parts.Count - 1; i >= 0; i--)
            {
                if (!parts[i].Meets(part.Grown(2 * About))) continue;
                part = part.With(parts[i]);
                parts.RemoveAt(i);
                i = parts.Count;
            }

            parts.Add(part);
        }

        return parts;
    }

    private static void Thin(List<Point> run, Box part, HeapMap heaps, BitGrid inside, StrokeLayout layout, double longest, bool isLenient)
    {
        if (ThrowCells.Count(part) > MostCells) return;
        using var cells = new ThrowCells(part.Grown(Margin));
        var thread = new HeapedThread(run, heaps, cells, part, inside, layout, isLenient);
        var (about, known, spared) = (part.Grown(About), default(List<LonePiece>), new List<LonePiece>());
        for (var round = 0; round < MostRounds && thread.Thin(spared); round++) Take(thread.Sewn(longest), thread._changed.Grown(About));

        // Where far too much is left, what comes to lie alone is hidden rather than spared.
        heaps.Look(about);
        if (heaps.Most < FarTooMuch || !thread.Thin([])) return;
        var last = thread.Sewn(longest);
        LoneThread.Hide(last, inside, layout, longest, about);
        Take(last, about);

        // Takes a thinner run for the run. Where more lies alone then than did before it is undone, and what does is spared from then on.
        void Take(List<Point> thinner, Box changed)
        {
            known ??= ShowingThread.Alone(run, about, LoneThread.Unseen);
            var lone = ShowingThread.Alone(thinner, changed, LoneThread.Unseen).FindAll(p => !known.Exists(k => k.Length + Same >= p.Length && k.Middle.DistanceTo(p.Middle) < Spared));
            spared.AddRange(lone);
            thread.Keep(lone.Count == 0);
            if (lone.Count > 0) return;
            run.Clear();
            run.AddRange(thinner);
        }
    }

    /// <summary>Takes thread out where it is heaped now, but not near what came to lie alone.</summary>
    /// <returns>Whether any was taken out.</returns>
    private bool Thin(List<LonePiece> spared)
    {
        _heaps.Look(_part.Grown(About));
        if (!_heaps.HasHeaps) return false;
        var hot = Enumerable.Range(1, Math.Max(0, _turns.Count - 2)).Where(IsOpen).Select(k => (Turn: k, Heat: Heat(_before[k], _turns[_before[k]], _turns[k]) + Heat(k, _turns[k], _turns[_after[k]])));
        foreach (var (turn, _) in hot.Where(h => h.Heat >= Worth).OrderByDescending(h => h.Heat).ToList())
        {
            if (!IsOpen(turn)) continue;
            var (from, here, to) = (_turns[_before[turn]], _turns[turn], _turns[_after[turn]]);
            if (spared.Exists(p => Math.Min(p.Middle.DistanceToLine(from, here), p.Middle.DistanceToLine(here, to)) < Spared + (p.Length / 2))) continue;
            if (!_heaps.IsHeaped(from, here) && !_heaps.IsHeaped(here, to)) continue;
            var (place, saved) = Sooner(turn);
            if (LeaveOut(turn, Math.Max(Worth, saved))) continue;
            if (saved > Worth) EndAt(turn, place);
            else _stuck[turn] = true;
        }

        return _undo.Count > 0;

        // Where nothing came of a try before, nothing will when still less thread lies there.
        bool IsOpen(int turn) => !_stuck[turn] && _after[turn] > 0 && IsInPart(_before[turn], turn, _after[turn]) && TurnsBackAt(turn);
    }

    /// <summary>The needle points with the changes.</summary>
    /// <param name="longest">No stitch may be longer, mm.</param>
    private List<Point> Sewn(double longest)
    {
        var sewn = new List<Point> { _turns[0] };
        for (var (from, to) = (0, _after[0]); to < _turns.Count; (from, to) = (to, _after[to]))
        {
            if (to == from + 1 && !_moved[from] && !_moved[to]) sewn.AddRange(_run[(_numbers[from] + 1)..(_numbers[to] + 1)]);
            else SatinThrows.Throw(sewn, _turns[to], 2 * to, longest);
        }

        return sewn;
    }

    /// <summary>Keeps what was changed since the last time, or undoes it.</summary>
    private void Keep(bool keep)
    {
        if (!keep)
        {
            while (_undo.TryPop(out var undo)) undo();
            Array.Clear(_stuck);
        }

        _undo.Clear();
        _changed = Box.Empty;
    }

    private bool IsInPart(params ReadOnlySpan<int> turns)
    {
        foreach (var turn in turns)
            if (turn >= _turns.Count || !_part.Holds(_turns[turn]))
                return false;
        return true;
    }

    private bool TurnsBackAt(int turn) => (_turns[_before[turn]] - _turns[turn]).Unit().Dot((_turns[_after[turn]] - _turns[turn]).Unit()) > TurnsBack;

    /// <summary>Leaves out a turn and the one after it, where that saves more than so much, mm.</summary>
    private bool LeaveOut(int turn, double least)
    {
        var (before, next) = (_before[turn], _after[turn]);
        var beyond = _after[next];
        if (!IsInPart(beyond) || !TurnsBackAt(next)) return false;
        var (a, b, c, d) = (_turns[before], _turns[turn], _turns[next], _turns[beyond]);
        if (a.DistanceTo(d) < ShortestThrow || (d - a).Unit().Dot((b - a).Unit()) < TheirWay || !IsWithin(a, d)) return false;
        var saved = Heat(before, a, b) + Heat(turn, b, c) + Heat(next, c, d) - Heat(before, a, d);
        if (saved <= least || !IsTaken(Places(before, turn, next), (a, d))) return false;
        Change([(a, b), (b, c), (c, d)], [(a, d)]);
        (_after[before], _before[beyond], _after[turn], _after[next]) = (beyond, before, -1, -1);
        _undo.Push(() => (_after[before], _before[beyond], _after[turn], _after[next]) = (turn, next, next, beyond));
        return true;
    }

    private void EndAt(int turn, Point place)
    {
        var (from, end, to, moved) = (_turns[_before[turn]], _turns[turn], _turns[_after[turn]], _moved[turn]);
        Change([(from, end), (end, to)], [(from, place), (place, to)]);
        (_turns[turn], _moved[turn]) = (place, true);
        _undo.Push(() => (_turns[turn], _moved[turn]) = (end, moved));
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
                if (Math.Min(place.DistanceTo(from), place.DistanceTo(to)) >= ShortestThrow && IsWithin(place, from) && IsWithin(place, to) && IsTaken(places, (from, place), (place, to))) near = middle;
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
        var (bare, showing) = _cells.Without(throws, Array.ConvertAll(numbers, n => n + 1), Shows);

        // What makes an edge that is seen is not to leave a dent in it at all.
        return new(Array.Exists(numbers, Shown) ? bare : bare.FindAll(_inside.Has), bare, showing);

        bool Shown(int number) => Enumerable.Range(1, Looks).Count(k => _cells.Top(_turns[number].Toward(_turns[_after[number]], k / (Looks + 1.0))) == number + 1) > Looks / 2;

        bool Shows(Point place, Vector128<int> tops)
        {
            for (var k = 0; k < Vector128<int>.Count; k++)
            {
                var top = tops[k];

                // What was left out or ends sooner by now may not lie there any more.
                if (top == 0 || numbers.Contains(top - 1) || _after[top - 1] != top || !new ThrowCells.Cover(_turns[top - 1], _turns[top]).Holds(place)) continue;
                return Math.Abs((_turns[top] - _turns[top - 1]).Unit().Dot(way)) < TheirWay;
            }

            return true;
        }
    }

    private void Change((Point From, Point To)[] old, (Point From, Point To)[] made)
    {
        var bared = _bared.Count;
        Replace(old, made);
        _bared.AddRange(_cells.Bare(old));
        _undo.Push(() =>
        {
            Replace(made, old);
            _bared.RemoveRange(bared, _bared.Count - bared);
        });
        foreach (var (from, to) in old) _changed = _changed.With(Box.Between(from, to));
    }

    private void Replace((Point From, Point To)[] old, (Point From, Point To)[] made)
    {
        _cells.Lay(old, -1);
        _cells.Lay(made, 1);
        foreach (var (from, to) in old) _heaps.Remove(from, to);
        foreach (var (from, to) in made) _heaps.Add(from, to);
    }

    /// <summary>Whether throws take the places that others leave, but for what nobody sees; what is bare already close by counts as well.</summary>
    private bool IsTaken(Left left, params (Point From, Point To)[] throws) => IsTaken(left.Bare, MostBare, throws) && IsTaken(left.AtEdge, MostDent, throws) && IsTaken(left.Showing, MostShowing, throws);

    private bool IsTaken(List<Point> cells, double most, (Point From, Point To)[] throws)
    {
        var free = (int)(most * _lenience / ThrowCells.SquareMm);
        WorkBudget.Current.Spend(1 + (cells.Count * throws.Length / CellsOfOne));
        var (covers, isFirst) = (Array.ConvertAll(throws, t => new ThrowCells.Cover(t.From, t.To)), true);
        foreach (var cell in cells)
        {
            if (IsCovered(cell)) continue;
            if (isFirst) free -= BaredAbout(cell);
            isFirst = false;
            if (--free < 0) return false;
        }

        return true;

        bool IsCovered(Point cell)
        {
            foreach (var cover in covers)
                if (cover.Holds(cell))
                    return true;
            return false;
        }

        int BaredAbout(Point cell) => _bared.Count(b => b.DistanceTo(cell) <= Beside);
    }

    /// <summary>The middles of cells that some throws leave: those that are bare then and are to be covered, all that are bare, and those that show thread of another way.</summary>
    private readonly record struct Left(List<Point> Bare, List<Point> AtEdge, List<Point> Showing);
}
