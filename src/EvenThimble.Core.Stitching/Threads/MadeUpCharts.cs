using System.Globalization;
using EvenThimble.Core.Colour;

namespace EvenThimble.Core.Threads;

/// <summary>
/// The charts of three made-up makers, spread over hue, lightness and chroma as real charts are. Computed, so that they are the same everywhere.
/// </summary>
public static class MadeUpCharts
{
    private sealed record Plan(string Maker, string Range, int FirstNumber, int Step, int Count, double ChromaScale, double LightShift, decimal Price);

    private static readonly Plan[] Plans =
    [
        new("Fenlight", "Rayon 40", 1001, 3, 360, 1.0, 0, 4.20m),
        new("Fenlight", "Rayon 60", 6002, 4, 180, 0.96, 2, 4.60m),
        new("Osier & Daughters", "Polyester 40", 20110, 5, 400, 1.08, -1, 3.90m),
        new("Osier & Daughters", "Cotton 30", 31200, 10, 200, 0.72, 1, 5.50m),
        new("Glimmerdale", "Metallic", 801, 1, 120, 0.6, 4, 7.80m),
    ];

    // Plain colour names by hue, degrees in CIELAB, the first of each pair where the family begins to be meant.
    private static readonly (double Hue, string Name)[] Families =
    [
        (5, "rose"), (18, "madder"), (30, "brick"), (42, "rust"), (53, "fox"), (63, "amber"), (73, "honey"), (82, "straw"), (91, "weld"),
        (101, "lemon balm"), (112, "lichen"), (124, "moss"), (136, "fern"), (150, "pine"), (165, "reed"), (180, "spruce"), (195, "teal"),
        (210, "lagoon"), (225, "tarn"), (240, "sky"), (255, "slate blue"), (268, "cornflower"), (280, "indigo"), (292, "dusk"), (305, "violet"),
        (318, "heather"), (330, "foxglove"), (343, "mallow"), (354, "damson"),
    ];

    private static readonly string[] Greys = ["chalk", "swan", "fleece", "pewter", "ash", "smoke", "flint", "lead", "soot", "ink black"];

    /// <summary>All charts, 1,260 threads.</summary>
    public static IReadOnlyList<ThreadChart> All { get; } = [.. Plans.Select(Make)];

    private static ThreadChart Make(Plan plan)
    {
        var names = new HashSet<string>(StringComparer.Ordinal);
        var threads = Looks(plan)
            .Take(plan.Count)
            .Select((look, i) => new SewingThread(plan.Maker, (plan.FirstNumber + (i * plan.Step)).ToString(CultureInfo.InvariantCulture), UniqueName(look.Look, names), look.Colour));
        var make = ThreadMake.Of(plan.Range);
        return new(plan.Maker, plan.Range, [.. threads.Select(t => new ChartThread(t, make, make.UsualConeMetres, plan.Price))]);
    }

    /// <summary>Greys first, then all hues at all lightnesses and chromas, keeping only what a screen can show and what differs from those before.</summary>
    private static IEnumerable<(Lab Look, Rgb Colour)> Looks(Plan plan)
    {
        for (var i = 0; i < Greys.Length; i++)
        {
            var grey = new Lab(Math.Clamp(97 - (i * 9.6), 6, 97), 0, plan.ChromaScale * 1.2);
            grey.TryToRgb(out var colour);
            yield return (grey, colour);
        }

        // Lightness, chroma and hue walk evenly however many are taken: the additive recurrence for three dimensions (Roberts 2018).
        var taken = new List<Lab>();
        for (var n = 1; n < 40_000; n++)
        {
            var l = 17 + (78 * (n * 0.8191725134 % 1)) + plan.LightShift;
            var chroma = (7 + (80 * (n * 0.6710436067 % 1))) * plan.ChromaScale;
            var lab = Lab.FromLch(l, chroma, n * 0.5497004779 % 1 * 360);
            if (!lab.TryToRgb(out var colour)) continue;
            var shown = Lab.From(colour);
            if (taken.Exists(t => Math.Abs(t.L - shown.L) < 8 && ColourDifference.Ciede2000(t, shown) < 2.2)) continue;
            taken.Add(shown);
            yield return (shown, colour);
        }
    }

    private static string UniqueName(Lab look, HashSet<string> names)
    {
        var family = look.Chroma < 4
            ? Greys[Math.Clamp((int)Math.Round((97 - look.L) / 9.6), 0, Greys.Length - 1)]
            : Families.MinBy(f => HueDistance(f.Hue, look.Hue)).Name;
        foreach (var name in Candidates(look, family).Where(names.Add)) return Capitalised(name);
        throw new InvalidOperationException("The made-up charts ran out of names.");
    }

    private static IEnumerable<string> Candidates(Lab look, string family)
    {
        string[] light = look.L switch
        {
            > 84 => ["pale", "misty", "first-light", "feather"],
            > 72 => ["light", "morning", "soft", "thin"],
            > 58 => ["clear", "noon", "bright", "open"],
            > 46 => ["plain", "full", "warm", "market"],
            > 34 => ["deep", "evening", "late", "wet"],
            _ => ["dark", "night", "midwinter", "cellar"],
        };
        string[] chroma = look.Chroma switch
        {
            > 60 => ["vivid", "festival", "ribbon"],
            > 40 => ["strong", "garden", "cottage"],
            > 22 => ["quiet", "field", "hillside"],
            _ => ["greyed", "stone", "weathered"],
        };
        if (look.Chroma < 4) yield return family;
        foreach (var l in light) yield return $"{l} {family}";
        foreach (var c in chroma) yield return $"{c} {family}";
        foreach (var l in light)
            foreach (var c in chroma)
                yield return $"{l} {c} {family}";
        for (var i = 2; ; i++) yield return string.Create(CultureInfo.InvariantCulture, $"{light[0]} {chroma[0]} {family} {i}");
    }

    private static double HueDistance(double a, double b)
    {
        var d = Math.Abs(a - b) % 360;
        return Math.Min(d, 360 - d);
    }

    private static string Capitalised(string name) => char.ToUpperInvariant(name[0]) + name[1..];
}
