using System.Collections.Immutable;
using EvenThimble.Core.Stitches;
using EvenThimble.Core.Text;

namespace EvenThimble.Core.LetterSets;

/// <summary>A file of a set as it came: read, or the sentence that says why it could not be.</summary>
/// <param name="Path">Its name, with the folders that it lay in, parted by <c>/</c>.</param>
/// <param name="Design">What it holds; null: it could not be read.</param>
/// <param name="Trouble">Why not.</param>
public sealed record SetFile(string Path, StitchFile? Design, string? Trouble = null);

/// <summary>The files that a set came as and what a person has put right about them: all that a set is made of.</summary>
/// <param name="Name">What it is called.</param>
/// <param name="Files">Its files.</param>
public sealed record LetterSetSource(string Name, ImmutableArray<SetFile> Files)
{
    /// <summary>No set has more files.</summary>
    public const int MostFiles = 2_000;

    /// <summary>What letters are whose file names do not say whether they are capital.</summary>
    public LetterCase Unsaid { get; init; }

    /// <summary>What was put right, by the paths of files.</summary>
    public ImmutableSortedDictionary<string, LetterMending> Mended { get; init; } = ImmutableSortedDictionary.Create<string, LetterMending>(StringComparer.Ordinal);

    /// <summary>What was put right about a file.</summary>
    public LetterMending MendingOf(string path) => Mended.GetValueOrDefault(path, LetterMending.None);

    /// <summary>The same with something put right.</summary>
    /// <exception cref="EditRefusedException">It cannot be so; a sentence.</exception>
    public LetterSetSource With(string path, LetterMending mending)
    {
        if (!Files.Any(f => f.Path == path)) throw new EditRefusedException("That file is not in this set.");
        if (mending.Character is { } character && !IsCharacter(character)) throw new EditRefusedException($"“{Titles.Clean(character)}” is not one character. Type one, such as A or é.");
        if (!(Math.Abs(mending.RaisedMm) <= LetterMending.MostMm && Math.Abs(mending.LeftMm) <= LetterMending.MostMm && Math.Abs(mending.RightMm) <= LetterMending.MostMm))
            throw new EditRefusedException($"A letter can be moved, and room added beside it, by at most {LetterMending.MostMm:0} mm.");
        mending = mending with { Character = mending.Character is { } typed ? MarkedLetters.Composed(typed) : null };
        return this with { Mended = mending == LetterMending.None ? Mended.Remove(path) : Mended.SetItem(path, mending) };
    }

    /// <summary>Whether a text is one character that can be seen.</summary>
    public static bool IsCharacter(string text) =>
        text.Length is > 0 and <= 8 && new System.Globalization.StringInfo(text).LengthInTextElements == 1 && !char.IsControl(text[0]) && !char.IsWhiteSpace(text[0]) && !(text.Length == 1 && char.IsSurrogate(text[0]));
}
