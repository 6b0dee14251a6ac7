using EvenThimble.Core.Geometry;
using EvenThimble.Core.Stitches;
using static EvenThimble.Core.Shapes.Outlines;

namespace EvenThimble.Scenario;

/// <summary>The volunteers' crest for the left chest: dome under stars in a shield, with room for a name below.</summary>
internal static class DomeCrest
{
    public static StitchFile Draw()
    {
        var shield = Shield();
        var pen = new DesignPen();
        pen.Take(VolunteersThreads.Night);
        pen.Fill([shield], 45);
        pen.Take(VolunteersThreads.Moss);
        pen.Fill([[new(-31.5, 12), .. Smooth(new(-31.5, 12), new(-14, 7.5), new(4, 9), new(20, 12.5), new(31.5, 10)), .. Foot()]], -8);
        pen.Take(VolunteersThreads.Chalk);
        Dome(pen);
        foreach (var (x, y, size) in new[] { (-20.0, -26.0, 4.2), (0, -31, 3.0), (19, -27, 5.0), (-25, -10, 2.8), (24, -10, 3.2) }) CometOverTheDome.Sparkle(pen, new(x, y), size);
        pen.Take(VolunteersThreads.Gold);
        pen.SatinAlong([new(-17.5, 6.4), new(17.5, 6.4)], _ => 2.2);
        pen.SatinAlong(Smooth(new(4.2, 5), new(5, -2), new(4.2, -5), new(1.8, -8.6)), t => 3.4 - (1.4 * t));
        pen.SatinAlong(Polylines.Divided([.. shield, shield[0]], 260), _ => 3.4, closed: true);
        return pen.Finish("Dome crest");
    }

    private static void Dome(DesignPen pen)
    {
        const int gores = 6;
        for (var g = 0; g < gores; g++)
        {
            var (left, right) = (Meridian(g * 180.0 / gores), Meridian((g + 1) * 180.0 / gores));
            pen.Fill([[.. left, .. right.Reverse()]], 90 + ((g - 2.5) * -20));
        }

        pen.Fill([[new(-15, 6), new(15, 6), new(15, 14), new(-15, 14)]], 90);
    }

    private static Point[] Meridian(double degrees)
    {
        var x = -Math.Cos(degrees * Math.PI / 180) * 15.6;
        return
        [
            .. Enumerable.Range(0, 25).Select(i =>
            {
                var (sin, cos) = Math.SinCos(i / 24.0 * 85 * Math.PI / 180);
                return new Point(x * cos, 5 - (15.6 * sin));
            }),
        ];
    }

    private static Point[] Foot() => [.. Smooth(new(31.5, 10), new(28, 22), new(16, 35), new(0, 43.5), new(-16, 35), new(-28, 22), new(-31.5, 12))];

    /// <summary>A shield with a slightly arched top.</summary>
    private static IReadOnlyList<Point> Shield() => Rounded(
    [
        .. Smooth(new(-33, -36), new(-16, -40), new(0, -41), new(16, -40), new(33, -36)),
        .. Smooth(new(33, -36), new(33.5, -12), new(32.5, 9), new(28.5, 23), new(16, 37), new(0, 46)),
        .. Smooth(new(0, 46), new(-16, 37), new(-28.5, 23), new(-32.5, 9), new(-33.5, -12), new(-33, -36)),
    ], 2);
}
