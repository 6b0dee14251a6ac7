using System.Globalization;
using EvenThimble.Core.Files.Jobs;
using EvenThimble.Core.Files.Stitch;
using EvenThimble.Core.Jobs;
using EvenThimble.Core.Machines;
using EvenThimble.Core.Readiness;
using EvenThimble.Core.Text;
using EvenThimble.Storage;
using EvenThimble.Web.Look;
using EvenThimble.Web.Workroom;
using Microsoft.AspNetCore.Mvc;
using Microsoft.AspNetCore.Mvc.RazorPages;
using Microsoft.AspNetCore.WebUtilities;

namespace EvenThimble.Web.Pages;

/// <summary>Designs and jobs.</summary>
public sealed class ShelfModel(DesignStore designs, JobStore jobs, BlobStore blobs, JobDesk desk, Importer importer, JobCase cases, LetterFonts fonts, MachineCatalogue machines, Database database, TimeProvider clock) : PageModel
{
    // About what a screen shows; more come when the end of them is seen.
    private const int DesignsAtOnce = 24;
    private const int JobsAtOnce = 8;

    /// <summary>A job as it is listed.</summary>
    /// <param name="Line">What is stored of it.</param>
    /// <param name="Summary">What is known of it; null where it cannot be read.</param>
    /// <param name="Trouble">Why it cannot be read, in a sentence.</param>
    public sealed record JobEntry(JobLine Line, JobSummary? Summary, string? Trouble);

    /// <summary>Whether a design fits a machine, and in which hoop or why not.</summary>
    public sealed record FitMark(string Machine, bool Good, string Why);

    /// <summary>What can be undone, and by which handler.</summary>
    public sealed record UndoOffer(string Says, string Handler, long Id);

    /// <summary>What was mended of the data when they were opened; null: all was sound.</summary>
    public string? Mended => database.Mended;

    /// <summary>The machines that a design may be asked to fit.</summary>
    public IReadOnlyList<SewingMachineModel> Machines => machines.All;

    /// <summary>Words to find by.</summary>
    [BindProperty(SupportsGet = true)]
    public string? Find { get; set; }

    /// <summary>Only what fits this machine.</summary>
    [BindProperty(SupportsGet = true)]
    public string? Fits { get; set; }

    public IReadOnlyList<DesignCard> Designs { get; private set; } = [];

    public IReadOnlyList<JobEntry> Jobs { get; private set; } = [];

    /// <summary>Where the next designs begin; null when these are the last.</summary>
    public int? NextDesigns { get; private set; }

    /// <summary>Where the next jobs begin; null when these are the last.</summary>
    public int? NextJobs { get; private set; }

    /// <summary>How many jobs come after these.</summary>
    public int JobsBeyond { get; private set; }

    /// <summary>The address of the next cards of a list.</summary>
    public string More(string list, int from) => QueryHelpers.AddQueryString("/", new Dictionary<string, string?> { ["handler"] = list, ["from"] = from.ToString(CultureInfo.InvariantCulture), ["find"] = Find, ["fits"] = Fits });

    public Preferences Look { get; private set; } = new(default, false);

    public DateTimeOffset Now { get; private set; }

    public UndoOffer? Undo { get; private set; }

    /// <summary>Whether a filter is on.</summary>
    public bool Filtered => !string.IsNullOrWhiteSpace(Find) || !string.IsNullOrWhiteSpace(Fits);

    public IActionResult OnGet() => Request.Headers.ContainsKey("HX-Request") ? Lists() : Filled(Page());

    /// <summary>The next designs.</summary>
    public IActionResult OnGetMoreDesigns(int from)
    {
        FillDesigns(Math.Max(0, from));
        return Partial("_Designs", this);
    }

    /// <summary>The next jobs.</summary>
    public IActionResult OnGetMoreJobs(int from)
    {
        FillJobs(Math.Max(0, from));
        return Partial("_Jobs", this);
    }

    /// <summary>Makes a job of a design and opens it.</summary>
    public IActionResult OnPostOpen(long id)
    {
        if (designs.Find(id) is not { } card || designs.Load(id, blobs) is not { } design) return NotFound();
        var job = Job.FromDesign(card.OriginalHash, design, machines.HoopFor(design.Bounds));
        return Redirect($"/jobs/{jobs.Create(job, $"Opened {design.Title}", summary: JobSummary.Of(job, desk.Try(job), machines, fonts))}");
    }

    /// <summary>Makes a job with nothing in it and opens it where shapes are drawn.</summary>
    public IActionResult OnPostNew() => Redirect($"/jobs/{jobs.Create(Job.New(machines.UsualHoop), "Made a new job")}?task=add");

    /// <summary>Takes one file in; answers with what came of it.</summary>
    public async Task<IActionResult> OnPostImportAsync(IFormFile? file)
    {
        if (file is null) return Told(StatusCodes.Status422UnprocessableEntity, string.Empty, "No file came with the request. Choose one and try again.");
        var name = Titles.Clean(file.FileName.Split('/', '\\')[^1]);
        try
        {
            if (file.Length > StitchFormats.LargestFile) throw new StitchFileException($"The file is larger than {StitchFormats.LargestFile / (1024 * 1024)} MB, far more than any stitch file. Check that it is the right one.");
            using var bytes = new MemoryStream((int)file.Length);
            await file.CopyToAsync(bytes, HttpContext.RequestAborted);
            var content = bytes.ToArray();
            if (name.EndsWith(JobArchive.Extension, StringComparison.OrdinalIgnoreCase) || JobArchive.LooksLike(content))
            {
                var (job, title) = cases.Unpack(content);
                return Told(StatusCodes.Status200OK, name, $"The job “{title}” is among the jobs in hand.", job: job);
            }

            var result = importer.Import(name, content);
            return Told(StatusCodes.Status200OK, name, result.WasThere ? $"This file is on the shelf already, as “{result.Title}”. Nothing was added." : $"“{result.Title}” is on the shelf.", result.Id);
        }
        catch (Exception e) when (Refusals.Of(e) is { } refusal)
        {
            return Told(refusal.Status, name, refusal.Sentence);
        }
    }

    public IActionResult OnPostDeleteDesign(long id)
    {
        var title = designs.TitleOf(id);
        if (designs.Delete(id)) Undo = new($"Took “{title}” off the shelf.", "RestoreDesign", id);
        return Lists();
    }

    public IActionResult OnPostRestoreDesign(long id)
    {
        designs.Restore(id);
        return Lists();
    }

    public IActionResult OnPostDeleteJob(long id)
    {
        var title = jobs.TitleOf(id);
        if (jobs.Delete(id)) Undo = new($"Deleted the job “{title}”.", "RestoreJob", id);
        return Lists();
    }

    public IActionResult OnPostRestoreJob(long id)
    {
        jobs.Restore(id);
        return Lists();
    }

    /// <summary>Takes a job that cannot be read back to the last step that can.</summary>
    public IActionResult OnPostStepBack(long id)
    {
        if (!jobs.StepBackToReadable(id)) throw new EditRefusedException("No step of that job's history can be read any more. Put back a copy of the data (./even-thimble restore), or delete the job.");
        return Lists();
    }

    public IActionResult OnPostTag(long id, string? tags)
    {
        designs.Tag(id, tags ?? string.Empty);
        return StatusCode(StatusCodes.Status204NoContent);
    }

    /// <summary>By machine: the smallest hoop that holds the design, or why none does.</summary>
    public IEnumerable<FitMark> FitsOf(DesignCard design) => machines.All.Select(m => FitOn(m, design));

    private static FitMark FitOn(SewingMachineModel machine, DesignCard design) => FitOn(machine, design.Width, design.Height, design.Stitches, design.ThreadChanges);

    private static FitMark FitOn(SewingMachineModel machine, double width, double height, long stitches, long threadChanges)
    {
        if (machine.SmallestHoopFor(width, height) is not { } hoop)
            return new(machine.Name, false, machine.Hoops.FirstOrDefault(h => h.Positions > 1 && width <= h.Whole.Width && height <= h.Whole.Height) is { } whole ? $"fits {whole.Name} in several positions" : "too large for its hoops");
        if (stitches > machine.MostStitches) return new(machine.Name, false, "too many stitches");
        if (machine.MostThreadChanges is { } most && threadChanges > most) return new(machine.Name, false, "too many thread changes");
        return new(machine.Name, true, hoop.Turned ? $"fits {hoop.Field.Name}, turned" : $"fits {hoop.Field.Name}");
    }

    private PartialViewResult Lists()
    {
        Filled(null);
        return Partial("_Lists", this);
    }

    private IActionResult Filled(IActionResult? result)
    {
        FillDesigns(0);
        FillJobs(0);
        return result!;
    }

    private void FillDesigns(int from)
    {
        Look = Preferences.Of(HttpContext);
        var machine = machines.Find(Fits);
        var all = designs.Lines().Where(d => IsNamed($"{d.Title} {d.Tags} {d.FileName}") && (machine is null || FitOn(machine, d.Width, d.Height, d.Stitches, d.ThreadChanges).Good)).ToList();
        Designs = [.. all.Skip(from).Take(DesignsAtOnce).Select(d => designs.Find(d.Id)).OfType<DesignCard>()];
        NextDesigns = from + DesignsAtOnce < all.Count ? from + DesignsAtOnce : null;
    }

    private void FillJobs(int from)
    {
        (Look, Now) = (Preferences.Of(HttpContext), clock.GetUtcNow());
        var all = jobs.All().Where(j => IsNamed(j.Title));
        if (machines.Find(Fits) is { } machine) all = all.Where(j => desk.Listed(j).Summary is not { } s || machine.SmallestHoopFor(s.WidthMm, s.HeightMm) is not null);
        var left = all.Skip(from).ToList();
        Jobs = [.. left.Take(JobsAtOnce).Select(j => desk.Listed(j) is var (summary, trouble) ? new JobEntry(j, summary, trouble) : null!)];
        JobsBeyond = Math.Max(0, left.Count - JobsAtOnce);
        NextJobs = left.Count > JobsAtOnce ? from + JobsAtOnce : null;
    }

    private bool IsNamed(string text) => (Find ?? string.Empty).Split(' ', StringSplitOptions.RemoveEmptyEntries).All(w => text.Contains(w, StringComparison.OrdinalIgnoreCase));

    private static JsonResult Told(int status, string name, string says, long? design = null, long? job = null) => new(new { name, says, design, job }) { StatusCode = status };
}
