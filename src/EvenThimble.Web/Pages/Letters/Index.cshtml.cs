using EvenThimble.Core.Files.Letters;
using EvenThimble.Core.Lettering;
using EvenThimble.Core.Text;
using EvenThimble.Rendering.Fonts;
using EvenThimble.Storage;
using EvenThimble.Web.Look;
using EvenThimble.Web.Workroom;
using Microsoft.AspNetCore.Mvc;
using Microsoft.AspNetCore.Mvc.RazorPages;

namespace EvenThimble.Web.Pages;

/// <summary>The lettering fonts, and of one of them the gaps between its letters: how the font has them, and how they were set by hand.</summary>
public sealed class LettersModel(LetterFonts fonts, FontStore store, LetterSets sets) : PageModel
{
    private const double Step = 0.02;
    private const string Letters = "ABCDEFGHIJKLMNOPQRSTUVWXYZabcdefghijklmnopqrstuvwxyz0123456789&.,’-";
    private static readonly LetteringWish Unset = new(string.Empty);

    /// <summary>Two letters of a font and what stands between them.</summary>
    /// <param name="Font">The font.</param>
    /// <param name="Left">The left letter.</param>
    /// <param name="Right">The right letter.</param>
    /// <param name="Share">What is added between them, in heights of a capital.</param>
    /// <param name="ByHand">Whether that was set by hand.</param>
    public sealed record Pair(string Font, string Left, string Right, double Share, bool ByHand)
    {
        /// <summary>The address of its picture.</summary>
        public string Picture => $"/letters/pair.png?font={Uri.EscapeDataString(Font)}&left={Uri.EscapeDataString(Left)}&right={Uri.EscapeDataString(Right)}&share={Share.ToString("0.#####", System.Globalization.CultureInfo.InvariantCulture)}";
    }

    /// <summary>All fonts, the user's own first, the others by their kinds.</summary>
    public IReadOnlyList<FontLine> Fonts { get; private set; } = [];

    /// <summary>The words that fonts are shown in.</summary>
    public string Words { get; private set; } = "Larkmoor";

    /// <summary>The font whose gaps are shown; null: none.</summary>
    public LetterFace? Face { get; private set; }

    /// <summary>The letter whose gaps are shown.</summary>
    public string Left { get; private set; } = "A";

    /// <summary>The gaps after that letter.</summary>
    public IReadOnlyList<Pair> Pairs { get; private set; } = [];

    /// <summary>The gaps of the font that were set by hand.</summary>
    public IReadOnlyList<Pair> ByHand { get; private set; } = [];

    /// <summary>The letters that one can look at the gaps of.</summary>
    public static IEnumerable<string> AllLetters => Letters.Select(c => c.ToString());

    public Preferences Look { get; private set; } = new(default, false);

    public string? Says { get; private set; }

    public bool Trouble { get; private set; }

    /// <summary>All letter sets.</summary>
    public IReadOnlyList<LetterSetLine> Sets => sets.All;

    public void OnGet(string? words, string? font, string? left) => Show(words, font, left);

    /// <summary>Takes a font file in; the answer is for a script.</summary>
    public async Task<IActionResult> OnPostBringAsync(IFormFile? file)
    {
        try
        {
            if (file is null) throw new StitchFileException("No file came with the request. Choose one and try again.");
            if (file.Length > FontFile.LargestFile) throw new StitchFileException($"The font is larger than {FontFile.LargestFile >> 20} MB. Check that it is the right file.");
            using var bytes = new MemoryStream((int)file.Length);
            await file.CopyToAsync(bytes, HttpContext.RequestAborted);
            var font = fonts.Add(Titles.Clean(file.FileName.Split('/', '\\')[^1]), bytes.ToArray());
            return new JsonResult(new { name = font.Name, says = $"{font.Name} is among your fonts." });
        }
        catch (Exception e) when (Refusals.Of(e) is { } refusal)
        {
            return new JsonResult(new { name = string.Empty, says = refusal.Sentence }) { StatusCode = refusal.Status };
        }
    }

    /// <summary>A place for the files of a letter set to come to, one after another; the answers are for a script.</summary>
    public IActionResult OnPostBegin() => new JsonResult(new { token = sets.Begin(), says = string.Empty });

    /// <summary>Lays one file of a letter set down.</summary>
    public async Task<IActionResult> OnPostLayAsync(string? token, string? path, IFormFile? file)
    {
        try
        {
            if (file is null) throw new StitchFileException("No file came with the request. Choose one and try again.");
            if (file.Length > LetterSetFiles.LargestAltogether) throw new StitchFileException("The file is larger than all files of a letter set together can be. Check that it is the right one.");
            using var bytes = new MemoryStream((int)file.Length);
            await file.CopyToAsync(bytes, HttpContext.RequestAborted);
            return new JsonResult(new { count = sets.Lay(token ?? string.Empty, path ?? file.FileName, bytes.ToArray()), says = string.Empty });
        }
        catch (Exception e) when (Refusals.Of(e) is { } refusal)
        {
            return new JsonResult(new { says = refusal.Sentence }) { StatusCode = refusal.Status };
        }
    }

    /// <summary>Makes a letter set of the files that were laid down.</summary>
    public IActionResult OnPostFinish(string? token, string? name)
    {
        try
        {
            var set = sets.Finish(token ?? string.Empty, Titles.Clean(name ?? string.Empty));
            return new JsonResult(new { id = set.Id, says = $"{set.Name} is among your letter sets." });
        }
        catch (Exception e) when (Refusals.Of(e) is { } refusal)
        {
            return new JsonResult(new { says = refusal.Sentence }) { StatusCode = refusal.Status };
        }
    }

    public IActionResult OnPostRemoveSet(long id)
    {
        var name = sets.Remove(id);
        Show(null, null, null);
        (Says, Trouble) = name is null ? ("That letter set is no longer here.", true) : ($"Took {name} out. Jobs that were written with it keep their letters.", false);
        return Page();
    }

    public IActionResult OnPostRemove(string hash)
    {
        var name = fonts.Remove(hash);
        Show(null, null, null);
        (Says, Trouble) = name is null ? ("That font is no longer here.", true) : ($"Took {name} out. Jobs that were written in it keep their letters.", false);
        return Page();
    }

    /// <summary>Sets a gap by hand and answers with the pair as it is now.</summary>
    public IActionResult OnPostSet(string font, string left, string right, string? gap, int steps, bool reset) => Told(font, () =>
    {
        var face = FaceOf(font);
        var table = store.KerningOf(face.Name);
        if (PairOf(face, table, left, right) is not { } pair) throw new EditRefusedException("Those two letters do not stand side by side in this font.");
        table = reset ? table.Without(left, right) : table.With(left, right, steps != 0 ? pair.Share + (steps * Step) : Bench.BenchView.Percent(gap ?? string.Empty) / 100);
        store.Keep(face.Name, table);
        return Partial("_Pair", PairOf(face, table, left, right));
    });

    /// <summary>Takes over the gaps of a font that looks alike: those that were set by hand, and those that the font itself has.</summary>
    public IActionResult OnPostBorrow(string font, string from, string? left) => Told(font, () =>
    {
        var (face, other) = (FaceOf(font), FaceOf(from));
        var (table, theirs, taken) = (store.KerningOf(face.Name), store.KerningOf(other.Name), 0);
        foreach (var a in AllLetters)
        {
            foreach (var b in AllLetters)
            {
                if (table.Between(a, b) is not null || PairOf(face, table, a, b) is null) continue;
                if ((theirs.Between(a, b) ?? LetteringLayout.KerningOf(Unset with { OpticalSpacing = false }, other.Font, a, b)) is not { } share || share == 0) continue;
                table = table.With(a, b, share);
                taken++;
            }
        }

        store.Keep(face.Name, table);
        Show(null, font, left);
        Says = taken == 0 ? $"{other.Name} has no gaps of its own that were missing here." : $"Took {taken:N0} gaps of {other.Name} over. Those that were set here by hand stayed.";
        return Page();
    });

    public IActionResult OnPostForget(string font, string? left) => Told(font, () =>
    {
        var face = FaceOf(font);
        store.Keep(face.Name, KerningTable.Empty);
        Show(null, font, left);
        Says = $"{face.Name} has its own gaps again. What is written already keeps those that it was written with.";
        return Page();
    });

    private IActionResult Told(string font, Func<IActionResult> work)
    {
        try
        {
            return work();
        }
        catch (RefusedException e)
        {
            Response.StatusCode = StatusCodes.Status422UnprocessableEntity;
            if (Request.Headers.ContainsKey("HX-Request")) return Content(e.Message, "text/plain");
            Show(null, font, null);
            (Says, Trouble) = (e.Message, true);
            return Page();
        }
    }

    private LetterFace FaceOf(string font) => fonts.Find(font) ?? throw new EditRefusedException("That font is not here.");

    private static Pair? PairOf(LetterFace face, KerningTable table, string left, string right) =>
        LetteringLayout.KerningOf(Unset with { Pairs = table }, face.Font, left, right, face.Optical) is { } share ? new(face.Name, left, right, share, table.Between(left, right) is not null) : null;

    private void Show(string? words, string? font, string? left)
    {
        Look = Preferences.Of(HttpContext);
        if (!string.IsNullOrWhiteSpace(words)) Words = Titles.Clean(words);
        try
        {
            Face = font is null ? null : fonts.Find(font);
        }
        catch (StitchFileException e)
        {
            (Says, Trouble) = (e.Message, true);
        }

        if (Face is not { } face)
        {
            Fonts = fonts.All;
            return;
        }

        if (AllLetters.Contains(left)) Left = left!;
        var table = store.KerningOf(face.Name);
        ByHand = [.. table.Pairs.Select(p => new Pair(face.Name, p.Left, p.Right, p.Share, ByHand: true))];
        Pairs = [.. AllLetters.Select(right => PairOf(face, table, Left, right)).OfType<Pair>()];
    }

    /// <summary>At which sizes a font sews well, in words.</summary>
    public string GoodSizes(string name) => fonts.GoodSizes(name, Look.Unit);

    /// <summary>Fonts whose gaps could be taken over.</summary>
    public IEnumerable<string> Others => fonts.All.Select(f => f.Name).Where(n => n != Face?.Name);
}
