using System.Collections.Immutable;
using System.Globalization;
using System.IO.Compression;
using System.Text;
using System.Text.RegularExpressions;
using EvenThimble.Core.Jobs;
using EvenThimble.Core.Shapes;
using EvenThimble.Core.Stitches;
using EvenThimble.Core.Text;

namespace EvenThimble.Core.Files.Jobs;

/// <summary>A design file as it came, as an archive carries it.</summary>
/// <param name="FileName">The name it came under.</param>
/// <param name="Bytes">Its bytes.</param>
public sealed record ArchivedOriginal(string FileName, byte[] Bytes)
{
    /// <summary>The SHA-256 of its bytes, by which the job's pieces name it.</summary>
    public string Hash { get; } = BlobHash.Of(Bytes).Hex;
}

/// <summary>A job with everything that is needed to go on working on another computer (<c>.evjob</c>).</summary>
public sealed partial record JobArchive(Job Job, ImmutableDictionary<BlobHash, StitchBlob> Stitches, ImmutableArray<ArchivedOriginal> Originals, byte[]? Picture) : IStitchSource
{
    /// <summary>The stitches that it carries under a hash.</summary>
    /// <exception cref="KeyNotFoundException">It carries none.</exception>
    public StitchBlob Get(BlobHash hash) => Stitches[hash];

    /// <summary>It carries no more letter sets.</summary>
    public const int MostSets = 20;

    /// <summary>The ending of such files.</summary>
    public const string Extension = ".evjob";

    // A part names at most its shape or its stitches, and the file they came in.
    private const int MostEntries = 3 * Job.MostParts;
    private const long LargestAltogether = 160L << 20;
    private const int MostFonts = 50;
    private const string What = "job file";
    private const string JobEntry = "job.json";
    private const string PictureEntry = "preview.png";
    private const string StitchesFolder = "stitches/";
    private const string ShapesFolder = "shapes/";
    private const string OriginalsFolder = "originals/";
    private const string FontsFolder = "fonts/";
    private const string SetsFolder = "sets/";

    /// <summary>Font files that its letterings are written in.</summary>
    public ImmutableArray<ArchivedOriginal> Fonts { get; init; } = [];

    /// <summary>Letter sets that its words are written with, each as one file.</summary>
    public ImmutableArray<ArchivedOriginal> Sets { get; init; } = [];

    /// <summary>The archive as a ZIP; the same content gives the same bytes.</summary>
    public byte[] ToBytes()
    {
        using var bytes = new MemoryStream();
        using (var zip = new ZipArchive(bytes, ZipArchiveMode.Create, leaveOpen: true, Encoding.UTF8))
        {
            ZipEntries.Add(zip, JobEntry, Encoding.UTF8.GetBytes(JobDocument.ToJson(Job)));
            foreach (var (hash, blob) in Stitches.OrderBy(s => s.Key.Hex, StringComparer.Ordinal)) ZipEntries.Add(zip, StitchesFolder + hash.Hex, blob.ToBytes());
            foreach (var shape in JobDocument.ShapesOf(Job).OrderBy(s => s.Hash.Hex, StringComparer.Ordinal)) ZipEntries.Add(zip, ShapesFolder + shape.Hash.Hex, ShapeBytes.Write(shape));
            AddAll(OriginalsFolder, Originals);
            AddAll(FontsFolder, Fonts);
            AddAll(SetsFolder, Sets);
            if (Picture is not null) ZipEntries.Add(zip, PictureEntry, Picture);

            void AddAll(string folder, IEnumerable<ArchivedOriginal> files)
            {
                foreach (var f in files) ZipEntries.Add(zip, $"{folder}{f.Hash}-{Titles.FileName(f.FileName)}", f.Bytes);
            }
        }

        return bytes.ToArray();
    }

    /// <summary>Whether bytes begin as a ZIP does.</summary>
    public static bool LooksLike(ReadOnlySpan<byte> bytes) => bytes.StartsWith("PK\u0003\u0004"u8);

    /// <summary>Reads an archive; nothing in it is used as a path.</summary>
    /// <exception cref="StitchFileException">It is damaged, too large or none; the message is a sentence.</exception>
    public static JobArchive FromBytes(byte[] bytes)
    {
        try
        {
            using var zip = new ZipArchive(new MemoryStream(bytes), ZipArchiveMode.Read);
            if (zip.Entries.Count > MostEntries) throw new StitchFileException($"The job file holds {zip.Entries.Count:N0} entries, more than any job has. It was not opened.");
            if (zip.Entries.DistinctBy(e => e.FullName).Count() < zip.Entries.Count) throw new StitchFileException("The job file holds two entries of one name; it was changed by another program. Save the job again on the other computer.");
            var left = LargestAltogether;
            var document = Encoding.UTF8.GetString(ZipEntries.Read(zip.GetEntry(JobEntry) ?? throw new StitchFileException("The job file has no job in it. Check that it is the right file."), ref left, What));
            var shapes = new ArchivedShapes();
            var numbered = new Dictionary<long, string>();
            var stitches = ImmutableDictionary.CreateBuilder<BlobHash, StitchBlob>();
            var (originals, fonts, sets) = (ImmutableArray.CreateBuilder<ArchivedOriginal>(), ImmutableArray.CreateBuilder<ArchivedOriginal>(), ImmutableArray.CreateBuilder<ArchivedOriginal>());
            byte[]? picture = null;
            foreach (var entry in zip.Entries)
            {
                if (entry.FullName == PictureEntry) picture = ZipEntries.Read(entry, ref left, What);
                else if (entry.FullName.StartsWith(StitchesFolder, StringComparison.Ordinal)) AddStitches(stitches, entry, ZipEntries.Read(entry, ref left, What));
                else if (entry.FullName.StartsWith(ShapesFolder, StringComparison.Ordinal)) shapes.Add(Named(ShapesFolder, entry, ZipEntries.Read(entry, ref left, What)));
                else if (Original().Match(entry.FullName) is { Success: true } name)
                {
                    var original = new ArchivedOriginal(Titles.FileName(name.Groups[2].Value), ZipEntries.Read(entry, ref left, What));
                    originals.Add(original);

                    // Up to version 3 of the document its pieces named designs by numbers.
                    if (long.TryParse(name.Groups[1].Value, NumberStyles.None, CultureInfo.InvariantCulture, out var number))
                    {
                        if (!numbered.TryAdd(number, original.Hash)) throw new StitchFileException($"The job file holds two designs of the number {number}; it was changed by another program. Save the job again on the other computer.");
                    }
                    else if (name.Groups[1].Value != original.Hash) throw Changed();
                }
                else if (Font().Match(entry.FullName) is { Success: true } font) Keep(fonts, MostFonts, "fonts", font, entry);
                else if (Set().Match(entry.FullName) is { Success: true } set) Keep(sets, MostSets, "letter sets", set, entry);
            }

            var job = JobDocument.FromJson(document, shapes, number => numbered.GetValueOrDefault(number));
            JobRules.CheckStitches(job, hash => stitches.TryGetValue(hash, out var blob) ? blob.Count : null);
            return new(job, stitches.ToImmutable(), originals.ToImmutable(), picture) { Fonts = fonts.ToImmutable(), Sets = sets.ToImmutable() };

            void Keep(ImmutableArray<ArchivedOriginal>.Builder kept, int most, string kind, Match name, ZipArchiveEntry entry)
            {
                if (kept.Count == most) throw new StitchFileException($"The job file holds more than {most} {kind}. It was not opened.");
                kept.Add(new(Titles.FileName(name.Groups[2].Value), ZipEntries.Read(entry, ref left, What)));
                if (kept[^1].Hash != name.Groups[1].Value) throw Changed();
            }
        }
        catch (Exception e) when (e is InvalidDataException or EditRefusedException or IndexOutOfRangeException or EndOfStreamException or NotSupportedException or ArgumentException or OverflowException)
        {
            throw new StitchFileException($"The job file cannot be opened. {Clipped(e.Message)} Copy it anew from where it came.");
        }
    }

    [GeneratedRegex("^originals/([0-9]{1,18}|[0-9a-f]{64})-([^/\\\\]+)$")]
    private static partial Regex Original();

    [GeneratedRegex("^fonts/([0-9a-f]{64})-([^/\\\\]+)$")]
    private static partial Regex Font();

    [GeneratedRegex("^sets/([0-9a-f]{64})-([^/\\\\]+)$")]
    private static partial Regex Set();

    private static void AddStitches(ImmutableDictionary<BlobHash, StitchBlob>.Builder stitches, ZipArchiveEntry entry, byte[] bytes)
    {
        var (hash, named) = Named(StitchesFolder, entry, bytes);
        stitches[hash] = StitchBlob.FromBytes(named);
    }

    /// <summary>Bytes that are named by their hash.</summary>
    private static (BlobHash Hash, byte[] Bytes) Named(string folder, ZipArchiveEntry entry, byte[] bytes)
    {
        var hash = BlobHash.Of(bytes);
        return entry.FullName == folder + hash.Hex ? (hash, bytes) : throw Changed();
    }

    private static string Clipped(string sentence) => sentence.Length <= 160 ? sentence : sentence[..159] + "…";

    private static StitchFileException Changed() => new("Something in the job file is not what its name says; the file was damaged. Copy it anew from where it came.");

    /// <summary>The shapes that an archive carries.</summary>
    private sealed class ArchivedShapes : IShapeSource
    {
        private readonly Dictionary<BlobHash, DrawnShape> _shapes = [];

        public void Add((BlobHash Hash, byte[] Bytes) named) => _shapes[named.Hash] = ShapeBytes.Read(named.Bytes);

        public DrawnShape Get(BlobHash hash) => _shapes.TryGetValue(hash, out var shape) ? shape : throw new StitchFileException("The job file lacks shapes that its job names; it was cut short or changed. Save the job again on the other computer.");
    }
}
