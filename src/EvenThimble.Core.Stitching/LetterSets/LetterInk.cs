using EvenThimble.Core.Geometry;
using EvenThimble.Core.Shapes;
using EvenThimble.Core.Stitches;

namespace EvenThimble.Core.LetterSets;

/// <summary>What the thread of a letter covers, as its edges are seen from the left and from the right: row by row, in the places of its file, mm.</summary>
public sealed class LetterInk
{
    private const int MostRows = 96;
    private const double FinestRow = 0.1;

    // Thread lies so close that nothing is open between, mm.
    private const double NotOpen = 0.9;

    private const double FootOfHeight = 0.05;
    private const double RoundFrom = 0.8;

    // A single stitch beside the way, as some programs put at the origin, is no part of a letter.
    private const int LeastTogether = 3;
    private readonly (double Left, double Right)[] _rows;
    private readonly double _rowMm;

    private LetterInk(Box box, (double Left, double Right)[] rows, double rowMm) => (Box, _rows, _rowMm) = (box, rows, rowMm);

    /// <summary>The rectangle about its needle points.</summary>
    public Box Box { get; }

    /// <summary>The ink of stitches; null: there are none.</summary>
    public static LetterInk? Of(StitchBlob stitches)
    {
        var threads = Threads(stitches);
        var box = Box.Around(threads.SelectMany(t => t));
        if (box.IsEmpty) return null;
        var count = (int)Math.Clamp(Math.Ceiling(box.Height / FinestRow), 1, MostRows);
        var rowMm = Math.Max(box.Height, 1e-6) / count;
        var rows = Enumerable.Repeat((Left: double.PositiveInfinity, Right: double.NegativeInfinity), count).ToArray();
        foreach (var thread in threads)
            for (var i = 1; i < thread.Count; i++)
                Mark(thread[i - 1], thread[i]);
        Close(rows, (int)Math.Ceiling(NotOpen / rowMm));
        return new(box, rows, rowMm);

        void Mark(Point a, Point b)
        {
            if (a.Y > b.Y) (a, b) = (b, a);
            var (first, last) = (RowOf(a.Y), RowOf(b.Y));
            for (var row = first; row <= last; row++)
            {
                var (from, to) = (Math.Max(a.Y, box.MinY + (row * rowMm)), Math.Min(b.Y, box.MinY + ((row + 1) * rowMm)));
                foreach (var x in b.Y - a.Y < 1e-9 ? [a.X, b.X] : new[] { At(from), At(to) })
                    rows[row] = (Math.Min(rows[row].Left, x), Math.Max(rows[row].Right, x));
            }

            double At(double y) => a.X + ((b.X - a.X) * Math.Clamp((y - a.Y) / (b.Y - a.Y), 0, 1));
        }

        int RowOf(double y) => Math.Clamp((int)((y - box.MinY) / rowMm), 0, count - 1);
    }

    /// <summary>Whether it ends below in something round rather than flat: much narrower at the very foot than a little above.</summary>
    public bool HasRoundFoot => WidthAt(Box.MaxY - (FootOfHeight * Box.Height)) is > 0 and var above && WidthAt(Box.MaxY - (_rowMm / 2)) < RoundFrom * above;

    private double WidthAt(double y) => EdgeAt(y, right: true) - EdgeAt(y, right: false) ?? 0;

    /// <summary>Rows of a fill lie apart: between them the edge goes on.</summary>
    private static void Close((double Left, double Right)[] rows, int most)
    {
        var last = -1;
        for (var row = 0; row < rows.Length; row++)
        {
            if (rows[row].Left > rows[row].Right) continue;
            for (var between = last + 1; last >= 0 && between < row && row - last <= most; between++)
            {
                var t = (between - last) / (double)(row - last);
                rows[between] = (rows[last].Left + ((rows[row].Left - rows[last].Left) * t), rows[last].Right + ((rows[row].Right - rows[last].Right) * t));
            }

            last = row;
        }
    }

    /// <summary>Where its edge lies at a height of its file: the right one, or the left; null where there is no thread.</summary>
    public double? EdgeAt(double y, bool right)
    {
        if (y < Box.MinY || y > Box.MaxY) return null;
        var (from, to) = _rows[Math.Clamp((int)((y - Box.MinY) / _rowMm), 0, _rows.Length - 1)];
        return from > to ? null : right ? to : from;
    }

    /// <summary>Its edges as closed outlines, one for each stretch of rows with thread in them.</summary>
    public DrawnShape Silhouette()
    {
        var paths = new List<ShapePath>();
        for (var row = 0; row < _rows.Length; row++)
        {
            if (_rows[row].Left > _rows[row].Right) continue;
            var (left, right) = (new List<Point>(), new List<Point>());
            for (; row < _rows.Length && _rows[row].Left <= _rows[row].Right; row++)
            {
                var (top, bottom) = (Box.MinY + (row * _rowMm), Box.MinY + ((row + 1) * _rowMm));
                left.AddRange([new(_rows[row].Left, top), new(_rows[row].Left, bottom)]);
                right.AddRange([new(_rows[row].Right, top), new(_rows[row].Right, bottom)]);
            }

            right.Reverse();
            paths.Add(ShapePath.Through([.. left, .. right], closed: true));
        }

        return new([.. paths]);
    }

    /// <summary>Where it reaches farthest to one side: the middle of those rows that come within a depth of it, and how many mm of height they take.</summary>
    /// <param name="right">The right side; else the left.</param>
    /// <param name="depth">How near to the farthest, mm.</param>
    public (double Y, double HeightMm) Reaching(bool right, double depth)
    {
        var (sum, count) = (0.0, 0);
        for (var row = 0; row < _rows.Length; row++)
        {
            if (_rows[row].Left > _rows[row].Right || (right ? Box.MaxX - _rows[row].Right : _rows[row].Left - Box.MinX) > depth) continue;
            sum += Box.MinY + ((row + 0.5) * _rowMm);
            count++;
        }

        return (sum / Math.Max(count, 1), count * _rowMm);
    }

    /// <summary>Needle points that follow each other without a jump or a cut.</summary>
    private static List<List<Point>> Threads(StitchBlob stitches)
    {
        var threads = new List<List<Point>>();
        var thread = new List<Point>();
        for (var i = 0; i <= stitches.Count; i++)
        {
            if (i < stitches.Count && stitches.Kinds[i] == StitchKind.Stitch)
            {
                thread.Add(stitches.At(i));
                continue;
            }

            if (thread.Count >= LeastTogether) threads.Add(thread);
            thread = [];
        }

        return threads;
    }
}
