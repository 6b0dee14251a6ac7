using EvenThimble.Core.Rack;
using EvenThimble.Rendering.Sheets;
using EvenThimble.Storage;
using EvenThimble.Web.Workroom;
using Microsoft.AspNetCore.Mvc;
using Microsoft.AspNetCore.Mvc.RazorPages;

namespace EvenThimble.Web.Pages.Rack;

/// <summary>What is to be bought for all jobs, in whole cones.</summary>
public sealed class ShoppingModel(ShoppingStore shopping, ThreadStore charts) : PageModel
{
    /// <summary>The list.</summary>
    public ShoppingList List => ShoppingList.Of(shopping.All, charts.Sold);

    public void OnGet()
    {
        // Everything is shown from what is noted.
    }

    /// <summary>The list on paper.</summary>
    public IActionResult OnGetPaper(string? paper) => File(List.ToSheet().ToPdf(Paper.Named(paper)), "application/pdf", "shopping list.pdf");

    /// <summary>The list as a table.</summary>
    public IActionResult OnGetTable() => File(List.ToCsv(), "text/csv", "shopping list.csv");

    /// <summary>Strikes a thread out.</summary>
    public IActionResult OnPostStrike(string? of, string? number, string? name)
    {
        shopping.Strike(of ?? string.Empty, number ?? string.Empty, name ?? string.Empty);
        return RedirectToPage();
    }

    /// <summary>Strikes all out.</summary>
    public IActionResult OnPostStrikeAll()
    {
        shopping.StrikeAll();
        return RedirectToPage();
    }
}
