using EvenThimble.Core.Geometry;

namespace EvenThimble.Core.Stitches;

/// <summary>A tie of small steps: the first stitches of a way that the rest of the thread is sewn over. What lies across them holds them, and no thread lies on thread, which is much in a narrow stroke.</summary>
public static class HeldSteps
{
    /// <summary>So many steps hold a thread.</summary>
    public const int Enough = 3;

    /// <summary>A step is no longer than this, mm.</summary>
    public const double Longest = 0.8;

    // What is written in tenths may be so much longer, mm.
    private const double Rounded = 0.1;

    // So many stitches lie across them in all, and one at least across each.
    private const int HeldBy = 4;

    /// <summary>Whether a thread is tied so where it begins.</summary>
    /// <param name="thread">Its needle points, to its end.</param>
    public static bool Begin(IReadOnlyList<Point> thread)
    {
        if (thread.Count <= Enough) return false;
        for (var i = 0; i < Enough; i++)
            if (thread[i].DistanceTo(thread[i + 1]) > Longest + Rounded) return false;
        return Hold([.. thread.Take(Enough + 1)], thread, Enough);
    }

    /// <summary>Whether enough stitches of a thread lie across steps.</summary>
    /// <param name="steps">The places from and to which they go.</param>
    /// <param name="thread">The needle points of the thread.</param>
    /// <param name="after">The stitches after this one of its points are looked at.</param>
    public static bool Hold(IReadOnlyList<Point> steps, IReadOnlyList<Point> thread, int after)
    {
        var (around, across) = (Box.Around(steps), new int[steps.Count - 1]);
        for (var i = after + 1; i < thread.Count; i++)
        {
            var (a, b) = (thread[i - 1], thread[i]);
            if (Math.Max(a.X, b.X) < around.MinX || Math.Min(a.X, b.X) > around.MaxX || Math.Max(a.Y, b.Y) < around.MinY || Math.Min(a.Y, b.Y) > around.MaxY) continue;
            for (var k = 0; k < across.Length; k++)
                if (Polylines.Cross(a, b, steps[k], steps[k + 1])) across[k]++;
        }

        return across.Min() > 0 && across.Sum() >= HeldBy;
    }
}
