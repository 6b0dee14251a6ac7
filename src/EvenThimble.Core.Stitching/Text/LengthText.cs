using System.Globalization;

namespace EvenThimble.Core.Text;

/// <summary>Units in which lengths are shown and typed.</summary>
public enum LengthUnit
{
    /// <summary>Millimetres.</summary>
    Millimetre,

    /// <summary>Inches of 25.4 mm.</summary>
    Inch,
}

/// <summary>Lengths as people read and type them.</summary>
public static class LengthText
{
    private const double MmPerInch = 25.4;

    /// <summary>A length (mm) with its unit, to 0.1 mm or 0.01 in.</summary>
    public static string Show(double mm, LengthUnit unit) => $"{Number(mm, unit)} {Name(unit)}";

    /// <summary>A length (mm) as a number alone.</summary>
    public static string Number(double mm, LengthUnit unit) =>
        unit == LengthUnit.Inch ? Decimals(mm / MmPerInch, 2) : Decimals(mm, 1);

    /// <summary>A small length (mm) such as a spacing as a number, to 0.01 mm or 0.0001 in.</summary>
    public static string Fine(double mm, LengthUnit unit) =>
        unit == LengthUnit.Inch ? Decimals(mm / MmPerInch, 4) : Decimals(mm, 2);

    /// <summary>A number with at most so many decimals; what rounds to nothing has no sign.</summary>
    public static string Decimals(double number, int most) => number.ToString($"0.{new string('#', most)}", CultureInfo.InvariantCulture) is var text && text == "-0" ? "0" : text;

    /// <summary>Two lengths (mm) as width × height with the unit.</summary>
    public static string Size(double width, double height, LengthUnit unit) => $"{Number(width, unit)} × {Number(height, unit)} {Name(unit)}";

    /// <summary>The unit's short name.</summary>
    public static string Name(LengthUnit unit) => unit == LengthUnit.Inch ? "in" : "mm";

    /// <summary>Reads "74", "7.4cm", "3in", "3 1/2 in" or "2,5"; a bare number is in <paramref name="usual"/>. The result is mm.</summary>
    public static bool TryParse(string? text, LengthUnit usual, out double mm)
    {
        mm = 0;
        var typed = (text ?? string.Empty).Trim().ToLowerInvariant().Replace(',', '.').Replace('−', '-');
        var factor = usual == LengthUnit.Inch ? MmPerInch : 1;
        foreach (var (ending, size) in new[] { ("mm", 1.0), ("cm", 10), ("inch", MmPerInch), ("in", MmPerInch), ("\"", MmPerInch), ("”", MmPerInch) })
        {
            if (!typed.EndsWith(ending, StringComparison.Ordinal)) continue;
            (typed, factor) = (typed[..^ending.Length].Trim(), size);
            break;
        }

        double sum = 0;
        var words = typed.Split(' ', StringSplitOptions.RemoveEmptyEntries);
        if (words.Length is 0 or > 2) return false;
        foreach (var word in words)
        {
            var fraction = word.Split('/');
            if (fraction.Length > 2 || !Plain(fraction[0], out var number)) return false;
            if (fraction.Length == 2)
            {
                if (!Plain(fraction[1], out var divisor) || divisor == 0) return false;
                number /= divisor;
            }

            sum += words[0].StartsWith('-') && word != words[0] ? -number : number;
        }

        mm = sum * factor;
        return double.IsFinite(mm) && Math.Abs(mm) < 1e6;
    }

    private static bool Plain(string text, out double number) =>
        double.TryParse(text, NumberStyles.AllowLeadingSign | NumberStyles.AllowDecimalPoint, CultureInfo.InvariantCulture, out number);
}
