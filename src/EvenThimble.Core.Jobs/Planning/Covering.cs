using System.Collections.Immutable;
using EvenThimble.Core.Craft;
using EvenThimble.Core.Digitizing;
using EvenThimble.Core.Geometry;
using EvenThimble.Core.Jobs;
using EvenThimble.Core.Recognition;
using EvenThimble.Core.Stitches;
using EvenThimble.Core.Text;
using EvenThimble.Core.Work;

namespace EvenThimble.Core.Planning;

/// <summary>A plan without what later parts hide, and what was left out.</summary>
/// <param name="Plan">What is sewn.</param>
/// <param name="Gone">Lines of thread that are not, by part.</param>
public sealed record CoveredPlan(SewingPlan Plan, ImmutableArray<(PartId Part, ImmutableArray<Point> Line)> Gone)
{
    /// <summary>Length of the thread that is not sewn, mm.</summary>
    public double GoneMm => Gone.Sum(g => Polylines.Length(g.Line));
}

/// <summary>
/// Leaves out of a plan what later parts hide. The cover is the area where rows or throws of the later part lie so close that thread closes it, looked at between each two of them, and drawn in
/// by a margin, so that no gap opens when the cloth pulls. Rows, throws and lines are cut where they go under it, and what is left of rows is sewn side by side.
/// </summary>
public static class Covering
{
    /// <summary>How far inside the edge of the cover something must lie to be left out, mm.</summary>
    public const double Margin = 1.0;

    // Rows or throws farther apart than this let what lies under them be seen, mm: thread is 0.4 wide and spreads a little.
    private const double Hides = 0.6;

    private const double Cell = 0.2;

    // Squares begin this part of one before the first stitch, so that stitches on a round grid do not lie on their borders.
    private const double OffBorder = 0.37;
    private const double MostSquareMm = 300_000;
    private const double Closing = 0.4;

    /// <summary>Whether stitches of a role are never left out: they are for the making, not for the look.</summary>
    public static bool IsProtected(PartRole role) => role is PartRole.PlacementLine or PartRole.TackDown or PartRole.CutLine or PartRole.Basting or PartRole.RegistrationCross;

    /// <summary>The plan without what is covered.</summary>
    public static CoveredPlan Apply(Job job, SewingPlan plan)
    {
        var parts = plan.Parts;
        if (plan.Bounds.Width * plan.Bounds.Height > MostSquareMm)
            throw new TooMuchWorkException($"What is covered can be left out of jobs of up to {MostSquareMm / 100:N0} cm²; this one is larger. Sew covered stitches too, or make it smaller.");
        var bounds = plan.Bounds.Grown(OffBorder * Cell);
        var (laid, covered) = (new CellGrid(bounds, Cell), new CellGrid(bounds, Cell));
        var read = new ReadStitches[parts.Length];
        var pieces = new (List<CoveredPiece> Pieces, bool Changed)[parts.Length];
        for (var n = parts.Length - 1; n >= 0; n--)
        {
            WorkBudget.Current.Spend(parts[n].Count);
            read[n] = plan.Read(parts[n]);
            var keeps = IsProtected(parts[n].Role) || job.Order[n].KeptWhole;
            pieces[n] = keeps ? ([], false) : new CoveredPart(read[n], covered).Take();
            Lay(read[n], laid, covered);
        }

        return Assemble(plan, read, pieces, covered);
    }

    /// <summary>Adds the area that a part hides to what later parts hide.</summary>
    /// <param name="read">The part.</param>
    /// <param name="laid">All that is under later stitches.</param>
    /// <param name="covered">The same, drawn in by the margin.</param>
    private static void Lay(ReadStitches read, CellGrid laid, CellGrid covered)
    {
        var dense = read.Passages.Where(p => p.HasSpacing && p.Confidence >= Passage.Sure && !p.IsUnder).ToList();
        if (dense.Count == 0) return;

        // Drawing in changes nothing farther than the margin from the part, and is told by what lies that far from there.
        const double reach = Margin + Closing + (2 * Cell);
        var box = dense.Aggregate(Box.Empty, (b, p) => b.With(read.Stitches.BoundsOf(p.First, p.Stitches + 1)));
        var own = CellGrid.SameSquares(laid, box.Grown(2 * reach));
        foreach (var passage in dense) LadderArea.Fill(own, read.Stitches, passage, 1, Hides);

        // Closed over small gaps between strokes and sections.
        var outside = DistanceGrid.To(own, isOf: c => c > 0);
        for (var i = 0; i < outside.Length; i++) own.Cells[i] = outside[i] > Closing ? 1 : 0;
        var inside = DistanceGrid.To(own, isOf: c => c > 0);
        for (var i = 0; i < inside.Length; i++)
        {
            if (inside[i] > Closing) laid.Fill(own.Middle(i), 1);
            own.Cells[i] = inside[i] > Closing || laid.At(own.Middle(i)) > 0 ? 0 : 1;
        }

        inside = DistanceGrid.To(own, isOf: c => c > 0);
        var near = box.Grown(reach);
        for (var i = 0; i < inside.Length; i++)
            if (inside[i] > Margin && own.Middle(i) is var at && near.Holds(at))
                covered.Fill(at, 1);
    }

    private static CoveredPlan Assemble(SewingPlan plan, ReadStitches[] read, (List<CoveredPiece> Pieces, bool Changed)[] pieces, CellGrid covered)
    {
        var builder = new StitchBuilder(plan.Records.Count);
        var parts = ImmutableArray.CreateBuilder<PlannedPart>(plan.Parts.Length);
        var gone = ImmutableArray.CreateBuilder<(PartId, ImmutableArray<Point>)>();
        for (var n = 0; n < plan.Parts.Length; n++)
        {
            var part = plan.Parts[n];
            var first = builder.Count;
            if (!pieces[n].Changed)
            {
                Copy(builder, read[n].Stitches);
            }
            else
            {
                part = part with { Told = [] }; // of other records
                Sew(builder, pieces[n].Pieces.Where(p => !p.IsGone), covered, read[n].Stitches);
                foreach (var piece in pieces[n].Pieces.Where(p => p.IsGone)) gone.Add((part.Id, [.. piece.Points]));
            }

            parts.Add(part with { First = first, Count = builder.Count - first });
        }

        var records = builder.ToBlob();
        return new(new(records, [.. parts.Select(p => p with { Bounds = records.BoundsOf(p.First, p.Count) })]), gone.ToImmutable());
    }

    private static void Copy(StitchBuilder builder, StitchBlob blob)
    {
        for (var i = 0; i < blob.Count; i++)
        {
            if (blob.Kinds[i] == StitchKind.Stop) builder.Stop(blob.Messages.GetValueOrDefault(i, string.Empty));
            else builder.Add(blob.Kinds[i], blob.At(i));
        }
    }

    /// <summary>Sews what is left of a part: near pieces go on from each other, from far ones the thread goes under the cover or is tied and cut.</summary>
    private static void Sew(StitchBuilder builder, IEnumerable<CoveredPiece> pieces, CellGrid covered, StitchBlob blob)
    {
        const double wayStitch = 2.5, longestWay = 12;
        var sewing = false;
        foreach (var piece in pieces)
        {
            if (piece.IsStop)
            {
                End();
                builder.Stop(piece.Message ?? string.Empty);
                continue;
            }

            var points = piece.Points;
            if (sewing)
            {
                var (from, length) = (builder.Needle, builder.Needle.DistanceTo(points[0]));
                if (piece.BeginsAnew || (length > Limits.RunStitch && !(length <= longestWay && CoveredPart.IsCovered(covered, from, points[0]))))
                {
                    End();
                }
                else
                {
                    var steps = (int)Math.Ceiling(length / wayStitch);
                    for (var s = 1; s < steps; s++) builder.Stitch(from.Toward(points[0], s / (double)steps));
                    if (length >= Limits.ShortestStitch) builder.Stitch(points[0]);
                }
            }

            if (!sewing)
            {
                if (builder.Needle != points[0] || builder.Count == 0 || builder.Last != StitchKind.Jump) builder.Jump(points[0]);
                builder.Stitch(points[0]);
                if (!piece.IsTiedAtStart && points.Count > 1) Ties.Tie(builder, points[0], points[1]);
            }

            for (var i = 1; i < points.Count; i++) builder.Stitch(points[i]);
            sewing = true;
            if (piece.EndsTied)
            {
                builder.Trim();
                sewing = false;
            }
        }

        End();

        void End()
        {
            if (!sewing) return;
            var back = builder.Count - 2;
            while (back > 0 && (builder.KindAt(back) != StitchKind.Stitch || builder.At(back).DistanceTo(builder.Needle) < 0.3)) back--;
            if (back >= 0) Ties.Tie(builder, builder.Needle, builder.At(back));
            builder.Trim();
            sewing = false;
        }
    }
}
