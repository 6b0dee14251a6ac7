using System.Collections.Immutable;
using EvenThimble.Core.Geometry;
using EvenThimble.Core.Text;

namespace EvenThimble.Core.Lettering;

/// <summary>How one letter lies otherwise than its text has it, so that letters that touch, as those of a script do, can each be set by hand and still flow into one another.</summary>
/// <param name="Along">Moved along its baseline, heights of a capital.</param>
/// <param name="Down">Moved below it, heights of a capital.</param>
/// <param name="TurnDegrees">Turned about its own middle, clockwise.</param>
/// <param name="Size">Its size, 1 as the others.</param>
public readonly record struct LetterNudge(double Along, double Down, double TurnDegrees, double Size)
{
    /// <summary>As its text has it.</summary>
    public static LetterNudge None { get; } = new(0, 0, 0, 1);

    // The farthest that a letter can be moved, heights of a capital.
    private const double Farthest = 3;

    /// <summary>Refuses what cannot be.</summary>
    /// <exception cref="EditRefusedException">With the range, in a sentence.</exception>
    public void Check()
    {
        if (!(Math.Abs(Along) <= Farthest && Math.Abs(Down) <= Farthest)) throw new EditRefusedException($"A letter can be moved by at most {Farthest:0} heights of a capital.");
        if (!(Math.Abs(TurnDegrees) <= 180)) throw new EditRefusedException("A letter can be turned by at most 180 degrees.");
        if (!(Size is >= 0.3 and <= 3)) throw new EditRefusedException("A letter can be from 30 % to 300 % of the others.");
    }

    /// <summary>A letter so moved, turned and sized.</summary>
    /// <param name="letter">The letter.</param>
    /// <param name="capitalMm">Height of a capital, mm.</param>
    public PlacedLetter Of(PlacedLetter letter, double capitalMm)
    {
        if (this == None) return letter;
        var (by, middle, size) = (new Point(Along, Down).Turned(letter.TurnDegrees, Point.Zero) * capitalMm, letter.Box.Middle, Size);
        Point Moved(Point p) => middle + ((p - middle) * size) + by;
        return (letter with { Outline = letter.Outline.Moved(Moved), Baseline = Moved(letter.Baseline) }).Turned(TurnDegrees, middle + by);
    }
}

/// <summary>The letters of a text that were set by hand, by the place of their first character in the text. Two with the same letters are equal.</summary>
public sealed class LetterNudges : IEquatable<LetterNudges>
{
    private readonly ImmutableSortedDictionary<int, LetterNudge> _letters;

    private LetterNudges(ImmutableSortedDictionary<int, LetterNudge> letters) => _letters = letters;

    /// <summary>No letter was.</summary>
    public static LetterNudges Empty { get; } = new(ImmutableSortedDictionary<int, LetterNudge>.Empty);

    /// <summary>How many were.</summary>
    public int Count => _letters.Count;

    /// <summary>Each of them, in the order of the text.</summary>
    public IEnumerable<(int At, LetterNudge Nudge)> All => _letters.Select(l => (l.Key, l.Value));

    /// <summary>How the letter at a place of the text lies.</summary>
    public LetterNudge At(int place) => _letters.TryGetValue(place, out var nudge) ? nudge : LetterNudge.None;

    /// <summary>The same with a letter set.</summary>
    /// <exception cref="EditRefusedException">It cannot be set so.</exception>
    public LetterNudges With(int place, LetterNudge nudge)
    {
        nudge.Check();
        nudge = new(Math.Round(nudge.Along, 4), Math.Round(nudge.Down, 4), Math.Round(nudge.TurnDegrees, 3), Math.Round(nudge.Size, 4));
        return new(nudge == LetterNudge.None ? _letters.Remove(place) : _letters.SetItem(place, nudge));
    }

    /// <summary>The same for a text that was edited: letters that are still there keep what was set for them.</summary>
    public LetterNudges Following(string before, string after)
    {
        if (Count == 0 || before == after) return this;
        var kept = CommonOrder.Of(before.ToCharArray(), after.ToCharArray());
        return new(Enumerable.Range(0, after.Length).Where(i => kept[i] is { } old && _letters.ContainsKey(old)).ToImmutableSortedDictionary(i => i, i => _letters[kept[i]!.Value]));
    }

    /// <inheritdoc/>
    public bool Equals(LetterNudges? other) => other is not null && _letters.SequenceEqual(other._letters);

    /// <inheritdoc/>
    public override bool Equals(object? obj) => Equals(obj as LetterNudges);

    /// <inheritdoc/>
    public override int GetHashCode() => _letters.Aggregate(Count, (hash, l) => HashCode.Combine(hash, l.Key, l.Value));
}
