using System.Globalization;
using System.Text.RegularExpressions;
using EvenThimble.Core.Text;

namespace EvenThimble.Core.Files.Threads;

/// <summary>Amounts as lists write them.</summary>
internal static partial class Amounts
{
    private const double MetresPerYard = 0.9144;

    /// <summary>The number in a cell, with a point or a comma and whatever sign of a currency or unit is about it; null where there is none.</summary>
    public static double? Number(string cell)
    {
        if (Digits().Match(cell) is not { Success: true } match) return null;
        var text = match.Value.Replace(" ", string.Empty, StringComparison.Ordinal).Replace('\u2212', '-');

        // Of a comma and a point the last is the decimal sign; a comma alone is, unless three digits follow it as in 1,000.
        var (comma, point) = (text.LastIndexOf(','), text.LastIndexOf('.'));
        text = comma > point && (point >= 0 || text.Length - comma != 4)
            ? text.Replace(".", string.Empty, StringComparison.Ordinal).Replace(',', '.')
            : text.Replace(",", string.Empty, StringComparison.Ordinal);
        return double.TryParse(text, NumberStyles.Float, CultureInfo.InvariantCulture, out var number) && double.IsFinite(number) ? number : null;
    }

    /// <summary>Metres in a cell; yards and kilometres where it says so.</summary>
    public static double? Metres(string cell)
    {
        var unit = cell.ToLowerInvariant();
        return Number(cell) * (unit.Contains("yd", StringComparison.Ordinal) || unit.Contains("yard", StringComparison.Ordinal) ? MetresPerYard : unit.Contains("km", StringComparison.Ordinal) ? 1000 : 1);
    }

    /// <summary>A number as it is written into a list.</summary>
    public static string Text(double number) => LengthText.Decimals(number, 1);

    [GeneratedRegex(@"[-\u2212]?\d[\d ]*(?:[.,]\d+)*")]
    private static partial Regex Digits();
}
