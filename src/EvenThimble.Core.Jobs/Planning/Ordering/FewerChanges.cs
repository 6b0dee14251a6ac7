using System.Collections.Immutable;
using EvenThimble.Core.Jobs;
using EvenThimble.Core.Stitches;

namespace EvenThimble.Core.Planning.Ordering;

/// <summary>An order of a job's parts with fewer thread changes.</summary>
/// <param name="Order">Every part, once.</param>
/// <param name="Before">Thread changes as it is.</param>
/// <param name="After">Thread changes in the new order.</param>
/// <param name="Moved">Parts that sew earlier than something they came after, in the new order.</param>
public sealed record NewOrder(ImmutableArray<PartId> Order, int Before, int After, ImmutableArray<PartId> Moved);

/// <summary>
/// Finds an order of parts with as few thread changes as possible in which nothing that lies over something else comes before it. While a thread is on the needle every part of it
/// that may be sewn is sewn; which thread is taken next is searched in breadth, so the first complete order has the fewest changes. Of very tangled jobs only the most promising
/// states are followed.
/// </summary>
public static class FewerChanges
{
    private const int MostStates = 4_000;

    /// <summary>The new order.</summary>
    /// <param name="job">The job.</param>
    /// <param name="plan">Its plan with nothing left out.</param>
    /// <param name="overlaps">Which of its parts lie over each other.</param>
    /// <param name="staying">Parts that keep their place among all others.</param>
    public static NewOrder Find(Job job, SewingPlan plan, Overlaps overlaps, IReadOnlySet<PartId> staying)
    {
        var parts = job.Order;
        var after = new List<int>[parts.Count];
        var awaited = new int[parts.Count];
        for (var i = 0; i < parts.Count; i++) after[i] = [];
        for (var i = 0; i < parts.Count; i++)
            for (var j = i + 1; j < parts.Count; j++)
                if (MustFollow(parts[i], parts[j], overlaps.Where(i, j) is not null, staying))
                {
                    after[i].Add(j);
                    awaited[j]++;
                }

        var order = Search(parts, after, awaited);
        var now = plan.ThreadChanges;
        var then = ChangesOf([.. order.Select(i => parts[i])]);
        if (then >= now) return new([.. parts.Select(p => p.Id)], now, now, []);
        var (latest, moved) = (-1, ImmutableArray.CreateBuilder<PartId>());

        // A part has moved when something that came before it comes after it now.
        var place = new int[parts.Count];
        for (var k = 0; k < order.Count; k++) place[order[k]] = k;
        for (var i = 0; i < parts.Count; i++)
        {
            if (place[i] < latest) moved.Add(parts[i].Id);
            latest = Math.Max(latest, place[i]);
        }

        return new([.. order.Select(i => parts[i].Id)], now, then, moved.ToImmutable());
    }

    /// <summary>Whether the later of two parts has to stay later.</summary>
    private static bool MustFollow(Part first, Part second, bool overlap, IReadOnlySet<PartId> staying) =>
        overlap || staying.Contains(first.Id) || staying.Contains(second.Id)

        // Placement line, tack-down, cover and the like are steps of one making.
        || (first.Piece == second.Piece && (IsStep(first.Role) || IsStep(second.Role)));

    private static bool IsStep(PartRole role) => role is not (PartRole.Decoration or PartRole.Lettering);

    private static int ChangesOf(IReadOnlyList<Part> order) => Enumerable.Range(1, Math.Max(0, order.Count - 1)).Count(i => order[i].Thread != order[i - 1].Thread);

    private sealed record State(State? From, ImmutableArray<int> Sewn, int[] Awaited, int Left, int Thread);

    private static List<int> Search(SewingOrder parts, List<int>[] after, int[] awaited)
    {
        var threads = parts.Select(p => p.Thread).Distinct().ToList();
        var threadOf = parts.Select(p => threads.IndexOf(p.Thread)).ToArray();
        var states = new List<State> { new(null, [], awaited, parts.Count, -1) };
        while (true)
        {
            var next = new List<State>();
            var seen = new HashSet<string>();
            foreach (var state in states)
            {
                if (state.Left == 0) return Told(state);
                foreach (var thread in Enumerable.Range(0, parts.Count).Where(i => state.Awaited[i] == 0).Select(i => threadOf[i]).Distinct().Where(t => t != state.Thread))
                {
                    var sewn = Sew(state, thread);
                    if (seen.Add(string.Join(',', sewn.Awaited.Select((a, i) => (a, i)).Where(x => x.a < 0).Select(x => x.i)) + ":" + thread)) next.Add(sewn);
                }
            }

            states = next.Count <= MostStates ? next : [.. next.OrderBy(s => s.Left).Take(MostStates)];
        }

        State Sew(State from, int thread)
        {
            var (waits, sewn) = ((int[])from.Awaited.Clone(), ImmutableArray.CreateBuilder<int>());
            for (var again = true; again;)
            {
                again = false;
                for (var i = 0; i < waits.Length; i++)
                {
                    if (waits[i] != 0 || threadOf[i] != thread) continue;
                    waits[i] = -1;
                    sewn.Add(i);
                    foreach (var j in after[i]) waits[j]--;
                    again = true;
                }
            }

            return new(from, sewn.ToImmutable(), waits, from.Left - sewn.Count, thread);
        }
    }

    private static List<int> Told(State state)
    {
        var steps = new Stack<State>();
        for (var s = state; s is not null; s = s.From) steps.Push(s);
        return [.. steps.SelectMany(s => s.Sewn)];
    }
}
