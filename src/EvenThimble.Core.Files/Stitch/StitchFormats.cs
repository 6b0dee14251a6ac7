using System.Collections.Immutable;
using System.Text;
using EvenThimble.Core.Jobs;
using EvenThimble.Core.Stitches;
using EvenThimble.Core.Text;
using EvenThimble.Core.Work;

namespace EvenThimble.Core.Files.Stitch;

/// <summary>Reads and writes stitch files of every kind.</summary>
public static class StitchFormats
{
    /// <summary>The largest file that is read, bytes; a million stitches take a tenth of it.</summary>
    public const int LargestFile = 64 * 1024 * 1024;

    /// <summary>The most records that are read from one file.</summary>
    public const int MostRecords = WorkBudget.MostRecords;

    /// <summary>No design is wider or higher than this, mm.</summary>
    public const double LargestMm = 4_000;

    private const int Beginning = 4096;

    /// <summary>All formats, in the order they are tried on a file.</summary>
    public static IReadOnlyList<IStitchFormat> All { get; } = [new Evth2Format(), new Evth1Format(), new CsvFormat(), new SvgFormat(), new GCodeFormat()];

    /// <summary>The names of all formats, in the order they are offered.</summary>
    public static IReadOnlyList<StitchFileKind> Kinds { get; } = [.. All.Select(f => f.Kind).OrderBy(k => k == StitchFileKind.Evth1 ? 0 : 1)];

    /// <summary>The kind of a short name, or null.</summary>
    public static StitchFileKind? Find(string? id) => Kinds.FirstOrDefault(k => k.Id == id);

    /// <summary>What kind of file bytes are, by what they begin with; null when it is none that we read.</summary>
    public static StitchFileKind? Detect(ReadOnlySpan<byte> bytes)
    {
        foreach (var format in All)
            if (format.Recognises(bytes))
                return format.Kind;
        return null;
    }

    /// <summary>Reads a file of any kind; <paramref name="fileName"/> gives the title where the file carries none.</summary>
    /// <exception cref="StitchFileException">It cannot be read; the message says why in one sentence.</exception>
    public static (StitchFileKind Kind, StitchFile File) Read(ReadOnlySpan<byte> bytes, string fileName)
    {
        if (bytes.Length == 0) throw new StitchFileException("The file is empty: it holds no bytes at all. Copy it again from where it came.");
        if (bytes.Length > LargestFile) throw new StitchFileException($"The file is larger than {LargestFile / (1024 * 1024)} MB, far more than any stitch file. Check that it is the right one.");
        var kind = Detect(bytes)
            ?? throw new StitchFileException("This is not a stitch file that Even Thimble reads: it begins like none of them. It reads .evth, CSV stitch tables, SVG stitch plans and its own G-code.");
        var file = Of(kind).Read(bytes);
        if (file.StitchCount == 0) throw new StitchFileException("The file is sound but holds no stitches, so there is nothing to sew.");
        if (file.Parts.Length > Job.MostParts) throw new StitchFileException($"The file changes thread {file.Parts.Length - 1:N0} times; designs of up to {Job.MostParts:N0} parts are read, far more than any machine changes.");
        if (Farthest(file.Stitches) > StitchBlob.FarthestMm) throw new StitchFileException($"The file has stitches more than {StitchBlob.FarthestMm / 1000:0} m from its centre, which no machine reaches; it is damaged.");
        if (Math.Max(file.Bounds.Width, file.Bounds.Height) > LargestMm) throw new StitchFileException($"The file's stitches lie {Math.Max(file.Bounds.Width, file.Bounds.Height) / 1000:0.#} m apart; at most {LargestMm / 1000:0} m are read, far more than any hoop holds.");
        var title = Titles.Clean(file.Title);
        return (kind, file with { Title = title.Length == 0 ? Titles.FromFileName(fileName) : title });
    }

    /// <summary>Writes a file, reads it back and compares before handing out the bytes.</summary>
    /// <exception cref="StitchFileException">It cannot be written in this kind, or came back different.</exception>
    public static byte[] Write(StitchFileKind kind, StitchFile file)
    {
        if (file.StitchCount == 0) throw new StitchFileException("There are no stitches to write.");
        var format = Of(kind);
        var bytes = format.Write(file);
        ReadBack.Verify(format, file, bytes);
        return bytes;
    }

    /// <summary>What a file loses when it is written in a kind, in sentences; empty when nothing.</summary>
    public static ImmutableArray<string> Losses(StitchFileKind kind, StitchFile file) => [.. Of(kind).Losses(file)];

    /// <summary>The format of a kind.</summary>
    /// <exception cref="ArgumentException">There is none.</exception>
    public static IStitchFormat Of(StitchFileKind kind) => All.FirstOrDefault(f => f.Kind == kind) ?? throw new ArgumentException($"No format writes {kind.Name}.");

    /// <summary>The beginning of a text file, without what may stand before its first word.</summary>
    internal static string TextStart(ReadOnlySpan<byte> bytes) => Encoding.UTF8.GetString(bytes[..Math.Min(bytes.Length, Beginning)]).TrimStart('\uFEFF', ' ', '\t', '\r', '\n');

    private static double Farthest(StitchBlob stitches)
    {
        var farthest = 0.0;
        for (var i = 0; i < stitches.Count; i++) farthest = Math.Max(farthest, Math.Max(Math.Abs(stitches.X[i]), Math.Abs(stitches.Y[i])));
        return farthest;
    }

    /// <summary>Whether parts are for anything but decoration.</summary>
    internal static bool HasRoles(StitchFile file) => file.Parts.Any(p => p.Role != PartRole.Decoration);
}
