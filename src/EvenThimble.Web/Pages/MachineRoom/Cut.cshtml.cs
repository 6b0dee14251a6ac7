using EvenThimble.Core.Craft;
using EvenThimble.Core.Cutting;
using EvenThimble.Core.Text;
using EvenThimble.Equipment;
using EvenThimble.Storage;
using EvenThimble.Web.Look;
using EvenThimble.Web.Workroom;
using Microsoft.AspNetCore.Mvc;
using Microsoft.AspNetCore.Mvc.RazorPages;

namespace EvenThimble.Web.Pages;

/// <summary>A file cut from a cutter's own memory: its lines in order, with cloth, blade and passes.</summary>
public sealed class CutRunModel(EquipmentRoom room, ClothStore cloths) : PageModel
{
    public Cutter Cutter { get; private set; } = null!;

    public string FileName { get; private set; } = string.Empty;

    public CutFile? Held { get; private set; }

    public CutRun? Run { get; private set; }

    public Preferences Look { get; private set; } = null!;

    public IReadOnlyList<ClothProfile> Cloths => cloths.All;

    public ClothProfile Cloth { get; private set; } = ClothProfiles.Cotton;

    public int Blade { get; private set; }

    public int Passes { get; private set; }

    /// <summary>Why nothing can be cut; null: it can.</summary>
    public string? Refused { get; private set; }

    /// <summary>How long it takes, in words.</summary>
    public string Time => Run!.TimeOn(Cutter.Model, Passes) is var t ? t.TotalMinutes >= 1 ? $"{(int)t.TotalMinutes} min {t.Seconds} s" : $"{t.Seconds} s" : string.Empty;

    /// <summary>What the cloth asks for, where it is set otherwise.</summary>
    public string Advised => new CutAdvice(Cloth, Cutter.Model, false, 0) is var advice && (advice.Blade != Blade || advice.Passes != Passes)
        ? $" · for {Cloth.Name} begin with blade {advice.Blade}, {(advice.Passes == 1 ? "one pass" : $"{advice.Passes} passes")}"
        : string.Empty;

    public IActionResult OnGet(string cutter, string file, string? cloth, int? blade, int? passes)
    {
        if (room.Cutter(cutter) is not { } found) return NotFound();
        (Cutter, FileName, Look) = (found, file, Preferences.Of(HttpContext));
        Cloth = cloths.All.FirstOrDefault(c => c.Id == cloth) ?? ClothProfiles.Cotton;
        var advice = new CutAdvice(Cloth, found.Model, false, 0);
        (Blade, Passes) = (Math.Clamp(blade ?? advice.Blade, 1, found.Model.MostBlade), Math.Clamp(passes ?? advice.Passes, 1, found.Model.MostPasses));
        try
        {
            Held = found.Read(file);
            Run = CutRun.Of(Held);
        }
        catch (Exception e) when (e is EquipmentException || Refusals.Of(e) is not null)
        {
            Refused = e.Message;
        }

        return Page();
    }
}
