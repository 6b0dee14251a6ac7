using System.Collections.Immutable;
using EvenThimble.Core.Geometry;
using EvenThimble.Core.Jobs;
using EvenThimble.Core.Shapes;
using EvenThimble.Core.Stitches;

namespace EvenThimble.Core.Planning;

/// <summary>Outlines of what is sewn.</summary>
public static class PieceOutlines
{
    private const int Decimals = 3;

    /// <summary>The convex outline of the needle points of some pieces, in the job's place, mm; empty where nothing of them is sewn.</summary>
    public static ImmutableArray<Point> Of(Job job, SewingPlan plan, IReadOnlyCollection<PieceId> pieces)
    {
        var parts = job.Order.Where(p => pieces.Contains(p.Piece)).Select(p => p.Id).ToHashSet();
        var points = plan.Parts.Where(p => parts.Contains(p.Id)).SelectMany(p => Enumerable.Range(p.First, p.Count)).Where(i => plan.Records.Kinds[i] == StitchKind.Stitch).Select(plan.Records.At);
        return [.. Hull.Outline(points).Select(p => new Point(Math.Round(p.X, Decimals), Math.Round(p.Y, Decimals)))];
    }
}
