using System.Globalization;
using System.Text.RegularExpressions;
using EvenThimble.Core.Geometry;

namespace EvenThimble.Core.Files.Drawing;

/// <summary>x' = A x + C y + E, y' = B x + D y + F.</summary>
internal readonly partial record struct SvgMatrix(double A, double B, double C, double D, double E, double F)
{
    private const int LongestText = 20_000;

    public static readonly SvgMatrix Same = new(1, 0, 0, 1, 0, 0);

    public double Scale => Math.Sqrt(Math.Abs((A * D) - (B * C)));

    public static SvgMatrix Shift(double x, double y) => new(1, 0, 0, 1, x, y);

    public SvgMatrix After(SvgMatrix m) => new((A * m.A) + (C * m.B), (B * m.A) + (D * m.B), (A * m.C) + (C * m.D), (B * m.C) + (D * m.D), (A * m.E) + (C * m.F) + E, (B * m.E) + (D * m.F) + F);

    public Point Of(Point p) => new((A * p.X) + (C * p.Y) + E, (B * p.X) + (D * p.Y) + F);

    /// <summary>Reads a list of transforms; a text far longer than any drawing program writes says nothing.</summary>
    public static SvgMatrix Read(string? text)
    {
        var all = Same;
        if (text is null || text.Length > LongestText) return all;
        foreach (Match m in Transforms().Matches(text))
        {
            var n = SvgNumbers.List(m.Groups[2].Value);
            double At(int i, double usual = 0) => i < n.Count ? n[i] : usual;
            var (sin, cos) = Math.SinCos(At(0) * Math.PI / 180);
            all = all.After(m.Groups[1].Value switch
            {
                "translate" => Shift(At(0), At(1)),
                "scale" => new(At(0, 1), 0, 0, At(1, At(0, 1)), 0, 0),
                "rotate" => Shift(At(1), At(2)).After(new(cos, sin, -sin, cos, 0, 0)).After(Shift(-At(1), -At(2))),
                "skewX" => new(1, 0, Math.Tan(At(0) * Math.PI / 180), 1, 0, 0),
                "skewY" => new(1, Math.Tan(At(0) * Math.PI / 180), 0, 1, 0, 0),
                "matrix" when n.Count == 6 => new(n[0], n[1], n[2], n[3], n[4], n[5]),
                _ => Same,
            });
        }

        return all;
    }

    [GeneratedRegex(@"\b([a-zA-Z]{1,10})\s{0,8}\(([^()]{0,400})\)")]
    private static partial Regex Transforms();
}

/// <summary>Numbers and lengths as drawings write them.</summary>
internal static class SvgNumbers
{
    /// <summary>Millimetres of a unit of which 96 make an inch.</summary>
    public const double MmPerUnit = 25.4 / 96;

    private const int MostNumbers = 500_000;

    /// <summary>A list of numbers, up to the first that is none.</summary>
    public static List<double> List(string? text)
    {
        var numbers = new List<double>();
        var rest = (text ?? string.Empty).AsSpan();
        while (numbers.Count < MostNumbers)
        {
            rest = rest.TrimStart(" ,\t\r\n");
            var length = LengthOf(rest);
            if (length == 0 || !double.TryParse(rest[..length], NumberStyles.Float, CultureInfo.InvariantCulture, out var value) || !double.IsFinite(value)) return numbers;
            numbers.Add(value);
            rest = rest[length..];
        }

        return numbers;
    }

    /// <summary>A length in units, with or without its own unit; null when it is none.</summary>
    /// <param name="text">As it is written.</param>
    /// <param name="whole">What 100 % of it are, in units.</param>
    public static (double Units, bool HasUnit)? Length(string? text, double whole = 0)
    {
        var typed = (text ?? string.Empty).AsSpan().Trim();
        var length = LengthOf(typed);
        if (length == 0 || !double.TryParse(typed[..length], NumberStyles.Float, CultureInfo.InvariantCulture, out var value) || !double.IsFinite(value)) return null;
        double? unit = typed[length..].Trim().ToString().ToLowerInvariant() switch
        {
            "" or "px" => 1,
            "mm" => 1 / MmPerUnit,
            "cm" => 10 / MmPerUnit,
            "in" => 96,
            "pt" => 96 / 72.0,
            "pc" => 16,
            "q" => 0.25 / MmPerUnit,
            "em" => 16,
            "ex" => 8,
            "%" when whole > 0 => whole / 100,
            _ => null,
        };
        return unit is { } u ? (value * u, typed[length..].Trim().ToString().ToLowerInvariant() is not ("" or "px" or "%")) : null;
    }

    /// <summary>How many characters belong to the number that a text begins with.</summary>
    private static int LengthOf(ReadOnlySpan<char> text)
    {
        var at = text.Length > 0 && text[0] is '+' or '-' ? 1 : 0;
        var (dot, digits) = (false, 0);
        for (; at < text.Length; at++)
        {
            if (text[at] == '.' && !dot) dot = true;
            else if (char.IsAsciiDigit(text[at])) digits++;
            else break;
        }

        if (digits == 0) return 0;
        if (at + 1 < text.Length && text[at] is 'e' or 'E')
        {
            var power = at + 1 + (text[at + 1] is '+' or '-' ? 1 : 0);
            if (power < text.Length && char.IsAsciiDigit(text[power]))
            {
                at = power;
                while (at < text.Length && char.IsAsciiDigit(text[at])) at++;
            }
        }

        return at;
    }
}
