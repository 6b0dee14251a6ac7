using System.Collections.Immutable;
using System.Globalization;
using System.Text.Json;
using EvenThimble.Core.Craft;
using EvenThimble.Core.Geometry;
using EvenThimble.Core.Jobs;
using EvenThimble.Core.Planning;
using EvenThimble.Core.Stitches;
using EvenThimble.Core.Threads;
using EvenThimble.Storage;
using EvenThimble.Web.Look;
using EvenThimble.Web.Workroom;
using Microsoft.AspNetCore.Mvc;
using Microsoft.AspNetCore.Mvc.Filters;
using Microsoft.AspNetCore.Mvc.RazorPages;

namespace EvenThimble.Web.Pages;

/// <summary>The bench: one job, worked on. Every post is one edit and answers with all that it changes on the screen.</summary>
public sealed partial class BenchModel(JobDesk desk, JobStore jobs, ThreadStore threads, ClothStore cloths, DesignStore designs, BlobStore blobs, DrawingTray tray, TimeProvider clock) : PageModel
{
    /// <summary>A task of the rail.</summary>
    public sealed record TaskEntry(string Id, string Name, string Icon, char Key, string Says, bool OnRail = true);

    private const int MostMatches = 60;
    private const string UsualTask = "arrange";

    /// <summary>The tasks that work, in the order of the job; their keys stay the same when others come between.</summary>
    public static readonly TaskEntry[] Tasks =
    [
        new("add", "Add", "bi-plus-square", '1', "Draw shapes, or bring a drawing or a design in"),
        new("arrange", "Arrange", "bi-arrows-move", '2', "Place, turn and order parts"),
        new("stitch", "Stitch", "bi-grip-horizontal", '3', "How it is stitched, and what is left out"),
        new("threads", "Threads", "bi-palette", '5', "Give parts other threads, or fewer changes"),
        new("hoop", "Hoop", "bi-bounding-box-circles", '6', "Machine and hoop"),
        new("cloth", "Cloth", "bi-grid-3x3", 'C', "What the cloth asks for", OnRail: false),
        new("check", "Check", "bi-clipboard-check", '8', "What to look at before sewing"),
    ];

    [BindProperty(SupportsGet = true)]
    public long Id { get; set; }

    /// <summary>The version of the job that the browser shows.</summary>
    [BindProperty(SupportsGet = true)]
    public long Version { get; set; }

    /// <summary>Selected parts, their numbers with commas.</summary>
    [BindProperty(SupportsGet = true)]
    public string? Parts { get; set; }

    [BindProperty(SupportsGet = true)]
    public string Task { get; set; } = UsualTask;

    /// <summary>What threads are searched by.</summary>
    [BindProperty(SupportsGet = true)]
    public string? Find { get; set; }

    /// <summary>The chart that is searched, "maker|range"; empty: all.</summary>
    [BindProperty(SupportsGet = true)]
    public string? Chart { get; set; }

    public OpenJob Open { get; private set; } = null!;

    public Preferences Look { get; private set; } = null!;

    /// <summary>Rendered as pieces that find their own place on the page.</summary>
    public bool Oob { get; private set; }

    /// <summary>What the last edit did, or why it was refused.</summary>
    public string? Says { get; private set; }

    public bool Trouble { get; private set; }

    public DateTimeOffset Now => clock.GetUtcNow();

    public IReadOnlyList<HistoryLine> History { get; private set; } = [];

    public IReadOnlyList<ThreadMatch> Matches { get; private set; } = [];

    public IReadOnlyList<ThreadChart> Charts => threads.Charts;

    /// <summary>The cloths that can be chosen.</summary>
    public IReadOnlyList<ClothProfile> Cloths => _cloths ??= cloths.All;

    private IReadOnlyList<ClothProfile>? _cloths;

    /// <summary>The selected parts that were drawn here.</summary>
    public IReadOnlyList<Part> SelectedDrawn => [.. Selected.Where(p => p.Drawn is not null)];

    /// <summary>The selected parts that are in the job.</summary>
    public IReadOnlyList<Part> Selected { get; private set; } = [];

    /// <summary>The rectangle about what is selected, or about everything.</summary>
    public Box SelectedBounds => Selected.Count == 0 ? Open.Plan.Bounds : Open.Plan.BoundsOf(Selected.Select(p => p.Id).ToHashSet());

    /// <summary>What is selected, in words.</summary>
    public string SelectionInWords => Selected.Count switch
    {
        0 => "Nothing selected: this moves everything.",
        1 => Selected[0].Name,
        var n when n == Open.Job.Order.Count => $"All {n} parts",
        var n => $"{n} of {Open.Job.Order.Count} parts",
    };

    public bool IsSelected(Part part) => Selected.Any(p => p.Id == part.Id);

    /// <summary>Needle points of a planned part.</summary>
    public static int StitchesOf(SewingPlan plan, PlannedPart part) => plan.Records.Kinds.Slice(part.First, part.Count).Count(StitchKind.Stitch);

    /// <summary>The values that a recolouring posts.</summary>
    public static string ThreadValues(SewingThread thread) => JsonSerializer.Serialize(new { maker = thread.Maker, number = thread.Number });

    public override void OnPageHandlerExecuting(PageHandlerExecutingContext context)
    {
        Look = Preferences.Of(HttpContext);
        if (Tasks.All(t => t.Id != Task)) Task = UsualTask;
        if (desk.Find(Id) is { } open) Show(open);
        else context.Result = NotFound();
    }

    public IActionResult OnGet()
    {
        Search();
        return Page();
    }

    /// <summary>The task card for the selection.</summary>
    public IActionResult OnGetCard()
    {
        Search();
        return Partial("_TaskCard", this);
    }

    /// <summary>Everything that the state of the job changes on the screen.</summary>
    public IActionResult OnGetState() => Updated();

    public IActionResult OnGetHistory()
    {
        History = jobs.History(Id);
        return Partial("_History", this);
    }

    public IActionResult OnGetThreads()
    {
        Search();
        return Partial("_ThreadList", this);
    }

    private void Show(OpenJob open)
    {
        _footprint = null;
        Open = open;
        var chosen = ChosenIds();
        Selected = [.. open.Job.Order.Where(p => chosen.Contains(p.Id))];
    }

    private HashSet<PartId> ChosenIds() => Ids(Parts);

    private void Search() => Matches = ThreadSearch.Find(threads.ThreadsOf(Chart), Find ?? string.Empty, MostMatches);

    private PartialViewResult Updated()
    {
        Oob = true;
        Search();
        return Partial("_Update", this);
    }
}
