using System.Collections.Immutable;
using System.Globalization;
using EvenThimble.Core.Craft;
using EvenThimble.Core.Geometry;
using EvenThimble.Core.Jobs;
using EvenThimble.Core.Planning;
using EvenThimble.Core.Recognition;
using EvenThimble.Core.Stitches;
using EvenThimble.Core.Text;
using EvenThimble.Web.Workroom;
using Microsoft.AspNetCore.Mvc;

namespace EvenThimble.Web.Pages.Bench;

/// <summary>How parts are stitched: settings of drawn shapes, what is done to bought stitches, and what is left out because it is covered.</summary>
public sealed class StitchTask : BenchTask
{
    private sealed record SettingForm(string? Field, string? Value);

    private sealed record RowsForm(int Part, double Angle);

    private sealed record SuitForm(string? Value);

    private sealed record EndForm(int Part, string? Field, double X, double Y);

    public override string Id => "stitch";

    public override string Name => "Stitch";

    public override string Icon => "bi-grip-horizontal";

    public override char? Key => '3';

    public override string Says => "How it is stitched, and what is left out";

    public override object CardFor(BenchView bench) => new StitchCard(bench);

    public override IReadOnlyList<Command> Commands { get; } =
    [
        Command.Of<SettingForm>("restitch", "Change how shapes are stitched", (bench, form) => new Restitch(Drawn(bench), [TypedSetting.Of(form.Field, form.Value, bench.Look.Unit)])) with { Previews = true },
        Command.Of("free-ends", "Leave start and end free", bench => new Restitch(Drawn(bench), [new("start", null, s => s with { Start = null }), new("end", null, s => s with { End = null })])),

        // The angle as it lies on the cloth; the shape's own is without its turn.
        Command.Of<RowsForm>("rows", "Turn the rows", (bench, form) =>
        {
            if (bench.Job.Order.Find(new(form.Part)) is not { Drawn: not null, Placement: var place } || !double.IsFinite(form.Angle)) throw new EditRefusedException("That shape is no longer in this job.");
            var own = Math.Round(Turn.Normalised(place.Mirrored ? place.TurnDegrees - form.Angle : form.Angle - place.TurnDegrees) % 180, 1);
            return new Restitch(new HashSet<PartId> { new(form.Part) }, [new("angle", own.ToString(CultureInfo.InvariantCulture), s => SettingRange.Angle.With(s, own))]);
        }) with { Previews = true },
        Command.Of<EndForm>("from", "Choose where stitches start or end", (bench, form) =>
        {
            if (bench.Job.Order.Find(new(form.Part)) is not { Drawn: not null } part) throw new EditRefusedException("That shape is no longer in this job.");
            var at = part.Placement.Unplace(new(form.X, form.Y)) is var p ? new Point(Math.Round(p.X, 3), Math.Round(p.Y, 3)) : default;
            if (!(Math.Abs(at.X) <= ShiftParts.FarthestMm && Math.Abs(at.Y) <= ShiftParts.FarthestMm)) throw new EditRefusedException("That is no place on the cloth.");
            var shown = string.Create(CultureInfo.InvariantCulture, $"{at.X} {at.Y}");
            return new Restitch(new HashSet<PartId> { part.Id }, [form.Field == "end" ? new("end", shown, s => s with { End = at }) : new("start", shown, s => s with { Start = at })]);
        }),
        Command.Of<SuitForm>("suit", "Suit to a cloth", (bench, form) => Suited(bench, form.Value)) with { Previews = true },
        Command.Of<SettingForm>("rework", "Change bought stitches", Reworked) with { Previews = true },
    ];

    public override IReadOnlyList<ScreenKey> ScreenKeys { get; } =
    [
        new("y", "lighter or heavier", KeySection.ApartTogetherLess, "press") { With = ["stitch", "#set-lighter"] },
        new("Shift+y", "short stitches", KeySection.ApartTogetherLess, "press") { With = ["stitch", "#set-short"] },
        new("r", "re-space or stretch", KeySection.ApartTogetherLess, "press") { With = ["stitch", "[data-field=\"mode\"][aria-checked=\"false\"]"] },
        new("u", "leave the underlay out", KeySection.ApartTogetherLess, "press") { With = ["stitch", "#underlay-out"] },
        new("v", "sew only what is seen", KeySection.ApartTogetherLess, "press") { With = ["stitch", "[data-field=\"seen\"][aria-checked=\"false\"]"] },
        new("Shift+v", "keep these whole", KeySection.ApartTogetherLess, "press") { With = ["stitch", "[data-field=\"whole\"]"] },
    ];

    public override IReadOnlyDictionary<string, Func<BenchView, PartRequest, Task<IActionResult>>> Parts { get; } = new Dictionary<string, Func<BenchView, PartRequest, Task<IActionResult>>>
    {
        ["gone"] = (bench, _) => Task.FromResult(Gone(bench)),
        ["stretches"] = (bench, request) => Task.FromResult(Stretches(bench, request.Http.Query["part"])),
    };

    private const string Told = "told:";

    private static HashSet<PartId> Drawn(BenchView bench)
    {
        var drawn = bench.SelectedDrawn.Select(p => p.Id).ToHashSet();
        return drawn.Count == 0
            ? throw new EditRefusedException(bench.Selected.Count == 0 ? "Nothing is selected. Choose a drawn shape first." : "What is selected came as plain stitches, so this cannot be set for it.")
            : drawn;
    }

    /// <summary>What is selected, or everything, at the spacing and underlay of a cloth.</summary>
    private static SuitToCloth Suited(BenchView bench, string? cloth)
    {
        var profile = bench.Cloths.Append(bench.Job.Cloth.Profile).FirstOrDefault(c => c.Id == cloth) ?? throw new EditRefusedException("That cloth is not known here.");
        var desk = bench.Get<JobDesk>();
        var readings = bench.SelectedOrAll.Where(p => p.Drawn is null).ToImmutableDictionary(
            p => p.Id, p => desk.Read(p).Select(r => new SliceReading(r.Confidence >= Passage.Sure ? r.SpacingMm : 0, r.MostIsSatin)).ToImmutableArray());
        return new(bench.ChosenOrAll(), profile, readings);
    }

    private static JobEdit Reworked(BenchView bench, SettingForm form)
    {
        var text = form.Value?.Trim() ?? string.Empty;
        return form.Field switch
        {
            "mode" => new ChooseResizeMode(Bought(bench), text == "stretch" ? ResizeMode.Stretch : ResizeMode.Respace),
            "lighter" => new ChangeSpacing(text.Length == 0 ? Bought(bench) : WithSpacing(bench), text.Length == 0 ? null : BenchView.Percent(text) / 100),
            "underlay" => new LeaveOutUnderlay(Bought(bench), text == "out"),
            "short" => new LeaveOutShort(Bought(bench), text.Length == 0 ? 0 : bench.Typed(text)),
            "seen" => new SewOnlySeen(text == "only"),
            { } field when field.StartsWith(Told, StringComparison.Ordinal) => Tell(bench, BoughtPassage.Named(field[Told.Length..]), text),
            "whole" => new KeepWhole(bench.ChosenIds(), text == "whole"),
            _ => throw new EditRefusedException("That is nothing that can be changed here."),
        };
    }

    private static TellReading Tell(BenchView bench, (int Slice, int First, int Last) passage, string readAs)
    {
        if (bench.SelectedBought is not [var part]) throw new EditRefusedException("Choose one part that came as stitches first.");
        ReadAs? told = readAs.Length == 0 ? null : Enum.TryParse<ReadAs>(readAs, out var known) && Enum.IsDefined(known) ? known : throw new EditRefusedException("That is nothing that stitches can be.");
        return new(part.Id, passage.Slice, passage.First, passage.Last, told);
    }

    private static HashSet<PartId> Bought(BenchView bench)
    {
        var ids = bench.SelectedOrAll.Where(p => p.Drawn is null).Select(p => p.Id).ToHashSet();
        return ids.Count > 0 ? ids : throw new EditRefusedException("What is selected was drawn here; set its stitches above.");
    }

    /// <summary>Of what came as stitches, the parts with rows or throws that were understood.</summary>
    private static HashSet<PartId> WithSpacing(BenchView bench)
    {
        var ids = Bought(bench);
        var readings = bench.Job.Order.Where(p => ids.Contains(p.Id)).Select(p => BoughtReading.Of(bench, p)).ToList();
        var spaced = readings.Where(r => r.HasSpacing).Select(r => r.Part.Id).ToHashSet();
        if (spaced.Count > 0) return spaced;
        throw new EditRefusedException(readings.Exists(r => r.IsUnknown)
            ? "How these stitches are laid was not understood, so they cannot be made lighter or heavier. They can be stretched."
            : "These are lines, which have no spacing.");
    }

    /// <summary>The stretches of a part that came as stitches, each by its name as a line in hundredths of a millimetre: x, y, x, y …</summary>
    private static IActionResult Stretches(BenchView bench, string? part)
    {
        const int perMm = 100;
        var stitches = bench.Get<JobDesk>().Stitches;
        return int.TryParse(part, NumberStyles.None, CultureInfo.InvariantCulture, out var id) && bench.Job.Order.Find(new(id)) is { Drawn: null } bought
            ? new JsonResult(BoughtPassage.Of(bench, bought).Shown.ToDictionary(p => p.Key, p => p.Line(bought, stitches).SelectMany(at => new[] { (int)Math.Round(at.X * perMm), (int)Math.Round(at.Y * perMm) })))
            : new NotFoundResult();
    }

    /// <summary>The lines of thread that are left out because later parts hide them, in hundredths of a millimetre: x, y, x, y … for each.</summary>
    private static IActionResult Gone(BenchView bench)
    {
        const int perMm = 100;
        var whole = bench.Get<JobDesk>().Whole(bench.Job);
        var covered = Covering.Apply(bench.Job, whole);
        return new JsonResult(new
        {
            lines = covered.Gone.Select(g => g.Line.SelectMany(p => new[] { (int)Math.Round(p.X * perMm), (int)Math.Round(p.Y * perMm) })),
            metres = Math.Round(covered.GoneMm / 1000, 1),
            stitches = whole.StitchCount - covered.Plan.StitchCount,
        });
    }
}
