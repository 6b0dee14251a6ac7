using EvenThimble.Core.Craft;
using EvenThimble.Core.Geometry;
using EvenThimble.Core.Jobs;
using EvenThimble.Core.Readiness;

namespace EvenThimble.Web.Pages.Bench;

/// <summary>A piece of the bench's page that is rendered by itself.</summary>
/// <param name="Id">The id of its element.</param>
/// <param name="Partial">Its partial.</param>
/// <param name="Tells">All that its picture depends on; the same, the same picture.</param>
public sealed record BenchPiece(string Id, string Partial, Func<BenchView, object> Tells)
{
    /// <summary>Title, situation, history.</summary>
    public static readonly BenchPiece JobBar = new("job-bar", "_JobBar", b =>
        ((b.Job.Title, b.Job.Hoop, b.Open.Field), b.Job.Cloth.Profile.Name, b.Readiness, b.Open.Findings.Any(f => f.Level == FindingLevel.Trouble), b.Open.Findings.Any(f => f is { ConcernsTheHoop: true, Level: FindingLevel.Trouble }), b.Job.Hoopings.Length, (b.Open.Stored.CanUndo, b.Open.Stored.CanRedo, b.Open.Stored.Said)));

    /// <summary>The parts behind the sewing line.</summary>
    public static readonly BenchPiece LineParts = new("line-parts", "_LineParts", b =>
    {
        var all = new HashCode();
        foreach (var (part, planned) in b.Job.Order.Zip(b.Open.Plan.Parts))
            all.Add((part.Id, part.Piece, part.Name, part.Thread, part.Role, part.Drawn is null, (part.Hidden, part.Locked, planned.Count, BenchView.StitchesOf(b.Open.Plan, planned))));
        return (b.Job.Order.Count, all.ToHashCode());
    });

    /// <summary>Size and counts.</summary>
    public static readonly BenchPiece Readout = new("readout", "_Readout", b =>
        (Size(b.Open.Plan.Bounds), b.Open.Plan.StitchCount, b.Open.Plan.ThreadChanges, b.Open.Plan.Threads.Length, b.Look.Unit, Math.Round(b.Open.Estimate.Minutes)));

    /// <summary>Those that are sent only when they have changed; the card shows what was done and always comes.</summary>
    public static IReadOnlyList<BenchPiece> All { get; } = [JobBar, LineParts, Readout];

    /// <summary>A word for what it shows.</summary>
    public string TagOf(BenchView bench) => unchecked((uint)Tells(bench).GetHashCode()).ToString("x8", System.Globalization.CultureInfo.InvariantCulture);

    private static (double, double) Size(Box box) => (Math.Round(box.Width, 3), Math.Round(box.Height, 3));
}
