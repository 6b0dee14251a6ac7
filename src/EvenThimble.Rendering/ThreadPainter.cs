using EvenThimble.Core.Colour;
using EvenThimble.Core.Digitizing.Satin;
using EvenThimble.Core.Geometry;
using EvenThimble.Core.Stitches;
using EvenThimble.Core.Work;
using SkiaSharp;

namespace EvenThimble.Rendering;

/// <summary>Draws stitches as thread: each a round strand that shines by its direction to the light and dips into the cloth at its ends.</summary>
public static class ThreadPainter
{
    /// <summary>Thickness of a 40 weight thread, mm.</summary>
    public const double ThreadMm = 0.4;

    // Soft edges of neighbouring strands let the cloth through; a little more width closes that, from afar more.
    private const double Swell = 1.12;
    private const double FarSwell = 1.35;
    private const double LightDegrees = -55;
    private const float ShadowPx = 1.6f;

    /// <summary>A PNG of a size in pixels with the design in the middle, as large as fits, on a cloth of a colour.</summary>
    public static byte[] Picture(StitchFile design, int width, int height, Rgb cloth, double borderPx = 14)
    {
        using var bitmap = new SKBitmap(new SKImageInfo(width, height, SKColorType.Rgba8888, SKAlphaType.Premul));
        using (var canvas = new SKCanvas(bitmap))
        {
            DrawCloth(canvas, width, height, cloth);
            var b = design.Bounds;
            if (!b.IsEmpty)
            {
                var scale = Math.Min((width - (2 * borderPx)) / Math.Max(b.Width, 1), (height - (2 * borderPx)) / Math.Max(b.Height, 1));
                canvas.Translate(width / 2f, height / 2f);
                canvas.Scale((float)scale);
                canvas.Translate((float)-b.Middle.X, (float)-b.Middle.Y);
                Draw(canvas, design, scale);
            }
        }

        return Png(bitmap);
    }

    /// <summary>The largest picture that is drawn, pixels in all.</summary>
    public const long MostPixels = 120_000_000;

    /// <summary>A PNG at a scale, with a border of some millimetres, on a cloth of a colour; as thread, or as plain lines.</summary>
    /// <exception cref="ArgumentOutOfRangeException">The picture would have more than <see cref="MostPixels"/> pixels, or none.</exception>
    public static byte[] PictureAt(StitchFile design, double pixelsPerMm, Rgb cloth, bool lines, double borderMm = 2) => PictureOf(design, design.Bounds.Grown(borderMm), pixelsPerMm, cloth, lines);

    /// <summary>A PNG of a rectangle of the cloth (mm) at a scale, with what of a design lies there; as thread, or as plain lines.</summary>
    /// <exception cref="ArgumentOutOfRangeException">The picture would have more than <see cref="MostPixels"/> pixels, or none.</exception>
    public static byte[] PictureOf(StitchFile design, Box of, double pixelsPerMm, Rgb cloth, bool lines)
    {
        var (width, height) = (Math.Ceiling(of.Width * pixelsPerMm), Math.Ceiling(of.Height * pixelsPerMm));
        if (!(width >= 1 && height >= 1 && width * height <= MostPixels)) throw new ArgumentOutOfRangeException(nameof(pixelsPerMm));
        using var bitmap = new SKBitmap(new SKImageInfo((int)width, (int)height, SKColorType.Rgba8888, SKAlphaType.Premul));
        using (var canvas = new SKCanvas(bitmap))
        {
            DrawCloth(canvas, (int)width, (int)height, cloth);
            canvas.Scale((float)pixelsPerMm);
            canvas.Translate((float)-of.MinX, (float)-of.MinY);
            if (lines) DrawLines(canvas, design, pixelsPerMm);
            else Draw(canvas, design, pixelsPerMm);
        }

        return Png(bitmap);
    }

    /// <summary>Every stitch as a thin line, each needle point as a dot where there is room for one.</summary>
    private static void DrawLines(SKCanvas canvas, StitchFile design, double pixelsPerMm)
    {
        const double dotsFrom = 6;
        using var line = new SKPaint { IsAntialias = true, Style = SKPaintStyle.Stroke, StrokeWidth = (float)(1.2 / pixelsPerMm) };
        using var dot = new SKPaint { IsAntialias = true };
        foreach (var part in design.Parts)
        {
            line.Color = dot.Color = new(part.Thread.Colour.R, part.Thread.Colour.G, part.Thread.Colour.B);
            for (var i = part.First; i < part.First + part.Count; i++)
            {
                if (design.Stitches.Kinds[i] != StitchKind.Stitch) continue;
                var (x, y) = ((float)design.Stitches.X[i], (float)design.Stitches.Y[i]);
                if (i > 0 && design.Stitches.Kinds[i - 1] is StitchKind.Stitch or StitchKind.Jump) canvas.DrawLine((float)design.Stitches.X[i - 1], (float)design.Stitches.Y[i - 1], x, y, line);
                if (pixelsPerMm >= dotsFrom) canvas.DrawCircle(x, y, (float)(1.4 / pixelsPerMm), dot);
            }
        }
    }

    /// <summary>Draws all stitches in millimetres onto a canvas that is scaled by <paramref name="pixelsPerMm"/>.</summary>
    public static void Draw(SKCanvas canvas, StitchFile design, double pixelsPerMm)
    {
        var px = (float)(1 / pixelsPerMm);
        using var shadow = SKImageFilter.CreateDropShadow(ShadowPx * px * 0.4f, ShadowPx * px * 0.6f, ShadowPx * px * 0.5f, ShadowPx * px * 0.5f, new SKColor(0, 0, 0, 90));
        using var layer = new SKPaint { ImageFilter = shadow };
        canvas.SaveLayer(layer);
        using var strand = new SKPaint { IsAntialias = true, Style = SKPaintStyle.Stroke, StrokeCap = SKStrokeCap.Round };
        var share = Share.Of(design, pixelsPerMm);
        foreach (var part in design.Parts)
        {
            var records = design.Stitches;
            var (from, drawn) = (default(Point?), 0);
            for (var i = Math.Max(part.First, 1); i < part.First + part.Count; i++)
            {
                if (records.Kinds[i] != StitchKind.Stitch || records.Kinds[i - 1] is not (StitchKind.Stitch or StitchKind.Jump))
                {
                    from = null;
                    continue;
                }

                var (a, b) = (from ?? records.At(i - 1), records.At(i));
                from = a;
                if (a.DistanceTo(b) < share.LeastMm) continue;
                from = null;
                if (drawn++ % share.OneOf != 0) continue;
                WorkBudget.Current.Spend(8);
                DrawStrand(canvas, strand, a, b, part.Thread.Colour, share.Detailed);
            }
        }

        canvas.Restore();
    }

    /// <summary>How much of a design is worth drawing: nobody tells strands apart that lie a hundred over each other on one pixel.</summary>
    /// <param name="Detailed">Each strand with its shine.</param>
    /// <param name="LeastMm">Steps shorter than this are drawn together, mm.</param>
    /// <param name="OneOf">One of so many strands is drawn.</param>
    private readonly record struct Share(bool Detailed, double LeastMm, int OneOf)
    {
        private const double LeastThread = 1.5;
        private const int ManyStrands = 150_000;
        private const double MostPixelsInked = 60e6;
        private const double LayersInDetail = 2.2;

        public static Share Of(StitchFile design, double pixelsPerMm)
        {
            var records = design.Stitches;
            var (strands, length) = (0, 0.0);
            for (var i = 1; i < records.Count; i++)
            {
                if (records.Kinds[i] != StitchKind.Stitch || records.Kinds[i - 1] is not (StitchKind.Stitch or StitchKind.Jump)) continue;
                strands++;
                length += records.At(i - 1).DistanceTo(records.At(i));
            }

            // A strand inks its length and its round ends, as wide as the thread.
            var width = ThreadMm * pixelsPerMm * FarSwell;
            var inked = ((length * pixelsPerMm) + (strands * width)) * Math.Max(width, 1);
            var detailed = pixelsPerMm * ThreadMm >= LeastThread && inked * LayersInDetail <= MostPixelsInked && strands <= 2 * ManyStrands;
            var least = strands > ManyStrands ? 0.7 / pixelsPerMm : 0;
            return new(detailed, least, (int)Math.Ceiling(Math.Max(1, Math.Max(inked / MostPixelsInked, strands / (4.0 * ManyStrands)))));
        }
    }

    /// <summary>How bright a strand of a direction looks, about 1: brightest square to the light.</summary>
    public static double Sheen(double dx, double dy)
    {
        var angle = Math.Atan2(dy, dx) - (LightDegrees * Math.PI / 180);
        var across = Math.Abs(Math.Sin(angle));
        return 0.70 + (0.42 * across * across);
    }

    private static void DrawStrand(SKCanvas canvas, SKPaint paint, Point a, Point b, Rgb colour, bool detailed)
    {
        var sheen = Sheen(b.X - a.X, b.Y - a.Y);
        var (ax, ay, bx, by) = ((float)a.X, (float)a.Y, (float)b.X, (float)b.Y);
        paint.StrokeWidth = (float)(ThreadMm * (detailed ? Swell : FarSwell));
        paint.Color = Shaded(colour, detailed ? sheen * 0.72 : sheen * 0.96);
        canvas.DrawLine(ax, ay, bx, by, paint);
        if (!detailed) return;
        paint.StrokeWidth = (float)(ThreadMm * 0.66);
        paint.Color = Shaded(colour, sheen);
        canvas.DrawLine(ax, ay, bx, by, paint);
        paint.StrokeWidth = (float)(ThreadMm * 0.24);
        paint.Color = Shaded(colour, sheen * 1.22);
        var (from, to) = (a.Toward(b, 0.2), a.Toward(b, 0.8));
        canvas.DrawLine((float)from.X, (float)from.Y, (float)to.X, (float)to.Y, paint);
    }

    private static SKColor Shaded(Rgb c, double k)
    {
        byte Channel(byte v) => (byte)Math.Clamp(k <= 1 ? v * k : v + ((255 - v) * (k - 1) * 1.4), 0, 255);
        return new(Channel(c.R), Channel(c.G), Channel(c.B));
    }

    private static void DrawCloth(SKCanvas canvas, int width, int height, Rgb cloth)
    {
        canvas.Clear(new SKColor(cloth.R, cloth.G, cloth.B));
        using var warp = new SKPaint { Color = new SKColor(0, 0, 0, 9) };
        using var weft = new SKPaint { Color = new SKColor(255, 255, 255, 20) };
        for (var x = 0; x < width; x += 3) canvas.DrawLine(x, 0, x, height, warp);
        for (var y = 0; y < height; y += 3) canvas.DrawLine(0, y, width, y, weft);
    }

    internal static byte[] Png(SKBitmap bitmap)
    {
        using var data = bitmap.Encode(SKEncodedImageFormat.Png, 100);
        return data.ToArray();
    }
}
