using EvenThimble.Core.Geometry;
using EvenThimble.Core.Stitches;
using EvenThimble.Core.Threads;
using static EvenThimble.Core.Shapes.Outlines;

namespace EvenThimble.Scenario;

/// <summary>The whole hill by night for the back of a jacket, about 100,000 stitches.</summary>
internal static class LarkmoorByNight
{
    private const double Left = -165;
    private const double Right = 165;
    private const double Stitch = 2.3;

    public static StitchFile Draw()
    {
        var pen = new DesignPen();
        Sky(pen);
        Layer(pen, VolunteersThreads.Fern, [new(Left, 52), new(-110, 38), new(-70, 30), new(-20, 44), new(30, 34), new(90, 46), new(130, 36), new(Right, 48)], 96, 10);
        Layer(pen, VolunteersThreads.Moss, [new(Left, 76), new(-120, 66), new(-60, 74), new(0, 62), new(60, 72), new(120, 64), new(Right, 78)], 96, -7);
        Dome(pen);
        Stars(pen);
        pen.Take(VolunteersThreads.Sand);
        pen.Fill([Circle(new(112, -58), 17)], 30, stitch: Stitch);
        pen.SatinAlong(Circle(new(112, -58), 17), _ => 2.6, closed: true);
        pen.Take(VolunteersThreads.Gold);
        pen.SatinAlong(Smooth(new(-130, -20), new(-90, -56), new(-40, -76), new(10, -80)), t => 0.9 + (5.4 * t));
        pen.SatinAlong(Smooth(new(-108, -16), new(-74, -46), new(-32, -66), new(10, -76)), t => 0.9 + (4.4 * t));
        pen.Take(VolunteersThreads.Chalk);
        pen.Fill([Circle(new(13, -77), 7)], 35, stitch: Stitch);
        pen.Take(VolunteersThreads.Gold);
        pen.SatinAlong(RoundRectangle(new(0, 0), 334, 194, 8), _ => 3.6, closed: true);
        return pen.Finish("Larkmoor by night");
    }

    /// <summary>Bands of sky that meet in waves, from ink above to heather at the hills.</summary>
    private static void Sky(DesignPen pen)
    {
        (SewingThread Thread, double Top)[] bands = [(VolunteersThreads.Ink, -95), (VolunteersThreads.Night, -48), (VolunteersThreads.Dusk, -8), (VolunteersThreads.Heather, 22)];
        for (var b = 0; b < bands.Length; b++)
        {
            var bottom = b + 1 < bands.Length ? bands[b + 1].Top : 58;
            pen.Take(bands[b].Thread);
            Point[] upper = b == 0 ? [new(Left, -95), new(Right, -95)] : Wave(bands[b].Top - 0.6, b);
            Point[] lower = b + 1 < bands.Length ? Wave(bottom, b + 1) : [new(Left, bottom), new(Right, bottom)];
            pen.Fill([[.. upper, .. lower.Reverse()]], b % 2 == 0 ? 4 : -4, stitch: Stitch);
        }
    }

    private static Point[] Wave(double y, int phase) =>
        [.. Enumerable.Range(0, 111).Select(i => new Point(Left + (i * 3), y + (5 * Math.Sin((i * 0.11) + (phase * 1.9)))))];

    private static void Layer(DesignPen pen, SewingThread thread, Point[] crest, double bottom, double angle)
    {
        pen.Take(thread);
        pen.Fill([[.. Smooth(crest), new(Right, bottom), new(Left, bottom)]], angle, stitch: Stitch);
    }

    private static void Dome(DesignPen pen)
    {
        pen.Take(VolunteersThreads.Chalk);
        var foot = new Point(-52, 36);
        const double radius = 30;
        for (var g = 0; g < 8; g++)
        {
            Point[] Meridian(double degrees) =>
            [
                .. Enumerable.Range(0, 31).Select(i =>
                {
                    var (sin, cos) = Math.SinCos(i / 30.0 * 86 * Math.PI / 180);
                    return new Point(foot.X - (Math.Cos(degrees * Math.PI / 180) * radius * cos), foot.Y - (radius * sin));
                }),
            ];
            pen.Fill([[.. Meridian(g * 22.5), .. Meridian((g + 1) * 22.5).Reverse()]], 90 - ((g - 3.5) * 17), stitch: Stitch);
        }

        pen.Take(VolunteersThreads.Slate);
        pen.Fill([[new(-80, 37), new(-24, 37), new(-24, 58), new(-80, 58)]], 90, stitch: Stitch);
        pen.SatinAlong(Smooth(new(-44, 34), new(-43, 24), new(-45, 14), new(-50, 7)), t => 5.4 - (2.4 * t));
    }

    /// <summary>Stars where the golden angle throws them, so that no two lie together.</summary>
    private static void Stars(DesignPen pen)
    {
        pen.Take(VolunteersThreads.Chalk);
        for (var i = 1; i <= 70; i++)
        {
            var (sin, cos) = Math.SinCos(i * 137.50776405 * Math.PI / 180);
            var at = new Point(20 + (Math.Sqrt(i / 70.0) * 140 * cos), -44 + (Math.Sqrt(i / 70.0) * 46 * sin));
            if (at.DistanceTo(new(112, -58)) < 24 || Math.Abs(at.X) > 158 || at.X < -20) continue;
            CometOverTheDome.Sparkle(pen, at, 1.8 + (i % 4 * 0.9));
        }
    }
}
