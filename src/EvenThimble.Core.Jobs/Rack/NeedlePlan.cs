using System.Collections.Immutable;
using EvenThimble.Core.Threads;

namespace EvenThimble.Core.Rack;

/// <summary>A cone that is put on a needle.</summary>
/// <param name="Needle">Which needle, from 1.</param>
/// <param name="Off">What comes off; null: nothing is on it.</param>
/// <param name="On">What goes on.</param>
/// <param name="Before">The part of the plan, from 0, before which it is done; 0: before sewing begins.</param>
public sealed record ConeChange(int Needle, SewingThread? Off, SewingThread On, int Before);

/// <summary>Which needle sews what on a machine with several, with as few cones to change as can be.</summary>
/// <param name="NeedleOfPart">By part of the plan, the needle that sews it, from 1.</param>
/// <param name="Changes">The cones to change, in the order they are changed.</param>
/// <param name="Afterwards">What is on each needle in the end; null: nothing.</param>
public sealed record NeedlePlan(ImmutableArray<int> NeedleOfPart, ImmutableArray<ConeChange> Changes, ImmutableArray<SewingThread?> Afterwards)
{
    /// <summary>
    /// Gives the parts of a plan to needles. What is on a needle already stays there; when a needle must be cleared, it is an empty one, one with a thread that the job does not sew, or else the one
    /// whose thread is sewn again latest: no other choice changes fewer (L. A. Belady, "A study of replacement algorithms for a virtual-storage computer", IBM Systems Journal 5, 1966).
    /// </summary>
    /// <param name="threads">The thread of each part, in sewing order.</param>
    /// <param name="now">What is on each needle; null: nothing.</param>
    /// <exception cref="ArgumentException">There is no needle.</exception>
    public static NeedlePlan For(IReadOnlyList<SewingThread> threads, IReadOnlyList<SewingThread?> now)
    {
        if (now.Count == 0) throw new ArgumentException("A machine has a needle at least.", nameof(now));
        var on = now.ToArray();
        var touched = new bool[on.Length]; // this job has sewn with it already
        var (needles, changes) = (new List<int>(), new List<ConeChange>());
        for (var part = 0; part < threads.Count; part++)
        {
            var thread = threads[part];
            var needle = Array.FindIndex(on, t => t is not null && t.IsSameAs(thread));
            if (needle < 0)
            {
                needle = Enumerable.Range(0, on.Length).MaxBy(n => Rank(on[n], part));
                changes.Add(new(needle + 1, on[needle], thread, touched[needle] ? part : 0));
                on[needle] = thread;
            }

            touched[needle] = true;
            needles.Add(needle + 1);
        }

        return new([.. needles], [.. changes.OrderBy(c => c.Before)], [.. on]);

        // How gladly a needle is cleared: an empty one first, then one with what is never sewn here, then what was sewn for the last time, then what is sewn again latest.
        long Rank(SewingThread? there, int part)
        {
            if (there is null) return long.MaxValue;
            for (var p = part; p < threads.Count; p++)
                if (there.IsSameAs(threads[p])) return p;
            return threads.Take(part).Any(there.IsSameAs) ? int.MaxValue : int.MaxValue + 1L;
        }
    }
}
