using EvenThimble.Core.Machines;
using EvenThimble.Core.Text;
using EvenThimble.Rendering.Sheets;
using EvenThimble.Storage;
using EvenThimble.Web.Workroom;
using Microsoft.AspNetCore.Mvc;
using Microsoft.AspNetCore.Mvc.Filters;
using Microsoft.AspNetCore.Mvc.RazorPages;

namespace EvenThimble.Web.Pages.Fetch;

/// <summary>What is to be fetched for a job; what is missing goes on the shopping list; what was sewn is taken off the rack.</summary>
public sealed class IndexModel(JobDesk desk, ThreadBox box, RackStore racks, ShoppingStore shopping, NeedleStore needles, HandOver handOver, MachineCatalogue machines) : PageModel
{
    [BindProperty(SupportsGet = true)]
    public long Id { get; set; }

    /// <summary>The machine that it is sewn on; else the job's own.</summary>
    [BindProperty(SupportsGet = true)]
    public string? On { get; set; }

    /// <summary>The list.</summary>
    public FetchList List { get; private set; } = null!;

    /// <summary>All racks.</summary>
    public IReadOnlyList<RackLine> Racks => racks.Racks;

    /// <summary>The rack.</summary>
    public RackLine Rack => box.RackOf(List.Job);

    /// <summary>What was taken off for this job last; null: nothing, or it was given back.</summary>
    public SewnJob? LastUse => racks.LastUseOf(Id);

    /// <summary>What came of the last thing that was done, in a sentence.</summary>
    public string? Says { get; private set; }

    /// <summary>It was refused.</summary>
    public bool Trouble { get; private set; }

    public override void OnPageHandlerExecuting(PageHandlerExecutingContext context)
    {
        if (desk.Find(Id) is { } open) Look(open);
        else context.Result = NotFound();
    }

    public void OnGet()
    {
        // Everything is shown from the job and the rack as they stand.
    }

    /// <summary>The list on paper.</summary>
    public IActionResult OnGetPaper(string? paper) => File(List.ToSheet().ToPdf(Paper.Named(paper)), "application/pdf", $"{Titles.FileName(List.Job.Job.Title)} fetch list.pdf");

    /// <summary>The list as a table.</summary>
    public IActionResult OnGetTable() => File(List.ToCsv(), "text/csv", $"{Titles.FileName(List.Job.Job.Title)} fetch list.csv");

    /// <summary>Sews from another rack.</summary>
    public IActionResult OnPostRack(long rack) => Done(() =>
    {
        racks.SetRackOf(Id, rack);
        return null;
    });

    /// <summary>Puts what is missing on the shopping list.</summary>
    public IActionResult OnPostBuy() => Done(() =>
    {
        var missing = List.Needs.Threads.Where(n => !n.IsEnough).ToList();
        if (missing.Count == 0) throw new EditRefusedException("Nothing is missing.");
        shopping.Note(Id, List.Job.Job.Title, missing.Select(n => (n.Thread, n.MissingMetres)));
        return $"{Web.Look.Ui.Of(missing.Count, "thread")} put on the shopping list.";
    });

    /// <summary>Takes off the rack what was sewn.</summary>
    public IActionResult OnPostSewn() => Done(() =>
    {
        racks.Sewn(Rack.Id, Id, List.Job.Job.Title, List.Needs.Copies, box.TakenBy(List.Job));
        if (List.Needles is { } plan) needles.Thread(List.Machine, plan.Afterwards);
        return $"Taken off {Rack.Name}: what {List.Copies} took.";
    });

    /// <summary>Gives back what was taken off last.</summary>
    public IActionResult OnPostUnsewn(long use) => Done(() => $"Given back: what “{racks.Unsewn(use).Title}” took.");

    /// <summary>Says that the cones are on their needles.</summary>
    public IActionResult OnPostThreaded() => Done(() =>
    {
        if (List.Needles is not { } plan) throw new EditRefusedException($"{List.Machine.Name} has one needle.");
        needles.Thread(List.Machine, plan.Afterwards);
        return $"Noted what is on the needles of {List.Machine.Name}.";
    });

    private IActionResult Done(Func<string?> work)
    {
        try
        {
            Says = work();
        }
        catch (EditRefusedException e)
        {
            (Says, Trouble) = (e.Message, true);
            Response.StatusCode = StatusCodes.Status422UnprocessableEntity;
        }

        Look(List.Job);
        return Page();
    }

    private void Look(OpenJob open) => List = handOver.FetchFor(open, machines.Find(On) ?? open.Machine);
}
