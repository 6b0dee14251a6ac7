using System.Collections.Immutable;
using EvenThimble.Core.Geometry;
using EvenThimble.Core.Text;

namespace EvenThimble.Core.Lettering;

/// <summary>How the lines of a block lie to each other.</summary>
public enum LetterAlign : byte
{
    /// <summary>Their left ends below each other.</summary>
    Left,

    /// <summary>Their middles below each other.</summary>
    Centre,

    /// <summary>Their right ends below each other.</summary>
    Right,

    /// <summary>All as wide as the widest, by the gaps between words, or between letters where there is one word.</summary>
    Justified,
}

/// <summary>What is wanted of a lettering: its text and how it is laid. Nothing of what came of it.</summary>
/// <param name="Text">The text; line breaks part its lines.</param>
public sealed record LetteringWish(string Text)
{
    /// <summary>No text is longer, characters.</summary>
    public const int MostCharacters = 2_000;

    /// <summary>The smallest and largest height of capitals, mm.</summary>
    public static readonly (double Least, double Most) Capitals = (2, 500);

    /// <summary>Height of capitals, mm; with a width or height of the block, that decides.</summary>
    public double CapitalMm { get; init; } = 15;

    /// <summary>Exact width of the block, mm; its proportions are kept.</summary>
    public double? WidthMm { get; init; }

    /// <summary>Exact height of the block, mm, where no width is wanted; its proportions are kept.</summary>
    public double? HeightMm { get; init; }

    /// <summary>How lines lie to each other.</summary>
    public LetterAlign Align { get; init; } = LetterAlign.Centre;

    /// <summary>From baseline to baseline, 1 as the font has it.</summary>
    public double LineSpacing { get; init; } = 1;

    /// <summary>Added between letters, in heights of capitals.</summary>
    public double LetterSpacing { get; init; }

    /// <summary>Width of all letters, 1 as the font has them; their height stays.</summary>
    public double Condense { get; init; } = 1;

    /// <summary>Width of spaces, 1 as the font has it.</summary>
    public double WordSpacing { get; init; } = 1;

    /// <summary>By how much letters lean to the right, degrees.</summary>
    public double SlantDegrees { get; init; }

    /// <summary>By how much the whole block is turned, degrees clockwise.</summary>
    public double TurnDegrees { get; init; }

    /// <summary>Whether letters stand below each other.</summary>
    public bool Stacked { get; init; }

    /// <summary>Whether the kerning of the font is kept.</summary>
    public bool FontKerning { get; init; } = true;

    /// <summary>Whether pairs that the font does not kern are set with equal white between them.</summary>
    public bool OpticalSpacing { get; init; } = true;

    /// <summary>Pairs whose distance was set by hand: those that were kept for the font when this was written, and those of this lettering alone.</summary>
    public KerningTable Pairs { get; init; } = KerningTable.Empty;

    /// <summary>Whether those pairs are heeded.</summary>
    public bool OwnKerning { get; init; } = true;

    /// <summary>Letters that lie otherwise than the text has them.</summary>
    public LetterNudges Nudges { get; init; } = LetterNudges.Empty;

    /// <summary>The line that letters stand on.</summary>
    public LetterCourse Course { get; init; } = LetterCourse.Straight;

    /// <summary>The shape that the block is bent to; null: none.</summary>
    public LetterBend? Bend { get; init; }

    /// <summary>Refuses what cannot be wanted.</summary>
    /// <exception cref="EditRefusedException">With the range, in a sentence.</exception>
    public void Check()
    {
        Within("The height of capitals", CapitalMm, Capitals.Least, Capitals.Most, "mm");
        Within("The width of a lettering", WidthMm ?? Capitals.Least, Capitals.Least, 2_000, "mm");
        Within("The height of a lettering", HeightMm ?? Capitals.Least, Capitals.Least, 2_000, "mm");
        Within("The spacing of lines", LineSpacing, 0.5, 5, "times as the font has it");
        Within("The spacing of letters", LetterSpacing, -0.5, 5, "heights of a capital");
        Within("The width of letters", Condense, 0.5, 1.5, "times as the font has it");
        Within("The width of spaces", WordSpacing, 0, 10, "times as the font has it");
        Within("The slant", SlantDegrees, -45, 45, "degrees");
        Within("The turn", TurnDegrees, -360, 360, "degrees");
        if (Course is LetterCourse.OnRing ring) Within("The diameter of a ring", ring.DiameterMm, 5, 2_000, "mm");
        if (Course is LetterCourse.OnArc arc) Within("An arc", arc.Degrees, -350, 350, "degrees");
        foreach (var (_, nudge) in Nudges.All) nudge.Check();
        if (Bend is { } bend) Within("The amount of a bend", bend.Amount, LetterBend.Amounts.Least, LetterBend.Amounts.Most, "heights of the block");
    }

    private static void Within(string what, double value, double least, double most, string unit)
    {
        if (!(value >= least && value <= most)) throw new EditRefusedException($"{what} can be from {LengthText.Decimals(least, 1)} to {LengthText.Decimals(most, 1)} {unit}.");
    }

    /// <summary>Where in the text a letter begins.</summary>
    public int PlaceOf(PlacedLetter letter) => Lines.Take(letter.Line).Sum(l => l.Length + 1) + letter.From;

    /// <summary>Its lines, without empty ones at the end.</summary>
    public ImmutableArray<string> Lines => [.. Text.ReplaceLineEndings("\n").TrimEnd('\n', ' ').Split('\n')];
}

/// <summary>The line that letters stand on.</summary>
public abstract record LetterCourse
{
    private LetterCourse()
    {
    }

    /// <summary>Straight across, one line below the other.</summary>
    public static LetterCourse Straight { get; } = new OnStraight();

    /// <summary>Straight across.</summary>
    public sealed record OnStraight : LetterCourse;

    /// <summary>Around a ring: the first line above with its heads outwards, a second below with its heads inwards, so that both are read from the front.</summary>
    /// <param name="DiameterMm">Of the ring's outer edge: capitals touch it from inside, mm.</param>
    /// <param name="StartDegrees">By how much both are turned about the middle, clockwise.</param>
    /// <param name="Inward">Whether it is read from within: the heads of the first line inwards, of the second outwards.</param>
    public sealed record OnRing(double DiameterMm, double StartDegrees = 0, bool Inward = false) : LetterCourse;

    /// <summary>Bent over an arc, each letter turned with it; above 0 the middle is highest.</summary>
    /// <param name="Degrees">Over how much of a circle the widest line goes.</param>
    public sealed record OnArc(double Degrees) : LetterCourse;

    /// <summary>Along a guide path.</summary>
    /// <param name="Path">Its points in mm, at least two.</param>
    public sealed record OnPath(ImmutableArray<Point> Path) : LetterCourse
    {
        /// <summary>Equal when every point is.</summary>
        public bool Equals(OnPath? other) => other is not null && Path.AsSpan().SequenceEqual(other.Path.AsSpan());

        /// <inheritdoc/>
        public override int GetHashCode() => HashCode.Combine(Path.Length, Path.IsEmpty ? default : Path[0]);
    }
}
