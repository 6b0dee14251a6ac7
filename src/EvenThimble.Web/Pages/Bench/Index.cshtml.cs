using EvenThimble.Web.Workroom;
using Microsoft.AspNetCore.Mvc;

namespace EvenThimble.Web.Pages.Bench;

/// <summary>The bench: one job, worked on.</summary>
public sealed class IndexModel(JobDesk desk) : BenchPageModel(desk)
{
    public IActionResult OnGet() => Page();
}
