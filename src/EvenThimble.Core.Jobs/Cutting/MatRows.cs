using EvenThimble.Core.Geometry;
using EvenThimble.Core.Shapes;
using EvenThimble.Core.Work;

namespace EvenThimble.Core.Cutting;

/// <summary>What of a mat is taken, in small squares: rows of bits. Pieces are laid where they fit first, from the far edge towards the operator.</summary>
internal sealed class MatRows(double width, double height)
{
    /// <summary>The side of a square, mm.</summary>
    public const double SideMm = 0.5;

    private const int Bits = 64;
    private readonly int _columns = (int)(width / SideMm);
    private readonly int _rows = (int)(height / SideMm);
    private readonly ulong[][] _taken = [.. Enumerable.Range(0, (int)(height / SideMm)).Select(_ => new ulong[((int)(width / SideMm) / Bits) + 2])];

    /// <summary>The squares that an outline touches, grown by half the gap; a row each, from the corner of the rectangle about it.</summary>
    public sealed class Print
    {
        /// <summary>Of rings about any place, mm.</summary>
        public Print(IReadOnlyList<IReadOnlyList<Point>> rings, double gap)
        {
            // A square is taken as soon as its middle lies within half its diagonal of the piece.
            var grown = Region.Of(Area.Of(rings)).Grown((gap / 2) + (SideMm * 0.7072));
            var edges = grown.Areas.SelectMany(a => a.Rings).ToList();
            var box = Box.Around(edges.SelectMany(e => e));
            Corner = new(box.MinX, box.MinY);
            (Columns, var rows) = ((int)Math.Ceiling(box.Width / SideMm), (int)Math.Ceiling(box.Height / SideMm));
            Rows = [.. Enumerable.Range(0, rows).Select(r => Row(edges, box.MinX, box.MinY + ((r + 0.5) * SideMm), Columns))];
        }

        /// <summary>Where the corner of its first square lies in the place that the rings were given in.</summary>
        public Point Corner { get; }

        /// <summary>How many squares it is wide.</summary>
        public int Columns { get; }

        /// <summary>Bits by row.</summary>
        public ulong[][] Rows { get; }

        private static ulong[] Row(List<Point[]> edges, double left, double y, int columns)
        {
            var crossings = new List<double>();
            foreach (var ring in edges)
            {
                for (var i = 0; i < ring.Length; i++)
                {
                    var (a, b) = (ring[i], ring[(i + 1) % ring.Length]);
                    if ((a.Y <= y) != (b.Y <= y)) crossings.Add(a.X + ((b.X - a.X) * (y - a.Y) / (b.Y - a.Y)));
                }
            }

            crossings.Sort();
            var row = new ulong[(columns / Bits) + 1];
            for (var k = 0; k + 1 < crossings.Count; k += 2)
            {
                var (from, to) = (Math.Max(0, (int)Math.Ceiling(((crossings[k] - left) / SideMm) - 0.5)), Math.Min(columns - 1, (int)Math.Floor(((crossings[k + 1] - left) / SideMm) - 0.5)));
                for (var c = from; c <= to; c++) row[c / Bits] |= 1UL << (c % Bits);
            }

            return row;
        }
    }

    /// <summary>The first place where a print fits, as row and column of its corner, from a place on; null: nowhere.</summary>
    public (int Row, int Column)? FirstPlace(Print print, (int Row, int Column) from)
    {
        for (var row = from.Row; row + print.Rows.Length <= _rows; row++)
        {
            WorkBudget.Current.Spend(print.Rows.Length);
            for (var column = row == from.Row ? from.Column : 0; column + print.Columns <= _columns; column++)
                if (IsFree(print, row, column))
                    return (row, column);
        }

        return null;
    }

    /// <summary>Takes the squares of a print.</summary>
    public void Take(Print print, int row, int column) => Each(print, row, column, (taken, word, bits) =>
    {
        taken[word] |= bits;
        return true;
    });

    private bool IsFree(Print print, int row, int column) => Each(print, row, column, (taken, word, bits) => (taken[word] & bits) == 0);

    private bool Each(Print print, int row, int column, Func<ulong[], int, ulong, bool> look)
    {
        var (first, shift) = (column / Bits, column % Bits);
        for (var r = 0; r < print.Rows.Length; r++)
        {
            var (taken, bits) = (row + r >= 0 && row + r < _rows ? _taken[row + r] : null, print.Rows[r]);
            if (taken is null) continue;
            for (var w = 0; w < bits.Length; w++)
            {
                if (bits[w] == 0) continue;
                if (first + w < taken.Length && !look(taken, first + w, bits[w] << shift)) return false;
                if (shift > 0 && first + w + 1 < taken.Length && !look(taken, first + w + 1, bits[w] >> (Bits - shift))) return false;
            }
        }

        return true;
    }
}
