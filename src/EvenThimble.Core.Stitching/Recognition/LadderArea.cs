using EvenThimble.Core.Geometry;
using EvenThimble.Core.Stitches;

namespace EvenThimble.Core.Recognition;

/// <summary>The area that throws or rows cover, closed over the spacing.</summary>
public static class LadderArea
{
    /// <summary>Gives the squares under a passage a number.</summary>
    public static void Fill(CellGrid grid, StitchBlob blob, Passage passage, int number)
    {
        var rungs = passage.Rungs;
        for (var k = 1; k < rungs.Length; k++)
        {
            // Rungs go there and back: the end of one faces the start of the next.
            var (a, b) = (blob.At(rungs[k - 1].First), blob.At(rungs[k - 1].Last));
            var (c, d) = (blob.At(rungs[k].First), blob.At(rungs[k].Last));
            grid.Fill(a, b, c, number);
            grid.Fill(a, c, d, number);
        }
    }
}
