using System.Collections.Immutable;
using EvenThimble.Core.Geometry;
using EvenThimble.Core.Jobs;
using EvenThimble.Core.Outlining;
using EvenThimble.Core.Planning;
using EvenThimble.Core.Planning.Splitting;
using EvenThimble.Core.Recognition;
using EvenThimble.Core.Stitches;

namespace EvenThimble.Core.Cutting;

/// <summary>What a stretch of a part seems to be for.</summary>
/// <param name="Part">The part.</param>
/// <param name="Name">What it is called.</param>
/// <param name="First">The first record of the stretch in the plan.</param>
/// <param name="End">The record after its last.</param>
/// <param name="Role">What it seems to be for.</param>
public sealed record SuggestedRole(PartId Part, string Name, int First, int End, PartRole Role);

/// <summary>
/// Reads from stitches which of them lay, hold and cover cloth: a run, then a run or a zigzag on the same line, then a satin over it. What lies between two stops of the machine is looked at by
/// itself, so that an appliqué in one thread is understood too. The method is our own.
/// </summary>
public static class RoleReading
{
    private const double SameEdge = 1.6;
    private const double DenseMm = 0.8;
    // A satin along an edge of a metre has no more; what is larger or comes after so many is decoration, and would be looked at for long.
    private const int MostRecords = 6_000;
    private const int MostLookedAt = 40_000;
    private const int FewestStitches = 8;
    private const double ShareOnLines = 0.5;

    private enum Sewn : byte
    {
        Run,
        Zigzag,
        Satin,
    }

    private sealed record Section(PlannedPart Part, int First, int End, Sewn Sewn, ImmutableArray<FoundLine> Lines)
    {
        public PartRole? Role { get; set; }
    }

    /// <summary>What can be suggested for parts that have no role yet.</summary>
    public static ImmutableArray<SuggestedRole> Suggest(Job job, SewingPlan plan)
    {
        var bought = job.Order.Where(p => p.Drawn is null).Select(p => p.Id).ToHashSet();
        var (sections, looked) = (new List<Section>(), 0);
        foreach (var part in plan.Parts.Where(p => p is { Role: PartRole.Decoration, Count: > 0 } && bought.Contains(p.Id)))
        {
            foreach (var (first, end) in BetweenStops(part, plan).Where(s => s.End - s.First <= MostRecords))
            {
                if ((looked += end - first) > MostLookedAt) break;
                if (Read(part, plan, first, end) is { } section) sections.Add(section);
            }
        }

        for (var i = 0; i < sections.Count; i++)
        {
            var placement = sections[i];
            if (placement is not { Role: null, Sewn: Sewn.Run }) continue;
            var later = sections.Skip(i + 1).Where(s => s.Role is null && OnOneEdge(placement, s)).ToList();
            var hold = later.Find(s => s.Sewn is Sewn.Run or Sewn.Zigzag);
            var cover = later.Find(s => s.Sewn == Sewn.Satin && (hold is null || s.First > hold.First));
            var asks = HasStop(plan, placement.First, (hold ?? cover)?.First ?? 0);
            if ((hold is null || cover is null) && !(asks && (hold ?? cover) is not null)) continue;
            placement.Role = PartRole.PlacementLine;
            if (hold is not null) hold.Role = PartRole.TackDown;
            if (cover is not null) cover.Role = PartRole.Cover;

            // The placement line sewn once more before anything is laid.
            foreach (var again in later.Where(s => s.Role is null && s.Sewn == Sewn.Run && s.First < (hold ?? cover)!.First)) again.Role = PartRole.PlacementLine;
        }

        return [.. sections.Where(s => s.Role is not null).Select(s => new SuggestedRole(s.Part.Id, s.Part.Name, s.First, s.End, s.Role!.Value))];
    }

    /// <summary>The job with what was suggested; a part that is for several things is taken apart at the stops between them.</summary>
    /// <param name="job">The job.</param>
    /// <param name="plan">Its plan.</param>
    /// <param name="suggested">What was suggested for it.</param>
    /// <param name="source">Where stored stitches come from.</param>
    public static JobEdit Edit(Job job, SewingPlan plan, ImmutableArray<SuggestedRole> suggested, IStitchSource source)
    {
        var edits = ImmutableArray.CreateBuilder<JobEdit>();
        foreach (var part in suggested.GroupBy(s => s.Part))
        {
            // Stretches for the same thing that follow each other stay together.
            var its = part.OrderBy(s => s.First).ToList();
            its = its.Where((s, i) => i == 0 || its[i - 1].Role != s.Role).ToList();

            // From the last to the first: what is left keeps its number.
            for (var i = its.Count - 1; i > 0; i--)
            {
                var split = Splitter.AtNeedle(job, Sequencer.Plan(job, source), StartOf(plan, its, i) - 1, source);
                edits.Add(split);
                edits.Add(new GiveRole(new HashSet<PartId> { new(job.NextPart) }, its[i].Role));
                job = split.Apply(job);
            }

            edits.Add(new GiveRole(new HashSet<PartId> { part.Key }, its[0].Role));
        }

        return new EditsTogether($"Gave {suggested.DistinctBy(s => (s.Part, s.Role)).Count()} parts their roles", edits.ToImmutable());
    }

    private static int StartOf(SewingPlan plan, List<SuggestedRole> its, int i)
    {
        var at = its[i].First;
        while (at > its[i - 1].First && plan.Records.Kinds[at - 1] != StitchKind.Stop) at--;
        return at;
    }

    /// <summary>The stretches of a part between stops that are long enough to draw a line.</summary>
    private static IEnumerable<(int First, int End)> BetweenStops(PlannedPart part, SewingPlan plan)
    {
        for (var first = part.First; first < part.End;)
        {
            var end = first;
            while (end < part.End && plan.Records.Kinds[end] != StitchKind.Stop) end++;
            if (plan.Records.Kinds[first..end].Count(StitchKind.Stitch) > FewestStitches) yield return (first, end);
            first = end + 1;
        }
    }

    /// <summary>What a stretch is, where it draws closed lines and little else.</summary>
    private static Section? Read(PlannedPart part, SewingPlan plan, int first, int end)
    {
        if (ReadStitches.Of(plan.Records.Cut(first, end - first)).Kind == PassageKind.Fill) return null;
        var found = StitchOutlines.Of(plan.Records, first, end);
        ImmutableArray<FoundLine> closed = [.. found.Lines.Where(l => l.Closed)];
        if (closed.IsEmpty || closed.Sum(l => l.Length) < ShareOnLines * found.Lines.Sum(l => l.Length)) return null;
        var main = closed.MaxBy(l => l.Length)!;
        var sewn = main.HalfWidth == 0 ? Sewn.Run : main.Length / main.Points.Length > DenseMm / 2 ? Sewn.Zigzag : Sewn.Satin;
        return new(part, first, end, sewn, closed);
    }

    private static bool OnOneEdge(Section one, Section other) => one.Lines.Any(l => other.Lines.Any(o => StitchOutlines.LiesOn(l, o with { HalfWidth = Math.Max(o.HalfWidth, SameEdge) })));

    private static bool HasStop(SewingPlan plan, int from, int to) => to > from && plan.Records.Kinds[from..to].Contains(StitchKind.Stop);
}
