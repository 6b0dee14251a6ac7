using EvenThimble.Core.Craft;
using EvenThimble.Core.Jobs;
using EvenThimble.Core.Monograms;
using EvenThimble.Core.Text;
using EvenThimble.Storage;
using EvenThimble.Web.Workroom;

namespace EvenThimble.Web.Pages.Bench;

/// <summary>Monograms: one to three letters, or the initials of a name, laid in one of many ways, with something around them; laid anew whenever anything about them changes.</summary>
public sealed class MonogramTask : BenchTask
{
    private sealed record MonogramForm(int? Piece, string? Letters, InitialOrder Order, string? Layout, string? Font, string? Way, string? Size, string? Frame, FrameForm Form, string? Gap, string? LetterGap, int? Thread, int? FrameThread);

    public override string Id => "monogram";

    public override string Name => "Monogram";

    public override string Icon => "bi-suit-diamond";

    public override string Says => "Initials with something around them";

    public override bool OnRail => false;

    public override object CardFor(BenchView bench) => MonogramCard.Of(bench);

    public override IReadOnlyList<Command> Commands { get; } =
    [
        Command.Of<MonogramForm>("monogram", "Make a monogram", Made) with { Selects = SelectedAfter.WhatCameIn, KeepsTyped = true, Previews = true, Afterwards = NoteFont },
    ];

    private static JobEdit Made(BenchView bench, MonogramForm form)
    {
        var piece = form.Piece is { } number ? bench.Job.Pieces.FirstOrDefault(p => p.Id.Value == number && p.Content is MonogramContent) ?? throw new EditRefusedException("That monogram is no longer in this job.") : null;
        var before = piece?.Content as MonogramContent;
        var face = bench.Get<LetterFonts>().Find(form.Font) ?? throw new EditRefusedException($"The font {Titles.Clean(form.Font ?? string.Empty)} is not here. Choose another, or bring its file in.");
        var typed = Titles.Clean(form.Letters ?? string.Empty);
        var wish = new MonogramWish(Initials.Of(typed, form.Order), MonogramLayout.Find(form.Layout) ?? throw new EditRefusedException("Choose how the letters are laid."))
        {
            SizeMm = bench.Typed(form.Size),
            Frame = string.IsNullOrEmpty(form.Frame) ? null : MonogramFrame.Find(form.Frame) ?? throw new EditRefusedException("Choose what is around the letters."),
            Form = Enum.IsDefined(form.Form) ? form.Form : FrameForm.AsLetters,
            FrameGapMm = string.IsNullOrWhiteSpace(form.Gap) ? MonogramCard.UsualGapMm : bench.Typed(form.Gap),
            LetterGap = string.IsNullOrWhiteSpace(form.LetterGap) ? MonogramCard.UsualLetterGap : BenchView.Percent(form.LetterGap) / 100,
            Name = Initials.IsName(typed) ? typed : null,
            Order = form.Order,
        };
        var way = StitchWays.TryParse(form.Way, out var chosen) ? chosen : StitchWay.Automatic;
        var content = MonogramContent.Lay(wish, face, new(way, bench.PaletteThread(form.Thread) ?? before?.Thread ?? LettersCard.ThreadFor(bench), bench.PaletteThread(form.FrameThread) ?? before?.FrameThread ?? MonogramCard.FrameThreadFor(bench)), bench.Job.Cloth.Profile, before);
        return piece is null ? new AddMonogram(content, Placement.AsItCame) : new ChangeMonogram(piece.Id, content);
    }

    private static void NoteFont(BenchView bench, JobEdit edit)
    {
        if ((edit is AddMonogram added ? added.Content : (edit as ChangeMonogram)?.Content) is { } content) bench.Get<FontStore>().Use(content.Font);
    }
}
