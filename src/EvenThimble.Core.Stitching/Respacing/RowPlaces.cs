using EvenThimble.Core.Recognition;

namespace EvenThimble.Core.Respacing;

/// <summary>Where new rows lie among the old ones, and in which direction each is sewn.</summary>
internal static class RowPlaces
{
    /// <summary>What comes next goes on from the last row; only if that ends farther than this from where it did, mm, the needle goes there first.</summary>
    public const double FarFromEnd = 1.0;

    /// <summary>Sews all new rows in turn, there and back.</summary>
    /// <param name="passage">The old ones.</param>
    /// <param name="weights">For each step from old row to old row, how many new steps it becomes.</param>
    /// <param name="row">Sews a row at a place among the old ones, rightwards or not, by its number; -1 for a way that the first row then covers.</param>
    public static void Sew(Passage passage, double[] weights, Action<double, bool, int> row)
    {
        // Loose rows that become fewer too: of a few, one more than their share is much.
        var places = Places(weights, asStrips: passage.IsDense || (!passage.IsUnder && weights.Average() < 1));

        // The last row ends where it did; so the first may have to begin at its other end, reached by a way that the row then covers.
        var endsRight = weights.Length % 2 == 0;
        var goesRight = (places.Length - 1) % 2 == 0 ? endsRight : !endsRight;
        if (!goesRight) row(places[0], true, -1);
        for (var k = 0; k < places.Length; k++, goesRight = !goesRight) row(places[k], goesRight, k);
    }

    /// <summary>
    /// How far (in numbers of rows) new rows lie along the old ones. Dense rows, or fewer, stand for a strip on either side and keep half a row's distance from where the next section begins, so
    /// that no gap opens there; rows of underlay begin and end where the old ones did.
    /// </summary>
    /// <param name="weights">For each step from row to row, how many new steps it becomes.</param>
    /// <param name="asStrips">Whether each stands for a strip; the outermost may then lie up to half a row beyond the old.</param>
    private static double[] Places(double[] weights, bool asStrips)
    {
        var (before, after) = asStrips ? (weights[0] / 2, weights[^1] / 2) : (0, 0);
        var total = before + weights.Sum() + after;
        var count = Math.Max(asStrips ? 1 : 2, (int)Math.Round(total) + (asStrips ? 0 : 1));
        var places = new double[count];
        var (at, sum) = (0, before);
        for (var k = 0; k < count; k++)
        {
            var wanted = asStrips ? total * (k + 0.5) / count : total * k / (count - 1);
            while (at < weights.Length - 1 && sum + weights[at] < wanted) sum += weights[at++];
            var t = weights[at] < 1e-9 ? 0 : (wanted - sum) / weights[at];
            places[k] = at + (asStrips ? Math.Clamp(t, -0.5, 1.5) : Math.Clamp(t, 0, 1));
        }

        return places;
    }
}
