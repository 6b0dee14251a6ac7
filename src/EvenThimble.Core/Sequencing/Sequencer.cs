using System.Collections.Immutable;
using EvenThimble.Core.Digitizing;
using EvenThimble.Core.Geometry;
using EvenThimble.Core.Jobs;
using EvenThimble.Core.Stitches;

namespace EvenThimble.Core.Sequencing;

/// <summary>Where stored stitches come from.</summary>
public interface IStitchSource
{
    /// <summary>The blob of a hash.</summary>
    /// <exception cref="KeyNotFoundException">There is none.</exception>
    StitchBlob Get(BlobHash hash);
}

/// <summary>
/// Makes the sewing plan of a job. Slices that follow each other as they did in their blob are taken over record by record, so that an
/// untouched design is sewn exactly as it came; where an edit has put others side by side, the way between them is made anew.
/// </summary>
public static class Sequencer
{
    /// <summary>The plan of a job.</summary>
    /// <param name="job">What is wanted.</param>
    /// <param name="source">Where bought stitches come from.</param>
    /// <param name="digitized">Where the stitches of drawn shapes are made and remembered; null: made anew.</param>
    /// <param name="cancel">Stops the work.</param>
    public static SewingPlan Plan(Job job, IStitchSource source, DigitizedStitches? digitized = null, CancellationToken cancel = default)
    {
        digitized ??= new();
        var builder = new StitchBuilder(job.Order.Sum(p => p.Slices.Sum(s => s.Count)) + (4 * job.Order.Count));
        var ranges = new List<(Part Part, int First)>();
        (StitchSlice Slice, Part Part)? before = null;
        foreach (var part in job.Order)
        {
            cancel.ThrowIfCancellationRequested();
            var first = true;
            if (part.Drawn is { } drawn)
            {
                var made = digitized.Get(drawn.Shape, drawn.Settings, job.Cloth.Profile, cancel);
                var all = new StitchSlice(default, 0, made.Count);
                if (made.Count > 0) Finish(builder, before, part, StartOf(made, all, part.Placement));
                ranges.Add((part, builder.Count));
                if (made.Count == 0) continue;
                AppendFresh(builder, made, all, part.Placement);
                before = (all, part);
                continue;
            }

            foreach (var slice in part.Slices)
            {
                var blob = source.Get(slice.Blob);
                if (Follows(before, slice, part))
                {
                    if (first) ranges.Add((part, builder.Count));
                    Append(builder, blob, slice.First, slice.First + slice.Count, part.Placement);
                }
                else
                {
                    Finish(builder, before, part, StartOf(blob, slice, part.Placement));
                    if (first) ranges.Add((part, builder.Count));
                    AppendFresh(builder, blob, slice, part.Placement);
                }

                first = false;
                before = (slice, part);
            }
        }

        return Assemble(builder.ToBlob(), ranges);
    }

    private static SewingPlan Assemble(StitchBlob records, List<(Part Part, int First)> ranges)
    {
        var parts = ImmutableArray.CreateBuilder<PlannedPart>(ranges.Count);
        for (var i = 0; i < ranges.Count; i++)
        {
            var (part, first) = ranges[i];
            var end = i + 1 < ranges.Count ? ranges[i + 1].First : records.Count;
            parts.Add(new(part.Id, part.Name, part.Thread, part.Role, first, end - first, records.BoundsOf(first, end - first)));
        }

        return new(records, parts.ToImmutable());
    }

    private static bool Follows((StitchSlice Slice, Part Part)? before, StitchSlice slice, Part part) =>
        before is not { } b
            ? slice.First == 0
            : b.Part.Drawn is null && b.Slice.Blob == slice.Blob && b.Slice.First + b.Slice.Count == slice.First && b.Part.Placement == part.Placement;

    /// <summary>Ends what was sewn before: no leap to where it once went on, and a trim where the thread would lie across the cloth.</summary>
    private static void Finish(StitchBuilder builder, (StitchSlice Slice, Part Part)? before, Part next, Point start)
    {
        if (before is not { } b) return;
        builder.DropTrailingJumps();
        var cut = builder.Last is StitchKind.Trim || builder.Count == 0;
        if (!cut && (b.Part.Thread != next.Thread || builder.Needle.DistanceTo(start) > Craft.TrimOver)) builder.Trim();
    }

    /// <summary>Where the needle must be before the first stitch: the last leap before it, else the stitch itself.</summary>
    private static Point StartOf(StitchBlob blob, StitchSlice slice, Placement placement)
    {
        var first = FirstStitch(blob, slice);
        if (first >= slice.First + slice.Count) return placement.Place(blob.At(slice.First));
        var led = first > slice.First && blob.Kinds[first - 1] == StitchKind.Jump;
        return placement.Place(blob.At(led ? first - 1 : first));
    }

    private static void AppendFresh(StitchBuilder builder, StitchBlob blob, StitchSlice slice, Placement placement)
    {
        var start = StartOf(blob, slice, placement);
        if (builder.Count == 0 || builder.Needle != start) builder.Jump(start);

        // Stops that stood before the first stitch are messages to the operator and stay.
        var first = FirstStitch(blob, slice);
        for (var i = slice.First; i < first; i++)
            if (blob.Kinds[i] == StitchKind.Stop)
                builder.Stop(blob.Messages.GetValueOrDefault(i, string.Empty));
        Append(builder, blob, first, slice.First + slice.Count, placement);
    }

    private static int FirstStitch(StitchBlob blob, StitchSlice slice)
    {
        var end = slice.First + slice.Count;
        var i = slice.First;
        while (i < end && blob.Kinds[i] != StitchKind.Stitch) i++;
        return i;
    }

    private static void Append(StitchBuilder builder, StitchBlob blob, int first, int end, Placement placement)
    {
        for (var i = first; i < end; i++)
        {
            switch (blob.Kinds[i])
            {
                case StitchKind.Stitch or StitchKind.Jump:
                    builder.Add(blob.Kinds[i], placement.Place(blob.At(i)));
                    break;
                case StitchKind.Trim:
                    builder.Trim();
                    break;
                case StitchKind.Stop:
                    builder.Stop(blob.Messages.GetValueOrDefault(i, string.Empty));
                    break;
            }
        }
    }
}
