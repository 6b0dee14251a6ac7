using System.Collections.Concurrent;
using EvenThimble.Core.Colour;
using EvenThimble.Core.Craft;
using EvenThimble.Core.Files.Jobs;
using EvenThimble.Core.Lettering;
using EvenThimble.Core.Stitches;
using EvenThimble.Core.Text;
using EvenThimble.Core.Threads;
using EvenThimble.Rendering;
using EvenThimble.Rendering.Fonts;
using EvenThimble.Storage;

namespace EvenThimble.Web.Workroom;

/// <summary>A lettering font as it is listed.</summary>
/// <param name="Name">What it is called; no two have the same.</param>
/// <param name="Kind">What it is like.</param>
/// <param name="Hash">Of its file where it is one of the user's own; null: it comes with the program.</param>
public sealed record FontLine(string Name, string Kind, string? Hash);

/// <summary>The lettering fonts at hand: those that come with the program and the user's own, each opened once, and small pictures of them in thread.</summary>
public sealed class LetterFonts(FontStore store) : ILetterFaces
{
    // Sizes from here on are told in whole millimetres.
    private const double AboutWhole = 10;
    private const string OwnKind = "your own";
    private const long MostPictureBytes = 24L << 20;
    private const int LongestShown = 16;
    private const double ShownCapitalMm = 12;
    private static readonly SewingThread Thread = new("Fenlight", "0", "indigo", Rgb.FromInt(0x2F4B7C));
    private readonly ConcurrentDictionary<string, Made<LetterFace>> _open = new(StringComparer.Ordinal);
    private readonly RecentlyMade<(LetterFace Font, string Text, double? Share), byte[]> _pictures = new(MostPictureBytes, p => p.Length + 200);

    /// <summary>All fonts: the user's own first, the others by kind.</summary>
    public IReadOnlyList<FontLine> All => [.. store.Own.Select(f => new FontLine(f.Name, OwnKind, f.Hash)), .. InstalledFonts.All.Select(f => new FontLine(f.Name, f.Kind, null))];

    /// <summary>The fonts that were written with last, the latest first.</summary>
    public IReadOnlyList<FontLine> LastUsed(int most)
    {
        var uses = store.LastUses;
        return [.. All.Where(f => uses.ContainsKey(f.Name)).OrderByDescending(f => uses[f.Name]).Take(most)];
    }

    /// <inheritdoc/>
    /// <exception cref="StitchFileException">It cannot be read any more.</exception>
    public LetterFace? Find(string? name)
    {
        if (InstalledFonts.Find(name ?? string.Empty) is { } installed) return _open.GetOrAdd(installed.Name, _ => new(() => new(installed.Name, InstalledFonts.Open(installed)))).Value;
        return OwnOf(name) is { } own ? Open(own) : null;
    }

    /// <summary>At which heights of capitals a font sews well, in words; where it cannot be read, the sentence that says so.</summary>
    public string GoodSizes(string name, LengthUnit unit)
    {
        try
        {
            if (Find(name)?.Measure is not { } m) return string.Empty;
            return m.OfPen ? $"from {About(m.SmallestGoodMm)} as run, from {About(m.SatinFromMm)} as satin" : $"from {About(m.SmallestGoodMm)}, satin to {About(m.SatinToMm)}";
        }
        catch (StitchFileException e)
        {
            return e.Message;
        }

        string About(double mm) => LengthText.Show(Math.Round(mm, mm < AboutWhole ? 1 : 0), unit);
    }

    /// <summary>Takes a font file in.</summary>
    /// <exception cref="StitchFileException">It is none, or cannot be used; a sentence.</exception>
    public FontLine Add(string fileName, byte[] bytes)
    {
        using var read = FontFile.Read(bytes);
        FontMeasure.Of(read);
        var own = store.Add(read.FullName, fileName, bytes, [.. InstalledFonts.All.Select(f => f.Name)]);
        return new(own.Name, OwnKind, own.Hash);
    }

    /// <summary>Takes a font of the user's own out; null when there is none, else its name. Jobs keep the letters that they have.</summary>
    public string? Remove(string hash)
    {
        var known = store.Own.FirstOrDefault(f => f.Hash == hash);
        if (known is null || !store.Remove(hash)) return null;
        _open.TryRemove(hash, out _);
        return known.Name;
    }

    /// <summary>The file of a font of the user's own that may travel inside a job; null where it may not, cannot be read any more, or comes with the program.</summary>
    public ArchivedOriginal? ToTravel(string name)
    {
        try
        {
            return OwnOf(name) is { } own && Open(own).Font is FontFile { MayTravel: true } && store.File(own.Hash) is { } bytes ? new(own.FileName, bytes) : null;
        }
        catch (StitchFileException)
        {
            return null; // the job goes without it, and keeps its letters
        }
    }

    /// <summary>A word in thread (PNG), its first letters where it is long; null where the font has none of it or there is no such font.</summary>
    public byte[]? PictureOf(string font, string text)
    {
        var shown = new string([.. text.ReplaceLineEndings("\n").Split('\n').Select(l => l.Trim()).FirstOrDefault(l => l.Length > 0)?.Where(c => !char.IsControl(c)).Take(LongestShown) ?? []]);
        return Find(font) is { } found && shown.Length > 0 ? Drawn(found, shown, null, 264, 56) : null;
    }

    /// <summary>Two letters in thread (PNG) at a distance, in heights of a capital beyond that without kerning; null where the font does not have them.</summary>
    public byte[]? PictureOf(string font, string left, string right, double share) =>
        Find(font) is { } found && found.Font.Shape(left + right).Missing.Count == 0 ? Drawn(found, left + right, (left, right, share), 96, 64) : null;

    private byte[]? Drawn(LetterFace font, string text, (string Left, string Right, double Share)? pair, int width, int height) => _pictures.Get((font, text, pair?.Share), () =>
    {
        var capital = Math.Min(Math.Max(ShownCapitalMm, font.Measure.SmallestGoodMm), LetteringWish.Capitals.Most);
        var wish = new LetteringWish(text) { CapitalMm = capital, Pairs = pair is var (left, right, share) ? KerningTable.Empty.With(left, right, share) : KerningTable.Empty };
        try
        {
            var laid = font.Lay(wish);
            var blob = LetteringSewing.Stitch(laid, LetteringSewing.SettingsFor(font.Measure, StitchWay.Automatic, capital), ClothProfiles.Cotton);
            return ThreadPainter.Picture(new("look", blob, [new(0, blob.Count, Thread, PartRole.Lettering)]), width, height, ClothProfiles.Cotton.UsualColour, 5);
        }
        catch (EditRefusedException)
        {
            return [];
        }
    }) is { Length: > 0 } picture ? picture : null;

    private OwnFont? OwnOf(string? name) => store.Own.FirstOrDefault(f => f.Name.Equals(name?.Trim(), StringComparison.OrdinalIgnoreCase));

    private LetterFace Open(OwnFont own) => _open.GetOrAdd(own.Hash, _ => new(() => new(
        own.Name, FontFile.Read(store.File(own.Hash) ?? throw new StitchFileException($"The file of the font {own.Name} is damaged on the disk. Bring it in anew."))))).Value;
}
