using System.Collections.Immutable;
using EvenThimble.Core.Text;

namespace EvenThimble.Core.Stitches;

/// <summary>What the user says that bought stitches are.</summary>
public enum ReadAs : byte
{
    /// <summary>Throws of satin.</summary>
    Satin,

    /// <summary>A fill.</summary>
    Fill,

    /// <summary>A line, divided at its own stitch.</summary>
    Line,

    /// <summary>Whatever it is: every stitch is kept.</summary>
    AsItIs,
}

/// <summary>What the stitches between two records are, told by the user.</summary>
/// <param name="First">The first record, counted in the blob.</param>
/// <param name="Last">The last one.</param>
/// <param name="As">What they are.</param>
public readonly record struct ToldReading(int First, int Last, ReadAs As);

/// <summary>What the user told of bought stitches, in the order of their records; none overlaps another. Two that say the same are equal.</summary>
public sealed class ToldReadings : IEquatable<ToldReadings>
{
    /// <summary>More are not kept of one run of stitches.</summary>
    public const int Most = 500;

    private readonly ImmutableArray<ToldReading> _all;

    private ToldReadings(ImmutableArray<ToldReading> all) => _all = all;

    /// <summary>Nothing was told.</summary>
    public static ToldReadings None { get; } = new([]);

    /// <summary>All of it.</summary>
    public IReadOnlyList<ToldReading> All => _all;

    /// <summary>Those that were told together.</summary>
    /// <exception cref="EditRefusedException">There are too many, or one is of no records.</exception>
    public static ToldReadings Of(IEnumerable<ToldReading> all) => all.Aggregate(None, (told, one) => told.With(one.First, one.Last, one.As));

    /// <summary>The same with records told anew, or no longer (null); what was told of any of them before is forgotten.</summary>
    /// <exception cref="EditRefusedException">There are too many, or it is of no records.</exception>
    public ToldReadings With(int first, int last, ReadAs? readAs)
    {
        if (first < 0 || last <= first || (readAs is { } known && !Enum.IsDefined(known))) throw new EditRefusedException("Those are no stitches. Choose again.");
        var others = _all.Where(t => t.Last <= first || t.First >= last);
        ImmutableArray<ToldReading> all = [.. (readAs is { } told ? others.Append(new(first, last, told)) : others).OrderBy(t => t.First)];
        if (all.Length > Most) throw new EditRefusedException($"More than {Most} stretches of one part cannot be told by hand. Take the part apart first.");
        return all.IsEmpty ? None : new(all);
    }

    /// <inheritdoc/>
    public bool Equals(ToldReadings? other) => other is not null && _all.AsSpan().SequenceEqual(other._all.AsSpan());

    /// <inheritdoc/>
    public override bool Equals(object? obj) => Equals(obj as ToldReadings);

    /// <inheritdoc/>
    public override int GetHashCode() => _all.IsEmpty ? 0 : HashCode.Combine(_all.Length, _all[0]);
}
