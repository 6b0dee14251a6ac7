using System.Collections.Immutable;
using EvenThimble.Core.Geometry;
using EvenThimble.Core.Jobs;
using EvenThimble.Core.Lettering;

namespace EvenThimble.Core.Files.Jobs;

/// <summary>What is wanted of a lettering. What is not said is as <see cref="LetteringWish"/> has it; its letters stand among the shapes.</summary>
internal sealed record StoredLettering(
    string Text, string Font, double Capital, double? Width, string? Align, double? LineSpacing, double LetterSpacing, double? WordSpacing, double Slant, double Turn, bool Stacked,
    bool NoFontKerning, bool NoOptical, double? Ring, double RingStart, double? Arc, double[]? Path, string? Bend, double BendAmount, bool NoOwnKerning, StoredPair[]? Pairs, double? Laid, string? Outline, bool OutlineAlone, bool RingInward, double? Height, StoredNudge[]? Nudges, double? Condense = null)
{
    private static readonly LetteringWish Usual = new(string.Empty);

    public static StoredLettering Of(ITextContent content) => Of(content.Wish, content.Font, content.CapitalMm, (content as LetteringContent)?.Outline);

    public static StoredLettering Of(LetteringWish wish, string font, double capitalMm, LetterOutline? around)
    {
        var ring = wish.Course as LetterCourse.OnRing;
        return new(
            wish.Text, font, wish.CapitalMm, wish.WidthMm, wish.Align == Usual.Align ? null : wish.Align.ToString(), Unless(wish.LineSpacing, Usual.LineSpacing), wish.LetterSpacing,
            Unless(wish.WordSpacing, Usual.WordSpacing), wish.SlantDegrees, wish.TurnDegrees, wish.Stacked, !wish.FontKerning, !wish.OpticalSpacing, ring?.DiameterMm, ring?.StartDegrees ?? 0,
            (wish.Course as LetterCourse.OnArc)?.Degrees, (wish.Course as LetterCourse.OnPath)?.Path.SelectMany(p => new[] { p.X, p.Y }).ToArray(), wish.Bend?.Shape.Name, wish.Bend?.Amount ?? 0, !wish.OwnKerning,
            wish.Pairs.Count == 0 ? null : [.. wish.Pairs.Pairs.Select(p => new StoredPair(p.Left, p.Right, p.Share))], capitalMm == wish.CapitalMm ? null : capitalMm,
            around is { } outline ? StorageKeys.Of(outline.Way) : null, around is { Alone: true }, ring is { Inward: true }, wish.HeightMm,
            wish.Nudges.Count == 0 ? null : [.. wish.Nudges.All.Select(n => new StoredNudge(n.At, n.Nudge.Along, n.Nudge.Down, n.Nudge.TurnDegrees, n.Nudge.Size))], Unless(wish.Condense, Usual.Condense));

        static double? Unless(double value, double usual) => value == usual ? null : value;
    }

    public LetteringContent ToContent(ImmutableArray<DrawingShape> letters) => new(ToWish(), Font, letters)
    {
        CapitalMm = LaidMm,
        Outline = Outline is null ? null : new(StorageKeys.Way(Outline), OutlineAlone),
    };

    /// <summary>Height of its capitals as laid, mm.</summary>
    public double LaidMm => Laid ?? Capital;

    public LetteringWish ToWish() => new(Text)
    {
        CapitalMm = Capital,
        WidthMm = Width,
        HeightMm = Height,
        Align = Align is null ? Usual.Align : Enum.Parse<LetterAlign>(Align),
        LineSpacing = LineSpacing ?? Usual.LineSpacing,
        LetterSpacing = LetterSpacing,
        WordSpacing = WordSpacing ?? Usual.WordSpacing,
        SlantDegrees = Slant,
        Condense = Condense ?? Usual.Condense,
        TurnDegrees = Turn,
        Stacked = Stacked,
        FontKerning = !NoFontKerning,
        OpticalSpacing = !NoOptical,
        OwnKerning = !NoOwnKerning,
        Pairs = (Pairs ?? []).Aggregate(KerningTable.Empty, (table, p) => table.With(p.Left, p.Right, p.Share)),
        Nudges = (Nudges ?? []).Aggregate(LetterNudges.Empty, (letters, n) => letters.With(n.At, new(n.Along, n.Down, n.Turn, n.Size))),
        Course = Course(),
        Bend = Bend is null ? null : new(BendShape.Find(Bend) ?? throw new InvalidDataException($"The stored job has a lettering that is bent to a shape that is not known: {Bend}."), BendAmount),
    };

    private LetterCourse Course() =>
        Ring is { } diameter ? new LetterCourse.OnRing(diameter, RingStart, RingInward)
        : Arc is { } degrees ? new LetterCourse.OnArc(degrees)
        : Path is { } path ? path.Length % 2 == 0 ? new LetterCourse.OnPath([.. path.Chunk(2).Select(p => new Point(p[0], p[1]))]) : throw new InvalidDataException("The stored job has a lettering on a path that is none.")
        : LetterCourse.Straight;
}

/// <summary>A text written with a letter set: its letters, and how they are sewn. What is wanted of it stands beside.</summary>
internal sealed record StoredLetterSet(List<StoredWritten> Letters, int? OneThread, bool Joined, string[]? Missing);

/// <summary>A letter of a set, with the number of its blob and how its parts divide it.</summary>
internal sealed record StoredWritten(string Key, string Text, int Blob, List<int> Counts, List<int> Threads, StoredPlacement? At);

/// <summary>A pair of letters that was set by hand.</summary>
internal sealed record StoredPair(string Left, string Right, double Share);

/// <summary>A letter that was set by hand, by its place in the text.</summary>
internal sealed record StoredNudge(int At, double Along, double Down, double Turn, double Size);
