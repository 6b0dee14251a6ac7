using System.Globalization;
using System.Text.RegularExpressions;
using EvenThimble.Core.Colour;

namespace EvenThimble.Core.Files.Threads;

/// <summary>Colours as lists write them.</summary>
internal static partial class TypedColour
{
    /// <summary>Reads <c>#2f4b7c</c>, <c>2f4b7c</c>, <c>rgb(47, 75, 124)</c>, <c>47 75 124</c>, or a colour that style sheets have a word for, such as navy.</summary>
    public static bool TryParse(string text, out Rgb colour)
    {
        colour = default;
        var typed = text.Trim();
        if (Channels().Match(typed) is { Success: true } three)
            return TryChannels(three.Groups[1].Value, three.Groups[2].Value, three.Groups[3].Value, out colour);
        if (typed.Length is 3 or 4 or 6 or 7 && Rgb.TryParse(typed, out colour)) return true;

        // The words of style sheets (CSS Color Module Level 4), as the base library knows them; what the system alone calls so has a number of its own.
        var named = System.Drawing.Color.FromName(typed.Replace(" ", string.Empty, StringComparison.Ordinal));
        if (typed.Length == 0 || !char.IsLetter(typed[0]) || !named.IsKnownColor || named.IsSystemColor || named.A != 255) return false;
        colour = new(named.R, named.G, named.B);
        return true;
    }

    /// <summary>The colour of three numbers from 0 to 255.</summary>
    public static bool TryChannels(string red, string green, string blue, out Rgb colour)
    {
        colour = default;
        if (!byte.TryParse(red, NumberStyles.None, CultureInfo.InvariantCulture, out var r) || !byte.TryParse(green, NumberStyles.None, CultureInfo.InvariantCulture, out var g) || !byte.TryParse(blue, NumberStyles.None, CultureInfo.InvariantCulture, out var b)) return false;
        colour = new(r, g, b);
        return true;
    }

    [GeneratedRegex(@"^(?:rgb\s*\()?\s*(\d{1,3})\s*[,; ]\s*(\d{1,3})\s*[,; ]\s*(\d{1,3})\s*\)?$", RegexOptions.IgnoreCase)]
    private static partial Regex Channels();
}
