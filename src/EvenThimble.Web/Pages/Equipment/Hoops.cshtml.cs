using EvenThimble.Core.Machines;
using EvenThimble.Core.Text;
using EvenThimble.Storage;
using EvenThimble.Web.Look;
using Microsoft.AspNetCore.Mvc;
using Microsoft.AspNetCore.Mvc.RazorPages;

namespace EvenThimble.Web.Pages.Equipment;

/// <summary>The hoops of each machine: those that came with it, and the user's own.</summary>
public sealed class HoopsModel(HoopStore hoops, MachineCatalogue machines) : PageModel
{
    /// <summary>A hoop as it is typed.</summary>
    public sealed record Typed(string? Id, string? Machine, string? Name, FieldShape Shape, string? Width, string? Height, string? Corner, string? Margin, int Positions, string? Step, bool Across);

    /// <summary>The machines with all their hoops.</summary>
    public IReadOnlyList<SewingMachineModel> Machines => machines.All;

    /// <summary>What is stored as a hoop of the user's own and cannot be one any more.</summary>
    public IReadOnlyList<DamagedHoop> Damaged => hoops.Damaged;

    /// <summary>The machine whose hoop is in the form.</summary>
    public SewingMachineModel Machine { get; private set; } = null!;

    /// <summary>The hoop in the form: one of the user's own, or what a new one begins as.</summary>
    public HoopField Edited { get; private set; } = null!;

    /// <summary>What was typed and refused; null: nothing.</summary>
    public Typed? Wrong { get; private set; }

    public Preferences Look { get; private set; } = new(default, false);

    public string? Says { get; private set; }

    public bool Trouble { get; private set; }

    public void OnGet(string? machine, string? hoop) => Show(machine, hoop);

    public IActionResult OnPostSave(Typed typed)
    {
        Look = Preferences.Of(HttpContext);
        try
        {
            var machine = machines.Find(typed.Machine) ?? throw new EditRefusedException("That machine is not known here.");
            var kept = hoops.Save(machine, new(typed.Id ?? string.Empty, typed.Name ?? string.Empty, Number(typed.Width, "width"), Number(typed.Height, "height"))
            {
                Shape = typed.Shape,
                CornerRadius = typed.Shape == FieldShape.Rounded ? Number(typed.Corner, "radius of the corners") : 0,
                Margin = string.IsNullOrWhiteSpace(typed.Margin) ? 0 : Number(typed.Margin, "margin"),
                Positions = typed.Positions,
                PositionStep = typed.Positions > 1 ? Number(typed.Step, "way from one position to the next") : 0,
                PositionsAcross = typed.Across,
            });
            Show(kept.MachineId, kept.Field.Id);
            Says = $"Kept “{kept.Field.Name}”. It can be chosen for every job on {machine.Name}.";
        }
        catch (EditRefusedException e)
        {
            Response.StatusCode = StatusCodes.Status422UnprocessableEntity;
            Show(typed.Machine, typed.Id);
            (Says, Trouble, Wrong) = (e.Message, true, typed);
        }

        return Page();
    }

    public IActionResult OnPostDelete(string id)
    {
        var name = hoops.All.FirstOrDefault(h => h.Field.Id == id)?.Field.Name;
        var done = hoops.Delete(id);
        Show(null, null);
        Says = done ? $"Deleted “{name}”. Jobs that were meant for it are in the first hoop of their machine now." : "That hoop came with its machine and stays.";
        return Page();
    }

    private void Show(string? machine, string? hoop)
    {
        Look = Preferences.Of(HttpContext);
        Machine = machines.Find(machine) ?? machines.All.FirstOrDefault(m => m.Hoops.Any(h => h.Id == hoop)) ?? machines.All[0];
        Edited = Machine.Hoops.FirstOrDefault(h => h.Id == hoop) ?? Machine.Hoops[0];
    }

    private double Number(string? text, string what) => LengthText.TryParse(text, Look.Unit, out var mm) && double.IsFinite(mm) ? mm : throw new EditRefusedException($"The {what} is not a length. Type a number, such as 120 or 4 3/4in. Nothing was kept.");
}
