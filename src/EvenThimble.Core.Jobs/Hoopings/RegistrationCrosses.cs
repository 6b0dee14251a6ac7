using System.Collections.Immutable;
using EvenThimble.Core.Geometry;
using EvenThimble.Core.Jobs;
using EvenThimble.Core.Planning;
using EvenThimble.Core.Stitches;

namespace EvenThimble.Core.Hoopings;

/// <summary>Small crosses that two hoopings sew at the same spot of the cloth, so that one sees whether they meet.</summary>
public static class RegistrationCrosses
{
    /// <summary>From one end of a cross to the other, mm.</summary>
    public const double SizeMm = 8;

    // Off the stitches, so that it is easily picked out.
    private const double Beside = 3;
    private const double GridMm = 2;

    /// <summary>The spots that are sewn: those that were chosen, or two for each seam where both hoopings reach, beside the stitches, far from each other.</summary>
    /// <param name="wish">What is wanted.</param>
    /// <param name="plan">The plan.</param>
    /// <param name="places">The fields, in order.</param>
    /// <param name="seamOf">The seam of an earlier hooping and a later one; null: they have none.</param>
    internal static ImmutableArray<Point> SpotsOf(CrossWish wish, SewingPlan plan, IReadOnlyList<PlacedField> places, Func<int, int, ImmutableArray<Point>?> seamOf)
    {
        if (!wish.Spots.IsEmpty) return wish.Spots;
        var spots = new List<Point>();
        for (var later = 1; later < places.Count; later++)
        {
            // Aligned with the earlier hooping that it shares most with.
            var earlier = Enumerable.Range(0, later).MaxBy(e => Shared(places[e], places[later]) is var s && s.IsEmpty ? -1 : s.Width * s.Height);
            foreach (var spot in Proposed(plan, places[earlier], places[later], seamOf(earlier, later) is { } seam ? seam[0].Toward(seam[^1], 0.5) : places[earlier].Centre.Toward(places[later].Centre, 0.5)))
                if (spots.TrueForAll(s => s.DistanceTo(spot) > SizeMm))
                    spots.Add(spot);
        }

        return [.. spots];
    }

    /// <summary>Whether a field can sew a cross.</summary>
    public static bool Takes(PlacedField place, Point spot) => place.Holds(Box.Around([spot]).Grown(SizeMm / 2));

    /// <summary>The needle points of a cross, a long stitch from the middle to each end, and the leap between its two lines.</summary>
    public static void Sew(StitchBuilder builder, Point spot)
    {
        const double arm = SizeMm / 2;
        Point[] ends = [new(-arm, 0), new(arm, 0), new(0, -arm), new(0, arm)];
        for (var line = 0; line < 2; line++)
        {
            builder.Jump(spot + ends[2 * line]);
            builder.Stitch(spot + ends[2 * line]);
            builder.Stitch(spot);
            builder.Stitch(spot + ends[(2 * line) + 1]);
        }

        builder.Trim();
    }

    /// <summary>Two spots in what both fields reach: the two that lie farthest apart of those near the seam that are free; where none is free, those with the fewest stitches.</summary>
    private static IEnumerable<Point> Proposed(SewingPlan plan, PlacedField a, PlacedField b, Point middle)
    {
        var shared = Shared(a, b);
        if (shared.IsEmpty || shared.Width < SizeMm || shared.Height < SizeMm) return [];
        var inside = shared.Grown(-SizeMm / 2);
        var (columns, rows) = ((int)(inside.Width / GridMm) + 1, (int)(inside.Height / GridMm) + 1);
        var stitches = new int[columns, rows];
        var records = plan.Records;
        for (var i = 0; i < records.Count; i++)
        {
            if (records.Kinds[i] != StitchKind.Stitch || !inside.Grown(SizeMm).Holds(records.At(i))) continue;
            var (from, to) = (Portions.GoesOn(records, i) ? records.At(i - 1) : records.At(i), records.At(i));
            for (var s = 0; s <= (int)(from.DistanceTo(to) / GridMm); s++)
            {
                var p = from.Toward(to, s * GridMm / Math.Max(from.DistanceTo(to), GridMm));
                var reach = (int)Math.Ceiling(((SizeMm / 2) + Beside) / GridMm);
                var (column, row) = ((int)Math.Round((p.X - inside.MinX) / GridMm), (int)Math.Round((p.Y - inside.MinY) / GridMm));
                for (var c = Math.Max(0, column - reach); c <= Math.Min(columns - 1, column + reach); c++)
                    for (var r = Math.Max(0, row - reach); r <= Math.Min(rows - 1, row + reach); r++)
                        stitches[c, r]++;
            }
        }

        // Far apart along the seam turns are seen best; off the middle line the farther hooping reaches less.
        var across = (b.Centre - a.Centre).Unit();
        var spots = (from c in Enumerable.Range(0, columns)
                     from r in Enumerable.Range(0, rows)
                     let p = new Point(inside.MinX + (c * GridMm), inside.MinY + (r * GridMm))
                     where Takes(a, p) && Takes(b, p)
                     let along = (p - middle).Dot(across.Normal())
                     select (p, stitches: stitches[c, r], along, off: Math.Abs((p - middle).Dot(across)))).ToList();
        if (spots.Count == 0) return [];
        var fewest = spots.Min(s => s.stitches);
        var free = spots.Where(s => s.stitches <= fewest).ToList();
        return new[] { free.MinBy(s => s.along + s.off), free.MaxBy(s => s.along - s.off) }.Select(s => s.p).Distinct();
    }

    private static Box Shared(PlacedField a, PlacedField b) => a.Inner.Meets(b.Inner)
        ? new(Math.Max(a.Inner.MinX, b.Inner.MinX), Math.Max(a.Inner.MinY, b.Inner.MinY), Math.Min(a.Inner.MaxX, b.Inner.MaxX), Math.Min(a.Inner.MaxY, b.Inner.MaxY))
        : Box.Empty;
}
