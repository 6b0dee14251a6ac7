using EvenThimble.Core.Craft;
using EvenThimble.Core.Digitizing;
using EvenThimble.Core.Geometry;
using EvenThimble.Core.Lettering;
using EvenThimble.Core.Shapes;
using EvenThimble.Core.Stitches;
using EvenThimble.Core.Tests.Quality;
using SkiaSharp;

namespace EvenThimble.App.Tests.Lettering;

/// <summary>One letter as a lettering sews it, measured by code that shares nothing with what laid and sewed it.</summary>
internal sealed record MeasuredLetter(string Font, string Letter, double CapitalMm, StitchMeasure Edge, LayMeasure Lay, int Trims)
{
    private const double BeyondCompensation = 0.2;

    /// <summary>Lays, sews and measures a letter on quilting cotton; null where the font has no such letter.</summary>
    public static MeasuredLetter? Of(LetterFace face, string letter, double capitalMm)
    {
        if (face.Font.Shape(letter).Missing.Count > 0) return null;
        var laid = face.Lay(new(letter) { CapitalMm = capitalMm });
        var settings = LetteringSewing.SettingsFor(face.Measure, StitchWay.Automatic, laid.CapitalMm);
        var outlines = Outlines(laid, settings);
        var blob = LetteringSewing.Stitch(laid, settings, ClothProfiles.Cotton);
        var runs = RunsOf(blob);
        return new(face.Name, letter, capitalMm, StitchMeasure.Of(outlines, runs, ClothProfiles.Cotton.CompensationMm + BeyondCompensation), LayMeasure.Of(outlines, runs), blob.CountOf(StitchKind.Trim));
    }

    /// <summary>The unbroken runs of needle points of a blob.</summary>
    public static List<List<Point>> RunsOf(StitchBlob blob)
    {
        var runs = new List<List<Point>> { new() };
        for (var i = 0; i < blob.Count; i++)
        {
            if (blob.Kinds[i] == StitchKind.Stitch) runs[^1].Add(blob.At(i));
            else if (runs[^1].Count > 0) runs.Add([]);
        }

        return [.. runs.Where(r => r.Count > 1)];
    }

    /// <summary>What the letter covers on the cloth: its outlines together, or what its pen draws, one thread wide where that is a run.</summary>
    public static Point[][] Outlines(LaidLettering laid, StitchSettings settings)
    {
        const double fine = 100;
        using var all = new SKPathBuilder { FillType = SKPathFillType.Winding };
        foreach (var path in laid.Letters.SelectMany(l => l.Outline.Paths))
            all.AddPoly([.. path.Flattened().Select(p => new SKPoint((float)(p.X * fine), (float)(p.Y * fine)))], path.Closed);
        using var drawn = all.Detach();
        using var inked = settings.OutAndBack ? Inked(drawn, (settings.WidthMm < StitchSettings.FinestSatin ? Limits.ThreadWidth : settings.WidthMm!.Value) * fine) : new SKPath(drawn);
        using var simple = inked.Simplify() ?? new SKPath(inked);
        return Glyphs.OutlinesOf(simple, 1 / fine);
    }

    private static SKPath Inked(SKPath lines, double width)
    {
        using var pen = new SKPaint { Style = SKPaintStyle.Stroke, StrokeWidth = (float)width, StrokeJoin = SKStrokeJoin.Miter, StrokeMiter = 2.4f };
        return pen.GetFillPath(lines) ?? new SKPath();
    }
}
