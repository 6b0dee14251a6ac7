using EvenThimble.Core.Garments;
using EvenThimble.Core.Jobs;
using EvenThimble.Core.Lettering;
using EvenThimble.Core.Names;
using EvenThimble.Core.Text;
using EvenThimble.Core.Threads;
using EvenThimble.Storage;
using EvenThimble.Web.Workroom;

namespace EvenThimble.Web.Pages.Bench;

/// <summary>What the Names card shows: the slot that is selected or the only one, or a new one; the roster of the job, and its names laid.</summary>
/// <param name="Bench">The bench.</param>
/// <param name="Piece">The slot; null: a new one.</param>
/// <param name="Slot">Its rules.</param>
public sealed record NamesCard(BenchView Bench, Piece? Piece, NameSlot Slot)
{
    private const double UsualWidth = 60;
    private const double UsualHeight = 9;
    private const double BelowMm = 2;

    /// <summary>What the slot shows.</summary>
    public NameSlotContent? Shown => Piece?.Content as NameSlotContent;

    /// <summary>The names of the job, laid; null: it has no roster or no slot.</summary>
    public NameRoll? Roll { get; private init; }

    /// <summary>Why they cannot be laid, in a sentence; null: they can.</summary>
    public string? Refused { get; private init; }

    /// <summary>The rosters that are kept.</summary>
    public IReadOnlyList<RosterLine> Rosters => Bench.Get<RosterStore>().All;

    /// <summary>The roster that the job took from is another now.</summary>
    public bool RosterChanged => Bench.Job.Names is { Kept: { } id } names && Bench.Get<RosterStore>().Find(id) is { } kept && kept.Roster != names.Roster;

    /// <summary>Fonts to choose from.</summary>
    public IReadOnlyList<string> Fonts => [.. Bench.Get<LetterFonts>().All.Select(f => f.Name)];

    /// <summary>What its letters are sewn with.</summary>
    public SewingThread Thread => Piece is { } piece ? NameRoll.ThreadOf(Bench.Job, piece.Id) : LettersCard.ThreadFor(Bench);

    /// <summary>Drawn lines and shapes that letters can follow.</summary>
    public IReadOnlyList<Part> Guides => [.. Bench.Job.Order.Where(p => p.Drawn is not null && p.Role != Core.Stitches.PartRole.Lettering)];

    /// <summary>The fields that can stand in it.</summary>
    public IReadOnlyList<string> Fields => Bench.Job.Names is { } names ? names.Roster.Fields : ["given", "family"];

    /// <summary>The card for what is selected.</summary>
    public static NamesCard Of(BenchView bench)
    {
        var slots = bench.Job.Pieces.Where(p => p.Content is NameSlotContent && bench.Job.Order.Any(o => o.Piece == p.Id)).ToList();
        var piece = slots.FirstOrDefault(s => bench.Selected.Any(p => p.Piece == s.Id)) ?? (slots is [var only] ? only : null);
        var font = bench.Get<LetterFonts>().LastUsed(1).FirstOrDefault()?.Name ?? Rendering.Fonts.InstalledFonts.All[0].Name;
        var pattern = bench.Job.Names is { } names ? SlotText.Suggested(names.Roster) : "{given} {family}";
        var card = new NamesCard(bench, piece, piece is null ? new(pattern, UsualWidth, UsualHeight, font) : NameSlot.Of(piece).Slot);
        if (bench.Job.Names is null || slots.Count == 0) return card;
        try
        {
            return card with { Roll = bench.Get<NameDesk>().RollOf(bench.Open) };
        }
        catch (EditRefusedException e)
        {
            return card with { Refused = e.Message };
        }
    }

    /// <summary>Where a new slot lies unless another place is typed: below all that is there.</summary>
    public static Placement UsualPlace(BenchView bench, NameSlot slot) => bench.Open.Plan.Bounds is { IsEmpty: false } box
        ? new(Math.Round(box.Middle.X, 2), Math.Round(box.MaxY + BelowMm + (slot.HeightMm / 2), 2), 0) : Placement.AsItCame;

    /// <summary>A length in the unit of the person.</summary>
    public string Length(double mm) => LengthText.Number(mm, Bench.Look.Unit);
}
