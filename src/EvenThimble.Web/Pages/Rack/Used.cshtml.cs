using EvenThimble.Core.Text;
using EvenThimble.Storage;
using Microsoft.AspNetCore.Mvc;
using Microsoft.AspNetCore.Mvc.RazorPages;

namespace EvenThimble.Web.Pages.Rack;

/// <summary>What was used for what.</summary>
public sealed class UsedModel(RackStore racks) : PageModel
{
    /// <summary>What was sewn, the latest first.</summary>
    public IReadOnlyList<SewnJob> Uses => racks.Uses();

    /// <summary>Why it could not be done, in a sentence.</summary>
    public string? Refused { get; private set; }

    public void OnGet()
    {
        // Everything is shown from what is noted.
    }

    /// <summary>Gives back what a job took.</summary>
    public IActionResult OnPostUndo(long use)
    {
        try
        {
            racks.Unsewn(use);
            return RedirectToPage();
        }
        catch (EditRefusedException e)
        {
            Refused = e.Message;
            Response.StatusCode = StatusCodes.Status422UnprocessableEntity;
            return Page();
        }
    }
}
