using EvenThimble.Core.Garments;
using EvenThimble.Core.Jobs;
using EvenThimble.Core.Machines;
using EvenThimble.Core.Names;
using EvenThimble.Core.Text;
using EvenThimble.Equipment;
using EvenThimble.Rendering.Sheets;
using EvenThimble.Storage;
using EvenThimble.Web.Look;
using EvenThimble.Web.Workroom;
using Microsoft.AspNetCore.Mvc;
using Microsoft.AspNetCore.Mvc.Filters;
using Microsoft.AspNetCore.Mvc.RazorPages;

namespace EvenThimble.Web.Pages.Names;

/// <summary>All names of a job: each laid, the worst first; the proof for the customer; the files for the machines.</summary>
public sealed class IndexModel(JobDesk desk, JobStore jobs, NameDesk names, EquipmentRoom room, MachineCatalogue machines, TimeProvider clock) : PageModel
{
    /// <summary>Files that are written with one request; the page asks for the next.</summary>
    public const int AtOnce = 8;

    [BindProperty(SupportsGet = true)]
    public long Id { get; set; }

    /// <summary>The machine that sews.</summary>
    [BindProperty(SupportsGet = true, Name = "machine")]
    public string? MachineId { get; set; }

    /// <summary>In which files.</summary>
    [BindProperty(SupportsGet = true)]
    public SewingWay? Way { get; set; }

    /// <summary>What of the job.</summary>
    [BindProperty(SupportsGet = true)]
    public SewnPart Part { get; set; }

    /// <summary>On how many heads at once.</summary>
    [BindProperty(SupportsGet = true)]
    public int? Heads { get; set; }

    public OpenJob Open { get; private set; } = null!;

    public Preferences Look { get; private set; } = null!;

    /// <summary>The names; null: there is nothing to sew names with.</summary>
    public NameRoll? Roll { get; private set; }

    /// <summary>Why there is not.</summary>
    public string? Refused { get; private set; }

    public string? Says { get; private set; }

    public bool Trouble { get; private set; }

    public IReadOnlyList<SewingMachineModel> Machines => machines.All;

    public IReadOnlyList<RemovableStick> Sticks => room.Sticks;

    /// <summary>What arrived.</summary>
    public IReadOnlyList<NameArrival> Arrivals { get; private set; } = [];

    /// <summary>How many names are stitched, while they are; null: all are.</summary>
    public int? Stitched { get; private set; }

    /// <summary>How many files are still to be written; null: none were asked for.</summary>
    public int? Left { get; private set; }

    /// <summary>The number of the next file to be written, from 0.</summary>
    public int Next { get; private set; }

    /// <summary>How it is to be sewn.</summary>
    public NameWish Wish { get; private set; } = null!;

    /// <summary>The files of that, as far as they can be listed.</summary>
    public IReadOnlyList<(string Stem, System.Collections.Immutable.ImmutableArray<SewnGarment> Garments)> Files { get; private set; } = [];

    /// <summary>Why they cannot.</summary>
    public string? FilesRefused { get; private set; }

    /// <summary>Those who are in no file.</summary>
    public IReadOnlyList<RollName> LeftOut { get; private set; } = [];

    public override void OnPageHandlerExecuting(PageHandlerExecutingContext context)
    {
        Look = Preferences.Of(HttpContext);
        if (desk.Find(Id) is not { } open)
        {
            context.Result = NotFound();
            return;
        }

        Opened(open);
    }

    public void OnGet() => ListFiles();

    /// <summary>The list alone, once all names are stitched.</summary>
    public IActionResult OnGetRoll() => Roll is null ? NotFound() : Partial("_Roll", this);

    /// <summary>Stitches some names; the page asks for the next.</summary>
    public IActionResult OnPostStitch(int from)
    {
        if (Roll is null) return NotFound();
        Stitched = names.StitchSome(Open, Math.Clamp(from, 0, Roll.All.Length));
        return Partial("_Stitching", this);
    }

    /// <summary>A name as thread.</summary>
    public IActionResult OnGetPicture(int person) => Find(person) is { CanBeSewn: true } name ? File(names.PictureOf(Open, name), "image/png") : NotFound();

    /// <summary>The proof on paper.</summary>
    public IActionResult OnGetProof(string? paper) => Roll is null ? NotFound() : File(Proof().ToPdf(Paper.Named(paper)), "application/pdf", $"{Titles.FileName(Open.Job.Title)} proof.pdf");

    /// <summary>One file of the list, to be kept wherever the browser puts it.</summary>
    public IActionResult OnGetFile(int number)
    {
        ListFiles();
        if (Roll is null || number < 0 || number >= Files.Count) return NotFound();
        var made = names.FilesOf(Open, Wish).Made(Files[number].Stem, Files[number].Garments, Wish.Way, Wish.Part);
        return File(names.Write(Open, Wish, made), Wish.Machine.Takes[0].MediaType, made.Stem + Wish.Machine.Takes[0].Extension);
    }

    /// <summary>Sets a name otherwise for one person: lines, spelling, height.</summary>
    public IActionResult OnPostOwn(int person, int slot, string? text, string? height) => Done(() =>
    {
        var name = Find(person) ?? throw new EditRefusedException("That person is no longer in the roster of this job.");
        var pattern = (Open.Job.Pieces.FirstOrDefault(p => p.Id.Value == slot)?.Content as NameSlotContent ?? throw new EditRefusedException("That name slot is no longer in this job.")).Slot.Pattern;
        var typed = Titles.CleanLines(text, SlotText.LongestPattern, 20);
        var usual = SlotText.Of(pattern, Roll!.Names.Roster, name.Person);
        double? mm = string.IsNullOrWhiteSpace(height) ? null : LengthText.TryParse(height, Look.Unit, out var v) ? v : throw new EditRefusedException("That is no height. Type a number, such as 6.5.");
        return new SetOwnName(new(name.Person.Id, new(slot), typed.Length == 0 || typed == usual ? null : typed, mm));
    }, $"name-{person}");

    /// <summary>Notes that the customer has what is shown.</summary>
    public IActionResult OnPostProofed() => Done(() => new KeepProof([.. (Roll ?? throw new EditRefusedException(Refused!)).All.SelectMany(n => n.Slots.Select(s => new ProofedName(n.Person.Id, s.Slot, s.Text)))]), "proof");

    /// <summary>Calls files otherwise.</summary>
    public IActionResult OnPostRule(string? rule) => Done(() => new NameFiles(rule ?? string.Empty), "files");

    /// <summary>Writes files of the list and hands them over, a few with each request.</summary>
    public IActionResult OnPostHandOver(string where, bool replace, int from)
    {
        ListFiles();
        if (Roll is null || FilesRefused is not null) return Troubled(FilesRefused ?? Refused!);
        try
        {
            var some = Enumerable.Range(from, Math.Max(0, Math.Min(AtOnce, Files.Count - from))).ToHashSet();
            Arrivals = names.Deliver(Open, Wish, where, replace, some);
            (Next, Left) = (from + some.Count, Files.Count - from - some.Count);
            return Partial("_Arrivals", this);
        }
        catch (EditRefusedException e)
        {
            return Troubled(e.Message);
        }
    }

    /// <summary>What a proof says of a person.</summary>
    public static string GarmentOf(Person person) => string.Join(" ", new[] { person.Quantity > 1 ? $"{person.Quantity} ×" : string.Empty, person.Garment }.Where(t => t.Length > 0));

    private RollName? Find(int person) => Roll?.All.FirstOrDefault(n => n.Person.Id.Value == person);

    private ProofSheet Proof() => new(
        $"{Open.Job.Title}: names to be sewn",
        [$"{Roll!.Names.Roster.Name} · {Ui.Of(Roll.All.Length, "name")}, {Ui.Of(Roll.Names.Roster.Garments, "garment")} · {DateOnly.FromDateTime(clock.GetLocalNow().DateTime):d MMMM yyyy}", "Read each name letter by letter, tick it, and sign below. The pictures show it as thread, not at true size."],
        [.. Roll.All.Select(n => new ProofLine(n.Number, string.Join(", ", n.Slots.Select(s => s.Text.ReplaceLineEndings(" / "))), GarmentOf(n.Person), n.CanBeSewn ? names.PictureOf(Open, n) : null, n.CanBeSewn ? string.Empty : "cannot be sewn"))]);

    private IActionResult Done(Func<JobEdit> edit, string anchor)
    {
        try
        {
            jobs.Apply(Id, Open.Stored.Version, edit());
            return Redirect($"/jobs/{Id}/names{Request.QueryString.Value?.Split("handler=")[0].TrimEnd('?', '&')}#{anchor}");
        }
        catch (Exception e) when (e is EditRefusedException or StaleEditException)
        {
            return Troubled(e.Message);
        }
    }

    private IActionResult Troubled(string says)
    {
        ListFiles();
        (Says, Trouble) = (says, true);
        Response.StatusCode = StatusCodes.Status422UnprocessableEntity;
        return Request.Headers.ContainsKey("HX-Request") ? Partial("_Arrivals", this) : Page();
    }

    private void Opened(OpenJob open)
    {
        Open = open;
        var machine = machines.Find(MachineId) ?? open.Machine;
        Wish = new(machine, Way ?? (machine.Heads > 1 ? SewingWay.Rounds : SewingWay.EachGarment), Part, Heads ?? machine.Heads);
        try
        {
            Roll = names.RollOf(open);
            Stitched = names.IsStitched(open, Roll) ? null : 0;
        }
        catch (EditRefusedException e)
        {
            Refused = e.Message;
            return;
        }
    }

    /// <summary>Lists the files; pictures and proofs do without.</summary>
    private void ListFiles()
    {
        if (Roll is null) return;
        try
        {
            var files = names.FilesOf(Open, Wish);
            (Files, LeftOut) = (files.Listed(Wish.Way, Wish.Part, Wish.Heads), Wish.Part == SewnPart.DesignOnly ? [] : files.LeftOut);
        }
        catch (EditRefusedException e)
        {
            FilesRefused = e.Message;
        }
    }
}
