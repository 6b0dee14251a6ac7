using EvenThimble.Core.Geometry;
using EvenThimble.Core.Work;

namespace EvenThimble.Core.Shapes;

/// <summary>
/// The lines between squares that are inside and those that are not, through the middles between them, as rings that never touch (W. Lorensen and H. Cline, "Marching cubes", 1987, in the plane).
/// Squares that touch by a corner only are parted.
/// </summary>
internal static class CellOutlines
{
    /// <summary>The rings; an odd number of them lies around what is inside.</summary>
    /// <param name="columns">Squares across.</param>
    /// <param name="rows">Squares down; those at the border must not be inside.</param>
    /// <param name="isInside">Whether a square is inside, by its number row by row.</param>
    /// <param name="origin">The middle of the first square.</param>
    /// <param name="side">Its side, mm.</param>
    public static List<List<Point>> Of(int columns, int rows, Func<int, bool> isInside, Point origin, double side)
    {
        // A place between two squares is named by twice the sum of their columns and rows; from each one line leads on, with the inside on its right.
        var next = new Dictionary<(int X, int Y), (int X, int Y)>();
        for (var row = 0; row + 1 < rows; row++)
        {
            WorkBudget.Current.Spend(columns / 8);
            for (var column = 0; column + 1 < columns; column++)
            {
                var at = (row * columns) + column;
                var kind = (isInside(at) ? 1 : 0) | (isInside(at + 1) ? 2 : 0) | (isInside(at + columns + 1) ? 4 : 0) | (isInside(at + columns) ? 8 : 0);
                if (kind is 0 or 15) continue;
                var (top, right, bottom, left) = (((2 * column) + 1, 2 * row), ((2 * column) + 2, (2 * row) + 1), ((2 * column) + 1, (2 * row) + 2), (2 * column, (2 * row) + 1));
                foreach (var (from, to) in kind switch
                {
                    1 => [(top, left)],
                    2 => [(right, top)],
                    3 => [(right, left)],
                    4 => [(bottom, right)],
                    5 => [(top, left), (bottom, right)],
                    6 => [(bottom, top)],
                    7 => [(bottom, left)],
                    8 => [(left, bottom)],
                    9 => [(top, bottom)],
                    10 => [(right, top), (left, bottom)],
                    11 => [(right, bottom)],
                    12 => [(left, right)],
                    13 => [(top, right)],
                    _ => (((int, int), (int, int))[])[(left, top)],
                }) next[from] = to;
            }
        }

        var rings = new List<List<Point>>();
        foreach (var start in next.Keys.ToList())
        {
            if (!next.ContainsKey(start)) continue;
            var ring = new List<Point>();
            var at = start;
            while (next.Remove(at, out var to))
            {
                ring.Add(new(origin.X + (at.X * side / 2), origin.Y + (at.Y * side / 2)));
                at = to;
            }

            rings.Add(ring);
        }

        return rings;
    }
}
