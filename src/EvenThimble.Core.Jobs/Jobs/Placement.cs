using EvenThimble.Core.Geometry;

namespace EvenThimble.Core.Jobs;

/// <summary>Where stitches of a blob lie in the job: first sized, then mirrored left to right if wanted, then turned about the blob's origin, then moved.</summary>
/// <param name="X">Moved to the right, mm.</param>
/// <param name="Y">Moved towards the operator, mm.</param>
/// <param name="TurnDegrees">Turned clockwise, 0 up to 360 degrees.</param>
/// <param name="Mirrored">Left and right change sides.</param>
public readonly record struct Placement(double X, double Y, double TurnDegrees, bool Mirrored = false)
{
    /// <summary>As the blob has it.</summary>
    public static readonly Placement AsItCame = new(0, 0, 0);

    // A millionth of a millimetre: far below any machine, and a place is the same number however it was reached. Sums on the way are kept finer, and snap to it,
    // so that what is made smaller and larger again comes back to the last bit.
    private const int Decimals = 6;
    private const int FineDecimals = 12;
    private const double Snap = 2e-9;

    /// <summary>How much larger than it came.</summary>
    public Sizing Size { get; init; } = Sizing.Original;

    /// <summary>The same without the sizing.</summary>
    public Placement Unsized() => this with { Size = Sizing.Original };

    /// <summary>The same, moved on.</summary>
    public Placement Shifted(double dx, double dy) => this with { X = Fine(X + dx), Y = Fine(Y + dy) };

    /// <summary>The same, turned on by degrees about a place of the job.</summary>
    public Placement Turned(double degrees, Point about)
    {
        var moved = new Point(X, Y).Turned(degrees, about);
        return this with { X = Fine(moved.X), Y = Fine(moved.Y), TurnDegrees = Fine(Turn.Normalised(TurnDegrees + degrees)) };
    }

    /// <summary>Where a point of the blob comes to lie, mm.</summary>
    public Point Place(Point p) => PlaceFinely(p) is var at ? new(Rounded(at.X), Rounded(at.Y)) : default;

    /// <summary>The same without rounding, for sums in which what is rounded away would add up.</summary>
    public Point PlaceFinely(Point p)
    {
        if (!Size.IsOriginal) p = Size.Apply(p);
        if (Mirrored) p = new(-p.X, p.Y);
        var t = TurnDegrees == 0 ? p : p.Turned(TurnDegrees, Point.Zero);
        return new(t.X + X, t.Y + Y);
    }

    /// <summary>The same, left and right changed about an upright line at <paramref name="x"/> of the job.</summary>
    public Placement MirroredAt(double x) => this with { X = Fine((2 * x) - X), TurnDegrees = Fine(Turn.Normalised(-TurnDegrees)), Mirrored = !Mirrored };

    /// <summary>The same, made so many times as wide and high about a place of the job.</summary>
    public Placement Scaled(double across, double down, Point about)
    {
        var (x, y) = (Fine(about.X + ((X - about.X) * across)), Fine(about.Y + ((Y - about.Y) * down)));

        // Where no axis leans, nothing but the sizes changes; so that sizes come back to the last bit.
        if (across == down || TurnDegrees % 180 == 0) return this with { X = x, Y = y, Size = FineSize(new(Size.Across * across, Size.Down * down, Size.Lean * across)) };
        if (TurnDegrees % 90 == 0 && Size.Lean == 0) return this with { X = x, Y = y, Size = FineSize(new(Size.Across * down, Size.Down * across)) };
        var (a, b) = (Linear(new(1, 0)), Linear(new(0, 1)));
        return Of(x, y, new(a.X * across, a.Y * down), new(b.X * across, b.Y * down));
    }

    /// <summary>The same, leaned: what lies above a place of the job goes to the right by the tangent of the angle, what lies below to the left.</summary>
    public Placement Leaned(double degrees, Point about)
    {
        var push = -Math.Tan(degrees * Math.PI / 180);
        Point Push(Point p) => new(p.X + (push * p.Y), p.Y);
        var moved = Push(new(X - about.X, Y - about.Y));
        return Of(Fine(about.X + moved.X), Y, Push(Linear(new(1, 0))), Push(Linear(new(0, 1))));
    }

    /// <summary>This placement of what another one has placed before.</summary>
    public Placement After(Placement before)
    {
        if (before == AsItCame) return this;
        if (this == AsItCame) return before;
        var at = Linear(new(before.X, before.Y)) + new Point(X, Y);
        if (Size.IsOriginal && !Mirrored) return before with { X = Fine(at.X), Y = Fine(at.Y), TurnDegrees = Fine(Turn.Normalised(before.TurnDegrees + TurnDegrees)) };
        return Of(Fine(at.X), Fine(at.Y), Linear(before.Linear(new(1, 0))), Linear(before.Linear(new(0, 1))));
    }

    /// <summary>The placement that, before this one, has the same effect as another by itself.</summary>
    public Placement Before(Placement whole)
    {
        var at = Unplace(new(whole.X, whole.Y));
        var corner = new Point(X, Y);
        return Of(Fine(at.X), Fine(at.Y), Unplace(whole.Linear(new(1, 0)) + corner), Unplace(whole.Linear(new(0, 1)) + corner));
    }

    /// <summary>The place of the blob that lies at a place of the job, mm.</summary>
    public Point Unplace(Point p)
    {
        var t = new Point(p.X - X, p.Y - Y).Turned(-TurnDegrees, Point.Zero);
        if (Mirrored) t = new(-t.X, t.Y);
        return Size.IsOriginal ? t : Size.Undo(t);
    }

    private Point Linear(Point p)
    {
        p = Size.Apply(p);
        return (Mirrored ? new Point(-p.X, p.Y) : p).Turned(TurnDegrees, Point.Zero);
    }

    /// <summary>The placement that takes (1,0) and (0,1) to two vectors: its sizing is what is left of them after the turn (the QR decomposition).</summary>
    private static Placement Of(double x, double y, Point ofAcross, Point ofDown)
    {
        var mirrored = ofAcross.Cross(ofDown) < 0;
        var turn = Math.Atan2(mirrored ? -ofAcross.Y : ofAcross.Y, mirrored ? -ofAcross.X : ofAcross.X) * 180 / Math.PI;
        turn = Fine(Turn.Normalised(turn));
        var down = ofDown.Turned(-turn, Point.Zero);
        return new(x, y, turn, mirrored) { Size = FineSize(new(ofAcross.Length, down.Y, mirrored ? -down.X : down.X)) };
    }

    private static Sizing FineSize(Sizing s) => new(Fine(s.Across), Fine(s.Down), Fine(s.Lean));

    private static double Rounded(double v) => Math.Round(v, Decimals) + 0.0; // + 0.0 turns -0 into 0

    private static double Fine(double v) => Rounded(v) is var near && Math.Abs(near - v) < Snap ? near : Math.Round(v, FineDecimals) + 0.0;
}
