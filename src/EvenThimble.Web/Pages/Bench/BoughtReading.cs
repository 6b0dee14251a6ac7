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
    internal const string Told = "told by you";
    private const string NotSure = "not sure: kept as plain stitches";

    /// <summary>The reading of a part of the bench's job.</summary>
    public static BoughtReading Of(BenchView bench, Part part)
    {
        var slices = part.Slices.Zip(bench.Get<JobDesk>().Read(part)).ToList();
        var planned = bench.Open.Plan.Parts.First(p => p.Id == part.Id);
        var before = slices.Sum(s => s.Second.Stitches.CountOf(StitchKind.Stitch));
        var kinds = slices.Select(s => s.Second.Kind).Distinct().ToList();
        var told = slices.SelectMany(s => s.Second.Passages).Where(p => p.Kind != PassageKind.Tie).Select(p => p.Told).Distinct().ToList();
        var sure = slices.Sum(s => s.Second.Confidence * s.Second.Stitches.Count) / Math.Max(1, slices.Sum(s => s.Second.Stitches.Count));
        var spacing = slices.Select(s => s.Second.SpacingMm).FirstOrDefault(s => s > 0);
        var (slice, _) = slices[0];
        var size = slice.In(part.Placement).Size;
        var after = slice.Rework.Mode == ResizeMode.Stretch ? spacing * size.OfLength : spacing * (slice.Rework.SpacingTimes ?? 1);
        return new(
            part, told is [{ } only] ? InWords(only) : kinds is [{ } kind] ? InWords(kind, slices.TrueForAll(s => s.Second.InRings)) : "mixed", told.Contains(null) ? SureInWords(sure) : Told,
            before, BenchView.StitchesOf(bench.Open.Plan, planned), spacing, after,
            [.. slices.SelectMany(s => ResizeWarning.For(s.Second, s.First.In(part.Placement).Size, s.First.Rework).Select(w => w with { At = w.At is { } at ? s.First.In(part.Placement).Unsized().Place(at) : null })).DistinctBy(w => w.Says)]);
    }

    /// <summary>Whether it has anything that can be made lighter or heavier: rows or throws that were understood.</summary>
    public bool HasSpacing => SpacingBefore > 0;

    /// <summary>Whether how it is laid was not understood.</summary>
    public bool IsUnknown => Sure == NotSure;

    /// <summary>How sure a reading is, in words.</summary>
    internal static string SureInWords(double sure) => sure >= QuiteSure ? "sure" : sure >= Passage.Sure ? "fairly sure" : NotSure;

    /// <summary>What a stretch was read as, in words.</summary>
    internal static string InWords(Passage p) => p switch
    {
        { IsDrawn: true } => "drawn stitch by stitch",
        { Kind: PassageKind.TripleRun, Fold: 5 } => "fivefold run",
        { Kind: PassageKind.TripleRun, Fold: 7 } => "sevenfold run",
        { Kind: PassageKind.Fill, Bent: true } => "fill, rows bend",
        { Kind: PassageKind.Run, SharesHoles: true } => "run, there and back",
        _ => InWords(p.Kind, p.InRings),
    };

    /// <summary>What the user told that stitches are, in words.</summary>
    internal static string InWords(ReadAs told) => told switch { ReadAs.Satin => "satin", ReadAs.Fill => "fill", ReadAs.Line => "line", _ => "left as it is" };

    private static string InWords(PassageKind kind, bool inRings) => kind switch { PassageKind.Satin => "satin", PassageKind.Fill => inRings ? "fill in rings" : "fill", PassageKind.TripleRun => "triple run", PassageKind.Tie => "ties", _ => "run" };
}
