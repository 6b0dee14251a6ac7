using System.Globalization;
using EvenThimble.Core.Stitches;
using EvenThimble.Core.Text;
using EvenThimble.Core.Work;

namespace EvenThimble.Core.Planning;

/// <summary>What no sewing plan may be. Whatever would change a job or bring one in is planned first, and kept only when its plan holds.</summary>
public static class PlanRules
{
    /// <summary>No job is wider or higher than this, mm.</summary>
    public const double LargestMm = 4_000;

    /// <summary>Refuses a plan that no machine could sew and no screen could show.</summary>
    /// <exception cref="TooMuchWorkException">With what is wrong, in a sentence.</exception>
    public static void Check(SewingPlan plan)
    {
        WorkBudget.CheckRecords(plan.Records.Count);
        var b = plan.Bounds;
        if (Math.Max(b.Width, b.Height) > LargestMm)
            throw new TooMuchWorkException(string.Create(CultureInfo.InvariantCulture, $"That would be {Math.Max(b.Width, b.Height) / 1000:0.#} m wide or high; a job can be up to {LargestMm / 1000:0} m, far more than any hoop holds. Nothing was changed."));
        if (!b.IsEmpty && Math.Max(Math.Max(-b.MinX, b.MaxX), Math.Max(-b.MinY, b.MaxY)) > StitchBlob.FarthestMm)
            throw new TooMuchWorkException("That would lie farther from the centre than any machine reaches. Nothing was changed.");
    }
}
