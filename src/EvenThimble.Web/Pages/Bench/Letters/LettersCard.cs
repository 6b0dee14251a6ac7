using System.Globalization;
using EvenThimble.Core.Craft;
using EvenThimble.Core.Geometry;
using EvenThimble.Core.Jobs;
using EvenThimble.Core.Lettering;
using EvenThimble.Core.Text;
using EvenThimble.Core.Threads;
using EvenThimble.Storage;
using EvenThimble.Web.Workroom;

namespace EvenThimble.Web.Pages.Bench;

/// <summary>Two letters that stand side by side, of which the right one is selected.</summary>
/// <param name="Left">The left one.</param>
/// <param name="Right">The right one.</param>
/// <param name="Share">What is added between them now, in heights of a capital.</param>
/// <param name="Pulled">What would be, from where the right one was pulled by hand; null: it was not.</param>
/// <param name="Kept">What is kept for the font; null: nothing.</param>
public sealed record LetterGap(string Left, string Right, double Share, double? Pulled, double? Kept);

/// <summary>What the Letters card shows: the lettering that is selected, or a new one that begins like the last of the job.</summary>
/// <param name="Bench">The bench.</param>
/// <param name="Piece">The selected lettering; null: a new one.</param>
/// <param name="Wish">What is wanted.</param>
/// <param name="Font">In which font.</param>
/// <param name="Way">How it is stitched.</param>
public sealed record LettersCard(BenchView Bench, Piece? Piece, LetteringWish Wish, string Font, StitchWay Way)
{
    private const double UsualCapitalMm = 15;
    private const double UsualSetMm = 25;
    private const int MostLastUsed = 4;
    private const double PulledFromMm = 0.02;

    /// <summary>Ways that letters can be stitched in.</summary>
    public static IReadOnlyList<StitchWay> Ways { get; } = [StitchWay.Automatic, StitchWay.Satin, StitchWay.Fill, StitchWay.PatternedFill, StitchWay.Run, StitchWay.TripleRun];

    /// <summary>The fonts to choose from: those that were used last, then all by their kinds.</summary>
    public IReadOnlyList<(string Kind, IReadOnlyList<FontLine> Fonts)> Fonts
    {
        get
        {
            var (fonts, sets) = (Bench.Get<LetterFonts>(), Sets);
            var last = fonts.LastUsed(MostLastUsed);
            return [.. last.Count > 0 ? [("used last", last)] : Array.Empty<(string, IReadOnlyList<FontLine>)>(), .. sets.Count > 0 ? [(SetKind, sets)] : Array.Empty<(string, IReadOnlyList<FontLine>)>(), .. fonts.All.Where(f => !last.Contains(f)).GroupBy(f => f.Kind).Select(g => (g.Key, (IReadOnlyList<FontLine>)[.. g]))];
        }
    }

    private const string SetKind = "letter sets";

    /// <summary>The letter sets to choose from.</summary>
    public IReadOnlyList<FontLine> Sets => [.. Bench.Get<LetterSets>().All.Select(s => new FontLine(s.Name, SetKind, null))];

    /// <summary>Whether its font, or its letter set, is at hand.</summary>
    public bool HasFont => OfSet || Bench.Get<LetterFonts>().All.Any(f => f.Name == Font);

    /// <summary>Whether it is a letter set rather than a font.</summary>
    public bool OfSet => Bench.Get<LetterSets>().All.Any(s => s.Name == Font);

    /// <summary>The names of the letter sets, for the script, as JSON.</summary>
    public string SetNames => System.Text.Json.JsonSerializer.Serialize(Sets.Select(s => s.Name));

    /// <summary>The height of capitals at which the letters of a set stay as they came, as the field has it; null for a font.</summary>
    public string? OwnHeight(FontLine font)
    {
        try
        {
            return font.Kind == SetKind ? Length(Bench.Get<LetterSets>().Find(font.Name)?.Nearest(UsualSetMm).CapitalMm) : null;
        }
        catch (RefusedException)
        {
            return null; // it is told where one writes with it
        }
    }

    /// <summary>The lettering that is selected.</summary>
    public LetteringContent? Lettering => Piece?.Content as LetteringContent;

    /// <summary>The text of a letter set that is selected.</summary>
    public LetterSetContent? Written => Piece?.Content as LetterSetContent;

    /// <summary>The letters that were moved, turned, sized or recoloured by hand among the selected ones.</summary>
    public int ByHand => Piece is { } piece ? Bench.Selected.Count(p => p.Placement != piece.PlaceOf(p.Made) || p.OwnThread is not null) : 0;

    /// <summary>The gap before the one letter that is selected; null: none is, or nothing stands before it.</summary>
    public LetterGap? Gap { get; private init; }

    /// <summary>How a letter among others that it touches can be set by hand: the word for the form, a sign, and what it does.</summary>
    public static IReadOnlyList<(string By, string Icon, string Says)> Nudging { get; } =
    [
        ("left", "bi-arrow-left", "Move it left"), ("right", "bi-arrow-right", "Move it right"), ("up", "bi-arrow-up", "Move it up"), ("down", "bi-arrow-down", "Move it down"),
        ("anticlockwise", "bi-arrow-counterclockwise", "Turn it anticlockwise"), ("clockwise", "bi-arrow-clockwise", "Turn it clockwise"),
        ("smaller", "bi-dash-lg", "Make it smaller"), ("larger", "bi-plus-lg", "Make it larger"), ("back", "bi-x-lg", "Put it back as the text has it"),
    ];

    /// <summary>The letters of the one part that is selected, where it is several that touch: each with its place in the text.</summary>
    public IReadOnlyList<(string Text, int At)> Touching { get; private init; } = [];

    /// <summary>Whether other gaps are kept for the font by now than this lettering has.</summary>
    public bool HasOtherGaps { get; private init; }

    /// <summary>The lines and shapes of the job that letters could follow.</summary>
    public IReadOnlyList<Core.Jobs.Part> Guides => [.. Bench.Job.Order.Where(p => p.Drawn is not null && p.Role != Core.Stitches.PartRole.Lettering)];

    /// <summary>The guide that a click on it has chosen: the drawn part that is selected.</summary>
    public Core.Jobs.Part? Guide => Piece is null && Bench.SelectedDrawn is [var one] && one.Role != Core.Stitches.PartRole.Lettering ? one : null;

    /// <summary>The card for what is selected.</summary>
    public static LettersCard Of(BenchView bench)
    {
        var pieces = bench.Selected.Select(p => p.Piece).Distinct().ToList();
        var piece = pieces is [var one] ? bench.Job.Pieces.First(p => p.Id == one) : null;
        if (piece?.Content is LetterSetContent written)
        {
            var kept = bench.Get<FontStore>().KerningOf(written.Set);
            return new(bench, piece, written.Wish, written.Set, StitchWay.Automatic)
            {
                // Letters that are one part are set by hand one by one, as those are that touch.
                Touching = written.How.Joined ? [.. LettersOf(bench, written)] : [],
                Gap = GapOf(bench, piece, written, kept),
                HasOtherGaps = kept.UsedIn(written.Wish.Text).Pairs.Any(p => written.Wish.Pairs.Between(p.Left, p.Right) != p.Share),
            };
        }

        if (piece?.Content is LetteringContent lettering)
        {
            var (kept, chosen) = (bench.Get<FontStore>().KerningOf(lettering.Font), ChosenOf(bench, lettering));
            return new(bench, piece, lettering.Wish, lettering.Font, lettering.Way)
            {
                Gap = GapOf(bench, piece, lettering, chosen, kept),
                Touching = chosen is var (_, shapes, at) && shapes[at].Letters is { Count: > 1 } letters ? [.. letters.Select(l => (l.Text, lettering.Wish.PlaceOf(l)))] : [],
                HasOtherGaps = kept.UsedIn(lettering.Wish.Text).Pairs.Any(p => lettering.Wish.Pairs.Between(p.Left, p.Right) != p.Share),
            };
        }

        var last = bench.Job.Pieces.Select(p => p.Content).OfType<ITextContent>().LastOrDefault();
        var font = last?.Font ?? bench.Get<LetterFonts>().LastUsed(1).FirstOrDefault()?.Name ?? Rendering.Fonts.InstalledFonts.All[0].Name;
        return new(bench, null, new(string.Empty) { CapitalMm = last?.Wish.CapitalMm ?? UsualCapitalMm }, font, (last as LetteringContent)?.Way ?? StitchWay.Automatic);
    }

    /// <summary>What a new lettering is sewn with: as what is selected, or what is there that looks most like a usual thread.</summary>
    public static SewingThread ThreadFor(BenchView bench) => bench.Selected.Count > 0 ? bench.Selected[0].Thread : DrawingCard.Nearest(bench, DrawingCard.UsualThreadLook);

    /// <summary>What letters that come in are sewn with.</summary>
    public SewingThread Thread => Piece?.Content is ITextContent text ? LetterHand.ThreadOf(text) : ThreadFor(Bench);

    /// <summary>A length in the unit of the person.</summary>
    public string Length(double? mm) => mm is { } v ? LengthText.Number(v, Bench.Look.Unit) : string.Empty;

    /// <summary>A part as percent.</summary>
    public static string Percent(double part) => (part * 100).ToString("0.#", CultureInfo.InvariantCulture);

    /// <summary>At which sizes a font sews well, in words.</summary>
    public string GoodSizes(FontLine font)
    {
        if (font.Kind != SetKind) return Bench.Get<LetterFonts>().GoodSizes(font.Name, Bench.Look.Unit);
        try
        {
            return Bench.Get<LetterSets>().Find(font.Name) is { } set ? LetterSets.GoodSizes(set, Bench.Look.Unit) : string.Empty;
        }
        catch (RefusedException e)
        {
            return e.Message;
        }
    }

    /// <summary>The letters of a text of a set, each with its place in the text; none where the set is not here.</summary>
    private static IEnumerable<(string Text, int At)> LettersOf(BenchView bench, LetterSetContent written)
    {
        try
        {
            return bench.Get<LetterSets>().Find(written.Set) is { } set ? set.FontOf(set.Nearest(written.CapitalMm)).Face.Lay(written.Wish).Letters.Select(l => (l.Text, written.Wish.PlaceOf(l))) : [];
        }
        catch (RefusedException)
        {
            return []; // what cannot be laid any more is told when it is written
        }
    }

    /// <summary>The gap before the one letter of a set that is selected, where each letter is a part.</summary>
    private static LetterGap? GapOf(BenchView bench, Piece piece, LetterSetContent written, KerningTable kept)
    {
        if (written.How.Joined || bench.Selected is not [var part]) return null;
        var at = written.Letters.ToList().FindIndex(l => l.Key == part.Made.Key);
        var laid = LettersOf(bench, written).ToList();
        if (at < 1 || laid.Count != written.Letters.Length || laid[at].At != laid[at - 1].At + laid[at - 1].Text.Length) return null;
        var (left, right) = (laid[at - 1].Text, laid[at].Text);
        var set = bench.Get<LetterSets>().Find(written.Set)!;
        var face = set.FontOf(set.Nearest(written.CapitalMm)).Face;
        if (LetteringLayout.KerningOf(written.Wish, face.Font, left, right, face.Optical) is not { } share) return null;
        Point Shift(int letter) => bench.Job.Order.FirstOrDefault(p => p.Piece == piece.Id && p.Made.Key == written.Letters[letter].Key) is { } its ? its.Placement.Place(Point.Zero) - piece.PlaceOf(its.Made).Place(Point.Zero) : Point.Zero;
        var along = (Shift(at) - Shift(at - 1)).Turned(-(written.Letters[at].At.TurnDegrees + piece.Placement.TurnDegrees), Point.Zero).X;
        return new(left, right, share, Math.Abs(along) > PulledFromMm ? share + (along / written.CapitalMm) : null, kept.Between(left, right));
    }

    /// <summary>The shape of the one letter part that is selected among those of its text; null: it cannot be told.</summary>
    private static (LetterFace Face, IReadOnlyList<LetterShape> Shapes, int At)? ChosenOf(BenchView bench, LetteringContent lettering)
    {
        if (bench.Selected is not [var part] || lettering.Letters == 0) return null;
        var at = lettering.Shapes.Take(lettering.Letters).ToList().FindIndex(s => s.Key == part.Made.Key);
        try
        {
            if (at < 0 || bench.Get<LetterFonts>().Find(lettering.Font) is not { } face) return null;
            var shapes = LetterShape.Of(face.Lay(lettering.Wish));
            return shapes.Count == lettering.Letters ? (face, shapes, at) : null;
        }
        catch (RefusedException)
        {
            return null; // what cannot be laid any more is told when it is written
        }
    }

    private static LetterGap? GapOf(BenchView bench, Piece piece, LetteringContent lettering, (LetterFace Face, IReadOnlyList<LetterShape> Shapes, int At)? chosen, KerningTable kept)
    {
        if (chosen is not var (face, shapes, at) || at == 0) return null;
        var (before, first) = (shapes[at - 1].Last, shapes[at].First);
        if (before.Line != first.Line || before.From + before.Text.Length != first.From) return null;
        if (LetteringLayout.KerningOf(lettering.Wish, face.Font, before.Text, first.Text, face.Optical) is not { } share) return null;
        var pulled = Shift(bench, piece, lettering.Shapes[at]) - Shift(bench, piece, lettering.Shapes[at - 1]);
        var along = pulled.Turned(-(first.TurnDegrees + piece.Placement.TurnDegrees), Point.Zero).X;
        return new(before.Text, first.Text, share, Math.Abs(along) > PulledFromMm ? share + (along / lettering.CapitalMm) : null, kept.Between(before.Text, first.Text));
    }

    /// <summary>How far from where its text has it a letter was moved by hand, mm.</summary>
    private static Point Shift(BenchView bench, Piece piece, DrawingShape shape)
    {
        if (bench.Job.Order.FirstOrDefault(p => p.Piece == piece.Id && p.Made.Key == shape.Key) is not { } part) return Point.Zero;
        var laid = piece.PlaceOf(part.Made);
        return part.Placement.Place(Point.Zero) - laid.Place(Point.Zero);
    }
}
