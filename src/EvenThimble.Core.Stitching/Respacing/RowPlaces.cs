using EvenThimble.Core.Recognition;

namespace EvenThimble.Core.Respacing;

/// <summary>Where new rows lie among the old ones, and in which direction each is sewn.</summary>
internal static class RowPlaces
{
    // What comes next goes on from the last row; only if that ends farther than this from where it did, mm, the needle goes there first.
    private const double FarFromEnd = 1.0;

    // Where one row more and one row less are as near, more are sewn.
    private const double RatherMore = 0.15;

    /// <summary>Sews all new rows in turn, there and back. The last ends where it did; where the thread is cut after it, it may end on the other side.</summary>
    /// <param name="making">Whose rows they are.</param>
    /// <param name="passage">The old ones.</param>
    /// <param name="weights">For each step from old row to old row, how many new steps it becomes.</param>
    /// <param name="stitch">The stitch in them, mm.</param>
    /// <param name="row">Sews a row at a place among the old ones, rightwards or not, by its number.</param>
    public static void Sew(Remaking making, Passage passage, double[] weights, double stitch, Action<double, bool, int> row)
    {
        var rightwards = true;
        var endsRight = weights.Length % 2 == 0;

        // Loose rows that become fewer too: of a few, one more than their share is much.
        var places = Places(weights, asStrips: passage.IsDense || (!passage.IsUnder && weights.Average() < 1), isOdd: making.EndsAnywhere ? null : endsRight);
        for (var k = 0; k < places.Length; k++, rightwards = !rightwards) row(places[k], rightwards, k);
        var end = making.Sized(passage.Last);
        if (places.Length % 2 == 1 != endsRight) making.EndsAcross = true;
        else if (making.Run[^1].DistanceTo(end) > FarFromEnd) making.GoTo(end, stitch);
    }

    /// <summary>
    /// How far (in numbers of rows) new rows lie along the old ones. Dense rows, or fewer, stand for a strip on either side and keep half a row's distance from where the next section begins, so
    /// that no gap opens there; rows of underlay begin and end where the old ones did.
    /// </summary>
    /// <param name="weights">For each step from row to row, how many new steps it becomes.</param>
    /// <param name="asStrips">Whether each stands for a strip; the outermost may then lie up to half a row beyond the old.</param>
    /// <param name="isOdd">Whether an odd or an even number of rows is wanted; null for any.</param>
    private static double[] Places(double[] weights, bool asStrips, bool? isOdd)
    {
        var (before, after) = asStrips ? (weights[0] / 2, weights[^1] / 2) : (0, 0);
        var total = before + weights.Sum() + after;
        var count = Nearest(total + (asStrips ? 0 : 1), isOdd, asStrips ? 1 : 2);
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

    /// <summary>The whole number nearest to one that is odd, or even, or any, and no less than the least.</summary>
    private static int Nearest(double wanted, bool? isOdd, int least)
    {
        var odd = isOdd == true ? 1 : 0;
        var count = isOdd is null ? (int)Math.Round(wanted) : (2 * (int)Math.Round((wanted + RatherMore - odd) / 2)) + odd;
        return count >= least ? count : isOdd is null ? least : count + 2;
    }
}
