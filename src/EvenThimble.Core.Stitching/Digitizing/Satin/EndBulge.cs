using EvenThimble.Core.Geometry;

namespace EvenThimble.Core.Digitizing.Satin;

/// <summary>What of an area bulges beyond the last throw of a stroke, to one side or in the middle: a rounded end, or a soft corner.</summary>
internal static class EndBulge
{
    // What is lower than the first would hardly be seen beside the last throw; what is higher than the second is no bulge, but goes on, mm.
    private const double MostBare = 0.3;
    private const double MostHigh = 1.2;

    // The outermost throw lies so far within the bulge, and none is shorter than so, mm.
    private const double Within = 0.12;
    private const double Shortest = 0.8;

    // Steps along the last throw at which its height is looked at, mm.
    private const double Look = 0.1;

    /// <summary>The throws over it, the innermost first; none where nothing bulges.</summary>
    /// <param name="last">The last throw of the end.</param>
    /// <param name="before">The one before that.</param>
    /// <param name="outline">The edges of the area.</param>
    /// <param name="spacing">How far apart throws lie, mm.</param>
    public static List<Rung> Throws(Rung last, Rung before, Walls outline, double spacing)
    {
        var over = new List<Rung>();
        if (last.Width < Shortest) return over;
        var outward = (last.Right - last.Left).Unit().Normal();
        if (outward.Dot(last.Middle - before.Middle) < 0) outward *= -1;
        var looks = (int)Math.Ceiling(last.Width / Look);
        var heights = new double[looks];
        for (var k = 0; k < looks; k++) heights[k] = outline.Leave(At(k), outward) ?? 0;
        var high = heights.Max();
        if (high is < MostBare or > MostHigh) return over;
        var (top, pieces) = (Array.IndexOf(heights, high), (int)Math.Ceiling((high - Within) / spacing));
        for (var n = 1; n <= pieces; n++)
        {
            var by = (high - Within) * n / pieces;
            var (from, to) = (top, top);
            while (from > 0 && heights[from - 1] >= by) from--;
            while (to < looks - 1 && heights[to + 1] >= by) to++;
            var (left, right) = (At(from) + (outward * by), At(to) + (outward * by));
            if (left.DistanceTo(right) < Shortest) break;
            over.Add(new(last.At, left, right, left.Toward(right, 0.5)));
        }

        return over;

        Point At(int k) => last.Left.Toward(last.Right, (k + 0.5) / looks);
    }
}
