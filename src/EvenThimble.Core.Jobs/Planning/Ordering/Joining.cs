using System.Collections.Immutable;
using EvenThimble.Core.Geometry;
using EvenThimble.Core.Jobs;

namespace EvenThimble.Core.Planning.Ordering;

/// <summary>A part that would come to lie over or under another than before.</summary>
/// <param name="Part">The part that moves.</param>
/// <param name="Over">The part that it is sewn before from then on.</param>
/// <param name="At">Where they lie over each other, mm.</param>
public sealed record OrderConflict(Part Part, Part Over, Point At);

/// <summary>What has to change before parts can be joined.</summary>
/// <param name="DifferInThread">They have different threads.</param>
/// <param name="Between">Parts that sew between them.</param>
/// <param name="Conflicts">What would change its place over or under another.</param>
public sealed record JoinNeeds(bool DifferInThread, ImmutableArray<Part> Between, ImmutableArray<OrderConflict> Conflicts)
{
    /// <summary>Whether they can be joined as they are.</summary>
    public bool IsNothing => !DifferInThread && Between.IsEmpty;

    /// <summary>Looks at chosen parts.</summary>
    public static JoinNeeds Of(Job job, IReadOnlySet<PartId> chosen, Overlaps overlaps)
    {
        var numbers = Enumerable.Range(0, job.Order.Count).Where(i => chosen.Contains(job.Order[i].Id)).ToList();
        if (numbers.Count < 2) return new(false, [], []);
        var between = Enumerable.Range(numbers[0], numbers[^1] - numbers[0]).Where(i => !chosen.Contains(job.Order[i].Id)).ToList();
        var conflicts = numbers.Skip(1).SelectMany(n => between.Where(b => b < n).Select(b => (Part: n, Over: b, At: overlaps.Where(n, b))))
            .Where(c => c.At is not null)
            .Select(c => new OrderConflict(job.Order[c.Part], job.Order[c.Over], c.At!.Value));
        return new(numbers.Select(n => job.Order[n].Thread).Distinct().Count() > 1, [.. between.Select(b => job.Order[b])], [.. conflicts]);
    }
}
