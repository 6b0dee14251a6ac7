using EvenThimble.Core.Geometry;
using EvenThimble.Core.Stitches;
using static EvenThimble.Core.Shapes.Outlines;

namespace EvenThimble.Scenario;

/// <summary>A banded planet; its ring passes behind it and before it.</summary>
internal static class RingedPlanet
{
    private const double Tilt = -18;
    private const double Radius = 29;
    private static readonly Point Middle = new(0, 0);

    public static StitchFile Draw()
    {
        var pen = new DesignPen();
        pen.Take(VolunteersThreads.Sand);
        Ring(pen, 196, 344, 0);
        pen.Take(VolunteersThreads.Rust);
        Bands(pen, [(-1.0, -0.62), (-0.30, -0.02), (0.34, 0.56)]);
        pen.Take(VolunteersThreads.Honey);
        Bands(pen, [(-0.62, -0.30), (-0.02, 0.34), (0.56, 1.0)]);
        pen.Take(VolunteersThreads.Sand);
        Ring(pen, -14, 194, 0);
        pen.Take(VolunteersThreads.Tarn);
        Ring(pen, -10, 190, 6.4, 2.4);
        foreach (var (x, y, size) in new[] { (-36.0, -30.0, 3.6), (38, -32, 4.4), (40, 28, 3.2), (-30, 36, 4.0) }) CometOverTheDome.Sparkle(pen, new(x, y), size);
        return pen.Finish("Ringed planet");
    }

    private static void Ring(DesignPen pen, double from, double to, double outwards, double width = 5.4) =>
        pen.SatinAlong(Arc(Middle, 46 + outwards, 12.5 + (outwards * 0.5), from, to, Tilt), t => (width * 0.45) + (width * 0.55 * Math.Sin(Math.PI * t)));

    /// <summary>Stripes of the disc between heights from -1 (top) to 1, bulging as on a ball, their ends on its edge.</summary>
    private static void Bands(DesignPen pen, (double From, double To)[] bands)
    {
        foreach (var (from, to) in bands)
        {
            var (first, last) = (Degrees(from), Degrees(to));
            Point[] ring = [.. Edge(from), .. Arc(Middle, Radius, Radius, first, last, Tilt), .. Edge(to).Reverse(), .. Arc(Middle, Radius, Radius, 180 - last, 180 - first, Tilt)];
            pen.Fill([ring], Tilt + (from < 0 ? 4 : -4));
        }
    }

    private static double Degrees(double height) => Math.Asin(height) * 180 / Math.PI;

    private static Point[] Edge(double height)
    {
        var half = Math.Sqrt(Math.Max(0, 1 - (height * height))) * Radius;
        if (half < 1e-6) return [];
        return
        [
            .. Enumerable.Range(0, 41).Select(i =>
            {
                var x = -half + (2 * half * i / 40);
                var bulge = 3.2 * (1 - (x * x / (half * half))) * (1 - (height * height));
                return new Point(Middle.X + x, Middle.Y + (height * Radius) + bulge).Turned(Tilt, Middle);
            }),
        ];
    }
}
