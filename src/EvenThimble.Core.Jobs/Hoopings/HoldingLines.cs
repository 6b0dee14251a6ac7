using System.Collections.Immutable;
using EvenThimble.Core.Colour;
using EvenThimble.Core.Geometry;
using EvenThimble.Core.Jobs;
using EvenThimble.Core.Planning;
using EvenThimble.Core.Stitches;
using EvenThimble.Core.Threads;

namespace EvenThimble.Core.Hoopings;

/// <summary>What is sewn before a hooping's own stitches, to align, hold and mark the cloth: crosses, a basting line, the mark of the centre; and where the needle rests before and after.</summary>
internal static class HoldingLines
{
    private const double BastingStitch = 6;
    private const double AroundMm = 4;
    private const double InsideMm = 3;
    private const double MarkMm = 4;

    // Any thread that is well seen and not of the job: it is picked out again.
    private static readonly ImmutableArray<SewingThread> Strong =
        [.. new[] { 0xE8E4DA, 0x2B2B2B, 0xC2185B, 0x1B7F4B }.Select(c => new SewingThread(string.Empty, string.Empty, "any thread that is well seen", Rgb.FromInt(c)))];

    /// <summary>The thread for what is picked out again: that which stands out most from the cloth and the threads of the job.</summary>
    public static SewingThread ThreadFor(Job job) => Strong.MaxBy(t => job.Palette.Threads.Select(p => p.Colour).Append(job.Cloth.Colour).Min(c => ColourDifference.Ciede2000(Lab.From(t.Colour), Lab.From(c))))!;

    /// <summary>The plan of a hooping with all that was wished for.</summary>
    /// <param name="plan">Its own stitches.</param>
    /// <param name="job">The job.</param>
    /// <param name="place">Its field.</param>
    /// <param name="crosses">The crosses that it sews.</param>
    /// <param name="says">What the machine says before it begins; empty: it begins at once.</param>
    public static SewingPlan With(SewingPlan plan, Job job, PlacedField place, IReadOnlyList<Point> crosses, string says)
    {
        var holding = job.Holding;
        if (crosses.Count == 0 && holding == ClothHolding.None && says.Length == 0) return plan;
        var builder = new StitchBuilder(plan.Records.Count + 256);
        if (says.Length > 0) builder.Stop(says);
        var (thread, parts) = (ThreadFor(job), new List<PlannedPart>());
        if (RestAt(holding.Start, plan, place) is { } start) builder.Jump(start);
        Part("Registration cross", PartRole.RegistrationCross, crosses.Count > 0, () =>
        {
            foreach (var spot in crosses) RegistrationCrosses.Sew(builder, spot);
        });
        Part("Basting", PartRole.Basting, holding.Basting != Basting.None, () => Run(builder, [.. Along(holding.Basting, plan, place)]));
        Part("Mark of the centre", PartRole.RegistrationCross, holding.CentreMark, () =>
        {
            Run(builder, [place.Centre + new Point(-MarkMm / 2, 0), place.Centre, place.Centre + new Point(MarkMm / 2, 0)], trim: false);
            Run(builder, [place.Centre + new Point(0, -MarkMm / 2), place.Centre, place.Centre + new Point(0, MarkMm / 2)]);
        });
        var moved = builder.Count;
        builder.Append(plan.Records, 0, plan.Records.Count);
        if (RestAt(holding.End, plan, place) is { } end)
        {
            builder.DropTrailingJumps();
            ThreadEnds.Finish(builder);
            builder.Jump(end);
        }

        var blob = builder.ToBlob();
        var own = plan.Parts.Select(p => p with { First = p.First + moved }).ToList();
        if (parts.Count == 0 && own.Count > 0) own[0] = own[0] with { First = 0, Count = own[0].Count + moved };
        if (own.Count > 0) own[^1] = own[^1] with { Count = blob.Count - own[^1].First };
        return new(blob, [.. parts, .. own]);

        void Part(string name, PartRole role, bool wanted, Action sew)
        {
            if (!wanted) return;
            var first = parts.Count == 0 ? 0 : builder.Count;
            sew();
            if (builder.Count > first) parts.Add(new(default, name, thread, role, first, builder.Count - first, builder.ToBlob().BoundsOf(first, builder.Count - first)));
        }
    }

    /// <summary>A basting line as closed line, never nearer to the edge than the field allows.</summary>
    private static IEnumerable<Point> Along(Basting basting, SewingPlan plan, PlacedField place)
    {
        var inner = place.Inner.Grown(-0.5);
        var box = plan.Bounds.Grown(AroundMm);
        box = new(Math.Max(box.MinX, inner.MinX), Math.Max(box.MinY, inner.MinY), Math.Min(box.MaxX, inner.MaxX), Math.Min(box.MaxY, inner.MaxY));
        Point[] around = [new(box.MinX, box.MinY), new(box.MaxX, box.MinY), new(box.MaxX, box.MaxY), new(box.MinX, box.MaxY)];
        var line = basting == Basting.AroundTheJob && Array.TrueForAll(around, place.Holds) ? around : [.. place.Field.Edge(place.Field.Margin + InsideMm).Select(p => p + place.Centre)];
        for (var i = 0; i < line.Length; i++)
        {
            var (from, to) = (line[i], line[(i + 1) % line.Length]);
            var stitches = Math.Max(1, (int)Math.Ceiling(from.DistanceTo(to) / BastingStitch));
            for (var s = 0; s < stitches; s++) yield return from.Toward(to, s / (double)stitches);
        }

        yield return line[0];
    }

    private static void Run(StitchBuilder builder, IReadOnlyList<Point> points, bool trim = true)
    {
        builder.Jump(points[0]);
        foreach (var p in points) builder.Stitch(p);
        if (trim) builder.Trim();
    }

    private static Point? RestAt(NeedleRest rest, SewingPlan plan, PlacedField place) => rest switch
    {
        NeedleRest.Centre => place.Centre,
        NeedleRest.FarLeft => new(plan.Bounds.MinX, plan.Bounds.MinY),
        NeedleRest.FarRight => new(plan.Bounds.MaxX, plan.Bounds.MinY),
        NeedleRest.NearLeft => new(plan.Bounds.MinX, plan.Bounds.MaxY),
        NeedleRest.NearRight => new(plan.Bounds.MaxX, plan.Bounds.MaxY),
        _ => null,
    };
}
