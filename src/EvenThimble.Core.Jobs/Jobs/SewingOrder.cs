using System.Collections;
using System.Collections.Immutable;

namespace EvenThimble.Core.Jobs;

/// <summary>All parts of a job in the order they sew.</summary>
public sealed class SewingOrder(ImmutableArray<Part> parts) : IReadOnlyList<Part>, IEquatable<SewingOrder>
{
    /// <inheritdoc/>
    public int Count => parts.Length;

    /// <inheritdoc/>
    public Part this[int index] => parts[index];

    /// <summary>The part of a name, or null.</summary>
    public Part? Find(PartId id) => parts.FirstOrDefault(p => p.Id == id);

    /// <summary>The same order with some parts changed.</summary>
    public SewingOrder With(IReadOnlySet<PartId> chosen, Func<Part, Part> change) =>
        new([.. parts.Select(p => chosen.Contains(p.Id) ? change(p) : p)]);

    /// <summary>The chosen parts, in their order among themselves, put so that they begin where <paramref name="index"/> (0 to Count) stood.</summary>
    public SewingOrder Moved(IReadOnlySet<PartId> chosen, int index)
    {
        var before = parts.Take(index).Where(p => !chosen.Contains(p.Id));
        var after = parts.Skip(index).Where(p => !chosen.Contains(p.Id));
        return new([.. before, .. parts.Where(p => chosen.Contains(p.Id)), .. after]);
    }

    /// <summary>Each chosen part one step earlier; those already first stay.</summary>
    public SewingOrder Earlier(IReadOnlySet<PartId> chosen) => new(Stepped(parts, chosen));

    /// <summary>Each chosen part one step later; those already last stay.</summary>
    public SewingOrder Later(IReadOnlySet<PartId> chosen) => new([.. Stepped([.. parts.Reverse()], chosen).Reverse()]);

    /// <inheritdoc/>
    public bool Equals(SewingOrder? other) => other is not null && this.SequenceEqual(other);

    /// <inheritdoc/>
    public override bool Equals(object? obj) => Equals(obj as SewingOrder);

    /// <inheritdoc/>
    public override int GetHashCode() => parts.Length;

    /// <inheritdoc/>
    public IEnumerator<Part> GetEnumerator() => ((IEnumerable<Part>)parts).GetEnumerator();

    IEnumerator IEnumerable.GetEnumerator() => GetEnumerator();

    private static ImmutableArray<Part> Stepped(ImmutableArray<Part> order, IReadOnlySet<PartId> chosen)
    {
        var stepped = order.ToBuilder();
        for (var i = 1; i < stepped.Count; i++)
            if (chosen.Contains(stepped[i].Id) && !chosen.Contains(stepped[i - 1].Id))
                (stepped[i - 1], stepped[i]) = (stepped[i], stepped[i - 1]);
        return stepped.ToImmutable();
    }
}
