using System.Collections.Immutable;
using System.Globalization;
using EvenThimble.Core.Geometry;
using EvenThimble.Core.Jobs;
using EvenThimble.Core.Planning.Ordering;
using EvenThimble.Core.Stitches;
using EvenThimble.Core.Text;
using EvenThimble.Core.Threads;
using EvenThimble.Storage;
using Microsoft.AspNetCore.Mvc;

namespace EvenThimble.Web.Pages;

/// <summary>Copies, designs brought in from the shelf, and an order with fewer thread changes.</summary>
public sealed partial class BenchModel
{
    /// <summary>Copies are laid this far aside, so that they can be seen, mm.</summary>
    private const double Aside = 5;

    /// <summary>Threads that look at most this different (CIEDE2000) are offered as the same; the user agrees or not.</summary>
    private const double LooksAlike = 8;

    /// <summary>Up to this difference they are ticked from the start.</summary>
    public const double LooksTheSame = 4;

    /// <summary>A thread of a design that looks like one of the job's.</summary>
    public sealed record SameThread(SewingThread Theirs, SewingThread Ours, double Difference)
    {
        /// <summary>Names the pair in a form.</summary>
        public string Key => $"{Theirs.Maker}|{Theirs.Number}";
    }

    /// <summary>Designs that are about to be brought in.</summary>
    public IReadOnlyList<DesignCard> Bringing { get; private set; } = [];

    /// <summary>Threads of theirs that look like threads of the job.</summary>
    public IReadOnlyList<SameThread> SameThreads { get; private set; } = [];

    /// <summary>The order that is proposed, and which parts stay where they are.</summary>
    public (NewOrder Order, IReadOnlySet<PartId> Staying)? Fewer { get; private set; }

    /// <summary>The designs of the shelf.</summary>
    public IReadOnlyList<DesignCard> ShelfDesigns => designs.All();

    public IActionResult OnPostDuplicate() => Edit(() => AddCopies.Of(Open.Job, ChosenIds(), Aside, Aside, $"Duplicated {(Selected.Count == 1 ? Selected[0].Name : $"{Selected.Count} parts")}"));

    /// <summary>Puts copies of parts of this or another job in.</summary>
    public IActionResult OnPostPaste(long from, string? copied, int times) => Edit(() =>
    {
        var source = from == Id ? Open.Job : desk.Find(from)?.Job ?? throw new EditRefusedException("The job that was copied from is no longer there.");
        var ids = Ids(copied);
        var parts = source.Order.Where(p => ids.Contains(p.Id)).ToImmutableArray();
        if (parts.IsEmpty) throw new EditRefusedException("Nothing is copied, or it is no longer where it was. Select parts and press Ctrl+C first.");
        var by = from == Id ? Aside * Math.Clamp(times, 1, 100) : 0;
        return new AddCopies([[.. parts.Select(p => p with { Id = from == Id ? p.Id : default, Placement = p.Placement.Shifted(by, by) })]], source.Pieces, $"Pasted {(parts.Length == 1 ? parts[0].Name : $"{parts.Length} parts")}{(from == Id ? string.Empty : $" from {source.Title}")}");
    });

    /// <summary>Makes a row of the selection: so many in all, each so far from the one before (as typed; empty: side by side).</summary>
    public IActionResult OnPostRow(int count, string? across, string? down) => Edit(() =>
    {
        double Step(string? typed, double usual) => string.IsNullOrWhiteSpace(typed) ? usual : Typed(typed);
        var isDefault = string.IsNullOrWhiteSpace(across) && string.IsNullOrWhiteSpace(down);
        return AddCopies.Row(Open.Job, ChosenIds(), count, Step(across, isDefault ? SelectedBounds.Width + Aside : 0), Step(down, 0));
    });

    /// <summary>Makes a ring of the selection about the hoop's centre, or about a place a radius below it.</summary>
    public IActionResult OnPostRing(int count, string? radius, bool turned) => Edit(() =>
    {
        if (Selected.Count == 0) throw new EditRefusedException("Nothing is selected. Choose a part on the cloth or on the sewing line first.");
        var middle = SelectedBounds.Middle;
        var centre = string.IsNullOrWhiteSpace(radius) ? Point.Zero : new Point(middle.X, middle.Y + Typed(radius));
        if (centre.DistanceTo(middle) < 1) throw new EditRefusedException("What is selected lies on the centre itself. Type a radius, or move it away from the centre first.");
        return AddCopies.Ring(Open.Job, ChosenIds(), count, centre, middle, turned);
    });

    /// <summary>Spaces the selected pieces evenly.</summary>
    public IActionResult OnPostSpace(bool across) => Edit(() => new SpaceEvenly([.. Groups().Select(g => ((IReadOnlySet<PartId>)g, Open.Plan.BoundsOf(g)))], across));

    /// <summary>What moves together: pieces; parts of one piece each by itself.</summary>
    private List<HashSet<PartId>> Groups()
    {
        var groups = Selected.GroupBy(p => p.Piece).Select(g => g.Select(p => p.Id).ToHashSet()).ToList();
        return groups.Count == 1 && Selected.Count > 1 ? [.. Selected.Select(p => new HashSet<PartId> { p.Id })] : groups;
    }

    /// <summary>Asks about the designs that were chosen: which threads are the same.</summary>
    public IActionResult OnGetBringing(long[] design)
    {
        Task = "add";
        LookAt(design);
        return Partial("_Bringing", this);
    }

    /// <summary>Loads designs and finds which of their threads look like the job's.</summary>
    private List<(long Id, StitchFile File)> LookAt(long[] design)
    {
        Bringing = [.. design.Distinct().Take(20).Select(designs.Find).OfType<DesignCard>()];
        var loaded = Bringing.Select(d => (d.Id, File: designs.Load(d.Id, blobs)!)).Where(d => d.File is not null).ToList();
        var theirs = loaded.SelectMany(d => d.File.Parts.Select(p => p.Thread)).Distinct();
        var ours = Open.Job.Order.Select(p => p.Thread).Distinct().ToList();
        SameThreads =
        [
            .. theirs.Where(t => !ours.Contains(t) && ours.Count > 0)
                .Select(t => (Theirs: t, Best: ThreadSearch.ByLook(ours, t.Colour, 1)[0]))
                .Where(t => t.Best.Difference <= LooksAlike)
                .Select(t => new SameThread(t.Theirs, t.Best.Thread, t.Best.Difference ?? 0)),
        ];
        return loaded;
    }

    /// <summary>Brings designs in, about a place where one was dropped; the threads agreed to be the same are sewn with the job's own.</summary>
    public IActionResult OnPostBringDesigns(long[] design, string[]? same, double? x, double? y) => Edit(() =>
    {
        var loaded = LookAt(design);
        var agreed = (same ?? []).ToHashSet();
        var at = x is { } px && y is { } py && double.IsFinite(px) && double.IsFinite(py) && Math.Abs(px) + Math.Abs(py) < ShiftParts.FarthestMm ? new Point(px, py) : (Point?)null;
        var brought = loaded
            .Select((d, i) => new BroughtDesign(d.Id, d.File, at is { } place ? new(place.X + (i * Aside), place.Y + (i * Aside)) : Point.Zero)).ToImmutableArray();
        if (brought.IsEmpty) throw new EditRefusedException("Choose a design of the shelf first.");
        return new BringDesigns(brought, SameThreads.Where(t => agreed.Contains(t.Key)).ToImmutableDictionary(t => t.Theirs, t => t.Ours));
    });

    /// <summary>Proposes an order with fewer thread changes.</summary>
    public IActionResult OnGetFewer(int[] staying)
    {
        Fewer = FewerFor(staying);
        return Partial("_Fewer", this);
    }

    public IActionResult OnPostFewer(int[] staying) => Edit(() =>
    {
        var (found, _) = FewerFor(staying);
        return found.After < found.Before
            ? new Reorder(found.Order, $"Fewer thread changes: {found.Before} became {found.After}")
            : throw new EditRefusedException($"There is no order with fewer than {found.Before} thread changes in which nothing comes to lie under what it covers.");
    });

    private (NewOrder Order, IReadOnlySet<PartId> Staying) FewerFor(int[] staying)
    {
        var stay = staying.Select(id => new PartId(id)).ToHashSet();

        // What is left out now may be sewn again later, so the order is that of everything.
        var whole = Open.Job.SewsOnlySeen ? desk.Whole(Open.Job, HttpContext.RequestAborted) : Open.Plan;
        return (FewerChanges.Find(Open.Job, whole, ReferenceEquals(whole, Open.Plan) ? Open.Overlaps : Overlaps.Of(whole), stay), stay);
    }

    private static HashSet<PartId> Ids(string? ids) =>
        [.. (ids ?? string.Empty).Split(',', StringSplitOptions.RemoveEmptyEntries).Select(p => int.TryParse(p, NumberStyles.None, CultureInfo.InvariantCulture, out var id) ? new PartId(id) : default).Where(id => id.Value > 0)];
}
