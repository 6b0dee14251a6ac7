using EvenThimble.Core.Geometry;

namespace EvenThimble.Core.Machines;

/// <summary>The outline of a hoop field.</summary>
public enum FieldShape
{
    /// <summary>Along the axes.</summary>
    Rectangle,

    /// <summary>With its axes along the field's.</summary>
    Ellipse,
}

/// <summary>What a machine can sew in one hoop, centred on the origin.</summary>
/// <param name="Id">Short name in files and addresses.</param>
/// <param name="Name">As the user reads it.</param>
/// <param name="Width">Across, mm.</param>
/// <param name="Height">Towards the operator, mm.</param>
public sealed record HoopField(string Id, string Name, double Width, double Height)
{
    // Rounding in files moves a point by up to 0.05 mm; a design of the field's very size still fits.
    private const double SlackMm = 0.05;

    /// <summary>Its outline.</summary>
    public FieldShape Shape { get; init; }

    /// <summary>What must stay free inside the edge, mm.</summary>
    public double Margin { get; init; }

    /// <summary>How many places the frame can be attached at; the field is what one of them sews.</summary>
    public int Positions { get; init; } = 1;

    /// <summary>From one such place to the next, mm; 0 with a single one.</summary>
    public double PositionStep { get; init; }

    /// <summary>Whether a needle point may be here.</summary>
    public bool Holds(Point p)
    {
        var (rx, ry) = ((Width / 2) - Margin + SlackMm, (Height / 2) - Margin + SlackMm);
        return Shape == FieldShape.Rectangle
            ? Math.Abs(p.X) <= rx && Math.Abs(p.Y) <= ry
            : (p.X * p.X / (rx * rx)) + (p.Y * p.Y / (ry * ry)) <= 1;
    }

    /// <summary>Whether a rectangle of this size (mm) fits when it is centred. For an ellipse this asks for its corners too.</summary>
    public bool HoldsSize(double width, double height) => Holds(new(width / 2, height / 2));
}
