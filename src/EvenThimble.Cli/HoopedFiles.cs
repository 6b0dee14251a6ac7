using System.CommandLine;
using EvenThimble.Core.Hoopings;
using EvenThimble.Core.Jobs;
using EvenThimble.Core.Machines;
using EvenThimble.Core.Planning;
using EvenThimble.Core.Readiness;
using EvenThimble.Core.Stitches;
using EvenThimble.Rendering.Sheets;

namespace EvenThimble.Cli;

/// <summary>Stitch files in the hoops of a machine, for the commands that divide them and put them on paper.</summary>
internal sealed class HoopedFiles
{
    /// <summary>The machine, by name or short name.</summary>
    public Option<string?> Machine { get; } = new("--machine") { Description = "The machine, by name or short name." };

    /// <summary>Its hoop.</summary>
    public Option<string?> Hoop { get; } = new("--hoop") { Description = "Its hoop, such as 130x300-long; else the first that the design fits." };

    /// <summary>Crosses to align by.</summary>
    public Option<bool> Crosses { get; } = new("--crosses") { Description = "Sew crosses near the seam, in each hooping at the same spot of the cloth." };

    public void AddTo(Command command)
    {
        foreach (var option in new Option[] { Machine, Hoop, Crosses }) command.Add(option);
    }

    /// <summary>The machine and hoop that were asked for; null: none.</summary>
    /// <exception cref="UsageException">There is no such machine or hoop.</exception>
    public (SewingMachineModel Machine, HoopField? Hoop)? Wanted(ParseResult parsed)
    {
        if (parsed.GetValue(Machine) is not { } named) return parsed.GetValue(Hoop) is null ? null : throw new UsageException("A hoop belongs to a machine; name it with --machine.");
        var machine = MachineNamed(named);
        return (machine, parsed.GetValue(Hoop) is { } hoop ? HoopNamed(machine, hoop) : null);
    }

    /// <summary>A machine by name or short name.</summary>
    /// <exception cref="UsageException">There is none.</exception>
    public static SewingMachineModel MachineNamed(string named) =>
        StitchFiles.Machines.All.FirstOrDefault(m => m.Id.Equals(named, StringComparison.OrdinalIgnoreCase) || m.Name.Equals(named, StringComparison.OrdinalIgnoreCase))
            ?? throw new UsageException($"“{named}” is no machine that is known here; there are {string.Join(", ", StitchFiles.Machines.All.Select(m => m.Id))}.");

    /// <summary>A hoop of a machine by its short name.</summary>
    /// <exception cref="UsageException">There is none.</exception>
    public static HoopField HoopNamed(SewingMachineModel machine, string hoop) =>
        machine.FindHoop(hoop) ?? throw new UsageException($"{machine.Name} has no hoop “{hoop}”; it has {string.Join(", ", machine.Hoops.Select(h => h.Id))}.");

    /// <summary>A design in a hoop, divided where it has to be; without a hoop the first that it fits, or the one of the machine that takes the fewest hoopings.</summary>
    public JobSheets Of(ParseResult parsed, StitchFile design, (SewingMachineModel Machine, HoopField? Hoop)? wanted)
    {
        var job = StitchFiles.JobOf(design);
        var plan = Sequencer.Plan(job, new StitchFiles.Held([design]));
        var machine = wanted?.Machine ?? StitchFiles.Machines.MachineOf(job.Hoop);
        var field = wanted is { } w ? w.Hoop ?? machine.Hoops.FirstOrDefault(h => FitAdvisor.Fits(plan, h)) ?? machine.Hoops.MaxBy(h => h.Whole.Width * h.Whole.Height)! : StitchFiles.Machines.FieldOf(job.Hoop);
        job = new ChooseHoop(machine, field).Apply(job);
        if (FitAdvisor.Fits(plan, field)) return new(job, plan, HoopedJob.Of(job, plan, StitchFiles.Machines), machine);
        var (divided, hooped) = HoopedJob.Dividing(parsed.GetValue(Crosses) ? job with { Crosses = CrossWish.Proposed } : job, plan, machine, field, StitchFiles.Machines);
        return new(divided, plan, hooped, machine);
    }
}
