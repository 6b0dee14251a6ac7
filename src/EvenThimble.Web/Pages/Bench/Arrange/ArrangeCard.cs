using EvenThimble.Core.Jobs;
using EvenThimble.Core.Planning.Ordering;
using EvenThimble.Core.Respacing;

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
}
