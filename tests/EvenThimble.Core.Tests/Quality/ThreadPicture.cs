using EvenThimble.Core.Geometry;
using SkiaSharp;

namespace EvenThimble.Core.Tests.Quality;

/// <summary>Draws stitches as thread that shines by its direction, over their shape in red: what is red is bare.</summary>
internal static class ThreadPicture
{
    // There is no font of the system's own without its library.
    private static readonly SKTypeface Typeface = LetterFonts.Installed.Values.FirstOrDefault() ?? SKTypeface.Default;

    public static void Draw(SKCanvas canvas, IEnumerable<Point[]> outlines, IEnumerable<IReadOnlyList<Point>> runs)
    {
        using var outline = StitchMeasure.PathOf(outlines);
        using var bare = new SKPaint { Color = new SKColor(0xE0, 0x6A, 0x6A), IsAntialias = true };
        canvas.DrawPath(outline, bare);
        using var thread = new SKPaint { IsAntialias = true, IsStroke = true, StrokeWidth = 0.38f, StrokeCap = SKStrokeCap.Round };
        foreach (var run in runs)
        {
            for (var k = 1; k < run.Count; k++)
            {
                var shine = Math.Abs(Math.Cos(Math.Atan2(run[k].Y - run[k - 1].Y, run[k].X - run[k - 1].X) + 0.9));
                thread.Color = new SKColor((byte)(25 + (75 * shine)), (byte)(50 + (90 * shine)), (byte)(95 + (110 * shine)));
                canvas.DrawLine((float)run[k - 1].X, (float)run[k - 1].Y, (float)run[k].X, (float)run[k].Y, thread);
            }
        }
    }

    /// <summary>Words at a place of the picture.</summary>
    public static void Write(SKCanvas canvas, string words, float x, float y, float size = 15)
    {
        using var ink = new SKPaint { Color = SKColors.Black, IsAntialias = true };
        using var font = new SKFont(Typeface, size);
        canvas.DrawText(words, x, y, SKTextAlign.Left, font, ink);
    }
}
