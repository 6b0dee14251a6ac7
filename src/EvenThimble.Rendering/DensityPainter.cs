using EvenThimble.Core.Planning;
using EvenThimble.Core.Text;
using SkiaSharp;

namespace EvenThimble.Rendering;

/// <summary>Draws a density map, one pixel a square millimetre.</summary>
public static class DensityPainter
{
    // Layers of full cover at which a colour is reached; pale linen to indigo for what is usual, then weld and madder for what is too much.
    private const long MostPixels = 20_000_000;

    private static readonly (double Layers, SKColor Colour)[] Scale =
    [
        (0, new(0xE9, 0xE4, 0xD6)), (1, new(0x9F, 0xB7, 0xC9)), (2, new(0x4F, 0x74, 0xA3)), (3, new(0xC9, 0x96, 0x2B)), (4, new(0xA6, 0x3A, 0x3C)), (6, new(0x5A, 0x14, 0x1E)),
    ];

    /// <summary>A PNG of the map's size; cells without thread are clear. An empty map gives one clear pixel.</summary>
    /// <exception cref="TooMuchWorkException">It would have more than 20 million pixels.</exception>
    public static byte[] Picture(DensityMap map)
    {
        if ((long)map.Width * map.Height > MostPixels) throw new TooMuchWorkException($"Density is shown of up to {MostPixels / 1_000_000} m²; this lies farther apart.");
        using var bitmap = new SKBitmap(new SKImageInfo(Math.Max(map.Width, 1), Math.Max(map.Height, 1), SKColorType.Rgba8888, SKAlphaType.Premul));
        bitmap.Erase(SKColors.Transparent);
        foreach (var (column, row, layers) in map.Covered)
            if (layers > 0.02)
                bitmap.SetPixel(column, row, ColourOf(layers));
        return ThreadPainter.Png(bitmap);
    }

    private static SKColor ColourOf(double layers)
    {
        for (var i = 1; i < Scale.Length; i++)
        {
            var ((from, a), (to, b)) = (Scale[i - 1], Scale[i]);
            if (layers > to) continue;
            var t = (layers - from) / (to - from);
            return new((byte)(a.Red + ((b.Red - a.Red) * t)), (byte)(a.Green + ((b.Green - a.Green) * t)), (byte)(a.Blue + ((b.Blue - a.Blue) * t)));
        }

        return Scale[^1].Colour;
    }
}
