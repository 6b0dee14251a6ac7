using EvenThimble.Core.Craft;
using EvenThimble.Core.Geometry;
using EvenThimble.Core.Shapes;
using EvenThimble.Core.Stitches;

namespace EvenThimble.Scenario;

/// <summary>Meteors that fall across the sky from one point, over a band of cloud.</summary>
internal static class MeteorShower
{
    private static readonly Point Radiant = new(-60, -74);

    public static StitchFile Draw()
    {
        var pen = new DesignPen();
        pen.Take(VolunteersThreads.Dusk);
        pen.Shape(Cloud(), new(StitchWay.Fill) { Angle = 12 }, ClothProfiles.Cotton);
        pen.Take(VolunteersThreads.Sand);
        foreach (var (degrees, from, to, width) in new[] { (24.0, 58.0, 112.0, 4.4), (38, 40, 104, 5.4), (52, 62, 118, 4.8), (66, 46, 98, 4.0), (33, 122, 146, 3.0), (58, 20, 38, 2.6) })
            Meteor(pen, degrees, from, to, width);
        pen.Take(VolunteersThreads.Gold);
        foreach (var (degrees, to, width) in new[] { (24.0, 112.0, 4.4), (38, 104, 5.4), (52, 118, 4.8), (66, 98, 4.0) })
            pen.Shape(BasicShapes.Star(width * 2.6, width * 2.6, 5, 0.46).Moved(p => p + At(degrees, to + (width * 0.4))), new(StitchWay.Satin), ClothProfiles.Cotton);
        pen.Take(VolunteersThreads.Sky);
        foreach (var (x, y, size) in new[] { (44.0, -40.0, 3.2), (-44, 30, 2.8), (56, 26, 2.4), (-10, 52, 3.0), (-52, -8, 2.2) }) CometOverTheDome.Sparkle(pen, new(x, y), size);
        return pen.Finish("Meteor shower");
    }

    private static Point At(double degrees, double distance) => Radiant + new Point(distance, 0).Turned(degrees, Point.Zero);

    private static void Meteor(DesignPen pen, double degrees, double from, double to, double width)
    {
        var across = new Point(0, width / 2).Turned(degrees, Point.Zero);
        var (tail, head) = (At(degrees, from), At(degrees, to));
        pen.Satin([tail + (across * 0.12), head + across], [tail - (across * 0.12), head - across]);
    }

    private static DrawnShape Cloud() => new([ShapePath.Through(
        [new(-58, 40), new(-40, 30), new(-24, 35), new(-6, 26), new(14, 33), new(34, 27), new(58, 37), new(50, 47), new(22, 45), new(-4, 50), new(-34, 46)], closed: true, NodeKind.Smooth)]);
}
