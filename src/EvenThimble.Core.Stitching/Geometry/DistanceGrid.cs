using EvenThimble.Core.Work;

namespace EvenThimble.Core.Geometry;

/// <summary>How far each square of a grid lies from the nearest square of a kind (P. Felzenszwalb and D. Huttenlocher, "Distance transforms of sampled functions", 2012).</summary>
public static class DistanceGrid
{
    private const double Far = 1e12;

    /// <summary>Distances of middles, mm, in the order of the grid's squares; very far where there is no such square.</summary>
    public static double[] To(CellGrid grid, Func<int, bool> isOf)
    {
        var (columns, rows) = (grid.Columns, grid.Rows);
        WorkBudget.Current.Spend((long)columns * rows / 8);
        var squared = new double[columns * rows];
        var cells = grid.Cells;
        for (var i = 0; i < squared.Length; i++) squared[i] = isOf(cells[i]) ? 0 : Far;
        var longest = Math.Max(columns, rows);
        var (line, parabolas, borders, result) = (new double[longest], new int[longest], new double[longest + 1], new double[longest]);
        for (var column = 0; column < columns; column++)
        {
            for (var row = 0; row < rows; row++) line[row] = squared[(row * columns) + column];
            Envelope(line, rows, parabolas, borders, result);
            for (var row = 0; row < rows; row++) squared[(row * columns) + column] = result[row];
        }

        for (var row = 0; row < rows; row++)
        {
            squared.AsSpan(row * columns, columns).CopyTo(line);
            Envelope(line, columns, parabolas, borders, result);
            for (var column = 0; column < columns; column++) squared[(row * columns) + column] = Math.Sqrt(result[column]) * grid.Side;
        }

        return squared;
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
