using System.Globalization;
using System.Text;

namespace EvenThimble.Rendering.Fonts;

/// <summary>Characters of a line that are written in one direction.</summary>
internal readonly record struct DirectionRun(int From, int Length, bool RightToLeft);

/// <summary>
/// Parts a line where its direction changes, and puts the runs in the order in which they are seen. A plain form of the Unicode bidirectional algorithm (UAX 9): letters and digits have a direction, the rest
/// goes with its neighbours, and the first letter says how the line runs; runs within runs are not known.
/// </summary>
internal static class DirectionRuns
{
    public static IReadOnlyList<DirectionRun> Of(string line)
    {
        var directions = line.Select((_, i) => DirectionAt(line, i)).ToArray();
        var lineRuns = directions.FirstOrDefault(d => d is not null) ?? false;

        // What has no direction goes with both neighbours if they agree, else with the line.
        for (var i = 0; i < directions.Length;)
        {
            if (directions[i] is not null)
            {
                i++;
                continue;
            }

            var end = i;
            while (end < directions.Length && directions[end] is null) end++;
            var (before, after) = (i == 0 ? lineRuns : directions[i - 1]!.Value, end == directions.Length ? lineRuns : directions[end]!.Value);
            for (; i < end; i++) directions[i] = before == after ? before : lineRuns;
        }

        var runs = new List<DirectionRun>();
        for (var i = 0; i < directions.Length; i++)
        {
            if (runs.Count > 0 && runs[^1].RightToLeft == directions[i]) runs[^1] = runs[^1] with { Length = runs[^1].Length + 1 };
            else runs.Add(new(i, 1, directions[i]!.Value));
        }

        if (lineRuns) runs.Reverse();
        return runs;
    }

    /// <summary>Whether a character is written from right to left; null where that depends on its neighbours.</summary>
    private static bool? DirectionAt(string line, int at)
    {
        // Halves of a pair go together.
        var first = at > 0 && char.IsLowSurrogate(line[at]) ? at - 1 : at;
        if (!Rune.TryGetRuneAt(line, first, out var rune)) return null;
        if (rune.Value is (>= 0x590 and <= 0x8FF) or (>= 0xFB1D and <= 0xFDFF) or (>= 0xFE70 and <= 0xFEFF) or (>= 0x10800 and <= 0x10FFF) or (>= 0x1E800 and <= 0x1EFFF)) return true;
        return Rune.GetUnicodeCategory(rune) switch
        {
            UnicodeCategory.UppercaseLetter or UnicodeCategory.LowercaseLetter or UnicodeCategory.TitlecaseLetter or UnicodeCategory.OtherLetter or UnicodeCategory.ModifierLetter or UnicodeCategory.DecimalDigitNumber => false,
            _ => null,
        };
    }
}
