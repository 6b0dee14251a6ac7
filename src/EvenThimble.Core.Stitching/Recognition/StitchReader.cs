using System.Collections.Immutable;
using EvenThimble.Core.Geometry;
using EvenThimble.Core.Stitches;

namespace EvenThimble.Core.Recognition;

/// <summary>Finds out what bought stitches are, thread by thread. Nothing is assumed about the program that made them; the methods are our own.</summary>
public static class StitchReader
{
    private const double UnderShare = 0.8;
    private const double UnderCell = 0.4;

    /// <summary>The passages of all records in the order they are sewn; jumps, trims and stops lie between them.</summary>
    public static ImmutableArray<Passage> Read(StitchBlob blob)
    {
        var passages = new List<Passage>();
        for (var i = 0; i < blob.Count;)
        {
            if (blob.Kinds[i] != StitchKind.Stitch)
            {
                i++;
                continue;
            }

            var end = i;
            while (end < blob.Count && blob.Kinds[end] == StitchKind.Stitch) end++;
            passages.AddRange(new ThreadReading(blob, i, end).Read());
            i = end;
        }

        return MarkUnder(blob, passages);
    }

    /// <summary>Marks what later dense passages lie over.</summary>
    private static ImmutableArray<Passage> MarkUnder(StitchBlob blob, List<Passage> passages)
    {
        if (passages.Count == 0) return [];
        var grid = new CellGrid(blob.BoundsOf(passages[0].First, passages[^1].Last - passages[0].First + 1), UnderCell);
        for (var n = 0; n < passages.Count; n++)
            if (passages[n].IsDense && passages[n].Confidence >= Passage.Sure)
                LadderArea.Fill(grid, blob, passages[n], n + 1);

        return
        [
            .. passages.Select((p, n) =>
            {
                if (p.Kind == PassageKind.Tie) return p;
                var (under, all) = (0, 0);
                for (var i = p.First; i < p.Last; i++)
                {
                    all++;
                    if (grid.At(blob.At(i).Toward(blob.At(i + 1), 0.5)) > n + 1) under++;
                }

                // Underlay has stitches of a length, not a drawing.
                var isUnder = under >= UnderShare * all;
                return p with { IsUnder = isUnder, IsDrawn = p.IsDrawn && !isUnder };
            }),
        ];
    }
}
