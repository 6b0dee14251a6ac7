using System.Globalization;
using EvenThimble.Core.LetterSets;
using EvenThimble.Core.Text;
using EvenThimble.Storage;
using EvenThimble.Web.Look;
using EvenThimble.Web.Workroom;
using Microsoft.AspNetCore.Mvc;
using Microsoft.AspNetCore.Mvc.RazorPages;

namespace EvenThimble.Web.Pages;

/// <summary>A letter set: its whole alphabet on its baselines, which file is which letter and why, and all that can be put right about it.</summary>
public sealed class LetterSetModel(LetterSets sets) : PageModel
{
    // A letter as it stands on its line is drawn at so many pixels to the height of a capital.
    private const double CapitalPx = 64;
    private const double PictureScale = 2;

    /// <summary>A file as it is shown.</summary>
    /// <param name="Taken">What it was taken as.</param>
    /// <param name="Mending">What was put right about it.</param>
    /// <param name="CapitalMm">Height of the capitals of its size.</param>
    public sealed record Line(SetFileTaken Taken, LetterMending Mending, double CapitalMm)
    {
        /// <summary>The letter; null: it is none.</summary>
        public SetLetter? Letter => Taken.Letter;

        /// <summary>Pixels to the millimetre that it is drawn at.</summary>
        public double Scale => CapitalPx / Math.Max(CapitalMm, 1);
    }

    /// <summary>What comes with a correction.</summary>
    public sealed record MendForm(long Version, string? Path, string? Character, bool LeftOut, string? Raised, string? Left, string? Right, bool UsualThread);

    /// <summary>The set.</summary>
    public OpenLetterSet Open { get; private set; } = null!;

    /// <summary>Its letters, size by size.</summary>
    public IReadOnlyList<(double CapitalMm, IReadOnlyList<Line> Letters)> Sizes { get; private set; } = [];

    /// <summary>Its files that are no letter.</summary>
    public IReadOnlyList<Line> Others { get; private set; } = [];

    /// <summary>The file that is put right.</summary>
    public Line? Chosen { get; private set; }

    /// <summary>The word that is shown.</summary>
    public string Words { get; private set; } = "HALDEN";

    /// <summary>The characters of that word that the set lacks.</summary>
    public IReadOnlyList<string> Missing => Open.Set.FontOf(Open.Set.Sizes[^1]).Font.Shape(Words).Missing;

    public Preferences Look { get; private set; } = new(default, false);

    public string? Says { get; private set; }

    public bool Trouble { get; private set; }

    public IActionResult OnGet(long id, string? file, string? words) => Shown(id, file, words);

    /// <summary>Puts a letter right.</summary>
    public IActionResult OnPostMend(long id, [FromForm] MendForm form, string? words) => Changed(id, form.Version, form.Path, words, set =>
    {
        var path = form.Path ?? string.Empty;
        var named = LetterFileName.Of([.. set.Files.Select(f => f.Path)], set.Unsaid)[Math.Max(0, set.Files.ToList().FindIndex(f => f.Path == path))].Character;
        var typed = Titles.Clean(form.Character ?? string.Empty);
        return set.With(path, new()
        {
            Character = typed.Length == 0 || typed == named ? null : typed,
            LeftOut = form.LeftOut,
            RaisedMm = Mm(form.Raised),
            LeftMm = Mm(form.Left),
            RightMm = Mm(form.Right),
            UsualThread = form.UsualThread,
        });
    });

    /// <summary>Puts nothing right about a letter any more.</summary>
    public IActionResult OnPostAsFound(long id, long version, string? path, string? words) => Changed(id, version, path, words, set => set.With(path ?? string.Empty, LetterMending.None));

    /// <summary>Names the set, and says what letters are whose names do not say whether they are capital.</summary>
    public IActionResult OnPostRules(long id, long version, string? name, LetterCase unsaid, string? words) => Changed(id, version, null, words, set =>
        Titles.Clean(name ?? string.Empty) is { Length: > 0 } clean && Enum.IsDefined(unsaid) ? set with { Name = clean, Unsaid = unsaid } : throw new EditRefusedException("A letter set needs a name of at least one letter."));

    /// <summary>A length in the unit of the person.</summary>
    public string Length(double mm) => LengthText.Fine(mm, Look.Unit);

    /// <summary>Why a file is as it is, and what is odd about it, in words.</summary>
    public string Notes(Line line)
    {
        var says = new List<string> { line.Taken.Trouble ?? line.Taken.Because };
        if (line.Letter is { OffMm: not 0 } off) says.Add($"lay {Length(Math.Abs(off.OffMm))} {LengthText.Name(Look.Unit)} {(off.OffMm > 0 ? "below" : "above")} the line of the others and was put on it");
        if (line.Letter is { OddThread: true } odd) says.Add($"its thread is {odd.MainThread.Label}, not that of the others");
        return string.Join("; ", says);
    }

    /// <summary>Whether anything about a letter is odd.</summary>
    public static bool IsOdd(Line line) => line.Letter is { OffMm: not 0 } or { OddThread: true };

    private double Mm(string? typed) => string.IsNullOrWhiteSpace(typed) ? 0 : LengthText.TryParse(typed, Preferences.Of(HttpContext).Unit, out var mm) ? mm : throw new EditRefusedException($"“{Titles.Clean(typed)}” is not a length. Type one, such as 1.5.");

    private IActionResult Changed(long id, long version, string? path, string? words, Func<LetterSetSource, LetterSetSource> change)
    {
        try
        {
            sets.Mend(id, version, change);
            Says = "Kept.";
        }
        catch (RefusedException e)
        {
            Response.StatusCode = StatusCodes.Status422UnprocessableEntity;
            (Says, Trouble) = (e.Message, true);
        }

        return Shown(id, path, words);
    }

    private IActionResult Shown(long id, string? file, string? words)
    {
        Look = Preferences.Of(HttpContext);
        if (sets.Find(id) is not { } open) return NotFound();
        Open = open;
        if (!string.IsNullOrWhiteSpace(words)) Words = Titles.Clean(words);
        var set = open.Set;
        var sizeOf = set.Sizes.SelectMany(s => s.Letters.Values.Select(l => (l.Path, s.CapitalMm))).ToDictionary(l => l.Path, l => l.CapitalMm);
        var lines = set.Files.Select(f => new Line(f, set.Source.MendingOf(f.File.Path), sizeOf.GetValueOrDefault(f.File.Path, set.Sizes[0].CapitalMm))).ToList();
        Sizes = [.. set.Sizes.Select(s => (s.CapitalMm, (IReadOnlyList<Line>)[.. s.Letters.Values.OrderBy(Order).ThenBy(l => l.Character, StringComparer.Ordinal).Select(l => lines.First(f => f.Taken.File.Path == l.Path))]))];
        Others = [.. lines.Where(l => l.Letter is null)];
        Chosen = lines.Find(l => l.Taken.File.Path == file);
        return Page();

        static int Order(SetLetter l) => l.Character[0] switch { >= 'A' and <= 'Z' => 0, >= 'a' and <= 'z' => 1, >= '0' and <= '9' => 2, var c when char.IsLetter(c) => 3, _ => 4 };
    }

    /// <summary>Where a letter's picture stands over its line, pixels: left of it nothing, and how far its foot lies below.</summary>
    public static (int Width, int Height, int Below) Picture(Line line)
    {
        const double border = 2;
        var letter = line.Letter!;
        return ((int)Math.Round((letter.WidthMm + (2 * border)) * line.Scale), (int)Math.Round((letter.Ink.Box.Height + (2 * border)) * line.Scale), (int)Math.Round((letter.BelowMm + border) * line.Scale));
    }

    /// <summary>How far the letters of a size reach above and below their lines, pixels.</summary>
    public static (int Above, int Below) Room(IReadOnlyList<Line> letters) => (letters.Max(l => Picture(l) is var p ? p.Height - p.Below : 0), letters.Max(l => Picture(l).Below));

    /// <summary>The address of a letter's picture.</summary>
    public string PictureOf(Line line) => $"/letters/sets/{Open.Line.Id}/letter.png?path={Uri.EscapeDataString(line.Taken.File.Path)}&scale={(line.Scale * PictureScale).ToString("0.###", CultureInfo.InvariantCulture)}";
}
