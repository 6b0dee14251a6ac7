using SkiaSharp;

namespace EvenThimble.Core.Tests.Quality;

/// <summary>
/// Fonts of Debian packages, which the tests do not use: what the engine makes of them is measured and looked at by <c>./even-thimble shots</c>, which installs them.
/// </summary>
public static class LetterFonts
{
    private const string Folder = "/usr/share/fonts";

    private static readonly string[] Files =
    [
        "truetype/averia-gwf/AveriaSerifGWF-Bold.ttf", "opentype/bebas-neue/BebasNeue-Bold.otf", "truetype/breip/Breip.ttf", "opentype/cabin/Cabin-Bold.otf", "truetype/crosextra/Caladea-Bold.ttf",
        "truetype/crosextra/Carlito-Regular.ttf", "truetype/comfortaa/Comfortaa-Bold.ttf", "truetype/dejavu/DejaVuSerif-Bold.ttf", "truetype/fifthhorseman/dkgBd.ttf", "truetype/dustin/Domestic_Manners.ttf",
        "opentype/ebgaramond/EBGaramond12-Bold.otf", "truetype/ecolier-court/Ecolier-court.ttf", "truetype/essays1743/Essays1743-Bold.ttf", "truetype/isabella/Isabella.ttf",
        "opentype/junicode/JunicodeTwoBeta-Bold.otf", "opentype/jura/Jura-Bold.otf", "truetype/kristi/Kristi.ttf", "truetype/lato/Lato-Bold.ttf", "opentype/linux-libertine/LinLibertine_RBI.otf",
        "opentype/lobster/lobster.otf", "truetype/fonts-oldstandard/OldStandard-Bold.ttf", "truetype/play/Play-Bold.ttf",
    ];

    /// <summary>Those of the six that whole alphabets are shown of: two sans, two serif, a script, a round one.</summary>
    public static IReadOnlyList<string> Shown { get; } = ["Play", "Cabin", "Caladea", "EB Garamond", "Lobster Two", "Averia Serif GWF"];

    /// <summary>The fonts that are installed, by family.</summary>
    public static IReadOnlyDictionary<string, SKTypeface> Installed { get; } =
        Files.Select(f => Path.Combine(Folder, f)).Where(File.Exists).Select(f => SKTypeface.FromFile(f)).Where(f => f is not null).DistinctBy(f => f!.FamilyName).ToDictionary(f => f!.FamilyName, f => f!);
}
