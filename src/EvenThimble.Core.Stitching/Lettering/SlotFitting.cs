using System.Collections.Immutable;
using EvenThimble.Core.Geometry;
using EvenThimble.Core.Text;

namespace EvenThimble.Core.Lettering;

/// <summary>What a text was fitted to a slot by.</summary>
[Flags]
public enum SlotFit : byte
{
    /// <summary>It stands at its full height, as wide as the font has it.</summary>
    Full = 0,

    /// <summary>Its letters are narrower than the font has them.</summary>
    Narrower = 1,

    /// <summary>It is lower than the slot would let it be.</summary>
    Smaller = 2,

    /// <summary>It is written in another of the fonts that are allowed.</summary>
    OtherFont = 4,

    /// <summary>It is lower than its font sews well at.</summary>
    BelowGood = 8,
}

/// <summary>How high letters reach over the baseline and below it where names of a slot are set alike, in heights of a capital.</summary>
/// <param name="Above">Over the baseline.</param>
/// <param name="Below">Below it.</param>
public readonly record struct LineReach(double Above, double Below)
{
    /// <summary>Both together.</summary>
    public double Height => Above + Below;

    /// <summary>That of the plain letters and digits of texts: what all of them need, however each one is spelled. A letter with an accent on it does not make all others lower.</summary>
    public static LineReach Of(LetterFace face, IEnumerable<string> texts)
    {
        var (top, bottom, seen) = (0.0, 0.0, new HashSet<char>());
        foreach (var c in texts.SelectMany(t => t))
        {
            if (!char.IsAsciiLetterOrDigit(c) || !seen.Add(c)) continue;
            foreach (var glyph in face.Font.Shape(c.ToString()).Glyphs)
            {
                if (face.Font.Outline(glyph.Glyph) is not { Paths.Length: > 0 } outline) continue;
                var box = outline.Bounds;
                (top, bottom) = (Math.Min(top, box.MinY + glyph.Offset.Y), Math.Max(bottom, box.MaxY + glyph.Offset.Y));
            }
        }

        // What dips below the line by a hair, as round letters do, is no descender.
        return top < 0 ? new(-top / face.Font.CapitalEm, bottom / face.Font.CapitalEm) : new(1, 0);
    }
}

/// <summary>A text as it stands in a slot.</summary>
/// <param name="Face">Its font.</param>
/// <param name="Wish">What came of the rules: height, width of letters.</param>
/// <param name="Laid">Its letters, about the middle of the slot, mm.</param>
/// <param name="Fit">How it was made to fit.</param>
public sealed record FittedText(LetterFace Face, LetteringWish Wish, LaidLettering Laid, SlotFit Fit);

/// <summary>
/// Fits a text to a box: at its full height; else with narrower letters, down to a bound; else smaller; else in another font that is allowed, where the text would be lower than its font sews well at.
/// </summary>
public sealed class SlotFitting
{
    private const double Near = 1e-4;
    private const int MostSteps = 24;
    private const int UsualSteps = 4;
    private const double Nudge = 0.998;
    private readonly LetteringWish _style;
    private readonly double _width;
    private readonly double _height;
    private readonly double _leastCondense;
    private readonly double? _most;
    private readonly double _beyond;

    /// <summary>Takes the rules of a slot.</summary>
    /// <param name="style">How lines lie, spaces and course; its text, height and width of letters are not heeded.</param>
    /// <param name="widthMm">Width of the slot, mm.</param>
    /// <param name="heightMm">Its height, mm.</param>
    /// <param name="leastCondense">The narrowest letters, 1 as the font has them.</param>
    /// <param name="mostCapitalMm">Capitals are at most so high, mm; null: as high as the slot lets them be.</param>
    /// <param name="beyondMm">By how much stitches reach beyond the outlines of letters on each side, mm; the slot holds them too.</param>
    public SlotFitting(LetteringWish style, double widthMm, double heightMm, double leastCondense, double? mostCapitalMm = null, double beyondMm = 0) =>
        (_style, _width, _height, _leastCondense, _most, _beyond) = (style, widthMm - (2 * beyondMm), heightMm - (2 * beyondMm), leastCondense, mostCapitalMm, beyondMm);

    /// <summary>Fits a text.</summary>
    /// <param name="text">The text.</param>
    /// <param name="faces">The fonts that it may be written in, the wanted one first.</param>
    /// <param name="reach">What the letters of all names of the slot need, by font.</param>
    /// <param name="capitalMm">The height of capitals that was set for this text by hand, mm; it is kept to where the slot lets it.</param>
    /// <exception cref="EditRefusedException">There is nothing to write, or the slot is too small for any letters; a sentence.</exception>
    public FittedText Fitted(string text, IReadOnlyList<LetterFace> faces, Func<LetterFace, LineReach> reach, double? capitalMm = null)
    {
        if (text.Length == 0) throw new EditRefusedException("Nothing stands here for this name.");
        FittedText? best = null;
        foreach (var face in faces)
        {
            if (face.Font.Shape(text.ReplaceLineEndings(" ")).Missing.Count > 0) continue;
            var fitted = In(face, text, reach(face), capitalMm);
            if (face != faces[0]) fitted = fitted with { Fit = fitted.Fit | SlotFit.OtherFont };
            if (!fitted.Fit.HasFlag(SlotFit.BelowGood)) return fitted;
            best ??= fitted;
        }

        return best ?? throw new EditRefusedException($"{faces[0].Name} has no {string.Join(' ', faces[0].Font.Shape(text.ReplaceLineEndings(" ")).Missing)}. Spell the name otherwise, or choose another font.");
    }

    private FittedText In(LetterFace face, string text, LineReach reach, double? byHand)
    {
        var full = Math.Min(FullCapital(face, text, reach), _most ?? double.PositiveInfinity);
        var wish = _style with { Text = text, WidthMm = null, HeightMm = null, Condense = 1, CapitalMm = Math.Min(Math.Min(byHand ?? full, full), LetteringWish.Capitals.Most) };
        LaidLettering? laid = null;
        for (var step = 0; step < MostSteps; step++)
        {
            (var wide, var high, laid) = Over(face, wish);
            if (Math.Max(wide, high) <= 1 + Near) break;

            // Too high, narrower letters are of no help; else they are tried first. What bends does not follow in proportion and is brought in by small steps.
            var times = step < UsualSteps ? 1 : Nudge;
            if (high > 1 + Near) wish = wish with { CapitalMm = wish.CapitalMm / high * times };
            else if (wish.Condense > _leastCondense) wish = wish with { Condense = Math.Max(_leastCondense, wish.Condense / wide * times) };
            else wish = wish with { CapitalMm = wish.CapitalMm / wide * times };
        }

        laid ??= face.Lay(Possible(wish));
        var fit = (wish.Condense < 1 - Near ? SlotFit.Narrower : SlotFit.Full) | (wish.CapitalMm < full * 0.995 ? SlotFit.Smaller : SlotFit.Full)
            | (laid.CapitalMm < face.Measure.SmallestGoodMm - 0.005 ? SlotFit.BelowGood : SlotFit.Full);
        return new(face, wish, Settled(laid, wish, reach, PenOf(face) * wish.CapitalMm / 2), fit);
    }

    /// <summary>The height of capitals at which the lines fill the slot, mm.</summary>
    private double FullCapital(LetterFace face, string text, LineReach reach)
    {
        var lines = (_style with { Text = text }).Lines.Length;
        return Math.Max(0, _height) / (reach.Height + PenOf(face) + ((lines - 1) * face.Font.LineEm * _style.LineSpacing / face.Font.CapitalEm));
    }

    /// <summary>How many times wider and higher than the slot a lettering is; and how it is laid, where it can be for this.</summary>
    private (double Wide, double High, LaidLettering? Laid) Over(LetterFace face, LetteringWish wish)
    {
        if (_style.Course is not LetterCourse.OnPath path)
        {
            var (laid, pen) = (face.Lay(Possible(wish)), PenOf(face) * wish.CapitalMm);
            return ((laid.Box.Width + pen) / _width, (laid.Box.Height + pen) / _height, laid);
        }

        // What lies on a path has to be no longer than the path before it can be laid there.
        var length = face.Lay(Possible(wish) with { Course = LetterCourse.Straight }).Box.Width;
        return (length * (1 + Near) / new MeasuredLine([.. path.Path]).Length, 0, null);
    }

    private static double PenOf(LetterFace face) => (face.Font.PenEm ?? 0) / face.Font.CapitalEm;

    private LetteringWish Possible(LetteringWish wish) => wish.CapitalMm >= LetteringWish.Capitals.Least ? wish
        : throw new EditRefusedException($"The slot of {LengthText.Decimals(_width + (2 * _beyond), 1)} × {LengthText.Decimals(_height + (2 * _beyond), 1)} mm is too small for “{wish.Text.ReplaceLineEndings(" / ")}”: its letters would be under {LetteringWish.Capitals.Least:0} mm. Make the slot larger, or shorten the text.");

    private bool IsOnPath => _style.Course is LetterCourse.OnPath;

    /// <summary>In its place in the slot: on the line that all names share, and up or down from it only as far as a letter would stand out.</summary>
    private LaidLettering Settled(LaidLettering laid, LetteringWish wish, LineReach reach, double halfPen)
    {
        if (IsOnPath || laid.Letters.IsEmpty) return laid;
        var box = laid.Box.Grown(halfPen);
        var across = wish.Align switch
        {
            LetterAlign.Left or LetterAlign.Justified => (-_width / 2) - box.MinX,
            LetterAlign.Right => (_width / 2) - box.MaxX,
            _ => -box.Middle.X,
        };
        var down = -box.Middle.Y;
        if (wish.Course is LetterCourse.OnStraight && !wish.Stacked)
        {
            // The lines as a block: from the reach over the first baseline to the reach under the last.
            var (first, last) = (laid.Letters.MinBy(l => l.Line)!, laid.Letters.MaxBy(l => l.Line)!);
            var (top, bottom) = (first.Baseline.Y - (reach.Above * laid.CapitalMm), last.Baseline.Y + (reach.Below * laid.CapitalMm));
            down = -(top + bottom) / 2;
            var (up, low) = ((-_height / 2) - box.MinY, (_height / 2) - box.MaxY);
            down = up > low ? -box.Middle.Y : Math.Clamp(down, up, low);
        }

        var by = new Point(across, down);
        return laid with { Letters = [.. laid.Letters.Select(l => l with { Outline = l.Outline.Moved(p => p + by), Baseline = l.Baseline + by })] };
    }
}
