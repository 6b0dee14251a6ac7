using System.Collections.Immutable;
using EvenThimble.Core.Geometry;
using EvenThimble.Core.Lettering;
using EvenThimble.Core.LetterSets;
using EvenThimble.Core.Stitches;
using EvenThimble.Core.Text;
using EvenThimble.Core.Threads;

namespace EvenThimble.Core.Jobs;

/// <summary>A content that a text was written as: in a font, or with a letter set.</summary>
public interface ITextContent
{
    /// <summary>What is wanted.</summary>
    LetteringWish Wish { get; }

    /// <summary>The name of its font or set.</summary>
    string Font { get; }

    /// <summary>Height of its capitals as laid, mm.</summary>
    double CapitalMm { get; }

    /// <summary>How many parts it makes.</summary>
    int PartCount { get; }
}

/// <summary>A letter of a set where it was written.</summary>
/// <param name="Key">Its name within the text; it stays when the text changes around it.</param>
/// <param name="Text">Its character.</param>
/// <param name="Stitches">The stitches of its file.</param>
/// <param name="Divided">How thread changes divide them, from the first record on.</param>
/// <param name="At">Where it lies within the text.</param>
public sealed record WrittenLetter(PartKey Key, string Text, BlobHash Stitches, ImmutableArray<DesignPart> Divided, Placement At)
{
    /// <summary>Equal when every part of it is.</summary>
    public bool Equals(WrittenLetter? other) => other is not null && Key == other.Key && Text == other.Text && Stitches == other.Stitches && At == other.At && Divided.AsSpan().SequenceEqual(other.Divided.AsSpan());

    /// <inheritdoc/>
    public override int GetHashCode() => HashCode.Combine(Key, Text, Stitches, At);
}

/// <summary>
/// A text written with a letter set: what is wanted of it, and its letters as they were laid, each the stitches of its file at their place and size. It is laid anew whenever the wish changes; the letters are
/// kept beside it, so that a job sews the same where the set is not at hand.
/// </summary>
/// <param name="Wish">What is wanted.</param>
/// <param name="Set">The name of the set.</param>
/// <param name="Letters">The letters in the order of reading.</param>
public sealed record LetterSetContent(LetteringWish Wish, string Set, ImmutableArray<WrittenLetter> Letters) : PieceContent, ITextContent
{
    // A height that was typed this near to that of the files means it: the letters stay as they came.
    private const double SameSize = 0.004;

    // Letters as they came are moved by whole hundredths of a millimetre, so that their stitches stay the same in a file.
    private const int DecimalsAsCame = 2;

    /// <summary>How a text is sewn.</summary>
    /// <param name="OneThread">The thread of all letters; null: each has those of its file.</param>
    /// <param name="Joined">All that is sewn in one thread is one part; else each letter is one.</param>
    public readonly record struct Sewn(SewingThread? OneThread, bool Joined);

    /// <summary>Height of its capitals as laid, mm.</summary>
    public double CapitalMm { get; init; } = Wish.CapitalMm;

    /// <summary>How it is sewn.</summary>
    public Sewn How { get; init; }

    /// <summary>Characters that the set lacks; their places are left empty.</summary>
    public ImmutableArray<string> Missing { get; init; } = [];

    /// <inheritdoc/>
    string ITextContent.Font => Set;

    /// <inheritdoc/>
    public int PartCount => Parts.Length;

    /// <summary>The threads of its letters as their files have them, the most used first.</summary>
    public IReadOnlyList<SewingThread> ThreadsAsCame => [.. Letters.SelectMany(l => l.Divided).GroupBy(d => d.Thread).OrderByDescending(g => g.Sum(d => d.Count)).Select(g => g.Key)];

    /// <summary>Writes a text with a set, in the one of its sizes that is nearest.</summary>
    /// <param name="wish">What is wanted.</param>
    /// <param name="set">With which set.</param>
    /// <param name="how">How it is sewn.</param>
    /// <param name="before">What it was before: letters that stay keep their names.</param>
    /// <exception cref="EditRefusedException">It cannot be laid; a sentence.</exception>
    public static LetterSetContent Lay(LetteringWish wish, LetterSet set, Sewn how, LetterSetContent? before = null)
    {
        if (wish.Bend is not null) throw new EditRefusedException("Letters of a set keep their stitches, so they cannot be bent to a shape. Lay them on an arc or along a line, or choose a font.");
        var fitted = wish.WidthMm is not null || wish.HeightMm is not null;
        var size = set.Nearest(wish.CapitalMm);
        if (!fitted && Math.Abs((wish.CapitalMm / size.CapitalMm) - 1) < SameSize) wish = wish with { CapitalMm = size.CapitalMm };
        var laid = set.FontOf(size).Face.Lay(wish);
        if (fitted && set.Nearest(laid.CapitalMm) is var nearer && nearer != size) (size, laid) = (nearer, set.FontOf(nearer).Face.Lay(wish));
        var font = set.FontOf(size).Font;
        var names = new PartKeys(before?.Letters.Select(l => l.Key));
        var kept = CommonOrder.Of([.. before?.Letters.Select(l => l.Text) ?? []], [.. laid.Letters.Select(l => l.Text)]);
        var letters = laid.Letters.Select((l, i) =>
        {
            var (letter, times) = font.Find(l.Text)!.Value;
            var key = kept[i] is { } old ? before!.Letters[old].Key : names.Next();
            var at = PlaceOf(l, letter, laid.CapitalMm / font.CapitalMm * times * wish.Nudges.At(wish.PlaceOf(l)).Size, wish.SlantDegrees);
            return new WrittenLetter(key, letter.Character, letter.Design.Stitches.Hash, [.. letter.Design.Parts.Select(p => new DesignPart(p.Count, p.Thread, PartRole.Decoration))], at);
        });
        return new(wish, set.Name, [.. letters]) { CapitalMm = Math.Round(laid.CapitalMm, 6), How = how, Missing = laid.Missing };
    }

    /// <summary>Equal when the wish, the set, how it is sewn and every letter are.</summary>
    public bool Equals(LetterSetContent? other) =>
        base.Equals(other) && Wish == other.Wish && Set == other.Set && CapitalMm == other.CapitalMm && How == other.How && Letters.AsSpan().SequenceEqual(other.Letters.AsSpan()) && Missing.AsSpan().SequenceEqual(other.Missing.AsSpan());

    /// <inheritdoc/>
    public override int GetHashCode() => HashCode.Combine(Wish.Text, Set, Letters.Length);

    /// <inheritdoc/>
    protected override ImmutableArray<MadePart> Make() => How.Joined ? [.. JoinedParts()] : [.. Letters.SelectMany(PartsOf)];

    private static Placement PlaceOf(PlacedLetter placed, SetLetter letter, double times, double slantDegrees)
    {
        var asCame = Math.Abs(times - 1) < 1e-9;
        if (asCame) times = 1;
        var lean = slantDegrees == 0 ? 0 : -times * Math.Tan(slantDegrees * Math.PI / 180);
        var size = new Sizing(Math.Round(times, 9), Math.Round(times, 9), Math.Round(lean, 9));
        var at = placed.Baseline - size.Apply(new(letter.Ink.Box.MinX, letter.BaselineY)).Turned(placed.TurnDegrees, Point.Zero);
        var decimals = asCame ? DecimalsAsCame : 6;
        return new Placement(Math.Round(at.X, decimals), Math.Round(at.Y, decimals), Turn.Normalised(Math.Round(placed.TurnDegrees, 6))) { Size = size };
    }

    /// <summary>A letter as a part, or as several where it is sewn in several threads.</summary>
    private IEnumerable<MadePart> PartsOf(WrittenLetter letter)
    {
        var slices = SlicesOf(letter);
        return slices.Select((s, i) => new MadePart(
            i == 0 ? letter.Key : new($"{letter.Key.Text}-{i + 1}"), slices.Count == 1 ? letter.Text : $"{letter.Text}, {s.Thread.Name}", s.Thread, PartRole.Lettering, new PartSource.Bought([s.Slice]), letter.At));
    }

    /// <summary>Letters in as few parts as can be: whatever comes next in the most of them is sewn for all of these in one go.</summary>
    private IEnumerable<MadePart> JoinedParts()
    {
        var left = Letters.Select(l => new Queue<(StitchSlice Slice, SewingThread Thread)>(SlicesOf(l).Select(s => (s.Slice with { Own = l.At }, s.Thread)))).ToList();
        var name = Titles.Clean(Wish.Text.ReplaceLineEndings(" "));
        for (var n = 1; left.Exists(l => l.Count > 0); n++)
        {
            var thread = left.Where(l => l.Count > 0).GroupBy(l => l.Peek().Thread).MaxBy(g => g.Count())!.Key;
            var slices = left.Where(l => l.Count > 0 && l.Peek().Thread == thread).Select(l => l.Dequeue().Slice).ToImmutableArray();
            yield return new(new($"all-{n}"), n == 1 && left.TrueForAll(l => l.Count == 0) ? name : $"{name}, {thread.Name}", thread, PartRole.Lettering, new PartSource.Bought(slices), Placement.AsItCame);
        }
    }

    private List<(StitchSlice Slice, SewingThread Thread)> SlicesOf(WrittenLetter letter)
    {
        var slices = new List<(StitchSlice Slice, SewingThread Thread)>();
        var first = 0;
        foreach (var part in letter.Divided)
        {
            var thread = How.OneThread ?? part.Thread;
            if (slices.Count > 0 && slices[^1].Thread == thread) slices[^1] = (slices[^1].Slice with { Count = slices[^1].Slice.Count + part.Count }, thread);
            else slices.Add((new(letter.Stitches, first, part.Count), thread));
            first += part.Count;
        }

        return slices;
    }
}
