using EvenThimble.Core.Geometry;
using EvenThimble.Core.Work;

namespace EvenThimble.Core.Digitizing.Satin;

/// <summary>What would come of changes to a finished run: whether they can be sewn, what they leave bare, what lies alone after them.</summary>
internal sealed class RunTrial
{
    // No stitch gets shorter than this, mm.
    private const double Shortest = 0.5;

    // So much may be bare after a change that was covered, mm².
    private const double MostBare = 0.02;

    // So far about the changes is looked at, mm.
    private const double Around = 1.3;

    // So many stitches are laid in the time of one step of work.
    private const int StitchesOfOne = 8;

    // Where cells are changed so far from a stitch, mm, it may lie alone where it did not, or the other way round.
    private const double Touches = 1.1;

    private readonly List<Point> _run;
    private readonly BitGrid _inside;
    private readonly StrokeLayout _layout;

    // The stitches that come near, by the needle point at their end; as they lie, with the numbers from 1 on, and the longest piece of each that lies alone.
    private readonly List<int> _near;
    private readonly ShowingThread _thread;
    private readonly double[] _alone;
    private readonly PiledThread _piled;

    // The cells that a change made show another stitch, and which they showed before.
    private readonly List<(int Cell, int Stitch)> _changed = [];

    /// <summary>Looks at a run where it may be changed.</summary>
    /// <param name="run">The run.</param>
    /// <param name="inside">The squares of its area.</param>
    /// <param name="layout">The strokes of that.</param>
    /// <param name="changes">All that is thought of.</param>
    /// <param name="longest">No stitch may be longer, mm.</param>
    public RunTrial(List<Point> run, BitGrid inside, StrokeLayout layout, IEnumerable<RunChange> changes, double longest)
    {
        (_run, _inside, _layout) = (run, inside, layout);
        Changes = [.. changes.Where(c => c.Stitches(run).All(s => s.From.DistanceTo(s.To) is var length && length >= Shortest && length <= longest))];
        Part = Box.Around(Changes.SelectMany(c => c.Made.Concat(run[c.First..(c.Last + 1)]))).Grown(Around);
        WorkBudget.Current.Spend(run.Count / StitchesOfOne);
        _near = Polylines.Near(run, Part.Grown(ShowingThread.Beyond));
        _thread = ShowingThread.In(Part, Enumerable.Range(1, _near.Count).Select(Stitch));
        _alone = [0, .. Enumerable.Range(1, _thread.Count).Select(_thread.LongestOf)];
        Alone = _alone.Max();
        _piled = new(_thread, [.. Changes.Select(TakenOut).SelectMany(t => Enumerable.Range(t.First, t.Last - t.First + 1)).Distinct()]);
    }

    /// <summary>The changes after which no stitch is too short or too long.</summary>
    public IReadOnlyList<RunChange> Changes { get; }

    /// <summary>The part of the cloth in which a change can make a difference.</summary>
    public Box Part { get; }

    /// <summary>Length of the longest piece that lies alone as it is, mm.</summary>
    public double Alone { get; }

    /// <summary>The same after one of the changes; null where that would leave the area or the thread that is there, or bare what is covered, or let a longer piece lie alone than is asked for, mm.</summary>
    public double? AloneAfter(RunChange change, double most)
    {
        WorkBudget.Current.Spend(1 + (_near.Count / StitchesOfOne));
        if (!change.Stitches(_run).All(s => _thread.IsCovered(s.From, s.To) || _layout.IsStraight(s.From, s.To))) return null;
        try
        {
            var (first, last) = TakenOut(change);
            TakeOut(first, last);
            foreach (var (from, to) in change.Stitches(_run)) PutIn(from, to, last);
            return Bared() > MostBare ? null : LongestAlone(change, most);
        }
        finally
        {
            Undo();
        }
    }

    /// <summary>The first and the last of the stitches, by their numbers, that a change takes out.</summary>
    private (int First, int Last) TakenOut(RunChange change)
    {
        var first = _near.BinarySearch(change.First + 1) + 1;
        return (first, first + change.Last - change.First - 1);
    }

    private void TakeOut(int first, int last)
    {
        for (var stitch = first; stitch <= last; stitch++)
            foreach (var (row, from, to) in _thread.Under(stitch))
                for (var cell = _thread.Cell(row, from); cell <= _thread.Cell(row, to); cell++)
                    if (_thread.Top(cell) is var top && top >= first && top <= last)
                        Show(cell, _piled.Without(first, last, cell));
    }

    /// <summary>Lays a stitch of a change over all up to the last of those that it takes the place of.</summary>
    private void PutIn(Point from, Point to, int last)
    {
        _thread.Add(from, to);
        foreach (var (row, left, right) in _thread.Under(_thread.Count))
            for (var cell = _thread.Cell(row, left); cell <= _thread.Cell(row, right); cell++)
                if (_thread.Top(cell) is var top && (top <= last || IsMade(top)))
                    Show(cell, _thread.Count);
    }

    private void Show(int cell, int stitch)
    {
        ref var top = ref _thread.Top(cell);
        _changed.Add((cell, top));
        top = stitch;
    }

    private void Undo()
    {
        for (var i = _changed.Count - 1; i >= 0; i--) _thread.Top(_changed[i].Cell) = _changed[i].Stitch;
        _changed.Clear();
        _thread.KeepFirst(_near.Count);
    }

    /// <summary>How much is bare now that was covered, mm².</summary>
    private double Bared() => _thread.SquareMm * _changed.Count(c => _thread.Top(c.Cell) == 0 && _inside.Has(_thread.Middle(c.Cell)));

    /// <summary>Length of the longest piece that lies alone now that a change is made, mm; null as soon as one is longer than is asked for.</summary>
    private double? LongestAlone(RunChange change, double most)
    {
        var (first, last) = TakenOut(change);
        var changed = Enumerable.Range(first, last - first + 1).Select(Stitch).Concat(change.Stitches(_run)).Select(s => (s.From, s.To, About: Box.Between(s.From, s.To).Grown(Touches))).ToArray();

        // What the change made lies alone most often.
        var longest = 0.0;
        for (var stitch = _thread.Count; stitch > 0 && longest <= most; stitch--)
            if (stitch < first || stitch > last)
                longest = Math.Max(longest, IsMade(stitch) || IsTouched(Stitch(stitch)) ? _thread.LongestOf(stitch) : _alone[stitch]);
        return longest <= most ? longest : null;

        bool IsTouched((Point From, Point To) stitch)
        {
            var box = Box.Between(stitch.From, stitch.To);
            foreach (var (from, to, about) in changed)
                if (about.Meets(box) && Polylines.Distance(from, to, stitch.From, stitch.To) <= Touches)
                    return true;
            return false;
        }
    }

    /// <summary>Whether a stitch is one that the change made which is being tried.</summary>
    private bool IsMade(int stitch) => stitch > _near.Count;

    private (Point From, Point To) Stitch(int number) => (_run[_near[number - 1] - 1], _run[_near[number - 1]]);
}
