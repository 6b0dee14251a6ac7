using System.Globalization;

namespace EvenThimble.Core.Colour;

/// <summary>A colour as screens show it (sRGB), each channel 0 to 255.</summary>
public readonly record struct Rgb(byte R, byte G, byte B)
{
    /// <summary>Written as <c>#rrggbb</c>.</summary>
    public string Hex => string.Create(CultureInfo.InvariantCulture, $"#{R:x2}{G:x2}{B:x2}");

    /// <inheritdoc/>
    public override string ToString() => Hex;

    /// <summary>Reads <c>#rrggbb</c>, <c>rrggbb</c> or <c>#rgb</c>.</summary>
    public static bool TryParse(string? text, out Rgb colour)
    {
        colour = default;
        var digits = (text ?? string.Empty).Trim().TrimStart('#');
        if (digits.Length == 3) digits = string.Concat(digits.Select(c => new string(c, 2)));
        if (digits.Length != 6 || !int.TryParse(digits, NumberStyles.AllowHexSpecifier, CultureInfo.InvariantCulture, out var value)) return false;
        colour = FromInt(value);
        return true;
    }

    /// <summary>The colour of what <see cref="Hex"/> wrote.</summary>
    /// <exception cref="FormatException">It is no colour.</exception>
    public static Rgb OfHex(string? text) => TryParse(text, out var colour) ? colour : throw new FormatException("That is no colour.");

    /// <summary>The colour of a number 0xRRGGBB.</summary>
    public static Rgb FromInt(int value) => new((byte)(value >> 16), (byte)(value >> 8), (byte)value);
}
