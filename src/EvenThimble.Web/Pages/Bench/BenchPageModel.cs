using EvenThimble.Web.Look;
using EvenThimble.Web.Workroom;
using Microsoft.AspNetCore.Mvc;
using Microsoft.AspNetCore.Mvc.Filters;
using Microsoft.AspNetCore.Mvc.RazorPages;

namespace EvenThimble.Web.Pages.Bench;

/// <summary>What all addresses of the bench have in common: the job, and what the browser says of itself.</summary>
public abstract class BenchPageModel(JobDesk desk) : PageModel
{
    /// <summary>The job.</summary>
    [BindProperty(SupportsGet = true)]
    public long Id { get; set; }

    /// <summary>The version of the job that the browser shows.</summary>
    [BindProperty(SupportsGet = true)]
    public long Version { get; set; }

    /// <summary>Selected parts, their numbers with commas.</summary>
    [BindProperty(SupportsGet = true)]
    public string? Parts { get; set; }

    /// <summary>The task that is open.</summary>
    [BindProperty(SupportsGet = true)]
    public string? Task { get; set; }

    /// <summary>The pieces of the page that the browser shows, each with the tag of what it shows.</summary>
    [BindProperty(SupportsGet = true)]
    public string? Shown { get; set; }

    /// <summary>The bench as the request finds it.</summary>
    public BenchView Bench { get; private set; } = null!;

    /// <inheritdoc/>
    public override void OnPageHandlerExecuting(PageHandlerExecutingContext context)
    {
        if (desk.Find(Id) is { } open) Bench = new(HttpContext.RequestServices, open, Preferences.Of(HttpContext), Parts, BenchRegistry.Task(Task), HttpContext.RequestAborted);
        else context.Result = NotFound();
    }

    /// <summary>The pieces of the page that a state changes, and what the script has to know of it.</summary>
    private protected PartialViewResult Answered(BenchAnswer answer)
    {
        Response.Headers["HX-Trigger-After-Swap"] = answer.Trigger;
        return Partial("_Answer", answer);
    }
}
