using System.Collections.Immutable;
using EvenThimble.Core.Text;
using EvenThimble.Core.Threads;

namespace EvenThimble.Core.Jobs;

/// <summary>Gives parts another thread; a part that bore its thread's name takes the new one.</summary>
public sealed record Recolour(IReadOnlySet<PartId> Parts, SewingThread Thread) : PartsEdit(Parts)
{
    /// <inheritdoc/>
    protected override Job Change(Job job) =>
        job.With(Parts, p => In(p, Thread));

    /// <summary>A part in another thread.</summary>
    internal static Part In(Part part, SewingThread thread) =>
        part with { Thread = thread, Name = IsNamedAfter(part.Name, part.Thread.Name) ? thread.Name + part.Name[part.Thread.Name.Length..] : part.Name };

    /// <summary>Whether a part bears its thread's name, perhaps with a number after it.</summary>
    private static bool IsNamedAfter(string name, string thread) =>
        name == thread || (name.StartsWith(thread + ", ", StringComparison.Ordinal) && name.AsSpan(thread.Length + 2).IndexOfAnyExceptInRange('0', '9') < 0);

    /// <inheritdoc/>
    public override string Label(Job before) => $"Recoloured {Named(before)} to {Thread.Label}";
}

/// <summary>A thread that takes the place of another.</summary>
public readonly record struct ThreadChange(SewingThread From, SewingThread To);

/// <summary>Sews a job in other threads, each in place of one of its own, all in one step.</summary>
/// <param name="Changes">The threads; none twice as what is replaced.</param>
/// <param name="From">Where the new ones are from, as the history tells it.</param>
public sealed record SewInThreads(ImmutableArray<ThreadChange> Changes, string From) : JobEdit
{
    /// <inheritdoc/>
    public override Job Apply(Job job)
    {
        var to = Changes.Where(c => c.From != c.To).ToDictionary(c => c.From, c => c.To);
        var changed = job.Order.Where(p => to.ContainsKey(p.Thread)).Select(p => p.Id).ToHashSet();
        if (changed.Count == 0) throw new EditRefusedException("All of that is sewn in those threads already.");
        return job.With(changed, p => Recolour.In(p, to[p.Thread]));
    }

    /// <inheritdoc/>
    public override string Label(Job before) => Changes.Count(c => c.From != c.To) is 1 && Changes.First(c => c.From != c.To) is var one
        ? $"Sewn from {From}: {one.To.Label} for {one.From.Label}"
        : $"Sewn from {From}: {Changes.Count(c => c.From != c.To)} threads exchanged";
}

/// <summary>Says how many times a job is sewn.</summary>
public sealed record SetCopies(int Copies) : JobEdit
{
    /// <inheritdoc/>
    public override Job Apply(Job job) => Copies is >= 1 and <= Job.MostCopies
        ? job with { Copies = Copies }
        : throw new EditRefusedException($"A job is sewn 1 to {Job.MostCopies:N0} times; {Copies:N0} is not possible.");

    /// <inheritdoc/>
    public override string Label(Job before) => Copies == 1 ? "To be sewn once" : $"To be sewn {Copies:N0} times";
}
