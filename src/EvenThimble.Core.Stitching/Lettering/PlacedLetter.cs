using System.Collections.Immutable;
using EvenThimble.Core.Geometry;
using EvenThimble.Core.Shapes;

namespace EvenThimble.Core.Lettering;

/// <summary>A letter where it lies.</summary>
/// <param name="Text">The characters that it stands for.</param>
/// <param name="Line">Which line of the text it is of, from 0.</param>
/// <param name="From">Where in its line those characters begin.</param>
/// <param name="Outline">Its outlines, mm.</param>
/// <param name="Baseline">Where its origin stands on the baseline, mm.</param>
/// <param name="TurnDegrees">By how much it is turned, clockwise.</param>
public sealed record PlacedLetter(string Text, int Line, int From, DrawnShape Outline, Point Baseline, double TurnDegrees)
{
    /// <summary>The rectangle about it, mm.</summary>
    public Box Box => Outline.Bounds;

    /// <summary>The same, turned by degrees clockwise about a place.</summary>
    public PlacedLetter Turned(double degrees, Point about) =>
        this with { Outline = Outline.Moved(p => p.Turned(degrees, about)), Baseline = Baseline.Turned(degrees, about), TurnDegrees = TurnDegrees + degrees };

    /// <summary>The rectangle about letters, mm.</summary>
    public static Box BoxOf(IEnumerable<PlacedLetter> letters) => letters.Aggregate(Geometry.Box.Empty, (box, l) => box.With(l.Box));
}

/// <summary>A lettering as it is laid.</summary>
/// <param name="Letters">Those that are seen, line by line in the order of reading.</param>
/// <param name="CapitalMm">Height of its capitals, mm.</param>
/// <param name="Missing">Characters that the font lacks, each once.</param>
public sealed record LaidLettering(ImmutableArray<PlacedLetter> Letters, double CapitalMm, ImmutableArray<string> Missing)
{
    /// <summary>The rectangle about all letters, mm.</summary>
    public Box Box { get; } = PlacedLetter.BoxOf(Letters);
}
