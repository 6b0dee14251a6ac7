using System.Collections.Immutable;
using System.Globalization;
using EvenThimble.Core.Geometry;
using EvenThimble.Core.Jobs;
using EvenThimble.Core.Planning;
using EvenThimble.Core.Planning.Ordering;
using EvenThimble.Core.Planning.Splitting;
using EvenThimble.Core.Recognition;
using EvenThimble.Core.Respacing;
using EvenThimble.Core.Stitches;
using EvenThimble.Core.Text;
using EvenThimble.Rendering;
using Microsoft.AspNetCore.Mvc;

namespace EvenThimble.Web.Pages;

/// <summary>Changing what others made: taking apart and putting together, sizes, spacing, and what is covered.</summary>
public sealed partial class BenchModel
{
    /// <summary>What was read in a selected part that came as stitches, before and after what is done to it.</summary>
    public sealed record ReadPart(Part Part, string Kind, string Sure, int Before, int After, double SpacingBefore, double SpacingAfter, ImmutableArray<ResizeWarning> Warnings);

    private Box? _footprint;

    /// <summary>The rectangle about what is selected, or about everything, as it came and at its size: exactly what sizes are reckoned by.</summary>
    public Box Footprint => _footprint ??= PartStitches.BoundsOf(Selected.Count > 0 ? Selected : Open.Job.Order, desk.Stitches);

    /// <summary>The size that everything selected has in common, or null.</summary>
    public Sizing? CommonSize => (Selected.Count > 0 ? Selected : Open.Job.Order).Select(p => p.Placement.Size).Distinct().ToList() is [var one] ? one : null;

    /// <summary>The selected parts that came as stitches.</summary>
    public IReadOnlyList<Part> SelectedBought => [.. Selected.Where(p => p.Drawn is null)];

    /// <summary>What was read in the selected parts that came as stitches.</summary>
    public IReadOnlyList<ReadPart> Readings => [.. SelectedBought.Select(Reading)];

    /// <summary>Everything to be warned of at the sizes of what is selected.</summary>
    public IReadOnlyList<(Part Part, ResizeWarning Warning)> SizeWarnings =>
    [
        .. Selected.Take(40).SelectMany(p => (p.Drawn is not null ? ResizeWarning.ForShape(p.Placement.Size) : Reading(p).Warnings).Select(w => (p, w))),
    ];

    /// <summary>What has to change before the selected parts can be joined; null when there are not two.</summary>
    public JoinNeeds? JoinNeeds => SelectedBought.Count < 2 || SelectedBought.Count != Selected.Count ? null : Core.Planning.Ordering.JoinNeeds.Of(Open.Job, ChosenIds(), Open.Overlaps);

    /// <summary>The record of the plan that lies nearest to a place in a part, to be shown.</summary>
    public int RecordNear(PartId id, Point at)
    {
        var part = Open.Plan.Parts.First(p => p.Id == id);
        return part.Count == 0 ? 0 : Enumerable.Range(part.First, part.Count).MinBy(i => Open.Plan.Records.At(i).DistanceTo(at));
    }

    private ReadPart Reading(Part part)
    {
        var slices = part.Slices.Zip(desk.Read(part)).ToList();
        var planned = Open.Plan.Parts.First(p => p.Id == part.Id);
        var before = slices.Sum(s => s.Second.Stitches.CountOf(StitchKind.Stitch));
        var kinds = slices.Select(s => s.Second.Kind).Distinct().ToList();
        var sure = slices.Sum(s => s.Second.Confidence * s.Second.Stitches.Count) / Math.Max(1, slices.Sum(s => s.Second.Stitches.Count));
        var spacing = slices.Select(s => s.Second.SpacingMm).FirstOrDefault(s => s > 0);
        var (slice, _) = slices[0];
        var size = slice.In(part.Placement).Size;
        var after = slice.Rework.Mode == ResizeMode.Stretch ? spacing * size.OfLength : spacing * (slice.Rework.SpacingTimes ?? 1);
        return new(
            part, kinds is [{ } kind] ? InWords(kind) : "mixed", sure >= 0.85 ? "sure" : sure >= Passage.Sure ? "fairly sure" : "not sure: kept as plain stitches",
            before, StitchesOf(Open.Plan, planned), spacing, after,
            [.. slices.SelectMany(s => ResizeWarning.For(s.Second, s.First.In(part.Placement).Size, s.First.Rework).Select(w => w with { At = w.At is { } at ? s.First.In(part.Placement).Unsized.Place(at) : null })).DistinctBy(w => w.Says)]);
    }

    private static string InWords(PassageKind kind) => kind switch { PassageKind.Satin => "satin", PassageKind.Fill => "fill", PassageKind.TripleRun => "triple run", PassageKind.Tie => "ties", _ => "run" };

    /// <summary>Cuts at a record of the plan.</summary>
    public IActionResult OnPostCut(int record) => Edit(() => Splitter.AtNeedle(Open.Job, Open.Plan, record - 1, desk.Stitches));

    /// <summary>Takes the selected parts apart: "jumps" or "stretches".</summary>
    public IActionResult OnPostSplit(string? how) => Edit(() =>
    {
        var chosen = Selected;
        if (chosen.Count == 0) throw new EditRefusedException("Nothing is selected. Choose the part that is to be taken apart.");
        SplitPart Split(Job job, PartId id) => how == "stretches" ? Splitter.ByStretches(job, id, desk.Stitches) : Splitter.AtJumps(job, id, desk.Stitches);
        if (chosen.Count == 1) return Split(Open.Job, chosen[0].Id);
        var (edits, job, refused) = (ImmutableArray.CreateBuilder<JobEdit>(), Open.Job, default(EditRefusedException));
        foreach (var part in chosen)
        {
            try
            {
                edits.Add(Split(job, part.Id));
                job = edits[^1].Apply(job);
            }
            catch (EditRefusedException e)
            {
                refused = e;
            }
        }

        return edits.Count == 0 ? throw refused! : new EditsTogether($"Split {edits.Count} parts into {edits.Count + job.Order.Count - Open.Job.Order.Count} {(how == "stretches" ? "by stretches that hang together" : "at their jumps")}", edits.ToImmutable());
    });

    /// <summary>Takes what lies inside a line drawn on the cloth out of the selected part.</summary>
    public IActionResult OnPostLasso(string? points) => Edit(() => Selected.Count switch
    {
        0 => throw new EditRefusedException("Choose the part first, then draw a line around what should become a part of its own."),
        1 => Splitter.ByLasso(Open.Job, Selected[0].Id, Places(points), desk.Stitches),
        _ => Lassoed(Places(points)),
    });

    private EditsTogether Lassoed(List<Point> lasso)
    {
        var edits = ImmutableArray.CreateBuilder<JobEdit>();
        foreach (var part in Selected)
        {
            try
            {
                edits.Add(Splitter.ByLasso(Open.Job, part.Id, lasso, desk.Stitches));
            }
            catch (EditRefusedException)
            {
                // Of several parts some may lie wholly inside or outside.
            }
        }

        return edits.Count == 0 ? throw new EditRefusedException("None of the selected parts lies partly inside that line.") : new($"Split {edits.Count} parts around what you drew", edits.ToImmutable());
    }

    /// <summary>Joins the selected parts; with leave, they get one thread and come together first.</summary>
    public IActionResult OnPostJoin(bool together, bool oneThread) => Edit(() =>
        new JoinParts(ChosenIds(), oneThread && Selected.Count > 0 ? Selected[0].Thread : null, together));

    /// <summary>Changes size, spacing and the like as typed.</summary>
    public IActionResult OnPostRework(string? field, string? value, bool free) => Edit(() => Reworking(field ?? string.Empty, value, free));

    /// <summary>The plan with such a change; nothing is stored.</summary>
    public IActionResult OnPostTryRework(string? field, string? value, bool free) => Tried(() => Reworking(field ?? string.Empty, value, free));

    /// <summary>Makes the selection, or everything, so many times as wide and high about a place.</summary>
    public IActionResult OnPostScale(double across, double down, double x, double y) => Edit(() => new ResizeParts(ChosenOrAll(), across, down, new(x, y)));

    /// <summary>Leans the selection, or everything, about its middle.</summary>
    public IActionResult OnPostLean(string? degrees) => Edit(() => new LeanParts(ChosenOrAll(), Degrees(degrees), Footprint.Middle));

    private JobEdit Reworking(string field, string? value, bool free)
    {
        var text = value?.Trim() ?? string.Empty;
        return field switch
        {
            "width" or "height" or "percent" => Sized(field, text, free),
            "mode" => new ChooseResizeMode(BoughtIds(), text == "stretch" ? ResizeMode.Stretch : ResizeMode.Respace),
            "lighter" => new ChangeSpacing(BoughtIds(), text.Length == 0 ? null : Percent(text) / 100),
            "underlay" => new LeaveOutUnderlay(BoughtIds(), text == "out"),
            "short" => new LeaveOutShort(BoughtIds(), text.Length == 0 ? 0 : Typed(text)),
            "seen" => new SewOnlySeen(text == "only"),
            "whole" => new KeepWhole(ChosenIds(), text == "whole"),
            _ => throw new EditRefusedException("That is nothing that can be changed here."),
        };
    }

    /// <summary>A size as typed: a length, or a part of what it was when it came.</summary>
    private ResizeParts Sized(string field, string text, bool free)
    {
        var box = Footprint;
        if (box.IsEmpty) throw new EditRefusedException("There is nothing to make larger or smaller.");
        var now = CommonSize ?? Sizing.Original;
        var isPercent = field == "percent" || text.EndsWith('%');
        double Times(double length, double times) => isPercent ? Percent(text) / 100 / times : length < 1e-6 ? 1 : Typed(text) / length;
        var (across, down) = field == "height" ? (1.0, Times(box.Height, now.Down)) : (Times(box.Width, now.Across), 1.0);
        if (field == "percent" && !now.IsEven) down = Percent(text) / 100 / now.Down;
        else if (!free || field == "percent") (across, down) = field == "height" ? (down, down) : (across, across);
        return new(ChosenOrAll(), across, down, box.Middle);
    }

    private HashSet<PartId> BoughtIds()
    {
        var ids = (Selected.Count > 0 ? Selected : Open.Job.Order).Where(p => p.Drawn is null).Select(p => p.Id).ToHashSet();
        return ids.Count > 0 ? ids : throw new EditRefusedException("What is selected was drawn here; set its stitches above.");
    }

    private static double Percent(string text) =>
        double.TryParse(text.TrimEnd('%', ' ').Replace(',', '.'), NumberStyles.Float, CultureInfo.InvariantCulture, out var percent) && double.IsFinite(percent) ? percent : throw new EditRefusedException("That is not a percentage. Type a number such as 80.");

    private static double Degrees(string? text) =>
        double.TryParse(text?.Trim().TrimEnd('°').Replace(',', '.'), NumberStyles.Float, CultureInfo.InvariantCulture, out var by) ? by : throw new EditRefusedException("That is not an angle. Type degrees, such as 15 or -90.");

    /// <summary>The lines of thread that are left out because later parts hide them, in hundredths of a millimetre: x, y, x, y … for each.</summary>
    public IActionResult OnGetGone()
    {
        var whole = desk.Whole(Open.Job, HttpContext.RequestAborted);
        var covered = Covering.Apply(Open.Job, whole, HttpContext.RequestAborted);
        return new JsonResult(new
        {
            lines = covered.Gone.Select(g => g.Line.SelectMany(p => new[] { (int)Math.Round(p.X * 100), (int)Math.Round(p.Y * 100) })),
            metres = Math.Round(covered.GoneMm / 1000, 1),
            stitches = whole.StitchCount - covered.Plan.StitchCount,
        });
    }

    private IActionResult Tried(Func<JobEdit> edit)
    {
        try
        {
            if (Version != Open.Stored.Version) return StatusCode(StatusCodes.Status409Conflict);
            var plan = desk.Try(edit().Apply(Open.Job), HttpContext.RequestAborted);
            return Request.Form["show"] == "density" ? File(DensityPainter.Picture(DensityMap.Of(plan)), "image/png") : File(PlanStream.Write(plan), "application/octet-stream");
        }
        catch (OperationCanceledException) when (HttpContext.RequestAborted.IsCancellationRequested)
        {
            return new EmptyResult();
        }
        catch (EditRefusedException e)
        {
            return StatusCode(StatusCodes.Status422UnprocessableEntity, e.Message);
        }
    }
}
