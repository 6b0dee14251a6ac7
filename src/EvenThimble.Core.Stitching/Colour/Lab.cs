namespace EvenThimble.Core.Colour;

/// <summary>A colour in CIELAB under daylight D65: L from 0 (black) to 100 (white), a towards red, b towards yellow.</summary>
public readonly record struct Lab(double L, double A, double B)
{
    // D65, 2 degree observer, as IEC 61966-2-1 (sRGB) uses it.
    private const double WhiteX = 0.95047;
    private const double WhiteZ = 1.08883;

    /// <summary>Chroma: distance from grey.</summary>
    public double Chroma => Math.Sqrt((A * A) + (B * B));

    /// <summary>Hue, degrees from 0 up to 360; 0 for grey.</summary>
    public double Hue
    {
        get
        {
            var degrees = Math.Atan2(B, A) * 180 / Math.PI;
            return degrees < 0 ? degrees + 360 : degrees;
        }
    }

    /// <summary>The colour of lightness, chroma and hue (degrees).</summary>
    public static Lab FromLch(double l, double chroma, double hue)
    {
        var (sin, cos) = Math.SinCos(hue * Math.PI / 180);
        return new(l, chroma * cos, chroma * sin);
    }

    /// <summary>From a screen colour, by IEC 61966-2-1 and CIE 15.</summary>
    public static Lab From(Rgb colour)
    {
        var (r, g, b) = (Linear(colour.R), Linear(colour.G), Linear(colour.B));
        var x = (0.4124564 * r) + (0.3575761 * g) + (0.1804375 * b);
        var y = (0.2126729 * r) + (0.7151522 * g) + (0.0721750 * b);
        var z = (0.0193339 * r) + (0.1191920 * g) + (0.9503041 * b);
        var (fx, fy, fz) = (F(x / WhiteX), F(y), F(z / WhiteZ));
        return new((116 * fy) - 16, 500 * (fx - fy), 200 * (fy - fz));
    }

    /// <summary>The screen colour, or false where screens cannot show it (then the nearest by clipping).</summary>
    public bool TryToRgb(out Rgb colour)
    {
        var fy = (L + 16) / 116;
        var (x, y, z) = (WhiteX * Inverse(fy + (A / 500)), Inverse(fy), WhiteZ * Inverse(fy - (B / 200)));
        var r = (3.2404542 * x) - (1.5371385 * y) - (0.4985314 * z);
        var g = (-0.9692660 * x) + (1.8760108 * y) + (0.0415560 * z);
        var b = (0.0556434 * x) - (0.2040259 * y) + (1.0572252 * z);
        const double slack = 0.002;
        var shown = new[] { r, g, b }.All(v => v is >= -slack and <= 1 + slack);
        colour = new(Encode(r), Encode(g), Encode(b));
        return shown;
    }

    private static double Linear(byte channel)
    {
        var v = channel / 255.0;
        return v <= 0.04045 ? v / 12.92 : Math.Pow((v + 0.055) / 1.055, 2.4);
    }

    private static byte Encode(double linear)
    {
        var v = Math.Clamp(linear, 0, 1);
        v = v <= 0.0031308 ? v * 12.92 : (1.055 * Math.Pow(v, 1 / 2.4)) - 0.055;
        return (byte)Math.Round(v * 255);
    }

    private static double F(double t) => t > 216.0 / 24389 ? Math.Cbrt(t) : ((24389.0 / 27 * t) + 16) / 116;

    private static double Inverse(double f) => f > 6.0 / 29 ? f * f * f : ((116 * f) - 16) * 27 / 24389;
}
