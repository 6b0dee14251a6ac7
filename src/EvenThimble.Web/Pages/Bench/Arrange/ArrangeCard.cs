using EvenThimble.Core.Jobs;
using EvenThimble.Core.Planning.Ordering;
using EvenThimble.Core.Respacing;
using EvenThimble.Core.Stitches;

namespace EvenThimble.Web.Pages.Bench;

/// <summary>What the Arrange card shows beside the bench itself.</summary>
public sealed record ArrangeCard(BenchView Bench)
{
    private const int MostWarned = 40;

    /// <summary>Everything to be warned of at the sizes of what is selected.</summary>
    public IReadOnlyList<(Part Part, ResizeWarning Warning)> SizeWarnings =>
        [.. Bench.Selected.Take(MostWarned).SelectMany(p => (p.Drawn is not null ? ResizeWarning.ForShape(p.Placement.Size) : BoughtReading.Of(Bench, p).Warnings).Select(w => (p, w)))];

    /// <summary>What has to change before the selected parts can be joined; null when there are not two.</summary>
    public JoinNeeds? JoinNeeds =>
        Bench.SelectedBought.Count < 2 || Bench.SelectedBought.Count != Bench.Selected.Count ? null : Core.Planning.Ordering.JoinNeeds.Of(Bench.Job, Bench.ChosenIds(), Bench.Open.Overlaps);

    /// <summary>The parts that close something made in the hoop, or cover an edge, with what they are called for that, and the one that is suggested to sew what is selected before.</summary>
    public (IReadOnlyDictionary<PartId, string> Names, PartId? Suggested) Closing
    {
        get
        {
            var closing = ClosingOutlines.Of(Bench.Job, Bench.Open.Plan).Where(c => !Bench.Selected.Any(p => p.Id == c.Id)).ToList();
            return (closing.ToDictionary(c => c.Id, c => c.Role == PartRole.Cover ? "cover" : "closing outline"), closing.LastOrDefault()?.Id);
        }
    }
}
