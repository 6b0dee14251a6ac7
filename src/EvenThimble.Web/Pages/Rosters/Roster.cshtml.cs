using EvenThimble.Core.Files.Rosters;
using EvenThimble.Core.Names;
using EvenThimble.Core.Text;
using EvenThimble.Storage;
using Microsoft.AspNetCore.Mvc;
using Microsoft.AspNetCore.Mvc.RazorPages;

namespace EvenThimble.Web.Pages.Rosters;

/// <summary>One roster, typed like a small table: every change is kept at once and can be taken back.</summary>
public sealed class RosterModel(RosterStore rosters) : PageModel
{
    /// <summary>A column of the table that is no field.</summary>
    public const int QuantityColumn = -1;

    /// <summary>The other.</summary>
    public const int GarmentColumn = -2;

    [BindProperty(SupportsGet = true)]
    public long Id { get; set; }

    /// <summary>What is looked for.</summary>
    [BindProperty(SupportsGet = true)]
    public string? Find { get; set; }

    /// <summary>The roster.</summary>
    public KeptRoster Kept { get; private set; } = null!;

    /// <summary>What may be mended.</summary>
    public IReadOnlyList<FaultOfPerson> Faults { get; private set; } = [];

    public string? Says { get; private set; }

    public bool Trouble { get; private set; }

    /// <summary>Whether a person is shown.</summary>
    public bool IsShown(Person person) => string.IsNullOrWhiteSpace(Find) || person.Values.Append(person.Garment).Any(v => PlainLetters.Of(v).Contains(PlainLetters.Of(Find.Trim()), StringComparison.OrdinalIgnoreCase));

    public IActionResult OnGet() => Shown() ? Page() : NotFound();

    /// <summary>The people alone, for a search.</summary>
    public IActionResult OnGetPeople() => Shown() ? Partial("_People", this) : NotFound();

    /// <summary>The roster as CSV.</summary>
    public IActionResult OnGetExport() => Shown() ? File(RosterTable.Write(Kept.Roster), "text/csv", Titles.FileName(Kept.Roster.Name) + ".csv") : NotFound();

    /// <summary>One cell as it was typed.</summary>
    public IActionResult OnPostCell(int person, int field, string? value)
    {
        var answer = Done(r => field switch
        {
            QuantityColumn => r.With(new PersonId(person), p => p with { Quantity = Quantity(value) }),
            GarmentColumn => r.With(new PersonId(person), p => p with { Garment = Roster.Value(value).Trim() }),
            >= 0 when field < r.Fields.Length => r.With(new PersonId(person), field, value ?? string.Empty),
            _ => throw new EditRefusedException("There is no such column."),
        });
        return Trouble || answer is NotFoundResult ? answer : Partial("_Checks", this);
    }

    /// <summary>A person more, after another or at the end.</summary>
    public IActionResult OnPostAdd(int? after) => Done(r => r.Inserting(after is { } id ? Place(r, id) + 1 : r.People.Length, []));

    /// <summary>The same person once more, below.</summary>
    public IActionResult OnPostDuplicate(int person) => Done(r => r.People.FirstOrDefault(p => p.Id.Value == person) is { } same ? r.Inserting(Place(r, person) + 1, same.Values, same.Quantity, same.Garment) : r);

    public IActionResult OnPostRemove(int person) => Done(r => r.Without(new HashSet<PersonId> { new(person) }));

    /// <summary>A place further up or down.</summary>
    public IActionResult OnPostMove(int person, int by) => Done(r => r.Moving(new(person), Place(r, person) + Math.Clamp(by, -1, 1)));

    public IActionResult OnPostSort(int field) => Done(r => field >= 0 && field < r.Fields.Length ? r.SortedBy(field) : r);

    public IActionResult OnPostField(string? name) => Done(r => r.WithField(name ?? string.Empty));

    public IActionResult OnPostRenameField(int field, string? name) => Done(r => field >= 0 && field < r.Fields.Length ? r.RenamingField(field, name ?? string.Empty) : r);

    public IActionResult OnPostDropField(int field) => Done(r => field >= 0 && field < r.Fields.Length ? r.WithoutField(field) : r);

    /// <summary>A block of cells that was pasted at a cell: rows and columns from there on, new people where there are none.</summary>
    public IActionResult OnPostPaste(int person, int field, string? block) => Done(r =>
    {
        if (field < 0 || field >= r.Fields.Length) throw new EditRefusedException("There is no such column.");
        var rows = (block ?? string.Empty).ReplaceLineEndings("\n").TrimEnd('\n').Split('\n').Take(Roster.MostPeople + 1).ToList();
        var at = Math.Max(0, Place(r, person));
        foreach (var row in rows)
        {
            if (at >= r.People.Length) r = r.Adding([]);
            var cells = row.Split('\t');
            for (var c = 0; c < cells.Length && field + c < r.Fields.Length; c++) r = r.With(r.People[at].Id, field + c, cells[c].Trim());
            at++;
        }

        return r;
    });

    /// <summary>Mends all faults of a kind.</summary>
    public IActionResult OnPostMend(RosterFault fault) => Done(r => RosterChecks.Mended(r, fault));

    public IActionResult OnPostRename(string? name) => Done(r => r with { Name = Titles.Clean(name) is { Length: > 0 } called ? called : throw new EditRefusedException("A roster needs a name.") });

    public IActionResult OnPostUndo()
    {
        if (rosters.Undo(Id) is null) return NotFound();
        Shown();
        return Partial("_People", this);
    }

    private static int Place(Roster roster, int person) => roster.People.ToList().FindIndex(p => p.Id.Value == person) is >= 0 and var at ? at : roster.People.Length - 1;

    private static int Quantity(string? typed) => int.TryParse(typed?.Trim(), System.Globalization.NumberStyles.None, System.Globalization.CultureInfo.InvariantCulture, out var n) && n is >= 1 and <= Person.MostGarments
        ? n : throw new EditRefusedException($"“{Titles.Clean(typed)}” is no number of garments; there can be 1 to {Person.MostGarments}.");

    private IActionResult Done(Func<Roster, Roster> change)
    {
        try
        {
            if (rosters.Change(Id, change) is null) return NotFound();
        }
        catch (EditRefusedException e)
        {
            (Says, Trouble) = (e.Message, true);
            Response.StatusCode = StatusCodes.Status422UnprocessableEntity;
        }

        return !Shown() ? NotFound() : Request.Headers.ContainsKey("HX-Request") ? Partial("_People", this) : Page();
    }

    private bool Shown()
    {
        if (rosters.Find(Id) is not { } kept) return false;
        (Kept, Faults) = (kept, RosterChecks.Of(kept.Roster));
        return true;
    }
}
