using System.Collections.Immutable;
using EvenThimble.Core.Threads;

namespace EvenThimble.Core.Jobs;

/// <summary>The threads that a job is sewn with, each once, in the order in which they came into it.</summary>
public sealed record Palette(ImmutableArray<SewingThread> Threads)
{
    /// <summary>Without a thread.</summary>
    public static readonly Palette Empty = new([]);

    /// <summary>The same for other threads: those no longer used go, new ones come last.</summary>
    public Palette For(IEnumerable<SewingThread> used)
    {
        var wanted = used.Distinct().ToList();
        var still = wanted.ToHashSet();
        ImmutableArray<SewingThread> threads = [.. Threads.Where(still.Contains), .. wanted.Except(Threads)];
        return threads.AsSpan().SequenceEqual(Threads.AsSpan()) ? this : new(threads);
    }

    /// <summary>Equal when the threads and their order are.</summary>
    public bool Equals(Palette? other) => other is not null && Threads.AsSpan().SequenceEqual(other.Threads.AsSpan());

    /// <inheritdoc/>
    public override int GetHashCode() => Threads.Length;
}
