using EvenThimble.Core.Machines;
using EvenThimble.Core.Text;
using EvenThimble.Core.Threads;
using EvenThimble.Storage;
using Microsoft.AspNetCore.Mvc;
using Microsoft.AspNetCore.Mvc.Filters;
using Microsoft.AspNetCore.Mvc.RazorPages;

namespace EvenThimble.Web.Pages.Equipment;

/// <summary>Which thread is on which needle of a machine now.</summary>
public sealed class NeedlesModel(MachineCatalogue machines, NeedleStore needles, ThreadStore charts) : PageModel
{
    /// <summary>Names the machine.</summary>
    [BindProperty(SupportsGet = true, Name = "machine")]
    public string MachineId { get; set; } = string.Empty;

    /// <summary>The machine.</summary>
    public SewingMachineModel Machine { get; private set; } = null!;

    /// <summary>By needle, the thread on it; null: none.</summary>
    public IReadOnlyList<SewingThread?> On { get; private set; } = [];

    /// <summary>By needle, what was typed and could not be found; null: it is as it is on the machine.</summary>
    public string?[] Typed { get; private set; } = [];

    /// <summary>What came of it, in a sentence.</summary>
    public string? Says { get; private set; }

    /// <summary>It was refused.</summary>
    public bool Trouble { get; private set; }

    public override void OnPageHandlerExecuting(PageHandlerExecutingContext context)
    {
        if (machines.Find(MachineId) is { Needles: > 1 } machine) (Machine, On, Typed) = (machine, needles.On(machine), new string?[machine.Needles]);
        else context.Result = NotFound();
    }

    public void OnGet()
    {
        // Everything is shown from what is noted.
    }

    /// <summary>Notes what is on the needles: a maker and number, or a number that only one maker has; nothing where nothing is on.</summary>
    public IActionResult OnPost(string?[] needle)
    {
        var on = new SewingThread?[Machine.Needles];
        var unknown = new List<string>();
        for (var n = 0; n < on.Length; n++)
        {
            var text = Titles.Clean(needle.ElementAtOrDefault(n));
            if (text.Length == 0) continue;
            if (On[n] is { } same && same.Label == text) on[n] = same;
            else if (Found(text) is { } thread) on[n] = thread;
            else
            {
                unknown.Add($"needle {n + 1}: “{text}”");
                Typed[n] = text;
            }
        }

        if (unknown.Count > 0)
        {
            (Says, Trouble) = ($"No chart has that, or more than one maker: {string.Join(", ", unknown)}. Type maker and number. Nothing was noted.", true);
            for (var n = 0; n < on.Length; n++) Typed[n] ??= Titles.Clean(needle.ElementAtOrDefault(n));
            Response.StatusCode = StatusCodes.Status422UnprocessableEntity;
            return Page();
        }

        needles.Thread(Machine, on);
        (On, Says) = (on, $"Noted what is on the needles of {Machine.Name}.");
        return Page();
    }

    private SewingThread? Found(string text)
    {
        var (maker, rest) = charts.Known.MakerIn(text);
        var found = charts.Known.Find(maker, rest.Split(' ')[0]);
        return found.Select(f => f.Thread.Maker).Distinct().Count() == 1 ? found[0].Thread : null;
    }
}
