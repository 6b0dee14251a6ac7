using EvenThimble.Core.Geometry;
using EvenThimble.Core.Recognition;

namespace EvenThimble.Core.Respacing;

/// <summary>
/// How far each row lies from the next against the rows about them. Bought rows that were rounded to tenths, or worn by a way through other files, tremble; made larger they would tremble as much more,
/// and rows between them would leave bare strips. So new ones are laid by distance there, along each edge for itself, and by number where the old ones are steady or change steadily.
/// </summary>
internal static class RowSteps
{
    // Rows tremble when usually one lies so far beside the middle of its neighbours, mm as they came.
    private const double Trembles = 0.02;

    // What is usual is seen in so many steps on either side.
    private const int Reach = 5;

    // Where rows run together in one place their steps are compared no finer than by this part of what is usual in all.
    private const double Least = 0.3;

    /// <summary>For each step from row to row its length along either edge, as a multiple of what is usual about it; null where rows do not tremble.</summary>
    /// <param name="left">The left ends of the rows, mm at their size.</param>
    /// <param name="right">Their right ends.</param>
    /// <param name="spacing">How far rows usually lie apart, mm at their size.</param>
    /// <param name="size">How many times as large as they came.</param>
    public static (double[] Left, double[] Right)? Of(Point[] left, Point[] right, double spacing, double size)
    {
        var (atLeft, atRight) = (Along(left, right), Along(right, left));
        if (Math.Max(Uneven(atLeft), Uneven(atRight)) < Trembles * size) return null;
        return (ToUsual(atLeft, Least * spacing), ToUsual(atRight, Least * spacing));
    }

    private static double[] Along(Point[] ends, Point[] others)
    {
        var steps = new double[ends.Length - 1];
        for (var k = 0; k < steps.Length; k++)
        {
            // Where one is longer the other's end lies beside both.
            var way = (ends[k] - others[k]).Unit();
            var (end, row) = way.Dot(ends[k + 1] - ends[k]) > 0 ? (k, k + 1) : (k + 1, k);
            steps[k] = ends[end].DistanceToLine(others[row], ends[row]);
        }

        return steps;
    }

    private static double Uneven(double[] steps) => steps.Zip(steps.Skip(1), (a, b) => Math.Abs(a - b) / 2).ToList().Median();

    private static double[] ToUsual(double[] steps, double least) =>
        [.. steps.Select((step, k) => (step + least) / (steps[Math.Max(0, k - Reach)..Math.Min(steps.Length, k + Reach + 1)].Average() + least))];
}
