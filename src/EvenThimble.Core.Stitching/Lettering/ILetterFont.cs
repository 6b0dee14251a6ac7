using EvenThimble.Core.Geometry;
using EvenThimble.Core.Shapes;

namespace EvenThimble.Core.Lettering;

/// <summary>A font as letters are laid from it. All its lengths are parts of its em; y grows downwards, and the baseline lies at 0.</summary>
public interface ILetterFont
{
    /// <summary>What people call it.</summary>
    string Name { get; }

    /// <summary>Height of its capitals, em.</summary>
    double CapitalEm { get; }

    /// <summary>Height of its small letters without ascender, em.</summary>
    double SmallEm { get; }

    /// <summary>From baseline to baseline, em.</summary>
    double LineEm { get; }

    /// <summary>Width of the pen where its letters are lines; null where they are outlines, em.</summary>
    double? PenEm { get; }

    /// <summary>Set by equal white, letters come no nearer to each other than this, em; 0 where the font's own design sees to it.</summary>
    double LeastGapEm => 0;

    /// <summary>The glyphs of one line of text, from left to right as they are seen.</summary>
    ShapedLine Shape(string line);

    /// <summary>The outlines of a glyph, or its open lines where the font has a pen, em; without any for a space.</summary>
    DrawnShape Outline(int glyph);
}

/// <summary>A glyph in its line.</summary>
/// <param name="Glyph">Its number in the font.</param>
/// <param name="From">Where in the line's text the characters begin that it stands for.</param>
/// <param name="Text">Those characters; several where they are one letter together.</param>
/// <param name="AdvanceEm">From its origin to the next one's, without kerning, em.</param>
/// <param name="KernEm">By how much the font itself would change that, em.</param>
/// <param name="Offset">Of its outlines from its origin, em.</param>
public sealed record ShapedGlyph(int Glyph, int From, string Text, double AdvanceEm, double KernEm, Point Offset)
{
    /// <summary>Whether it only keeps words apart.</summary>
    public bool IsSpace => Text.Length > 0 && string.IsNullOrWhiteSpace(Text);
}

/// <summary>A line of text as a font writes it.</summary>
/// <param name="Glyphs">From left to right.</param>
/// <param name="Missing">The characters that the font lacks, each once, in the order of the text.</param>
public sealed record ShapedLine(IReadOnlyList<ShapedGlyph> Glyphs, IReadOnlyList<string> Missing);
