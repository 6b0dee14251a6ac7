using System.Collections.Immutable;
using EvenThimble.Core.Borders;
using EvenThimble.Core.Jobs;
using EvenThimble.Core.Monograms;
using EvenThimble.Core.Planning;
using EvenThimble.Core.Text;
using EvenThimble.Core.Threads;

namespace EvenThimble.Web.Pages.Bench;

/// <summary>Borders around what is selected: all round in one of several forms, or along its sides, of lines, motifs, ropes and leaves.</summary>
public sealed class BorderTask : BenchTask
{
    private sealed record BorderForm(int? Piece, string? Around, string? Frame, int? Own, FrameForm Form, BorderSides Sides, string? Distance, bool Sharp, int? Thread);

    public override string Id => "border";

    public override string Name => "Border";

    public override string Icon => "bi-bounding-box";

    public override string Says => "Something around a piece";

    public override bool OnRail => false;

    public override object CardFor(BenchView bench) => BorderCard.Of(bench);

    public override IReadOnlyList<Command> Commands { get; } =
    [
        Command.Of<BorderForm>("border", "Put a border around it", Laid) with { Selects = SelectedAfter.WhatCameIn, KeepsTyped = true, Previews = true },
    ];

    private static JobEdit Laid(BenchView bench, BorderForm form)
    {
        var piece = form.Piece is { } number ? bench.Job.Pieces.FirstOrDefault(p => p.Id.Value == number && p.Content is BorderContent) ?? throw new EditRefusedException("That border is no longer in this job.") : null;
        var before = piece?.Content as BorderContent;
        var around = before?.Around ?? [.. BorderCard.Numbers(form.Around).Where(p => bench.Job.Pieces.Any(o => o.Id == p))];
        if (around.IsEmpty) throw new EditRefusedException("Choose what the border goes around first, on the cloth or on the sewing line.");
        var outline = PieceOutlines.Of(bench.Job, bench.Open.Plan, around);
        if (outline.IsEmpty) throw new EditRefusedException("What the border goes around is no longer in this job. Choose something else.");
        var wish = new BorderWish((form.Frame == MonogramFrame.OwnId ? OwnFrame(bench, form.Own, around) ?? before?.Wish.Frame : MonogramFrame.Find(form.Frame)) ?? throw new EditRefusedException("Choose what the border is made of."))
        {
            Form = Enum.IsDefined(form.Form) ? form.Form : FrameForm.Rectangle,
            Sides = Enum.IsDefined(form.Sides) ? form.Sides : BorderSides.AllRound,
            DistanceMm = bench.Typed(form.Distance),
            SharpCorners = form.Sharp,
        };
        var thread = bench.PaletteThread(form.Thread) ?? before?.Thread ?? MonogramCard.FrameThreadFor(bench);
        var content = BorderContent.Lay(wish, around, outline, thread, bench.Job.Cloth.Profile, before);
        return piece is null ? new AddBorder(content, BorderCard.NameOf(bench, around)) : new ChangeBorder(piece.Id, content);
    }

    /// <summary>A frame made of a part that was drawn, as it lies on the cloth; null: none was chosen.</summary>
    private static MonogramFrame? OwnFrame(BenchView bench, int? chosen, ImmutableArray<PieceId> around)
    {
        if (chosen is not { } number) return null;
        var part = BorderCard.OwnOf(bench, around).FirstOrDefault(p => p.Id.Value == number) ?? throw new EditRefusedException("What the border was to be made of is no longer in this job. Choose something else.");
        return MonogramFrame.Of(new(part.Name, part.Drawn!.Shape.Moved(part.Placement.Place), part.Drawn.Settings));
    }
}

/// <summary>What the Border card shows: the border that is selected, or a new one around what is selected.</summary>
/// <param name="Bench">The bench.</param>
/// <param name="Piece">The selected border; null: a new one.</param>
/// <param name="Wish">What is wanted.</param>
/// <param name="Around">What it goes around; empty: nothing is chosen.</param>
public sealed record BorderCard(BenchView Bench, Piece? Piece, BorderWish Wish, ImmutableArray<PieceId> Around)
{
    /// <summary>What a border can be made of.</summary>
    public static IReadOnlyList<MonogramFrame> Frames { get; } = [.. MonogramFrame.All, .. MonogramFrame.OfMotifs];

    /// <summary>What was drawn in this job that a border can be made of.</summary>
    public IReadOnlyList<Part> Own => OwnOf(Bench, Around);

    /// <summary>What was drawn of which a border around pieces can be made: whatever is not of them, nor of letters or borders.</summary>
    public static IReadOnlyList<Part> OwnOf(BenchView bench, ImmutableArray<PieceId> around)
    {
        var drawings = bench.Job.Pieces.Where(p => p.Content.GetType() == typeof(DrawingContent) && !around.Contains(p.Id)).Select(p => p.Id).ToHashSet();
        return [.. bench.Job.Order.Where(p => p.Drawn is not null && drawings.Contains(p.Piece))];
    }

    /// <summary>The border that is selected.</summary>
    public BorderContent? Border => Piece?.Content as BorderContent;

    /// <summary>What it is sewn with unless another thread is chosen.</summary>
    public SewingThread Thread => Border?.Thread ?? MonogramCard.FrameThreadFor(Bench);

    /// <summary>What it goes around, in words.</summary>
    public string AroundInWords => NameOf(Bench, Around);

    /// <summary>Numbers of pieces as the form has them.</summary>
    public string AroundNumbers => string.Join(',', Around.Select(p => p.Value));

    /// <summary>The card for what is selected.</summary>
    public static BorderCard Of(BenchView bench)
    {
        var pieces = bench.Selected.Select(p => p.Piece).Distinct().ToList();
        if (pieces is [var one] && bench.Job.Pieces.First(p => p.Id == one) is { Content: BorderContent border } piece) return new(bench, piece, border.Wish, border.Around);
        var last = bench.Job.Pieces.Select(p => p.Content).OfType<BorderContent>().LastOrDefault();
        return new(bench, null, last?.Wish ?? new(MonogramFrame.All[0]), [.. pieces]);
    }

    /// <summary>Pieces in words: the name of one, or how many.</summary>
    public static string NameOf(BenchView bench, ImmutableArray<PieceId> pieces) => pieces is [var one] ? bench.Job.Pieces.FirstOrDefault(p => p.Id == one)?.Name ?? "nothing" : pieces.IsEmpty ? "nothing" : $"{pieces.Length} pieces";

    /// <summary>Numbers with commas; what is none is passed over.</summary>
    public static IEnumerable<PieceId> Numbers(string? text) => BenchView.Ids(text).Select(p => new PieceId(p.Value));
}
