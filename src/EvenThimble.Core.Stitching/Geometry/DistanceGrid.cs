using EvenThimble.Core.Work;

namespace EvenThimble.Core.Geometry;

/// <summary>How far each square of a grid lies from the nearest square of a kind (P. Felzenszwalb and D. Huttenlocher, "Distance transforms of sampled functions", 2012).</summary>
public static class DistanceGrid
{
    private const double Far = 1e12;
    private const int None = 1 << 20;

    /// <summary>Distances of middles, mm, in the order of the grid's squares; very far where there is no such square.</summary>
    public static double[] To(CellGrid grid, Func<int, bool> isOf)
    {
        var (columns, rows) = (grid.Columns, grid.Rows);
        WorkBudget.Current.Spend((long)columns * rows / 8);
        var down = Down(grid, isOf);
        var far = new double[columns * rows];
        var (line, parabolas, borders, result) = (new double[columns], new int[columns], new double[columns + 1], new double[columns]);
        for (var row = 0; row < rows; row++)
        {
            for (var column = 0; column < columns; column++) line[column] = down[(row * columns) + column] is var d && d >= None ? Far : (double)d * d;
            Envelope(line, columns, parabolas, borders, result);
            for (var column = 0; column < columns; column++) far[(row * columns) + column] = Math.Sqrt(result[column]) * grid.Side;
        }

        return far;
    }

    /// <summary>Whether the middle of each square lies within a distance, mm, of that of a square of a kind: what <see cref="To"/> would tell, without the roots.</summary>
    public static bool[] IsWithin(CellGrid grid, Func<int, bool> isOf, double distance)
    {
        var (columns, rows, reach) = (grid.Columns, grid.Rows, distance / grid.Side);
        WorkBudget.Current.Spend((long)columns * rows / 16);
        var down = Down(grid, isOf);

        // How far aside a square still reaches that lies so many squares up or down.
        var aside = Array.ConvertAll([.. Enumerable.Range(0, (int)Math.Min(reach, rows) + 1)], d => (int)Math.Min(columns, Math.Sqrt((reach * reach) - ((double)d * d))));
        var (within, opened) = (new bool[columns * rows], new int[columns + 1]);
        for (var row = 0; row < rows; row++)
        {
            Array.Clear(opened);
            var (any, first) = (false, row * columns);
            for (var column = 0; column < columns; column++)
            {
                var d = down[first + column];
                if (d >= aside.Length) continue;
                any = true;
                opened[Math.Max(0, column - aside[d])]++;
                opened[Math.Min(columns, column + aside[d] + 1)]--;
            }

            if (!any) continue;
            for (int column = 0, open = 0; column < columns; column++)
            {
                open += opened[column];
                within[first + column] = open > 0;
            }
        }

        return within;
    }

    /// <summary>How many squares up or down the nearest square of a kind lies in the same column; <see cref="None"/> or more where there is none.</summary>
    private static int[] Down(CellGrid grid, Func<int, bool> isOf)
    {
        var cells = grid.Cells;
        var columns = grid.Columns;
        var down = new int[cells.Length];
        for (var i = 0; i < down.Length; i++) down[i] = isOf(cells[i]) ? 0 : i < columns ? None : down[i - columns] + 1;
        for (var i = down.Length - columns - 1; i >= 0; i--) down[i] = Math.Min(down[i], down[i + columns] + 1);
        return down;
    }

    /// <summary>The lower envelope of parabolas that stand on the values.</summary>
    private static void Envelope(double[] values, int count, int[] parabolas, double[] borders, double[] result)
    {
        var k = 0;
        (parabolas[0], borders[0], borders[1]) = (0, double.NegativeInfinity, double.PositiveInfinity);
        for (var q = 1; q < count; q++)
        {
            double s;
            while (true)
            {
                var p = parabolas[k];
                s = (values[q] + ((double)q * q) - values[p] - ((double)p * p)) / (2.0 * (q - p));
                if (s > borders[k] || k == 0) break;
                k--;
            }

            if (s <= borders[k] && k == 0)
            {
                parabolas[0] = q;
                borders[1] = double.PositiveInfinity;
                continue;
            }

            k++;
            (parabolas[k], borders[k], borders[k + 1]) = (q, s, double.PositiveInfinity);
        }

        k = 0;
        for (var q = 0; q < count; q++)
        {
            while (borders[k + 1] < q) k++;
            var d = q - parabolas[k];
            result[q] = values[parabolas[k]] + ((double)d * d);
        }
    }
}
