using EvenThimble.Core.Jobs;
using EvenThimble.Core.Planning;
using EvenThimble.Core.Planning.Ordering;
using FsCheck.Xunit;
using Shouldly;
using Xunit;

namespace EvenThimble.Core.Tests.Ordering;

public class FewerChangesTests
{
    private static readonly HashSet<PartId> None = [];

    [Fact]
    public void Parts_that_lie_apart_come_together_by_thread()
    {
        var (job, source) = MadeUp.JobOf(MadeUp.Rows((0, 0, "a"), (0, 20, "b"), (0, 40, "a"), (0, 60, "b"), (0, 80, "a")));
        var plan = Sequencer.Plan(job, source);
        var found = FewerChanges.Find(job, plan, Overlaps.Of(plan), None);
        (found.Before, found.After).ShouldBe((4, 1));
        found.Order.Select(id => job.Order.Find(id)!.Thread.Name).ShouldBe(["a", "a", "a", "b", "b"]);
        found.Moved.ShouldNotBeEmpty();
        var after = new Reorder(found.Order, "Fewer thread changes").Apply(job);
        Sequencer.Plan(after, source).ThreadChanges.ShouldBe(1);
    }

    [Fact]
    public void A_part_that_is_to_stay_keeps_its_place_among_all_others()
    {
        var (job, source) = MadeUp.JobOf(MadeUp.Rows((0, 0, "a"), (0, 20, "b"), (0, 40, "a"), (0, 60, "b"), (0, 80, "a")));
        var plan = Sequencer.Plan(job, source);
        var found = FewerChanges.Find(job, plan, Overlaps.Of(plan), MadeUp.Ids(3));
        found.Order[2].ShouldBe(new PartId(3));
        found.After.ShouldBe(2);
    }

    [Property(MaxTest = 150)]
    public bool Nothing_that_lies_over_something_else_comes_before_it(int seed)
    {
        var random = new Random(seed);
        var rows = Enumerable.Range(0, 4 + random.Next(8)).Select(_ => (random.Next(5) * 9.0, random.Next(6) * 0.4, "abc"[random.Next(3)].ToString())).ToArray();
        var (job, source) = MadeUp.JobOf(MadeUp.Rows(rows));
        var plan = Sequencer.Plan(job, source);
        var overlaps = Overlaps.Of(plan);
        var found = FewerChanges.Find(job, plan, overlaps, None);
        var place = found.Order.Select((id, i) => (id, i)).ToDictionary(x => x.id, x => x.i);
        for (var i = 0; i < rows.Length; i++)
            for (var j = i + 1; j < rows.Length; j++)
                if (overlaps.Where(i, j) is not null && place[job.Order[i].Id] > place[job.Order[j].Id])
                    return false;

        // No order that keeps these rules has fewer changes: told by trying all, where there are not too many.
        return found.After <= found.Before && found.Order.Distinct().Count() == rows.Length && (rows.Length > 7 || found.After == Fewest(job, overlaps));
    }

    private static int Fewest(Job job, Overlaps overlaps)
    {
        var n = job.Order.Count;
        int Try(int sewn, int last, int changes)
        {
            if (sewn == (1 << n) - 1) return changes;
            var best = int.MaxValue;
            for (var i = 0; i < n; i++)
            {
                if ((sewn & (1 << i)) != 0 || Enumerable.Range(0, i).Any(j => (sewn & (1 << j)) == 0 && overlaps.Where(j, i) is not null)) continue;
                best = Math.Min(best, Try(sewn | (1 << i), i, changes + (last >= 0 && job.Order[last].Thread != job.Order[i].Thread ? 1 : 0)));
            }

            return best;
        }

        return Try(0, -1, 0);
    }
}
