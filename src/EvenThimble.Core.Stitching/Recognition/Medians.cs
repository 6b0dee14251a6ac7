namespace EvenThimble.Core.Recognition;

/// <summary>Usual values.</summary>
internal static class Medians
{
    /// <summary>The value in the middle of all by size, the upper of two; 0 of none.</summary>
    public static double Median(this List<double> values)
    {
        if (values.Count == 0) return 0;
        var sorted = values.ToArray();
        Array.Sort(sorted);
        return sorted[sorted.Length / 2];
    }
}
