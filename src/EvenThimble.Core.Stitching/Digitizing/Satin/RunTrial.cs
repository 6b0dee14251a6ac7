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

    private readonly List<Point> _run;
    private readonly BitGrid _inside;
    private readonly StrokeLayout _layout;
    private readonly List<int> _near;
    private readonly ShowingThread _before;

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
        _before = ShowingThread.In(Part, _near.Select(i => (run[i - 1], run[i])));
        Alone = _before.Longest();
    }

    /// <summary>The changes after which no stitch is too short or too long.</summary>
    public IReadOnlyList<RunChange> Changes { get; }

    /// <summary>The part of the cloth in which a change can make a difference.</summary>
    public Box Part { get; }

    /// <summary>Length of the longest piece that lies alone as it is, mm.</summary>
    public double Alone { get; }

    /// <summary>The same after one of the changes; null where that would leave the area or the thread that is there, or bare what is covered.</summary>
    public double? AloneAfter(RunChange change)
    {
        WorkBudget.Current.Spend(1 + (_near.Count / StitchesOfOne));
        if (!change.Stitches(_run).All(s => _before.IsCovered(s.From, s.To) || _layout.IsStraight(s.From, s.To))) return null;
        var stitches = _near.Where(i => i <= change.First).Select(Stitch).Concat(change.Stitches(_run)).Concat(_near.Where(i => i > change.Last).Select(Stitch));
        var after = ShowingThread.In(Part, stitches);
        return _before.CoversBeyond(after, _inside) > MostBare ? null : after.Longest();
    }

    private (Point From, Point To) Stitch(int number) => (_run[number - 1], _run[number]);
}
