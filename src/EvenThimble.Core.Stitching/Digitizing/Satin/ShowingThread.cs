using System.Buffers;
using EvenThimble.Core.Craft;
using EvenThimble.Core.Geometry;
using EvenThimble.Core.Work;

namespace EvenThimble.Core.Digitizing.Satin;

/// <summary>
/// What of a run lies on top when all is sewn: found on small square cells, each of which knows the stitch that passed it last. A way that nothing covered is seen there as a thread
/// without a neighbour that goes its way.
/// </summary>
internal sealed class ShowingThread
{
    // Length of a cell's side, mm; larger where there would be too many. On still larger ones nothing is told apart.
    private const double Finest = 0.07;
    private const double Coarsest = 0.2;
    private const int MostCells = 2_000_000;

    // A neighbour on either side is looked for at these distances, and what it lies across at those that are farther than its own edge is broad, mm.
    private static readonly double[] Beside = [0.26, 0.36, 0.46, 0.56];
    private const double Across = 0.4;

    // Thread goes the same way where it turns by less than this, degrees.
    private const double SameWay = 30;
    private static readonly double CosSameWay = Math.Cos(SameWay * Math.PI / 180);

    // Along so many cells a stitch is laid in the time of one step of work.
    private const int CellsOfOne = 60;

    // The run and its directions; places are measured in cells.
    private readonly Point[] _run;
    private readonly Point[] _directions;
    private readonly double _size;
    private readonly int _columns;
    private readonly int _rows;
    private readonly int[] _last;

    private ShowingThread(IReadOnlyList<Point> run, Box box, double size, int columns, int rows, int[] cells)
    {
        (_size, _columns, _rows, _last) = (size, columns, rows, cells);
        _run = [.. run.Select(p => new Point((p.X - box.MinX) / size, (p.Y - box.MinY) / size))];
        _directions = [.. run.Select((p, i) => i == 0 ? Point.Zero : (p - run[i - 1]).Unit())];
        for (var i = 1; i < run.Count; i++) Pass(i);
    }

    /// <summary>Length of the longest piece of thread, mm, that lies across other thread and has a neighbour that goes its way on neither side; 0 for a run over so large an area that it is not looked at.</summary>
    public static double LongestAlone(IReadOnlyList<Point> run)
    {
        var box = Box.Around(run).Grown(1);
        var size = Math.Max(Finest, Math.Sqrt(box.Width * box.Height / MostCells));
        if (run.Count < 2 || size > Coarsest) return 0;

        // Cells are taken and given back: new ones for each try would keep the collector busy for longer than looking takes.
        var (columns, rows) = ((int)(box.Width / size) + 1, (int)(box.Height / size) + 1);
        var cells = ArrayPool<int>.Shared.Rent(columns * rows);
        try
        {
            Array.Clear(cells, 0, columns * rows);
            return new ShowingThread(run, box, size, columns, rows, cells).Longest();
        }
        finally
        {
            ArrayPool<int>.Shared.Return(cells);
        }
    }

    private int At(Point place) => ((int)place.Y * _columns) + (int)place.X;

    private void Pass(int stitch)
    {
        var (half, along, middle) = (Limits.ThreadWidth / _size / 2, _directions[stitch], new Point(0.5, 0.5));
        var beyond = along * (half * AreaCells.RoundEnd);
        var (from, to) = (_run[stitch - 1] - beyond - middle, _run[stitch] + beyond - middle);
        WorkBudget.Current.Spend(1 + ((int)from.DistanceTo(to) / CellsOfOne));
        Strip.Lay(from, to - from, along.Normal() * half, (0, _columns - 1), (0, _rows - 1), (row, first, last) => Array.Fill(_last, stitch, (row * _columns) + first, last - first + 1));
    }

    private double Longest()
    {
        var longest = 0;
        for (var i = 1; i < _run.Length; i++)
        {
            var (from, along, length, alone) = (_run[i - 1], _directions[i], _run[i - 1].DistanceTo(_run[i]), 0);
            for (var d = 0.5; d < length; d++)
            {
                alone = IsAlone(i, from + (along * d)) ? alone + 1 : 0;
                longest = Math.Max(longest, alone);
            }
        }

        return longest * _size;
    }

    private bool IsAlone(int stitch, Point place)
    {
        if (_last[At(place)] != stitch) return false;
        var (along, crosses) = (_directions[stitch], false);
        for (var side = -1; side <= 1; side += 2)
        {
            var aside = along.Normal() * (side / _size);
            foreach (var away in Beside)
            {
                var other = _last[At(place + (aside * away))];
                if (other == 0 || other == stitch) continue;
                if (Math.Abs(along.Dot(_directions[other])) > CosSameWay) return false;
                crosses |= away > Across;
            }
        }

        return crosses;
    }
}
