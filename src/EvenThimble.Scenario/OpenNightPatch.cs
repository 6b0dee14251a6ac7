using EvenThimble.Core.Craft;
using EvenThimble.Core.Geometry;
using EvenThimble.Core.Shapes;
using EvenThimble.Core.Stitches;
using static EvenThimble.Core.Shapes.Outlines;

namespace EvenThimble.Scenario;

/// <summary>The round patch of the open night, 70 mm, with an empty ring between its two borders for words.</summary>
internal static class OpenNightPatch
{
    private const double EdgeWidth = 3.2;
    private const double Outer = 35 - (EdgeWidth / 2);
    private const double WordsInside = 22;
    private static readonly ClothProfile Twill = ClothProfiles.Find("canvas")!;

    public static StitchFile Draw()
    {
        var pen = new DesignPen();
        pen.Take(VolunteersThreads.Night);
        pen.Shape(Of(Circle(new(0, 0), WordsInside)), new(StitchWay.Fill) { Angle = 20 }, Twill);
        pen.Take(VolunteersThreads.Fern);
        pen.Shape(Of([.. Arc(new(0, 0), WordsInside - 0.4, WordsInside - 0.4, 22, 158), .. Smooth(new(-20, 8.6), new(-8, 5.4), new(6, 9.8), new(20, 8.6))]), new(StitchWay.Fill) { Angle = -8 }, Twill);
        pen.Take(VolunteersThreads.Chalk);
        pen.Shape(Of([.. Arc(new(-2, 7.6), 11, 11, 180, 360)]), new(StitchWay.Satin), Twill);
        pen.Shape(Of([new(-13.6, 7.4), new(9.6, 7.4), new(9.6, 11.6), new(-13.6, 11.6)]), new(StitchWay.Satin), Twill);
        foreach (var (x, y, size) in new[] { (-12.0, -10.0, 2.6), (0, -16, 2.2), (13, -4, 2.4), (15, 4, 1.8), (-17, 0, 1.8) }) CometOverTheDome.Sparkle(pen, new(x, y), size);
        pen.Take(VolunteersThreads.Gold);
        pen.Shape(Of([new(-3.6, 6.6), new(-1.2, -5), new(1.6, -4.2), new(0.4, 6.6)]), new(StitchWay.Satin), Twill);
        pen.Shape(BasicShapes.Star(7.4, 7.4, 5, 0.42).Moved(p => p + new Point(8.6, -12)), new(StitchWay.Satin), Twill);
        pen.Shape(Of(Circle(new(0, 0), WordsInside + 0.6)), new(StitchWay.LineSatin) { WidthMm = 1.8 }, Twill);
        pen.Take(VolunteersThreads.Rust);
        pen.Shape(Of(Circle(new(0, 0), Outer)), new(StitchWay.LineSatin) { WidthMm = EdgeWidth }, Twill);
        return pen.Finish("Open night patch");
    }

    private static DrawnShape Of(Point[] ring) => new([ShapePath.Through(ring[0].DistanceTo(ring[^1]) < 1e-6 ? ring[..^1] : ring, closed: true)]);
}
