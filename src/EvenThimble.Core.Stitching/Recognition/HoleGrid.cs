using EvenThimble.Core.Geometry;
using EvenThimble.Core.Work;

namespace EvenThimble.Core.Recognition;

/// <summary>Finds needle points of a thread that lie in the same place.</summary>
internal sealed class HoleGrid
{
    private const double SameHole = 0.2;
    private const double Beside = 0.25;
    private const double About = 0.5;

    // Where more needle points than this lie within half a millimetre, holes cannot be told from each other.
    private const int Crowd = 150;
    private readonly Point[] _points;
    private readonly CellIndex _cells;

    /// <summary>Takes the points of a stretch.</summary>
    /// <param name="points">Of the thread.</param>
    /// <param name="from">The first.</param>
    /// <param name="to">The last.</param>
    public HoleGrid(Point[] points, int from, int to)
    {
        _points = points;
        WorkBudget.Current.Spend((to - from) / 4);
        _cells = new(points, from, to, span: 0, About);
        IsCrowded = _cells.Most > Crowd * Math.Pow(_cells.CellMm / About, 2);
    }

    /// <summary>Whether needle points lie so thick somewhere that nothing can be said of holes.</summary>
    public bool IsCrowded { get; }

    /// <summary>Whether another stitch, at least so many needle points away in the thread, has its needle point in the hole of one, and none has it in a hole close beside that, as the next row or throw would.</summary>
    public bool IsShared(int point, int apart)
    {
        var shared = false;
        return !Any(_points[point], About, other =>
        {
            var distance = _points[other].DistanceTo(_points[point]);
            if (distance <= SameHole) shared |= Math.Abs(other - point) >= apart;
            return distance > Beside;
        }) && shared;
    }

    /// <summary>The first point, in the order they are sewn, that lies in the same hole.</summary>
    public int First(Point at)
    {
        var first = int.MaxValue;
        Any(at, SameHole, i =>
        {
            first = Math.Min(first, i);
            return false;
        });
        return first;
    }

    /// <summary>Whether a point within a reach passes a test.</summary>
    private bool Any(Point at, double reach, Predicate<int> test)
    {
        foreach (var i in _cells.Near(at))
            if (_points[i].DistanceTo(at) <= reach && test(i))
                return true;
        return false;
    }
}
