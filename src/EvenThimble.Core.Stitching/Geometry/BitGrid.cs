using System.Numerics;
using EvenThimble.Core.Work;

namespace EvenThimble.Core.Geometry;

/// <summary>Small squares over a rectangle of the cloth, each set or not; a bit each, so that many fine ones can be laid, taken away and drawn in at once.</summary>
internal sealed class BitGrid
{
    private const int Bits = 64;

    // So many words are gone over in the time of one step of work.
    private const int WordsOfOne = 64;

    private readonly double _left;
    private readonly double _top;
    private readonly int _columns;
    private readonly int _rows;
    private readonly int _words;
    private readonly ulong[] _bits;

    /// <summary>Squares of a side (mm) over a rectangle, none of them set; the outermost stay so.</summary>
    public BitGrid(Box bounds, double side)
    {
        Side = side;
        (_left, _top) = (bounds.IsEmpty ? 0 : bounds.MinX - side, bounds.IsEmpty ? 0 : bounds.MinY - side);
        (_columns, _rows) = ((int)Math.Ceiling(bounds.Width / side) + 3, (int)Math.Ceiling(bounds.Height / side) + 3);
        _words = (_columns + Bits - 1) / Bits;
        _bits = new ulong[_words * _rows];
    }

    private BitGrid(BitGrid other)
    {
        (Side, _left, _top, _columns, _rows, _words) = (other.Side, other._left, other._top, other._columns, other._rows, other._words);
        _bits = [.. other._bits];
    }

    /// <summary>Side of a square, mm.</summary>
    public double Side { get; }

    /// <summary>Sets every square whose middle lies in a parallelogram.</summary>
    /// <param name="from">Where its middle line begins.</param>
    /// <param name="to">Where that ends.</param>
    /// <param name="aside">How far, and in which direction, it reaches to one side of it, and as far to the other.</param>
    public void Lay(Point from, Point to, Point aside)
    {
        // From here on in squares, the middle of the first at 0.
        var begin = new Point(((from.X - _left) / Side) - 0.5, ((from.Y - _top) / Side) - 0.5);
        foreach (var (row, first, last) in new Strip(begin, (to - from) / Side, aside / Side, (1, _columns - 2), (1, _rows - 2))) Set(row, first, last);
    }

    /// <summary>Sets every square whose middle lies inside an odd number of rings.</summary>
    public void LayInside(IReadOnlyList<Point[]> rings)
    {
        var crossings = new RowCrossings(rings, _top, Side, _rows);
        for (var row = 1; row < _rows - 1; row++)
        {
            var at = crossings.Of(row);
            WorkBudget.Current.Spend(1 + (at.Length / 2));
            for (var i = 0; i + 1 < at.Length; i += 2)
            {
                var (begin, end) = (Math.Max(1, (int)Math.Ceiling(((at[i] - _left) / Side) - 0.5)), Math.Min(_columns - 2, (int)Math.Floor(((at[i + 1] - _left) / Side) - 0.5)));
                if (begin <= end) Set(row, begin, end);
            }
        }
    }

    /// <summary>Takes away every square that is set in another grid of the same squares.</summary>
    public void Remove(BitGrid other)
    {
        for (var i = 0; i < _bits.Length; i++) _bits[i] &= ~other._bits[i];
    }

    /// <summary>The squares from which no bare one lies within an ellipse.</summary>
    /// <param name="across">Half its width, mm.</param>
    /// <param name="down">Half its height, mm.</param>
    /// <param name="lean">How far a place 1 mm farther down in it lies farther to the right, mm.</param>
    public BitGrid DrawnIn(double across, double down, double lean)
    {
        var (drawn, line, reach) = (new BitGrid(this), new ulong[_words], (int)(down / Side));
        for (var off = -reach; off <= reach; off++)
        {
            var part = off * Side / down;
            var (half, shift) = ((int)(across * Math.Sqrt(Math.Max(0, 1 - (part * part))) / Side), (int)Math.Round(lean * off));
            WorkBudget.Current.Spend(_bits.Length / WordsOfOne);
            for (var row = 0; row < _rows; row++)
            {
                var kept = drawn._bits.AsSpan(row * _words, _words);
                if (row + off < 0 || row + off >= _rows)
                {
                    kept.Clear();
                    continue;
                }

                _bits.AsSpan((row + off) * _words, _words).CopyTo(line);
                Keep(line, half);
                for (var w = 0; w < _words; w++) kept[w] &= Shifted(line, w, shift);
            }
        }

        return drawn;
    }

    /// <summary>The squares that touch each other by a side, each place as their middles. They are not set any more.</summary>
    public List<List<Point>> TakePlaces()
    {
        var places = new List<List<Point>>();
        for (var word = 0; word < _bits.Length; word++)
        {
            while (_bits[word] != 0)
            {
                var (row, column) = (word / _words, (word % _words * Bits) + BitOperations.TrailingZeroCount(_bits[word]));
                var place = new List<(int Row, int Column)>();
                Take(row, column, place);
                for (var k = 0; k < place.Count; k++)
                {
                    (row, column) = place[k];
                    Take(row, column - 1, place);
                    Take(row, column + 1, place);
                    Take(row - 1, column, place);
                    Take(row + 1, column, place);
                }

                places.Add(place.ConvertAll(s => new Point(_left + ((s.Column + 0.5) * Side), _top + ((s.Row + 0.5) * Side))));
            }
        }

        return places;
    }

    /// <summary>Whether the square at a place is set.</summary>
    public bool Has(Point p)
    {
        var (column, row) = ((int)Math.Floor((p.X - _left) / Side), (int)Math.Floor((p.Y - _top) / Side));
        return (uint)column < (uint)_columns && (uint)row < (uint)_rows && (_bits[(row * _words) + (column / Bits)] >> (column % Bits) & 1) != 0;
    }

    private void Take(int row, int column, List<(int Row, int Column)> place)
    {
        if (row < 0 || row >= _rows || column < 0 || column >= _columns) return;
        ref var word = ref _bits[(row * _words) + (column / Bits)];
        var bit = 1UL << (column % Bits);
        if ((word & bit) == 0) return;
        word &= ~bit;
        place.Add((row, column));
    }

    private void Set(int row, int begin, int end)
    {
        var words = _bits.AsSpan(row * _words, _words);
        var (first, last) = (begin / Bits, end / Bits);
        var (fromBegin, toEnd) = (ulong.MaxValue << (begin % Bits), ulong.MaxValue >> (Bits - 1 - (end % Bits)));
        if (first == last)
        {
            words[first] |= fromBegin & toEnd;
            return;
        }

        words[first] |= fromBegin;
        words[(first + 1)..last].Fill(ulong.MaxValue);
        words[last] |= toEnd;
    }

    /// <summary>Leaves of a row the squares that have so many set ones on either side.</summary>
    private static void Keep(Span<ulong> row, int half)
    {
        // With as many about it as about its neighbours at a distance, and no gap between those, it has as many more as that distance.
        for (var done = 0; done < half;)
        {
            var step = Math.Min(Math.Min(done + 1, half - done), Bits - 1);
            var before = 0UL;
            for (var w = 0; w < row.Length; w++)
            {
                var (here, after) = (row[w], w + 1 < row.Length ? row[w + 1] : 0);
                row[w] = here & (here << step | before >> (Bits - step)) & (here >> step | after << (Bits - step));
                before = here;
            }

            done += step;
        }
    }

    /// <summary>A word of a row of which every square lies so many farther to the left.</summary>
    private static ulong Shifted(ReadOnlySpan<ulong> row, int word, int by)
    {
        if (by == 0) return row[word];
        var words = (int)Math.Floor((double)by / Bits);
        var (first, bits) = (word + words, by - (words * Bits));
        var (here, after) = (first >= 0 && first < row.Length ? row[first] : 0, first + 1 >= 0 && first + 1 < row.Length ? row[first + 1] : 0);
        return bits == 0 ? here : here >> bits | after << (Bits - bits);
    }
}
