using EvenThimble.Core.Geometry;
using EvenThimble.Core.Jobs;
using EvenThimble.Core.Planning;
using EvenThimble.Core.Text;

namespace EvenThimble.Core.Readiness;

/// <summary>Looks whether borders still lie around what they were laid around.</summary>
internal static class BorderFindings
{
    // A border is off from here on, mm.
    private const double Off = 0.3;

    /// <summary>The findings, one for each border that is off.</summary>
    public static IEnumerable<Finding> Of(Job job, SewingPlan plan)
    {
        foreach (var piece in job.Pieces)
        {
            if (piece.Content is not BorderContent border || !job.Order.Any(p => p.Piece == piece.Id)) continue;
            var outline = PieceOutlines.Of(job, plan, border.Around);
            if (outline.Length < 3) continue;
            var (was, now) = (Box.Around(border.Outline.Select(piece.Placement.Place)), Box.Around(outline));
            if (new[] { was.MinX - now.MinX, was.MaxX - now.MaxX, was.MinY - now.MinY, was.MaxY - now.MaxY }.All(d => Math.Abs(d) <= Off)) continue;
            yield return new($"border-off-{piece.Id.Value}", FindingLevel.Attention,
                $"“{piece.Name}” no longer lies {LengthText.Decimals(border.Wish.DistanceMm, 1)} mm around it: one of them was moved or changed.", "Lay the border anew, or leave it where it is on purpose.")
            {
                Remedies = Anew(job, piece, border, outline) is { } laid ? [new($"border-anew-{piece.Id.Value}", "Lay it anew", new ChangeBorder(piece.Id, laid))] : [],
            };
        }
    }

    private static BorderContent? Anew(Job job, Piece piece, BorderContent border, System.Collections.Immutable.ImmutableArray<Point> outline)
    {
        try
        {
            return BorderContent.Lay(border.Wish, border.Around, outline, border.Thread, job.Cloth.Profile, border);
        }
        catch (EditRefusedException)
        {
            return null; // what it goes around has become too small, for instance
        }
    }
}
