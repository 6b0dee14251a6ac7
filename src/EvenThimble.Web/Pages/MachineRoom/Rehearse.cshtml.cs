using EvenThimble.Core.Files.Stitch;
using EvenThimble.Core.Planning;
using EvenThimble.Core.Stitches;
using EvenThimble.Core.Text;
using EvenThimble.Equipment;
using Microsoft.AspNetCore.Mvc;
using Microsoft.AspNetCore.Mvc.RazorPages;

namespace EvenThimble.Web.Pages;

/// <summary>A file, or a set of them in turn, rehearsed from a machine's own memory as it would sew it: it waits at every stop and every change of thread.</summary>
public sealed class RehearseModel(EquipmentRoom room) : PageModel
{
    /// <summary>Where the machine waits.</summary>
    /// <param name="At">Before which record.</param>
    /// <param name="Says">What it says.</param>
    public sealed record Wait(int At, string Says);

    /// <summary>A file as it is rehearsed.</summary>
    /// <param name="Name">Its name.</param>
    /// <param name="Hoop">The hoop that it names, with its position.</param>
    /// <param name="Colours">By part.</param>
    /// <param name="Waits">In order.</param>
    public sealed record Rehearsed(string Name, string Hoop, IReadOnlyList<string> Colours, IReadOnlyList<Wait> Waits);

    /// <summary>The machine.</summary>
    public SewingMachine Machine { get; private set; } = null!;

    /// <summary>The files, in the order they are sewn.</summary>
    public IReadOnlyList<Rehearsed> Files { get; private set; } = [];

    /// <summary>Files of the set that are missing, in a sentence; null: none.</summary>
    public string? Missing { get; private set; }

    /// <summary>Why nothing can be rehearsed; null: it can.</summary>
    public string? Refused { get; private set; }

    public IActionResult OnGet(string machine, string file)
    {
        if (room.Machine(machine) is not { } found) return NotFound();
        Machine = found;
        var set = FileSet.Among(found.Memory.Files().Select(f => f.Name)).FirstOrDefault(s => s.Files.Contains(file));
        if (set is { Missing.Count: > 0 }) Missing = $"Of the {set.Of} files of this set {string.Join(" and ", set.Missing.Select(n => $"number {n}"))} {(set.Missing.Count == 1 ? "is" : "are")} missing.";
        try
        {
            Files = [.. (set?.Files ?? [file]).OfType<string>().Select(name => Read(found, name))];
        }
        catch (Exception e) when (Refusals.Of(e) is { } refusal)
        {
            Refused = refusal.Sentence;
        }

        return Page();
    }

    /// <summary>The stitches of a file for the drawing script.</summary>
    public IActionResult OnGetStitches(string machine, string file)
    {
        if (room.Machine(machine) is not { } found || !found.Memory.Has(file)) return NotFound();
        return File(PlanStream.Write(PlanOf(Opened(found, file))), "application/octet-stream");
    }

    private static StitchFile Opened(SewingMachine machine, string name) => StitchFormats.Read(machine.Memory.Read(name, StitchFormats.LargestFile), name).File;

    private static SewingPlan PlanOf(StitchFile file) => new(file.Stitches, [.. file.Parts.Select((p, n) => new PlannedPart(new(n + 1), p.Thread.Name, p.Thread, p.Role, p.First, p.Count, file.Stitches.BoundsOf(p.First, p.Count)))]);

    private static Rehearsed Read(SewingMachine machine, string name)
    {
        var file = Opened(machine, name);
        var waits = new List<Wait>();
        for (var n = 0; n < file.Parts.Length; n++)
        {
            var part = file.Parts[n];
            if (n > 0 && file.Parts[n - 1].Thread != part.Thread) waits.Add(new(part.First, $"Thread: {part.Thread.Label}"));
            for (var i = part.First; i < part.First + part.Count; i++)
                if (file.Stitches.Kinds[i] == StitchKind.Stop)
                    waits.Add(new(i, file.Stitches.Messages.TryGetValue(i, out var says) ? says : "Stop"));
        }

        var hoop = file.Hoop is { } h ? h.Placements > 1 ? $"{h.Hoop}, {h.Placement} of {h.Placements}" : h.Hoop : string.Empty;
        return new(name, hoop, [.. file.Parts.Select(p => p.Thread.Colour.Hex)], waits);
    }
}
