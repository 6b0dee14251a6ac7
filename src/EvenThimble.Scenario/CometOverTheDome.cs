using EvenThimble.Core.Geometry;
using EvenThimble.Core.Stitches;
using static EvenThimble.Core.Shapes.Outlines;

namespace EvenThimble.Scenario;

/// <summary>A comet with three tails passes over the dome on its hill; tails and star are one part of gold thread.</summary>
internal static class CometOverTheDome
{
    private static readonly Point DomeFoot = new(-26, 26);
    private const double DomeRadius = 27;

    public static StitchFile Draw()
    {
        var pen = new DesignPen();
        Hill(pen);
        Dome(pen);
        TailAndStar(pen);
        Light(pen);
        return pen.Finish("Comet over the dome");
    }

    private static void Hill(DesignPen pen)
    {
        pen.Take(VolunteersThreads.Fern);
        var crest = Smooth(new(-74, 50), new(-62, 41), new(-46, 35), new(-26, 33.5), new(-6, 35), new(14, 40), new(36, 42), new(56, 47), new(74, 50));
        pen.Fill([[.. crest, new(60, 51.5), new(20, 52.5), new(-30, 52.5), new(-62, 51.5)]], 8);
        foreach (var x in new[] { 24.0, 33, 44, 51 }) Tree(pen, new(x, 43.2 + ((x - 24) * 0.14)), 9 + (x % 5));
    }

    private static void Tree(DesignPen pen, Point foot, double height)
    {
        for (var tier = 0; tier < 3; tier++)
        {
            var top = foot + new Point(0, -height + (tier * height * 0.24));
            var (half, drop) = (1.5 + (tier * 1.0), height * 0.36);
            pen.Satin([top + new Point(-0.5, 0), top + new Point(-half, drop)], [top + new Point(0.5, 0), top + new Point(half, drop)]);
        }
    }

    /// <summary>Gores are filled at turning angles, so that each catches the light in its own way.</summary>
    private static void Dome(DesignPen pen)
    {
        pen.Take(VolunteersThreads.Slate);
        const int gores = 8;
        for (var g = 0; g < gores; g++)
        {
            var (left, right) = (Meridian(g * 180.0 / gores), Meridian((g + 1) * 180.0 / gores));
            pen.Fill([[.. left, .. right.Reverse()]], 90 + ((g - 3.5) * -17));
        }

        var drum = new Point[] { new(-51, 26.4), new(-1, 26.4), new(-1, 34.2), new(-10, 33.6), new(-26, 33.1), new(-42, 33.9), new(-51, 36) };
        pen.Fill([drum], 90);
    }

    /// <summary>A line from the foot of the dome to near its top, as a globe's meridian is seen.</summary>
    private static Point[] Meridian(double degrees)
    {
        var x = -Math.Cos(degrees * Math.PI / 180) * DomeRadius;
        return
        [
            .. Enumerable.Range(0, 31).Select(i =>
            {
                var (sin, cos) = Math.SinCos(i / 30.0 * 86 * Math.PI / 180);
                return new Point(DomeFoot.X + (x * cos), DomeFoot.Y - (DomeRadius * sin));
            }),
        ];
    }

    private static void TailAndStar(DesignPen pen)
    {
        pen.Take(VolunteersThreads.Gold);
        var head = new Point(42, -34);
        pen.SatinAlong(Smooth(new(-72, -26), new(-44, -42), new(-10, -49), new(22, -44.5), head + new Point(-2, -4.5)), t => 0.9 + (4.6 * t));
        pen.SatinAlong(Smooth(new(-66, -10), new(-38, -28), new(-8, -37), new(20, -37.5), head + new Point(-4.5, 0)), t => 0.9 + (5.6 * t));
        pen.SatinAlong(Smooth(new(-40, -10), new(-20, -21), new(4, -27.5), new(24, -29.5), head + new Point(-2, 4.5)), t => 0.9 + (4.2 * t));
        Star(pen, new(46, 8), 15.5, 6.2);
    }

    /// <summary>Each ray is a satin of its own from the middle to the tip, as stars are sewn to shine.</summary>
    private static void Star(DesignPen pen, Point middle, double outer, double inner)
    {
        for (var ray = 0; ray < 5; ray++)
        {
            Point At(double radius, double degrees) => new Point(middle.X, middle.Y - radius).Turned(degrees, middle);
            var tip = ray * 72.0;
            var (left, right) = (At(inner, tip - 36), At(inner, tip + 36));
            pen.Satin([middle + ((left - middle) * 0.02), left, At(outer, tip - 1)], [middle + ((right - middle) * 0.02), right, At(outer, tip + 1)]);
        }
    }

    private static void Light(DesignPen pen)
    {
        pen.Take(VolunteersThreads.Chalk);
        pen.Fill([Circle(new(45, -34), 7.6)], 35);
        pen.SatinAlong(Circle(new(45, -34), 7.7), _ => 1.1, closed: true);
        pen.SatinAlong(Smooth(new(-19, 25), new(-17.5, 16), new(-19.6, 8), new(-23.4, 2.4)), t => 4.6 - (2.2 * t));
        pen.SatinAlong([new(-53, 26), new(1, 26)], _ => 2.2);
        foreach (var x in new[] { -44.0, -35, -10 }) pen.Satin([new(x, 28.4), new(x, 32.2)], [new(x + 3.4, 28.4), new(x + 3.4, 32.2)]);
        foreach (var (x, y, size) in new[] { (66.0, -12.0, 3.2), (24, -4, 2.6), (68, 26, 2.8), (-66, 8, 3.0), (10, 12, 2.2), (62, -46, 2.4) }) Sparkle(pen, new(x, y), size);
    }

    internal static void Sparkle(DesignPen pen, Point at, double size)
    {
        pen.Satin([at + new Point(-size, -0.1), at + new Point(0, -size * 0.22), at + new Point(size, -0.1)], [at + new Point(-size, 0.1), at + new Point(0, size * 0.22), at + new Point(size, 0.1)]);
        pen.Satin([at + new Point(-0.1, -size), at + new Point(-size * 0.22, 0), at + new Point(-0.1, size)], [at + new Point(0.1, -size), at + new Point(size * 0.22, 0), at + new Point(0.1, size)]);
    }
}
