using EvenThimble.Core.Cutting;
using EvenThimble.Core.Files.Cut;
using SkiaSharp;

namespace EvenThimble.Rendering;

/// <summary>Draws what is cut as solid shapes, for cutters that only take pictures.</summary>
public static class CutPainter
{
    private const double MmPerInch = 25.4;

    /// <summary>The whole sheet as a PNG of 300 dots an inch that tells so: pieces black, windows and the rest white.</summary>
    public static byte[] Picture(CutFile file)
    {
        const double scale = CutPicture.DotsPerInch / MmPerInch;
        var (across, down) = ((int)Math.Ceiling(file.Width * scale), (int)Math.Ceiling(file.Height * scale));
        using var bitmap = new SKBitmap(new SKImageInfo(across, down, SKColorType.Gray8, SKAlphaType.Opaque));
        using (var canvas = new SKCanvas(bitmap))
        {
            canvas.Clear(SKColors.White);
            canvas.Scale((float)scale);
            using var black = new SKPaint { Color = SKColors.Black, IsAntialias = false };
            using var path = new SKPathBuilder { FillType = SKPathFillType.EvenOdd };
            foreach (var line in file.Lines) path.AddPoly([.. line.Select(p => new SKPoint((float)p.X, (float)p.Y))], true);
            using var all = path.Detach();
            canvas.DrawPath(all, black);
        }

        return CutPicture.WithDensity(ThreadPainter.Png(bitmap));
    }
}
