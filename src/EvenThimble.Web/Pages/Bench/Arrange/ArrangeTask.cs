using System.Collections.Immutable;
using EvenThimble.Core.Geometry;
using EvenThimble.Core.Jobs;
using EvenThimble.Core.Planning.Ordering;
using EvenThimble.Core.Planning.Splitting;
using EvenThimble.Core.Stitches;
using EvenThimble.Core.Text;
using EvenThimble.Web.Workroom;

namespace EvenThimble.Web.Pages.Bench;

/// <summary>Placing, turning, sizing, ordering; taking apart and putting together; copies.</summary>
public sealed class ArrangeTask : BenchTask
{
    /// <summary>Copies are laid this far aside, so that they can be seen, mm.</summary>
    private const double Aside = 5;

    private sealed record ShiftForm(double Dx, double Dy);

    private sealed record PlaceForm(string? X, string? Y);

    private sealed record DegreesForm(string? Degrees);

    private sealed record IndexForm(int Index);

    private sealed record BeforeForm(int Before);

    private sealed record StepForm(bool Earlier);

    private sealed record HideForm(bool? Hidden, int? Only);

    private sealed record LockForm(bool? Locked, int? Only);

    private sealed record NameForm(string? Name);

    private sealed record RoleForm(string? Role);

    private sealed record SidesForm(bool UpsideDown);

    private sealed record AlignForm(Alignment Where);

    private sealed record AcrossForm(bool Across);

    private sealed record ScaleForm(double Across, double Down, double X, double Y);

    private sealed record SizeForm(string? Field, string? Value, bool Free);

    private sealed record CutForm(int Record);

    private sealed record SplitForm(string? How);

    private sealed record LassoForm(string? Points);

    private sealed record JoinForm(bool Together, bool OneThread);

    private sealed record PasteForm(long From, string? Copied, int Times);

    private sealed record RowForm(int Count, string? Across, string? Down);

    private sealed record RingForm(int Count, string? Radius, bool Turned);

    public override string Id => "arrange";

    public override string Name => "Arrange";

    public override string Icon => "bi-arrows-move";

    public override char? Key => '2';

    public override string Says => "Place, turn and order parts";

    public override object CardFor(BenchView bench) => new ArrangeCard(bench);

    public override IReadOnlyList<Command> Commands { get; } =
    [
        Command.Of<ShiftForm>("shift", "Move by millimetres", (bench, form) => new ShiftParts(bench.ChosenOrAll(), form.Dx, form.Dy)),
        Command.Of<PlaceForm>("move-to", "Move the middle to a place", (bench, form) =>
        {
            var middle = bench.SelectedBounds.Middle;

            // The fields show a rounded place: what was not changed there must not move.
            double Step(string? typed, double shown) => typed == LengthText.Number(shown, bench.Look.Unit) ? 0 : bench.Typed(typed) - shown;
            return new ShiftParts(bench.ChosenOrAll(), Step(form.X, middle.X), Step(form.Y, middle.Y));
        }),
        Command.Of<DegreesForm>("turn", "Turn about its middle", (bench, form) => new TurnParts(bench.ChosenOrAll(), BenchView.Degrees(form.Degrees), bench.SelectedBounds.Middle)) with
        {
            Keys = [Press("t", "turn 90° to the right", ("degrees", "90")), Press("Shift+t", "turn 90° to the left", ("degrees", "-90"))],
        },
        Command.Of<DegreesForm>("lean", "Lean", (bench, form) => new LeanParts(bench.ChosenOrAll(), BenchView.Degrees(form.Degrees), bench.Footprint.Middle)),
        Command.Of("centre", "Centre in the hoop", bench => new CentreParts(bench.ChosenOrAll(), bench.SelectedBounds.Middle)) with { Keys = [Press("c", "centre in the hoop")] },
        Command.Of<SidesForm>("mirror", "Mirror", (bench, form) => new MirrorParts(bench.ChosenOrAll(), bench.SelectedBounds.Middle, form.UpsideDown)) with
        {
            Keys = [Press("m", "mirror sideways", ("upsideDown", "false")), Press("Shift+m", "mirror upside down", ("upsideDown", "true"))],
        },
        Command.Of<AlignForm>("align", "Align", Aligned),
        Command.Of<AcrossForm>("space", "Space evenly", (bench, form) => new SpaceEvenly([.. bench.Groups().Select(g => ((IReadOnlySet<PartId>)g, bench.Open.Plan.BoundsOf(g)))], form.Across)) with
        {
            Keys = [Press("d", "space evenly across", ("across", "true")), Press("Shift+d", "space evenly downwards", ("across", "false"))],
        },
        Command.Of<SizeForm>("size", "Make it a size", Sized) with { Previews = true },
        Command.Of<ScaleForm>("scale", "Make it so many times as large", (bench, form) => new ResizeParts(bench.ChosenOrAll(), form.Across, form.Down, new(form.X, form.Y))),
        Command.Of<IndexForm>("order", "Sew at another place", (bench, form) => new PlaceInOrder(bench.ChosenIds(), form.Index)),
        Command.Of<BeforeForm>("sew-before", "Sew before another part", (bench, form) => bench.Job.Order.Find(new(form.Before)) is { } part && !bench.ChosenIds().Contains(part.Id)
            ? new PlaceInOrder(bench.ChosenIds(), ClosingOutlines.IndexBefore(bench.Job, bench.Open.Plan, part.Id))
            : throw new EditRefusedException("Choose another part, before which these are to sew.")),
        Command.Of<StepForm>("step", "Sew earlier or later", (bench, form) => new StepInOrder(bench.ChosenIds(), form.Earlier)) with
        {
            Keys =
            [
                new("q", "sew the part earlier", KeySection.SewingLine) { Values = new Dictionary<string, string> { ["earlier"] = "true" }, NeedsParts = true },
                new("e", "sew the part later", KeySection.SewingLine) { Values = new Dictionary<string, string> { ["earlier"] = "false" }, NeedsParts = true },
            ],
        },
        Command.Of<HideForm>("hide", "Hide or show", (bench, form) =>
        {
            var parts = OnlyOrChosen(bench, form.Only);
            return new HideParts(parts, form.Hidden ?? !All(bench, parts, p => p.Hidden));
        }) with { Keys = [PressOn("h", "hide or show")] },
        Command.Of<LockForm>("lock", "Lock or unlock", (bench, form) =>
        {
            var parts = OnlyOrChosen(bench, form.Only);
            return new LockParts(parts, form.Locked ?? !All(bench, parts, p => p.Locked));
        }) with { Keys = [PressOn("l", "lock or unlock")] },
        Command.Of<NameForm>("name", "Name", (bench, form) => new NameParts(bench.ChosenIds(), form.Name ?? string.Empty)),
        Command.Of<RoleForm>("role", "Give a role", (bench, form) =>
            PartRoles.TryParse(form.Role ?? string.Empty, out var wanted) ? new GiveRole(bench.ChosenIds(), wanted) : throw new EditRefusedException("That is no role of a part.")),
        Command.Of("remove", "Take out", bench => new RemoveParts(bench.ChosenIds())) with { Keys = [PressOn("Delete", "take out")] },
        Command.Of<CutForm>("cut", "Cut at the needle", (bench, form) => Splitter.AtNeedle(bench.Job, bench.Open.Plan, form.Record - 1, bench.Get<JobDesk>().Stitches)),
        Command.Of<SplitForm>("split", "Take apart", (bench, form) => Taken.Apart(bench, form.How == "stretches")) with
        {
            Keys = [Apart("k", "split at jumps", "jumps"), Apart("Shift+k", "split by stretches that hang together", "stretches")],
        },
        Command.Of<LassoForm>("lasso", "Take out what lies in a line", (bench, form) => Taken.Around(bench, PlacesOf.Line(form.Points))),
        Command.Of<JoinForm>("join", "Join", (bench, form) => new JoinParts(bench.ChosenIds(), form.OneThread && bench.Selected.Count > 0 ? bench.Selected[0].Thread : null, form.Together)),
        Command.Of("duplicate", "Duplicate", bench => AddCopies.Of(bench.Job, bench.ChosenIds(), Aside, Aside, $"Duplicated {(bench.Selected.Count == 1 ? bench.Selected[0].Name : $"{bench.Selected.Count} parts")}")) with
        {
            Selects = SelectedAfter.WhatCameIn,
            Keys = [PressOn("Ctrl+d", "duplicate")],
        },
        Command.Of<PasteForm>("paste", "Put copies in", Pasted) with { Selects = SelectedAfter.WhatCameIn },
        Command.Of<RowForm>("row", "Make a row", (bench, form) =>
        {
            // As typed; without any step, side by side.
            double Step(string? typed, double usual) => string.IsNullOrWhiteSpace(typed) ? usual : bench.Typed(typed);
            var sideBySide = string.IsNullOrWhiteSpace(form.Across) && string.IsNullOrWhiteSpace(form.Down);
            return AddCopies.Row(bench.Job, bench.ChosenIds(), form.Count, Step(form.Across, sideBySide ? bench.SelectedBounds.Width + Aside : 0), Step(form.Down, 0));
        }) with { Selects = SelectedAfter.WhatCameIn },
        Command.Of<RingForm>("ring", "Make a ring", Ringed) with { Selects = SelectedAfter.WhatCameIn },
    ];

    public override IReadOnlyList<ScreenKey> ScreenKeys { get; } =
    [
        new("ArrowLeft", "move 0.5 mm", KeySection.SelectedParts, "nudge") { With = ["-1", "0"], Shown = "← ↑ → ↓" },
        new("ArrowRight", null, KeySection.SelectedParts, "nudge") { With = ["1", "0"] },
        new("ArrowUp", null, KeySection.SelectedParts, "nudge") { With = ["0", "-1"] },
        new("ArrowDown", null, KeySection.SelectedParts, "nudge") { With = ["0", "1"] },
        new("x", "cut at the needle", KeySection.ApartTogetherLess, "cut"),
        new("o", "draw around what to take out", KeySection.ApartTogetherLess, "tool") { With = ["arrange", "lasso"] },
        new("j", "join", KeySection.ApartTogetherLess, "press") { With = ["arrange", "#join"] },
        new("w", "type a size", KeySection.SelectedParts, "press") { With = ["arrange", "#size-width"] },
        new("i", "lean", KeySection.SelectedParts, "press") { With = ["arrange", "#lean-by"] },
        new("a", "to the buttons that align", KeySection.SelectedParts, "lead") { With = ["arrange", "[data-align]"] },
        new("n", "a row of copies", KeySection.SelectedParts, "press") { With = ["arrange", "#row-count"] },
        new("Shift+n", "a ring of copies", KeySection.SelectedParts, "press") { With = ["arrange", "#ring-count"] },
        new("Ctrl+c", "copy", KeySection.SelectedParts, "copy"),
        new("Ctrl+v", "paste", KeySection.SelectedParts, "paste"),
    ];

    private static CommandKey Press(string press, string says, params (string Name, string Value)[] values) =>
        new(press, says, KeySection.SelectedParts) { Values = values.ToDictionary(v => v.Name, v => v.Value) };

    private static CommandKey PressOn(string press, string says) => new(press, says, KeySection.SelectedParts) { NeedsParts = true };

    private static CommandKey Apart(string press, string says, string how) => new(press, says, KeySection.ApartTogetherLess) { Values = new Dictionary<string, string> { ["how"] = how }, NeedsParts = true };

    private static HashSet<PartId> OnlyOrChosen(BenchView bench, int? only) => only is { } id ? [new PartId(id)] : bench.ChosenIds();

    private static bool All(BenchView bench, HashSet<PartId> parts, Func<Part, bool> state) => bench.Job.Order.Where(p => parts.Contains(p.Id)).All(state);

    /// <summary>Aligns the selected pieces with each other; one alone, with the hoop.</summary>
    private static AlignParts Aligned(BenchView bench, AlignForm form)
    {
        var groups = bench.Groups();
        if (groups.Count == 0) throw new EditRefusedException("Nothing is selected. Choose what to align first.");
        var field = bench.Open.Field;
        var to = groups.Count > 1 ? bench.SelectedBounds : new Box((-field.Width / 2) + field.Margin, (-field.Height / 2) + field.Margin, (field.Width / 2) - field.Margin, (field.Height / 2) - field.Margin);
        return new([.. groups.Select(g => ((IReadOnlySet<PartId>)g, bench.Open.Plan.BoundsOf(g)))], to, form.Where);
    }

    /// <summary>A size as typed: a length, or a part of what it was when it came.</summary>
    private static ResizeParts Sized(BenchView bench, SizeForm form)
    {
        var (box, text) = (bench.Footprint, form.Value?.Trim() ?? string.Empty);
        if (box.IsEmpty) throw new EditRefusedException("There is nothing to make larger or smaller.");
        if (form.Field is not ("width" or "height" or "percent")) throw new EditRefusedException("That is nothing that can be changed here.");
        var now = bench.CommonSize ?? Sizing.Original;
        var (isPercent, isHeight) = (form.Field == "percent" || text.EndsWith('%'), form.Field == "height");
        double Times(double length, double times) => isPercent ? BenchView.Percent(text) / 100 / times : length < 1e-6 ? 1 : bench.Typed(text) / length;
        var (across, down) = isHeight ? (1.0, Times(box.Height, now.Down)) : (Times(box.Width, now.Across), 1.0);
        if (form.Field == "percent" && !now.IsEven) down = BenchView.Percent(text) / 100 / now.Down;
        else if (!form.Free || form.Field == "percent") (across, down) = isHeight ? (down, down) : (across, across);
        return new(bench.ChosenOrAll(), across, down, box.Middle);
    }

    /// <summary>Copies of parts of this or another job.</summary>
    private static AddCopies Pasted(BenchView bench, PasteForm form)
    {
        var here = form.From == bench.Open.Stored.Id;
        var source = here ? bench.Job : bench.Get<JobDesk>().Find(form.From)?.Job ?? throw new EditRefusedException("The job that was copied from is no longer there.");
        var ids = BenchView.Ids(form.Copied).Where(id => source.Order.Find(id) is not null).ToHashSet();
        if (ids.Count == 0) throw new EditRefusedException("Nothing is copied, or it is no longer where it was. Select parts and press Ctrl+C first.");
        var by = here ? Aside * Math.Clamp(form.Times, 1, AddCopies.MostCopies) : 0;
        var copied = CopiedParts.Of(source, ids, p => p.Shifted(by, by));
        if (!here) copied = copied with { Parts = [.. copied.Parts.Select(p => p with { Id = default })] };
        return new([copied], $"Pasted {(ids.Count == 1 ? copied.Parts[0].Name : $"{ids.Count} parts")}{(here ? string.Empty : $" from {source.Title}")}");
    }

    /// <summary>A ring of the selection about the hoop's centre, or about a place a radius below it.</summary>
    private static AddCopies Ringed(BenchView bench, RingForm form)
    {
        if (bench.Selected.Count == 0) throw new EditRefusedException("Nothing is selected. Choose a part on the cloth or on the sewing line first.");
        var middle = bench.SelectedBounds.Middle;
        var centre = string.IsNullOrWhiteSpace(form.Radius) ? Point.Zero : new Point(middle.X, middle.Y + bench.Typed(form.Radius));
        if (centre.DistanceTo(middle) < 1) throw new EditRefusedException("What is selected lies on the centre itself. Type a radius, or move it away from the centre first.");
        return AddCopies.Ring(bench.Job, bench.ChosenIds(), form.Count, centre, middle, form.Turned);
    }
}
