using System.Collections.Immutable;
using System.Globalization;
using EvenThimble.Core.Text;

namespace EvenThimble.Core.Monograms;

/// <summary>Which initial of three stands in the middle.</summary>
public enum InitialOrder : byte
{
    /// <summary>That of the family name, between those of the given ones.</summary>
    FamilyInMiddle,

    /// <summary>As the name is read.</summary>
    AsRead,
}

/// <summary>What is wanted of a monogram. Nothing of what came of it.</summary>
/// <param name="Letters">Its letters from left to right, one to three.</param>
/// <param name="Layout">How they are laid.</param>
public sealed record MonogramWish(ImmutableArray<string> Letters, MonogramLayout Layout)
{
    /// <summary>No monogram has more letters.</summary>
    public const int MostLetters = 3;

    /// <summary>The smallest and the largest, mm.</summary>
    public static readonly (double Least, double Most) Sizes = (8, 500);

    /// <summary>The least and the most between letters and frame, mm.</summary>
    public static readonly (double Least, double Most) Gaps = (0, 100);

    /// <summary>Its longer side with all that is around it, mm.</summary>
    public double SizeMm { get; init; } = 70;

    /// <summary>What is around it; null: nothing.</summary>
    public MonogramFrame? Frame { get; init; }

    /// <summary>What form that has.</summary>
    public FrameForm Form { get; init; } = FrameForm.AsLetters;

    /// <summary>Between letters and frame where they are nearest, mm.</summary>
    public double FrameGapMm { get; init; } = 3;

    /// <summary>Between letters, as part of the size of the letters.</summary>
    public double LetterGap { get; init; } = 0.03;

    /// <summary>The name that its letters were taken from; null: they were typed.</summary>
    public string? Name { get; init; }

    /// <summary>In which order three initials of a name stand.</summary>
    public InitialOrder Order { get; init; }

    /// <summary>What it is called.</summary>
    public string Called => string.Concat(Letters);

    /// <summary>Refuses what cannot be wanted.</summary>
    /// <exception cref="EditRefusedException">With the range, in a sentence.</exception>
    public void Check()
    {
        if (Letters.Length is 0 or > MostLetters) throw new EditRefusedException(Letters.Length == 0 ? "There are no letters yet. Type one to three, or a name." : $"A monogram has one to three letters; these are {Letters.Length}.");
        if (Letters.Any(l => l.Length == 0 || string.IsNullOrWhiteSpace(l))) throw new EditRefusedException("A monogram needs letters that can be seen.");
        if (!(SizeMm >= Sizes.Least && SizeMm <= Sizes.Most)) throw new EditRefusedException($"A monogram can be from {Sizes.Least:0} to {Sizes.Most:0} mm.");
        if (!(FrameGapMm >= Gaps.Least && FrameGapMm <= Gaps.Most)) throw new EditRefusedException($"Between letters and frame there can be from {Gaps.Least:0} to {Gaps.Most:0} mm.");
        if (!(LetterGap is >= 0 and <= 0.3)) throw new EditRefusedException("Between letters there can be from 0 to 30 % of their size.");
    }

    /// <summary>Equal when all is.</summary>
    public bool Equals(MonogramWish? other) => other is not null && Letters.AsSpan().SequenceEqual(other.Letters.AsSpan()) && Layout == other.Layout && SizeMm == other.SizeMm && Frame == other.Frame && Form == other.Form
        && FrameGapMm == other.FrameGapMm && LetterGap == other.LetterGap && Name == other.Name && Order == other.Order;

    /// <inheritdoc/>
    public override int GetHashCode() => HashCode.Combine(Called, Layout, SizeMm, Frame, FrameGapMm);
}

/// <summary>The letters of a monogram as they are typed: themselves, or a name.</summary>
public static class Initials
{
    /// <summary>Whether a text is a name rather than the letters themselves.</summary>
    public static bool IsName(string text) => ElementsOf(text.Replace(" ", string.Empty, StringComparison.Ordinal).Replace(".", string.Empty, StringComparison.Ordinal)).Count > MonogramWish.MostLetters;

    /// <summary>The letters of a text from left to right: those typed, or of a name the first of its given names and of the family name, which is its last word.</summary>
    public static ImmutableArray<string> Of(string text, InitialOrder order)
    {
        if (!IsName(text)) return [.. ElementsOf(text).Where(IsSeen)];
        var words = text.Split([' ', '\t', '\n', '-', '.'], StringSplitOptions.RemoveEmptyEntries).Select(w => ElementsOf(w).FirstOrDefault(IsSeen)).OfType<string>().Select(w => w.ToUpper(CultureInfo.InvariantCulture)).ToList();
        return words switch
        {
            [] => [],
            [var only] => [only],
            [var given, var family] => [given, family],
            [var given, var second, ..] => order == InitialOrder.FamilyInMiddle ? [given, words[^1], second] : [given, second, words[^1]],
        };
    }

    private static bool IsSeen(string element) => char.IsLetterOrDigit(element, 0) || element == "&";

    private static List<string> ElementsOf(string text)
    {
        var elements = new List<string>();
        for (var each = StringInfo.GetTextElementEnumerator(MarkedLetters.Composed(text)); each.MoveNext();) elements.Add(each.GetTextElement());
        return elements;
    }
}
