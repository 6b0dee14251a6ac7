using EvenThimble.Core.Colour;
using EvenThimble.Core.Geometry;
using EvenThimble.Core.Stitches;
using SkiaSharp;

namespace EvenThimble.Rendering.Sheets;

/// <summary>Letters, inks and pages of everything on paper. Canvases are in millimetres, sizes of letters in points.</summary>
internal static class SheetType
{
    /// <summary>Points of a PDF to the millimetre.</summary>
    public const float PointsPerMm = 72f / 25.4f;

    /// <summary>The ink of what is read.</summary>
    public static readonly SKColor Ink = new(0x1F, 0x2A, 0x37);

    /// <summary>The ink of what stands beside it.</summary>
    public static readonly SKColor Soft = new(0x55, 0x60, 0x6D);

    /// <summary>The ink of lines between rows.</summary>
    public static readonly SKColor Line = new(0xC9, 0xC0, 0xAE);

    private static readonly Made<(SKTypeface Plain, SKTypeface Bold)> Faces = new(() => (Face("PTSansCaption_400Regular.ttf"), Face("PTSansCaption_700Bold.ttf")));

    /// <summary>A document of pages that are drawn one by one until there is none to come.</summary>
    /// <param name="title">Its title.</param>
    /// <param name="paper">Its paper.</param>
    /// <param name="page">Draws the page of a number, from 1, on a canvas in millimetres; tells whether another follows.</param>
    public static byte[] Document(string title, Paper paper, Func<SKCanvas, int, bool> page) => Document(title, _ => paper, page);

    /// <summary>A document of pages of several papers.</summary>
    /// <param name="title">Its title.</param>
    /// <param name="paper">The paper of the page of a number, from 1.</param>
    /// <param name="page">Draws that page on a canvas in millimetres; tells whether another follows.</param>
    public static byte[] Document(string title, Func<int, Paper> paper, Func<SKCanvas, int, bool> page)
    {
        using var stream = new MemoryStream();
        // Above 100 pictures are kept without loss; unsaid, the quality would be 0.
        using (var document = SKDocument.CreatePdf(stream, new SKDocumentPdfMetadata { Title = title, Creator = "Even Thimble", EncodingQuality = 101, RasterDpi = 300 }))
        {
            for (var (number, more) = (1, true); more; number++)
            {
                var canvas = document.BeginPage((float)paper(number).Width * PointsPerMm, (float)paper(number).Height * PointsPerMm);
                canvas.Scale(PointsPerMm);
                more = page(canvas, number);
                document.EndPage();
            }

            document.Close();
        }

        return stream.ToArray();
    }

    /// <summary>A font of a size in points.</summary>
    public static SKFont Font(float points, bool bold = false) => new(bold ? Faces.Value.Bold : Faces.Value.Plain, points / PointsPerMm) { Subpixel = true, LinearMetrics = true, Hinting = SKFontHinting.None };

    /// <summary>A paint that fills.</summary>
    public static SKPaint Filled(SKColor colour) => new() { Color = colour, IsAntialias = true };

    /// <summary>A paint that draws lines of a width, mm, dashed where lengths are given.</summary>
    public static SKPaint Stroke(SKColor colour, float width, params float[] dashes) =>
        new() { Color = colour, IsAntialias = true, IsStroke = true, StrokeWidth = width, PathEffect = dashes.Length > 0 ? SKPathEffect.CreateDash(dashes, 0) : null };

    /// <summary>A line through places.</summary>
    public static SKPath Poly(IEnumerable<Point> points, bool close)
    {
        using var path = new SKPathBuilder();
        path.AddPoly([.. points.Select(p => new SKPoint((float)p.X, (float)p.Y))], close);
        return path.Detach();
    }

    /// <summary>A spot of thread with its edge.</summary>
    public static void Swatch(SKCanvas canvas, float left, float top, Rgb colour, SKPaint edge, float size = 4.4f)
    {
        using var spot = Filled(new(colour.R, colour.G, colour.B));
        canvas.DrawRoundRect(left, top, size, size, 1, 1, spot);
        canvas.DrawRoundRect(left, top, size, size, 1, 1, edge);
    }

    /// <summary>A text as far as it has room.</summary>
    public static string Cut(string text, SKFont font, float width)
    {
        if (font.MeasureText(text) <= width) return text;
        var letters = System.Globalization.StringInfo.ParseCombiningCharacters(text);
        for (var n = letters.Length - 1; n > 0; n--)
            if (font.MeasureText(text[..letters[n]] + "…") <= width) return text[..letters[n]] + "…";
        return string.Empty;
    }

    /// <summary>A text in lines of a width, broken between words; a word that is wider by itself is cut.</summary>
    public static IEnumerable<string> Lines(string text, SKFont font, float width)
    {
        foreach (var paragraph in text.Split('\n'))
        {
            var line = string.Empty;
            foreach (var word in paragraph.Split(' ', StringSplitOptions.RemoveEmptyEntries))
            {
                var longer = line.Length == 0 ? word : $"{line} {word}";
                if (line.Length > 0 && font.MeasureText(longer) > width)
                {
                    yield return Cut(line, font, width);
                    line = word;
                }
                else
                {
                    line = longer;
                }
            }

            yield return Cut(line, font, width);
        }
    }

    private static SKTypeface Face(string file) => SKTypeface.FromFile(Path.Combine(AppContext.BaseDirectory, "Fonts", "letters", file)) ?? SKTypeface.Default;
}
