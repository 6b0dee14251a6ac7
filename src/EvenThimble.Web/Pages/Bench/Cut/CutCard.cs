using System.Collections.Immutable;
using EvenThimble.Core.Craft;
using EvenThimble.Core.Cutting;
using EvenThimble.Core.Jobs;
using EvenThimble.Core.Stitches;
using EvenThimble.Web.Workroom;

namespace EvenThimble.Web.Pages.Bench;

/// <summary>What the Cut card shows: roles that parts seem to have, the lines that are cut with what is set of them, and what was found.</summary>
/// <param name="Bench">The bench.</param>
/// <param name="Cut">What the job's cutting comes to.</param>
public sealed record CutCard(BenchView Bench, CutJob Cut)
{
    /// <summary>What parts without a role seem to be for.</summary>
    public ImmutableArray<SuggestedRole> Suggested { get; private init; } = [];

    /// <summary>Parts whose lines are likely to be cut: those that lay or hold cloth, those that are cut already and what is selected.</summary>
    public IReadOnlyList<Part> Likely =>
    [
        .. Bench.Job.Order.Where(p => p.Role is PartRole.PlacementLine or PartRole.TackDown or PartRole.CutLine || Bench.Job.Cutting.Parts.Contains(p.Id) || Bench.IsSelected(p)),
    ];

    /// <summary>Selected shapes and letters that an appliqué can be made of.</summary>
    public IReadOnlyList<Part> Shapes => [.. Bench.SelectedDrawn.Where(p => p is { Drawn.Shape.IsClosed: true, Role: PartRole.Decoration or PartRole.Lettering })];

    /// <summary>How the job asks for the allowance that is usual.</summary>
    public double UsualAllowanceMm => Bench.Job.Cloth.Profile.CutAllowanceMm;

    /// <summary>The card of a bench.</summary>
    public static CutCard Of(BenchView bench) => new(bench, bench.Get<CutDesk>().Of(bench.Open)) { Suggested = bench.Get<CutDesk>().SuggestedFor(bench.Open) };

    /// <summary>In words a way to hold cloth.</summary>
    public static string InWords(TackDownWay way) => way switch { TackDownWay.Zigzag => "a zigzag", TackDownWay.TripleRun => "a triple run", _ => "a single run" };

    /// <summary>Width of a cover unless another is typed, mm.</summary>
    public static double UsualCoverMm => new AppliqueWish().CoverMm;
}
