using EvenThimble.Core.Geometry;

namespace EvenThimble.Core.Shapes;

/// <summary>Shapes that need not be drawn point by point, mm about their middle.</summary>
public static class BasicShapes
{
    // Arm of a cubic that follows a quarter of a circle of radius 1 within 0.03 percent.
    private const double QuarterArm = 0.5522847498;

    /// <summary>A rectangle, its corners rounded by a radius.</summary>
    public static DrawnShape Rectangle(double width, double height, double radius = 0)
    {
        var (w, h) = (width / 2, height / 2);
        var r = Math.Clamp(radius, 0, Math.Min(w, h));
        if (r < 0.01) return Of(ShapePath.Through([new(-w, -h), new(w, -h), new(w, h), new(-w, h)], closed: true));
        var k = r * QuarterArm;
        return Of(new(
        [
            Curve(-w + r, -h, new(-k, 0), default), Curve(w - r, -h, default, new(k, 0)), Curve(w, -h + r, new(0, -k), default), Curve(w, h - r, default, new(0, k)),
            Curve(w - r, h, new(k, 0), default), Curve(-w + r, h, default, new(-k, 0)), Curve(-w, h - r, new(0, k), default), Curve(-w, -h + r, default, new(0, -k)),
        ], true));
    }

    /// <summary>An ellipse.</summary>
    public static DrawnShape Ellipse(double width, double height)
    {
        var (w, h) = (width / 2, height / 2);
        var (kx, ky) = (w * QuarterArm, h * QuarterArm);
        return Of(new([Curve(0, -h, new(-kx, 0), new(kx, 0)), Curve(w, 0, new(0, -ky), new(0, ky)), Curve(0, h, new(kx, 0), new(-kx, 0)), Curve(-w, 0, new(0, ky), new(0, -ky))], true));
    }

    /// <summary>A polygon with equal sides, its first corner up.</summary>
    public static DrawnShape Polygon(double width, double height, int corners) => Of(ShapePath.Through(Fitted(Ring(corners, _ => 1), width, height), closed: true));

    /// <summary>A star; <paramref name="depth"/> is the radius of its inner corners as part of the outer ones.</summary>
    public static DrawnShape Star(double width, double height, int points, double depth) =>
        Of(ShapePath.Through(Fitted(Ring(2 * points, i => i % 2 == 0 ? 1 : Math.Clamp(depth, 0.1, 0.95)), width, height), closed: true));

    /// <summary>A heart.</summary>
    public static DrawnShape Heart(double width, double height) => Scaled(new(
    [
        Curve(0, -0.28, new(-0.06, -0.16), new(0.06, -0.16)), Curve(0.27, -0.5, new(-0.13, 0), new(0.13, 0)), Curve(0.5, -0.22, new(0, -0.16), new(0, 0.22)),
        Curve(0, 0.5, new(0.16, -0.14), new(-0.16, -0.14)), Curve(-0.5, -0.22, new(0, 0.22), new(0, -0.16)), Curve(-0.27, -0.5, new(-0.13, 0), new(0.13, 0)),
    ], true), width, height);

    /// <summary>A crescent that opens to the right.</summary>
    public static DrawnShape Crescent(double width, double height) => Scaled(new(
    [
        Curve(0.5, -0.5, new(-0.28, 0.14), new(-0.62, 0)), Curve(-0.5, 0, new(0, -0.3), new(0, 0.3)), Curve(0.5, 0.5, new(-0.62, 0), new(-0.28, -0.14)), Curve(0.02, 0, new(0, 0.22), new(0, -0.22)),
    ], true), width, height);

    /// <summary>An arc through three places: an open curve.</summary>
    public static ShapePath Arc(Point from, Point through, Point to)
    {
        var (a, b) = (through - from, to - from);
        var cross = 2 * a.Cross(b);
        if (Math.Abs(cross) < 1e-6 * Math.Max(1, b.Length * a.Length)) return ShapePath.Through([from, through, to], closed: false);
        var middle = from + (new Point((b.Y * a.Dot(a)) - (a.Y * b.Dot(b)), (a.X * b.Dot(b)) - (b.X * a.Dot(a))) / cross);
        var radius = middle.DistanceTo(from);
        double Angle(Point p) => Math.Atan2(p.Y - middle.Y, p.X - middle.X);
        var clockwise = cross > 0;
        var sweep = Angle(to) - Angle(from);
        if (clockwise && sweep <= 0) sweep += 2 * Math.PI;
        if (!clockwise && sweep >= 0) sweep -= 2 * Math.PI;
        var pieces = Math.Max(1, (int)Math.Ceiling(Math.Abs(sweep) / (Math.PI / 2)));
        var arm = 4.0 / 3 * Math.Tan(sweep / pieces / 4) * radius;
        return new(
        [
            .. Enumerable.Range(0, pieces + 1).Select(i =>
            {
                var (sin, cos) = Math.SinCos(Angle(from) + (sweep * i / pieces));
                var lean = new Point(-sin, cos) * arm;
                return new PathNode(i == 0 ? from : i == pieces ? to : middle + (new Point(cos, sin) * radius), NodeKind.Curve, i == 0 ? default : lean * -1, i == pieces ? default : lean);
            }),
        ], false);
    }

    private static DrawnShape Of(ShapePath path) => new([path]);

    private static PathNode Curve(double x, double y, Point before, Point after) => new(new(x, y), NodeKind.Curve, before, after);

    private static List<Point> Ring(int count, Func<int, double> radius) =>
        [.. Enumerable.Range(0, count).Select(i => new Point(0, -radius(i)).Turned(i * 360.0 / count, Point.Zero))];

    private static DrawnShape Scaled(ShapePath path, double width, double height)
    {
        var shape = Of(path);
        var box = shape.Bounds;
        return shape.Moved(p => new((p.X - box.Middle.X) * width / box.Width, (p.Y - box.Middle.Y) * height / box.Height));
    }

    private static IEnumerable<Point> Fitted(List<Point> points, double width, double height)
    {
        var box = Box.Around(points);
        return points.Select(p => new Point((p.X - box.Middle.X) * width / box.Width, (p.Y - box.Middle.Y) * height / box.Height));
    }
}
