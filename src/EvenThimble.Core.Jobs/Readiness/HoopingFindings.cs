using System.Globalization;
using EvenThimble.Core.Geometry;
using EvenThimble.Core.Hoopings;
using EvenThimble.Core.Jobs;
using EvenThimble.Core.Machines;
using EvenThimble.Core.Planning;
using EvenThimble.Core.Stitches;
using EvenThimble.Core.Text;

namespace EvenThimble.Core.Readiness;

/// <summary>Looks over a job that is divided among hoopings: whether the division holds, and whether each hooping could be sewn.</summary>
internal static class HoopingFindings
{
    /// <summary>All findings about hoopings.</summary>
    public static IEnumerable<Finding> Of(Job job, SewingPlan plan, HoopedJob hooped, SewingMachineModel machine) => All(job, plan, hooped, machine).Select(f => f with { ConcernsTheHoop = true });

    private static IEnumerable<Finding> All(Job job, SewingPlan plan, HoopedJob hooped, SewingMachineModel machine)
    {
        var field = hooped.Hoopings[0].Place.Field;
        var anew = new Remedy("divide-anew", "Divide it anew", new DivideInHoop(plan, machine, field));
        if (FitAdvisor.Fits(plan, field))
        {
            yield return new("one-hooping", FindingLevel.Note, $"All of it fits {field.Name} in one hooping; it is divided among {hooped.Hoopings.Length}.", "Made one, it needs no seam.")
            {
                Remedies = [new("undivide", "Make one hooping of it", new Undivide())],
            };
        }

        foreach (var stray in hooped.Strays)
        {
            var name = NameOf(job, stray.Part);
            yield return new($"stray-{stray.Part.Value}", FindingLevel.Trouble,
                stray.Outside ? $"“{name}” has stitches that lie in the field of no hooping." : $"“{name}” cannot be sewn in its order: what lies under it is sewn in a later hooping.",
                "The job has changed since it was divided. Divide it anew, or move the part.")
            {
                Remedies = [anew],
                Record = stray.Record,
            };
        }

        foreach (var given in hooped.Ungiven)
        {
            yield return new($"given-{given.Part.Value}", FindingLevel.Attention,
                given.Outside ? $"“{NameOf(job, given.Part)}” was given to hooping {given.Hooping + 1}, but not all of it lies in that field; only what does is sewn there."
                    : $"“{NameOf(job, given.Part)}” was given to hooping {given.Hooping + 1}, but there it would sew {(given.Hooping == 0 || hooped.HoopingsOf(given.Part).Max() > given.Hooping ? "before what lies under it" : "after what lies over it")}.",
                "It is sewn where it can be. Give its neighbours along, or let the program find the hooping.")
            {
                Remedies = [new($"give-back-{given.Part.Value}", "Let the program find it", new GiveToHooping(new HashSet<PartId> { given.Part }, null))],
            };
        }

        foreach (var hooping in hooped.Hoopings)
            foreach (var finding in OfHooping(hooping, machine, anew))
                yield return finding;
        if (job.Crosses is null) yield break;
        if (hooped.Crosses.IsEmpty)
        {
            yield return new("no-room-for-crosses", FindingLevel.Attention, "There is no spot that two hoopings reach, so no crosses are sewn.", "Mark the cloth with the templates instead.");
        }
        else if (hooped.Crosses.Count(spot => hooped.Hoopings.Count(h => RegistrationCrosses.Takes(h.Place, spot)) < 2) is > 0 and var lonely)
        {
            yield return new("lonely-cross", FindingLevel.Attention, $"{(lonely == 1 ? "One cross lies" : $"{lonely} crosses lie")} where no two hoopings reach, so {(lonely == 1 ? "it is" : "they are")} not sewn.", "Put it nearer to the seam.")
            {
                Remedies = [new("crosses-anew", "Let the program put the crosses", new SetCrosses(CrossWish.Proposed))],
            };
        }
    }

    private static IEnumerable<Finding> OfHooping(HoopedPlan hooping, SewingMachineModel machine, Remedy anew)
    {
        var (plan, field) = (hooping.AtMachine, hooping.Place.Field);
        if (hooping.Plan.StitchCount == 0)
        {
            yield return new($"empty-hooping-{hooping.Number}", FindingLevel.Attention, $"Hooping {hooping.Number} has nothing to sew.", "Divide it anew, or draw the seam elsewhere.") { Remedies = [anew] };
            yield break;
        }

        if (hooping.Hooping.Measured != MeasuredOffset.None && FitAdvisor.Outside(plan, field) is { Count: > 0 })
        {
            var over = Enumerable.Range(0, plan.Records.Count).Where(i => plan.Records.Kinds[i] == StitchKind.Stitch).Max(i => new Box(-field.InnerWidth / 2, -field.InnerHeight / 2, field.InnerWidth / 2, field.InnerHeight / 2).DistanceTo(plan.Records.At(i)));
            yield return new($"met-outside-{hooping.Number}", FindingLevel.Trouble, $"Shifted and turned to meet the first, hooping {hooping.Number} reaches {LengthText.Decimals(Math.Max(over, 0.1), 1)} mm over the edge of its field.", "Hoop it again nearer to the mark, and measure anew.")
            {
                Remedies = [new($"unmeasure-{hooping.Number}", "Forget the measured offset", new MeasureOffset(hooping.Number - 1, MeasuredOffset.None))],
            };
        }

        if (plan.StitchCount > machine.MostStitches)
            yield return new($"stitches-of-{hooping.Number}", FindingLevel.Trouble, string.Create(CultureInfo.InvariantCulture, $"Hooping {hooping.Number} has {plan.StitchCount:N0} stitches; {machine.Name} takes {machine.MostStitches:N0}."), "Use a machine that takes more.");
        if (machine.MostThreadChanges is { } most && plan.ThreadChanges > most)
            yield return new($"changes-of-{hooping.Number}", FindingLevel.Trouble, $"Hooping {hooping.Number} has {plan.ThreadChanges} thread changes; {machine.Name} takes {most}.", "Put parts of one thread side by side on the sewing line.");
    }

    private static string NameOf(Job job, PartId part) => job.Order.Find(part)?.Name ?? "A part";
}
