using EvenThimble.Core.Craft;
using EvenThimble.Core.Digitizing;
using EvenThimble.Core.Geometry;
using EvenThimble.Core.Shapes;
using EvenThimble.Core.Stitches;

namespace EvenThimble.Core.Lettering;

/// <summary>
/// Sews letters in the order of reading. Letters that touch, as those of a script, are one shape, so that their strokes flow into one another; letters that nearly touch are joined where they
/// are nearest; between others the thread is trimmed.
/// </summary>
public static class LetteringSewing
{
    // Stitches along the lines of a pen are this part of a capital's height.
    private const double StitchOfPen = 0.22;

    /// <summary>The stitches of a lettering.</summary>
    /// <param name="laid">The letters.</param>
    /// <param name="settings">How they are stitched.</param>
    /// <param name="cloth">On what.</param>
    public static StitchBlob Stitch(LaidLettering laid, StitchSettings settings, ClothProfile cloth)
    {
        var builder = new StitchBuilder(4096);
        var whole = new List<Point>();
        foreach (var run in Runs(laid, settings, cloth))
        {
            if (whole.Count > 0 && whole[^1].DistanceTo(run[0]) > LetterJoints.NearlyTouching)
            {
                Ties.Add(builder, whole);
                whole = [];
            }

            whole.AddRange(whole.Count > 0 && whole[^1].DistanceTo(run[0]) < Limits.ShortestStitch ? run.Skip(1) : run);
        }

        Ties.Add(builder, whole);
        return builder.ToBlob();
    }

    /// <summary>How the letters of a font are stitched in a way: those of a pen out and back along their lines, as wide as the pen is at their size; those of outlines all alike, as their broad strokes ask for.</summary>
    /// <param name="font">The font, measured.</param>
    /// <param name="way">The way.</param>
    /// <param name="capitalMm">Height of their capitals, mm.</param>
    public static StitchSettings SettingsFor(FontMeasure font, StitchWay way, double capitalMm)
    {
        var stroke = Math.Round(font.ThickEm / font.CapitalEm * capitalMm, 3);
        if (!font.OfPen) return new(way) { StrokeMm = way.HasThrows() ? stroke : null };
        return new(way) { OutAndBack = true, WidthMm = stroke, StitchLengthMm = Math.Round(Math.Clamp(capitalMm * StitchOfPen, Limits.ShortestCurveStitch, Limits.RunStitch), 3) };
    }

    /// <summary>The unbroken runs; small letters that nearly touch are left and entered where they are nearest, others begun where they are nearest to the end of the one before.</summary>
    private static IEnumerable<List<Point>> Runs(LaidLettering laid, StitchSettings settings, ClothProfile cloth)
    {
        var needle = (Point?)null;
        var letters = LetterShape.Of(laid).Select(l => l.Placed).ToList();
        var joints = LetterJoints.Of(letters, laid.CapitalMm, settings.OutAndBack ? settings.WidthMm ?? 0 : 0);
        for (var i = 0; i < letters.Count; i++)
        {
            var start = joints[i].Start ?? (needle is { } at ? NearestOf(letters[i], at) : null);
            foreach (var run in Digitizer.Runs(letters[i], settings with { Start = start, End = joints[i].End }, cloth))
            {
                needle = run[^1];
                yield return run;
            }
        }
    }

    private static Point NearestOf(DrawnShape shape, Point to) => shape.Paths.SelectMany(p => p.Flattened()).MinBy(to.DistanceTo);
}
