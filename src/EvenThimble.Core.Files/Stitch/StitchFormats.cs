using System.Collections.Immutable;
using System.Text;
using EvenThimble.Core.Stitches;
using EvenThimble.Core.Text;

namespace EvenThimble.Core.Files.Stitch;

/// <summary>Reads and writes stitch files of every kind.</summary>
public static class StitchFormats
{
    /// <summary>The largest file that is read, bytes; a million stitches take a tenth of it.</summary>
    public const int LargestFile = 64 * 1024 * 1024;

    /// <summary>The most records that are read from one file.</summary>
    public const int MostRecords = 4_000_000;

    /// <summary>What kind of file bytes are, by what they begin with; null when it is none that we read.</summary>
    public static StitchFileKind? Detect(ReadOnlySpan<byte> bytes)
    {
        if (bytes.StartsWith(Evth.Magic)) return bytes.Length > 4 && bytes[4] == Evth2Format.Revision ? StitchFileKind.Evth2 : StitchFileKind.Evth1;
        var start = Encoding.UTF8.GetString(bytes[..Math.Min(bytes.Length, 4096)]).TrimStart('\uFEFF', ' ', '\t', '\r', '\n');
        if (start.StartsWith("op,", StringComparison.OrdinalIgnoreCase) || start.StartsWith("\"op\",", StringComparison.OrdinalIgnoreCase)) return StitchFileKind.Csv;
        if (start.StartsWith('<') && start.Contains("<svg", StringComparison.OrdinalIgnoreCase)) return StitchFileKind.Svg;
        return start.StartsWith(GCodeFormat.FirstLine, StringComparison.Ordinal) ? StitchFileKind.GCode : null;
    }

    /// <summary>Reads a file of any kind; <paramref name="fileName"/> gives the title where the file carries none.</summary>
    /// <exception cref="StitchFileException">It cannot be read; the message says why in one sentence.</exception>
    public static (StitchFileKind Kind, StitchFile File) Read(ReadOnlySpan<byte> bytes, string fileName)
    {
        if (bytes.Length == 0) throw new StitchFileException("The file is empty: it holds no bytes at all. Copy it again from where it came.");
        if (bytes.Length > LargestFile) throw new StitchFileException($"The file is larger than {LargestFile / (1024 * 1024)} MB, far more than any stitch file. Check that it is the right one.");
        var kind = Detect(bytes)
            ?? throw new StitchFileException("This is not a stitch file that Even Thimble reads: it begins like none of them. It reads .evth, CSV stitch tables, SVG stitch plans and its own G-code.");
        var file = kind switch
        {
            _ when kind == StitchFileKind.Evth1 => Evth1Format.Read(bytes),
            _ when kind == StitchFileKind.Evth2 => Evth2Format.Read(bytes),
            _ when kind == StitchFileKind.Csv => CsvFormat.Read(bytes),
            _ when kind == StitchFileKind.Svg => SvgFormat.Read(bytes),
            _ => GCodeFormat.Read(bytes),
        };
        if (file.StitchCount == 0) throw new StitchFileException("The file is sound but holds no stitches, so there is nothing to sew.");
        var title = Titles.Clean(file.Title);
        return (kind, file with { Title = title.Length == 0 ? Titles.FromFileName(fileName) : title });
    }

    /// <summary>Writes a file, reads it back and compares before handing out the bytes.</summary>
    /// <exception cref="StitchFileException">It cannot be written in this kind, or came back different.</exception>
    public static byte[] Write(StitchFileKind kind, StitchFile file)
    {
        if (file.StitchCount == 0) throw new StitchFileException("There are no stitches to write.");
        var bytes = kind switch
        {
            _ when kind == StitchFileKind.Evth1 => Evth1Format.Write(file),
            _ when kind == StitchFileKind.Evth2 => Evth2Format.Write(file),
            _ when kind == StitchFileKind.Csv => CsvFormat.Write(file),
            _ when kind == StitchFileKind.Svg => SvgFormat.Write(file),
            _ => GCodeFormat.Write(file),
        };
        ReadBack.Verify(kind, file, bytes);
        return bytes;
    }

    /// <summary>What a file loses when it is written in a kind, in sentences; empty when nothing.</summary>
    public static ImmutableArray<string> Losses(StitchFileKind kind, StitchFile file)
    {
        var losses = ImmutableArray.CreateBuilder<string>();
        var named = file.Threads.Any(t => t.Maker.Length + t.Number.Length > 0);
        var roles = file.Parts.Any(p => p.Role != PartRole.Decoration);
        var messages = file.Stitches.Messages.Count > 0;
        if (kind == StitchFileKind.Evth1)
        {
            losses.Add("Revision 1 carries no colours: follow the order of threads on the bench.");
            if (roles) losses.Add("Revision 1 carries no roles of parts.");
            if (messages) losses.Add("Revision 1 carries no messages at stops.");
            losses.Add("Places are rounded to 0.1 mm.");
        }
        else if (kind == StitchFileKind.GCode)
        {
            if (roles) losses.Add("G-code carries no roles of parts.");
            losses.Add(named ? "G-code names threads but carries no colours." : "G-code carries no colours.");
        }
        else if (kind == StitchFileKind.Csv && messages)
        {
            losses.Add("A stitch table carries no messages at stops.");
        }

        return losses.ToImmutable();
    }
}
