using EvenThimble.Core.Geometry;
using EvenThimble.Core.Jobs;
using EvenThimble.Core.Stitches;

namespace EvenThimble.Core.Planning.Ordering;

/// <summary>
/// Finds what closes a thing that is made in the hoop: a line around all the rest of its piece, sewn last, after the operator was asked to lay something; and covers, which are sewn over the edge of laid cloth. What sews
/// after it goes through what was laid last and shows on the back.
/// </summary>
public static class ClosingOutlines
{
    // It goes around so much of its piece across and down, and leaves the middle of it free.
    private const double AroundMost = 0.9;
    private const double MiddleFree = 0.5;

    /// <summary>The part that closes each piece that has one.</summary>
    public static IReadOnlyList<PlannedPart> Of(Job job, SewingPlan plan)
    {
        var pieceOf = job.Order.ToDictionary(p => p.Id, p => p.Piece);
        var closing = new List<PlannedPart>();
        foreach (var parts in plan.Parts.GroupBy(p => pieceOf[p.Id]).Select(g => g.ToList()).Where(g => g.Count > 1))
        {
            var whole = parts.Aggregate(Box.Empty, (box, p) => box.With(p.Bounds));
            var asks = parts.Exists(p => p.Role is PartRole.PlacementLine or PartRole.TackDown) || HasStop(plan, parts[0].First, parts[^1].First);
            if (asks && parts.FindLast(p => p.Role == PartRole.Cover || (p == parts[^1] && GoesAround(plan, p, whole))) is { } last) closing.Add(last);
        }

        return closing;
    }

    /// <summary>Where in the order something is to be sewn before a part: before the stop that asks to lay what the part sews down, where that is the last that the part before it does.</summary>
    public static int IndexBefore(Job job, SewingPlan plan, PartId part)
    {
        var index = job.Order.TakeWhile(p => p.Id != part).Count();
        while (index > 0 && plan.Parts.FirstOrDefault(p => p.Id == job.Order[index - 1].Id) is { } before && EndsWithStop(plan, before)) index--;
        return index;
    }

    private static bool GoesAround(SewingPlan plan, PlannedPart part, Box whole)
    {
        if (part.Bounds.Width < AroundMost * whole.Width || part.Bounds.Height < AroundMost * whole.Height) return false;
        var inner = Box.Around([whole.Middle + (new Point(whole.Width, whole.Height) * (MiddleFree / 2)), whole.Middle - (new Point(whole.Width, whole.Height) * (MiddleFree / 2))]);
        for (var i = part.First; i < part.End; i++)
            if (plan.Records.Kinds[i] == StitchKind.Stitch && inner.Holds(plan.Records.At(i)))
                return false;
        return true;
    }

    private static bool HasStop(SewingPlan plan, int from, int to) => plan.Records.Kinds[from..to].Contains(StitchKind.Stop);

    private static bool EndsWithStop(SewingPlan plan, PlannedPart part)
    {
        for (var i = part.End - 1; i >= part.First; i--)
        {
            if (plan.Records.Kinds[i] == StitchKind.Stop) return true;
            if (plan.Records.Kinds[i] == StitchKind.Stitch) return false;
        }

        return false;
    }
}
