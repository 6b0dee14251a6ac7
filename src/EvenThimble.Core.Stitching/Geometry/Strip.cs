namespace EvenThimble.Core.Geometry;

/// <summary>The squares of a grid whose middles lie in a parallelogram, row by row: of each row the first and the last. Gone through with <c>foreach</c>.</summary>
internal struct Strip
{
    private readonly Point _begin;
    private readonly int _firstColumn;
    private readonly int _lastColumn;
    private readonly int _lastRow;

    // Where a row is crossed by the ends of the parallelogram and by its sides.
    private readonly (double From, double To, double Step) _ends;
    private readonly (double From, double To, double Step) _sides;
    private int _row;

    /// <summary>A parallelogram on a grid. Places are measured in squares, the middle of the first of all at 0.</summary>
    /// <param name="begin">Where its middle line begins.</param>
    /// <param name="way">From there to where that ends.</param>
    /// <param name="aside">How far, and in which direction, it reaches to one side of it, and as far to the other.</param>
    /// <param name="columns">The first and the last column that there are.</param>
    /// <param name="rows">The first and the last row.</param>
    public Strip(Point begin, Point way, Point aside, (int First, int Last) columns, (int First, int Last) rows)
    {
        (_begin, _firstColumn, _lastColumn) = (begin, columns.First, columns.Last);
        var area = way.Cross(aside);

        // On each row what lies between both ends of the way, and what lies between both sides of it, are stretches that move on evenly from row to row.
        (_ends, _sides) = (Across(aside, 0, area), Across(way, -area, area));
        _row = Math.Max(rows.First, (int)Math.Ceiling(begin.Y + Math.Min(0, way.Y) - Math.Abs(aside.Y))) - 1;
        _lastRow = Math.Abs(area) < 1e-12 ? _row : Math.Min(rows.Last, (int)Math.Floor(begin.Y + Math.Max(0, way.Y) + Math.Abs(aside.Y)));
    }

    /// <summary>A row, and its first and last square.</summary>
    public (int Row, int First, int Last) Current { get; private set; }

    /// <summary>Begins at the first row.</summary>
    public readonly Strip GetEnumerator() => this;

    /// <summary>Goes on to the next row that has squares.</summary>
    public bool MoveNext()
    {
        while (++_row <= _lastRow)
        {
            var down = _row - _begin.Y;
            var left = Math.Ceiling(_begin.X + Math.Max((_ends.Step * down) + _ends.From, (_sides.Step * down) + _sides.From));
            var right = Math.Floor(_begin.X + Math.Min((_ends.Step * down) + _ends.To, (_sides.Step * down) + _sides.To));
            if (left > right || right < _firstColumn || left > _lastColumn) continue;
            Current = (_row, (int)Math.Max(_firstColumn, left), (int)Math.Min(_lastColumn, right));
            return true;
        }

        return false;
    }

    /// <summary>Where a row is crossed by two lines of a direction, and how far on the next row is; all of it where they go along it.</summary>
    private static (double From, double To, double Step) Across(Point direction, double one, double other) => Math.Abs(direction.Y) < 1e-9
        ? (double.NegativeInfinity, double.PositiveInfinity, 0)
        : (Math.Min(one / direction.Y, other / direction.Y), Math.Max(one / direction.Y, other / direction.Y), direction.X / direction.Y);
}
