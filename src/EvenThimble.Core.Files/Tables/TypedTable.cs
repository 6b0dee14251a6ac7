using System.Collections.Immutable;
using System.Text;
using EvenThimble.Core.Text;
using EvenThimble.Core.Work;

namespace EvenThimble.Core.Files.Tables;

/// <summary>How a table is read, where that is not to be found out by looking at it.</summary>
/// <param name="Encoding">One of <see cref="TypedTable.Encodings"/>; null: found out.</param>
/// <param name="Separator">What stands between cells; null: found out.</param>
/// <param name="KeepsSpaces">Whether cells stay as they came, with all their spaces.</param>
public sealed record TableReading(string? Encoding = null, char? Separator = null, bool KeepsSpaces = false);

/// <summary>A table as it came: rows of cells, each with the number of its line. Which encoding it is in and what separates its cells was found by looking at it.</summary>
/// <param name="Encoding">In words.</param>
/// <param name="Separator">In words.</param>
/// <param name="Rows">All rows; every cell is clean text, unless it was to be kept as it came.</param>
public sealed record TypedTable(string Encoding, string Separator, ImmutableArray<(int Line, ImmutableArray<string> Cells)> Rows)
{
    private const int MostBytes = 16 * 1024 * 1024;
    private const int MostColumns = 60;
    private const int LookedAt = 40;
    private static readonly UTF8Encoding StrictUtf8 = new(false, true);

    /// <summary>What may stand between cells, with its name.</summary>
    public static IReadOnlyList<(char Sign, string Name)> Separators { get; } = [(';', "semicolons"), ('\t', "tabs"), (',', "commas"), ('|', "bars")];

    /// <summary>The encodings that a file can be told to be in, by their names.</summary>
    public static IReadOnlyList<string> Encodings { get; } = ["UTF-8", "UTF-16", "Windows-1252", "Windows-1250", "Windows-1251"];

    /// <summary>The table that the bytes of a file hold.</summary>
    /// <param name="bytes">The file.</param>
    /// <param name="mostRows">More are refused.</param>
    /// <param name="how">How it is read, where it is not to be found out.</param>
    /// <exception cref="EditRefusedException">It is no table, or too large a one.</exception>
    public static TypedTable Read(ReadOnlySpan<byte> bytes, int mostRows, TableReading? how = null)
    {
        if (bytes.Length > MostBytes) throw new EditRefusedException($"A list has at most {MostBytes / 1024 / 1024} MB.");
        var (text, encoding) = how?.Encoding is { } told ? (EncodingNamed(told).GetString(bytes).TrimStart('\uFEFF'), told) : Decoded(bytes);
        return Read(text, mostRows, how) with { Encoding = encoding };
    }

    /// <summary>The table that was typed or pasted.</summary>
    /// <exception cref="EditRefusedException">It is no table, or too large a one.</exception>
    public static TypedTable Read(string text, int mostRows, TableReading? how = null)
    {
        if (text.Contains('\0', StringComparison.Ordinal)) throw new EditRefusedException("That is no text. Save the list as CSV and choose that file.");
        var (sign, name) = how?.Separator is { } told ? (told, Separators.Where(s => s.Sign == told).Select(s => s.Name).DefaultIfEmpty("one column").First()) : SeparatorOf(text);
        var rows = ImmutableArray.CreateBuilder<(int, ImmutableArray<string>)>();
        foreach (var (line, cells) in CsvRows.Of(text.ReplaceLineEndings("\n"), says => new EditRefusedException($"{says} Nothing was taken."), sign))
        {
            WorkBudget.Current.Spend(4 * cells.Count);
            if (rows.Count == mostRows) throw new EditRefusedException($"The list has more than {mostRows:N0} lines. Nothing was taken; divide it.");
            if (cells.Count > MostColumns) throw new EditRefusedException($"Line {line} of the list has {cells.Count:N0} columns; such a list has a few.");
            var clean = cells.Select(c => CsvRows.Unguarded(how?.KeepsSpaces == true ? c : Titles.Clean(c))).ToImmutableArray();
            if (clean.Any(c => c.Trim().Length > 0)) rows.Add((line, clean));
        }

        return new("Unicode", name, rows.ToImmutable());
    }

    /// <summary>The sign that divides most of the first lines into the same number of cells, and into more than one.</summary>
    private static (char Sign, string Name) SeparatorOf(string text)
    {
        var lines = text.Split('\n', LookedAt + 1).Take(LookedAt).Where(l => l.Trim().Length > 0).ToList();
        return Separators
            .Select(s => (s, Alike: lines.Select(l => Outside(l, s.Sign)).Where(n => n > 0).GroupBy(n => n).Select(g => g.Count()).DefaultIfEmpty(0).Max()))
            .Aggregate(((',', "one column"), 0), (best, next) => next.Alike > best.Item2 ? (next.s, next.Alike) : best).Item1;
    }

    /// <summary>How often a sign stands in a line outside of quotation marks.</summary>
    private static int Outside(string line, char sign)
    {
        var (count, quoted) = (0, false);
        foreach (var c in line)
        {
            if (c == '"') quoted = !quoted;
            else if (c == sign && !quoted) count++;
        }

        return count;
    }

    private static Encoding EncodingNamed(string name) => name switch
    {
        "UTF-8" => System.Text.Encoding.UTF8,
        "UTF-16" => System.Text.Encoding.Unicode,
        "Windows-1250" => CodePagesEncodingProvider.Instance.GetEncoding(1250)!,
        "Windows-1251" => CodePagesEncodingProvider.Instance.GetEncoding(1251)!,
        "Windows-1252" => CodePagesEncodingProvider.Instance.GetEncoding(1252)!,
        _ => throw new EditRefusedException("That encoding is not known here."),
    };

    private static (string Text, string Encoding) Decoded(ReadOnlySpan<byte> bytes)
    {
        if (bytes.StartsWith<byte>([0xFF, 0xFE])) return (System.Text.Encoding.Unicode.GetString(bytes[2..]), "UTF-16");
        if (bytes.StartsWith<byte>([0xFE, 0xFF])) return (System.Text.Encoding.BigEndianUnicode.GetString(bytes[2..]), "UTF-16");
        try
        {
            return (StrictUtf8.GetString(bytes.StartsWith<byte>([0xEF, 0xBB, 0xBF]) ? bytes[3..] : bytes), "UTF-8");
        }
        catch (DecoderFallbackException)
        {
            return (CodePagesEncodingProvider.Instance.GetEncoding(1252)!.GetString(bytes), "Windows-1252");
        }
    }
}
