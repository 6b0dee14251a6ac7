using System.Collections.Immutable;
using System.IO.Compression;
using System.Text;
using System.Text.Encodings.Web;
using System.Text.Json;
using System.Text.Json.Serialization;
using EvenThimble.Core.LetterSets;
using EvenThimble.Core.Text;

namespace EvenThimble.Core.Files.Letters;

/// <summary>A letter set with all that was put right about it in one file (<c>.evset</c>): a ZIP of the letters' files as they came, and <c>set.json</c>.</summary>
public static class LetterSetArchive
{
    /// <summary>The ending of such files.</summary>
    public const string Extension = ".evset";

    /// <summary>The version of <c>set.json</c> that is written.</summary>
    public const int Version = 1;

    private const string Document = "set.json";
    private const string Folder = "letters/";
    private static readonly JsonSerializerOptions Options = new()
    {
        PropertyNamingPolicy = JsonNamingPolicy.SnakeCaseLower,
        DefaultIgnoreCondition = JsonIgnoreCondition.WhenWritingDefault,
        Encoder = JavaScriptEncoder.UnsafeRelaxedJsonEscaping,
        WriteIndented = true,
        MaxDepth = 8,
    };

    private sealed record StoredMending(string? Character, bool LeftOut, double RaisedMm, double LeftMm, double RightMm, bool UsualThread);

    private sealed record StoredSet(int Version, string? Name, string? Unsaid, SortedDictionary<string, StoredMending>? Files);

    /// <summary>What was put right about a set, as JSON.</summary>
    public static string ToJson(LetterSetSource set) => JsonSerializer.Serialize(
        new StoredSet(Version, set.Name, set.Unsaid == LetterCase.AsWritten ? null : WordOf(set.Unsaid), set.Mended.IsEmpty ? null : new(
            set.Mended.ToDictionary(m => m.Key, m => new StoredMending(m.Value.Character, m.Value.LeftOut, m.Value.RaisedMm, m.Value.LeftMm, m.Value.RightMm, m.Value.UsualThread)), StringComparer.Ordinal)),
        Options);

    /// <summary>A set of files with what its JSON says of them; what it says of files that are not there is passed over.</summary>
    /// <exception cref="StitchFileException">The JSON is none, or of a later version.</exception>
    public static LetterSetSource Mended(LetterSetSource set, string json)
    {
        try
        {
            var stored = JsonSerializer.Deserialize<StoredSet>(json, Options) ?? throw new JsonException();
            if (stored.Version > Version) throw new StitchFileException($"The letter set was saved by a later version ({stored.Version}) of Even Thimble.");
            set = set with { Name = LetterSetFiles.NameFor(stored.Name ?? set.Name), Unsaid = stored.Unsaid switch { "capital" => LetterCase.Capital, "small" => LetterCase.Small, _ => LetterCase.AsWritten } };
            var known = set.Files.Select(f => f.Path).ToHashSet(StringComparer.Ordinal);
            return (stored.Files ?? []).Where(f => known.Contains(f.Key)).Aggregate(set, (s, f) => s.With(f.Key, new()
            {
                Character = f.Value.Character,
                LeftOut = f.Value.LeftOut,
                RaisedMm = f.Value.RaisedMm,
                LeftMm = f.Value.LeftMm,
                RightMm = f.Value.RightMm,
                UsualThread = f.Value.UsualThread,
            }));
        }
        catch (Exception e) when (e is JsonException or NullReferenceException or EditRefusedException)
        {
            throw new StitchFileException("What was put right about the letter set cannot be read; the file was damaged. Copy it anew from where it came.");
        }
    }

    /// <summary>The set as one file.</summary>
    /// <param name="set">What was put right.</param>
    /// <param name="files">Its files as they came.</param>
    public static byte[] ToBytes(LetterSetSource set, IEnumerable<CameFile> files)
    {
        using var bytes = new MemoryStream();
        using (var zip = new ZipArchive(bytes, ZipArchiveMode.Create, leaveOpen: true, Encoding.UTF8))
        {
            ZipEntries.Add(zip, Document, Encoding.UTF8.GetBytes(ToJson(set)));
            foreach (var file in files) ZipEntries.Add(zip, Folder + file.Path, file.Bytes);
        }

        return bytes.ToArray();
    }

    /// <summary>The set that the files of an archive make: one that was saved here, or any archive of stitch files.</summary>
    /// <param name="name">What it is called where it does not say so.</param>
    /// <param name="files">The files.</param>
    /// <exception cref="StitchFileException">It cannot be opened.</exception>
    /// <exception cref="EditRefusedException">It holds more than a set can.</exception>
    public static (LetterSetSource Set, ImmutableArray<CameFile> Files) Read(string name, ImmutableArray<CameFile> files)
    {
        if (files.FirstOrDefault(f => f.Path == Document) is not { } document) return (LetterSetFiles.Read(name, files), files);
        ImmutableArray<CameFile> letters = [.. files.Where(f => f != document).Select(f => f.Path.StartsWith(Folder, StringComparison.Ordinal) ? f with { Path = f.Path[Folder.Length..] } : f)];
        return (Mended(LetterSetFiles.Read(name, letters), Encoding.UTF8.GetString(document.Bytes)), letters);
    }

    private static string WordOf(LetterCase unsaid) => unsaid == LetterCase.Capital ? "capital" : "small";
}
