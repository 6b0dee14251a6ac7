using System.Globalization;
using EvenThimble.Core.Geometry;
using EvenThimble.Core.Lettering;
using EvenThimble.Core.Shapes;

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

    // Letters join where most of them end in something thin at one height: how much of a small letter's height that is, how near the heights are, and how many letters must.
    private const double ThinOfSmall = 0.4;
    private const double DepthOfSmall = 0.06;
    private const double SameOfSmall = 0.1;
    private const double LeastJoining = 0.6;
    private const int LeastLetters = 4;

    // Threads that join lie over each other so far, mm.
    private const double JoinedMm = 0.3;
    private readonly LetterSetSize _size;
    private readonly List<(SetLetter Letter, double Times)> _glyphs = [];
    private readonly List<DrawnShape> _outlines = [];
    private readonly Dictionary<string, int> _numbers = new(StringComparer.Ordinal);
    private readonly double _unitMm;
    private readonly double? _joinMm;
    private readonly Lazy<OpticalSpacing> _own;

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

        _joinMm = JoinHeight();
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
    public (SetLetter Letter, double Times)? Find(string character) => _numbers.TryGetValue(character.Normalize(), out var number) ? _glyphs[number] : null;

    /// <inheritdoc/>
    public ShapedLine Shape(string line)
    {
        var (glyphs, missing) = (new List<ShapedGlyph>(), new List<string>());
        for (var i = 0; i < line.Length;)
        {
            var length = StringInfo.GetNextTextElementLength(line, i);
            var text = line.Substring(i, length);
            if (string.IsNullOrWhiteSpace(text)) glyphs.Add(new(-1, i, text, SpaceOfCapital * CapitalOfEm, 0, Point.Zero));
            else if (_numbers.TryGetValue(text.Normalize(), out var number)) glyphs.Add(new(number, i, text, AdvanceEm(number), 0, Point.Zero));
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
        if (Meets(a, right: true) && Meets(b, right: false)) return room - GapEm - (JoinedMm / _unitMm);
        return room == 0 ? null : room + _own.Value.Between(left.Glyph, right.Glyph, left.AdvanceEm);
    }

    /// <summary>The height over the baseline at which the small letters join, mm; null: they don't.</summary>
    private double? JoinHeight()
    {
        var small = _size.Letters.Values.Where(l => l.Character is [>= 'a' and <= 'z']).ToList();
        if (small.Count < LeastLetters) return null;
        var ends = small.SelectMany(l => new[] { End(l, right: true), End(l, right: false) }).ToList();
        var thin = ends.Where(e => e.Thin).Select(e => e.AboveMm).Order().ToList();
        if (thin.Count < LeastJoining * ends.Count) return null;
        var height = thin[thin.Count / 2];
        return ends.Count(e => e.Thin && Math.Abs(e.AboveMm - height) <= SameOfSmall * _size.SmallMm) >= LeastJoining * ends.Count ? height : null;
    }

    private bool Meets(SetLetter letter, bool right) => _joinMm is { } height && End(letter, right) is var end && end.Thin && Math.Abs(end.AboveMm - height) <= SameOfSmall * _size.SmallMm;

    /// <summary>How a letter ends on one side: at which height over the baseline, and whether in something thin.</summary>
    private (double AboveMm, bool Thin) End(SetLetter letter, bool right)
    {
        var (y, height) = letter.Ink.Reaching(right, DepthOfSmall * _size.SmallMm);
        return (letter.BaselineY - y, height <= ThinOfSmall * _size.SmallMm);
    }
}
