using System.Globalization;
using System.Xml.Linq;
using EvenThimble.Core.Colour;

namespace EvenThimble.Core.Files.Drawing;

/// <summary>The one colour that a paint of a drawing comes to: named or in numbers; of a blend the mean of its colours, by how much of it each takes.</summary>
internal sealed class SvgPaints(Dictionary<string, XElement> byId, SvgStyles styles)
{
    private const int LongestChain = 8;

    /// <summary>What was met that becomes something else in thread.</summary>
    public bool HasBlends { get; private set; }

    /// <summary>A pattern was met.</summary>
    public bool HasPatterns { get; private set; }

    /// <summary>Something half clear was met.</summary>
    public bool HasHalfClear { get; private set; }

    /// <summary>The colour of a paint, half clear ones as they look on white; null: nothing is painted, or hardly to be seen.</summary>
    /// <param name="paint">As it is written.</param>
    /// <param name="current">What <c>currentColor</c> means there.</param>
    /// <param name="opacity">How much of it is seen, 0 to 1.</param>
    public Rgb? ColourOf(string paint, string current, double opacity)
    {
        const double leastSeen = 0.12, solid = 0.98;
        if (Of(paint.Trim(), current) is not { } found || found.Opacity * opacity is var seen && seen < leastSeen) return null;
        if (seen >= solid) return found.Colour;
        HasHalfClear = true;
        byte On(byte channel) => (byte)Math.Round(255 - ((255 - channel) * seen));
        return new(On(found.Colour.R), On(found.Colour.G), On(found.Colour.B));
    }

    private (Rgb Colour, double Opacity)? Of(string paint, string current)
    {
        if (paint.StartsWith("url", StringComparison.OrdinalIgnoreCase)) return OfReference(paint, current);
        if (paint.Equals("currentcolor", StringComparison.OrdinalIgnoreCase)) paint = current.Trim();
        return Plain(paint) is { } plain ? (plain, AlphaOf(paint)) : null;
    }

    /// <summary>How much is seen of a colour in numbers that says so, 0 to 1.</summary>
    private static double AlphaOf(string colour)
    {
        var open = colour.IndexOf('(', StringComparison.Ordinal);
        var parts = open < 0 ? [] : colour[(open + 1)..].TrimEnd(')', ' ').Split([',', ' ', '/'], StringSplitOptions.RemoveEmptyEntries);
        return parts.Length >= 4 && SvgNumbers.Length(parts[3], 1) is { } alpha ? Math.Clamp(alpha.Units, 0, 1) : 1;
    }

    /// <summary>A colour by its name or in numbers; null: none.</summary>
    public static Rgb? Plain(string colour)
    {
        var c = colour.Trim().ToLowerInvariant();
        if (c is "none" or "transparent") return null;
        if (c.StartsWith('#'))
        {
            var digits = c.Length is 5 or 9 ? c[..(c.Length == 5 ? 4 : 7)] : c;
            return Rgb.TryParse(digits, out var rgb) ? rgb : new(0, 0, 0);
        }

        var open = c.IndexOf('(', StringComparison.Ordinal);
        if (open > 0)
        {
            var parts = c[(open + 1)..].TrimEnd(')', ' ').Split([',', ' ', '/'], StringSplitOptions.RemoveEmptyEntries);
            double Number(int i) => i < parts.Length && double.TryParse(parts[i].TrimEnd('%').Replace("deg", string.Empty, StringComparison.Ordinal), NumberStyles.Float, CultureInfo.InvariantCulture, out var v) && double.IsFinite(v) ? v : 0;
            if (parts.Length >= 4 && Number(3) == 0) return null;
            if (c.StartsWith("rgb", StringComparison.Ordinal)) return new(Channel(parts, 0), Channel(parts, 1), Channel(parts, 2));
            if (c.StartsWith("hsl", StringComparison.Ordinal)) return OfHue(Number(0), Number(1) / 100, Number(2) / 100);
            if (c.StartsWith("icc-color", StringComparison.Ordinal)) return new(0, 0, 0);

            byte Channel(string[] all, int i) => (byte)Math.Clamp(Math.Round(i < all.Length && all[i].EndsWith('%') ? Number(i) * 2.55 : Number(i)), 0, 255);
        }

        // A colour may be followed by another way to say it.
        var word = c.Split(' ', 2)[0].Replace("grey", "gray", StringComparison.Ordinal);
        if (word.StartsWith('#')) return Plain(word);
        var named = System.Drawing.Color.FromName(word);
        return named is { IsKnownColor: true, IsSystemColor: false } ? new(named.R, named.G, named.B) : new Rgb(0, 0, 0);
    }

    private (Rgb Colour, double Opacity)? OfReference(string paint, string current)
    {
        var close = paint.IndexOf(')', StringComparison.Ordinal);
        if (close < 0) return null;
        var name = paint[(paint.IndexOf('(', StringComparison.Ordinal) + 1)..close].Trim(' ', '"', '\'').TrimStart('#');
        var fallback = paint[(close + 1)..].Trim();
        if (!byId.TryGetValue(name, out var server)) return fallback.Length > 0 ? Of(fallback, current) : null;
        if (server.Name.LocalName == "pattern")
        {
            HasPatterns = true;
            return (MeanOfPattern(server), 1);
        }

        if (server.Name.LocalName is not ("linearGradient" or "radialGradient" or "meshgradient")) return server.Name.LocalName == "solidColor" && Plain(styles.Of(server).GetValueOrDefault("solid-color", "black")) is { } solid ? (solid, 1) : null;
        var stops = StopsOf(server, 0);
        if (stops.Count == 0) return null;
        HasBlends |= stops.Select(s => s.Colour).Distinct().Count() > 1;
        return Mean(stops);
    }

    private List<(double At, Rgb Colour, double Opacity)> StopsOf(XElement gradient, int depth)
    {
        var stops = gradient.Elements().Where(e => e.Name.LocalName == "stop").ToList();
        if (stops.Count == 0)
        {
            var link = gradient.Attributes().FirstOrDefault(a => a.Name.LocalName == "href")?.Value.TrimStart('#');
            return depth < LongestChain && link is not null && byId.TryGetValue(link, out var other) ? StopsOf(other, depth + 1) : [];
        }

        var before = 0.0;
        return stops.ConvertAll(stop =>
        {
            var style = styles.Of(stop);
            var offset = (string?)stop.Attribute("offset") ?? "0";
            var at = double.TryParse(offset.Trim().TrimEnd('%'), NumberStyles.Float, CultureInfo.InvariantCulture, out var v) && double.IsFinite(v) ? (offset.Contains('%', StringComparison.Ordinal) ? v / 100 : v) : 0;
            before = Math.Max(before, Math.Clamp(at, 0, 1));
            var opacity = double.TryParse(style.GetValueOrDefault("stop-opacity"), NumberStyles.Float, CultureInfo.InvariantCulture, out var o) && double.IsFinite(o) ? Math.Clamp(o, 0, 1) : 1;
            var colour = style.GetValueOrDefault("stop-color", "black");
            var plain = Plain(colour.Equals("currentcolor", StringComparison.OrdinalIgnoreCase) ? style.GetValueOrDefault("color", "black") : colour);
            return (before, plain ?? new Rgb(0, 0, 0), plain is null ? 0 : opacity);
        });
    }

    /// <summary>The mean over the length of a blend: each pair of stops gives the mean of both for the stretch between them; what is clear counts less. Null where all is nearly clear.</summary>
    private static (Rgb Colour, double Opacity)? Mean(List<(double At, Rgb Colour, double Opacity)> stops)
    {
        const double clear = 0.06;
        var (r, g, b, weight) = (0.0, 0.0, 0.0, 0.0);
        void Add(Rgb colour, double share)
        {
            (r, g, b, weight) = (r + (colour.R * share), g + (colour.G * share), b + (colour.B * share), weight + share);
        }

        var first = Math.Max(stops[0].At, stops.Count == 1 ? 1 : 0);
        Add(stops[0].Colour, stops[0].Opacity * first);
        for (var i = 1; i < stops.Count; i++)
        {
            var half = (stops[i].At - stops[i - 1].At) / 2;
            Add(stops[i - 1].Colour, half * stops[i - 1].Opacity);
            Add(stops[i].Colour, half * stops[i].Opacity);
        }

        Add(stops[^1].Colour, stops[^1].Opacity * (1 - stops[^1].At));
        return weight < clear ? null : (new((byte)Math.Round(r / weight), (byte)Math.Round(g / weight), (byte)Math.Round(b / weight)), Math.Min(1, weight));
    }

    /// <summary>The colours painted in a pattern, each alike; grey where none is known.</summary>
    private Rgb MeanOfPattern(XElement pattern)
    {
        var colours = pattern.Descendants().Select(e => styles.Of(e).GetValueOrDefault("fill")).OfType<string>().Where(f => !f.StartsWith("url", StringComparison.OrdinalIgnoreCase)).Select(Plain).OfType<Rgb>().ToList();
        return colours.Count == 0 ? new Rgb(0x80, 0x80, 0x80) : new((byte)colours.Average(c => c.R), (byte)colours.Average(c => c.G), (byte)colours.Average(c => c.B));
    }

    private static Rgb OfHue(double hue, double saturation, double lightness)
    {
        var (s, l) = (Math.Clamp(saturation, 0, 1), Math.Clamp(lightness, 0, 1));
        byte Of(double n)
        {
            var k = (((n + (hue / 30)) % 12) + 12) % 12;
            return (byte)Math.Round(255 * (l - (s * Math.Min(l, 1 - l) * Math.Max(-1, Math.Min(Math.Min(k - 3, 9 - k), 1)))));
        }

        return new(Of(0), Of(8), Of(4));
    }
}
