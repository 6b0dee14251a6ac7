using EvenThimble.Core.Digitizing.Satin;
using EvenThimble.Core.Geometry;
using EvenThimble.Core.Stitches;
using static EvenThimble.Core.Shapes.Outlines;

namespace EvenThimble.Scenario;

/// <summary>A moon of laid fabric with a star window in it: placement line, tack-down and satin cover for each.</summary>
internal static class CrescentMoonApplique
{
    private const double CoverWidth = 3.6;
    private static readonly Point Middle = new(-4, 0);

    public static StitchFile Draw()
    {
        var (moon, window) = (Moon(), Window());
        var pen = new DesignPen();
        pen.Take(VolunteersThreads.Bark, PartRole.PlacementLine);
        pen.Run(moon, 2.6);
        pen.Stop("Lay the moon fabric over the line");
        pen.Take(VolunteersThreads.Sand, PartRole.TackDown);
        TackDown(pen, moon);
        pen.Stop("Trim the moon fabric close to the stitches");
        pen.Take(VolunteersThreads.Bark, PartRole.PlacementLine);
        pen.Run(window, 2.2);
        pen.Stop("Lay the star fabric over the line");
        pen.Take(VolunteersThreads.Honey, PartRole.TackDown);
        TackDown(pen, window);
        pen.Stop("Trim the star fabric close to the stitches");
        pen.Take(VolunteersThreads.Dusk, PartRole.Cover);
        pen.SatinAlong(window, _ => 2.6, closed: true);
        pen.Take(VolunteersThreads.Honey, PartRole.Cover);
        pen.SatinAlong(moon, _ => CoverWidth, closed: true);
        pen.Take(VolunteersThreads.Heather);
        foreach (var (x, y, size) in new[] { (30.0, -30.0, 5.2), (40, 2, 4.0), (27, 24, 4.6) }) CometOverTheDome.Sparkle(pen, new(x, y), size);
        foreach (var (x, y) in new[] { (18.0, -14.0), (36, -14), (20, 8), (38, 18) }) pen.SatinAlong(Circle(new(x, y), 0.8), _ => 1.5, closed: true);
        return pen.Finish("Crescent moon appliqué");
    }

    private static void TackDown(DesignPen pen, IReadOnlyList<Point> ring) =>
        pen.Sew(SatinRails.Zigzag(Polylines.Offset(ring, _ => 0.9, closed: true), Polylines.Offset(ring, _ => -0.9, closed: true), 1.2, 0.01));

    /// <summary>The outer arc of one circle and the inner arc of another, with rounded horns.</summary>
    private static IReadOnlyList<Point> Moon()
    {
        var outer = Arc(Middle, 52, 52, 48, 312);
        var inner = Arc(Middle + new Point(21, 0), 42.6, 42.6, 292, 68);
        return Closed(Rounded([.. outer, .. inner], 2.4));
    }

    private static IReadOnlyList<Point> Window() => Closed(Rounded(Star(new(-41.2, 1), 5, 10.6, 5.0, 8), 0.9));

    private static IReadOnlyList<Point> Closed(IReadOnlyList<Point> ring) =>
        Polylines.Divided(ring[0] == ring[^1] ? ring : [.. ring, ring[0]], (int)(Polylines.Length(ring) / 0.8));
}
