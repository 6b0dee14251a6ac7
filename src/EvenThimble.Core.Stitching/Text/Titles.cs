using System.Globalization;
using System.Text;

namespace EvenThimble.Core.Text;

/// <summary>What people type or files bring as a title or a file name, made safe to show and to write.</summary>
public static class Titles
{
    /// <summary>Longest title that is kept, in what a reader sees as letters.</summary>
    public const int LongestTitle = 120;

    // A letter may be written with several characters, as those with accents and pictures of families are; but not with any number.
    private const int LongestLetter = 24;
    private const int MostLookedAt = 4 * LongestLetter * LongestTitle;

    /// <summary>Longest short name, plain letters.</summary>
    public const int ShortLength = 16;

    /// <summary>
    /// Without control and direction-changing characters, spaces joined, cut to <see cref="LongestTitle"/> letters, never inside one.
    /// Letters of any script stay as they are.
    /// </summary>
    public static string Clean(string? text)
    {
        var words = Kept((text ?? string.Empty).AsSpan(0, Math.Min(text?.Length ?? 0, MostLookedAt)));
        var cut = new StringBuilder();
        var letters = StringInfo.GetTextElementEnumerator(words);
        for (var n = 0; n < LongestTitle && letters.MoveNext(); n++) cut.Append(Bounded(letters.GetTextElement()));
        return cut.ToString().TrimEnd();
    }

    /// <summary>Lines of text with only those characters that a title may have; at most so many characters are looked at, and so many lines kept.</summary>
    public static string CleanLines(string? text, int most, int mostLines) =>
        string.Join('\n', (text ?? string.Empty)[..Math.Min(text?.Length ?? 0, most)].ReplaceLineEndings("\n").Split('\n').Take(mostLines).Select(line => Kept(line))).Trim();

    /// <summary>What may stand in a title, spaces joined.</summary>
    private static string Kept(ReadOnlySpan<char> text)
    {
        var kept = new StringBuilder();
        foreach (var rune in text.EnumerateRunes())
        {
            var kind = Rune.GetUnicodeCategory(rune);
            if (Rune.IsWhiteSpace(rune)) kept.Append(' ');
            else if (kind is UnicodeCategory.Control or UnicodeCategory.PrivateUse or UnicodeCategory.Surrogate or UnicodeCategory.LineSeparator) continue;
            else if (kind is UnicodeCategory.Format && rune.Value is not (0x200C or 0x200D)) continue; // joiners belong to scripts and emoji
            else if (rune.Value != 0xFFFD) kept.Append(rune.ToString());
        }

        return string.Join(' ', kept.ToString().Split(' ', StringSplitOptions.RemoveEmptyEntries));
    }

    /// <summary>A letter without more signs on it than any script or picture has.</summary>
    private static string Bounded(string letter) =>
        letter.Length <= LongestLetter ? letter : letter[..(char.IsHighSurrogate(letter[LongestLetter - 1]) ? LongestLetter - 1 : LongestLetter)];

    /// <summary>The title that a file's name suggests: without folders and ending.</summary>
    public static string FromFileName(string? fileName)
    {
        var last = (fileName ?? string.Empty).Split('/', '\\')[^1];
        var dot = last.LastIndexOf('.');
        var title = Clean((dot > 0 ? last[..dot] : last).Replace('_', ' '));
        return title.Length == 0 || title.All(c => c == '.') ? "Untitled" : title;
    }

    /// <summary>Whether every character is a plain letter, digit, space, dash, underscore or dot.</summary>
    public static bool IsPlain(string text) => text.All(c => char.IsAsciiLetterOrDigit(c) || c is ' ' or '-' or '_' or '.');

    /// <summary>A plain name of at most <paramref name="most"/> characters: accents dropped, what is left over replaced.</summary>
    public static string Plain(string title, int most)
    {
        var plain = new StringBuilder();
        foreach (var c in PlainLetters.Of(Clean(title)))
        {
            if (char.IsAsciiLetterOrDigit(c) || c is ' ' or '-' or '_') plain.Append(c);
        }

        var name = plain.ToString().Trim();
        if (name.Length == 0) name = "Job";
        return name.Length <= most ? name : Shortened(name, most);
    }

    /// <summary>A name for a file on this computer: the title without anything that a folder name could mean.</summary>
    public static string FileName(string title)
    {
        var safe = new string([.. Clean(title).Select(c => c is '/' or '\\' or ':' or '*' or '?' or '"' or '<' or '>' or '|' ? '-' : c)]).Trim(' ', '.');
        return safe.Length == 0 ? "Untitled" : safe;
    }

    /// <summary>Drops small words and then letters at the end.</summary>
    private static string Shortened(string name, int most)
    {
        string[] small = ["the", "a", "an", "of", "over", "and", "with", "in", "on"];
        var words = name.Split(' ').Where((w, i) => i == 0 || !small.Contains(w.ToLowerInvariant())).ToList();
        var shorter = string.Join(' ', words);
        return shorter.Length <= most ? shorter : shorter[..most].TrimEnd();
    }
}
