using EvenThimble.Core.Geometry;
using EvenThimble.Core.Jobs;
using EvenThimble.Core.Readiness;
using EvenThimble.Core.Text;

namespace EvenThimble.Web.Pages.Bench;

/// <summary>Machine and hoop; several hoopings where one is too small; crosses, basting and where the needle rests.</summary>
public sealed class HoopTask : BenchTask
{
    private sealed record HoopForm(string? Machine, string? Hoop);

    private sealed record SuitForm(string? Key);

    private sealed record SeamForm(int First, int Second, string? Line);

    private sealed record GiveForm(string? Value);

    private sealed record CrossesForm(bool Wanted, string? Spots);

    private sealed record LandedForm(int Hooping, string? Right, string? Down, string? Turned);

    private sealed record HoldForm(Basting Basting, bool CentreMark, NeedleRest Start, NeedleRest End);

    private sealed record NotesForm(string? Notes);

    public override string Id => "hoop";

    public override string Name => "Hoop";

    public override string Icon => "bi-bounding-box-circles";

    public override char? Key => '6';

    public override string Says => "Machine and hoop, several hoopings, templates";

    public override string Focus => "machine";

    public override object CardFor(BenchView bench) => HoopCard.Of(bench);

    public override IReadOnlyList<Command> Commands { get; } =
    [
        // Without a hoop, the first of the machine that the job fits.
        Command.Of<HoopForm>("hoop", "Choose machine and hoop", (bench, form) =>
        {
            var machine = bench.Machines.Find(form.Machine) ?? throw new EditRefusedException("That machine is not known here.");
            var hoop = form.Hoop is null ? machine.Hoops.FirstOrDefault(h => FitAdvisor.Fits(bench.Open.Plan, h)) ?? machine.Hoops[0] : machine.FindHoop(form.Hoop);
            return new ChooseHoop(machine, hoop ?? throw new EditRefusedException($"{machine.Name} has no such hoop."));
        }),
        Command.Of<SuitForm>("suit-hoop", "Make it fit a hoop", (bench, form) => HoopCard.Of(bench).Find(form.Key)?.Edit ?? throw new EditRefusedException("It fits already, or the hoop is another now. Look again.")),
        Command.Of("divide", "Divide it among hoopings", bench => new DivideInHoop(bench.Open.Plan, bench.Open.Machine, bench.Open.Field)),
        Command.Of("undivide", "Make one hooping of it", _ => new Undivide()),
        Command.Of<SeamForm>("seam", "Draw the seam of two hoopings", (_, form) => new DrawSeam(form.First, form.Second, [.. PlacesOf.Spots(form.Line)])),
        Command.Of<GiveForm>("give-hooping", "Give parts to a hooping", (bench, form) => new GiveToHooping(bench.ChosenIds(), string.IsNullOrWhiteSpace(form.Value) ? null
            : int.TryParse(form.Value, out var number) ? number - 1 : throw new EditRefusedException("That is not the number of a hooping."))),
        Command.Of<CrossesForm>("crosses", "Sew crosses to align by", (_, form) => new SetCrosses(form.Wanted ? new([.. PlacesOf.Spots(form.Spots)]) : null)),
        Command.Of<LandedForm>("landed", "Say where a hooping landed", (bench, form) => new MeasureOffset(form.Hooping, new(Off(bench, form.Right), Off(bench, form.Down), string.IsNullOrWhiteSpace(form.Turned) ? 0 : BenchView.Degrees(form.Turned))))
            with { KeepsTyped = true },
        Command.Of<HoldForm>("hold", "Hold and mark the cloth", (_, form) => new HoldCloth(new(form.Basting, form.CentreMark, form.Start, form.End))),
        Command.Of<NotesForm>("notes", "Write notes for the sheet", (_, form) => new WriteNotes(form.Notes ?? string.Empty)),
    ];

    private static double Off(BenchView bench, string? typed) => string.IsNullOrWhiteSpace(typed) ? 0 : bench.Typed(typed);
}
