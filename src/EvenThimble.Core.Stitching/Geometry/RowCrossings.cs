namespace EvenThimble.Core.Geometry;

/// <summary>Where the rows of a grid, along the middles of their squares, cross rings: found ring by ring, so that each piece of outline is looked at only on the rows that it spans.</summary>
internal sealed class RowCrossings
{
    // The crossings of all rows one after another, and where those of each begin.
    private readonly double[] _crossings;
    private readonly int[] _begins;

    /// <summary>Finds all crossings.</summary>
    /// <param name="rings">Closed lines, each without its first point again at the end.</param>
    /// <param name="top">Where the first row begins, mm.</param>
    /// <param name="side">The side of a square, mm.</param>
    /// <param name="rows">How many rows there are.</param>
    public RowCrossings(IReadOnlyList<Point[]> rings, double top, double side, int rows)
    {
        _begins = new int[rows + 1];
        foreach (var ring in rings)
        {
            for (var i = 0; i < ring.Length; i++)
            {
                var (first, last) = Rows(ring[i], ring[i + 1 == ring.Length ? 0 : i + 1]);
                for (var row = first; row < last; row++) _begins[row + 1]++;
            }
        }

        for (var row = 0; row < rows; row++) _begins[row + 1] += _begins[row];
        _crossings = new double[_begins[rows]];
        var next = _begins[..rows];
        foreach (var ring in rings)
        {
            for (var i = 0; i < ring.Length; i++)
            {
                var (a, b) = (ring[i], ring[i + 1 == ring.Length ? 0 : i + 1]);
                if (a.Y > b.Y) (a, b) = (b, a);
                var (first, last) = Rows(a, b);
                for (var row = first; row < last; row++) _crossings[next[row]++] = a.X + ((top + ((row + 0.5) * side) - a.Y) / (b.Y - a.Y) * (b.X - a.X));
            }
        }

        for (var row = 0; row < rows; row++) _crossings.AsSpan(_begins[row].._begins[row + 1]).Sort();

        // The first row whose middle lies below the upper end, and the first below the lower.
        (int First, int Last) Rows(Point a, Point b) => (Row(Math.Min(a.Y, b.Y)), Row(Math.Max(a.Y, b.Y)));

        int Row(double y) => Math.Clamp((int)Math.Ceiling(((y - top) / side) - 0.5), 0, rows);
    }

    /// <summary>Where a row crosses rings, from left to right, mm.</summary>
    public ReadOnlySpan<double> Of(int row) => _crossings.AsSpan(_begins[row].._begins[row + 1]);
}
