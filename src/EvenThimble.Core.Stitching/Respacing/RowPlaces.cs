using EvenThimble.Core.Recognition;

namespace EvenThimble.Core.Respacing;

/// <summary>Where new rows lie among the old ones, and in which direction each is sewn.</summary>
internal static class RowPlaces
{
    // What comes next goes on from the last row; only if that ends farther than this from where it did, mm, the needle goes there first.
    private const double FarFromEnd = 1.0;

    // Half of the widest gap between sections that stays, in steps: a wider one is closed so far.
    private const double WidestHalf = 0.75;

    // Where one row more and one row less are as near, more are sewn.
    private const double RatherMore = 0.15;

    /// <summary>Sews a new row.</summary>
    /// <param name="left">The place of its left end among those of the old rows, counted in rows.</param>
    /// <param name="right">That of its right end.</param>
    /// <param name="rightwards">Whether it is sewn from left to right.</param>
    /// <param name="number">Its number.</param>
    public delegate void Row(double left, double right, bool rightwards, int number);

    /// <summary>Sews all new rows in turn, there and back. The last ends where it did; where the thread is cut after it, it may end on the other side.</summary>
    /// <param name="making">Whose rows they are.</param>
    /// <param name="passage">The old ones.</param>
    /// <param name="left">For each step from old row to old row along the left edge, how many new steps it becomes.</param>
    /// <param name="right">The same along the right edge.</param>
    /// <param name="breaks">The steps at which rows suddenly become longer or shorter: what lies on either side is laid for itself, so that the last row before lies as near to the line between as the first after.</param>
    /// <param name="stitch">The stitch in them, mm.</param>
    /// <param name="row">Sews one.</param>
    public static void Sew(Remaking making, Passage passage, double[] left, double[] right, IReadOnlyList<int> breaks, double stitch, Row row)
    {
        var rightwards = true;
        var endsRight = left.Length % 2 == 0;

        // Dense rows stand for a strip on either side, so that no gap opens where the next section begins; rows of underlay begin and end where the old ones did. Loose rows that become fewer stand for
        // strips too: of a few, one more than their share is much.
        (double Before, double After)? halves = passage.IsDense || (!passage.IsUnder && left.Average() < 1) ? making.Gaps.Halves(passage) : null;
        var atLeft = new NewSteps(left, breaks, halves, making.Lighter);
        var atRight = left == right ? atLeft : new NewSteps(right, breaks, halves, making.Lighter);
        var count = Nearest(((atLeft.Total + atRight.Total) / 2) + (halves is null ? 1 : 0), making.EndsAnywhere ? null : endsRight, halves is null ? 2 : 1);
        int[] upTo = [.. atLeft.Ends.Zip(atRight.Ends, (l, r) => (int)Math.Round(count * (l + r) / (atLeft.Total + atRight.Total)))];
        var lefts = atLeft.Places(upTo);
        var rights = left == right ? lefts : atRight.Places(upTo);
        for (var k = 0; k < count; k++, rightwards = !rightwards) row(lefts[k], rights[k], rightwards, k);
        var end = making.Sized(passage.Last);
        if (count % 2 == 1 != endsRight) making.EndsAcross = true;
        else if (making.Run[^1].DistanceTo(end) > FarFromEnd) making.GoTo(end, stitch);
    }

    /// <summary>The whole number nearest to one that is odd, or even, or any, and no less than the least.</summary>
    public static int Nearest(double wanted, bool? isOdd, int least)
    {
        var odd = isOdd == true ? 1 : 0;
        var count = isOdd is null ? (int)Math.Round(wanted) : (2 * (int)Math.Round((wanted + RatherMore - odd) / 2)) + odd;
        return count >= least ? count : isOdd is null ? least : count + 2;
    }

    /// <summary>The new steps along an edge.</summary>
    private sealed class NewSteps
    {
        private const double None = 1e-9;
        private readonly double[] _weights;
        private readonly bool _asStrips;
        private readonly double _before;
        private readonly double _after;

        /// <summary>Takes the old steps.</summary>
        /// <param name="weights">For each step from old row to old row, how many new steps it becomes.</param>
        /// <param name="breaks">The steps within which one stretch ends and another begins.</param>
        /// <param name="halves">Half of the gaps outside the outermost rows, in old steps; null where rows stand for no strips.</param>
        /// <param name="lighter">Times as far between rows.</param>
        public NewSteps(double[] weights, IReadOnlyList<int> breaks, (double Before, double After)? halves, double lighter)
        {
            (_weights, _asStrips) = (weights, halves is not null);
            if (halves is var (before, after)) (_before, _after) = (Outside(weights[0], before), Outside(weights[^1], after));
            var sums = new double[weights.Length + 1];
            for (var k = 0; k < weights.Length; k++) sums[k + 1] = sums[k] + weights[k];
            Total = _before + sums[^1] + _after;
            Ends = [.. breaks.Select(k => _before + ((sums[k] + sums[k + 1]) / 2)), Total];

            // Half of the gap grows with all; what of it stays open, mm, as it came, because it was wider than a step, does not.
            double Outside(double weight, double half) => Math.Max(0, (half * weight) - ((Math.Min(half, WidestHalf) - SectionGaps.HalfRow) / lighter));
        }

        /// <summary>How many they are, with the strips outside the outermost rows.</summary>
        public double Total { get; }

        /// <summary>How many have gone by where each stretch ends; the last is all.</summary>
        public double[] Ends { get; }

        /// <summary>How far (in numbers of rows) so many new rows lie along the old ones.</summary>
        /// <param name="upTo">How many there are up to the end of each stretch.</param>
        public double[] Places(int[] upTo)
        {
            var places = new double[upTo[^1]];
            var (at, sum) = (0, _before);
            for (int k = 0, stretch = 0; k < places.Length; k++)
            {
                while (k >= upTo[stretch]) stretch++;
                var (first, begin) = stretch == 0 ? (0, 0.0) : (upTo[stretch - 1], Ends[stretch - 1]);
                var wanted = _asStrips ? begin + ((Ends[stretch] - begin) * (k - first + 0.5) / (upTo[stretch] - first)) : Total * k / (places.Length - 1);
                while (at < _weights.Length - 1 && sum + _weights[at] < wanted) sum += _weights[at++];
                var weight = _weights[at];
                places[k] = at + (weight < None ? 0 : Math.Clamp((wanted - sum) / weight, at == 0 ? -_before / weight : 0, at == _weights.Length - 1 ? 1 + (_after / weight) : 1));
            }

            return places;
        }
    }
}
