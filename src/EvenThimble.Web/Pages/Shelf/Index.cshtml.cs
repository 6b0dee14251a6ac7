using EvenThimble.Core.Files.Jobs;
using EvenThimble.Core.Files.Stitch;
using EvenThimble.Core.Jobs;
using EvenThimble.Core.Machines;
using EvenThimble.Core.Text;
using EvenThimble.Storage;
using EvenThimble.Web.Look;
using EvenThimble.Web.Workroom;
using Microsoft.AspNetCore.Mvc;
using Microsoft.AspNetCore.Mvc.RazorPages;

namespace EvenThimble.Web.Pages;

/// <summary>Designs and jobs.</summary>
public sealed class ShelfModel(DesignStore designs, JobStore jobs, BlobStore blobs, JobDesk desk, Importer importer, JobCase cases, MachineCatalogue machines, TimeProvider clock) : PageModel
{
    /// <summary>A job with what is computed from it.</summary>
    public sealed record JobEntry(JobLine Line, OpenJob Open);

    /// <summary>Whether a design fits a machine, and in which hoop or why not.</summary>
    public sealed record FitMark(string Machine, bool Good, string Why);

    /// <summary>What can be undone, and by which handler.</summary>
    public sealed record UndoOffer(string Says, string Handler, long Id);

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

    public Preferences Look { get; private set; } = new(default, false);

    public DateTimeOffset Now { get; private set; }

    public UndoOffer? Undo { get; private set; }

    /// <summary>Whether a filter is on.</summary>
    public bool Filtered => !string.IsNullOrWhiteSpace(Find) || !string.IsNullOrWhiteSpace(Fits);

    public IActionResult OnGet() => Request.Headers.ContainsKey("HX-Request") ? Lists() : Filled(Page());

    /// <summary>Makes a job of a design and opens it.</summary>
    public IActionResult OnPostOpen(long id)
    {
        if (designs.Find(id) is not { } card || designs.Load(id, blobs) is not { } design) return NotFound();
        return Redirect($"/jobs/{jobs.Create(Job.FromDesign(card.OriginalHash, design, machines.HoopFor(design.Bounds)), $"Opened {design.Title}")}");
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
            if (name.EndsWith(JobArchive.Extension, StringComparison.OrdinalIgnoreCase) || JobArchive.LooksLike(bytes.ToArray()))
            {
                var (job, title) = cases.Unpack(bytes.ToArray());
                return Told(StatusCodes.Status200OK, name, $"The job “{title}” is among the jobs in hand.", job: job);
            }

            var result = importer.Import(name, bytes.ToArray());
            return Told(StatusCodes.Status200OK, name, result.WasThere ? $"This file is on the shelf already, as “{result.Title}”. Nothing was added." : $"“{result.Title}” is on the shelf.", result.Id);
        }
        catch (Exception e) when (Refusals.Of(e) is { } refusal)
        {
            return Told(refusal.Status, name, refusal.Sentence);
        }
    }

    public IActionResult OnPostDeleteDesign(long id)
    {
        var title = designs.Find(id)?.Title;
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
        var title = jobs.Find(id)?.Job.Title;
        if (jobs.Delete(id)) Undo = new($"Deleted the job “{title}”.", "RestoreJob", id);
        return Lists();
    }

    public IActionResult OnPostRestoreJob(long id)
    {
        jobs.Restore(id);
        return Lists();
    }

    public IActionResult OnPostTag(long id, string? tags)
    {
        designs.Tag(id, tags ?? string.Empty);
        return StatusCode(StatusCodes.Status204NoContent);
    }

    /// <summary>By machine: the smallest hoop that holds the design, or why none does.</summary>
    public IEnumerable<FitMark> FitsOf(DesignCard design) => machines.All.Select(m => FitOn(m, design));

    private static FitMark FitOn(SewingMachineModel machine, DesignCard design)
    {
        if (machine.SmallestHoopFor(design.Width, design.Height) is not { } hoop) return new(machine.Name, false, "too large for its hoops");
        if (design.Stitches > machine.MostStitches) return new(machine.Name, false, "too many stitches");
        if (machine.MostThreadChanges is { } most && design.ThreadChanges > most) return new(machine.Name, false, "too many thread changes");
        return new(machine.Name, true, hoop.Turned ? $"fits {hoop.Field.Name}, turned" : $"fits {hoop.Field.Name}");
    }

    private PartialViewResult Lists()
    {
        Filled(null);
        return Partial("_Lists", this);
    }

    private IActionResult Filled(IActionResult? result)
    {
        (Look, Now) = (Preferences.Of(HttpContext), clock.GetUtcNow());
        var words = (Find ?? string.Empty).Split(' ', StringSplitOptions.RemoveEmptyEntries);
        bool Named(string text) => words.All(w => text.Contains(w, StringComparison.OrdinalIgnoreCase));
        var machine = machines.Find(Fits);
        Designs = [.. designs.All().Where(d => Named($"{d.Title} {d.Tags} {d.FileName}") && (machine is null || FitOn(machine, d).Good))];
        Jobs =
        [
            .. jobs.All().Where(j => Named(j.Title))
                .Select(j => new JobEntry(j, desk.Find(j.Id)!))
                .Where(j => machine is null || machine.SmallestHoopFor(j.Open.Plan.Bounds.Width, j.Open.Plan.Bounds.Height) is not null),
        ];
        return result!;
    }

    private static JsonResult Told(int status, string name, string says, long? design = null, long? job = null) => new(new { name, says, design, job }) { StatusCode = status };
}
