using EvenThimble.Core.Geometry;
using EvenThimble.Core.Stitches;
using static EvenThimble.Core.Shapes.Outlines;

namespace EvenThimble.Scenario;

/// <summary>A banner for the gate, 118 × 285 mm: a constellation of their own invention, the Kettle, over the hill; longer than any field of the home machines.</summary>
internal static class ConstellationBanner
{
    private const double Width = 118;
    private const double Height = 285;
    private const double Border = 4;

    // Pull compensation makes a satin wider than it is drawn, mm each side.
    private const double Wider = 0.15;

    private static readonly (Point At, double Size)[] Kettle =
    [
        (new(-30, -112), 5.2), (new(8, -88), 6.4), (new(-18, -52), 4.8), (new(24, -22), 7), (new(-26, 14), 5.6), (new(16, 46), 6.2), (new(-8, 82), 5),
    ];

    public static StitchFile Draw()
    {
        var pen = new DesignPen();
        pen.Take(VolunteersThreads.Moss);
        pen.Fill([[.. Smooth(new(-54, 112), new(-30, 104), new(4, 110), new(30, 100), new(54, 108)), new(54, 134), new(-54, 134)]], 6);
        pen.Take(VolunteersThreads.Slate);
        pen.SatinAlong(Arc(new(22, 106), 13, 13, 180, 360), _ => 2.4);
        pen.Fill([[new(9, 105), new(35, 105), new(35, 118), new(9, 118)]], 90);
        pen.Take(VolunteersThreads.Sky);
        for (var i = 1; i < Kettle.Length; i++) Line(pen, Kettle[i - 1], Kettle[i]);
        Line(pen, Kettle[1], Kettle[3]);
        Line(pen, Kettle[2], Kettle[4]);
        pen.Take(VolunteersThreads.Gold);
        foreach (var (at, size) in Kettle) CometOverTheDome.Sparkle(pen, at, size);
        pen.Take(VolunteersThreads.Chalk);
        for (var i = 1; i <= 26; i++)
        {
            // Where the golden angle throws them, clear of the Kettle.
            var (sin, cos) = Math.SinCos(i * 137.50776405 * Math.PI / 180);
            var at = new Point(Math.Sqrt(i / 26.0) * 46 * cos, -18 + (Math.Sqrt(i / 26.0) * 110 * sin));
            if (Array.TrueForAll(Kettle, k => k.At.DistanceTo(at) > 15)) CometOverTheDome.Sparkle(pen, at, 1.8 + (i % 3 * 0.7));
        }

        pen.Take(VolunteersThreads.Gold);
        pen.SatinAlong(RoundRectangle(new(0, 0), Width - Border - (2 * Wider), Height - Border - (2 * Wider), 10), _ => Border, closed: true);
        return pen.Finish("Constellation banner");
    }

    /// <summary>A dotted way between two stars, that ends where they shine.</summary>
    private static void Line(DesignPen pen, (Point At, double Size) from, (Point At, double Size) to)
    {
        var way = (to.At - from.At).Unit();
        pen.TripleRun([from.At + way * (from.Size + 1.5), to.At - way * (to.Size + 1.5)], 2.6);
    }
}
