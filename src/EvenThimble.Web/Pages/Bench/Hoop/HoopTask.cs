using EvenThimble.Core.Jobs;
using EvenThimble.Core.Readiness;
using EvenThimble.Core.Text;

namespace EvenThimble.Web.Pages.Bench;

/// <summary>Machine and hoop.</summary>
public sealed class HoopTask : BenchTask
{
    private sealed record HoopForm(string? Machine, string? Hoop);

    public override string Id => "hoop";

    public override string Name => "Hoop";

    public override string Icon => "bi-bounding-box-circles";

    public override char? Key => '6';

    public override string Says => "Machine and hoop";

    public override string Focus => "machine";

    public override bool HasScript => false;

    public override IReadOnlyList<Command> Commands { get; } =
    [
        // Without a hoop, the first of the machine that the job fits.
        Command.Of<HoopForm>("hoop", "Choose machine and hoop", (bench, form) =>
        {
            var machine = bench.Machines.Find(form.Machine) ?? throw new EditRefusedException("That machine is not known here.");
            var hoop = form.Hoop is null ? machine.Hoops.FirstOrDefault(h => FitAdvisor.Fits(bench.Open.Plan, h)) ?? machine.Hoops[0] : machine.Hoops.FirstOrDefault(h => h.Id == form.Hoop);
            return new ChooseHoop(machine, hoop ?? throw new EditRefusedException($"{machine.Name} has no such hoop."));
        }),
    ];
}
