using EvenThimble.Core.Colour;
using EvenThimble.Core.Geometry;
using EvenThimble.Core.Stitches;
using SkiaSharp;

namespace EvenThimble.Rendering;

/// <summary>Draws stitches where they lie in hoop fields.</summary>
public static class HoopPainter
{
    /// <summary>A PNG of a size in pixels: the fields and the design as large as both fit, the cloth darker outside the fields.</summary>
    /// <param name="design">The stitches, mm.</param>
    /// <param name="fields">The edge of each field, mm.</param>
    /// <param name="cloth">The colour of the cloth.</param>
    /// <param name="width">Pixels across.</param>
    /// <param name="height">Pixels down.</param>
    public static byte[] Picture(StitchFile design, IReadOnlyList<IReadOnlyList<Point>> fields, Rgb cloth, int width, int height)
    {
        const double border = 6;
        using var bitmap = new SKBitmap(new SKImageInfo(width, height, SKColorType.Rgba8888, SKAlphaType.Premul));
        using (var canvas = new SKCanvas(bitmap))
        {
            var box = Box.Around(fields.SelectMany(f => f)).With(design.Bounds).Grown(1);
            var scale = Math.Min((width - (2 * border)) / box.Width, (height - (2 * border)) / box.Height);
            var dark = (cloth.R * 0.3) + (cloth.G * 0.59) + (cloth.B * 0.11) < 120;
            canvas.Clear(new(Shade(cloth.R), Shade(cloth.G), Shade(cloth.B)));
            canvas.Translate(width / 2f, height / 2f);
            canvas.Scale((float)scale);
            canvas.Translate((float)-box.Middle.X, (float)-box.Middle.Y);
            using var inside = new SKPaint { Color = new(cloth.R, cloth.G, cloth.B), IsAntialias = true };
            using var edge = new SKPaint { Color = dark ? new(0xFA, 0xF7, 0xF1, 0xE0) : new(0x2F, 0x4B, 0x7C, 0xE0), IsAntialias = true, IsStroke = true, StrokeWidth = (float)(1.4 / scale) };
            var paths = fields.Select(f => Sheets.SheetType.Poly(f, close: true)).ToList();
            foreach (var path in paths) canvas.DrawPath(path, inside);
            if (!design.Bounds.IsEmpty) ThreadPainter.Draw(canvas, design, scale);
            foreach (var path in paths)
            {
                canvas.DrawPath(path, edge);
                path.Dispose();
            }

            // The middle of each field, as the templates mark it.
            foreach (var middle in fields.Select(f => Box.Around(f).Middle))
            {
                var arm = (float)(5 / scale);
                canvas.DrawLine((float)middle.X - arm, (float)middle.Y, (float)middle.X + arm, (float)middle.Y, edge);
                canvas.DrawLine((float)middle.X, (float)middle.Y - arm, (float)middle.X, (float)middle.Y + arm, edge);
            }
        }

        return ThreadPainter.Png(bitmap);

        static byte Shade(byte v) => (byte)(v * 0.82);
    }
}
