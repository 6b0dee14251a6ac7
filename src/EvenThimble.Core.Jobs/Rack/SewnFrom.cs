using System.Collections.Immutable;
using EvenThimble.Core.Jobs;
using EvenThimble.Core.Planning;
using EvenThimble.Core.Threads;

namespace EvenThimble.Core.Rack;

/// <summary>A job matched with what is at hand.</summary>
/// <param name="Threads">What each thread of the plan would be sewn with, in the order they are first used.</param>
public sealed record SewnFrom(ImmutableArray<MatchedThread> Threads)
{
    /// <summary>The sum of all differences.</summary>
    public double Sum => Threads.Sum(t => t.To?.Difference ?? 0);

    /// <summary>Threads that another would really be taken for.</summary>
    public ImmutableArray<ThreadChange> Changes => [.. Threads.Where(t => t.To is not null && t.To.Thread != t.From).Select(t => new ThreadChange(t.From, t.To!.Thread))];

    /// <summary>Threads that nothing at hand looks like.</summary>
    public IEnumerable<MatchedThread> WithoutMatch => Threads.Where(t => !t.IsGood);

    /// <summary>Matches all threads of a plan at once, with regard to what touches on the cloth.</summary>
    /// <param name="plan">The plan.</param>
    /// <param name="rack">What is at hand, each thread once.</param>
    /// <param name="makeOf">What sort a thread of the job is, as far as a chart says.</param>
    /// <param name="held">What the user said that a thread is to be sewn with, now or earlier; null: nothing.</param>
    /// <param name="spunAlike">Whether only threads of the same fibre will do.</param>
    public static SewnFrom Match(SewingPlan plan, IReadOnlyList<OwnedThread> rack, Func<SewingThread, ThreadMake> makeOf, Func<SewingThread, SewingThread?> held, bool spunAlike = false) =>
        new(RackMatching.Find([.. plan.Threads.Select(t => new WantedThread(t, makeOf(t), held(t)))], rack, TouchingThreads.Of(plan), spunAlike));
}
