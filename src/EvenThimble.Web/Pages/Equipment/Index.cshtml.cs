using EvenThimble.Core.Colour;
using EvenThimble.Core.Craft;
using EvenThimble.Core.Machines;
using EvenThimble.Core.Text;
using EvenThimble.Storage;
using EvenThimble.Web.Look;
using Microsoft.AspNetCore.Mvc;
using Microsoft.AspNetCore.Mvc.RazorPages;

namespace EvenThimble.Web.Pages;

/// <summary>What one sets up once: cloth profiles; machines and hoops are shown as they are.</summary>
public sealed class EquipmentModel(ClothStore cloths, MachineCatalogue machines) : PageModel
{
    /// <summary>A profile as it is typed.</summary>
    public sealed record Typed(
        string? Id, string? Name, Weave Weave, string? Colour, string? Thickness, string? FillSpacing, string? SatinSpacing, string? Compensation,
        Underlay FillFirst, Underlay FillSecond, Underlay SatinFirst, Underlay SatinSecond, string? Stabilizer, string? Needle, string? Topping, int Speed, string? Advice);

    /// <summary>The machines that are there.</summary>
    public IReadOnlyList<SewingMachineModel> Machines => machines.All;

    public IReadOnlyList<ClothProfile> Cloths { get; private set; } = [];

    /// <summary>The profile in the form: one of the user's own, or the one that a new one begins as.</summary>
    public ClothProfile? Edited { get; private set; }

    public Preferences Look { get; private set; } = new(default, false);

    public string? Says { get; private set; }

    public bool Trouble { get; private set; }

    public void OnGet(string? cloth) => Show(cloth);

    /// <summary>Keeps a profile; anything that cannot be is told, and what was typed stays.</summary>
    public IActionResult OnPostSave(Typed typed)
    {
        Look = Preferences.Of(HttpContext);
        try
        {
            var kept = cloths.Save(Read(typed));
            Show(kept.Id);
            Says = $"Kept “{kept.Name}”. Jobs that lie on it already keep what they had; choose it again there to follow.";
        }
        catch (EditRefusedException e)
        {
            Response.StatusCode = StatusCodes.Status422UnprocessableEntity;
            Show(typed.Id);
            (Says, Trouble) = (e.Message, true);
        }

        return Page();
    }

    public IActionResult OnPostDelete(string id)
    {
        var name = cloths.Find(id)?.Name;
        var done = cloths.Delete(id);
        Show(null);
        Says = done ? $"Deleted “{name}”. Jobs that lie on it keep it." : "That cloth comes with the program and stays.";
        return Page();
    }

    private void Show(string? cloth)
    {
        Look = Preferences.Of(HttpContext);
        Cloths = cloths.All;
        Edited = Cloths.FirstOrDefault(c => c.Id == cloth);
    }

    private ClothProfile Read(Typed typed)
    {
        var name = Titles.Clean(typed.Name ?? string.Empty);
        if (name.Length is 0 or > 60) throw new EditRefusedException("A cloth needs a name of 1 to 60 letters.");
        double Number(string? text, string what, double least, double most) =>
            LengthText.TryParse(text, Look.Unit, out var mm) && mm >= least - 1e-9 && mm <= most + 1e-9 ? mm : throw new EditRefusedException($"The {what} can be from {least} to {most} mm; “{text}” is not. Nothing was kept.");
        if (typed.Speed is < 20 or > 100) throw new EditRefusedException("The speed can be from 20 to 100 percent of the machine's.");
        if (!Rgb.TryParse(typed.Colour, out var colour) || !Enum.IsDefined(typed.Weave)) throw new EditRefusedException("That is no colour or weave.");
        foreach (var layer in new[] { typed.FillFirst, typed.FillSecond, typed.SatinFirst, typed.SatinSecond })
            if (!Enum.IsDefined(layer)) throw new EditRefusedException("That is no underlay.");
        return new(typed.Id is { } id && id.StartsWith(ClothProfile.OwnPrefix, StringComparison.Ordinal) && cloths.Find(id) is not null ? id : string.Empty, name, typed.Weave, colour, Number(typed.Thickness, "thickness", 0.05, 10))
        {
            FillSpacingMm = Number(typed.FillSpacing, "spacing of fill", 0.25, 2),
            SatinSpacingMm = Number(typed.SatinSpacing, "spacing of satin", 0.25, 2),
            CompensationMm = Number(typed.Compensation, "pull compensation", 0, 1),
            FillUnderlay = new(typed.FillFirst, typed.FillSecond),
            SatinUnderlay = new(typed.SatinFirst, typed.SatinSecond),
            Stabilizer = Titles.Clean(typed.Stabilizer ?? string.Empty),
            Needle = Titles.Clean(typed.Needle ?? string.Empty),
            Topping = Titles.Clean(typed.Topping ?? string.Empty),
            Advice = Titles.Clean(typed.Advice ?? string.Empty),
            SpeedPercent = typed.Speed,
        };
    }
}
