using EvenThimble.Core.Craft;
using EvenThimble.Core.Geometry;

namespace EvenThimble.Core.Digitizing.Satin;

/// <summary>How satin is thrown.</summary>
/// <param name="SpacingMm">Between needle points on one side, mm.</param>
/// <param name="CompensationMm">By how much throws are lengthened at each end, mm.</param>
public sealed record SatinStyle(double SpacingMm = Limits.SatinSpacing, double CompensationMm = Limits.PullCompensation)
{
    /// <summary>Throws longer than this are split, mm.</summary>
    public double LongestThrow { get; init; } = Limits.LongestThrow;

    /// <summary>What is sewn underneath.</summary>
    public IReadOnlyList<Underlay> Underlay { get; init; } = [];
}

/// <summary>Needle points of throws from side to side.</summary>
internal static class SatinThrows
{
    // Where the needle would fall closer than this part of the spacing, some throws stop short of the inner edge.
    private const double Crowded = 0.55;
    private const double VeryCrowded = 0.25;

    // Throws narrower than this become a run along the middle.
    private const double Narrowest = 0.8;
    private const double NarrowStitch = 1.0;

    // Split points lie at these parts of a piece away from its middle in turn, so that they form no line.
    private static readonly double[] Stagger = [0, 0.2, -0.2, 0.1, -0.1];

    /// <summary>Appends throws across rungs, in their order.</summary>
    public static void Add(List<Point> run, IReadOnlyList<Rung> rungs, SatinStyle style)
    {
        for (var i = 0; i < rungs.Count; i++)
        {
            var (left, right) = (rungs[i].Left, rungs[i].Right);
            var across = (right - left).Unit() * style.CompensationMm;
            (left, right) = (left - across, right + across);
            if (left.DistanceTo(right) < Narrowest)
            {
                var middle = left.Toward(right, 0.5);
                if (run.Count == 0 || run[^1].DistanceTo(middle) >= NarrowStitch) Throw(run, middle, 2 * i, style.LongestThrow);
                continue;
            }

            if (i > 0) (left, right) = Shortened(rungs[i - 1], rungs[i], left, right, i, style.SpacingMm);
            Throw(run, left, (2 * i) + 0, style.LongestThrow);
            Throw(run, right, (2 * i) + 1, style.LongestThrow);
        }
    }

    /// <summary>On a tight bend every second throw, and on a very tight one three of four, do not reach the inner edge.</summary>
    private static (Point Left, Point Right) Shortened(Rung before, Rung here, Point left, Point right, int i, double spacing)
    {
        var (l, r) = (before.Left.DistanceTo(here.Left), before.Right.DistanceTo(here.Right));
        var inner = Math.Min(l, r);
        if (inner > Crowded * spacing || Math.Abs(l - r) < 0.05) return (left, right);
        var keep = inner > VeryCrowded * spacing ? (i % 2 == 1 ? 0.74 : 1) : (i % 4) switch { 1 => 0.58, 2 => 0.84, 3 => 0.7, _ => 1 };
        return l < r ? (right.Toward(left, keep), right) : (left, left.Toward(right, keep));
    }

    /// <summary>Appends one throw to a needle point; a long one is split, each where its number says, so that the split points form no line.</summary>
    public static void Throw(List<Point> run, Point to, int number, double longest)
    {
        if (run.Count > 0)
        {
            var from = run[^1];
            var length = from.DistanceTo(to);
            if (length < Limits.ShortestStitch) return;
            var pieces = (int)Math.Ceiling(length * (length > longest ? 1 + Stagger.Max() : 1) / longest);
            for (var s = 1; s < pieces; s++) run.Add(from.Toward(to, (s + Stagger[number / 2 % Stagger.Length]) / pieces));
        }

        run.Add(to);
    }

    public static void Append(List<Point> run, Point to, double least = Limits.ShortestStitch)
    {
        if (run.Count > 0 && run[^1].DistanceTo(to) < least) return;
        run.Add(to);
    }
}
