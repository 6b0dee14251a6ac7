using System.Globalization;
using System.Text.RegularExpressions;
using EvenThimble.Core.Text;

namespace EvenThimble.Core.LetterSets;

/// <summary>How the letters of files are taken that do not say whether they are capital or small.</summary>
public enum LetterCase : byte
{
    /// <summary>As they are written.</summary>
    AsWritten,

    /// <summary>All are capital.</summary>
    Capital,

    /// <summary>All are small.</summary>
    Small,
}

/// <summary>What the path of a letter's file says of it.</summary>
/// <param name="Character">The character; null: the path names none.</param>
/// <param name="SizeMm">The size that it names, mm; null: none.</param>
/// <param name="Because">Why it is taken so, in words.</param>
public sealed record LetterReading(string? Character, double? SizeMm, string Because);

/// <summary>
/// Reads from the names of files which characters they are: a letter or digit standing alone, the name of a sign (<c>amp</c>, <c>comma</c>) or of a letter with a mark (<c>ntilde</c>, <c>e acute</c>),
/// or what is left where all names begin alike. Words beside it say capital or small, and a number with a unit the size; numbers in front only count. Folders say both for all in them.
/// </summary>
public static partial class LetterFileName
{
    // A word that only some names have is no common beginning.
    private const int LeastAlike = 3;
    private static readonly Dictionary<string, string> Signs = Pairs(
        "amp & ampersand & and & at @ exclam ! exclamation ! exclamationmark ! question ? questionmark ? period . fullstop . dot . comma , hyphen - dash - "
        + "minus - endash – emdash — apostrophe ’ quoteright ’ quoteleft ‘ quotesingle ' quote \" quotes \" quotedbl \" colon : semicolon ; plus + equal = "
        + "equals = hash # hashtag # numbersign # pound # dollar $ euro € sterling £ percent % slash / backslash \\ parenleft ( leftparen ( parenright ) "
        + "rightparen ) bracketleft [ bracketright ] underscore _ asterisk * germandbls ß eszett ß sharps ß exclamdown ¡ questiondown ¿ degree ° zero 0 one 1 "
        + "two 2 three 3 four 4 five 5 six 6 seven 7 eight 8 nine 9",
        StringComparer.OrdinalIgnoreCase);

    // Letters that no mark makes of another.
    private static readonly Dictionary<string, string> OwnLetters = Pairs(
        "oslash ø Oslash Ø ae æ AE Æ oe œ OE Œ lslash ł Lslash Ł eth ð Eth Ð thorn þ Thorn Þ dotlessi ı",
        StringComparer.Ordinal);

    private static readonly Dictionary<string, string> Marks = Pairs(
        "grave \u0300 acute \u0301 circumflex \u0302 tilde \u0303 macron \u0304 breve \u0306 dotaccent \u0307 dieresis \u0308 diaeresis \u0308 umlaut \u0308 "
        + "uml \u0308 ring \u030A hungarumlaut \u030B caron \u030C cedilla \u0327 ogonek \u0328",
        StringComparer.OrdinalIgnoreCase);

    private static readonly HashSet<string> CapitalWords = new(StringComparer.OrdinalIgnoreCase) { "cap", "caps", "capital", "capitals", "upper", "uppercase", "uc", "big", "large", "majuscule" };
    private static readonly HashSet<string> SmallWords = new(StringComparer.OrdinalIgnoreCase) { "lower", "lowercase", "lc", "low", "small", "little", "minuscule" };

    /// <summary>Reads the paths of a set's files, folders parted by <c>/</c>; of each in its turn.</summary>
    /// <param name="paths">The paths.</param>
    /// <param name="unsaid">What letters are whose names do not say whether they are capital.</param>
    public static IReadOnlyList<LetterReading> Of(IReadOnlyList<string> paths, LetterCase unsaid = LetterCase.AsWritten)
    {
        var names = paths.Select(p => new Name(p)).ToList();
        var common = CommonWords(names);
        return names.ConvertAll(n => Read(n, common, unsaid));
    }

    /// <summary>A path in pieces.</summary>
    private sealed class Name
    {
        public Name(string path)
        {
            var parts = path.Replace('\\', '/').Split('/', StringSplitOptions.RemoveEmptyEntries);
            var file = parts.Length == 0 ? string.Empty : parts[^1];
            Folders = parts.Length == 0 ? [] : parts[..^1];
            Plain = file.LastIndexOf('.') is var dot and > 0 ? file[..dot] : file;
            (SizeMm, var rest) = SizeIn(Plain);
            SizeMm ??= Folders.Reverse().Select(f => SizeIn(f).SizeMm).FirstOrDefault(s => s is not null);
            Words = WordsOf(rest);
        }

        public string[] Folders { get; }

        public string Plain { get; }

        public double? SizeMm { get; }

        public IReadOnlyList<string> Words { get; }

        public bool? IsCapital => Said(Words) ?? Folders.Reverse().Select(f => Said(WordsOf(f))).FirstOrDefault(s => s is not null);

        private static bool? Said(IReadOnlyList<string> words) => words.Any(CapitalWords.Contains) ? true : words.Any(SmallWords.Contains) ? false : null;
    }

    /// <summary>Words and what they stand for, by turns.</summary>
    private static Dictionary<string, string> Pairs(string words, StringComparer comparer) => words.Split(' ').Chunk(2).ToDictionary(p => p[0], p => p[1], comparer);

    private static LetterReading Read(Name name, HashSet<string> common, LetterCase unsaid)
    {
        var found = Alone(name, common) ?? Sign(name, common) ?? Leftover(name, common);
        if (found is not var (character, because)) return new(null, name.SizeMm, $"“{name.Plain}” names no letter");
        if (character.Length == 0 || !char.IsLetter(character, 0)) return new(character, name.SizeMm, because);
        if (name.IsCapital is { } capital) return new(Cased(character, capital), name.SizeMm, $"{because}, {(capital ? "capital" : "small")} by its words");
        return unsaid == LetterCase.AsWritten ? new(character, name.SizeMm, because) : new(Cased(character, unsaid == LetterCase.Capital), name.SizeMm, $"{because}, taken as {(unsaid == LetterCase.Capital ? "capital" : "small")}");
    }

    /// <summary>A letter that stands alone, the last of several; else a digit, unless it only counts.</summary>
    private static (string Character, string Because)? Alone(Name name, HashSet<string> common)
    {
        var alone = name.Words.Select((w, i) => (Word: w, At: i)).Where(w => IsOne(w.Word) && !common.Contains(w.Word)).ToList();
        if (alone.FindLast(w => char.IsLetter(w.Word, 0)) is { Word: { } letter } of)
        {
            // A mark after its letter: "e acute".
            return of.At + 1 < name.Words.Count && Marks.TryGetValue(name.Words[of.At + 1], out var mark)
                ? (MarkedLetters.Composed(letter + mark), $"a letter and the name of its mark in “{name.Plain}”")
                : (MarkedLetters.Composed(letter), name.Words.Count == 1 ? $"the name is “{letter}”" : $"“{letter}” stands alone in “{name.Plain}”");
        }

        // What is a sign or another number behind it makes a number in front a counter.
        if (alone is [.., { Word: { } last, At: var at }] && !(char.IsAsciiDigit(last[0]) && name.Words.Skip(at + 1).Any(w => SignOf(w) is not null)))
            return (last, name.Words.Count == 1 ? $"the name is “{last}”" : $"“{last}” stands alone in “{name.Plain}”");
        return null;
    }

    private static (string Character, string Because)? Sign(Name name, HashSet<string> common)
    {
        foreach (var word in name.Words.Reverse())
        {
            if (common.Contains(word) || SignOf(word) is not { } sign) continue;
            return (sign, $"“{word}” is the name of {sign}");
        }

        // Names of two words, such as "question mark" or "left paren".
        for (var i = name.Words.Count - 2; i >= 0; i--)
            if (Signs.TryGetValue(name.Words[i] + name.Words[i + 1], out var two))
                return (two, $"“{name.Words[i]} {name.Words[i + 1]}” is the name of {two}");
        return null;
    }

    /// <summary>What is left where all names begin alike: <c>roseA</c>, <c>roseB</c>.</summary>
    private static (string Character, string Because)? Leftover(Name name, HashSet<string> common)
    {
        foreach (var word in name.Words)
        {
            foreach (var beginning in common.Where(c => c.EndsWith('*')))
            {
                var begin = beginning[..^1];
                if (word.StartsWith(begin, StringComparison.OrdinalIgnoreCase) && word[begin.Length..] is var rest && (IsOne(rest) || SignOf(rest) is not null))
                    return (IsOne(rest) ? MarkedLetters.Composed(rest) : SignOf(rest)!, $"all names begin with “{begin}”, and “{rest}” is left");
            }
        }

        return null;
    }

    /// <summary>Words that stand in all names, and as <c>begin*</c> the beginning that all first words have in common.</summary>
    private static HashSet<string> CommonWords(List<Name> names)
    {
        if (names.Count < LeastAlike) return [];
        var common = names[0].Words.Where(w => names.TrueForAll(n => n.Words.Contains(w))).ToHashSet(StringComparer.Ordinal);
        var firsts = names.Select(n => n.Words.FirstOrDefault(w => !w.All(char.IsAsciiDigit)) ?? string.Empty).Where(w => w.Length > 1 && SignOf(w) is null).ToList();
        if (firsts.Count < LeastAlike) return common;
        var begin = firsts[0];
        foreach (var word in firsts)
            begin = begin[..begin.Zip(word).TakeWhile(p => char.ToUpperInvariant(p.First) == char.ToUpperInvariant(p.Second)).Count()];
        if (begin.Length > 0) common.Add(begin + "*");
        return common;
    }

    private static string? SignOf(string word)
    {
        if (Signs.TryGetValue(word, out var sign)) return sign;
        if (OwnLetters.TryGetValue(word, out var letter)) return letter;
        if (Code().Match(word) is { Success: true } code && int.Parse(code.Groups[1].Value, NumberStyles.HexNumber, CultureInfo.InvariantCulture) is var point && point is > 32 and < 0x110000 and not (>= 0xD800 and < 0xE000))
            return char.ConvertFromUtf32(point);
        return word.Length > 3 && Marks.TryGetValue(word[1..], out var mark) ? MarkedLetters.Of(word[0], mark[0])?.ToString() : null;
    }

    private static bool IsOne(string word) => word.Length > 0 && new StringInfo(word).LengthInTextElements == 1;

    private static string Cased(string character, bool capital) => capital ? character == "ß" ? "ẞ" : character.ToUpperInvariant() : character.ToLowerInvariant();

    private static List<string> WordsOf(string name)
    {
        var words = new List<string>();
        foreach (var chunk in Between().Split(name))
        {
            // "RoseA", "A25" and "25A" are two words each; "ntilde" and "UPPER" one, and so are letters with marks of their own.
            if (chunk.Length == 0) continue;
            if (Code().IsMatch(chunk) || SignOf(chunk) is not null) words.Add(chunk);
            else words.AddRange(Edges().Split(chunk).Where(w => w.Length > 0));
        }

        // A sign that stands for itself, as in "&.evth".
        return words.Count > 0 || name.Trim() is not { Length: > 0 } sign ? words : [sign];
    }

    private static (double? SizeMm, string Left) SizeIn(string name)
    {
        if (Size().Match(name) is not { Success: true } size) return (null, name);
        var value = double.Parse(size.Groups[1].Value.Replace(',', '.'), CultureInfo.InvariantCulture);
        var mm = size.Groups[2].Value.ToLowerInvariant() switch { "mm" => value, "cm" => 10 * value, _ => 25.4 * value };
        return (mm is > 0 and < 2_000 ? mm : null, name[..size.Index] + " " + name[(size.Index + size.Length)..]);
    }

    [GeneratedRegex("""(?<![0-9.,])([0-9]{1,4}(?:[.,][0-9]{1,3})?)[ _-]?(mm|cm|inches|inch|in|["″])(?![a-z])""", RegexOptions.IgnoreCase)]
    private static partial Regex Size();

    [GeneratedRegex("[ _.,()\\[\\]{}-]+")]
    private static partial Regex Between();

    [GeneratedRegex("(?<=[a-z])(?=[A-Z])|(?<=[0-9])(?=\\p{L})|(?<=\\p{L})(?=[0-9])")]
    private static partial Regex Edges();

    [GeneratedRegex("^(?:u\\+?|uni)([0-9a-f]{4,6})$", RegexOptions.IgnoreCase)]
    private static partial Regex Code();
}
