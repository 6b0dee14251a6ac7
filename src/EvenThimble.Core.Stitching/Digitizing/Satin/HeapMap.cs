using System.Buffers;
using System.Numerics;
using EvenThimble.Core.Geometry;
using EvenThimble.Core.Work;

namespace EvenThimble.Core.Digitizing.Satin;

/// <summary>How much thread lies within a square of 1 mm about each place.</summary>
internal sealed class HeapMap : IDisposable
{
    /// <summary>On more squares than so many nothing is looked at.</summary>
    public const int MostSquares = 2_000_000;

    // Side of the squares on which thread is measured, so many a mm; so many of them lie before the middle of a mm.
    private const int SquaresOfMm = 8;
    private const int Half = SquaresOfMm / 2;

    // Whether thread at the edge of a mm² belongs to it depends on where the squares begin: the most of all is looked for from these places, mm.
    private static readonly Point[] Shifts = [new(0, 0), new(0.5 / SquaresOfMm, 0), new(0, 0.5 / SquaresOfMm), new(0.5 / SquaresOfMm, 0.5 / SquaresOfMm)];

    // So far about thread there are squares, mm.
    private const double About = 2;

    // So many squares are gone over in the time of one step of work.
    private const int SquaresOfOne = 64;

    private readonly double _heaped;
    private readonly Point _corner;
    private readonly int _columns;
    private readonly int _rows;

    // Of each square the thread of the mm² about it as it is by now, and which part of the mm² over it were heaped when it was looked at; elsewhere than in a box none were.
    private readonly double[] _around;
    private readonly double[] _heat;
    private Box _hot;

    /// <summary>Lays thread from needle point to needle point, and looks at all of it.</summary>
    /// <param name="box">Holds the thread with more than 1 mm about it.</param>
    /// <param name="needlePoints">All, those of ties included.</param>
    /// <param name="heaped">From so much on thread is heaped, mm a mm².</param>
    public HeapMap(Box box, IEnumerable<Point> needlePoints, double heaped)
    {
        (_heaped, _corner) = (heaped, new(box.MinX, box.MinY));
        (_columns, _rows) = ((int)(box.Width * SquaresOfMm) + 1, (int)(box.Height * SquaresOfMm) + 1);
        (_around, _heat) = (ArrayPool<double>.Shared.Rent(_columns * _rows), ArrayPool<double>.Shared.Rent(_columns * _rows));

        // What lies in each square itself is not asked for any more when the sums are known.
        WorkBudget.Current.Spend(3 * _columns * _rows / SquaresOfOne);
        Array.Clear(_heat, 0, _columns * _rows);
        var last = default(Point?);
        foreach (var p in needlePoints)
        {
            if (last is { } from)
            {
                var (count, step, length) = Pieces(from, p);
                for (var i = 0; i < count; i++) _heat[Square(from + (step * (i + 0.5)))] += length;
            }

            last = p;
        }

        Most = SumUp(_heat);
        if (HasHeaps) Look(box);
    }

    /// <summary>The most thread on a mm² in the part that was looked at, mm.</summary>
    public double Most { get; private set; }

    /// <summary>Whether thread was heaped anywhere in it.</summary>
    public bool HasHeaps => Most > _heaped;

    /// <summary>The most thread on a mm² about a run, mm; 0 where that is too large to be looked at.</summary>
    /// <param name="tied">Its needle points, with those of its ties.</param>
    /// <param name="sewn">What is sewn besides, in the same way.</param>
    /// <param name="isRough">Whether it may be some tenths of a mm less, which is told in a quarter of the time.</param>
    public static double MostOf(IEnumerable<Point> tied, IEnumerable<IReadOnlyList<Point>>? sewn = null, bool isRough = false)
    {
        var run = tied.ToList();
        var part = Box.Around(run).Grown(About);
        var besides = (sewn ?? []).SelectMany(s => Polylines.Near(s, part).Select(i => (From: s[i - 1], To: s[i]))).ToList();
        var box = besides.Aggregate(part, (b, s) => b.With(Box.Between(s.From, s.To).Grown(About)));
        return Squares(box) > MostSquares ? 0 : isRough ? MostFrom(Shifts[0]) : Shifts.Max(MostFrom);

        double MostFrom(Point shift)
        {
            using var heaps = new HeapMap(box with { MinX = box.MinX - shift.X, MinY = box.MinY - shift.Y }, run, double.PositiveInfinity);
            foreach (var (from, to) in besides) heaps.Add(from, to);
            if (besides.Count > 0) heaps.Look(part);
            return heaps.Most;
        }
    }

    /// <summary>How many squares there are over a part of the cloth.</summary>
    public static double Squares(Box part) => part.Width * part.Height * SquaresOfMm * SquaresOfMm;

    /// <summary>Gives back what the squares were kept in.</summary>
    public void Dispose()
    {
        ArrayPool<double>.Shared.Return(_around);
        ArrayPool<double>.Shared.Return(_heat);
    }

    /// <summary>Looks where thread is heaped now in a part of the cloth; of heat elsewhere nothing is known any more.</summary>
    public void Look(Box part)
    {
        var (left, right) = (Math.Max(0, Column(part.MinX)), Math.Min(_columns - 1, Column(part.MaxX)));
        var (top, bottom) = (Math.Max(0, Row(part.MinY)), Math.Min(_rows - 1, Row(part.MaxY)));
        (Most, _hot) = (0, Box.Empty);
        for (var row = top; row <= bottom; row++)
        {
            Array.Clear(_heat, (row * _columns) + left, right - left + 1);
            Most = Math.Max(Most, Largest(_around.AsSpan((row * _columns) + left, right - left + 1)));
        }

        for (var row = top; HasHeaps && row <= bottom; row++)
        {
            for (var square = (row * _columns) + left; square <= (row * _columns) + right; square++)
            {
                if (_around[square] <= _heaped) continue;
                AddTo(_heat, square, Half, 1.0 / (SquaresOfMm * SquaresOfMm));
                _hot = _hot.With(_corner + (new Point(square % _columns, row) / SquaresOfMm));
            }
        }

        _hot = _hot.Grown((Half + 1.0) / SquaresOfMm);
    }

    /// <summary>Whether thread from one place to another goes where it is heaped, as it is by now.</summary>
    public bool IsHeaped(Point from, Point to)
    {
        var (count, step, _) = Pieces(from, to);
        for (var i = 0; i < count; i++)
            if (_around[Square(from + (step * (i + 0.5)))] > _heaped)
                return true;
        return false;
    }

    /// <summary>Length of thread from one place to another, mm, of which each piece counts for the part of the squares of 1 mm over it that were heaped when it was looked at, and for what else is asked.</summary>
    public double Heat(Point from, Point to, Func<Point, double>? weight = null)
    {
        if (!_hot.Meets(Box.Between(from, to))) return 0;
        var (sum, (count, step, length)) = (0.0, Pieces(from, to));
        for (var i = 0; i < count; i++)
        {
            var place = from + (step * (i + 0.5));
            if (_heat[Square(place)] is > 0 and var heat) sum += heat * length * (weight?.Invoke(place) ?? 1);
        }

        return sum;
    }

    /// <summary>Lays more thread.</summary>
    public void Add(Point from, Point to) => Change(from, to, 1);

    /// <summary>Takes thread away that was laid.</summary>
    public void Remove(Point from, Point to) => Change(from, to, -1);

    private void Change(Point from, Point to, int sign)
    {
        var (count, step, length) = Pieces(from, to);
        for (var i = 0; i < count; i++) AddTo(_around, Square(from + (step * (i + 0.5))), Half - 1, sign * length);
    }

    /// <summary>Adds to the squares of a mm², so many of which lie before a square in its row and its column.</summary>
    private void AddTo(double[] squares, int square, int before, double much)
    {
        var (column, row) = ((square % _columns) - before, (square / _columns) - before);
        for (var y = Math.Max(0, row); y < Math.Min(_rows, row + SquaresOfMm); y++)
            for (var x = Math.Max(0, column); x < Math.Min(_columns, column + SquaresOfMm); x++)
                squares[(y * _columns) + x] += much;
    }

    private int Column(double x) => (int)((x - _corner.X) * SquaresOfMm);

    private int Row(double y) => (int)((y - _corner.Y) * SquaresOfMm);

    private int Square(Point place) => (Row(place.Y) * _columns) + Column(place.X);

    /// <summary>Thread in pieces no longer than a square is: how many, from each to the next, and the length of one, mm.</summary>
    private static (int Count, Point Step, double Length) Pieces(Point from, Point to)
    {
        var length = from.DistanceTo(to);
        var count = Math.Max(1, (int)Math.Ceiling(length * SquaresOfMm));
        return (count, (to - from) / count, length / count);
    }

    /// <summary>Sums up the thread of the mm² about each square: down all columns at once, and so along each row.</summary>
    /// <returns>The most of all, mm.</returns>
    private double SumUp(double[] there)
    {
        // Along a row the sums of two, four and eight neighbours are made of each other.
        var (columns, along, most) = (new double[_columns], new double[_columns + SquaresOfMm], 0.0);
        for (var row = 1 - Half; row < _rows; row++)
        {
            var (entering, leaving) = (row + Half - 1, row - Half - 1);
            if (entering < _rows) Accumulate(there.AsSpan(entering * _columns, _columns), columns, 1);
            if (leaving >= 0) Accumulate(there.AsSpan(leaving * _columns, _columns), columns, -1);
            if (row < 0) continue;
            Array.Clear(along);
            columns.CopyTo(along, Half);
            for (var far = 1; far < SquaresOfMm; far *= 2) Accumulate(along.AsSpan(far), along.AsSpan(0, along.Length - far), 1);
            along.AsSpan(0, _columns).CopyTo(_around.AsSpan(row * _columns, _columns));
            most = Math.Max(most, Largest(along.AsSpan(0, _columns)));
        }

        return most;
    }

    /// <summary>The largest of numbers, 0 where none is above that.</summary>
    private static double Largest(ReadOnlySpan<double> numbers)
    {
        var (largest, all, i) = (0.0, Vector<double>.Zero, 0);
        for (; i <= numbers.Length - Vector<double>.Count; i += Vector<double>.Count) all = Vector.Max(all, new Vector<double>(numbers[i..]));
        for (var k = 0; k < Vector<double>.Count; k++) largest = Math.Max(largest, all[k]);
        for (; i < numbers.Length; i++) largest = Math.Max(largest, numbers[i]);
        return largest;
    }

    /// <summary>Adds numbers, so many times, to as many others; those may be the same, but not farther on.</summary>
    private static void Accumulate(ReadOnlySpan<double> numbers, Span<double> to, double times)
    {
        var i = 0;
        for (; i <= to.Length - Vector<double>.Count; i += Vector<double>.Count) (new Vector<double>(to[i..]) + (new Vector<double>(numbers[i..]) * times)).CopyTo(to[i..]);
        for (; i < to.Length; i++) to[i] += numbers[i] * times;
    }
}
