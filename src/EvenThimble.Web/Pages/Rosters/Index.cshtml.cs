using EvenThimble.Core.Files.Rosters;
using EvenThimble.Core.Names;
using EvenThimble.Core.Text;
using EvenThimble.Storage;
using Microsoft.AspNetCore.Mvc;
using Microsoft.AspNetCore.Mvc.RazorPages;

namespace EvenThimble.Web.Pages.Rosters;

/// <summary>All rosters; new ones are typed, pasted or brought in as files, and shown before they are taken.</summary>
public sealed class IndexModel(RosterStore rosters) : PageModel
{
    // What came travels in the form until it is taken.
    private const long LargestFile = 3_000_000;

    /// <summary>What was pasted, to be looked at before it is taken.</summary>
    [BindProperty]
    public string? Lines { get; set; }

    /// <summary>The file that came, as it travels from the look at it to the taking.</summary>
    [BindProperty]
    public string? Came { get; set; }

    /// <summary>What the roster is to be called.</summary>
    [BindProperty]
    public string? Name { get; set; }

    /// <summary>Its encoding, where it is told.</summary>
    [BindProperty]
    public string? InEncoding { get; set; }

    /// <summary>Its separator, where it is told.</summary>
    [BindProperty]
    public string? Separator { get; set; }

    /// <summary>The line of its head, where it is told.</summary>
    [BindProperty]
    public int? Head { get; set; }

    /// <summary>All that are kept.</summary>
    public IReadOnlyList<RosterLine> All => rosters.All;

    /// <summary>What was understood of what came.</summary>
    public ReadRoster? Found { get; private set; }

    /// <summary>Whether a workbook came, which has its own encoding and cells.</summary>
    public bool IsWorkbook { get; private set; }

    public string? Says { get; private set; }

    public bool Trouble { get; private set; }

    public void OnGet()
    {
        // The list is read when it is shown.
    }

    /// <summary>A roster with nobody in it.</summary>
    public IActionResult OnPostNew(string? name) => Kept(() => rosters.Add(Roster.New(Titles.Clean(name) is { Length: > 0 } called ? called : "New roster", "given", "family").Adding([])));

    /// <summary>Looks at what was pasted or came as a file, and shows what was understood.</summary>
    public async Task<IActionResult> OnPostLookAsync(IFormFile? file)
    {
        try
        {
            if (file is { Length: > 0 })
            {
                if (file.Length > LargestFile) throw new EditRefusedException("A list of names has at most 3 MB. Save the sheet with the names by itself.");
                using var bytes = new MemoryStream();
                await file.CopyToAsync(bytes, HttpContext.RequestAborted);
                (Came, Lines) = (Convert.ToBase64String(bytes.ToArray()), null);
                if (string.IsNullOrWhiteSpace(Name)) Name = Titles.FromFileName(file.FileName);
            }

            Found = Read();
        }
        catch (EditRefusedException e)
        {
            Refused(e);
        }

        return Page();
    }

    /// <summary>Takes what was shown.</summary>
    public IActionResult OnPostTake() => Kept(() => rosters.Add(Read().Roster));

    /// <summary>The same people once more, for the next season.</summary>
    public IActionResult OnPostCopy(long id) => rosters.Find(id) is not { } kept ? NotFound() : Kept(() => rosters.Add(kept.Roster with { Name = Titles.Clean($"{kept.Roster.Name}, copy") }));

    /// <summary>Deletes one.</summary>
    public IActionResult OnPostDelete(long id)
    {
        var name = All.FirstOrDefault(r => r.Id == id)?.Name;
        Says = rosters.Delete(id) ? $"Deleted “{name}”. Jobs keep the names that they took from it." : "That roster is not there any more.";
        return Page();
    }

    private ReadRoster Read()
    {
        var (name, separator) = (Titles.Clean(Name) is { Length: > 0 } called ? called : "Roster", string.IsNullOrEmpty(Separator) ? (char?)null : Separator[0]);
        var encoding = string.IsNullOrEmpty(InEncoding) ? null : InEncoding;
        if (!string.IsNullOrEmpty(Came))
        {
            var bytes = new byte[(Came.Length * 3 / 4) + 3];
            if (!Convert.TryFromBase64String(Came, bytes, out var length)) throw new EditRefusedException("What came is not there any more. Choose the file again.");
            var file = bytes[..length];
            IsWorkbook = Core.Files.Tables.Workbook.LooksLike(file);
            return RosterTable.Read(file, name, encoding, separator, Head);
        }

        return string.IsNullOrWhiteSpace(Lines) ? throw new EditRefusedException("Paste names, one a line, or choose a file.") : RosterTable.Read(Lines, name, separator, Head);
    }

    private IActionResult Kept(Func<long> add)
    {
        try
        {
            return RedirectToPage("Roster", new { id = add() });
        }
        catch (EditRefusedException e)
        {
            Refused(e);
            return Page();
        }
    }

    private void Refused(EditRefusedException e)
    {
        (Says, Trouble) = (e.Message, true);
        Response.StatusCode = StatusCodes.Status422UnprocessableEntity;
    }
}
