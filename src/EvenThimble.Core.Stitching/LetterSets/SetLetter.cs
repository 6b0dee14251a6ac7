using EvenThimble.Core.Stitches;
using EvenThimble.Core.Threads;

namespace EvenThimble.Core.LetterSets;

/// <summary>A letter of a set: a stitch file, and where it stands on its baseline. Lengths are mm of its file.</summary>
/// <param name="Character">Which character it is.</param>
/// <param name="Path">The file it came as.</param>
/// <param name="Design">Its stitches.</param>
/// <param name="Ink">What they cover.</param>
/// <param name="BaselineY">Where its baseline lies in the file.</param>
public sealed record SetLetter(string Character, string Path, StitchFile Design, LetterInk Ink, double BaselineY)
{
    /// <summary>Room added on its left, by hand.</summary>
    public double LeftMm { get; init; }

    /// <summary>Room added on its right, by hand.</summary>
    public double RightMm { get; init; }

    /// <summary>How far off the baseline of the other letters its file had it, downwards; 0: on it.</summary>
    public double OffMm { get; init; }

    /// <summary>Its threads are not those of the others.</summary>
    public bool OddThread { get; init; }

    /// <summary>How far above the baseline it reaches.</summary>
    public double AboveMm => BaselineY - Ink.Box.MinY;

    /// <summary>How far below the baseline it reaches; below 0: it ends above.</summary>
    public double BelowMm => Ink.Box.MaxY - BaselineY;

    /// <summary>Width of its ink.</summary>
    public double WidthMm => Ink.Box.Width;

    /// <summary>The thread of most of its stitches.</summary>
    public SewingThread MainThread => Design.Parts.GroupBy(p => p.Thread).MaxBy(g => g.Sum(p => p.Count))!.Key;
}

/// <summary>What a person has put right about one file of a set. What is not said is as it was found.</summary>
public sealed record LetterMending
{
    /// <summary>Nothing.</summary>
    public static LetterMending None { get; } = new();

    /// <summary>Farthest that a letter can be moved, or room added, mm.</summary>
    public const double MostMm = 200;

    /// <summary>Which character it is.</summary>
    public string? Character { get; init; }

    /// <summary>It is not used.</summary>
    public bool LeftOut { get; init; }

    /// <summary>Raised from where its baseline was found, mm.</summary>
    public double RaisedMm { get; init; }

    /// <summary>Room added on its left, mm.</summary>
    public double LeftMm { get; init; }

    /// <summary>Room added on its right, mm.</summary>
    public double RightMm { get; init; }

    /// <summary>It is sewn in the thread of the other letters.</summary>
    public bool UsualThread { get; init; }
}
