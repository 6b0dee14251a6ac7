using EvenThimble.Core.Geometry;

namespace EvenThimble.Core.Digitizing.Satin;

/// <summary>Other needle points between two of a finished run.</summary>
/// <param name="First">The number of the needle point before them.</param>
/// <param name="Last">The number of the one after them.</param>
/// <param name="Made">They; none where the thread goes straight on.</param>
internal sealed record RunChange(int First, int Last, IReadOnlyList<Point> Made)
{
    // Thread goes straight on through a needle point that splits a throw: the cosine there.
    private const double StraightOn = 0.995;

    /// <summary>The needle goes by one more place between two needle points; what is too long for a stitch is split.</summary>
    public static RunChange Through(List<Point> run, int first, int last, Point place, double longest)
    {
        var made = new List<Point> { run[first] };
        SatinThrows.Throw(made, place, 2 * first, longest);
        SatinThrows.Throw(made, run[last], (2 * first) + 1, longest);
        return new(first, last, made.Count > 2 && made[^1] == run[last] ? made[1..^1] : [place]);
    }

    /// <summary>Whether thread goes straight on at a needle point of a run that is neither its first nor its last.</summary>
    public static bool GoesOn(List<Point> run, int number) => (run[number] - run[number - 1]).Unit().Dot((run[number + 1] - run[number]).Unit()) > StraightOn;

    /// <summary>The stitches that there are then from the first to the last.</summary>
    public IEnumerable<(Point From, Point To)> Stitches(List<Point> run)
    {
        var last = run[First];
        foreach (var p in Made.Append(run[Last]))
        {
            yield return (last, p);
            last = p;
        }
    }

    /// <summary>Changes a run.</summary>
    public void Make(List<Point> run)
    {
        run.RemoveRange(First + 1, Last - First - 1);
        run.InsertRange(First + 1, Made);
    }
}
