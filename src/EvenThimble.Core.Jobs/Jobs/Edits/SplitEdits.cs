using System.Collections.Immutable;
using System.Globalization;
using EvenThimble.Core.Craft;
using EvenThimble.Core.Stitches;
using EvenThimble.Core.Text;
using EvenThimble.Core.Threads;

namespace EvenThimble.Core.Jobs;

/// <summary>Takes a part that came as stitches apart. Every stitch stays; undone, it is the very same part again.</summary>
/// <param name="Part">Which.</param>
/// <param name="Pieces">The slices of each piece in sewing order; together they are those of the part.</param>
/// <param name="Where">Said after "split … into n parts", such as "at stitch 1,284".</param>
public sealed record SplitPart(PartId Part, ImmutableArray<ImmutableArray<StitchSlice>> Pieces, string Where) : PartsEdit(new HashSet<PartId> { Part })
{
    /// <inheritdoc/>
    protected override Job Change(Job job)
    {
        var part = job.Order.Find(Part)!;
        if (part.Drawn is not null) throw new EditRefusedException($"“{part.Name}” is a drawn shape. Change its outline, or draw two shapes instead.");
        if (Pieces.Length < 2 || Pieces.Any(p => p.IsEmpty)) throw new EditRefusedException($"There is nothing to split “{part.Name}” at there.");
        if (Pieces.SelectMany(p => p).Sum(s => s.Count) != part.Slices.Sum(s => s.Count)) throw new EditRefusedException("That part has changed in the meantime. Look again and split once more.");
        if (job.Order.Count + Pieces.Length - 1 > Job.MostParts) throw new EditRefusedException($"A job can have {Job.MostParts:N0} parts; that would be more.");
        var next = job.NextPart;
        var parts = Pieces.Select((slices, i) => i == 0 ? part.WithSlices(slices) : part.WithSlices(slices) with { Id = new(next++), Name = Numbered(part.Name, i + 1) }).ToList();
        return job with { Order = new([.. job.Order.SelectMany(p => p.Id == Part ? parts : [p])]), NextPart = next };
    }

    /// <inheritdoc/>
    public override string Label(Job before) => $"Split {Named(before)} into {Pieces.Length.ToString("N0", CultureInfo.InvariantCulture)} parts{(Where.Length > 0 ? " " + Where : string.Empty)}";

    /// <summary>A name with a number after it; one that already bears a number gets another.</summary>
    internal static string Numbered(string name, int number)
    {
        var comma = name.LastIndexOf(", ", StringComparison.Ordinal);
        var stem = comma > 0 && int.TryParse(name.AsSpan(comma + 2), NumberStyles.None, CultureInfo.InvariantCulture, out _) ? name[..comma] : name;
        return $"{stem}, {number.ToString(CultureInfo.InvariantCulture)}";
    }
}

/// <summary>Makes one part of several that came as stitches. They sew where the first of them stood, in their order.</summary>
/// <param name="Parts">Which.</param>
/// <param name="Thread">The thread they all get; null: they have one already.</param>
/// <param name="BringTogether">Parts that others stand between are moved to the first.</param>
public sealed record JoinParts(IReadOnlySet<PartId> Parts, SewingThread? Thread = null, bool BringTogether = false) : PartsEdit(Parts)
{
    /// <inheritdoc/>
    protected override Job Change(Job job)
    {
        var joined = job.Order.Where(p => Parts.Contains(p.Id)).ToList();
        if (joined.Count < 2) throw new EditRefusedException("Joining needs two parts at least. Choose one more, with Shift.");
        if (joined.FirstOrDefault(p => p.Drawn is not null) is { } drawn) throw new EditRefusedException($"“{drawn.Name}” is a drawn shape with settings of its own, so it stays a part of its own. Parts of one thread that follow each other sew without a stop anyway.");
        if (Thread is null && joined.Any(p => p.Thread != joined[0].Thread)) throw new EditRefusedException($"“{joined[0].Name}” and “{joined.First(p => p.Thread != joined[0].Thread).Name}” have different threads. Give them one thread first.");
        if (joined.FirstOrDefault(p => p.Role != joined[0].Role) is { } other) throw new EditRefusedException($"“{joined[0].Name}” is for {joined[0].Role.InWords()}, “{other.Name}” for {other.Role.InWords()}. Give them one role first.");
        var first = IndexOf(job, joined[0]);
        if (!BringTogether && IndexOf(job, joined[^1]) - first != joined.Count - 1) throw new EditRefusedException("Other parts sew between these. Bring them together first.");
        var slices = new List<StitchSlice>();
        foreach (var part in joined)
        {
            foreach (var slice in part.Slices)
            {
                var own = part.Placement == joined[0].Placement ? slice.Own : joined[0].Placement.Before(slice.In(part.Placement)) is var at && at == Placement.AsItCame ? null : at;
                var next = slice with { Own = own };
                if (slices.Count > 0 && slices[^1].GoesOnIn(next)) slices[^1] = slices[^1] with { Count = slices[^1].Count + next.Count, CutAfter = next.CutAfter };
                else slices.Add(next);
            }
        }

        var one = joined[0].WithSlices([.. slices]) with { Thread = Thread ?? joined[0].Thread };
        return job with { Order = new([.. job.Order.Where(p => p.Id == one.Id || !Parts.Contains(p.Id)).Select(p => p.Id == one.Id ? one : p)]) };
    }

    /// <inheritdoc/>
    public override string Label(Job before) => $"Joined {Named(before)} into one";

    private static int IndexOf(Job job, Part part) => job.Order.TakeWhile(p => p.Id != part.Id).Count();
}

/// <summary>Puts all parts in another order at once.</summary>
/// <param name="Order">Every part of the job, once.</param>
/// <param name="Said">What it was for.</param>
public sealed record Reorder(ImmutableArray<PartId> Order, string Said) : JobEdit
{
    /// <inheritdoc/>
    public override Job Apply(Job job)
    {
        if (Order.Length != job.Order.Count || Order.Distinct().Count() != Order.Length || Order.Any(id => job.Order.Find(id) is null))
            throw new EditRefusedException("The parts have changed in the meantime. Look again.");
        return job with { Order = new([.. Order.Select(id => job.Order.Find(id)!)]) };
    }

    /// <inheritdoc/>
    public override string Label(Job before) => Said;
}
