using EvenThimble.Core.Geometry;
using EvenThimble.Core.Jobs;
using EvenThimble.Core.Planning;
using EvenThimble.Core.Planning.Ordering;
using EvenThimble.Core.Stitches;

namespace EvenThimble.Core.Readiness;

/// <summary>Looks over what sews after the outline that closes a thing made in the hoop, or after a cover, though it lies within: it would show on the back.</summary>
internal static class OrderFindings
{
    /// <summary>The findings, at most one for each closing part.</summary>
    public static IEnumerable<Finding> Of(Job job, SewingPlan plan)
    {
        foreach (var closing in ClosingOutlines.Of(job, plan))
        {
            var piece = job.Order.Find(closing.Id)!.Piece;
            var late = plan.Parts.Where(p => p.First >= closing.End && p.Count > 0 && job.Order.Find(p.Id)!.Piece != piece && LiesIn(p.Bounds, closing.Bounds)).ToList();
            if (late.Count == 0) continue;
            var parts = late.Select(p => p.Id).ToHashSet();
            var pieces = job.Pieces.Where(p => late.Any(l => job.Order.Find(l.Id)!.Piece == p.Id)).Select(p => $"“{p.Name}”").ToList();
            var (what, name) = (closing.Role == PartRole.Cover ? "cover" : "closing outline", job.Pieces.First(p => p.Id == piece).Name);
            yield return new($"after-closing-{closing.Id.Value}", FindingLevel.Attention,
                $"{string.Join(" and ", pieces)} sew{(pieces.Count == 1 ? "s" : string.Empty)} after the {what} of “{name}”, and so would show on the back.",
                $"Sew it before the {what}, while the back is still open.")
            {
                Record = late[0].First,
                Remedies = [new($"before-closing-{closing.Id.Value}", $"Sew before the {what}", new PlaceInOrder(parts, ClosingOutlines.IndexBefore(job, plan, closing.Id)))],
            };
        }
    }

    private static bool LiesIn(Box inner, Box outer) => outer.Holds(new(inner.MinX, inner.MinY)) && outer.Holds(new(inner.MaxX, inner.MaxY));
}
