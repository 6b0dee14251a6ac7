using System.Collections.Immutable;
using System.Globalization;
using System.Text;
using EvenThimble.Core.Geometry;
using EvenThimble.Core.Stitches;
using EvenThimble.Core.Text;
using EvenThimble.Core.Threads;

namespace EvenThimble.Core.Files.Stitch;

/// <summary>G-code (RS-274) for machines that take machine-tool commands; y upwards. Only what this writes is read back.</summary>
public sealed class GCodeFormat : IStitchFormat
{
    /// <summary>How every file begins.</summary>
    public const string FirstLine = "(Even Thimble stitches)";

    private const string ThreadWord = "thread: ";
    private const string NeedleWord = "(needle ";

    /// <inheritdoc/>
    public StitchFileKind Kind => StitchFileKind.GCode;

    /// <inheritdoc/>
    public double ToleranceMm => 0.0000501;

    /// <inheritdoc/>
    public bool CarriesThreads => false;

    /// <inheritdoc/>
    public bool Recognises(ReadOnlySpan<byte> bytes) => StitchFormats.TextStart(bytes).StartsWith(FirstLine, StringComparison.Ordinal);

    /// <inheritdoc/>
    public IEnumerable<string> Losses(StitchFile file)
    {
        if (StitchFormats.HasRoles(file)) yield return "G-code carries no roles of parts.";
        yield return file.Threads.Any(t => t.Maker.Length + t.Number.Length > 0) ? "G-code names threads but carries no colours." : "G-code carries no colours.";
    }

    /// <summary>Writes the commands.</summary>
    public byte[] Write(StitchFile file)
    {
        var b = file.Bounds;
        var lines = new List<string>
        {
            FirstLine,
            $"({Comment(file.Title)})",
            Text($"(size {b.Width:0.0} x {b.Height:0.0} mm)"),
            Text($"(stitches {file.StitchCount})"),
            $"(first {ThreadWord}{Comment(file.Parts[0].Thread.Label)})",
            "G21 G90",
        };
        for (var p = 0; p < file.Parts.Length; p++)
        {
            var part = file.Parts[p];
            if (p > 0 && part.Thread != file.Parts[p - 1].Thread) lines.Add($"M0 ({ThreadWord}{Comment(part.Thread.Label)})");
            if (file.Needles.Length > 0 && (p == 0 || part.Thread != file.Parts[p - 1].Thread)) lines.Add(Text($"{NeedleWord}{file.Needles[p]})"));
            for (var i = part.First; i < part.First + part.Count; i++)
            {
                var place = Text($"X{file.Stitches.X[i]:0.####} Y{0 - file.Stitches.Y[i]:0.####}").Replace("-0 ", "0 ", StringComparison.Ordinal);
                lines.Add(file.Stitches.Kinds[i] switch
                {
                    StitchKind.Stitch => $"G1 {place}",
                    StitchKind.Jump => $"G0 {place}",
                    StitchKind.Trim => "M5",
                    _ => $"M1 ({Comment(file.Stitches.Messages.GetValueOrDefault(i, string.Empty))})",
                });
            }
        }

        lines.Add("M30");
        return Encoding.UTF8.GetBytes(string.Join("\n", lines) + "\n");
    }

    /// <summary>Reads what <see cref="Write"/> wrote. Threads have names but stand-in colours.</summary>
    /// <exception cref="StitchFileException">A line is not one of ours; the message names it.</exception>
    public StitchFile Read(ReadOnlySpan<byte> bytes)
    {
        var lines = Encoding.UTF8.GetString(bytes).TrimStart('\uFEFF').Split('\n');
        var (parts, title, ended) = (new PartCollector(), string.Empty, false);
        var threads = 0;
        var needles = ImmutableArray.CreateBuilder<int>();
        for (var n = 0; n < lines.Length; n++)
        {
            var line = lines[n].Trim();
            if (line.Length == 0) continue;
            if (ended) throw new StitchFileException($"The G-code goes on after its end, at line {n + 1}.");
            if (n == 1 && line.StartsWith('(')) title = line.Trim('(', ')');
            else if (line.StartsWith($"(first {ThreadWord}", StringComparison.Ordinal)) parts.Change(Thread(line, threads++), PartRole.Decoration);
            else if (line.StartsWith(NeedleWord, StringComparison.Ordinal) && int.TryParse(line.AsSpan(NeedleWord.Length).TrimEnd(')'), NumberStyles.None, CultureInfo.InvariantCulture, out var needle)) needles.Add(needle);
            else if (line.StartsWith('(') || line == "G21 G90") continue;
            else if (line.StartsWith("G1 ", StringComparison.Ordinal)) parts.Records.Stitch(Place(line, n));
            else if (line.StartsWith("G0 ", StringComparison.Ordinal)) parts.Records.Jump(Place(line, n));
            else if (line == "M5") parts.Records.Trim();
            else if (line.StartsWith("M0 ", StringComparison.Ordinal)) parts.Change(Thread(line, threads++), PartRole.Decoration);
            else if (line.StartsWith("M1", StringComparison.Ordinal)) parts.Records.Stop(Titles.Clean(line[2..].Trim(' ', '(', ')')));
            else if (line == "M30") ended = true;
            else throw new StitchFileException($"Line {n + 1} of the G-code is none that Even Thimble writes; only its own files can be read back.");
            if (parts.Records.Count > StitchFormats.MostRecords) throw new StitchFileException($"The G-code has more stitches than any machine takes ({StitchFormats.MostRecords}).");
        }

        if (!ended) throw new StitchFileException("The G-code has no end (M30), so it is cut short. Copy it again from where it came.");
        var file = parts.ToFile(title);
        return file with { Needles = needles.Count == file.Parts.Length ? needles.ToImmutable() : [], Notes = ["G-code carries no colours; each thread is shown in a stand-in colour."] };
    }

    private static SewingThread Thread(string line, int n)
    {
        var at = line.IndexOf(ThreadWord, StringComparison.Ordinal);
        var stand = SewingThread.Unnamed(n);
        var name = at < 0 ? string.Empty : Titles.Clean(line[(at + ThreadWord.Length)..].TrimEnd(')'));
        return name.Length == 0 ? stand : stand with { Name = name };
    }

    private static Point Place(string line, int n)
    {
        var words = line.Split(' ', StringSplitOptions.RemoveEmptyEntries);
        if (words.Length == 3 && words[1].StartsWith('X') && words[2].StartsWith('Y')
            && double.TryParse(words[1].AsSpan(1), NumberStyles.Float, CultureInfo.InvariantCulture, out var x)
            && double.TryParse(words[2].AsSpan(1), NumberStyles.Float, CultureInfo.InvariantCulture, out var y)
            && Math.Abs(x) <= 10_000 && Math.Abs(y) <= 10_000)
            return new(x, 0 - y);
        throw new StitchFileException($"Line {n + 1} of the G-code has no sound place (X and Y in millimetres).");
    }

    /// <summary>Text without what would end a comment.</summary>
    private static string Comment(string text) => Titles.Clean(text).Replace('(', '[').Replace(')', ']');

    private static string Text(FormattableString text) => text.ToString(CultureInfo.InvariantCulture);
}
