using System.Collections.Immutable;
using EvenThimble.Core.Craft;
using EvenThimble.Core.Lettering;
using EvenThimble.Core.Names;
using EvenThimble.Core.Stitches;
using EvenThimble.Core.Text;
using EvenThimble.Core.Threads;

namespace EvenThimble.Core.Jobs;

/// <summary>A box that names are fitted to, and the rules for that.</summary>
/// <param name="Pattern">What stands in it: words, and fields of the roster in braces.</param>
/// <param name="WidthMm">Its exact width, mm.</param>
/// <param name="HeightMm">Its exact height, mm.</param>
/// <param name="Font">The name of the font that is wanted.</param>
public sealed record NameSlot(string Pattern, double WidthMm, double HeightMm, string Font)
{
    /// <summary>The least and largest side, mm.</summary>
    public static readonly (double Least, double Most) Sides = (2, 1_000);

    /// <summary>The narrowest letters that a slot can be told to allow, 1 as the font has them.</summary>
    public static readonly (double Least, double Most) Condensing = (0.6, 1);

    /// <summary>How narrow letters may become before they become smaller, 1 as the font has them.</summary>
    public double LeastCondense { get; init; } = 0.85;

    /// <summary>How letters are stitched.</summary>
    public StitchWay Way { get; init; } = StitchWay.Automatic;

    /// <summary>How lines lie in it.</summary>
    public LetterAlign Align { get; init; } = LetterAlign.Centre;

    /// <summary>From line to line, 1 as the font has it.</summary>
    public double LineSpacing { get; init; } = 1;

    /// <summary>What letters stand on: straight lines, an arc, or a guide path.</summary>
    public LetterCourse Course { get; init; } = LetterCourse.Straight;

    /// <summary>Fonts that a name may be written in where it would be too small in the wanted one, by their names.</summary>
    public ImmutableArray<string> OtherFonts { get; init; } = [];

    /// <summary>Capitals are at most so high, mm; null: as high as the slot lets them be.</summary>
    public double? MostCapitalMm { get; init; }

    /// <summary>All its fonts, the wanted one first.</summary>
    public IEnumerable<string> Fonts => OtherFonts.Prepend(Font);

    /// <summary>Equal when every rule is.</summary>
    public bool Equals(NameSlot? other) =>
        other is not null && Pattern == other.Pattern && WidthMm == other.WidthMm && HeightMm == other.HeightMm && Font == other.Font && LeastCondense == other.LeastCondense && Way == other.Way && Align == other.Align
        && LineSpacing == other.LineSpacing && Course == other.Course && MostCapitalMm == other.MostCapitalMm && OtherFonts.AsSpan().SequenceEqual(other.OtherFonts.AsSpan());

    /// <inheritdoc/>
    public override int GetHashCode() => HashCode.Combine(Pattern, WidthMm, HeightMm, Font);

    /// <summary>The slot of a piece as it stands, and where it lies: one that was made larger or smaller by hand is a slot of that size.</summary>
    public static (NameSlot Slot, Placement At) Of(Piece piece)
    {
        var (slot, at) = (((NameSlotContent)piece.Content).Slot, piece.Placement);
        return at.Size.IsOriginal || at.Size.Lean != 0 ? (slot, at) : (slot with { WidthMm = Math.Round(slot.WidthMm * at.Size.Across, 3), HeightMm = Math.Round(slot.HeightMm * at.Size.Down, 3) }, at.Unsized());
    }

    /// <summary>Refuses what cannot be a slot.</summary>
    /// <exception cref="EditRefusedException">With the reason.</exception>
    public void Check()
    {
        Must(Pattern.Trim().Length > 0, "Write what stands in the slot, such as {given} {family}.");
        Must(Pattern.Length <= SlotText.LongestPattern && Pattern.All(c => c == '\n' || !char.IsControl(c)), $"What stands in a slot has at most {SlotText.LongestPattern} characters.");
        foreach (var (what, side) in new[] { ("width", WidthMm), ("height", HeightMm) })
            Must(side >= Sides.Least && side <= Sides.Most, $"The {what} of a slot can be from {Sides.Least:0} to {Sides.Most:0} mm.");
        Must(LeastCondense >= Condensing.Least && LeastCondense <= Condensing.Most, $"Letters can become narrower down to {Condensing.Least * 100:0} percent.");
        Must(LineSpacing is >= 0.5 and <= 5, "The spacing of lines can be from 0.5 to 5 times as the font has it.");
        Must(Font.Length > 0 && Fonts.All(f => f == Titles.Clean(f)) && OtherFonts.Length <= 20, "A slot has a font with a name that cannot be.");
        Must(Enum.IsDefined(Align) && Enum.IsDefined(Way) && Course is LetterCourse.OnStraight or LetterCourse.OnArc or LetterCourse.OnPath, "A slot has its letters on straight lines, an arc or a guide path.");
        Must(MostCapitalMm is null || (MostCapitalMm >= LetteringWish.Capitals.Least && MostCapitalMm <= LetteringWish.Capitals.Most), $"Capitals can be from {LetteringWish.Capitals.Least:0} to {LetteringWish.Capitals.Most:0} mm high.");
        (new LetteringWish("A") with { Course = Course }).Check();

        static void Must(bool holds, string sentence)
        {
            if (!holds) throw new EditRefusedException(sentence);
        }
    }
}

/// <summary>A slot with the name that is shown in it, laid by its rules; for every other name it is laid anew.</summary>
/// <param name="Slot">The slot.</param>
/// <param name="Wish">The text that is shown, and what came of the rules for it.</param>
/// <param name="Font">The font that it is written in.</param>
/// <param name="Shapes">Its letters, about the middle of the slot.</param>
public sealed record NameSlotContent(NameSlot Slot, LetteringWish Wish, string Font, ImmutableArray<DrawingShape> Shapes) : DrawingContent(Shapes)
{
    /// <summary>The text that is shown.</summary>
    public string Text => Wish.Text;

    /// <summary>Height of its capitals as laid, mm.</summary>
    public double CapitalMm => Wish.CapitalMm;

    /// <summary>How it was made to fit.</summary>
    public SlotFit Fit { get; init; }

    /// <summary>The thread of most letters.</summary>
    public SewingThread Thread => Shapes.GroupBy(s => s.Thread).MaxBy(g => g.Count())!.Key;

    /// <summary>A text fitted to a slot.</summary>
    /// <param name="slot">The slot.</param>
    /// <param name="text">The text.</param>
    /// <param name="faces">Where its fonts are found.</param>
    /// <param name="reach">What the letters of all names need, by font.</param>
    /// <param name="cloth">The cloth.</param>
    /// <param name="thread">The thread of its letters.</param>
    /// <param name="capitalMm">The height of capitals that was set by hand for this text, mm.</param>
    /// <exception cref="EditRefusedException">It cannot be laid; a sentence.</exception>
    public static NameSlotContent Lay(NameSlot slot, string text, ILetterFaces faces, Func<LetterFace, LineReach> reach, ClothProfile cloth, SewingThread thread, double? capitalMm = null)
    {
        slot.Check();
        var fonts = slot.Fonts.Select(faces.Find).OfType<LetterFace>().ToList();
        if (fonts.Count == 0 || fonts[0].Name != faces.Find(slot.Font)?.Name) throw new EditRefusedException($"The font {slot.Font} is not here. Choose another, or add its file on Letters.");
        var style = new LetteringWish(string.Empty) { Align = slot.Align, LineSpacing = slot.LineSpacing, Course = slot.Course };
        // Satin and fill reach over the edges of letters by their compensation.
        var beyond = slot.Way == StitchWay.Run ? 0 : cloth.CompensationMm;
        var fitted = new SlotFitting(style, slot.WidthMm, slot.HeightMm, slot.LeastCondense, slot.MostCapitalMm, beyond).Fitted(text, fonts, reach, capitalMm);
        var letters = LetteringContent.Of(fitted.Wish, fitted.Face, fitted.Laid, new(slot.Way, thread));
        return new(slot, fitted.Wish with { CapitalMm = Math.Round(fitted.Laid.CapitalMm, 6), Condense = Math.Round(fitted.Wish.Condense, 6) }, fitted.Face.Name, letters.Shapes) { Fit = fitted.Fit };
    }

    /// <inheritdoc/>
    protected override ImmutableArray<MadePart> Make() => [.. Shapes.Select(s => new MadePart(s.Key, s.Name, s.Thread, PartRole.Lettering, new PartSource.Drawn(s.Shape, s.Settings), s.At))];

    /// <summary>Equal when the slot, the text and every letter are.</summary>
    public bool Equals(NameSlotContent? other) => base.Equals(other) && Slot == other.Slot && Wish == other.Wish && Font == other.Font && Fit == other.Fit;

    /// <inheritdoc/>
    public override int GetHashCode() => HashCode.Combine(base.GetHashCode(), Slot, Wish.Text);
}
