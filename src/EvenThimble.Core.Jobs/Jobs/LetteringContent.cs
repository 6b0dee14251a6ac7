using System.Collections.Immutable;
using EvenThimble.Core.Craft;
using EvenThimble.Core.Lettering;
using EvenThimble.Core.Stitches;
using EvenThimble.Core.Text;
using EvenThimble.Core.Threads;

namespace EvenThimble.Core.Jobs;

/// <summary>A line around every letter.</summary>
/// <param name="Way">How it is stitched: a way of lines.</param>
/// <param name="Alone">Whether the letters are outlined only, without their inside.</param>
public sealed record LetterOutline(StitchWay Way, bool Alone)
{
    /// <summary>The ways that it can be stitched in.</summary>
    public static IReadOnlyList<StitchWay> Ways { get; } = [StitchWay.Run, StitchWay.TripleRun, StitchWay.LineSatin, StitchWay.MotifRow];
}

/// <summary>
/// Text as thread: what is wanted of it, and its letters as they were laid. It is laid anew whenever the wish changes; the letters are kept beside it, so that a job sews the same where its font
/// is not at hand.
/// </summary>
/// <param name="Wish">What is wanted.</param>
/// <param name="Font">The name of its font.</param>
/// <param name="Shapes">The letters, those that touch together as one shape, in the order of reading; then their outlines.</param>
public sealed record LetteringContent(LetteringWish Wish, string Font, ImmutableArray<DrawingShape> Shapes) : DrawingContent(Shapes), ITextContent
{
    // Outlines of letters are finer than usual lines: the satin of one, and the motif of one, mm.
    private const double OutlineWidth = 1.4;
    private const double OutlineMotif = 3;

    /// <summary>Height of its capitals as laid, mm.</summary>
    public double CapitalMm { get; init; } = Wish.CapitalMm;

    /// <inheritdoc/>
    public int PartCount => Shapes.Length;

    /// <summary>A line around its letters; null: none.</summary>
    public LetterOutline? Outline { get; init; }

    /// <summary>How its letters are stitched.</summary>
    /// <param name="Way">The way; null: as before.</param>
    /// <param name="Thread">The thread of letters that were not there before.</param>
    /// <param name="Outline">A line around them; null: none.</param>
    /// <param name="OutlineThread">The thread of that line; null: as before, or that of the letters.</param>
    public sealed record Stitched(StitchWay? Way, SewingThread Thread, LetterOutline? Outline = null, SewingThread? OutlineThread = null);

    /// <summary>How many of its shapes are letters; the others are outlines.</summary>
    public int Letters => Outline is null ? Shapes.Length : Outline.Alone ? 0 : Shapes.Length / 2;

    /// <summary>Lays a lettering.</summary>
    /// <param name="wish">What is wanted.</param>
    /// <param name="face">In which font.</param>
    /// <param name="stitched">How it is stitched.</param>
    /// <param name="before">What it was before: letters that stay keep their names, and how and with what they are stitched.</param>
    /// <exception cref="EditRefusedException">It cannot be laid; a sentence.</exception>
    public static LetteringContent Lay(LetteringWish wish, LetterFace face, Stitched stitched, LetteringContent? before = null) => Of(wish, face, face.Lay(wish), stitched, before);

    /// <summary>A lettering whose letters are laid already.</summary>
    /// <exception cref="EditRefusedException">The font lacks some of them; a sentence.</exception>
    internal static LetteringContent Of(LetteringWish wish, LetterFace face, LaidLettering laid, Stitched stitched, LetteringContent? before = null)
    {
        if (laid.Missing.Length > 0) throw new EditRefusedException($"{face.Name} has no {string.Join(' ', laid.Missing)}. Take {(laid.Missing.Length == 1 ? "it" : "them")} out of the text, or choose another font.");
        var letters = LetterShape.Of(laid);
        before = before?.Unjoined();
        if (stitched.Outline is not null && face.Font.PenEm is not null) throw new EditRefusedException($"The letters of {face.Name} are lines and have no outline. Choose another font, or no outline.");
        var usual = UsualOf(before?.Shapes.Take(before.Letters));
        var fresh = LetteringSewing.SettingsFor(face.Measure, stitched.Way ?? usual?.Way ?? StitchWay.Automatic, laid.CapitalMm);
        var anew = usual is null || usual.Way != fresh.Way || usual.OutAndBack != fresh.OutAndBack;
        var settings = anew
            ? fresh
            : usual! with { StrokeMm = fresh.StrokeMm, WidthMm = fresh.OutAndBack ? fresh.WidthMm : usual.WidthMm, StitchLengthMm = fresh.OutAndBack ? fresh.StitchLengthMm : usual.StitchLengthMm };
        var numbers = new PartKeys(before?.Shapes.Select(s => s.Key));
        var inside = stitched.Outline is { Alone: true } ? [] : Shaped(letters, before?.Shapes[..before.Letters] ?? [], numbers, l => l.Outline, (settings, stitched.Thread), s => anew || s.Settings == usual, _ => false);

        // Another way of the outline is for all letters; else each keeps what was set for it.
        var outlines = stitched.Outline is { } outline
            ? Shaped(letters, before?.Shapes[before.Letters..] ?? [], numbers, l => l.Edge, (OutlineSettings(outline.Way), stitched.OutlineThread ?? before?.OutlineThread ?? stitched.Thread), _ => outline.Way != before?.Outline?.Way, s => s.Thread == before?.OutlineThread)
            : [];
        return new(wish, face.Name, [.. Joined([.. inside], laid.CapitalMm), .. outlines]) { CapitalMm = Math.Round(laid.CapitalMm, 6), Outline = stitched.Outline };
    }

    /// <summary>How most of its letters are stitched, or of its outlines where there is nothing else.</summary>
    public StitchWay Way => Main.GroupBy(s => s.Settings.Way).MaxBy(g => g.Count())?.Key ?? StitchWay.Automatic;

    /// <summary>The thread of most of its letters, or of its outlines where there is nothing else.</summary>
    public SewingThread Thread => Main.GroupBy(s => s.Thread).MaxBy(g => g.Count())!.Key;

    /// <summary>The thread of most of its outlines; null: it has none.</summary>
    public SewingThread? OutlineThread => Shapes.Skip(Letters).GroupBy(s => s.Thread).MaxBy(g => g.Count())?.Key;

    private IEnumerable<DrawingShape> Main => Letters > 0 ? Shapes.Take(Letters) : Shapes;

    /// <summary>Equal when the wish, the font, the outline and every letter are.</summary>
    public bool Equals(LetteringContent? other) => base.Equals(other) && Wish == other.Wish && Font == other.Font && Outline == other.Outline && CapitalMm == other.CapitalMm;

    /// <inheritdoc/>
    public override int GetHashCode() => HashCode.Combine(base.GetHashCode(), Wish.Text, Font, Outline);

    /// <inheritdoc/>
    protected override ImmutableArray<MadePart> Make() => [.. Shapes.Select(s => new MadePart(s.Key, s.Name, s.Thread, PartRole.Lettering, new PartSource.Drawn(s.Shape, s.Settings), s.At))];

    /// <summary>Small letters that nearly touch are left and entered where they are nearest, unless the user has set that otherwise.</summary>
    private static IEnumerable<DrawingShape> Joined(List<DrawingShape> letters, double capitalMm) => letters.Zip(Joints(letters, capitalMm), (l, j) => l with
    {
        Settings = l.Settings with { Start = l.Settings.Start ?? j.Start, End = l.Settings.End ?? j.End },
    });

    /// <summary>The same without the places where neighbours had their letters left and entered.</summary>
    private LetteringContent Unjoined()
    {
        var letters = Shapes.Take(Letters).ToList();
        var free = letters.Zip(Joints(letters, CapitalMm), (l, j) => l with
        {
            Settings = l.Settings with { Start = l.Settings.Start == j.Start ? null : l.Settings.Start, End = l.Settings.End == j.End ? null : l.Settings.End },
        });
        return this with { Shapes = [.. free, .. Shapes.Skip(Letters)] };
    }

    private static IEnumerable<(Geometry.Point? Start, Geometry.Point? End)> Joints(List<DrawingShape> letters, double capitalMm) =>
        letters.Zip(LetterJoints.Of([.. letters.Select(l => l.Shape.Moved(l.At.Place))], capitalMm, letters.Count > 0 && letters.TrueForAll(l => l.Settings.OutAndBack) ? letters.Min(l => l.Settings.WidthMm ?? 0) : 0), (l, j) => (Back(l, j.Start), Back(l, j.End)));

    private static Geometry.Point? Back(DrawingShape letter, Geometry.Point? place) => place is { } p && letter.At.Unplace(p) is var q ? new Geometry.Point(Math.Round(q.X, 4), Math.Round(q.Y, 4)) : null;

    private static StitchSettings OutlineSettings(StitchWay way) => new(way)
    {
        WidthMm = way == StitchWay.LineSatin ? OutlineWidth : null,
        MotifLengthMm = way == StitchWay.MotifRow ? OutlineMotif : null,
    };

    private static StitchSettings? UsualOf(IEnumerable<DrawingShape>? shapes) => shapes?.GroupBy(s => s.Settings).MaxBy(g => g.Count())?.Key;

    /// <summary>Letters as shapes: those that stay keep their names and, unless they are to take it from the others, how and with what they are stitched.</summary>
    private static IEnumerable<DrawingShape> Shaped(
        IReadOnlyList<LetterShape> letters, ImmutableArray<DrawingShape> before, PartKeys numbers, Func<LetterShape, Shapes.DrawnShape> shapeOf, (StitchSettings Settings, SewingThread Thread) now,
        Func<DrawingShape, bool> takesSettings, Func<DrawingShape, bool> takesThread)
    {
        var kept = CommonOrder.Of([.. before.Select(s => s.Name)], [.. letters.Select(l => l.Text)]);
        return letters.Select((l, i) =>
        {
            var old = kept[i] is { } k ? before[k] : null;
            var settings = old is null || takesSettings(old) ? now.Settings : old.Settings with { StrokeMm = now.Settings.StrokeMm };
            var thread = old is null || takesThread(old) ? now.Thread : old.Thread;
            var at = new Placement(Math.Round(l.At.X, 6), Math.Round(l.At.Y, 6), Geometry.Turn.Normalised(Math.Round(l.TurnDegrees, 6)));
            return new DrawingShape(old?.Key ?? numbers.Next(), l.Text, shapeOf(l), settings, thread, at);
        });
    }
}
