using System.Collections.Immutable;
using EvenThimble.Core.Cutting;
using EvenThimble.Core.Files.Cut;
using EvenThimble.Core.Files.Stitch;
using EvenThimble.Core.Geometry;
using EvenThimble.Core.Text;
using EvenThimble.Equipment;
using EvenThimble.Storage;
using Microsoft.AspNetCore.Mvc;
using Microsoft.AspNetCore.Mvc.RazorPages;

namespace EvenThimble.Web.Pages;

/// <summary>The stand-in machines, cutters and sticks.</summary>
public sealed class MachineRoomModel(EquipmentRoom room, SewingQueue queue) : PageModel
{
    /// <summary>More files than this are not looked at at once.</summary>
    public const int MostShown = 150;

    public IReadOnlyList<SewingMachine> Machines => room.Machines;

    public IReadOnlyList<Cutter> Cutters => room.Cutters;

    public IReadOnlyList<RemovableStick> Sticks => room.Sticks;

    public void OnGet()
    {
        // Everything is read from the devices' folders as they are.
    }

    public IActionResult OnPostDelete(string drawer, string file)
    {
        room.Drawer(drawer)?.Delete(file);
        return Page();
    }

    /// <summary>Tells how far something is that a machine has to sew.</summary>
    public IActionResult OnPostSewn(long id, SewState state)
    {
        queue.Set(id, state);
        return Page();
    }

    /// <summary>Takes out of the queue what is done, or all.</summary>
    public IActionResult OnPostClear(string machine, bool all)
    {
        queue.Clear(machine, all);
        return Page();
    }

    /// <summary>Puts a square of 20 mm into a cutter, to be cut and measured before cloth is.</summary>
    public IActionResult OnPostSquare(string cutter)
    {
        if (room.Cutter(cutter) is not { } found) return RedirectToPage();
        const double margin = 10;
        var square = CutLayout.Square(CutPieces.UsualMaterial);
        var lines = square.Rings.Select(r => r.Select(p => p + new Point(margin, margin)).ToImmutableArray());
        var kind = found.Model.Takes[0];
        found.Memory.Put($"test square{kind.Extension}", CutFormats.Write(kind, new("test square", found.Model.MatWidth, found.Model.MatHeight, [new(square.Material, [.. lines])])), replace: true);
        return Redirect($"/machine-room/cut?cutter={found.Model.Id}&file={Uri.EscapeDataString($"test square{kind.Extension}")}");
    }

    /// <summary>Copies a file in, as somebody would who has it from elsewhere; the machine says what it makes of it.</summary>
    public async Task<IActionResult> OnPostPutAsync(string drawer, IFormFile? file)
    {
        if (room.Drawer(drawer) is not { } into || file is null) return RedirectToPage();
        if (file.Length > StitchFormats.LargestFile) throw new EquipmentException("The file is larger than 64 MB; no machine here takes it.");
        using var bytes = new MemoryStream();
        await file.CopyToAsync(bytes, HttpContext.RequestAborted);
        into.PutBeside(Titles.FileName(file.FileName.Split('/', '\\')[^1]), bytes.ToArray());
        return RedirectToPage();
    }
}
