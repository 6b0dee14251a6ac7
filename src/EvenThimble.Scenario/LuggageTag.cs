using EvenThimble.Core.Geometry;
using EvenThimble.Core.Stitches;
using static EvenThimble.Core.Shapes.Outlines;

namespace EvenThimble.Scenario;

/// <summary>A tag made wholly in the hoop on vinyl: outline to lay it by, eyelet, telescope, and the outline that closes front and back.</summary>
internal static class LuggageTag
{
    public static StitchFile Draw()
    {
        var outline = RoundRectangle(new(0, 0), 62, 104, 9);
        var eyelet = new Point(0, -40);
        var pen = new DesignPen();
        pen.Take(VolunteersThreads.Bark, PartRole.PlacementLine);
        pen.Run(outline, 3);
        pen.Stop("Lay the front vinyl over the line");
        pen.Take(VolunteersThreads.Bark, PartRole.TackDown);
        pen.Run([.. Inset(outline, 1.5)], 2.8);
        pen.Take(VolunteersThreads.Sky);
        pen.Fill([Circle(new(0, 4), 23)], 24);
        pen.Take(VolunteersThreads.Fern);
        pen.Fill([[.. Arc(new(0, 4), 22.6, 22.6, 24, 156), .. Smooth(new(-20.6, 13.2), new(-8, 9), new(6, 14), new(20.6, 13.2))]], -6);
        pen.Take(VolunteersThreads.Ink);
        Telescope(pen);
        pen.Take(VolunteersThreads.Honey);
        CometOverTheDome.Sparkle(pen, new(8, -9), 4.6);
        CometOverTheDome.Sparkle(pen, new(-12, -7), 3.0);
        foreach (var (x, size) in new[] { (-13.0, 2.4), (0, 3.4), (13, 2.4) }) CometOverTheDome.Sparkle(pen, new(x, 40), size);
        pen.SatinAlong(Circle(new(0, 4), 23.4), _ => 2.6, closed: true);
        pen.SatinAlong(Circle(eyelet, 4.3), _ => 2.8, closed: true);
        pen.Stop("Lay the back vinyl under the hoop");
        pen.Take(VolunteersThreads.Madder);
        pen.TripleRun([.. Inset(outline, 2.2)], 2.6);
        pen.SatinAlong(Inset(outline, 0.9), _ => 4.4, closed: true);
        return pen.Finish("Luggage tag");
    }

    private static void Telescope(DesignPen pen)
    {
        foreach (var foot in new[] { new Point(-9, 21.5), new(1, 23.5), new(10.5, 21.5) }) pen.SatinAlong([new(0, 7), foot], _ => 1.5);
        pen.Fill([[new(-14.2, 9.6), new(-12.2, 14.2), new(12.6, 3.4), new(10.0, -2.8)]], -25);
        pen.SatinAlong([new(9.4, -4.0), new(13.6, 5.2)], _ => 3.0);
        pen.SatinAlong([new(-15.2, 8.8), new(-12.2, 15.6)], _ => 2.2);
        pen.SatinAlong([new(-18, 14), new(-14, 12.2)], _ => 2.8);
    }
}
