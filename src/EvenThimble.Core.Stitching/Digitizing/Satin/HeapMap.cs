using EvenThimble.Core.Geometry;
using EvenThimble.Core.Work;

namespace EvenThimble.Core.Digitizing.Satin;

/// <summary>How much thread lies within a square of 1 mm about each place.</summary>
internal sealed class HeapMap
{
    // Side of the squares on which thread is measured, so many a mm; so many of them lie before the middle of a mm.
    private const int SquaresOfMm = 8;
    private const int Half = SquaresOfMm / 2;

    // So many squares are gone over in the time of one step of work.
    private const int SquaresOfOne = 64;

    private readonly double _heaped;
    private readonly Point _corner;
    private readonly int _columns;
    private readonly int _rows;
    private readonly double[] _around;
    private readonly double[] _heat;

    /// <summary>Lays thread from needle point to needle point.</summary>
    /// <param name="needlePoints">All, those of ties included.</param>
    /// <param name="box">Holds them with more than 1 mm about them.</param>
    /// <param name="heaped">From so much on it is heaped, mm a mm².</param>
    public HeapMap(IEnumerable<Point> needlePoints, Box box, double heaped)
    {
        (_heaped, _corner) = (heaped, new(box.MinX, box.MinY));
        (_columns, _rows) = ((int)(box.Width * SquaresOfMm) + 1, (int)(box.Height * SquaresOfMm) + 1);
        var (there, last) = (new double[_columns * _rows], default(Point?));
        foreach (var p in needlePoints)
        {
            if (last is { } from)
            {
                var (count, step, piece) = Pieces(from, p);
                for (var i = 0; i < count; i++) there[Square(from + (step * (i + 0.5)))] += piece;
            }

            last = p;
        }

        _around = Summed(there, Half);
        Most = _around.Max();
        _heat = HasHeaps ? Summed(Array.ConvertAll(_around, a => a > heaped ? 1.0 / (SquaresOfMm * SquaresOfMm) : 0), Half - 1) : [];
    }

    /// <summary>The most of it that was found at first, mm.</summary>
    public double Most { get; }

    /// <summary>Whether thread was heaped anywhere.</summary>
    public bool HasHeaps => Most > _heaped;

    /// <summary>Whether thread from one place to another goes where it is heaped, as it is by now.</summary>
    public bool IsHeaped(Point from, Point to)
    {
        var (count, step, _) = Pieces(from, to);
        for (var i = 0; i < count; i++)
            if (_around[Square(from + (step * (i + 0.5)))] > _heaped)
                return true;
        return false;
    }

    /// <summary>Length of thread from one place to another, mm, of which each piece counts for the part of the squares of 1 mm over it that were heaped at first, and for what else is asked.</summary>
    public double Heat(Point from, Point to, Func<Point, double> weight)
    {
        var (sum, (count, step, piece)) = (0.0, Pieces(from, to));
        for (var i = 0; i < count; i++)
        {
            var place = from + (step * (i + 0.5));
            if (_heat[Square(place)] is > 0 and var heat) sum += heat * piece * weight(place);
        }

        return sum;
    }

    /// <summary>Lays more thread.</summary>
    public void Add(Point from, Point to) => Change(from, to, 1);

    /// <summary>Takes thread away that was laid.</summary>
    public void Remove(Point from, Point to) => Change(from, to, -1);

    private void Change(Point from, Point to, int sign)
    {
        var (count, step, piece) = Pieces(from, to);
        for (var i = 0; i < count; i++)
        {
            var square = Square(from + (step * (i + 0.5)));
            var (column, row) = (square % _columns, square / _columns);
            for (var y = Math.Max(0, row - Half + 1); y <= Math.Min(_rows - 1, row + Half); y++)
                for (var x = Math.Max(0, column - Half + 1); x <= Math.Min(_columns - 1, column + Half); x++)
                    _around[(y * _columns) + x] += sign * piece;
        }
    }

    private int Square(Point place) => ((int)((place.Y - _corner.Y) * SquaresOfMm) * _columns) + (int)((place.X - _corner.X) * SquaresOfMm);

    /// <summary>Thread in pieces no longer than a square is: how many, from each to the next, and the length of one, mm.</summary>
    private static (int Count, Point Step, double Length) Pieces(Point from, Point to)
    {
        var length = from.DistanceTo(to);
        var count = Math.Max(1, (int)Math.Ceiling(length * SquaresOfMm));
        return (count, (to - from) / count, length / count);
    }

    /// <summary>Sums over the squares of a mm, of which so many lie before each in its row and its column.</summary>
    private double[] Summed(double[] of, int before)
    {
        WorkBudget.Current.Spend(of.Length / SquaresOfOne);
        var (across, sums) = (new double[of.Length], new double[of.Length]);
        for (var row = 0; row < _rows; row++) Slide(of, across, row * _columns, 1, _columns, before);
        for (var column = 0; column < _columns; column++) Slide(across, sums, column, _columns, _rows, before);
        return sums;
    }

    private static void Slide(double[] of, double[] into, int first, int step, int count, int before)
    {
        var sum = 0.0;
        for (var i = before - SquaresOfMm + 1; i < count; i++)
        {
            if (i - before + SquaresOfMm - 1 < count) sum += of[first + ((i - before + SquaresOfMm - 1) * step)];
            if (i - before > 0) sum -= of[first + ((i - before - 1) * step)];
            if (i >= 0) into[first + (i * step)] = sum;
        }
    }
}
