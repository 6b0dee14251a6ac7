using EvenThimble.Core.Text;
using EvenThimble.Rendering.Sheets;
using EvenThimble.Web.Workroom;
using Microsoft.AspNetCore.Mvc;
using Microsoft.AspNetCore.Mvc.Filters;
using Microsoft.AspNetCore.Mvc.RazorPages;

namespace EvenThimble.Web.Pages.Sheet;

/// <summary>The sheet beside the machine, to print or to tick off on a tablet; and templates at true size.</summary>
public sealed class IndexModel(JobDesk desk, HandOver handOver, TimeProvider clock) : PageModel
{
    [BindProperty(SupportsGet = true)]
    public long Id { get; set; }

    /// <summary>The job.</summary>
    public OpenJob Open { get; private set; } = null!;

    /// <summary>The job on paper.</summary>
    public JobSheets Sheets { get; private set; } = null!;

    /// <summary>What the sheet says.</summary>
    public SewingSheet Sewing { get; private set; } = null!;

    public override void OnPageHandlerExecuting(PageHandlerExecutingContext context)
    {
        if (desk.Find(Id) is not { } open)
        {
            context.Result = NotFound();
            return;
        }

        var (plan, fetch) = (handOver.PlanFor(open, open.Machine), handOver.FetchFor(open, open.Machine));
        Open = open;
        Sheets = new(open.Job, open.Plan, open.Hooped, open.Machine);
        Sewing = Sheets.Sewing(part => open.Plan.Parts.FirstOrDefault(p => p.Id == part) is { } planned ? fetch.NeedlesOf(planned.Thread) : string.Empty, plan.FileNames(plan.FileName), DateOnly.FromDateTime(clock.GetLocalNow().DateTime));
    }

    public void OnGet()
    {
        // Everything is shown from the job as it stands.
    }

    /// <summary>The sheet's picture.</summary>
    public IActionResult OnGetPicture() => File(Sheets.Picture(), "image/png");

    /// <summary>The sheet on paper.</summary>
    public IActionResult OnGetPaper(string? paper) => File(Sewing.ToPdf(Paper.Named(paper)), "application/pdf", $"{Titles.FileName(Open.Job.Title)} sewing sheet.pdf");

    /// <summary>A template on paper.</summary>
    public IActionResult OnGetTemplate(string of, string? paper, bool mirrored, bool marksOnly) => Sheets.Template(of, mirrored, marksOnly) is { } template
        ? File(template.ToPdf(Paper.Named(paper)), "application/pdf", $"{Titles.FileName(Open.Job.Title)} template {of}.pdf")
        : NotFound();
}
