using System.Collections.Immutable;
using EvenThimble.Core.Craft;
using EvenThimble.Core.Digitizing;
using EvenThimble.Core.Geometry;
using EvenThimble.Core.Jobs;
using EvenThimble.Core.Lettering;
using EvenThimble.Core.Stitches;
using EvenThimble.Core.Work;

namespace EvenThimble.Core.Planning;

/// <summary>
/// Makes the sewing plan of a job. Slices that follow each other as they did in their blob are taken over record by record, so that an
/// untouched design is sewn exactly as it came; where an edit has put others side by side, the way between them is made anew, and what the user has cut is tied.
/// </summary>
public static class Sequencer
{
    /// <summary>The plan of a job.</summary>
    /// <param name="job">What is wanted.</param>
    /// <param name="source">Where bought stitches come from.</param>
    /// <param name="memory">Where stitches are made and remembered; null: made anew.</param>
    public static SewingPlan Plan(Job job, IStitchSource source, StitchMemory? memory = null)
    {
        var plan = Whole(job, source, memory);
        return job.SewsOnlySeen ? Covering.Apply(job, plan).Plan : plan;
    }

    /// <summary>The plan with what later parts hide, whether the job leaves it out or not.</summary>
    public static SewingPlan Whole(Job job, IStitchSource source, StitchMemory? memory = null)
    {
        memory ??= new();
        var builder = new StitchBuilder(job.Order.Sum(p => p.Slices.Sum(s => s.Count)) + (4 * job.Order.Count));
        var ranges = new List<(Part Part, int First)>();
        var told = new List<ToldReading>();
        Stint? before = null;
        foreach (var part in job.Order)
        {
            var start = -1;
            foreach (var stint in Stints(part, job, source, memory))
            {
                if (stint.Blob.Count == 0) continue;
                WorkBudget.Current.Spend((stint.End - stint.First) / 8);
                if (stint.GoesOnFrom(before, builder.Count == 0))
                {
                    if (start < 0) start = builder.Count;
                    Append(builder, stint, stint.First, told);
                }
                else
                {
                    var cut = Finish(builder, before, stint);
                    if (start < 0) start = builder.Count;
                    AppendFresh(builder, stint, tied: cut && stint.CutBefore, goesOn: !cut && before is not null && (stint.IsOneWith(before) || stint.IsLetterAfter(before)), told);
                }

                before = stint;
            }

            ranges.Add((part, start < 0 ? builder.Count : start));
            if (start >= 0 && part.StopAfter is { } message)
            {
                // One stop, whatever the stitches have there.
                builder.DropTrailingStops();
                ThreadEnds.Finish(builder);
                builder.Stop(message);
                before = null;
            }
        }

        if (before is { CutAfter: true }) ThreadEnds.TieOff(builder);
        return Assemble(builder.ToBlob(), ranges, told);
    }

    /// <summary>Records that are sewn in one go.</summary>
    /// <param name="Part">The part they are of.</param>
    /// <param name="Blob">Where they stand.</param>
    /// <param name="First">The first.</param>
    /// <param name="End">The one after the last.</param>
    /// <param name="Place">Where they lie in the job.</param>
    /// <param name="Slice">The slice, where they are those of a stored blob as it came.</param>
    private sealed record Stint(Part Part, StitchBlob Blob, int First, int End, Placement Place, StitchSlice? Slice)
    {
        /// <summary>What it is of a stored blob, when it is of one at all.</summary>
        public StitchSlice? Of { get; init; }

        /// <summary>What the user told of its records.</summary>
        public IReadOnlyList<ToldReading> Told { get; init; } = [];

        public bool CutBefore => Of is { CutBefore: true };

        public bool CutAfter => Of is { CutAfter: true };

        /// <summary>Whether the user parted it from what is sewn just before, and did nothing else to either: the thread goes on.</summary>
        public bool IsOneWith(Stint before) => Of is { } mine && before.Of is { } theirs && theirs.GoesOnIn(mine) && mine.CutBefore && before.Place == Place;

        /// <summary>Whether both are letters of one text in one thread.</summary>
        public bool IsLetterAfter(Stint before) =>
            Part is { Role: PartRole.Lettering, Drawn: not null } && before.Part is { Role: PartRole.Lettering, Drawn: not null } && before.Part.Piece == Part.Piece && before.Part.Thread == Part.Thread && before.Part != Part;

        /// <summary>Whether these are the records that followed the others when they came, with nothing done to either.</summary>
        public bool GoesOnFrom(Stint? before, bool isFirst)
        {
            if (Slice is not { } slice) return false;
            if (before is null) return isFirst && slice.First == 0;
            return before.Slice is { } other && other.Blob == slice.Blob && other.End == slice.First && before.Place == Place
                && (before.Part.Thread == Part.Thread || !(before.CutAfter || CutBefore));
        }
    }

    private static IEnumerable<Stint> Stints(Part part, Job job, IStitchSource source, StitchMemory memory)
    {
        if (part.Drawn is { } drawn)
        {
            var made = memory.Drawn(drawn, part.Placement.Size, job.Cloth.Profile);
            yield return new(part, made, 0, made.Count, part.Placement.Unsized(), null);
            yield break;
        }

        foreach (var slice in part.Slices)
        {
            var place = slice.In(part.Placement);
            if (slice.Rework.Makes(place.Size))
            {
                var made = memory.Reworked(source, slice, place.Size);
                yield return new(part, made.Stitches, 0, made.Stitches.Count, place.Unsized(), null) { Of = slice, Told = made.Told };
            }
            else
            {
                yield return new(part, source.Get(slice.Blob), slice.First, slice.End, place, slice) { Of = slice, Told = [.. slice.ToldFrom(0)] };
            }
        }
    }

    private static SewingPlan Assemble(StitchBlob records, List<(Part Part, int First)> ranges, List<ToldReading> told)
    {
        var parts = ImmutableArray.CreateBuilder<PlannedPart>(ranges.Count);
        var next = 0;
        for (var i = 0; i < ranges.Count; i++)
        {
            var (part, first) = ranges[i];
            var end = i + 1 < ranges.Count ? ranges[i + 1].First : records.Count;

            // In the order of the records, as the parts are.
            var from = next;
            while (next < told.Count && told[next].First < end) next++;
            parts.Add(new(part.Id, part.Name, part.Thread, part.Role, first, end - first, records.BoundsOf(first, end - first))
            {
                Told = [.. told.GetRange(from, next - from).Select(t => t with { First = t.First - first, Last = t.Last - first })],
            });
        }

        return new(records, parts.ToImmutable());
    }

    /// <summary>Ends what was sewn before: no leap to where it once went on, and a trim where the thread would lie across the cloth. Tells whether the thread is cut there.</summary>
    private static bool Finish(StitchBuilder builder, Stint? before, Stint next)
    {
        if (before is null) return true;
        builder.DropTrailingJumps();
        if (next.IsLetterAfter(before) && builder.Needle.DistanceTo(StartOf(next)) is var gap && gap <= LetterJoints.LedBetween(before.Part.Drawn!.Settings, next.Part.Drawn!.Settings))
        {
            builder.DropTrailingTrims();
            return gap > LetterJoints.NearlyTouching;
        }

        if (ThreadEnds.IsCut(builder)) return true;
        if (before.Part.Thread == next.Part.Thread && builder.Needle.DistanceTo(StartOf(next)) <= (next.IsOneWith(before) ? Limits.LongestStitch : Limits.TrimOver)) return false;
        if (before.CutAfter) ThreadEnds.TieOff(builder);
        builder.Trim();
        return true;
    }

    /// <summary>Where the needle must be before the first stitch: the last leap before it, else the stitch itself.</summary>
    private static Point StartOf(Stint stint)
    {
        var first = FirstStitch(stint);
        if (first >= stint.End) return stint.Place.Place(stint.Blob.At(stint.First));
        var led = first > stint.First && stint.Blob.Kinds[first - 1] == StitchKind.Jump;
        return stint.Place.Place(stint.Blob.At(led ? first - 1 : first));
    }

    private static void AppendFresh(StitchBuilder builder, Stint stint, bool tied, bool goesOn, List<ToldReading> told)
    {
        var start = StartOf(stint);
        if (builder.Count == 0 || (builder.Needle != start && !goesOn)) builder.Jump(start);

        // Stops that stood before the first stitch are messages to the operator and stay.
        var first = FirstStitch(stint);
        for (var i = stint.First; i < first; i++)
            if (stint.Blob.Kinds[i] == StitchKind.Stop)
                builder.Stop(stint.Blob.Messages.GetValueOrDefault(i, string.Empty));
        if (tied && first < stint.End - 1 && ThreadEnds.TieIn(builder, i => first + i < stint.End && stint.Blob.Kinds[first + i] == StitchKind.Stitch ? stint.Place.Place(stint.Blob.At(first + i)) : null)) first++;

        Append(builder, stint, first, told);
    }

    private static int FirstStitch(Stint stint)
    {
        var i = stint.First;
        while (i < stint.End && stint.Blob.Kinds[i] != StitchKind.Stitch) i++;
        return i;
    }

    /// <summary>Sews records of a stint from one on; what was told of them is noted by where they come to stand.</summary>
    private static void Append(StitchBuilder builder, Stint stint, int first, List<ToldReading> told)
    {
        var blob = stint.Blob;
        var places = stint.Told.Count > 0 ? new int[stint.End - first] : [];
        for (var i = first; i < stint.End; i++)
        {
            switch (blob.Kinds[i])
            {
                case StitchKind.Stitch or StitchKind.Jump:
                    builder.Add(blob.Kinds[i], stint.Place.Place(blob.At(i)));
                    break;
                case StitchKind.Trim:
                    builder.Trim();
                    break;
                case StitchKind.Stop:
                    builder.Stop(blob.Messages.GetValueOrDefault(i, string.Empty));
                    break;
            }

            if (places.Length > 0) places[i - first] = builder.Count - 1;
        }

        foreach (var t in stint.Told)
            if (Math.Max(t.First, first) is var from && Math.Min(t.Last, stint.End - 1) is var to && to > from)
                told.Add(new(places[from - first], places[to - first], t.As));
    }
}
