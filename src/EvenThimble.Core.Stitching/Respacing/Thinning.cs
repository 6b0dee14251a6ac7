using EvenThimble.Core.Craft;
using EvenThimble.Core.Geometry;
using EvenThimble.Core.Recognition;
using EvenThimble.Core.Stitches;

namespace EvenThimble.Core.Respacing;

/// <summary>Leaves stitches out.</summary>
public static class Thinning
{
    private const double Cell = 0.4;
    private const double WayStitch = 2.5;
    private const double AtEdge = 0.6;

    /// <summary>
    /// The stitches without those that lie under others. Where something is left out the needle goes on straight to what follows, as long as that way is covered too; where it would be
    /// seen, what lies there is kept.
    /// </summary>
    public static ReadStitches WithoutUnderlay(ReadStitches read)
    {
        var (blob, passages) = (read.Stitches, read.Passages);
        var cover = new CellGrid(blob.BoundsOf(0, blob.Count), Cell);
        for (var n = 0; n < passages.Length; n++)
            if (passages[n].IsDense && passages[n].Confidence >= Passage.Sure)
                LadderArea.Fill(cover, blob, passages[n], n + 1);

        var left = new bool[passages.Length];
        for (var n = 0; n < passages.Length; n++)
        {
            if (passages[n] is not { IsUnder: true, IsDense: false }) continue;
            var last = n;
            while (last + 1 < passages.Length && passages[last + 1].First == passages[last].Last && passages[last + 1] is { IsUnder: true, IsDense: false }) last++;

            // As many in one go as a covered way leads past.
            while (last >= n && !IsCovered(cover, blob.At(passages[n].First), blob.At(passages[last].Last), last + 1)) last--;
            for (var k = n; k <= last; k++) left[k] = true;
            n = Math.Max(n, last);
        }

        return Without(read, (n, i) => left[n] && i > passages[n].First && (i < passages[n].Last || (!EndsThere(read, n) && left[n + 1])), fillsGaps: true);
    }

    /// <summary>The stitches without those shorter than a length (mm), ties and both ends of each thread aside.</summary>
    public static ReadStitches WithoutShort(ReadStitches read, double shorterThan)
    {
        var (blob, passages) = (read.Stitches, read.Passages);
        var isOut = new bool[blob.Count];
        var (kept, mayGo) = (-1, false);
        for (var n = 0; n < passages.Length; n++)
        {
            if (n == 0 || passages[n - 1].Last != passages[n].First) (kept, mayGo) = (passages[n].First, false);
            for (var i = passages[n].First + 1; i <= passages[n].Last; i++)
            {
                var isEnd = passages[n].Kind == PassageKind.Tie || (i == passages[n].Last && (EndsThere(read, n) || passages[n + 1].Kind == PassageKind.Tie));
                if (passages[n].Kind != PassageKind.Tie && blob.At(kept).DistanceTo(blob.At(i)) < shorterThan)
                {
                    // Before the end of a thread, which stays, the one before it goes.
                    isOut[isEnd ? kept : i] = !isEnd || mayGo;
                    if (!isEnd) continue;
                }

                (kept, mayGo) = (i, !isEnd);
            }
        }

        return Without(read, (_, i) => isOut[i], fillsGaps: false);
    }

    private static bool EndsThere(ReadStitches read, int n) => n + 1 >= read.Passages.Length || read.Passages[n + 1].First != read.Passages[n].Last;

    private static bool IsCovered(CellGrid cover, Point from, Point to, int passage)
    {
        var steps = (int)Math.Ceiling(from.DistanceTo(to) / Cell);
        for (var i = 1; i < steps; i++)
        {
            // The ends lie on the edges of what is kept.
            var p = from.Toward(to, i / (double)steps);
            if (Math.Min(p.DistanceTo(from), p.DistanceTo(to)) > AtEdge && cover.At(p) <= passage) return false;
        }

        return true;
    }

    /// <summary>The records without the needle points that a rule leaves out, asked in turn by passage and record, read anew; what was told of them by hand still holds.</summary>
    private static ReadStitches Without(ReadStitches read, Func<int, int, bool> leavesOut, bool fillsGaps)
    {
        var (blob, passages) = (read.Stitches, read.Passages);
        var made = new StitchBuilder(blob.Count);
        var (n, gap) = (0, false);
        var now = new int[blob.Count];
        for (var i = 0; i < blob.Count; i++)
        {
            now[i] = made.Count;
            while (n < passages.Length - 1 && i > passages[n].Last) n++;
            if (blob.Kinds[i] == StitchKind.Stop) made.Stop(blob.Messages.GetValueOrDefault(i, string.Empty));
            else if (blob.Kinds[i] == StitchKind.Trim) made.Trim();
            else if (blob.Kinds[i] != StitchKind.Stitch || n >= passages.Length || i < passages[n].First) made.Add(blob.Kinds[i], blob.At(i));
            else if (leavesOut(n, i)) gap = true;
            else
            {
                if (gap && fillsGaps)
                {
                    var (from, length) = (made.Needle, made.Needle.DistanceTo(blob.At(i)));
                    var pieces = (int)Math.Ceiling(length / WayStitch);
                    for (var s = 1; s < pieces; s++) made.Stitch(from.Toward(blob.At(i), s / (double)pieces));
                    if (length < Limits.ShortestStitch / 2 && made.Last == StitchKind.Stitch)
                    {
                        gap = false;
                        continue;
                    }
                }

                gap = false;
                made.Stitch(blob.At(i));
            }
        }

        return ReadStitches.Of(made.ToBlob(), [.. passages.Where(p => p.Told is not null && now[p.Last] > now[p.First]).Select(p => new ToldReading(now[p.First], now[p.Last], p.Told!.Value))]);
    }
}
