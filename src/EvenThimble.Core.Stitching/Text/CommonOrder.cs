namespace EvenThimble.Core.Text;

/// <summary>What two sequences have in common in the same order (their longest common subsequence).</summary>
public static class CommonOrder
{
    /// <summary>By place in the second: the place in the first that it is; null: it is new.</summary>
    public static int?[] Of<T>(IReadOnlyList<T> before, IReadOnlyList<T> after)
    {
        var same = EqualityComparer<T>.Default;
        var lengths = new int[before.Count + 1, after.Count + 1];
        for (var i = before.Count - 1; i >= 0; i--)
            for (var k = after.Count - 1; k >= 0; k--)
                lengths[i, k] = same.Equals(before[i], after[k]) ? lengths[i + 1, k + 1] + 1 : Math.Max(lengths[i + 1, k], lengths[i, k + 1]);
        var kept = new int?[after.Count];
        for (var (i, k) = (0, 0); i < before.Count && k < after.Count;)
        {
            if (same.Equals(before[i], after[k])) kept[k++] = i++;
            else if (lengths[i + 1, k] >= lengths[i, k + 1]) i++;
            else k++;
        }

        return kept;
    }
}
