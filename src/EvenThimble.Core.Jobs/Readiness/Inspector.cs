using System.Collections.Immutable;
using System.Globalization;
using EvenThimble.Core.Hoopings;
using EvenThimble.Core.Jobs;
using EvenThimble.Core.Lettering;
using EvenThimble.Core.Machines;
using EvenThimble.Core.Planning;
using EvenThimble.Core.Stitches;
using EvenThimble.Core.Text;

namespace EvenThimble.Core.Readiness;

/// <summary>Looks a job over before it is sewn.</summary>
public static class Inspector
{
    // Layers that cloth bears, and that it certainly does not, over more than so many mm² in one place.
    private const int MostLayers = 4;
    private const int FarTooManyLayers = 6;
    private const int MostDenseMm = 2;

    /// <summary>The key of the finding about what a job is called on a machine.</summary>
    public const string NameKey = "name";

    /// <summary>All findings for the job's own machine and hoop, the most serious first.</summary>
    /// <param name="job">The job.</param>
    /// <param name="plan">Its plan.</param>
    /// <param name="machines">The machines that may be offered instead.</param>
    /// <param name="faces">The fonts at hand; null: letterings are not looked at.</param>
    /// <param name="hooped">Its hoopings, where they are known already.</param>
    public static ImmutableArray<Finding> Inspect(Job job, SewingPlan plan, MachineCatalogue machines, ILetterFaces? faces = null, HoopedJob? hooped = null) =>
        Inspect(job, plan, machines.MachineOf(job.Hoop), machines.FieldOf(job.Hoop), machines, faces, hooped ?? HoopedJob.Of(job, plan, machines));

    /// <summary>All findings for a machine and one of its hoops, the most serious first; as one hooping, unless its hoopings are given.</summary>
    public static ImmutableArray<Finding> Inspect(Job job, SewingPlan plan, SewingMachineModel machine, HoopField field, MachineCatalogue machines, ILetterFaces? faces = null, HoopedJob? hooped = null)
    {
        if (plan.StitchCount == 0)
            return [new("empty", FindingLevel.Trouble, "There are no stitches in this job.", "Draw something with Add, or open a design from the shelf.")];
        var inHoop = hooped is { IsDivided: true } ? HoopingFindings.Of(job, plan, hooped, machine)
            : new[] { FitAdvisor.Check(job, plan, machine, field, machines), TooManyStitches(plan, machine, machines), TooManyChanges(plan, machine) }.OfType<Finding>();
        return
        [
            .. inHoop
                .Concat(new[] { TooManyThreads(plan, machine), LongStitches(plan, machine), TooDense(plan), Name(job, machine), HiddenParts(job) }.OfType<Finding>())
                .Concat(OrderFindings.Of(job, plan))
                .Concat(BorderFindings.Of(job, plan))
                .Concat(LetterFindings.Missing(job))
                .Concat(NameFindings.Of(job, faces))
                .Concat(faces is null ? [] : LetterFindings.Of(job, faces))
                .OrderByDescending(f => f.Level),
        ];
    }

    /// <summary>The name a job bears on a machine: its title, or a short plain one where the machine can show no other.</summary>
    public static string NameOn(Job job, SewingMachineModel machine)
    {
        if (machine.NameLength is not { } most || (job.Title.Length <= most && Titles.IsPlain(job.Title))) return job.Title;
        return job.ShortTitle ?? Titles.Plain(job.Title, most);
    }

    private static Finding? TooManyStitches(SewingPlan plan, SewingMachineModel machine, MachineCatalogue machines)
    {
        if (plan.StitchCount <= machine.MostStitches) return null;
        var others = machines.All.Where(m => plan.StitchCount <= m.MostStitches && m.SmallestHoopFor(plan.Bounds.Width, plan.Bounds.Height) is { Turned: false });
        return new("too-many-stitches", FindingLevel.Trouble,
            $"{Number(plan.StitchCount)} stitches are more than {machine.Name} takes ({Number(machine.MostStitches)}).",
            "It would not list the file. Use a machine that takes more.")
        {
            Remedies = [.. others.Select(m => Use(m, m.SmallestHoopFor(plan.Bounds.Width, plan.Bounds.Height)!.Value.Field))],
        };
    }

    private static Finding? TooManyChanges(SewingPlan plan, SewingMachineModel machine)
    {
        if (machine.MostThreadChanges is not { } most || plan.ThreadChanges <= most) return null;
        return new("too-many-changes", FindingLevel.Trouble,
            $"{plan.ThreadChanges} thread changes are more than {machine.Name} takes ({most}).",
            "Put parts of one thread side by side on the sewing line, or use a machine that takes more.");
    }

    private static Finding? TooManyThreads(SewingPlan plan, SewingMachineModel machine)
    {
        if (machine.Needles <= 1 || plan.Threads.Length <= machine.Needles) return null;
        return new("too-many-threads", FindingLevel.Attention,
            $"{plan.Threads.Length} threads are more than the {machine.Needles} needles of {machine.Name}.",
            "Somebody has to change cones while it sews; give parts that look alike one thread.");
    }

    private static Finding? LongStitches(SewingPlan plan, SewingMachineModel machine)
    {
        var records = plan.Records;
        var (count, first) = (0, 0);
        for (var i = 1; i < records.Count; i++)
        {
            if (records.Kinds[i] != StitchKind.Stitch || records.Kinds[i - 1] != StitchKind.Stitch) continue;
            if (records.At(i - 1).DistanceTo(records.At(i)) <= machine.LongestStitch) continue;
            if (count++ == 0) first = i;
        }

        if (count == 0) return null;
        return new("long-stitches", FindingLevel.Attention,
            $"{(count == 1 ? "One stitch is" : $"{Number(count)} stitches are")} longer than {machine.LongestStitch.ToString("0.0", CultureInfo.InvariantCulture)} mm, the longest that {machine.Name} makes.",
            "The machine will leap there, and the thread will lie loose. Look at the place.")
        {
            Record = first,
        };
    }

    /// <summary>Satin or fill with what lies under it is one layer; where more than a few come together, needles break and cloth is cut.</summary>
    private static Finding? TooDense(SewingPlan plan)
    {
        var map = DensityMap.Covers(plan);
        var dense = map.Over(MostLayers);
        if (dense.Count == 0 || dense[0].SquareMm <= MostDenseMm) return null;
        var serious = map.Over(FarTooManyLayers) is [var worst, ..] && worst.SquareMm > MostDenseMm;
        var places = dense.Count(p => p.SquareMm > MostDenseMm);
        var (_, column, row) = dense[0];
        return new("too-dense", serious ? FindingLevel.Trouble : FindingLevel.Attention,
            $"{(places == 1 ? "In one place" : $"In {Number(places)} places")} more than {(serious ? FarTooManyLayers : MostLayers)} layers of thread lie on each other, the largest {Number(dense[0].SquareMm)} mm².",
            "The needle may break there and the cloth be cut. Take parts away that lie under others, or thin them out.")
        {
            Record = FirstIn(plan, map.Left + column, map.Top + row),
        };
    }

    private static int? FirstIn(SewingPlan plan, int x, int y)
    {
        for (var i = 0; i < plan.Records.Count; i++)
            if (plan.Records.Kinds[i] == StitchKind.Stitch && plan.Records.At(i) is var p && (int)Math.Floor(p.X) == x && (int)Math.Floor(p.Y) == y)
                return i;
        return null;
    }

    private static Finding? Name(Job job, SewingMachineModel machine)
    {
        var name = NameOn(job, machine);
        if (name == job.Title) return null;
        var mostLetters = machine.NameLength ?? Titles.ShortLength;
        var finding = new Finding(NameKey, FindingLevel.Note,
            $"{machine.Name} shows {mostLetters} plain letters; there the job is called “{name}”.",
            job.ShortTitle is null ? "Keep this short name, or give the job a shorter title in plain letters." : "You chose this short name.");
        return job.ShortTitle is null ? finding with { Remedies = [new("short-name", $"Keep “{name}”", new SetShortTitle(name))] } : finding;
    }

    private static Finding? HiddenParts(Job job)
    {
        var hidden = job.Order.Where(p => p.Hidden).Select(p => p.Id).ToHashSet();
        if (hidden.Count == 0) return null;
        return new("hidden", FindingLevel.Note,
            hidden.Count == 1 ? "One part is hidden on the screen; it is sewn all the same." : $"{hidden.Count} parts are hidden on the screen; they are sewn all the same.",
            "Show them to see what the machine will sew.")
        {
            Remedies = [new("show-all", "Show them", new HideParts(hidden, false))],
        };
    }

    private static Remedy Use(SewingMachineModel machine, HoopField field) =>
        new($"use-{machine.Id}-{field.Id}", $"Use {machine.Name}, {field.Name}", new ChooseHoop(machine, field));

    private static string Number(int n) => n.ToString("N0", CultureInfo.InvariantCulture);
}
