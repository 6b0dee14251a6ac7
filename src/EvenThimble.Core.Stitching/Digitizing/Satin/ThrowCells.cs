using System.Buffers;
using EvenThimble.Core.Craft;
using EvenThimble.Core.Geometry;
using EvenThimble.Core.Work;

namespace EvenThimble.Core.Digitizing.Satin;

/// <summary>Small square cells, each of which knows how often throws cover it and which of them lie on top.</summary>
internal sealed class ThrowCells : IDisposable
{
    // Side of a cell, mm. So many are gone over in the time of one step of work.
    private const double Side = 0.07;
    private const int CellsOfOne = 60;

    // Thread counts for a little narrower than it is, or hairlines that are narrower than a cell would not be seen.
    private const double Half = (Limits.ThreadWidth / 2) - 0.03;

    // So many of the throws over a cell are known by their numbers, those on top.
    private const int Known = 4;

    private readonly Point _corner;
    private readonly int _columns;
    private readonly int _rows;
    private readonly int[] _covers;
    private readonly int[] _tops;
    private readonly HashSet<int> _found = [];

    /// <summary>Cells that nothing covers yet.</summary>
    /// <param name="box">All of them; throws lie in it, with more than a thread's width about them.</param>
    public ThrowCells(Box box)
    {
        (_corner, _columns, _rows) = (new(box.MinX, box.MinY), (int)(box.Width / Side) + 1, (int)(box.Height / Side) + 1);
        (_covers, _tops) = (ArrayPool<int>.Shared.Rent(_columns * _rows), ArrayPool<int>.Shared.Rent(_columns * _rows * Known));
        Array.Clear(_covers, 0, _columns * _rows);
        Array.Clear(_tops, 0, _columns * _rows * Known);
    }

    /// <summary>Area of a cell, mm².</summary>
    public static double SquareMm => Side * Side;

    /// <summary>How many cells there are over a box.</summary>
    public static double Count(Box box) => box.Width * box.Height / SquareMm;

    /// <summary>Gives back what the cells were kept in.</summary>
    public void Dispose()
    {
        ArrayPool<int>.Shared.Return(_covers);
        ArrayPool<int>.Shared.Return(_tops);
    }

    /// <summary>Whether a throw covers a place.</summary>
    public static bool Covers(Point from, Point to, Point place) => place.DistanceToLine(from, to) <= Half;

    /// <summary>Lays a throw on top of all.</summary>
    /// <param name="from">Where it begins.</param>
    /// <param name="to">Where it ends.</param>
    /// <param name="number">Its number, from 1 on.</param>
    public void Lay(Point from, Point to, int number) => Across(from, to, (row, first, last) =>
    {
        for (var i = (row * _columns) + first; i <= (row * _columns) + last; i++)
        {
            _covers[i]++;
            var tops = _tops.AsSpan(i * Known, Known);
            for (var k = Known - 1; k > 0; k--) tops[k] = tops[k - 1];
            tops[0] = number;
        }
    });

    /// <summary>Covers cells so many times more, without a look at what lies on top.</summary>
    public void Cover((Point From, Point To)[] throws, int by)
    {
        foreach (var (from, to) in throws)
        {
            Across(from, to, (row, first, last) =>
            {
                for (var i = (row * _columns) + first; i <= (row * _columns) + last; i++) _covers[i] += by;
            });
        }
    }

    /// <summary>The number of the throw that lies on top at a place.</summary>
    public int Top(Point place) => _tops[((int)((place.Y - _corner.Y) / Side) * _columns * Known) + ((int)((place.X - _corner.X) / Side) * Known)];

    /// <summary>The middles of the cells that would show it if some throws were gone.</summary>
    /// <param name="throws">The throws.</param>
    /// <param name="shows">Takes the middle of a cell that they cover and what lies on top there, the uppermost first, 0 beyond the last, and tells whether it shows that they are gone.</param>
    /// <returns>Those that nothing would cover; and those that would show.</returns>
    public (List<Point> Bare, List<Point> Showing) Without((Point From, Point To)[] throws, Func<Point, ReadOnlySpan<int>, bool> shows)
    {
        Cover(throws, -1);
        var (bare, showing) = (new List<Point>(), new List<Point>());
        _found.Clear();
        foreach (var (from, to) in throws)
        {
            Across(from, to, (row, first, last) =>
            {
                for (var column = first; column <= last; column++)
                {
                    var (i, place) = ((row * _columns) + column, _corner + (new Point(column + 0.5, row + 0.5) * Side));
                    var isBare = _covers[i] == 0;
                    if ((isBare || shows(place, _tops.AsSpan(i * Known, Known))) && _found.Add(i)) (isBare ? bare : showing).Add(place);
                }
            });
        }

        Cover(throws, 1);
        return (bare, showing);
    }

    private void Across(Point from, Point to, Action<int, int, int> take)
    {
        var along = (to - from).Unit() * Half;
        var (begin, end) = (from - (along * AreaCells.RoundEnd) - _corner, to + (along * AreaCells.RoundEnd) - _corner);
        WorkBudget.Current.Spend(1 + ((int)(from.DistanceTo(to) / Side) / CellsOfOne));
        Strip.Lay((begin / Side) - new Point(0.5, 0.5), (end - begin) / Side, along.Normal() / Side, (0, _columns - 1), (0, _rows - 1), take);
    }
}
