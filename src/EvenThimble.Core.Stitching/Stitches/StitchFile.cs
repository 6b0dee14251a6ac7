using System.Collections.Immutable;
using EvenThimble.Core.Geometry;
using EvenThimble.Core.Threads;

namespace EvenThimble.Core.Stitches;

/// <summary>Stitches between two thread changes.</summary>
public readonly record struct StitchFilePart(int First, int Count, SewingThread Thread, PartRole Role);

/// <summary>The hoop that a file was written for, as the revision 2 stitch file carries it.</summary>
public sealed record HoopNote(string Hoop, int Placement, int Placements, double OffsetX, double OffsetY);

/// <summary>What a stitch file holds, whatever its format. Places in mm.</summary>
/// <param name="Title">As the file says, or as its name suggests.</param>
/// <param name="Stitches">All records; the borders between parts are the thread changes.</param>
/// <param name="Parts">In order; together they are all records.</param>
public sealed record StitchFile(string Title, StitchBlob Stitches, ImmutableArray<StitchFilePart> Parts)
{
    /// <summary>The hoop it was written for, where the file says so.</summary>
    public HoopNote? Hoop { get; init; }

    /// <summary>By part the needle that sews it, from 1, on a machine with several; empty: not said.</summary>
    public ImmutableArray<int> Needles { get; init; } = [];

    /// <summary>A picture (PNG) carried along; empty when there is none.</summary>
    public ReadOnlyMemory<byte> Picture { get; init; }

    /// <summary>What a reader should know: assumptions made, things that did not agree. Whole sentences.</summary>
    public ImmutableArray<string> Notes { get; init; } = [];

    /// <summary>The rectangle about every needle point.</summary>
    public Box Bounds => Stitches.BoundsOf(0, Stitches.Count);

    /// <summary>Number of needle points.</summary>
    public int StitchCount => Stitches.CountOf(StitchKind.Stitch);

    /// <summary>How often another thread is taken after the first.</summary>
    public int ThreadChanges => Parts.Zip(Parts.Skip(1)).Count(pair => pair.First.Thread != pair.Second.Thread);

    /// <summary>The different threads, in the order they are first used.</summary>
    public ImmutableArray<SewingThread> Threads => [.. Parts.Select(p => p.Thread).Distinct()];
}
