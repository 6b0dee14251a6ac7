using Microsoft.AspNetCore.Mvc;
using Microsoft.AspNetCore.Mvc.RazorPages;

namespace EvenThimble.Web.Pages;

/// <summary>Shown where there is nothing at an address, or a request could not be taken.</summary>
[IgnoreAntiforgeryToken]
public sealed class SorryModel : PageModel
{
    /// <summary>What is so.</summary>
    public string Words { get; private set; } = string.Empty;

    public void OnGet(int code) => Tell(code);

    public void OnPost(int code) => Tell(code);

    private void Tell(int code) => Words = HttpContext.Items[SentenceForErrors.Said] as string ?? code switch
    {
        StatusCodes.Status404NotFound => "There is nothing here. It may have been deleted.",
        StatusCodes.Status400BadRequest => "This page has been open too long, or the request was not complete. Load it again.",
        _ => "That could not be done.",
    };
}
