using EvenThimble.Core.Geometry;

namespace EvenThimble.Core.Shapes;

/// <summary>A place rounded to a grid of a millionth of a mm, on which it is told exactly on which side of a line a place lies.</summary>
/// <param name="X">To the right, millionths of a mm.</param>
/// <param name="Y">Downwards, millionths of a mm.</param>
internal readonly record struct GridPoint(long X, long Y)
{
    private const double PerMm = 1e6;

    // A difference of products that is larger than this part of them has the right sign in doubles.
    private const double Sure = 4e-16;

    public static GridPoint Nearest(Point p) => new((long)Math.Round(p.X * PerMm), (long)Math.Round(p.Y * PerMm));

    /// <summary>The place, mm.</summary>
    public Point Mm => new(X / PerMm, Y / PerMm);

    /// <summary>Twice as far from the origin.</summary>
    public GridPoint Doubled() => new(2 * X, 2 * Y);

    /// <summary>On which side of the line from one place through another it lies: 1 on the left if y went up, -1 on the right, 0 on the line.</summary>
    public int SideOf(GridPoint a, GridPoint b)
    {
        var (x1, y1, x2, y2) = (b.X - a.X, b.Y - a.Y, X - a.X, Y - a.Y);
        var (one, other) = ((double)x1 * y2, (double)y1 * x2);
        if (Math.Abs(one - other) > Sure * (Math.Abs(one) + Math.Abs(other))) return Math.Sign(one - other);
        return ((Int128)x1 * y2).CompareTo((Int128)y1 * x2);
    }

    /// <summary>Whether it lies in the rectangle that two places span: one that lies on their line lies between them.</summary>
    public bool IsBetween(GridPoint a, GridPoint b) => X >= Math.Min(a.X, b.X) && X <= Math.Max(a.X, b.X) && Y >= Math.Min(a.Y, b.Y) && Y <= Math.Max(a.Y, b.Y);

    /// <summary>The square of its distance from another, millionths of a mm squared.</summary>
    public double SquaredTo(GridPoint other) => ((double)(X - other.X) * (X - other.X)) + ((double)(Y - other.Y) * (Y - other.Y));
}
