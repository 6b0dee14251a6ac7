using EvenThimble.Core.Geometry;
using EvenThimble.Core.Shapes;

namespace EvenThimble.Core.Monograms;

/// <summary>An outline that letters are shaped to fill, about its middle, its longer side 1 long.</summary>
internal sealed class MonogramGround
{
    private const int Points = 360;
    private const double FlattenedAt = 200;
    private readonly MeasuredLine _line;

    private MonogramGround(IEnumerable<Point> outline, double corner)
    {
        Outline = [.. outline];
        (_line, CornerX) = (new([.. Outline, Outline[0]]), corner);
        Box = Box.Around(Outline);
    }

    /// <summary>Its outline, closed, clockwise from its topmost middle.</summary>
    public IReadOnlyList<Point> Outline { get; }

    /// <summary>The rectangle about it.</summary>
    public Box Box { get; }

    /// <summary>Where the head and foot of the outer letters end and their side begins, from the middle.</summary>
    public double CornerX { get; }

    public static MonogramGround Circle { get; } = new(Round(0.5, 0.5), 0.36);

    public static MonogramGround Oval { get; } = new(Round(0.39, 0.5), 0.29);

    public static MonogramGround WideOval { get; } = new(Round(0.5, 0.34), 0.38);

    public static MonogramGround Square { get; } = Of(BasicShapes.Rectangle(1, 1, 0.06), 0.5);

    public static MonogramGround Diamond { get; } = new(Straight(new(0, -0.5), new(0.5, 0), new(0, 0.5), new(-0.5, 0)), 0.27);

    public static MonogramGround Shield { get; } = Of(new([new(
    [
        new(new(0, -0.44), NodeKind.Curve, new(-0.1, 0), new(0.1, 0)), new(new(0.42, -0.5), NodeKind.Corner, new(-0.12, 0.06)), new(new(0.42, 0.02), NodeKind.Curve, new(0, -0.1), new(0, 0.26)),
        new(new(0, 0.5), NodeKind.Corner, new(0.18, -0.08), new(-0.18, -0.08)), new(new(-0.42, 0.02), NodeKind.Curve, new(0, 0.26), new(0, -0.1)), new(new(-0.42, -0.5), NodeKind.Corner, default, new(0.12, 0.06)),
    ], true)]), 0.4);

    public static MonogramGround Arch { get; } = Of(new([new(
    [
        new(new(0, -0.5), NodeKind.Curve, new(-0.24, 0), new(0.24, 0)), new(new(0.44, -0.06), NodeKind.Curve, new(0, -0.24), new(0, 0.1)), new(new(0.44, 0.5)), new(new(-0.44, 0.5)),
        new(new(-0.44, -0.06), NodeKind.Curve, new(0, 0.1), new(0, -0.24)),
    ], true)]), 0.4);

    /// <summary>The point of its upper or lower edge at x.</summary>
    public Point Edge(double x, bool upper)
    {
        var y = upper ? double.PositiveInfinity : double.NegativeInfinity;
        for (var i = 0; i < Outline.Count; i++)
        {
            var (a, b) = (Outline[i], Outline[(i + 1) % Outline.Count]);
            if (Math.Min(a.X, b.X) > x || Math.Max(a.X, b.X) < x) continue;
            var ends = Math.Abs(b.X - a.X) < 1e-12 ? new[] { a.Y, b.Y } : [a.Y + ((x - a.X) / (b.X - a.X) * (b.Y - a.Y))];
            y = upper ? Math.Min(y, ends.Min()) : Math.Max(y, ends.Max());
        }

        return new(x, double.IsFinite(y) ? y : 0);
    }

    /// <summary>Its side from the head's corner to the foot's: the left one, or the right one.</summary>
    public IReadOnlyList<Point> Side(bool right)
    {
        var x = right ? CornerX : -CornerX;
        return _line.Between(_line.Nearest(Edge(x, upper: true)), _line.Nearest(Edge(x, upper: false)));
    }

    // Flattened at a size at which its curves are fine.
    private static MonogramGround Of(DrawnShape shape, double corner) => new(Begun(Straight([.. shape.Moved(p => p * FlattenedAt).Paths[0].Flattened().Select(p => p / FlattenedAt)])), corner);

    private static IEnumerable<Point> Straight(params Point[] corners) => Polylines.InPieces(corners, closed: true, 3.0 / Points);

    private static IEnumerable<Point> Round(double across, double down) => Enumerable.Range(0, Points).Select(i => new Point(across * Math.Sin(2 * Math.PI * i / Points), -down * Math.Cos(2 * Math.PI * i / Points)));

    /// <summary>An outline that begins at its topmost middle.</summary>
    private static IEnumerable<Point> Begun(IEnumerable<Point> outline)
    {
        var points = outline.ToList();
        if (!Polylines.IsClockwise(points)) points.Reverse();
        var first = Enumerable.Range(0, points.Count).Where(i => points[i].Y < 0).MinBy(i => Math.Abs(points[i].X));
        return points.Skip(first).Concat(points.Take(first));
    }
}
