using EvenThimble.Core.Geometry;
using EvenThimble.Core.Shapes;

namespace EvenThimble.Core.Monograms;

/// <summary>
/// A place between four edges that a letter is shaped to fill: points within are found from those of the edges (the bilinearly blended patch of S. A. Coons 1967), so that head, foot and sides of the letter follow them.
/// </summary>
internal sealed class LetterPatch(IReadOnlyList<Point> head, IReadOnlyList<Point> foot, IReadOnlyList<Point> left, IReadOnlyList<Point> right)
{
    // Edges of a letter are divided into pieces of this part of its height before they are shaped.
    private const double PieceOfHeight = 0.02;

    // A letter is not made wider than so many times what it is by its height: an I stays an I.
    private const double MostWider = 1.7;
    private readonly MeasuredLine _head = new([.. head]);
    private readonly MeasuredLine _foot = new([.. foot]);
    private readonly MeasuredLine _left = new([.. left]);
    private readonly MeasuredLine _right = new([.. right]);

    /// <summary>The letter shaped; a narrow one stands in the middle.</summary>
    public DrawnShape Filled(DrawnShape letter)
    {
        var box = letter.Bounds;
        var (width, height) = ((_head.Length + _foot.Length) / 2, (_left.Length + _right.Length) / 2);
        var share = Math.Min(1, MostWider * (box.Width / box.Height) * (height / Math.Max(width, 1e-9)));
        Point Shaped(Point p) => At(((1 - share) / 2) + (share * (p.X - box.MinX) / Math.Max(box.Width, 1e-9)), (p.Y - box.MinY) / Math.Max(box.Height, 1e-9));
        return letter with { Paths = [.. letter.Paths.Select(path => ShapePath.Through(Polylines.InPieces(path.Flattened(), path.Closed, box.Height * PieceOfHeight).Select(Shaped), path.Closed))] };
    }

    private Point At(double u, double v)
    {
        var (h, f, l, r) = (On(_head, u), On(_foot, u), On(_left, v), On(_right, v));
        var (a, b, c, d) = (_left.Points[0], _right.Points[0], _left.Points[^1], _right.Points[^1]);
        return h.Toward(f, v) + l.Toward(r, u) - a.Toward(b, u).Toward(c.Toward(d, u), v);
    }

    private static Point On(MeasuredLine line, double part) => line.PointAt(Math.Clamp(part, 0, 1) * line.Length);
}
