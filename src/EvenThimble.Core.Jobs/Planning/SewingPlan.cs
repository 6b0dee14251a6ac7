using System.Collections.Immutable;
using EvenThimble.Core.Geometry;
using EvenThimble.Core.Jobs;
using EvenThimble.Core.Recognition;
using EvenThimble.Core.Stitches;
using EvenThimble.Core.Threads;

namespace EvenThimble.Core.Planning;

/// <summary>A part as it is sewn: a range of the plan's records.</summary>
public sealed record PlannedPart(PartId Id, string Name, SewingThread Thread, PartRole Role, int First, int Count, Box Bounds)
{
    /// <summary>The record after the last.</summary>
    public int End => First + Count;

    /// <summary>What the user told of its stitches, counted from its first record.</summary>
    public ImmutableArray<ToldReading> Told { get; init; } = [];
}

/// <summary>What the machine will do from first to last. The screen, the checks and every file are made from it.</summary>
public sealed class SewingPlan(StitchBlob records, ImmutableArray<PlannedPart> parts)
{
    /// <summary>A plan without stitches.</summary>
    public static readonly SewingPlan Empty = new(StitchBlob.None, []);

    /// <summary>All records, in the job's place, mm.</summary>
    public StitchBlob Records => records;

    /// <summary>Parts in sewing order; together they are all records.</summary>
    public ImmutableArray<PlannedPart> Parts => parts;

    /// <summary>The rectangle about every needle point.</summary>
    public Box Bounds { get; } = parts.Aggregate(Box.Empty, (box, p) => box.With(p.Bounds));

    /// <summary>Number of needle points.</summary>
    public int StitchCount { get; } = records.CountOf(StitchKind.Stitch);

    /// <summary>Number of jumps.</summary>
    public int Jumps => records.CountOf(StitchKind.Jump);

    /// <summary>Number of thread cuts.</summary>
    public int Trims => records.CountOf(StitchKind.Trim);

    /// <summary>How often another thread is taken after the first.</summary>
    public int ThreadChanges { get; } = Enumerable.Range(1, Math.Max(parts.Length - 1, 0)).Count(i => parts[i].Thread != parts[i - 1].Thread);

    /// <summary>The different threads, in the order they are first used.</summary>
    public ImmutableArray<SewingThread> Threads { get; } = [.. parts.Select(p => p.Thread).Distinct()];

    /// <summary>The stitches of a part, with what they are read as or were told to be.</summary>
    public ReadStitches Read(PlannedPart part) => ReadStitches.Of(records.Cut(part.First, part.Count), part.Told);

    /// <summary>The part that a record belongs to, or null outside.</summary>
    public PlannedPart? PartOf(int record) => parts.FirstOrDefault(p => record >= p.First && record < p.End);

    /// <summary>The rectangle about chosen parts.</summary>
    public Box BoundsOf(IReadOnlySet<PartId> chosen) => parts.Where(p => chosen.Contains(p.Id)).Aggregate(Box.Empty, (box, p) => box.With(p.Bounds));

    /// <summary>The plan as the contents of a stitch file.</summary>
    public StitchFile ToFile(string title) =>
        new(title, records, [.. parts.Select(p => new StitchFilePart(p.First, p.Count, p.Thread, p.Role))]);
}
