namespace EvenThimble.Core.Rack;

/// <summary>The cheapest way to give each row a column of its own.</summary>
internal static class Assignment
{
    /// <summary>
    /// By row the column that it gets; the sum of costs is least. By shortest augmenting paths with potentials: R. Jonker, A. Volgenant, "A shortest augmenting path algorithm for dense and
    /// sparse linear assignment problems", Computing 38 (1987).
    /// </summary>
    /// <param name="cost">Rows of the same number of finite costs, at least as many as there are rows.</param>
    public static int[] Cheapest(double[][] cost)
    {
        var (rows, columns) = (cost.Length, cost.Length == 0 ? 0 : cost[0].Length);
        var (ofRow, ofColumn) = (new double[rows], new double[columns + 1]);
        var taken = new int[columns + 1]; // by column the row that has it, -1: none; the last column stands for the row that looks for one
        Array.Fill(taken, -1);
        for (var row = 0; row < rows; row++)
        {
            var (least, from, done) = (new double[columns], new int[columns], new bool[columns + 1]);
            Array.Fill(least, double.PositiveInfinity);
            Array.Fill(from, columns);
            var at = columns;
            taken[at] = row;
            do
            {
                done[at] = true;
                var (here, step, next) = (taken[at], double.PositiveInfinity, -1);
                for (var c = 0; c < columns; c++)
                {
                    if (done[c]) continue;
                    var reduced = cost[here][c] - ofRow[here] - ofColumn[c];
                    if (reduced < least[c]) (least[c], from[c]) = (reduced, at);
                    if (least[c] < step) (step, next) = (least[c], c);
                }

                for (var c = 0; c <= columns; c++)
                {
                    if (done[c]) (ofRow[taken[c]], ofColumn[c]) = (ofRow[taken[c]] + step, ofColumn[c] - step);
                    else if (c < columns) least[c] -= step;
                }

                at = next;
            }
            while (taken[at] >= 0);

            while (at != columns)
            {
                taken[at] = taken[from[at]];
                at = from[at];
            }
        }

        var column = new int[rows];
        for (var c = 0; c < columns; c++)
            if (taken[c] >= 0) column[taken[c]] = c;
        return column;
    }
}
