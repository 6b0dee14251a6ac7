using EvenThimble.Core.Geometry;
using EvenThimble.Core.Stitches;

namespace EvenThimble.Core.Recognition;

/// <summary>The area that throws or rows cover, closed over the spacing.</summary>
public static class LadderArea
{
    /// <summary>Gives the squares under a passage a number.</summary>
    /// <param name="grid">The squares.</param>
    /// <param name="blob">The stitches.</param>
    /// <param name="passage">The passage.</param>
    /// <param name="number">The number.</param>
    /// <param name="widestGap">Between rungs farther apart than this nothing is covered, mm.</param>
    public static void Fill(CellGrid grid, StitchBlob blob, Passage passage, int number, double widestGap = double.PositiveInfinity)
    {
        if (passage.InRings || passage.Bent)
        {
            if (passage.SpacingMm <= widestGap) FillLines(grid, blob, passage, number);
            return;
        }

        var rungs = passage.Rungs;
        for (var k = 1; k < rungs.Length; k++)
        {
            // Rungs go there and back: the end of one faces the start of the next.
            var (a, b) = (blob.At(rungs[k - 1].First), blob.At(rungs[k - 1].Last));
            var (c, d) = (blob.At(rungs[k].First), blob.At(rungs[k].Last));
            if (Gap(a, b, c, d) > widestGap) continue;
            grid.Fill(a, b, c, number);
            grid.Fill(a, c, d, number);
        }
    }

    /// <summary>Around each stitch of a line half the way to its neighbours, and a little more.</summary>
    private static void FillLines(CellGrid grid, StitchBlob blob, Passage passage, int number)
    {
        var half = passage.SpacingMm * 0.6;
        for (var i = passage.First; i < passage.Last; i++)
        {
            var (from, to) = (blob.At(i), blob.At(i + 1));
            var along = (to - from).Unit() * half;
            var aside = new Point(-along.Y, along.X);
            var (a, b, c, d) = (from - along + aside, to + along + aside, to + along - aside, from - along - aside);
            grid.Fill(a, b, c, number);
            grid.Fill(a, c, d, number);
        }
    }

    /// <summary>How far two rungs lie apart at the end where they are farther, square to them, mm.</summary>
    private static double Gap(Point a, Point b, Point c, Point d)
    {
        var along = (b - a + (c - d)).Unit();
        return Math.Max(Math.Abs(along.Cross(c - b)), Math.Abs(along.Cross(d - a)));
    }
}
