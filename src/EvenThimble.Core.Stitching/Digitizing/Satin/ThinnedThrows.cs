using System.Runtime.Intrinsics;
using EvenThimble.Core.Craft;
using EvenThimble.Core.Geometry;
using EvenThimble.Core.Work;

namespace EvenThimble.Core.Digitizing.Satin;

/// <summary>Throws of a finished run in a part of the cloth, which end sooner or are left out where thread is heaped, as long as others close all that they leave.</summary>
internal sealed class ThinnedThrows
{
    /// <summary>So far about a part of the cloth throws are laid, mm.</summary>
    public const double Margin = 0.5;

    /// <summary>A change is worth it where heaps lose so much thread, mm.</summary>
    public const double Worth = 0.1;

    /// <summary>What passes so near to a place where thread came to lie alone is left as it is, mm.</summary>
    public const double Spared = 0.8;

    // So many cells are gone over in the time of one step of work.
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

    // Of the thread that a heap loses what shows counts for a part.
    private const double Showing = 0.4;

    // So much may be bare after it that was covered, so much where it lay over the edge, and so much may show thread of another way, mm².
    private const double MostBare = 0.02;
    private const double MostDent = 0.05;
    private const double MostShowing = 0.08;

    // What lies no farther from it counts as one place with what is bare already, mm.
    private const double Beside = 0.6;

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

    // What was changed since it was last kept.
    private readonly ThrowChanges _changes = new();

    // The middles of the cells that are bare since all changes.
    private readonly List<Point> _bared = [];

    // How many times as much as usual may be bare.
    private readonly double _lenience;

    /// <summary>The throws of a run.</summary>
    /// <param name="run">The run.</param>
    /// <param name="heaps">Its thread.</param>
    /// <param name="cells">Where its throws are laid, all free.</param>
    /// <param name="part">The part of the cloth.</param>
    /// <param name="inside">The squares of the area.</param>
    /// <param name="layout">The strokes of that.</param>
    /// <param name="lenience">How many times as much as usual may be bare.</param>
    public ThinnedThrows(List<Point> run, HeapMap heaps, ThrowCells cells, Box part, BitGrid inside, StrokeLayout layout, double lenience)
    {
        (_run, _heaps, _cells, _part, _inside, _layout, _lenience) = ([.. run], heaps, cells, part, inside, layout, lenience);
        (_turns, _numbers) = Turns(run);
        (_moved, _stuck) = (new bool[_turns.Count], new bool[_turns.Count]);
        (_before, _after) = ([.. Enumerable.Range(-1, _turns.Count)], [.. Enumerable.Range(1, _turns.Count)]);
        foreach (var k in Polylines.Near(_turns, part.Grown(Margin))) cells.Lay(_turns[k - 1], _turns[k], k);
    }

    /// <summary>The part of the cloth that holds all that was changed since it was last kept.</summary>
    public Box Changed => _changes.Box;

    /// <summary>The needle points where thread turns, and their numbers in a run.</summary>
    public static (List<Point> Turns, List<int> Numbers) Turns(List<Point> run)
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

    /// <summary>Takes thread out where it is heaped now, but not near what came to lie alone.</summary>
    /// <returns>Whether any was taken out.</returns>
    public bool Thin(List<LonePiece> spared)
    {
        _heaps.Look(_part.Grown(HeapedThread.About));
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

        return _changes.Any;

        // Where nothing came of a try before, nothing will when still less thread lies there.
        bool IsOpen(int turn) => !_stuck[turn] && _after[turn] > 0 && IsInPart(_before[turn], turn, _after[turn]) && TurnsBackAt(turn);
    }

    /// <summary>The needle points with the changes.</summary>
    /// <param name="longest">No stitch may be longer, mm.</param>
    public List<Point> Sewn(double longest)
    {
        var sewn = new List<Point> { _turns[0] };
        for (var (from, to) = (0, _after[0]); to < _turns.Count; (from, to) = (to, _after[to]))
        {
            if (to == from + 1 && !_moved[from] && !_moved[to]) sewn.AddRange(_run[(_numbers[from] + 1)..(_numbers[to] + 1)]);
            else SatinThrows.Throw(sewn, _turns[to], 2 * to, longest);
        }

        return sewn;
    }

    /// <summary>Keeps what was changed.</summary>
    public void Keep() => _changes.Keep();

    /// <summary>Undoes what was changed in some parts of the cloth since it was last kept; there it may be tried again.</summary>
    public void Undo(Predicate<Box> isMeant)
    {
        var undone = _changes.Undo(isMeant).ConvertAll(b => b.Grown(Spared));
        for (var k = 0; k < _turns.Count; k++) _stuck[k] &= !undone.Exists(b => b.Holds(_turns[k]));
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
        var undo = Change([(a, b), (b, c), (c, d)], [(a, d)]);
        (_after[before], _before[beyond], _after[turn], _after[next]) = (beyond, before, -1, -1);
        _changes.Add(before, beyond, Box.Around([a, b, c, d]), () =>
        {
            (_after[before], _before[beyond], _after[turn], _after[next]) = (turn, next, next, beyond);
            undo();
        });
        return true;
    }

    private void EndAt(int turn, Point place)
    {
        var (from, end, to, moved) = (_turns[_before[turn]], _turns[turn], _turns[_after[turn]], _moved[turn]);
        var undo = Change([(from, end), (end, to)], [(from, place), (place, to)]);
        (_turns[turn], _moved[turn]) = (place, true);
        _changes.Add(_before[turn], _after[turn], Box.Around([from, end, to]), () =>
        {
            (_turns[turn], _moved[turn]) = (end, moved);
            undo();
        });
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

    /// <summary>Lays some throws in place of others.</summary>
    /// <returns>How that is undone.</returns>
    private Action Change((Point From, Point To)[] old, (Point From, Point To)[] made)
    {
        Replace(old, made);
        var bared = _cells.Bare(old).ToList();
        _bared.AddRange(bared);
        return () =>
        {
            Replace(made, old);
            foreach (var cell in bared) _bared.Remove(cell);
        };
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
