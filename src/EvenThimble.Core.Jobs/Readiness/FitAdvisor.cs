using System.Collections.Immutable;
using EvenThimble.Core.Hoopings;
using EvenThimble.Core.Jobs;
using EvenThimble.Core.Machines;
using EvenThimble.Core.Planning;
using EvenThimble.Core.Stitches;
using EvenThimble.Core.Text;

namespace EvenThimble.Core.Readiness;

/// <summary>How a job lies in one hoop.</summary>
/// <param name="Field">The hoop.</param>
/// <param name="Fits">Every needle point lies in its field.</param>
/// <param name="Says">In a few words how it fits or why it does not.</param>
/// <param name="Remedies">What would make it fit.</param>
public sealed record HoopAdvice(HoopField Field, bool Fits, string Says, ImmutableArray<Remedy> Remedies);

/// <summary>Divides a job among the hoopings that are found when it is done.</summary>
/// <param name="Plan">The plan of the job.</param>
/// <param name="Machine">The machine.</param>
/// <param name="Field">One of its hoops.</param>
public sealed record DivideInHoop(SewingPlan Plan, SewingMachineModel Machine, HoopField Field) : JobEdit
{
    /// <inheritdoc/>
    public override Job Apply(Job job) => new DivideAmong(FewestHoopings.For(Plan, Machine, Field), Field.Name).Apply(job);

    /// <inheritdoc/>
    public override string Label(Job before) => $"Divided it among hoopings of {Machine.Name}, {Field.Name}";
}

/// <summary>Decides by every needle point whether a job fits a hoop field, and finds what would make it fit.</summary>
public static class FitAdvisor
{
    /// <summary>Needle points outside the field, and the record of the first.</summary>
    public static (int Count, int First) Outside(SewingPlan plan, HoopField field)
    {
        var (count, first) = (0, -1);
        var records = plan.Records;
        for (var i = 0; i < records.Count; i++)
        {
            if (records.Kinds[i] != StitchKind.Stitch || field.Holds(records.At(i))) continue;
            if (count++ == 0) first = i;
        }

        return (count, first);
    }

    /// <summary>Whether every needle point lies in the field.</summary>
    public static bool Fits(SewingPlan plan, HoopField field) => Outside(plan, field).Count == 0;

    /// <summary>How the job lies in each hoop of a machine, and what would help.</summary>
    public static ImmutableArray<HoopAdvice> Advise(Job job, SewingPlan plan, SewingMachineModel machine)
    {
        if (plan.StitchCount == 0) return [.. machine.Hoops.Select(h => new HoopAdvice(h, true, "nothing to sew yet", []))];
        var fit = new FieldFit(plan);
        return [.. machine.Hoops.Select(field => Fits(plan, field)
            ? new HoopAdvice(field, true, "fits", [])
            : new HoopAdvice(field, false, WhyNot(plan, field, fit), [.. InField(job, plan, machine, field, fit, $"{machine.Id}-{field.Id}-")]))];
    }

    /// <summary>The finding, or null when it fits.</summary>
    public static Finding? Check(Job job, SewingPlan plan, SewingMachineModel machine, HoopField field, MachineCatalogue machines)
    {
        var (count, first) = Outside(plan, field);
        if (count == 0) return null;
        var fit = new FieldFit(plan);
        var remedies = InField(job, plan, machine, field, fit, string.Empty).Concat(OtherHoops(job, plan, machine, field, machines, fit)).DistinctBy(r => r.Key).ToImmutableArray();
        var says = fit.Fits(field)
            ? $"It would fit {machine.Name}, {field.Name}, but lies {FarthestOver(plan, field)} mm outside the field."
            : $"It does not fit: {Mm(plan.Bounds.Width)} × {Mm(plan.Bounds.Height)} mm in a field of {Mm(field.InnerWidth)} × {Mm(field.InnerHeight)} mm. {machine.Name} would not list it.";
        return new("outside", FindingLevel.Trouble, says, "One of these puts it right:") { ConcernsTheHoop = true, Remedies = remedies, Record = first };
    }

    private static string WhyNot(SewingPlan plan, HoopField field, FieldFit fit)
    {
        if (fit.Fits(field)) return $"lies {FarthestOver(plan, field)} mm over the edge; centred it fits";
        var (wide, high) = (plan.Bounds.Width - field.InnerWidth, plan.Bounds.Height - field.InnerHeight);
        return (wide > 0.05, high > 0.05) switch
        {
            (true, true) => $"{Mm(wide)} mm too wide and {Mm(high)} mm too high",
            (true, false) => $"{Mm(wide)} mm too wide",
            (false, true) => $"{Mm(high)} mm too high",
            _ => "its corners reach over the round edge",
        };
    }

    /// <summary>What makes it fit this very hoop.</summary>
    private static IEnumerable<Remedy> InField(Job job, SewingPlan plan, SewingMachineModel machine, HoopField field, FieldFit fit, string key)
    {
        var all = job.Order.Select(p => p.Id).ToHashSet();
        var choose = machine.Id == job.Hoop.MachineId && field.Id == job.Hoop.HoopId && job.Hoopings.Length == 1 ? null : new ChooseHoop(machine, field);
        if (fit.Fits(field)) yield return new(key + "centre", "Centre it", Chosen(choose, string.Empty, new CentreParts(all, fit.Middle)));
        else
        {
            if (fit.SmallestTurn(field) is { } turn)
                yield return new(key + "turn", $"Turn it by {Degrees(turn)}", Chosen(choose, $"Turned everything by {Degrees(turn)} to fit", new TurnParts(all, turn, fit.Middle), new CentreParts(all, fit.MiddleTurned(turn))));
            yield return new(key + "divide", field.Positions > 1 ? "Sew it in several positions" : "Hoop the cloth again and sew it in parts", new DivideInHoop(plan, machine, field));
            if (fit.LargestSize(field) is { } size)
                yield return new(key + "smaller", $"Make it {Mm(plan.Bounds.Width * size)} × {Mm(plan.Bounds.Height * size)}, re-spaced", Chosen(choose, $"Made everything {Mm(size * 100)} % of its size to fit", new ResizeParts(all, size, size, fit.Middle), new CentreParts(all, fit.Middle)));
        }
    }

    private static JobEdit Chosen(ChooseHoop? choose, string said, params JobEdit[] edits) =>
        choose is null && edits.Length == 1 ? edits[0]
        : new EditsTogether(said.Length > 0 ? said : $"Chose {choose!.Machine.Name}, {choose.Field.Name}, and centred everything", [.. choose is null ? edits : edits.Prepend(choose)]);

    private static IEnumerable<Remedy> OtherHoops(Job job, SewingPlan plan, SewingMachineModel machine, HoopField field, MachineCatalogue machines, FieldFit fit)
    {
        var all = job.Order.Select(p => p.Id).ToHashSet();
        var others = machine.Hoops.Where(h => h.Id != field.Id).Select(h => (Machine: machine, Field: h))
            .Concat(machines.All.Where(m => m.Id != machine.Id).SelectMany(m => m.Hoops.Select(h => (Machine: m, Field: h))));
        var offered = new HashSet<string>();
        foreach (var (m, f) in others)
        {
            // One hoop of each machine, the smallest, is enough to choose from.
            if (offered.Contains(m.Id)) continue;
            var choose = new ChooseHoop(m, f);
            var name = m.Id == machine.Id ? f.Name : $"{m.Name}, {f.Name}";
            var key = $"hoop-{m.Id}-{f.Id}";
            if (Fits(plan, f)) yield return new(key, $"Use {name}", choose);
            else if (fit.Fits(f)) yield return new(key, $"Use {name}, centred", Chosen(choose, $"Chose {name} and centred everything", new CentreParts(all, fit.Middle)));
            else if (fit.Fits(f, 90)) yield return new(key, $"Use {name}, turned", Chosen(choose, $"Chose {name} and turned everything", new TurnParts(all, 90, fit.Middle), new CentreParts(all, fit.MiddleTurned(90))));
            else continue;
            offered.Add(m.Id);
        }

        // A long hoop that reaches over it as a whole is what it is there for.
        foreach (var f in machine.Hoops.Where(h => h.Id != field.Id && h.Positions > 1 && plan.Bounds.Width <= h.Whole.Width && plan.Bounds.Height <= h.Whole.Height))
            yield return new($"divide-{f.Id}", $"Use {f.Name} in several positions", new DivideInHoop(plan, machine, f));
    }

    private static string FarthestOver(SewingPlan plan, HoopField field)
    {
        var (halfWidth, halfHeight) = (field.InnerWidth / 2, field.InnerHeight / 2);
        var b = plan.Bounds;
        var over = new[] { -halfWidth - b.MinX, b.MaxX - halfWidth, -halfHeight - b.MinY, b.MaxY - halfHeight }.Max();
        return Mm(Math.Max(over, 0.1));
    }

    private static string Degrees(double turn) => $"{LengthText.Decimals(turn, 2)}°";

    private static string Mm(double v) => LengthText.Decimals(v, 1);
}
