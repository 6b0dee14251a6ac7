using System.Collections.Immutable;
using EvenThimble.Core.Text;

namespace EvenThimble.Core.Lettering;

/// <summary>
/// Pairs of letters whose distance was set by hand. A distance is told as what is added to that which the font gives the pair without any kerning, as a share of the height of its capitals, so
/// that it holds for every size. Two tables with the same pairs are equal.
/// </summary>
public sealed class KerningTable : IEquatable<KerningTable>
{
    /// <summary>No table has more pairs.</summary>
    public const int MostPairs = 10_000;

    /// <summary>No side of a pair is longer, characters: a ligature stands for several.</summary>
    public const int LongestSide = 8;

    /// <summary>The least and the most that can be added, in heights of a capital.</summary>
    public static readonly (double Least, double Most) Shares = (-1, 3);

    private readonly ImmutableSortedDictionary<(string Left, string Right), double> _pairs;

    private KerningTable(ImmutableSortedDictionary<(string Left, string Right), double> pairs) => _pairs = pairs;

    /// <summary>No pairs.</summary>
    public static KerningTable Empty { get; } = new(ImmutableSortedDictionary.Create<(string Left, string Right), double>(ByLetters));

    private static IComparer<(string Left, string Right)> ByLetters => Comparer<(string Left, string Right)>.Create((a, b) =>
        string.CompareOrdinal(a.Left, b.Left) is var left && left != 0 ? left : string.CompareOrdinal(a.Right, b.Right));

    /// <summary>How many pairs it has.</summary>
    public int Count => _pairs.Count;

    /// <summary>The pairs in the order of their letters.</summary>
    public IEnumerable<(string Left, string Right, double Share)> Pairs => _pairs.Select(p => (p.Key.Left, p.Key.Right, p.Value));

    /// <summary>What is added between two letters; null where nobody has set it.</summary>
    public double? Between(string left, string right) => _pairs.TryGetValue((left, right), out var share) ? share : null;

    /// <summary>The table with a pair set.</summary>
    /// <exception cref="EditRefusedException">The pair or its distance cannot be.</exception>
    public KerningTable With(string left, string right, double share)
    {
        if (left.Length is 0 or > LongestSide || right.Length is 0 or > LongestSide) throw new EditRefusedException("A pair is of two letters, such as AV.");
        if (!(share >= Shares.Least && share <= Shares.Most)) throw new EditRefusedException($"Letters can be set {-Shares.Least * 100:0} % of a capital's height nearer to {Shares.Most * 100:0} % farther apart.");
        if (Count >= MostPairs && !_pairs.ContainsKey((left, right))) throw new EditRefusedException($"A font can have {MostPairs:N0} pairs set by hand.");
        return new(_pairs.SetItem((left, right), Math.Round(share, 5)));
    }

    /// <summary>The table without a pair.</summary>
    public KerningTable Without(string left, string right) => new(_pairs.Remove((left, right)));

    /// <summary>The table with the pairs of another added, which count where both have one.</summary>
    public KerningTable With(KerningTable other) => other._pairs.Aggregate(this, (table, p) => table.With(p.Key.Left, p.Key.Right, p.Value));

    /// <summary>The pairs that follow each other somewhere in a text.</summary>
    public KerningTable UsedIn(string text) =>
        Count == 0 ? this : new(_pairs.RemoveRange(_pairs.Keys.Where(p => !text.Contains(p.Left + p.Right, StringComparison.Ordinal))));

    /// <inheritdoc/>
    public bool Equals(KerningTable? other) => other is not null && _pairs.SequenceEqual(other._pairs);

    /// <inheritdoc/>
    public override bool Equals(object? obj) => Equals(obj as KerningTable);

    /// <inheritdoc/>
    public override int GetHashCode() => _pairs.Aggregate(Count, (hash, p) => HashCode.Combine(hash, p.Key.Left, p.Key.Right, p.Value));
}
