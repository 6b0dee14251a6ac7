using System.Collections.Immutable;
using EvenThimble.Core.Craft;
using EvenThimble.Core.Lettering;
using EvenThimble.Core.Stitches;
using EvenThimble.Core.Threads;

namespace EvenThimble.Core.Jobs;

/// <summary>
/// Text as thread: what is wanted of it, and its letters as they were laid. It is laid anew whenever the wish changes; the letters are kept beside it, so that a job sews the same where its font
/// is not at hand.
/// </summary>
/// <param name="Wish">What is wanted.</param>
/// <param name="Font">The name of its font.</param>
/// <param name="Shapes">The letters, those that touch together as one shape, in the order of reading.</param>
public sealed record LetteringContent(LetteringWish Wish, string Font, ImmutableArray<DrawingShape> Shapes) : DrawingContent(Shapes)
{
    /// <summary>The content of letters as they were laid.</summary>
    /// <param name="wish">What was wanted.</param>
    /// <param name="font">The name of the font.</param>
    /// <param name="letters">The letters.</param>
    /// <param name="before">What it was before: letters that stay keep their names, and how and with what they are stitched.</param>
    /// <param name="usual">How and with what others are stitched.</param>
    public static LetteringContent Of(LetteringWish wish, string font, IReadOnlyList<LetterShape> letters, LetteringContent? before, (StitchSettings Settings, SewingThread Thread) usual)
    {
        var kept = before is null ? new int?[letters.Count] : Kept([.. before.Shapes.Select(s => s.Name)], [.. letters.Select(l => l.Text)]);
        var next = 1 + (before?.Shapes.Select(s => int.TryParse(s.Key.Text, out var n) ? n : 0).DefaultIfEmpty(0).Max() ?? 0);
        return new(wish, font, [.. letters.Select((l, i) =>
        {
            var old = kept[i] is { } k ? before!.Shapes[k] : null;
            var at = new Placement(Math.Round(l.At.X, 6), Math.Round(l.At.Y, 6), Geometry.Turn.Normalised(Math.Round(l.TurnDegrees, 6)));
            return new DrawingShape(old?.Key ?? PartKey.Numbered(next++), l.Text, l.Outline, old?.Settings ?? usual.Settings, old?.Thread ?? usual.Thread, at);
        })]);
    }

    /// <summary>Equal when the wish, the font and every letter are.</summary>
    public bool Equals(LetteringContent? other) => base.Equals(other) && Wish == other.Wish && Font == other.Font;

    /// <inheritdoc/>
    public override int GetHashCode() => HashCode.Combine(base.GetHashCode(), Wish.Text, Font);

    /// <inheritdoc/>
    protected override ImmutableArray<MadePart> Make() => [.. Shapes.Select(s => new MadePart(s.Key, s.Name, s.Thread, PartRole.Lettering, new PartSource.Drawn(s.Shape, s.Settings), s.At))];

    /// <summary>By place in a new text: which letter of the old one it is (the longest common subsequence of both); null: none.</summary>
    private static int?[] Kept(string[] before, string[] after)
    {
        var lengths = new int[before.Length + 1, after.Length + 1];
        for (var i = before.Length - 1; i >= 0; i--)
            for (var k = after.Length - 1; k >= 0; k--)
                lengths[i, k] = before[i] == after[k] ? lengths[i + 1, k + 1] + 1 : Math.Max(lengths[i + 1, k], lengths[i, k + 1]);
        var kept = new int?[after.Length];
        for (var (i, k) = (0, 0); i < before.Length && k < after.Length;)
        {
            if (before[i] == after[k]) kept[k++] = i++;
            else if (lengths[i + 1, k] >= lengths[i, k + 1]) i++;
            else k++;
        }

        return kept;
    }
}
