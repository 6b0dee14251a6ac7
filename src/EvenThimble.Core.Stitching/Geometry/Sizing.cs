namespace EvenThimble.Core.Geometry;

/// <summary>
/// How much larger something is than it came: first leaned (its top pushed aside), then widened and heightened.
/// Together with a turn and a mirroring this is every way in which a flat thing can be stretched.
/// </summary>
/// <param name="Across">Times as wide, above 0.</param>
/// <param name="Down">Times as high, above 0.</param>
/// <param name="Lean">How far a place 1 mm further down lies further to the right, mm.</param>
public readonly record struct Sizing(double Across, double Down, double Lean = 0)
{
    /// <summary>As it came.</summary>
    public static readonly Sizing Original = new(1, 1);

    /// <summary>Whether it is as it came.</summary>
    public bool IsOriginal => this == Original;

    /// <summary>Whether width and height grow alike.</summary>
    public bool IsEven => Across == Down && Lean == 0;

    /// <summary>How many times as large areas become.</summary>
    public double OfArea => Across * Down;

    /// <summary>How many times as long things become, on average of all directions.</summary>
    public double OfLength => Math.Sqrt(OfArea);

    /// <summary>Where a place comes to lie.</summary>
    public Point Apply(Point p) => new((Across * p.X) + (Lean * p.Y), Down * p.Y);

    /// <summary>The place that came to lie there.</summary>
    public Point Undo(Point p)
    {
        var y = p.Y / Down;
        return new((p.X - (Lean * y)) / Across, y);
    }
}
