using System.Collections.Immutable;
using EvenThimble.Core.Jobs;
using EvenThimble.Core.Recognition;
using EvenThimble.Core.Respacing;
using EvenThimble.Core.Stitches;
using EvenThimble.Web.Workroom;

namespace EvenThimble.Web.Pages.Bench;

/// <summary>What was read in a part that came as stitches, before and after what is done to it. Spacings in mm.</summary>
public sealed record BoughtReading(Part Part, string Kind, string Sure, int Before, int After, double SpacingBefore, double SpacingAfter, ImmutableArray<ResizeWarning> Warnings)
{
    private const double QuiteSure = 0.85;
    private const string NotSure = "not sure: kept as plain stitches";

    /// <summary>The reading of a part of the bench's job.</summary>
    public static BoughtReading Of(BenchView bench, Part part)
    {
        var slices = part.Slices.Zip(bench.Get<JobDesk>().Read(part)).ToList();
        var planned = bench.Open.Plan.Parts.First(p => p.Id == part.Id);
        var before = slices.Sum(s => s.Second.Stitches.CountOf(StitchKind.Stitch));
        var kinds = slices.Select(s => s.Second.Kind).Distinct().ToList();
        var sure = slices.Sum(s => s.Second.Confidence * s.Second.Stitches.Count) / Math.Max(1, slices.Sum(s => s.Second.Stitches.Count));
        var spacing = slices.Select(s => s.Second.SpacingMm).FirstOrDefault(s => s > 0);
        var (slice, _) = slices[0];
        var size = slice.In(part.Placement).Size;
        var after = slice.Rework.Mode == ResizeMode.Stretch ? spacing * size.OfLength : spacing * (slice.Rework.SpacingTimes ?? 1);
        return new(
            part, kinds is [{ } kind] ? InWords(kind, slices.TrueForAll(s => s.Second.InRings)) : "mixed", sure >= QuiteSure ? "sure" : sure >= Passage.Sure ? "fairly sure" : NotSure,
            before, BenchView.StitchesOf(bench.Open.Plan, planned), spacing, after,
            [.. slices.SelectMany(s => ResizeWarning.For(s.Second, s.First.In(part.Placement).Size, s.First.Rework).Select(w => w with { At = w.At is { } at ? s.First.In(part.Placement).Unsized.Place(at) : null })).DistinctBy(w => w.Says)]);
    }

    /// <summary>Whether it has anything that can be made lighter or heavier: rows or throws that were understood.</summary>
    public bool HasSpacing => SpacingBefore > 0;

    /// <summary>Whether how it is laid was not understood.</summary>
    public bool IsUnknown => Sure == NotSure;

    private static string InWords(PassageKind kind, bool inRings) => kind switch { PassageKind.Satin => "satin", PassageKind.Fill => inRings ? "fill in rings" : "fill", PassageKind.TripleRun => "triple run", PassageKind.Tie => "ties", _ => "run" };
}
