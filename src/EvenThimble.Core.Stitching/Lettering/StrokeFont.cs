using System.Collections.Immutable;
using System.Globalization;
using System.Text;
using EvenThimble.Core.Geometry;
using EvenThimble.Core.Shapes;

namespace EvenThimble.Core.Lettering;

/// <summary>
/// The font of our own for small text: its letters are lines, as a pen draws them, so that they are sewn along one clean middle line. Letters with accents are put together from the letter and
/// the mark.
/// </summary>
public sealed class StrokeFont : ILetterFont
{
    private const double Unit = 0.1;

    // What the pen has drawn comes no nearer to each other than this many of its widths.
    private const double LeastOfPen = 1.5;
    private const double Bearing = 1.35;
    private const double WordGap = 3.2;

    // Marks lie over small letters; over letters taller than the first they are raised by the second.
    private const double Tall = 6;
    private const double RaisedOverCapitals = 2.2;
    private const int MostMarks = 3;

    // The arm of a cubic that comes nearest to a quarter of an ellipse.
    private const double QuarterArm = 0.5523;
    private readonly List<Glyph> _glyphs = [new(" ", [], 0, WordGap - (2 * Bearing))];
    private readonly Dictionary<string, int> _numbers = new(StringComparer.Ordinal) { [" "] = 0, ["\u00a0"] = 0, ["\t"] = 0 };
    private readonly Dictionary<string, ImmutableArray<ShapePath>> _marks = new(StringComparer.Ordinal);
    private readonly Lock _lock = new();

    private StrokeFont()
    {
        using var stream = typeof(StrokeFont).Assembly.GetManifestResourceStream("SmallLetters.txt")!;
        using var reader = new StreamReader(stream, Encoding.UTF8);
        while (reader.ReadLine() is { } line)
        {
            if (line.StartsWith("## ", StringComparison.Ordinal)) continue;
            var (letter, rest) = (line[..line.IndexOf(' ')], line[(line.IndexOf(' ') + 1)..]);
            if (rest.StartsWith("= ", StringComparison.Ordinal)) Add(letter, Marked(rest[2..3], [.. rest[4..].Split(' ')])!.Value);
            else if (IsMark(letter)) _marks[letter] = Strokes(rest);
            else Add(letter, Strokes(rest));
        }
    }

    /// <summary>A glyph in the units of the list: between left and right lies its ink.</summary>
    private sealed record Glyph(string Text, ImmutableArray<ShapePath> Strokes, double Left, double Right)
    {
        public double Width => Right - Left;
    }

    /// <summary>The font.</summary>
    public static StrokeFont Small { get; } = new();

    /// <inheritdoc/>
    public string Name => "Lark Small";

    /// <inheritdoc/>
    public double CapitalEm => 7 * Unit;

    /// <inheritdoc/>
    public double SmallEm => 5 * Unit;

    /// <inheritdoc/>
    public double LineEm => 12.5 * Unit;

    /// <inheritdoc/>
    public double? PenEm => 0.8 * Unit;

    /// <inheritdoc/>
    public double LeastGapEm => LeastOfPen * PenEm!.Value;

    /// <inheritdoc/>
    public ShapedLine Shape(string line)
    {
        lock (_lock)
        {
            var (glyphs, missing) = (new List<ShapedGlyph>(), new List<string>());
            for (var i = 0; i < line.Length;)
            {
                var length = StringInfo.GetNextTextElementLength(line, i);
                var text = line.Substring(i, length);
                if (NumberOf(text) is { } number) glyphs.Add(new(number, i, text, (_glyphs[number].Width + (2 * Bearing)) * Unit, 0, Point.Zero));
                else if (!missing.Contains(text)) missing.Add(text);
                i += length;
            }

            return new(glyphs, missing);
        }
    }

    /// <inheritdoc/>
    public DrawnShape Outline(int glyph)
    {
        lock (_lock)
        {
            var known = _glyphs[glyph];
            return new DrawnShape(known.Strokes).Moved(p => new((p.X - known.Left + Bearing) * Unit, -p.Y * Unit));
        }
    }

    private static bool IsMark(string letter) => CharUnicodeInfo.GetUnicodeCategory(letter, 0) == UnicodeCategory.NonSpacingMark;

    private int Add(string letter, ImmutableArray<ShapePath> strokes)
    {
        var across = strokes.SelectMany(s => s.Flattened()).Select(p => p.X).ToList();
        _glyphs.Add(new(letter, strokes, across.Min(), across.Max()));
        return _numbers[letter] = _glyphs.Count - 1;
    }

    /// <summary>The glyph of a letter with its marks; null where there is none.</summary>
    private int? NumberOf(string text)
    {
        if (_numbers.TryGetValue(text, out var known)) return known;
        var marks = text[1..].Select(c => c.ToString()).ToList();
        return marks.Count is > 0 and <= MostMarks && Marked(text[..1], marks) is { } strokes ? Add(text, strokes) : null;
    }

    /// <summary>The strokes of a letter with marks; null where it or one of them is not known.</summary>
    private ImmutableArray<ShapePath>? Marked(string letter, IReadOnlyList<string> marks)
    {
        if (!marks.All(_marks.ContainsKey)) return null;

        // The dot of an i makes room for a mark above it.
        if (marks.Any(IsAbove)) letter = letter switch { "i" => "ı", "j" => "ȷ", var other => other };
        if (!_numbers.TryGetValue(letter, out var number) || number == 0) return null;
        var glyph = _glyphs[number];
        var middle = new Point((glyph.Left + glyph.Right) / 2, 0);
        var raised = new Point(0, glyph.Strokes.SelectMany(s => s.Flattened()).Max(p => p.Y) > Tall ? RaisedOverCapitals : 0);
        return [.. glyph.Strokes, .. marks.SelectMany(m => _marks[m].Select(s => s with { Nodes = [.. s.Nodes.Select(n => n with { At = n.At + middle + (IsAbove(m) ? raised : Point.Zero) })] }))];
    }

    private bool IsAbove(string mark) => _marks[mark][0].Nodes[0].At.Y > SmallEm / Unit;

    private static ImmutableArray<ShapePath> Strokes(string commands)
    {
        var strokes = ImmutableArray.CreateBuilder<ShapePath>();
        var nodes = new List<PathNode>();
        foreach (var command in commands.Split(' ', StringSplitOptions.RemoveEmptyEntries).Aggregate(new List<List<string>>(), (all, word) =>
        {
            if (char.IsLetter(word[0])) all.Add([word[..1], word[1..]]);
            else all[^1].Add(word);
            return all;
        }))
        {
            var numbers = command.Skip(1).Select(n => double.Parse(n, CultureInfo.InvariantCulture)).ToArray();
            var to = new Point(numbers[^2], numbers[^1]);
            if (command[0] == "M")
            {
                if (nodes.Count > 0) strokes.Add(new([.. nodes], Closed: false));
                nodes = [new(to)];
                continue;
            }

            var last = nodes[^1];
            var (first, second) = command[0] switch
            {
                "H" => (new Point((to.X - last.At.X) * QuarterArm, 0), new Point(0, (last.At.Y - to.Y) * QuarterArm)),
                "V" => (new Point(0, (to.Y - last.At.Y) * QuarterArm), new Point((last.At.X - to.X) * QuarterArm, 0)),
                "Q" => ((new Point(numbers[0], numbers[1]) - last.At) * (2 / 3.0), (new Point(numbers[0], numbers[1]) - to) * (2 / 3.0)),
                _ => (Point.Zero, Point.Zero),
            };
            nodes[^1] = last with { Kind = NodeKind.Curve, Out = first };
            nodes.Add(new(to, NodeKind.Curve, second));
        }

        strokes.Add(new([.. nodes], Closed: false));
        return strokes.ToImmutable();
    }
}
