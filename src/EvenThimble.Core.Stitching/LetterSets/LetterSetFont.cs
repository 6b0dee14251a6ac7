using System.Globalization;
using EvenThimble.Core.Geometry;
using EvenThimble.Core.Lettering;
using EvenThimble.Core.Shapes;
using EvenThimble.Core.Stitches;
using EvenThimble.Core.Text;

namespace EvenThimble.Core.LetterSets;

/// <summary>
/// A letter set in one of its sizes as a font, so that a text is laid with it as with any other: set apart by equal white, by hand, on lines, rings and paths. Its outlines are the edges of the thread; letters of a
/// script that join at one height are set so that they meet there. What a size lacks is taken from the next.
/// </summary>
public sealed class LetterSetFont : ILetterFont
{
    // The em of most fonts is so many times the height of their capitals.
    private const double CapitalOfEm = 0.7;

    // Between the stems of HH, and of nn, in heights of a capital; and a space.
    private const double GapOfCapital = 0.2;
    private const double LeastOfGap = 0.3;
    private const double SpaceOfCapital = 0.55;
    private const double LineOfCapital = 1.6;

    // A joint lies no deeper within a letter than this part of its width.
    private const double MostWithin = 0.5;

    // Threads that join lie over each other so far, mm.
    private const double JoinedMm = 0.3;
    private readonly LetterSetSize _size;
    private readonly List<(SetLetter Letter, double Times)> _glyphs = [];
    private readonly List<DrawnShape> _outlines = [];
    private readonly Dictionary<string, int> _numbers = new(StringComparer.Ordinal);
    private readonly double _unitMm;
    private readonly double? _joinMm;
    private readonly Made<OpticalSpacing> _own;

    /// <summary>A size of a set as a font.</summary>
    public LetterSetFont(LetterSet set, LetterSetSize size)
    {
        (Name, _size, _unitMm) = (set.Name, size, size.CapitalMm / CapitalOfEm);
        foreach (var from in set.Sizes.OrderBy(s => s == size ? 0 : Math.Abs(Math.Log(s.CapitalMm / size.CapitalMm))))
        {
            foreach (var letter in from.Letters.Values)
            {
                if (!_numbers.TryAdd(letter.Character, _glyphs.Count)) continue;
                _glyphs.Add((letter, size.CapitalMm / from.CapitalMm));
                var (at, times) = (new Point(letter.Ink.Box.MinX, letter.BaselineY), size.CapitalMm / from.CapitalMm / _unitMm);
                _outlines.Add(letter.Ink.Silhouette().Moved(p => (p - at) * times));
            }
        }

        _joinMm = JoinFinder.HeightOf([.. size.Letters.Values], size.SmallMm);
        _own = new(() => new(this));
    }

    /// <inheritdoc/>
    public string Name { get; }

    /// <inheritdoc/>
    public double CapitalEm => CapitalOfEm;

    /// <inheritdoc/>
    public double SmallEm => _size.SmallMm / _unitMm;

    /// <inheritdoc/>
    public double LineEm => LineOfCapital * CapitalOfEm;

    /// <inheritdoc/>
    public double? PenEm => null;

    /// <inheritdoc/>
    public double LeastGapEm => LeastOfGap * GapEm;

    /// <summary>Height of its capitals as they came, mm.</summary>
    public double CapitalMm => _size.CapitalMm;

    /// <summary>Whether its small letters join, as those of a script do.</summary>
    public bool Joins => _joinMm is not null;

    private static double GapEm => GapOfCapital * CapitalOfEm;

    /// <summary>The letter of a character, and how many times as large it is to be made to go with the others of this size; null: the set has none.</summary>
    public (SetLetter Letter, double Times)? Find(string character) => _numbers.TryGetValue(MarkedLetters.Composed(character), out var number) ? _glyphs[number] : null;

    /// <inheritdoc/>
    public ShapedLine Shape(string line)
    {
        var (glyphs, missing) = (new List<ShapedGlyph>(), new List<string>());
        for (var i = 0; i < line.Length;)
        {
            var length = StringInfo.GetNextTextElementLength(line, i);
            var text = line.Substring(i, length);
            if (string.IsNullOrWhiteSpace(text)) glyphs.Add(new(-1, i, text, SpaceOfCapital * CapitalOfEm, 0, Point.Zero));
            else if (_numbers.TryGetValue(MarkedLetters.Composed(text), out var number)) glyphs.Add(new(number, i, text, AdvanceEm(number), 0, Point.Zero));
            else
            {
                // Where a letter is missing its place is left, so that it is seen.
                glyphs.Add(new(-1, i, text, CapitalOfEm, 0, Point.Zero));
                if (!missing.Contains(text)) missing.Add(text);
            }

            i += length;
        }

        for (var i = 0; i + 1 < glyphs.Count; i++)
            if (KernEm(glyphs[i], glyphs[i + 1]) is { } kern)
                glyphs[i] = glyphs[i] with { KernEm = kern };
        return new(glyphs, missing);
    }

    /// <inheritdoc/>
    public DrawnShape Outline(int glyph) => glyph < 0 ? new([]) : _outlines[glyph];

    private double AdvanceEm(int number) => _glyphs[number] is var (letter, times) ? (letter.WidthMm * times / _unitMm) + GapEm : 0;

    /// <summary>What two letters that join, or beside which room was added by hand, ask for; null: equal white does.</summary>
    private double? KernEm(ShapedGlyph left, ShapedGlyph right)
    {
        if (left.Glyph < 0 || right.Glyph < 0) return null;
        var ((a, ofA), (b, ofB)) = (_glyphs[left.Glyph], _glyphs[right.Glyph]);
        var room = ((a.RightMm * ofA) + (b.LeftMm * ofB)) / _unitMm;
        if (Joint(a, right: true) is { } exit && Joint(b, right: false) is { } entry) return room - GapEm - (((exit * ofA) + (entry * ofB) + JoinedMm) / _unitMm);
        return room == 0 ? null : room + _own.Value.Between(left.Glyph, right.Glyph, left.AdvanceEm);
    }

    /// <summary>How far within its own width a letter of a script joins the next on one side, mm; null: it does not.</summary>
    private double? Joint(SetLetter letter, bool right)
    {
        if (_joinMm is not { } height) return null;
        if (JoinFinder.EndsAt(letter, right, height, _size.SmallMm)) return 0;

        // Ascenders and descenders may lean beyond their joint; a capital joins only with its outermost end.
        if (!JoinFinder.IsSmall(letter) || letter.Ink.EdgeAt(letter.BaselineY - height, right) is not { } edge) return null;
        var within = right ? letter.Ink.Box.MaxX - edge : edge - letter.Ink.Box.MinX;
        return within <= MostWithin * letter.WidthMm ? within : null;
    }
}
