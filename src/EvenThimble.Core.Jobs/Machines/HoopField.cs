using System.Collections.Immutable;
using EvenThimble.Core.Geometry;

namespace EvenThimble.Core.Machines;

/// <summary>The outline of a hoop field.</summary>
public enum FieldShape
{
    /// <summary>Along the axes.</summary>
    Rectangle,

    /// <summary>With its axes along the field's.</summary>
    Ellipse,

    /// <summary>A rectangle with round corners.</summary>
    Rounded,
}

/// <summary>One of the places where a long hoop is attached to the machine.</summary>
/// <param name="Number">From 1, the farthest from the operator (or the leftmost) first.</param>
/// <param name="Offset">Where the middle of what it sews lies, from the middle of the hoop, mm.</param>
public readonly record struct HoopPosition(int Number, Point Offset);

/// <summary>What a machine can sew in one hoop, centred on the origin.</summary>
/// <param name="Id">Short name in files and addresses.</param>
/// <param name="Name">As the user reads it.</param>
/// <param name="Width">Across, mm.</param>
/// <param name="Height">Towards the operator, mm.</param>
public sealed record HoopField(string Id, string Name, double Width, double Height)
{
    /// <summary>The ids of hoops of the user's own begin with this.</summary>
    public const string OwnPrefix = "own-";

    // Rounding in files moves a point by up to 0.05 mm; a design of the field's very size still fits.
    private const double SlackMm = 0.05;

    /// <summary>Its outline.</summary>
    public FieldShape Shape { get; init; }

    /// <summary>The radius of round corners, mm.</summary>
    public double CornerRadius { get; init; }

    /// <summary>What must stay free inside the edge, mm.</summary>
    public double Margin { get; init; }

    /// <summary>How many places the frame can be attached at; the field is what one of them sews.</summary>
    public int Positions { get; init; } = 1;

    /// <summary>From one such place to the next, mm; 0 with a single one.</summary>
    public double PositionStep { get; init; }

    /// <summary>The places lie side by side, rather than one below the other.</summary>
    public bool PositionsAcross { get; init; }

    /// <summary>A short name that earlier jobs know it by; null: none.</summary>
    public string? EarlierId { get; init; }

    /// <summary>Of the user's own.</summary>
    public bool IsOwn => Id.StartsWith(OwnPrefix, StringComparison.Ordinal);

    /// <summary>Width that can be sewn, mm.</summary>
    public double InnerWidth => Width - (2 * Margin);

    /// <summary>Height that can be sewn, mm.</summary>
    public double InnerHeight => Height - (2 * Margin);

    /// <summary>All places that it can be attached at.</summary>
    public ImmutableArray<HoopPosition> AllPositions => [.. Enumerable.Range(0, Positions).Select(i => new HoopPosition(i + 1, At((i - ((Positions - 1) / 2.0)) * PositionStep)))];

    /// <summary>The middle place, at which what is not split is sewn.</summary>
    public HoopPosition MiddlePosition => AllPositions[(Positions - 1) / 2];

    /// <summary>The whole of what all its places sew together: width and height, mm.</summary>
    public (double Width, double Height) Whole => At((Positions - 1) * PositionStep) is var more ? (Width + more.X, Height + more.Y) : default;

    /// <summary>Whether a needle point may be here.</summary>
    public bool Holds(Point p)
    {
        var (rx, ry) = ((InnerWidth / 2) + SlackMm, (InnerHeight / 2) + SlackMm);
        if (Shape == FieldShape.Ellipse) return (p.X * p.X / (rx * rx)) + (p.Y * p.Y / (ry * ry)) <= 1;
        var (x, y) = (Math.Abs(p.X), Math.Abs(p.Y));
        if (x > rx || y > ry) return false;
        var corner = Shape == FieldShape.Rounded ? Math.Min(Math.Max(0, CornerRadius - Margin), Math.Min(rx, ry)) : 0;
        return x <= rx - corner || y <= ry - corner || new Point(x - rx + corner, y - ry + corner).Length <= corner;
    }

    /// <summary>Whether a rectangle of this size (mm) fits when it is centred. For an ellipse this asks for its corners too.</summary>
    public bool HoldsSize(double width, double height) => Holds(new(width / 2, height / 2));

    /// <summary>Whether a rectangle lies in it.</summary>
    public bool HoldsBox(Box box) => Holds(new(box.MinX, box.MinY)) && Holds(new(box.MaxX, box.MinY)) && Holds(new(box.MinX, box.MaxY)) && Holds(new(box.MaxX, box.MaxY));

    /// <summary>Its edge as a closed line, mm; curves within 0.05 mm.</summary>
    /// <param name="inset">How far inside the edge, mm.</param>
    public ImmutableArray<Point> Edge(double inset = 0)
    {
        var (rx, ry) = ((Width / 2) - inset, (Height / 2) - inset);
        if (Shape == FieldShape.Rectangle) return [new(-rx, -ry), new(rx, -ry), new(rx, ry), new(-rx, ry)];
        if (Shape == FieldShape.Ellipse) return [.. Enumerable.Range(0, 120).Select(i => Around(i * 3)).Select(u => new Point(u.X * rx, u.Y * ry))];
        var r = Math.Clamp(CornerRadius - inset, 0, Math.Min(rx, ry));
        return [.. new[] { (1, -1, 270), (1, 1, 0), (-1, 1, 90), (-1, -1, 180) }.SelectMany(c => Enumerable.Range(0, 19).Select(i => Around(c.Item3 + (i * 5)) * r + new Point(c.Item1 * (rx - r), c.Item2 * (ry - r))))];
    }

    private static Point Around(double degrees) => Math.SinCos(degrees * Math.PI / 180) is var (sin, cos) ? new(cos, sin) : default;

    private Point At(double along) => PositionsAcross ? new(along, 0) : new(0, along);
}
