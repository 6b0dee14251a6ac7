using System.Collections.Immutable;
using System.Globalization;
using EvenThimble.Core.Geometry;
using EvenThimble.Core.Jobs;
using EvenThimble.Core.Recognition;
using EvenThimble.Core.Stitches;
using EvenThimble.Core.Text;

namespace EvenThimble.Core.Planning.Splitting;

/// <summary>Finds where parts can be taken apart.</summary>
public static class Splitter
{
    // Sections of so few rows are not cut.
    private const int WholeRows = 2;
    private const int FewestStitches = 2;
    private const int MostPieces = 400;

    /// <summary>Splits at a record of the plan: what is sewn up to it is one part, what comes after another. At a jump the cut is where the needle leaps.</summary>
    /// <exception cref="EditRefusedException">There is nothing on one side of it, or the part was drawn.</exception>
    public static SplitPart AtNeedle(Job job, SewingPlan plan, int record, IStitchSource source)
    {
        record = Math.Clamp(record, 0, Math.Max(0, plan.Records.Count - 1));
        var planned = plan.PartOf(record) ?? throw new EditRefusedException("There are no stitches to cut.");
        var part = Bought(job, planned.Id);
        var places = PartStitches.Of(part, source).All().ToList();
        var cut = CutAfter(places, plan, planned, record);
        var (before, after) = (places.Take(cut).Count(IsStitch), places.Skip(cut).Count(IsStitch));
        if (before < FewestStitches || after < FewestStitches)
            throw new EditRefusedException($"The needle is at the {(before < FewestStitches ? "start" : "end")} of “{part.Name}”: there is nothing to cut off. Move it to where the part should end.");
        return new(part.Id, Pieces(part, places, i => i < cut ? 0 : 1), $"at stitch {before.ToString("N0", CultureInfo.InvariantCulture)}");
    }

    /// <summary>Splits at every jump.</summary>
    /// <exception cref="EditRefusedException">There is none.</exception>
    public static SplitPart AtJumps(Job job, PartId id, IStitchSource source)
    {
        var part = Bought(job, id);
        var places = PartStitches.Of(part, source).All().ToList();
        var (thread, stitched) = (new int[places.Count], 0);
        var at = 0;
        for (var i = 0; i < places.Count; i++)
        {
            if (places[i].Kind == StitchKind.Jump && stitched >= FewestStitches) (at, stitched) = (at + 1, 0);
            if (IsStitch(places[i])) stitched++;
            thread[i] = at;
        }

        // What comes after the last stitches belongs to them.
        if (stitched < FewestStitches)
            for (var i = 0; i < thread.Length; i++)
                thread[i] = Math.Min(thread[i], Math.Max(0, at - 1));
        return Into(part, places, i => thread[i], "at its jumps", "has no jump inside");
    }

    /// <summary>Splits into stretches that touch nothing else of the part.</summary>
    /// <exception cref="EditRefusedException">It all hangs together.</exception>
    public static SplitPart ByStretches(Job job, PartId id, IStitchSource source)
    {
        var part = Bought(job, id);
        var places = PartStitches.Of(part, source).All().ToList();
        var threads = Threads(places);
        var group = HangingTogether.Groups([.. threads.Select(t => (IReadOnlyList<Point>)[.. places[t.First..t.End].Select(p => p.At)])]);
        var number = new Dictionary<int, int>();
        var piece = new int[places.Count];
        var (thread, now) = (-1, 0);
        for (var i = 0; i < places.Count; i++)
        {
            while (thread + 1 < threads.Count && i >= threads[thread + 1].First) thread++;
            var root = group.Length == 0 ? 0 : group[Math.Max(thread, 0)];

            // A jump leads to the thread that comes next.
            if (places[i].Kind == StitchKind.Jump && thread >= 0 && thread + 1 < threads.Count && i >= threads[thread].End) root = group[thread + 1];
            if (!number.TryGetValue(root, out now)) number[root] = now = number.Count;
            piece[i] = now;
        }

        return Into(part, places, i => piece[i], "by stretches that hang together", "hangs together; there is nothing to take apart");
    }

    /// <summary>Takes what lies inside a line drawn on the cloth out as a part of its own. Rows and throws are cut once where that serves best, not one by one; a section of a row or two goes where most of it lies.</summary>
    /// <exception cref="EditRefusedException">All of it lies inside, or none.</exception>
    public static SplitPart ByLasso(Job job, PartId id, IReadOnlyList<Point> lasso, IStitchSource source)
    {
        if (lasso.Count < 3) throw new EditRefusedException("Draw a line around what should become a part of its own.");
        var part = Bought(job, id);
        var places = PartStitches.Of(part, source).All().ToList();
        var inside = new bool[places.Count];
        var offset = 0;
        foreach (var slice in part.Slices)
        {
            var read = ReadStitches.Of(source.Get(slice.Blob).Cut(slice.First, slice.Count));
            foreach (var passage in read.Passages)
            {
                var (first, last) = Best(places, offset + passage.First + 1, offset + passage.Last, lasso);
                if (passage.Rungs.Length is > 0 and <= WholeRows) (first, last) = 2 * (last - first + 1) > passage.Stitches ? (offset + passage.First + 1, offset + passage.Last) : (0, -1);
                for (var i = first; i <= last; i++) inside[i] = true;
            }

            offset += slice.Count;
        }

        // Jumps and trims go with the stitches after and before them; the first needle point of a thread goes with the second.
        for (var i = places.Count - 2; i >= 0; i--)
            if (places[i].Kind == StitchKind.Jump || (IsStitch(places[i]) && (i == 0 || !IsStitch(places[i - 1]))))
                inside[i] = inside[i + 1];
        for (var i = 1; i < places.Count; i++)
            if (places[i].Kind is StitchKind.Trim or StitchKind.Stop)
                inside[i] = inside[i - 1];
        return Into(part, places, i => inside[i] ? 1 : 0, "around what you drew", "does not lie partly inside that line");
    }

    private static bool IsStitch(PartStitches.Place place) => place.Kind == StitchKind.Stitch;

    private static Part Bought(Job job, PartId id)
    {
        var part = job.Order.Find(id) ?? throw new EditRefusedException("That part is no longer in this job. Choose again.");
        return part.Drawn is null ? part : throw new EditRefusedException($"“{part.Name}” is a drawn shape. Change its outline, or draw two shapes instead.");
    }

    /// <summary>The number of the first record after the cut.</summary>
    private static int CutAfter(List<PartStitches.Place> places, SewingPlan plan, PlannedPart planned, int record)
    {
        var records = plan.Records;

        // At a leap the last stitch before it is meant.
        while (record > planned.First && records.Kinds[record] != StitchKind.Stitch) record--;
        var (at, ordinal) = (records.At(record), records.Kinds.Slice(planned.First, record - planned.First + 1).Count(StitchKind.Stitch));
        var (all, stored) = (records.Kinds.Slice(planned.First, planned.Count).Count(StitchKind.Stitch), places.Count(IsStitch));
        var (best, least, seen) = (-1, double.PositiveInfinity, 0);
        for (var i = 0; i < places.Count; i++)
        {
            if (!IsStitch(places[i])) continue;
            seen++;

            // Of stitches at the same place the one that is as far along is meant; where stitches were made anew, the nearest.
            var along = Math.Abs(seen - (all == stored ? ordinal : ordinal * (double)stored / Math.Max(all, 1)));
            var cost = (all == stored ? 1 : 0.02) * along + places[i].At.DistanceTo(at) * (all == stored ? 0.001 : 1);
            if (cost < least) (best, least) = (i, cost);
        }

        var cut = best + 1;
        while (cut < places.Count && places[cut].Kind is StitchKind.Trim or StitchKind.Stop) cut++;
        return cut;
    }

    private static SplitPart Into(Part part, List<PartStitches.Place> places, Func<int, int> pieceOf, string where, string refusal)
    {
        var pieces = Pieces(part, places, pieceOf);
        if (pieces.Length < 2) throw new EditRefusedException($"“{part.Name}” {refusal}.");
        if (pieces.Length > MostPieces) throw new EditRefusedException($"“{part.Name}” would fall into {pieces.Length:N0} parts; {MostPieces} are the most. Take it apart by stretches, or with a line drawn around what you want.");
        return new(part.Id, pieces, where);
    }

    /// <summary>The slices of each piece; the pieces come in the order in which they begin.</summary>
    private static ImmutableArray<ImmutableArray<StitchSlice>> Pieces(Part part, List<PartStitches.Place> places, Func<int, int> pieceOf)
    {
        var pieces = new Dictionary<int, ImmutableArray<StitchSlice>.Builder>();
        var order = new List<int>();
        for (var i = 0; i < places.Count;)
        {
            var (slice, piece, end) = (places[i].Slice, pieceOf(i), i);
            while (end < places.Count && places[end].Slice == slice && pieceOf(end) == piece) end++;
            var whole = part.Slices[slice];
            var (first, count) = (places[i].Record, end - i);
            if (!pieces.TryGetValue(piece, out var slices))
            {
                pieces[piece] = slices = ImmutableArray.CreateBuilder<StitchSlice>();
                order.Add(piece);
            }

            slices.Add(whole with { First = first, Count = count, CutBefore = whole.CutBefore || first > whole.First, CutAfter = whole.CutAfter || first + count < whole.End });
            i = end;
        }

        return [.. order.Select(p => pieces[p].ToImmutable())];
    }

    private static List<(int First, int End)> Threads(List<PartStitches.Place> places)
    {
        var threads = new List<(int, int)>();
        for (var i = 0; i < places.Count; i++)
        {
            if (!IsStitch(places[i])) continue;
            var end = i;
            while (end < places.Count && IsStitch(places[end]) && (end == i || places[end].Slice == places[end - 1].Slice)) end++;
            threads.Add((i, end));
            i = end - 1;
        }

        return threads;
    }

    /// <summary>The stretch of a passage that holds the most inside and the least outside (J. Kadane's largest sum).</summary>
    private static (int First, int Last) Best(List<PartStitches.Place> places, int first, int last, IReadOnlyList<Point> lasso)
    {
        var (best, from, to, sum, start) = (0, 0, -1, 0, first);
        for (var i = first; i <= last; i++)
        {
            sum += Holds(lasso, places[i].At) ? 1 : -1;
            if (sum <= 0) (sum, start) = (0, i + 1);
            else if (sum > best) (best, from, to) = (sum, start, i);
        }

        return best >= FewestStitches ? (from, to) : (0, -1);
    }

    private static bool Holds(IReadOnlyList<Point> lasso, Point p)
    {
        var inside = false;
        for (int i = 0, j = lasso.Count - 1; i < lasso.Count; j = i++)
            if (lasso[i].Y > p.Y != lasso[j].Y > p.Y && p.X < ((lasso[j].X - lasso[i].X) * (p.Y - lasso[i].Y) / (lasso[j].Y - lasso[i].Y)) + lasso[i].X)
                inside = !inside;
        return inside;
    }
}
