using System.Collections.Immutable;
using EvenThimble.Core.Jobs;
using EvenThimble.Core.Machines;
using EvenThimble.Core.Rack;
using EvenThimble.Core.Readiness;
using EvenThimble.Core.Threads;
using EvenThimble.Storage;

namespace EvenThimble.Web.Workroom;

/// <summary>Somewhere that threads can be taken from: a rack, or a range that one buys.</summary>
/// <param name="Key">Names it in forms.</param>
/// <param name="Name">As a person reads it.</param>
/// <param name="Threads">How many.</param>
public sealed record ThreadSource(string Key, string Name, int Threads);

/// <summary>Jobs set against racks, charts and needles.</summary>
public sealed class ThreadBox(ThreadStore charts, RackStore racks, NeedleStore needles)
{
    private const string RackKey = "rack:";

    /// <summary>The rack that a job is sewn from.</summary>
    public RackLine RackOf(OpenJob job) => racks.RackOf(job.Stored.Id);

    /// <summary>What all copies of a job take, set against its rack.</summary>
    public ThreadNeeds NeedsOf(OpenJob job) => NeedsOf(job, racks.Cones(RackOf(job).Id));

    /// <summary>What readiness finds beside what the job says of itself: thread that runs out or is not there.</summary>
    public IReadOnlyList<Finding> FindingsOf(OpenJob job) => racks.Cones(RackOf(job).Id) is { Count: > 0 } cones ? [.. RackFindings.Of(NeedsOf(job, cones), cones, charts.MakeOf)] : [];

    /// <summary>Which needle sews what; null on a machine with one needle.</summary>
    public NeedlePlan? NeedlesFor(OpenJob job, SewingMachineModel machine) => machine.Needles > 1 ? NeedlePlan.For([.. job.Plan.Parts.Select(p => p.Thread)], needles.On(machine)) : null;

    /// <summary>All that a job can be sewn from: the racks with something on them, then the ranges, those that one buys first.</summary>
    public IReadOnlyList<ThreadSource> Sources =>
    [
        .. racks.Racks.Where(r => r.Cones > 0).Select(r => new ThreadSource($"{RackKey}{r.Id}", r.Name, r.Cones)),
        .. charts.Listed.Select(l => new ThreadSource(l.Chart.Key, $"{l.Chart.Maker} {l.Chart.Range}", l.Chart.Threads.Count)),
    ];

    /// <summary>What a job is sewn from unless something else is said: its rack, or, while nothing is on it, the first range.</summary>
    public string UsualSourceOf(OpenJob job) => RackOf(job) is { Cones: > 0 } rack ? $"{RackKey}{rack.Id}" : charts.Bought[0].Key;

    /// <summary>The threads of some sources, each once.</summary>
    public IReadOnlyList<OwnedThread> ThreadsOf(IEnumerable<string> sources) =>
    [
        .. sources.SelectMany(key => key.StartsWith(RackKey, StringComparison.Ordinal)
                ? long.TryParse(key[RackKey.Length..], out var rack) ? racks.Cones(rack).Where(c => !c.IsEmpty).Select(c => new OwnedThread(c.Thread, c.Make)) : []
                : charts.Charts.FirstOrDefault(c => c.Key == key)?.Sold.Select(s => new OwnedThread(s.Thread, s.Make)) ?? [])
            .DistinctBy(t => (t.Thread.Maker, t.Thread.Number)),
    ];

    /// <summary>A job matched with threads at hand. What was taken in place of a thread before is offered first.</summary>
    /// <param name="job">The job.</param>
    /// <param name="threads">What is at hand.</param>
    /// <param name="chosen">What the user chose now, by the number of the thread in the plan.</param>
    /// <param name="spunAlike">Whether only threads of the same fibre will do.</param>
    public SewnFrom Match(OpenJob job, IReadOnlyList<OwnedThread> threads, IReadOnlyDictionary<int, SewingThread> chosen, bool spunAlike)
    {
        var remembered = racks.Remembered;
        var there = threads.ToDictionary(t => (t.Thread.Maker, t.Thread.Number), t => t.Thread);
        return SewnFrom.Match(job.Plan, threads, charts.MakeOf, thread => Held(thread, job.Plan.Threads.IndexOf(thread)), spunAlike);

        SewingThread? Held(SewingThread thread, int number) =>
            chosen.GetValueOrDefault(number) ?? (there.ContainsKey((thread.Maker, thread.Number)) || !remembered.TryGetValue((thread.Maker, thread.Number), out var to) ? null : there.GetValueOrDefault(to));
    }

    /// <summary>What a job takes of each thread as it would be sewn.</summary>
    public IEnumerable<SewnThread> TakenBy(OpenJob job) => NeedsOf(job, []).Threads.Select(n => new SewnThread(n.Thread, n.TopMetres));

    private static ThreadNeeds NeedsOf(OpenJob job, IReadOnlyList<Cone> cones) => ThreadNeeds.Of(job.Plan, job.Estimate.Threads, job.Job.Cloth.Profile.ThicknessMm, job.Job.Copies, cones);
}
