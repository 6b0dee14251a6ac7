using System.Collections.Immutable;
using System.Security.Cryptography;
using EvenThimble.Core.Files.Stitch;
using EvenThimble.Core.Hoopings;
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
/// <param name="FileName">Suggested name with its ending; of several hoopings each gets its number behind it.</param>
/// <param name="Losses">What the file cannot carry, in sentences.</param>
/// <param name="Findings">Readiness for that machine, in its best hoop.</param>
/// <param name="Field">That hoop.</param>
/// <param name="Hoopings">The hoopings that are written, a file each; one where the job is not divided for this machine.</param>
public sealed record WritingPlan(SewingMachineModel Machine, StitchFileKind Kind, string Why, string FileName, ImmutableArray<string> Losses, ImmutableArray<Finding> Findings, HoopField Field, ImmutableArray<HoopedPlan> Hoopings)
{
    /// <summary>The names of all files for a name.</summary>
    public IReadOnlyList<string> FileNames(string name) => [.. Hoopings.Select(h => FileNameOf(h, name))];

    /// <summary>The name of the file of a hooping.</summary>
    public string FileNameOf(HoopedPlan hooping, string name) =>
        name.EndsWith(Kind.Extension, StringComparison.OrdinalIgnoreCase) ? hooping.Named(name[..^Kind.Extension.Length], Machine.NameLength) + name[^Kind.Extension.Length..] : name;

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
        var own = job.Machine.Id == machine.Id;
        var field = own ? job.Field : machine.Hoops.FirstOrDefault(h => FitAdvisor.Fits(job.Plan, h)) ?? machine.Hoops[^1];
        var hooped = own ? job.Hooped : HoopedJob.Of(new ChooseHoop(machine, field).Apply(job.Job), job.Plan, machines);
        var why = machine.Takes.Count == 1
            ? $"{machine.Name} reads no other kind."
            : $"{machine.Name} reads {string.Join(" and ", machine.Takes.Select(k => k.Name))}; this one carries most.";
        return new(machine, kind, why, SuggestedName(job, machine) + kind.Extension, StitchFormats.Losses(kind, job.ToFile()), Inspector.Inspect(job.Job, job.Plan, machine, field, machines, fonts, own ? job.Hooped : null), field, hooped.Hoopings);
    }

    /// <summary>The bytes of the file of a hooping for a machine, read back and compared; on one with several needles it says which of them sews what.</summary>
    /// <exception cref="StitchFileException">It cannot be written.</exception>
    public byte[] Write(OpenJob job, WritingPlan plan, HoopedPlan hooping)
    {
        var title = hooping.Named(Inspector.NameOn(job.Job, plan.Machine), plan.Machine.NameLength);
        var file = JobFiles.WithPicture(OpenJob.ToFile(title, hooping), plan.Kind, job.Job.Cloth.Colour);
        return StitchFormats.Write(plan.Kind, file with { Needles = NeedlesOf(job, plan.Machine, hooping) });
    }

    /// <summary>By part of a hooping the needle that sews it; none is said where a part is sewn in any thread, such as a cross.</summary>
    private ImmutableArray<int> NeedlesOf(OpenJob job, SewingMachineModel machine, HoopedPlan hooping)
    {
        if (box.NeedlesFor(job, machine) is not { } needles) return [];
        var of = job.Plan.Parts.Select((p, n) => (p.Id, Needle: needles.NeedleOfPart[n])).ToDictionary(p => p.Id, p => p.Needle);
        return hooping.Plan.Parts.All(p => of.ContainsKey(p.Id)) ? [.. hooping.Plan.Parts.Select(p => of[p.Id])] : [];
    }

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
    public Arrival Deliver(OpenJob job, WritingPlan plan, HoopedPlan hooping, string fileName, string drawerId, bool replace) =>
        Deliver(plan.Machine, fileName, drawerId, replace, () => Write(job, plan, hooping));

    /// <summary>Puts a file for a machine where it should go, reads it there again and lets the machine look at it.</summary>
    /// <param name="machine">For which machine.</param>
    /// <param name="fileName">Its name with its ending.</param>
    /// <param name="drawerId">The machine or stick that it goes to.</param>
    /// <param name="replace">Whether a file of that name is replaced.</param>
    /// <param name="write">Writes it; what it refuses is told with the arrival.</param>
    public Arrival Deliver(SewingMachineModel machine, string fileName, string drawerId, bool replace, Func<byte[]> write)
    {
        var where = room.Machine(drawerId)?.Model.Name ?? room.Stick(drawerId)?.Name ?? drawerId;
        Arrival Not(string why) => new(machine, fileName, where, false, why, null);
        if (room.Drawer(drawerId) is not { } drawer) return Not("There is no such machine or stick.");
        if (NameRefused(machine, fileName) is { } refused) return Not(refused);
        try
        {
            var bytes = write();
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
