using EvenThimble.Core.Craft;
using EvenThimble.Core.Digitizing;
using EvenThimble.Core.Geometry;
using EvenThimble.Core.Shapes;
using EvenThimble.Core.Stitches;
using SkiaSharp;

namespace EvenThimble.Core.Tests.Quality;

/// <summary>One letter, stitched and measured.</summary>
public sealed record LetterLook(string Family, string Letter, double CapitalMm, StitchWay Way, StitchMeasure Edge, LayMeasure Lay)
{
    /// <summary>Its name, for tables and messages.</summary>
    public string Name => $"{Family} {Letter} {CapitalMm} mm, {Way.InWords()}";

    /// <summary>Stitches a letter on quilting cotton as the font draws it, and measures it on its outlines without what lies upon each other; null if the font has no such letter.</summary>
    public static LetterLook? Of(SKTypeface face, string letter, double capitalMm, StitchWay way)
    {
        var outlines = Glyphs.Outlines(face, letter, capitalMm);
        if (outlines.Length == 0) return null;
        var runs = Sewn(face, letter, capitalMm, way);
        return new(face.FamilyName, letter, capitalMm, way, StitchQualityTests.Measured(outlines, runs), LayMeasure.Of(outlines, runs));
    }

    /// <summary>The unbroken runs of needle points of a letter as the font draws it, ties included.</summary>
    public static List<List<Point>> Sewn(SKTypeface face, string letter, double capitalMm, StitchWay way) => Sewn(Glyphs.AsDrawn(face, letter, capitalMm), way, Inside.AnyWinding);

    /// <summary>The same of any outlines.</summary>
    public static List<List<Point>> Sewn(Point[][] outlines, StitchWay way, Inside rule = Inside.OddCrossings)
    {
        var blob = Digitizer.Stitch(new([.. outlines.Select(o => ShapePath.Through(o, closed: true))], rule), new(way), ClothProfiles.Cotton);
        var runs = new List<List<Point>> { new() };
        for (var i = 0; i < blob.Count; i++)
        {
            if (blob.Kinds[i] == StitchKind.Stitch) runs[^1].Add(blob.At(i));
            else if (runs[^1].Count > 0) runs.Add([]);
        }

        return [.. runs.Where(r => r.Count > 1)];
    }
}
