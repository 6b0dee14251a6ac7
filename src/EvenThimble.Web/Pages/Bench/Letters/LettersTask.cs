using System.Globalization;
using EvenThimble.Core.Craft;
using EvenThimble.Core.Jobs;
using EvenThimble.Core.Lettering;
using EvenThimble.Core.Text;
using EvenThimble.Core.Threads;
using EvenThimble.Rendering.Fonts;

namespace EvenThimble.Web.Pages.Bench;

/// <summary>Text as thread: written here, laid on a line, a ring or an arc, bent to a shape, and changed again at any time.</summary>
public sealed class LettersTask : BenchTask
{
    private sealed record LetterForm(
        int? Piece, string? Text, string? Font, string? Height, string? Width, LetterAlign Align, string? Lines, string? Letters, string? Words, string? Slant, string? Turn, string? Course, string? Ring, string? Arc,
        string? Bend, string? Amount, bool Stacked, bool Optical, bool Kerning, string? Way);

    public override string Id => "letters";

    public override string Name => "Letters";

    public override string Icon => "bi-type";

    public override char? Key => '4';

    public override string Focus => "letters-text";

    public override string Says => "Write text as thread";

    public override object CardFor(BenchView bench) => LettersCard.Of(bench);

    public override IReadOnlyList<Command> Commands { get; } = [Command.Of<LetterForm>("write", "Write", Written) with { Selects = SelectedAfter.WhatCameIn, KeepsTyped = true, Previews = true }];

    private static JobEdit Written(BenchView bench, LetterForm form)
    {
        var font = InstalledFonts.Find(form.Font ?? string.Empty) ?? throw new EditRefusedException("That font is not known here. Choose one of the list.");
        var wish = WishOf(bench, form);
        wish.Check();
        var laid = LetteringLayout.Of(wish, InstalledFonts.Open(font));
        if (laid.Missing.Length > 0) throw new EditRefusedException($"{font.Name} has no {string.Join(' ', laid.Missing)}. Take {(laid.Missing.Length == 1 ? "it" : "them")} out of the text, or choose another font.");
        var letters = LetterShape.Of(laid);
        var way = StitchWays.TryParse(form.Way, out var chosen) ? chosen : StitchWay.Automatic;
        if (form.Piece is not { } number)
            return new AddLettering(LetteringContent.Of(wish, font.Name, letters, null, (new(way), LettersCard.ThreadFor(bench))), Placement.AsItCame);

        if (bench.Job.Pieces.FirstOrDefault(p => p.Id.Value == number)?.Content is not LetteringContent before) throw new EditRefusedException("That lettering is no longer in this job.");
        var first = before.Shapes[0];
        var content = LetteringContent.Of(wish, font.Name, letters, before, (first.Settings with { Way = way }, first.Thread));

        // Another way is for all letters; else each keeps its own.
        return new ChangeLettering(new(number), way == LettersCard.WayOf(before) ? content : content with { Shapes = [.. content.Shapes.Select(s => s with { Settings = s.Settings with { Way = way } })] });
    }

    private static LetteringWish WishOf(BenchView bench, LetterForm form) => new(new string([.. (form.Text ?? string.Empty).ReplaceLineEndings("\n").Where(c => c == '\n' || !char.IsControl(c))]).TrimEnd())
    {
        CapitalMm = bench.Typed(form.Height),
        WidthMm = string.IsNullOrWhiteSpace(form.Width) ? null : bench.Typed(form.Width),
        Align = form.Align,
        LineSpacing = Part(form.Lines, 100),
        LetterSpacing = Part(form.Letters, 0),
        WordSpacing = Part(form.Words, 100),
        SlantDegrees = Angle(form.Slant),
        TurnDegrees = Angle(form.Turn),
        Course = form.Course switch
        {
            "ring" => new LetterCourse.OnRing(bench.Typed(form.Ring)),
            "arc" => new LetterCourse.OnArc(Angle(form.Arc)),
            _ => LetterCourse.Straight,
        },
        Bend = BendShape.Find(form.Bend) is { } shape ? new(shape, Part(form.Amount, 50)) : null,
        Stacked = form.Stacked,
        OpticalSpacing = form.Optical,
        FontKerning = form.Kerning,
    };

    private static double Part(string? percent, double usual) => string.IsNullOrWhiteSpace(percent) ? usual / 100 : BenchView.Percent(percent) / 100;

    private static double Angle(string? degrees) => string.IsNullOrWhiteSpace(degrees) ? 0 : BenchView.Degrees(degrees);
}

/// <summary>What the Letters card shows: the lettering that is selected, or a new one that begins like the last of the job.</summary>
/// <param name="Bench">The bench.</param>
/// <param name="Piece">The selected lettering; null: a new one.</param>
/// <param name="Wish">What is wanted.</param>
/// <param name="Font">In which font.</param>
/// <param name="Way">How it is stitched.</param>
public sealed record LettersCard(BenchView Bench, Piece? Piece, LetteringWish Wish, string Font, StitchWay Way)
{
    private const double UsualCapitalMm = 15;

    /// <summary>Ways that letters can be stitched in.</summary>
    public static IReadOnlyList<StitchWay> Ways { get; } = [StitchWay.Automatic, StitchWay.Satin, StitchWay.Fill, StitchWay.Run, StitchWay.TripleRun];

    /// <summary>The fonts by their kinds.</summary>
    public static IEnumerable<IGrouping<string, InstalledFont>> Fonts => InstalledFonts.All.GroupBy(f => f.Kind);

    /// <summary>The card for what is selected.</summary>
    public static LettersCard Of(BenchView bench)
    {
        var pieces = bench.Selected.Select(p => p.Piece).Distinct().ToList();
        var piece = pieces is [var one] ? bench.Job.Pieces.First(p => p.Id == one) : null;
        if (piece?.Content is LetteringContent lettering) return new(bench, piece, lettering.Wish, lettering.Font, WayOf(lettering));
        var last = bench.Job.Pieces.Select(p => p.Content).OfType<LetteringContent>().LastOrDefault();
        return new(bench, null, new(string.Empty) { CapitalMm = last?.Wish.CapitalMm ?? UsualCapitalMm }, last?.Font ?? InstalledFonts.All[0].Name, last is null ? StitchWay.Automatic : WayOf(last));
    }

    /// <summary>What a new lettering is sewn with: as what is selected, or what is there that looks most like a usual thread.</summary>
    public static SewingThread ThreadFor(BenchView bench) => bench.Selected.Count > 0 ? bench.Selected[0].Thread : DrawingCard.Nearest(bench, DrawingCard.UsualThreadLook);

    /// <summary>What letters that come in are sewn with.</summary>
    public SewingThread Thread => Piece?.Content is LetteringContent lettering ? lettering.Shapes[0].Thread : ThreadFor(Bench);

    /// <summary>How most letters of a lettering are stitched.</summary>
    public static StitchWay WayOf(LetteringContent lettering) => lettering.Shapes.GroupBy(s => s.Settings.Way).MaxBy(g => g.Count())!.Key;

    /// <summary>A length in the unit of the person.</summary>
    public string Length(double? mm) => mm is { } v ? LengthText.Number(v, Bench.Look.Unit) : string.Empty;

    /// <summary>A part as percent.</summary>
    public static string Percent(double part) => (part * 100).ToString("0.#", CultureInfo.InvariantCulture);
}
