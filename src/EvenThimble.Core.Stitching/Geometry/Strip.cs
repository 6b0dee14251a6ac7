namespace EvenThimble.Core.Geometry;

/// <summary>The squares of a grid whose middles lie in a parallelogram, row by row.</summary>
internal static class Strip
{
    /// <summary>Tells of each row the first and the last square. Places are measured in squares, the middle of the first of all at 0.</summary>
    /// <param name="begin">Where the middle line of the parallelogram begins.</param>
    /// <param name="way">From there to where it ends.</param>
    /// <param name="aside">How far, and in which direction, it reaches to one side of it, and as far to the other.</param>
    /// <param name="columns">The first and the last column that there are.</param>
    /// <param name="rows">The first and the last row.</param>
    /// <param name="take">Takes row, first and last square.</param>
    public static void Lay(Point begin, Point way, Point aside, (int First, int Last) columns, (int First, int Last) rows, Action<int, int, int> take)
    {
        var area = way.Cross(aside);
        if (Math.Abs(area) < 1e-12) return;

        // On each row what lies between both ends of the way, and what lies between both sides of it, are stretches that move on evenly from row to row.
        var ends = Across(aside, 0, area);
        var sides = Across(way, -area, area);
        var first = Math.Max(rows.First, (int)Math.Ceiling(begin.Y + Math.Min(0, way.Y) - Math.Abs(aside.Y)));
        var last = Math.Min(rows.Last, (int)Math.Floor(begin.Y + Math.Max(0, way.Y) + Math.Abs(aside.Y)));
        for (var row = first; row <= last; row++)
        {
            var down = row - begin.Y;
            var left = Math.Ceiling(begin.X + Math.Max((ends.Step * down) + ends.From, (sides.Step * down) + sides.From));
            var right = Math.Floor(begin.X + Math.Min((ends.Step * down) + ends.To, (sides.Step * down) + sides.To));
            if (left <= right && right >= columns.First && left <= columns.Last) take(row, (int)Math.Max(columns.First, left), (int)Math.Min(columns.Last, right));
        }
    }

    /// <summary>Where a row is crossed by two lines of a direction, and how far on the next row is; all of it where they go along it.</summary>
    private static (double From, double To, double Step) Across(Point direction, double one, double other) => Math.Abs(direction.Y) < 1e-9
        ? (double.NegativeInfinity, double.PositiveInfinity, 0)
        : (Math.Min(one / direction.Y, other / direction.Y), Math.Max(one / direction.Y, other / direction.Y), direction.X / direction.Y);
}
