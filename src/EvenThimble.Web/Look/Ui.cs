using System.Globalization;
using EvenThimble.Core.Colour;
using Microsoft.AspNetCore.Html;

namespace EvenThimble.Web.Look;

/// <summary>Small things that many screens show.</summary>
public static class Ui
{
    /// <summary>A spool-like spot in a thread's colour. The colour stands in an attribute of the drawing, since styles in the page are forbidden.</summary>
    public static IHtmlContent Swatch(Rgb colour) => new HtmlString(
        $"<svg class=\"swatch\" viewBox=\"0 0 16 16\" aria-hidden=\"true\"><rect x=\"1\" y=\"1\" width=\"14\" height=\"14\" rx=\"4\" fill=\"{colour.Hex}\" stroke=\"#808080\" stroke-opacity=\".55\"/><path d=\"M3 5.5h10M3 8h10M3 10.5h10\" stroke=\"#000\" stroke-opacity=\".16\"/></svg>");

    /// <summary>Thousands with commas.</summary>
    public static string Count(int n) => n.ToString("N0", CultureInfo.InvariantCulture);

    /// <summary>"1 part", "3 parts".</summary>
    public static string Of(int n, string one, string? many = null) => $"{Count(n)} {(n == 1 ? one : many ?? one + "s")}";

    /// <summary>Minutes as "12 min" or "1 h 05 min".</summary>
    public static string Minutes(double minutes)
    {
        var whole = Math.Max(1, (int)Math.Round(minutes));
        return whole < 60 ? $"{whole} min" : $"{whole / 60} h {whole % 60:00} min";
    }

    /// <summary>How long ago, in words.</summary>
    public static string Ago(DateTimeOffset then, DateTimeOffset now)
    {
        var ago = now - then;
        return ago.TotalMinutes < 1 ? "just now"
            : ago.TotalHours < 1 ? Of((int)ago.TotalMinutes, "minute") + " ago"
            : ago.TotalDays < 1 ? Of((int)ago.TotalHours, "hour") + " ago"
            : then.ToString("d MMM yyyy, HH:mm", CultureInfo.InvariantCulture);
    }

    /// <summary>The keys of a press such as "Shift+t", one by one as they stand on a keyboard.</summary>
    public static IEnumerable<string> Keys(string press) =>
        press.Length == 1 ? [press.ToUpperInvariant()] : press.Split('+').SelectMany(k => k.Split(' ')).Select(k => k.Length == 1 ? k.ToUpperInvariant() : k);
}
