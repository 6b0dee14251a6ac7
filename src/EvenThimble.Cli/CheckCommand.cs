using System.CommandLine;
using System.Globalization;
using EvenThimble.Core.Craft;
using EvenThimble.Core.Machines;
using EvenThimble.Core.Planning;
using EvenThimble.Core.Readiness;

namespace EvenThimble.Cli;

/// <summary>Tells what a machine would make of stitch files; trouble counts as a refusal.</summary>
internal sealed class CheckCommand : FilesCommand
{
    private readonly Option<string> _machine = new("--machine") { Description = "The machine, by name or short name.", Required = true };
    private readonly Option<string?> _hoop = new("--hoop") { Description = "Its hoop, such as 200x200; else the first that the design fits." };

    public CheckCommand(TextWriter says, TextWriter errors)
        : base("check", "Tell what a machine would make of stitch files.", "Stitch files.", says, errors)
    {
        Add(_machine);
        Add(_hoop);
    }

    protected override IEnumerable<Work> Works(ParseResult parsed)
    {
        var machine = HoopedFiles.MachineNamed(parsed.GetValue(_machine)!);
        var hoop = parsed.GetValue(_hoop) is { } named ? HoopedFiles.HoopNamed(machine, named) : null;
        return parsed.GetValue(Inputs)!.Select(input => new Work(input, null, () => Checked(input, machine, hoop)));
    }

    private static WorkResult Checked(string input, SewingMachineModel machine, HoopField? hoop)
    {
        var design = StitchFiles.Read(input);
        var job = StitchFiles.JobOf(design);
        var plan = Sequencer.Plan(job, new StitchFiles.Held([design]));
        var field = hoop ?? machine.Hoops.FirstOrDefault(h => FitAdvisor.Fits(plan, h)) ?? machine.Hoops[^1];
        var findings = Inspector.Inspect(job, plan, machine, field, StitchFiles.Machines);
        var estimate = SewingEstimate.Of(plan, machine, job.Cloth.Profile.ThicknessMm);
        var trouble = findings.Any(f => f.Level == FindingLevel.Trouble);
        return new(
            [
                string.Create(CultureInfo.InvariantCulture, $"{input}: {(trouble ? "in trouble" : findings.Any(f => f.Level == FindingLevel.Attention) ? "to be looked at" : "ready")} for {machine.Name}, {field.Name}; {estimate.Minutes:0} min"),
                .. findings.Select(f => $"  {f.Level.ToString().ToLowerInvariant()}: {f.Says} {f.Advice}"),
            ],
            new
            {
                machine = machine.Id,
                hoop = field.Id,
                ready = !trouble,
                minutes = Math.Round(estimate.Minutes, 1),
                stitches = plan.StitchCount,
                widthMm = Math.Round(plan.Bounds.Width, 2),
                heightMm = Math.Round(plan.Bounds.Height, 2),
                findings = findings.Select(f => new { key = f.Key, level = f.Level.ToString().ToLowerInvariant(), says = f.Says, advice = f.Advice }),
            },
            trouble);
    }
}
