namespace EvenThimble.Core.Monograms;

/// <summary>
/// How many motifs a frame has, row by row in the order in which they are drawn: as many as come nearest to their usual distance, or, while a size is sought, as many as before, so that all of it
/// grows with its line instead of leaping by a motif.
/// </summary>
public sealed class MotifCounts
{
    private readonly List<int> _counts = [];
    private int _row;

    /// <summary>Whether rows keep as many motifs as they had.</summary>
    public bool Held { get; set; }

    /// <summary>The frame is drawn from its first row on.</summary>
    internal void Begin() => _row = 0;

    /// <summary>How many motifs the next row has.</summary>
    /// <param name="nearest">How many come nearest to the usual distance.</param>
    /// <param name="step">By how many at a time there may be more; farther off than that none are held.</param>
    internal int Of(int nearest, int step)
    {
        if (_row == _counts.Count) _counts.Add(nearest);
        else if (!Held || Math.Abs(_counts[_row] - nearest) > step) _counts[_row] = nearest;
        return _counts[_row++];
    }
}
