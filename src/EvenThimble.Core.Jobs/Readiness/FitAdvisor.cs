using System.Collections.Immutable;
using System.Globalization;
using EvenThimble.Core.Jobs;
using EvenThimble.Core.Machines;
using EvenThimble.Core.Planning;
using EvenThimble.Core.Stitches;
using EvenThimble.Core.Text;

namespace EvenThimble.Core.Readiness;

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

    /// <summary>The finding, or null when it fits.</summary>
    public static Finding? Check(Job job, SewingPlan plan, SewingMachineModel machine, HoopField field, MachineCatalogue machines)
    {
        var (count, first) = Outside(plan, field);
        if (count == 0) return null;
        var (width, height) = (plan.Bounds.Width, plan.Bounds.Height);
        var fitsCentred = field.HoldsSize(width, height);
        var remedies = Remedies(job, plan, machine, field, machines).ToImmutableArray();
        var says = fitsCentred
            ? $"It would fit {machine.Name}, {field.Name}, but lies {FarthestOver(plan, field)} mm outside the field."
            : $"It does not fit: {Mm(width)} × {Mm(height)} mm in a field of {Mm(field.Width - (2 * field.Margin))} × {Mm(field.Height - (2 * field.Margin))} mm. {machine.Name} would not list it.";
        var advice = remedies.Length > 0 ? "One of these puts it right:" : "No hoop here is large enough for it in one go.";
        return new("outside", FindingLevel.Trouble, says, advice) { Remedies = remedies, Record = first };
    }

    private static IEnumerable<Remedy> Remedies(Job job, SewingPlan plan, SewingMachineModel machine, HoopField field, MachineCatalogue machines)
    {
        var all = job.Order.Select(p => p.Id).ToHashSet();
        var (width, height) = (plan.Bounds.Width, plan.Bounds.Height);
        if (field.HoldsSize(width, height)) yield return new("centre", "Centre it", new CentreParts(all, plan.Bounds.Middle));
        else if (field.HoldsSize(height, width)) yield return new("turn", "Turn it by 90°", TurnedToCentre(all, plan, "Turned everything by 90° to fit"));

        var others = machine.Hoops.Where(h => h.Id != field.Id).Select(h => (Machine: machine, Field: h))
            .Concat(machines.All.Where(m => m.Id != machine.Id).SelectMany(m => m.Hoops.Take(3).Select(h => (Machine: m, Field: h))));
        var offered = new HashSet<string>();
        foreach (var (m, f) in others)
        {
            // One hoop of each machine, the smallest, is enough to choose from.
            if (offered.Contains(m.Id)) continue;
            var choose = new ChooseHoop(m, f);
            var name = m.Id == machine.Id ? f.Name : $"{m.Name}, {f.Name}";
            var key = $"hoop-{m.Id}-{f.Id}";
            if (Fits(plan, f)) yield return new(key, $"Use {name}", choose);
            else if (f.HoldsSize(width, height))
                yield return new(key, $"Use {name}, centred", new EditsTogether($"Chose {name} and centred everything", [choose, new CentreParts(all, plan.Bounds.Middle)]));
            else if (f.HoldsSize(height, width))
                yield return new(key, $"Use {name}, turned", new EditsTogether($"Chose {name} and turned everything", [choose, TurnedToCentre(all, plan, string.Empty)]));
            else continue;
            offered.Add(m.Id);
        }
    }

    private static EditsTogether TurnedToCentre(IReadOnlySet<PartId> all, SewingPlan plan, string said) =>
        new(said, [new TurnParts(all, 90, plan.Bounds.Middle), new CentreParts(all, plan.Bounds.Middle)]);

    private static string FarthestOver(SewingPlan plan, HoopField field)
    {
        var (halfWidth, halfHeight) = ((field.Width / 2) - field.Margin, (field.Height / 2) - field.Margin);
        var b = plan.Bounds;
        var over = new[] { -halfWidth - b.MinX, b.MaxX - halfWidth, -halfHeight - b.MinY, b.MaxY - halfHeight }.Max();
        return Mm(Math.Max(over, 0.1));
    }

    private static string Mm(double v) => LengthText.Decimals(v, 1);
}
