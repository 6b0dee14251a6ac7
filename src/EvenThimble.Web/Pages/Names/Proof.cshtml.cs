using EvenThimble.Core.Garments;
using EvenThimble.Core.Text;
using EvenThimble.Web.Workroom;
using Microsoft.AspNetCore.Mvc;
using Microsoft.AspNetCore.Mvc.RazorPages;

namespace EvenThimble.Web.Pages.Names;

/// <summary>The proof of a job's names as a page: each as text and as thread, to be read and ticked on a screen or printed.</summary>
public sealed class ProofModel(JobDesk desk, NameDesk names) : PageModel
{
    [BindProperty(SupportsGet = true)]
    public long Id { get; set; }

    public OpenJob Open { get; private set; } = null!;

    public NameRoll Roll { get; private set; } = null!;

    public IActionResult OnGet()
    {
        if (desk.Find(Id) is not { } open) return NotFound();
        try
        {
            (Open, Roll) = (open, names.RollOf(open));
            return Page();
        }
        catch (EditRefusedException)
        {
            // What is missing is told where names are looked through.
            return Redirect($"/jobs/{Id}/names");
        }
    }
}
