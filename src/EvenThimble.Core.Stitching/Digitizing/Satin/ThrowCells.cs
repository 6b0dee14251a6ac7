using System.Buffers;
using System.Runtime.Intrinsics;
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

    // Each throw that comes on top of a cell moves the four that are known there down by one.
    private static readonly Vector128<int> Down = Vector128.Create(0, 0, 1, 2);

    private readonly Point _corner;
    private readonly int _columns;
    private readonly int _rows;
    private readonly int[] _covers;
    private readonly Vector128<int>[] _tops;
    private readonly HashSet<int> _found = [];

    /// <summary>Cells that nothing covers yet.</summary>
    /// <param name="box">All of them; what of throws lies outside is not known.</param>
    public ThrowCells(Box box)
    {
        (_corner, _columns, _rows) = (new(box.MinX, box.MinY), (int)(box.Width / Side) + 1, (int)(box.Height / Side) + 1);
        (_covers, _tops) = (ArrayPool<int>.Shared.Rent(_columns * _rows), ArrayPool<Vector128<int>>.Shared.Rent(_columns * _rows));
        Array.Clear(_covers, 0, _columns * _rows);
        Array.Clear(_tops, 0, _columns * _rows);
    }

    /// <summary>Area of a cell, mm².</summary>
    public static double SquareMm => Side * Side;

    /// <summary>How many cells there are over a box.</summary>
    public static double Count(Box box) => box.Width * box.Height / SquareMm;

    /// <summary>Gives back what the cells were kept in.</summary>
    public void Dispose()
    {
        ArrayPool<int>.Shared.Return(_covers);
        ArrayPool<Vector128<int>>.Shared.Return(_tops);
    }

    /// <summary>Tells which places a throw covers.</summary>
    /// <param name="from">Where it begins.</param>
    /// <param name="to">Where it ends.</param>
    public readonly struct Cover(Point from, Point to)
    {
        private readonly Point _way = to - from;
        private readonly double _part = 1 / Math.Max(1e-12, (to - from).Dot(to - from));

        /// <summary>Whether it covers a place.</summary>
        public bool Holds(Point place)
        {
            var beside = place - from;
            var off = beside - (_way * Math.Clamp(beside.Dot(_way) * _part, 0, 1));
            return off.Dot(off) <= Half * Half;
        }
    }

    /// <summary>Lays a throw on top of all.</summary>
    /// <param name="from">Where it begins.</param>
    /// <param name="to">Where it ends.</param>
    /// <param name="number">Its number, from 1 on.</param>
    public void Lay(Point from, Point to, int number)
    {
        foreach (var (row, first, last) in Across(from, to))
        {
            for (var i = (row * _columns) + first; i <= (row * _columns) + last; i++)
            {
                _covers[i]++;
                _tops[i] = Vector128.Shuffle(_tops[i], Down).WithElement(0, number);
            }
        }
    }

    /// <summary>Covers cells so many times more, without a look at what lies on top.</summary>
    public void Lay((Point From, Point To)[] throws, int by)
    {
        foreach (var (from, to) in throws)
            foreach (var (row, first, last) in Across(from, to))
                for (var i = (row * _columns) + first; i <= (row * _columns) + last; i++)
                    _covers[i] += by;
    }

    /// <summary>The number of the throw that lies on top at a place.</summary>
    public int Top(Point place) => _tops[((int)((place.Y - _corner.Y) / Side) * _columns) + (int)((place.X - _corner.X) / Side)][0];

    /// <summary>The middles of the cells that would show it if some throws were gone.</summary>
    /// <param name="throws">The throws.</param>
    /// <param name="numbers">Their numbers.</param>
    /// <param name="shows">Takes the middle of a cell of which one of them lies on top, and the four throws that do, the uppermost first, 0 beyond the last, and tells whether it shows that they are gone.</param>
    /// <returns>Those that nothing would cover; and those that would show.</returns>
    public (List<Point> Bare, List<Point> Showing) Without((Point From, Point To)[] throws, ReadOnlySpan<int> numbers, Func<Point, Vector128<int>, bool> shows)
    {
        Lay(throws, -1);
        var (bare, showing) = (new List<Point>(), new List<Point>());
        _found.Clear();
        foreach (var (from, to) in throws)
        {
            foreach (var (row, first, last) in Across(from, to))
            {
                for (var column = first; column <= last; column++)
                {
                    var i = (row * _columns) + column;
                    var isBare = _covers[i] == 0;
                    if (!isBare && !numbers.Contains(_tops[i][0])) continue;
                    var place = Middle(row, column);
                    if ((isBare || shows(place, _tops[i])) && _found.Add(i)) (isBare ? bare : showing).Add(place);
                }
            }
        }

        Lay(throws, 1);
        return (bare, showing);
    }

    /// <summary>The middles of the cells under throws that nothing covers.</summary>
    public IEnumerable<Point> Bare((Point From, Point To)[] throws)
    {
        _found.Clear();
        foreach (var (from, to) in throws)
            foreach (var (row, first, last) in Across(from, to))
                for (var column = first; column <= last; column++)
                    if (_covers[(row * _columns) + column] == 0 && _found.Add((row * _columns) + column))
                        yield return Middle(row, column);
    }

    private Point Middle(int row, int column) => _corner + (new Point(column + 0.5, row + 0.5) * Side);

    private Strip Across(Point from, Point to)
    {
        var along = (to - from).Unit() * Half;
        var (begin, end) = (from - (along * AreaCells.RoundEnd) - _corner, to + (along * AreaCells.RoundEnd) - _corner);
        WorkBudget.Current.Spend(1 + ((int)(from.DistanceTo(to) / Side) / CellsOfOne));
        return new((begin / Side) - new Point(0.5, 0.5), (end - begin) / Side, along.Normal() / Side, (0, _columns - 1), (0, _rows - 1));
    }
}
