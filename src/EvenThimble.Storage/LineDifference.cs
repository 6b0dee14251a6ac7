using System.Globalization;
using System.Text;

namespace EvenThimble.Storage;

/// <summary>
/// How a text of lines comes of an earlier one: stretches of its lines that are taken over, lines that are changed within, and lines that are new (copying as in W. Tichy, "The
/// string-to-string correction problem with block moves", 1984: at each place the longest stretch is taken that begins with the first like line). Grows as the texts do.
/// </summary>
internal static class LineDifference
{
    private const char Taken = '=';
    private const char Changed = '~';
    private const char New = '+';

    /// <summary>
    /// The difference, itself a text of lines: <c>=first count</c> takes lines over (<c>=first</c> one), <c>~start end text</c> takes the line that comes next with another text between so many
    /// of its characters at the start and at the end, <c>+text</c> is a new line. What comes next is the line after the one that the step before was about.
    /// </summary>
    public static string Between(string before, string after)
    {
        var (old, lines) = (before.Split('\n'), after.Split('\n'));
        var places = new Dictionary<string, int>(old.Length);
        for (var i = 0; i < old.Length; i++) places.TryAdd(old[i], i);
        var difference = new StringBuilder();
        for (var (at, next) = (0, 0); at < lines.Length;)
        {
            // What goes on from the stretch before is likelier than the first line of all that is alike.
            var from = next < old.Length && old[next] == lines[at] ? next : places.GetValueOrDefault(lines[at], -1);
            if (from < 0)
            {
                Differs(difference, next < old.Length ? old[next] : string.Empty, lines[at++]);
                next++;
                continue;
            }

            var count = 1;
            while (at + count < lines.Length && from + count < old.Length && lines[at + count] == old[from + count]) count++;
            difference.Append(CultureInfo.InvariantCulture, $"{Taken}{from}");
            if (count > 1) difference.Append(CultureInfo.InvariantCulture, $" {count}");
            difference.Append('\n');
            (at, next) = (at + count, from + count);
        }

        return difference.ToString();
    }

    /// <summary>The later text, after one difference or several that follow each other.</summary>
    /// <exception cref="InvalidDataException">A difference is none from the text before it.</exception>
    public static string Apply(string before, params IEnumerable<string> differences) => string.Join('\n', differences.Aggregate(before.Split('\n'), Applied));

    private static string[] Applied(string[] old, string difference)
    {
        var steps = difference.Split('\n');
        var lines = new List<string>(old.Length);
        var next = 0;
        foreach (var step in steps.AsSpan(0, steps.Length - 1))
        {
            var words = step.Split(' ', 3);
            switch (step.FirstOrDefault())
            {
                case Taken when words.Length < 3:
                    var (from, count) = (Number(words[0][1..]), words.Length == 2 ? Number(words[1]) : 1);
                    if ((long)from + count > old.Length) throw Damaged();
                    lines.AddRange(old.AsSpan(from, count));
                    next = from + count;
                    break;
                case Changed when words.Length == 3 && next < old.Length:
                    var (start, end) = (Number(words[0][1..]), Number(words[1]));
                    if ((long)start + end > old[next].Length) throw Damaged();
                    lines.Add(string.Concat(old[next].AsSpan(0, start), words[2], old[next].AsSpan(old[next].Length - end)));
                    next++;
                    break;
                case New:
                    lines.Add(step[1..]);
                    next++;
                    break;
                default:
                    throw Damaged();
            }
        }

        return [.. lines];
    }

    private static void Differs(StringBuilder difference, string old, string line)
    {
        var most = Math.Min(old.Length, line.Length);
        var start = old.AsSpan().CommonPrefixLength(line);
        var end = 0;
        while (end < most - start && old[^(end + 1)] == line[^(end + 1)]) end++;
        if (start + end > line.Length / 2) difference.Append(CultureInfo.InvariantCulture, $"{Changed}{start} {end} ").Append(line, start, line.Length - start - end);
        else difference.Append(New).Append(line);
        difference.Append('\n');
    }

    private static int Number(string text) => int.TryParse(text, NumberStyles.None, CultureInfo.InvariantCulture, out var n) ? n : throw Damaged();

    private static InvalidDataException Damaged() => new("A stored revision does not fit the one before it.");
}
