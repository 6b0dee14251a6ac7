using System.Collections.Concurrent;
using EvenThimble.Core.Lettering;
using EvenThimble.Core.Stitches;
using EvenThimble.Core.Text;

namespace EvenThimble.Rendering.Fonts;

/// <summary>A lettering font that comes with the application.</summary>
/// <param name="Name">What people call it.</param>
/// <param name="Kind">What it is like.</param>
/// <param name="File">Its file; null: it is a part of the program.</param>
public sealed record InstalledFont(string Name, string Kind, string? File)
{
    /// <summary>Where its file lies; null: it is a part of the program.</summary>
    public string? Path => File is null ? null : System.IO.Path.Combine(AppContext.BaseDirectory, "Fonts", "letters", File);
}

/// <summary>The lettering fonts that come with the application: one of our own for small text, the others from packages with open licences.</summary>
public static class InstalledFonts
{
    private static readonly ConcurrentDictionary<string, Made<FontFile>> Read = new(StringComparer.Ordinal);

    /// <summary>All, by kind.</summary>
    public static IReadOnlyList<InstalledFont> All { get; } =
    [
        new("Archivo", "block sans", "Archivo_700Bold.ttf"),
        new("Saira Condensed", "condensed", "SairaCondensed_600SemiBold.ttf"),
        new("Bitter", "slab", "Bitter_700Bold.ttf"),
        new("Libre Baskerville", "serif", "LibreBaskerville_700Bold.ttf"),
        new("Fredoka", "rounded", "Fredoka_500Medium.ttf"),
        new("Dancing Script", "script", "DancingScript_700Bold.ttf"),
        new("Great Vibes", "script", "GreatVibes_400Regular.ttf"),
        new("Courgette", "script", "Courgette_400Regular.ttf"),
        new("Caveat Brush", "brush", "CaveatBrush_400Regular.ttf"),
        new("Allerta Stencil", "stencil", "AllertaStencil_400Regular.ttf"),
        new("Graduate", "college block", "Graduate_400Regular.ttf"),
        new("Grenze Gotisch", "blackletter", "GrenzeGotisch_600SemiBold.ttf"),
        new("Bowlby One", "heavy display", "BowlbyOne_400Regular.ttf"),
        new("PT Sans Caption", "small text", "PTSansCaption_700Bold.ttf"),
        new(StrokeFont.Small.Name, "small text", null),
    ];

    /// <summary>The font of a name; null if none has it.</summary>
    public static InstalledFont? Find(string name) => All.FirstOrDefault(f => f.Name.Equals(name.Trim(), StringComparison.OrdinalIgnoreCase));

    /// <summary>A font, read once.</summary>
    /// <exception cref="StitchFileException">Its file is not there.</exception>
    public static ILetterFont Open(InstalledFont font) => font.Path is not { } path ? StrokeFont.Small : Read.GetOrAdd(path, _ => new(() => File.Exists(path)
        ? FontFile.Read(File.ReadAllBytes(path))
        : throw new StitchFileException($"{font.Name} is not installed. Start Even Thimble once by its launcher, which installs its fonts."))).Value;
}
