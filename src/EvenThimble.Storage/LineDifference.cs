using System.Globalization;
using System.Text;

namespace EvenThimble.Storage;

/// <summary>
/// How a text of lines comes of an earlier one: stretches of its lines that are taken over, and lines that are new (copying as in W. Tichy, "The string-to-string correction problem with
/// block moves", 1984: at each place the longest stretch is taken that begins with the first like line). Grows as the texts do.
/// </summary>
internal static class LineDifference
{
    private const char Taken = '=';
    private const char New = '+';

    /// <summary>The difference, itself a text of lines: <c>=first count</c> takes lines over, <c>+count</c> stands before new ones.</summary>
    public static string Between(string before, string after)
    {
        var (old, lines) = (before.Split('\n'), after.Split('\n'));
        var places = new Dictionary<string, int>(old.Length);
        for (var i = 0; i < old.Length; i++) places.TryAdd(old[i], i);
        var difference = new StringBuilder();
        var (at, fresh, next) = (0, 0, 0);
        while (at < lines.Length)
        {
            // What goes on from the stretch before is likelier than the first line of all that is alike.
            var from = next < old.Length && old[next] == lines[at] ? next : places.GetValueOrDefault(lines[at], -1);
            if (from < 0)
            {
                at++;
                next++;
                continue;
            }

            Fresh(difference, lines, fresh, at);
            var count = 1;
            while (at + count < lines.Length && from + count < old.Length && lines[at + count] == old[from + count]) count++;
            difference.Append(CultureInfo.InvariantCulture, $"{Taken}{from} {count}\n");
            (at, next, fresh) = (at + count, from + count, at + count);
        }

        Fresh(difference, lines, fresh, at);
        return difference.ToString();
    }

    /// <summary>The later text.</summary>
    /// <exception cref="InvalidDataException">The difference is none from this text.</exception>
    public static string Apply(string before, string difference)
    {
        var (old, steps) = (before.Split('\n'), difference.Split('\n'));
        var lines = new List<string>(old.Length);
        for (var i = 0; i < steps.Length - 1;)
        {
            var step = steps[i++];
            var numbers = step.Length > 1 ? Array.ConvertAll(step[1..].Split(' '), Number) : [];
            switch (numbers)
            {
                case [var first, var count] when step[0] == Taken && (long)first + count <= old.Length:
                    lines.AddRange(old.AsSpan(first, count));
                    break;
                case [var fresh] when step[0] == New && (long)i + fresh < steps.Length:
                    lines.AddRange(steps.AsSpan(i, fresh));
                    i += fresh;
                    break;
                default:
                    throw Damaged();
            }
        }

        return string.Join('\n', lines);
    }

    private static void Fresh(StringBuilder difference, string[] lines, int from, int to)
    {
        if (from == to) return;
        difference.Append(CultureInfo.InvariantCulture, $"{New}{to - from}\n");
        for (var i = from; i < to; i++) difference.Append(lines[i]).Append('\n');
    }

    private static int Number(string text) => int.TryParse(text, NumberStyles.None, CultureInfo.InvariantCulture, out var n) ? n : throw Damaged();

    private static InvalidDataException Damaged() => new("A stored revision does not fit the one before it.");
}
