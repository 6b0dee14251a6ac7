namespace EvenThimble.Core.Geometry;

/// <summary>A rectangle along the axes, mm. <see cref="Empty"/> holds nothing.</summary>
public readonly record struct Box(double MinX, double MinY, double MaxX, double MaxY)
{
    /// <summary>The rectangle that holds nothing; it has no width and no middle of its own.</summary>
    public static readonly Box Empty = new(double.PositiveInfinity, double.PositiveInfinity, double.NegativeInfinity, double.NegativeInfinity);

    /// <summary>Whether it holds nothing at all.</summary>
    public bool IsEmpty => MinX > MaxX;

    /// <summary>Width, mm; 0 when empty.</summary>
    public double Width => IsEmpty ? 0 : MaxX - MinX;

    /// <summary>Height, mm; 0 when empty.</summary>
    public double Height => IsEmpty ? 0 : MaxY - MinY;

    /// <summary>The middle; the origin when empty.</summary>
    public Point Middle => IsEmpty ? Point.Zero : new((MinX + MaxX) / 2, (MinY + MaxY) / 2);

    /// <summary>The smallest rectangle that also holds a point.</summary>
    public Box With(Point p) => new(Math.Min(MinX, p.X), Math.Min(MinY, p.Y), Math.Max(MaxX, p.X), Math.Max(MaxY, p.Y));

    /// <summary>The smallest rectangle that also holds another.</summary>
    public Box With(Box other) => new(Math.Min(MinX, other.MinX), Math.Min(MinY, other.MinY), Math.Max(MaxX, other.MaxX), Math.Max(MaxY, other.MaxY));

    /// <summary>The same, larger by a length on every side, mm.</summary>
    public Box Grown(double by) => IsEmpty ? this : new(MinX - by, MinY - by, MaxX + by, MaxY + by);

    /// <summary>How far a place lies from it, mm; 0 inside.</summary>
    public double DistanceTo(Point p) => new Point(Math.Max(0, Math.Max(MinX - p.X, p.X - MaxX)), Math.Max(0, Math.Max(MinY - p.Y, p.Y - MaxY))).Length;

    /// <summary>Whether a place lies in it.</summary>
    public bool Holds(Point p) => p.X >= MinX && p.X <= MaxX && p.Y >= MinY && p.Y <= MaxY;

    /// <summary>Whether it has a place in common with another.</summary>
    public bool Meets(Box other) => MaxX >= other.MinX && other.MaxX >= MinX && MaxY >= other.MinY && other.MaxY >= MinY;

    /// <summary>The rectangle about two places.</summary>
    public static Box Between(Point a, Point b) => new(Math.Min(a.X, b.X), Math.Min(a.Y, b.Y), Math.Max(a.X, b.X), Math.Max(a.Y, b.Y));

    /// <summary>The rectangle about points.</summary>
    public static Box Around(IEnumerable<Point> points) => points.Aggregate(Empty, (box, p) => box.With(p));
}
