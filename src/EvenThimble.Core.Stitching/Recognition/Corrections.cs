using System.Collections.Immutable;
using EvenThimble.Core.Geometry;
using EvenThimble.Core.Stitches;

namespace EvenThimble.Core.Recognition;

/// <summary>What the user told of stitches, in place of what they were read as.</summary>
public static class Corrections
{
    // A fill without rows that are known has its lines this far apart at the most, mm.
    private const double Loosest = 1.3;
    private const double Closest = 0.2;

    /// <summary>What stitches can be told to be: rows and throws need some, a fill lines beside each other.</summary>
    public static IReadOnlyList<ReadAs> Possible(StitchBlob blob, Passage passage) =>
        passage.Rungs.Length > 1 ? [ReadAs.Satin, ReadAs.Fill, ReadAs.Line, ReadAs.AsItIs]
        : passage.InRings || Apart(blob, passage) is not null ? [ReadAs.Fill, ReadAs.Line, ReadAs.AsItIs]
        : [ReadAs.Line, ReadAs.AsItIs];

    /// <summary>The passages with those that mostly lie among told records as they were told.</summary>
    public static ImmutableArray<Passage> Apply(StitchBlob blob, ImmutableArray<Passage> passages, IReadOnlyList<ToldReading> told) => told.Count == 0 ? passages :
    [
        .. passages.Select(p => p.Kind == PassageKind.Tie ? p : told.Where(t => 2 * (Math.Min(t.Last, p.Last) - Math.Max(t.First, p.First)) > p.Stitches).Select(t => As(blob, p, t.As)).FirstOrDefault(p)),
    ];

    private static Passage As(StitchBlob blob, Passage passage, ReadAs readAs)
    {
        var told = passage with { Told = readAs, Confidence = 1 };
        switch (readAs)
        {
            case ReadAs.Satin when passage.Rungs.Length > 1:
                return told with { Kind = PassageKind.Satin };
            case ReadAs.Fill when passage.HasSpacing:
                return told with { Kind = PassageKind.Fill };
            case ReadAs.Fill when Apart(blob, passage) is { } apart:
                return told with { Kind = PassageKind.Fill, InRings = true, SpacingMm = apart, StitchLength = Usual(blob, passage) };
            case ReadAs.Line or ReadAs.AsItIs:
                return new Passage(PassageKind.Run, passage.First, passage.Last) { Told = readAs, StitchLength = Usual(blob, passage), IsDrawn = readAs == ReadAs.AsItIs, IsUnder = passage.IsUnder };
            default:
                return passage;
        }
    }

    private static double Usual(StitchBlob blob, Passage passage) => Enumerable.Range(passage.First, passage.Stitches).Select(i => blob.At(i).DistanceTo(blob.At(i + 1))).ToList().Median();

    /// <summary>How far apart the lines of a passage usually lie, mm; null when too few have another beside them.</summary>
    private static double? Apart(StitchBlob blob, Passage passage)
    {
        const double enough = 0.5;
        Point[] points = [.. Enumerable.Range(passage.First, passage.Stitches + 1).Select(blob.At)];
        var beside = RingReading.Neighbours(points, 0, points.Length - 1, Loosest);
        return beside.Share >= enough ? Math.Clamp(beside.UsualMm, Closest, Loosest) : null;
    }
}
