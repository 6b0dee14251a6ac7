using EvenThimble.Core.Geometry;

namespace EvenThimble.Core.Jobs;

/// <summary>Where stitches of a blob lie in the job: first mirrored left to right if wanted, then turned about the blob's origin, then moved.</summary>
/// <param name="X">Moved to the right, mm.</param>
/// <param name="Y">Moved towards the operator, mm.</param>
/// <param name="TurnDegrees">Turned clockwise, 0 up to 360 degrees.</param>
/// <param name="Mirrored">Left and right change sides.</param>
public readonly record struct Placement(double X, double Y, double TurnDegrees, bool Mirrored = false)
{
    /// <summary>As the blob has it.</summary>
    public static readonly Placement AsItCame = new(0, 0, 0);

    // A millionth of a millimetre: far below any machine, and it keeps a place the same number however it was reached.
    private const int Decimals = 6;

    /// <summary>The same, moved on.</summary>
    public Placement Shifted(double dx, double dy) => this with { X = Rounded(X + dx), Y = Rounded(Y + dy) };

    /// <summary>The same, turned on by degrees about a place of the job.</summary>
    public Placement Turned(double degrees, Point about)
    {
        var moved = new Point(X, Y).Turned(degrees, about);
        return this with { X = Rounded(moved.X), Y = Rounded(moved.Y), TurnDegrees = Rounded(Turn.Normalised(TurnDegrees + degrees)) };
    }

    /// <summary>Where a point of the blob comes to lie, mm.</summary>
    public Point Place(Point p)
    {
        if (Mirrored) p = new(-p.X, p.Y);
        var t = TurnDegrees == 0 ? p : p.Turned(TurnDegrees, Point.Zero);
        return new(Rounded(t.X + X), Rounded(t.Y + Y));
    }

    /// <summary>The same, left and right changed about an upright line at <paramref name="x"/> of the job.</summary>
    public Placement MirroredAt(double x) => new(Rounded((2 * x) - X), Y, Rounded(Turn.Normalised(-TurnDegrees)), !Mirrored);

    /// <summary>The place of the blob that lies at a place of the job, mm.</summary>
    public Point Unplace(Point p)
    {
        var t = new Point(p.X - X, p.Y - Y).Turned(-TurnDegrees, Point.Zero);
        return Mirrored ? new(-t.X, t.Y) : t;
    }

    private static double Rounded(double v) => Math.Round(v, Decimals) + 0.0; // + 0.0 turns -0 into 0
}
