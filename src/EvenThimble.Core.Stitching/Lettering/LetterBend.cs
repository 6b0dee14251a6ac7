using EvenThimble.Core.Geometry;

namespace EvenThimble.Core.Lettering;

/// <summary>A shape that a block of lettering is bent to: its letters change their form with it.</summary>
/// <param name="Shape">The shape.</param>
/// <param name="Amount">How much, 1 by the height of the block; below 0 the other way.</param>
public sealed record LetterBend(BendShape Shape, double Amount)
{
    /// <summary>The least and the most of it.</summary>
    public static readonly (double Least, double Most) Amounts = (-1, 1);

    /// <summary>Where a place of the block comes to lie.</summary>
    public Point Bent(Point place, Box block)
    {
        if (block.Width <= 0 || block.Height <= 0) return place;
        var (u, v) = ((place.X - block.Middle.X) * 2 / block.Width, (place.Y - block.MinY) / block.Height);
        return Shape.Move(place, u, v, Amount, block);
    }
}

/// <summary>A named shape of bending.</summary>
public sealed class BendShape
{
    private const double MostPressed = 0.7;
    private readonly Func<double, double, double, (double Shift, double Stretch, double Aside)> _rule;

    private BendShape(string name, Func<double, double, double, (double Shift, double Stretch, double Aside)> rule) => (Name, _rule) = (name, rule);

    /// <summary>All shapes. Across, u goes from -1 to 1; down, v from 0 to 1; a is the amount.</summary>
    public static IReadOnlyList<BendShape> All { get; } =
    [
        Shifted("arch", (u, _, a) => -a * Hill(u)),
        Shifted("dome", (u, v, a) => -Left(a) * Hill(u) * (1 - v)),
        Shifted("bowl", (u, v, a) => Left(a) * Hill(u) * v),
        Shifted("bridge", (u, v, a) => Left(-a) * Hill(u) * v),
        Shifted("sag", (u, v, a) => -Left(-a) * Hill(u) * (1 - v)),
        Shifted("wave", (u, _, a) => -a * Math.Sin(Math.PI * u) / 2),
        Shifted("double wave", (u, _, a) => -a * Math.Sin(2 * Math.PI * u) / 2),
        Shifted("rising", (u, _, a) => -a * u / 2),
        Stretched("bulge", (u, a) => a < 0 ? 1 / (1 - (a * Hill(u))) : 1 + (a * Hill(u))),
        Stretched("waist", (u, a) => 1 / (1 + (Math.Abs(a) * (a > 0 ? Hill(u) : 1 - Hill(u))))),
        Stretched("pennant", (u, a) => 1 / (1 + (Math.Abs(a) * (1 + (Math.Sign(a) * u))))),
        Shifted("wedge", (u, v, a) => -Left(a) * (1 + u) / 2 * (1 - v)),
        Shifted("gable", (u, v, a) => -Left(a) * (1 - Math.Abs(u)) * (1 - v)),
        new("fan", (u, v, a) => (0, 1, a * u * (1 - (2 * v)) / 2)),
    ];

    /// <summary>What people call it.</summary>
    public string Name { get; }

    /// <summary>The shape of a name; null if there is none.</summary>
    public static BendShape? Find(string? name) => All.FirstOrDefault(b => b.Name.Equals(name?.Trim(), StringComparison.OrdinalIgnoreCase));

    internal Point Move(Point place, double u, double v, double amount, Box block)
    {
        var (shift, stretch, aside) = _rule(u, v, amount);
        return new(
            place.X + (aside * block.Height),
            block.Middle.Y + ((place.Y - block.Middle.Y) * stretch) + (shift * block.Height));
    }

    private static double Hill(double u) => 1 - (u * u);

    /// <summary>An amount by which edges come together (below 0) leaves letters something of their height.</summary>
    private static double Left(double amount) => amount < 0 ? amount * MostPressed : amount;

    private static BendShape Shifted(string name, Func<double, double, double, double> shift) => new(name, (u, v, a) => (shift(u, v, a), 1, 0));

    private static BendShape Stretched(string name, Func<double, double, double> stretch) => new(name, (u, _, a) => (0, stretch(u, a), 0));
}
