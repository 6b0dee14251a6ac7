namespace EvenThimble.Core.Geometry;

/// <summary>A place on the cloth, millimetres; x to the right, y towards the operator.</summary>
public readonly record struct Point(double X, double Y)
{
    /// <summary>The origin, the centre of a job.</summary>
    public static readonly Point Zero = new(0, 0);

    /// <summary>Distance to another place, mm.</summary>
    public double DistanceTo(Point other) => Math.Sqrt(((other.X - X) * (other.X - X)) + ((other.Y - Y) * (other.Y - Y)));

    /// <summary>Distance to the nearest place of the straight line between two others, mm.</summary>
    public double DistanceToLine(Point from, Point to) => DistanceTo(NearestOn(from, to));

    /// <summary>The nearest place of the straight line between two others.</summary>
    public Point NearestOn(Point from, Point to)
    {
        var along = to - from;
        return from + (along * Math.Clamp((this - from).Dot(along) / Math.Max(along.Dot(along), 1e-12), 0, 1));
    }

    /// <summary>Length of the vector, mm.</summary>
    public double Length => Math.Sqrt((X * X) + (Y * Y));

    /// <summary>The vector at length one; the zero vector stays zero.</summary>
    public Point Unit() => Length < 1e-12 ? Zero : this / Length;

    /// <summary>The vector turned a quarter to the left as seen on the cloth.</summary>
    public Point Normal() => new(Y, -X);

    /// <summary>Scalar product with another vector, mm².</summary>
    public double Dot(Point other) => (X * other.X) + (Y * other.Y);

    /// <summary>Area of the parallelogram of the two vectors, mm², above 0 where the other lies clockwise on the screen.</summary>
    public double Cross(Point other) => (X * other.Y) - (Y * other.X);

    /// <summary>The place at <paramref name="t"/> of the way to another (0 here, 1 there).</summary>
    public Point Toward(Point other, double t) => new(X + ((other.X - X) * t), Y + ((other.Y - Y) * t));

    /// <summary>The place turned clockwise on the screen by degrees about another place; quarter turns are exact.</summary>
    public Point Turned(double degrees, Point about)
    {
        var (sin, cos) = Turn.SinCos(degrees);
        var (dx, dy) = (X - about.X, Y - about.Y);
        return new(about.X + (dx * cos) - (dy * sin), about.Y + (dx * sin) + (dy * cos));
    }

    /// <summary>Sum of two vectors.</summary>
    public static Point operator +(Point a, Point b) => new(a.X + b.X, a.Y + b.Y);

    /// <summary>Difference of two vectors.</summary>
    public static Point operator -(Point a, Point b) => new(a.X - b.X, a.Y - b.Y);

    /// <summary>A vector made longer by a factor.</summary>
    public static Point operator *(Point a, double k) => new(a.X * k, a.Y * k);

    /// <summary>A vector made shorter by a divisor.</summary>
    public static Point operator /(Point a, double k) => new(a.X / k, a.Y / k);
}
