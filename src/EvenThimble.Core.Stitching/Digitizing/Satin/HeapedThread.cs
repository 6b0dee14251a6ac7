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

    // Side of the cells on which is counted what covers, mm; with more of them than so many nothing is looked at. So many are counted in the time of one step of work.
    private const double Cell = 0.07;
    private const int MostCells = 4_000_000;
    private const double CellsOfOne = 60;

    // A throw turns back where it ends, and what takes the place of two or three goes about their way: the cosines.
    private const double TurnsBack = 0.5;
    private const double TheirWay = 0.8;

    // A throw ends sooner by such steps, and none gets shorter than the other, mm.
    private const double Step = 0.25;
    private const double ShortestThrow = 0.8;

    // It is worth it where heaps lose so much thread, mm. Thread that shows counts for a part of that at first, then not at all; at last what comes to lie alone is hidden instead of spared.
    private const double Worth = 0.1;
    private static readonly (double Showing, bool Hides)[] Stages = [(0.4, false), (0, false), (0.4, true)];

    // So much may be bare after it that was covered, mm².
    private const double MostBare = 0.02;

    // So often all heaps are gone over. What passes so near to a place where thread came to lie alone is left as it is, mm.
    private const int MostRounds = 6;
    private const double Spared = 0.8;

    private readonly BitGrid _inside;
    private readonly StrokeLayout _layout;
    private readonly double _showing;

    // The needle points where thread turns, their numbers in the run, whether they were moved, and which of them come before and after each; a throw goes from one to the next, and has the number of the first.
    private readonly List<Point> _run;
    private readonly List<Point> _turns = [];
    private readonly List<int> _numbers = [];
    private readonly bool[] _moved;
    private readonly int[] _before;
    private readonly int[] _after;

    // How often each cell is covered, and the throw that lies on top of it, from 1 on.
    private readonly Point _corner;
    private readonly int _columns;
    private readonly int _rows;
    private readonly short[] _covers;
    private readonly int[] _top;
    private readonly HashSet<int> _bare = [];
    private readonly HeapMap _heaps;

    private HeapedThread(List<Point> run, HeapMap heaps, Box box, BitGrid inside, StrokeLayout layout, double showing)
    {
        (_run, _heaps, _inside, _layout, _showing) = (run, heaps, inside, layout, showing);
        for (var i = 0; i < run.Count; i++)
        {
            if (i > 0 && i < run.Count - 1 && RunChange.GoesOn(run, i)) continue;
            _turns.Add(run[i]);
            _numbers.Add(i);
        }

        _moved = new bool[_turns.Count];
        (_before, _after) = ([.. Enumerable.Range(-1, _turns.Count)], [.. Enumerable.Range(1, _turns.Count)]);
        (_corner, _columns, _rows) = (new(box.MinX, box.MinY), (int)(box.Width / Cell) + 1, (int)(box.Height / Cell) + 1);
        (_covers, _top) = (new short[_columns * _rows], new int[_columns * _rows]);
        for (var k = 0; k + 1 < _turns.Count; k++)
        {
            var number = k + 1;
            Across(_turns[k], _turns[number], (row, first, last) =>
            {
                for (var i = (row * _columns) + first; i <= (row * _columns) + last; i++) (_covers[i], _top[i]) = ((short)(_covers[i] + 1), number);
            });
        }
    }

    /// <summary>Takes thread out of a run where it is heaped, unless more would lie alone then.</summary>
    /// <param name="run">The run.</param>
    /// <param name="inside">The squares of its area.</param>
    /// <param name="layout">The strokes of that.</param>
    /// <param name="longest">No stitch may be longer, mm.</param>
    public static void Thin(List<Point> run, BitGrid inside, StrokeLayout layout, double longest)
    {
        var box = Box.Around(run).Grown(2);
        if (box.Width * box.Height > MostCells * Cell * Cell) return;
        var known = default(List<LonePiece>);
        foreach (var (showing, hides) in Stages)
        {
            var spared = new List<LonePiece>();
            for (var round = 0; round < MostRounds; round++)
            {
                var heaps = new HeapMap(Ties.Tied(run), box, Heaped);
                if (!heaps.HasHeaps || (hides && heaps.Most < FarTooMuch)) return;
                if (new HeapedThread(run, heaps, box, inside, layout, showing).Thinned(spared, longest) is not { } thinned) break;
                known ??= ShowingThread.Alone(run, LoneThread.Unseen);
                if (hides) LoneThread.Hide(thinned, inside, layout, longest);
                var lone = ShowingThread.Alone(thinned, LoneThread.Unseen);
                lone.RemoveAll(p => known.Exists(k => k.Length >= p.Length - Cell && k.Middle.DistanceTo(p.Middle) < Spared));
                if (lone.Count == 0)
                {
                    run.Clear();
                    run.AddRange(thinned);
                }
                else if (hides) return;
                else spared.AddRange(lone);
            }
        }
    }

    /// <summary>The needle points without what can be done without; null where that is nothing.</summary>
    private List<Point>? Thinned(List<LonePiece> spared, double longest)
    {
        var hot = Enumerable.Range(1, Math.Max(0, _turns.Count - 2)).Where(TurnsBackAt).Select(k => (Turn: k, Heat: Heat(k - 1, _turns[k - 1], _turns[k]) + Heat(k, _turns[k], _turns[k + 1])));
        var thinner = false;
        foreach (var (turn, _) in hot.Where(h => h.Heat >= Worth).OrderByDescending(h => h.Heat).ToList())
        {
            if (_after[turn] < 0 || !TurnsBackAt(turn)) continue;
            var (from, here, to) = (_turns[_before[turn]], _turns[turn], _turns[_after[turn]]);
            if (spared.Exists(p => Math.Min(p.Middle.DistanceToLine(from, here), p.Middle.DistanceToLine(here, to)) < Spared + (p.Length / 2))) continue;
            if (!_heaps.IsHeaped(from, here) && !_heaps.IsHeaped(here, to)) continue;
            var (place, saved) = Sooner(turn);
            if (LeaveOut(turn, Math.Max(Worth, saved))) thinner = true;
            else if (saved > Worth) thinner = EndAt(turn, place);
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
        if (a.DistanceTo(d) < ShortestThrow || (d - a).Unit().Dot((b - a).Unit()) < TheirWay || !_layout.IsStraight(a, d)) return false;
        var saved = Heat(before, a, b) + Heat(turn, b, c) + Heat(next, c, d) - Heat(before, a, d);
        if (saved <= least || !Close(OnlyUnder((a, b), (b, c), (c, d)), (a, d))) return false;
        Change([(a, b), (b, c), (c, d)], [(a, d)]);
        (_after[before], _before[beyond], _after[turn], _after[next]) = (beyond, before, -1, -1);
        return true;
    }

    private bool EndAt(int turn, Point place)
    {
        var (from, to) = (_turns[_before[turn]], _turns[_after[turn]]);
        Change([(from, _turns[turn]), (_turns[turn], to)], [(from, place), (place, to)]);
        (_turns[turn], _moved[turn]) = (place, true);
        return true;
    }

    /// <summary>Where a throw can end sooner, so that most is saved, mm.</summary>
    private (Point Place, double Saved) Sooner(int turn)
    {
        var (from, end, to) = (_turns[_before[turn]], _turns[turn], _turns[_after[turn]]);
        var only = OnlyUnder((from, end), (end, to));
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
                if (Math.Min(place.DistanceTo(from), place.DistanceTo(to)) >= ShortestThrow && Close(only, (from, place), (place, to))) near = middle;
                else far = middle;
            }

            var sooner = end.Toward(other, near * Step / length);
            var saved = near == 0 ? 0 : all - Heat(_before[turn], from, sooner) - Heat(turn, sooner, to);
            if (saved > most) (best, most) = (sooner, saved);
        }

        return (best, most);
    }

    /// <summary>How much thread of a throw lies in heaps, mm; what shows counts for less.</summary>
    private double Heat(int number, Point from, Point to) => _heaps.Heat(from, to, place => _top[((int)((place.Y - _corner.Y) / Cell) * _columns) + (int)((place.X - _corner.X) / Cell)] == number + 1 ? _showing : 1);

    /// <summary>The middles of the cells inside that some throws cover and no others.</summary>
    private List<Point> OnlyUnder(params (Point From, Point To)[] throws)
    {
        Cover(throws, -1);
        _bare.Clear();
        foreach (var (from, to) in throws)
        {
            Across(from, to, (row, first, last) =>
            {
                for (var i = (row * _columns) + first; i <= (row * _columns) + last; i++)
                    if (_covers[i] == 0)
                        _bare.Add(i);
            });
        }

        Cover(throws, 1);
        return _bare.Select(i => _corner + (new Point((i % _columns) + 0.5, (i / _columns) + 0.5) * Cell)).Where(_inside.Has).ToList();
    }

    /// <summary>Whether some throws close cells, but for what nobody sees.</summary>
    private static bool Close(List<Point> cells, params (Point From, Point To)[] throws)
    {
        var left = (int)(MostBare / (Cell * Cell));
        if (cells.Count <= left) return true;
        WorkBudget.Current.Spend(1 + (int)(cells.Count * throws.Length / CellsOfOne));
        foreach (var cell in cells)
            if (!Array.Exists(throws, t => cell.DistanceToLine(t.From, t.To) <= Limits.ThreadWidth / 2) && --left < 0)
                return false;
        return true;
    }

    private void Change((Point From, Point To)[] old, (Point From, Point To)[] made)
    {
        Cover(old, -1);
        Cover(made, 1);
        foreach (var (from, to) in old) _heaps.Remove(from, to);
        foreach (var (from, to) in made) _heaps.Add(from, to);
    }

    private void Cover((Point From, Point To)[] throws, short by)
    {
        foreach (var (from, to) in throws)
        {
            Across(from, to, (row, first, last) =>
            {
                for (var i = (row * _columns) + first; i <= (row * _columns) + last; i++) _covers[i] += by;
            });
        }
    }

    private void Across(Point from, Point to, Action<int, int, int> take)
    {
        var along = (to - from).Unit() * (Limits.ThreadWidth / 2);
        var (begin, end) = (from - (along * AreaCells.RoundEnd) - _corner, to + (along * AreaCells.RoundEnd) - _corner);
        WorkBudget.Current.Spend(1 + (int)(from.DistanceTo(to) / Cell / CellsOfOne));
        Strip.Lay((begin / Cell) - new Point(0.5, 0.5), (end - begin) / Cell, along.Normal() / Cell, (0, _columns - 1), (0, _rows - 1), take);
    }
}
