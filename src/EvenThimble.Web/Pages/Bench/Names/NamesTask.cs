using System.Collections.Immutable;
using EvenThimble.Core.Craft;
using EvenThimble.Core.Garments;
using EvenThimble.Core.Jobs;
using EvenThimble.Core.Lettering;
using EvenThimble.Core.Names;
using EvenThimble.Core.Text;
using EvenThimble.Storage;
using EvenThimble.Web.Workroom;

namespace EvenThimble.Web.Pages.Bench;

/// <summary>Names: a slot of exact size, the roster whose names are fitted to it, and any of them shown in it.</summary>
public sealed class NamesTask : BenchTask
{
    private sealed record SlotForm(
        int? Piece, string? Pattern, string? Width, string? Height, string? Font, string? OtherFont, string? Way, LetterAlign Align, string? Narrow, string? Lines, string? Arc, string? Guide, string? Most, string? X, string? Y);

    /// <summary>Chosen as a guide: the line that the slot follows already.</summary>
    public const string FollowedAlready = "same";

    private sealed record RosterForm(long? Roster);

    private sealed record PersonForm(int Person);

    public override string Id => "names";

    public override string Name => "Names";

    public override string Icon => "bi-people";

    public override string Says => "One design, many names";

    public override object CardFor(BenchView bench) => NamesCard.Of(bench);

    public override IReadOnlyList<Command> Commands { get; } =
    [
        Command.Of<SlotForm>("slot", "Place a name slot", Placed) with { Selects = SelectedAfter.WhatCameIn, KeepsTyped = true, Previews = true, Afterwards = NoteFont },
        Command.Of<RosterForm>("take-roster", "Take a roster", Taken),
        Command.Of<PersonForm>("show-name", "Show a name", (bench, form) => RollOf(bench) is var roll && roll.All.FirstOrDefault(n => n.Person.Id.Value == form.Person) is { } name
            ? name.CanBeSewn ? roll.Show(name) : throw new EditRefusedException(name.Slots.First(s => s.Content is null).Refused!)
            : throw new EditRefusedException("That person is no longer in the roster of this job.")),
        Command.Of("all-of-one-height", "Make all names the height of the smallest", OfOneHeight),
    ];

    private static NameRoll RollOf(BenchView bench) => bench.Get<NameDesk>().RollOf(bench.Open);

    private static JobEdit Placed(BenchView bench, SlotForm form)
    {
        var piece = form.Piece is { } number ? bench.Job.Pieces.FirstOrDefault(p => p.Id.Value == number && p.Content is NameSlotContent) ?? throw new EditRefusedException("That name slot is no longer in this job.") : null;
        var before = piece?.Content as NameSlotContent;
        var slot = new NameSlot(Titles.CleanLines(form.Pattern, SlotText.LongestPattern, 20), bench.Typed(form.Width), bench.Typed(form.Height), Titles.Clean(form.Font))
        {
            LeastCondense = string.IsNullOrWhiteSpace(form.Narrow) ? 0.85 : BenchView.Percent(form.Narrow) / 100,
            Way = StitchWays.TryParse(form.Way, out var way) ? way : StitchWay.Automatic,
            Align = form.Align,
            LineSpacing = string.IsNullOrWhiteSpace(form.Lines) ? 1 : BenchView.Percent(form.Lines) / 100,
            Course = CourseOf(bench, form, piece),
            OtherFonts = string.IsNullOrWhiteSpace(form.OtherFont) || form.OtherFont == form.Font ? [] : [Titles.Clean(form.OtherFont)],
            MostCapitalMm = string.IsNullOrWhiteSpace(form.Most) ? null : bench.Typed(form.Most),
        };
        slot.Check();
        var thread = piece is null ? LettersCard.ThreadFor(bench) : NameRoll.ThreadOf(bench.Job, piece.Id);
        var text = TextShown(bench, slot, before);
        var content = NameRoll.Shown(bench.Job, piece?.Id, slot, text, bench.Get<ILetterFaces>(), thread);
        if (piece is not null) return new ChangeNameSlot(piece.Id, content);
        var usual = slot.Course is LetterCourse.OnPath ? Placement.AsItCame : NamesCard.UsualPlace(bench, slot);
        return new AddNameSlot(content, usual with { X = string.IsNullOrWhiteSpace(form.X) ? usual.X : bench.Typed(form.X), Y = string.IsNullOrWhiteSpace(form.Y) ? usual.Y : bench.Typed(form.Y) });
    }

    /// <summary>What its letters stand on: an arc, the line of a shape, or straight lines.</summary>
    private static LetterCourse CourseOf(BenchView bench, SlotForm form, Piece? piece)
    {
        if (!string.IsNullOrWhiteSpace(form.Arc)) return new LetterCourse.OnArc(BenchView.Degrees(form.Arc));
        if (form.Guide == FollowedAlready) return (piece?.Content as NameSlotContent)?.Slot.Course ?? LetterCourse.Straight;
        return string.IsNullOrWhiteSpace(form.Guide) ? LetterCourse.Straight : LettersTask.PathAlong(bench, form.Guide, piece?.Placement ?? Placement.AsItCame);
    }

    /// <summary>What is shown in a slot: of a roster the name that is the longest by its letters, or who was shown before; else the pattern's own words.</summary>
    private static string TextShown(BenchView bench, NameSlot slot, NameSlotContent? before)
    {
        if (bench.Job.Names is { } names)
        {
            var texts = names.Roster.People.Select(p => SlotText.Of(slot.Pattern, names.Roster, p)).Where(t => t.Length > 0).ToList();
            if (before is not null && texts.Contains(before.Text)) return before.Text;
            if (texts.Count > 0) return texts.MaxBy(t => t.Split('\n').Max(l => l.Length))!;
        }

        return before is not null && before.Slot.Pattern == slot.Pattern ? before.Text : SlotText.Filled(slot.Pattern, field => field);
    }

    private static JobEdit Taken(BenchView bench, RosterForm form)
    {
        if (form.Roster is not { } id || bench.Get<RosterStore>().Find(id) is not { } kept) return bench.Job.Names is null ? throw new EditRefusedException("Choose a roster.") : new LeaveRoster();
        if (kept.Roster.People.IsEmpty) throw new EditRefusedException($"There is nobody in {kept.Roster.Name} yet.");
        var edit = new TakeRoster(kept.Roster, id);
        if (!bench.Job.Pieces.Any(p => p.Content is NameSlotContent && bench.Job.Order.Any(o => o.Piece == p.Id))) return edit;

        // The one that has to be looked at most is shown first.
        var roll = bench.Get<NameDesk>().RollOf(edit.Apply(bench.Job));
        return roll.WorstFirst.FirstOrDefault(n => n.CanBeSewn) is { } worst ? edit with { Shows = roll.Show(worst) } : edit;
    }

    private static ChangeNameSlot OfOneHeight(BenchView bench)
    {
        var (card, roll) = (NamesCard.Of(bench), RollOf(bench));
        var piece = card.Piece ?? throw new EditRefusedException("Choose a name slot first.");
        var slot = card.Slot with { MostCapitalMm = Math.Round(roll.SmallestIn(piece.Id), 3) };
        return new(piece.Id, NameRoll.Shown(bench.Job, piece.Id, slot, card.Shown!.Text, bench.Get<ILetterFaces>(), card.Thread));
    }

    private static void NoteFont(BenchView bench, JobEdit edit)
    {
        if ((edit is AddNameSlot added ? added.Content : (edit as ChangeNameSlot)?.Content) is { } content) bench.Get<FontStore>().Use(content.Slot.Font);
    }
}
