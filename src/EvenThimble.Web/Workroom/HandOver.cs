using System.Collections.Immutable;
using System.Security.Cryptography;
using EvenThimble.Core.Files.Stitch;
using EvenThimble.Core.Jobs;
using EvenThimble.Core.Lettering;
using EvenThimble.Core.Machines;
using EvenThimble.Core.Readiness;
using EvenThimble.Core.Stitches;
using EvenThimble.Core.Text;
using EvenThimble.Equipment;

namespace EvenThimble.Web.Workroom;

/// <summary>A file that is to be written for a machine.</summary>
/// <param name="Machine">For which machine.</param>
/// <param name="Kind">What kind of file.</param>
/// <param name="Why">Why that kind, in a sentence.</param>
/// <param name="FileName">Suggested name with its ending.</param>
/// <param name="Losses">What the file cannot carry, in sentences.</param>
/// <param name="Findings">Readiness for that machine, in its best hoop.</param>
/// <param name="Field">That hoop.</param>
public sealed record WritingPlan(SewingMachineModel Machine, StitchFileKind Kind, string Why, string FileName, ImmutableArray<string> Losses, ImmutableArray<Finding> Findings, HoopField Field)
{
    /// <summary>Whether the machine would refuse the file.</summary>
    public bool InTrouble => Findings.Any(f => f.Level == FindingLevel.Trouble);
}

/// <summary>What came of handing a file over.</summary>
/// <param name="Machine">For which machine.</param>
/// <param name="FileName">Its name there.</param>
/// <param name="Where">The machine or stick it was put into.</param>
/// <param name="Done">Whether it arrived whole.</param>
/// <param name="Says">What happened, in a sentence.</param>
/// <param name="Listing">How the machine sees it; null when it did not arrive.</param>
public sealed record Arrival(SewingMachineModel Machine, string FileName, string Where, bool Done, string Says, MachineListing? Listing);

/// <summary>Writes files for machines, puts them where they should go and looks that they arrived.</summary>
public sealed class HandOver(EquipmentRoom room, ILetterFaces fonts, MachineCatalogue machines, ThreadBox box)
{
    /// <summary>What would be written for a machine.</summary>
    public WritingPlan PlanFor(OpenJob job, SewingMachineModel machine)
    {
        var kind = machine.Takes[0];
        var field = job.Machine == machine ? job.Field : machine.Hoops.FirstOrDefault(h => FitAdvisor.Fits(job.Plan, h)) ?? machine.Hoops[^1];
        var why = machine.Takes.Count == 1
            ? $"{machine.Name} reads no other kind."
            : $"{machine.Name} reads {string.Join(" and ", machine.Takes.Select(k => k.Name))}; this one carries most.";
        return new(machine, kind, why, SuggestedName(job, machine) + kind.Extension, StitchFormats.Losses(kind, job.ToFile()), Inspector.Inspect(job.Job, job.Plan, machine, field, machines, fonts), field);
    }

    /// <summary>The bytes of the file for a machine, read back and compared; on one with several needles it says which of them sews what.</summary>
    /// <exception cref="StitchFileException">It cannot be written.</exception>
    public byte[] Write(OpenJob job, SewingMachineModel machine) =>
        StitchFormats.Write(machine.Takes[0], JobFiles.WithPicture(job, machine.Takes[0], Inspector.NameOn(job.Job, machine)) with { Needles = box.NeedlesFor(job, machine)?.NeedleOfPart ?? [] });

    /// <summary>What the threads of a job are fetched and threaded by on a machine.</summary>
    public FetchList FetchFor(OpenJob job, SewingMachineModel machine) => new(job, machine, box.RackOf(job).Name, box.NeedsOf(job), box.NeedlesFor(job, machine));

    /// <summary>Why a file name is not possible on a machine, in a sentence; null when it is.</summary>
    public static string? NameRefused(SewingMachineModel machine, string fileName)
    {
        var kind = machine.Takes[0];
        if (!fileName.EndsWith(kind.Extension, StringComparison.OrdinalIgnoreCase) || fileName.Length == kind.Extension.Length) return $"The name has to end in {kind.Extension}.";
        var stem = fileName[..^kind.Extension.Length];
        return machine.NameLength is { } most && (stem.Length > most || !Titles.IsPlain(stem))
            ? $"{machine.Name} shows names of at most {most} plain letters and digits; “{stem}” is not one."
            : null;
    }

    /// <summary>Writes the file, puts it where it should go, reads it there again and lets the machine look at it.</summary>
    public Arrival Deliver(OpenJob job, SewingMachineModel machine, string fileName, string drawerId, bool replace)
    {
        var where = room.Machine(drawerId)?.Model.Name ?? room.Stick(drawerId)?.Name ?? drawerId;
        Arrival Not(string why) => new(machine, fileName, where, false, why, null);
        if (room.Drawer(drawerId) is not { } drawer) return Not("There is no such machine or stick.");
        if (NameRefused(machine, fileName) is { } refused) return Not(refused);
        try
        {
            var bytes = Write(job, machine);
            drawer.Put(fileName, bytes, replace);
            var arrived = drawer.Read(fileName);
            if (!SHA256.HashData(arrived).AsSpan().SequenceEqual(SHA256.HashData(bytes))) return Not("What arrived is not what was written. Delete it there and do it again.");
            var listing = room.Machine(machine.Id)!.Look(fileName, arrived.Length, () => arrived);
            return new(machine, fileName, where, true, $"{arrived.Length:N0} bytes arrived in {where}, each of them as written.", listing);
        }
        catch (Exception e) when (Refusals.Of(e) is { } refusal)
        {
            return Not(refusal.Sentence);
        }
    }

    private static string SuggestedName(OpenJob job, SewingMachineModel machine) =>
        machine.NameLength is { } most ? job.Job.ShortTitle ?? Titles.Plain(job.Job.Title, most) : Titles.FileName(job.Job.Title);
}
