using System.Collections.Concurrent;
using System.Collections.Immutable;
using System.Security.Cryptography;
using EvenThimble.Core.Craft;
using EvenThimble.Core.Files.Jobs;
using EvenThimble.Core.Files.Letters;
using EvenThimble.Core.Jobs;
using EvenThimble.Core.Lettering;
using EvenThimble.Core.LetterSets;
using EvenThimble.Core.Stitches;
using EvenThimble.Core.Text;
using EvenThimble.Rendering;
using EvenThimble.Storage;

namespace EvenThimble.Web.Workroom;

/// <summary>A letter set with the state that it was read in.</summary>
/// <param name="Line">Its number, name and version.</param>
/// <param name="Set">What it is.</param>
public sealed record OpenLetterSet(LetterSetLine Line, LetterSet Set)
{
    /// <summary>What of it could not be read, in a sentence; null: all could.</summary>
    public string? Trouble { get; init; }
}

/// <summary>The letter sets at hand, each read once, pictures of them in thread, and files on their way to become one.</summary>
public sealed class LetterSets(LetterSetStore store)
{
    private const long MostRecordsKept = 2_000_000;
    private const long MostPictureBytes = 24L << 20;
    private const int MostTrays = 4;
    private const int LongestShown = 12;
    private readonly RecentlyMade<(long Id, long Version), OpenLetterSet> _open = new(MostRecordsKept, s => s.Set.Source.Files.Sum(f => f.Design?.Stitches.Count ?? 0) + 1000);
    private readonly RecentlyMade<(long Id, long Version, string Text, int Height), byte[]> _pictures = new(MostPictureBytes, p => p.Length + 200);
    private readonly ConcurrentQueue<Tray> _trays = new();

    /// <summary>Files that were sent one after another and become a set when the last of them is here.</summary>
    private sealed class Tray(string token)
    {
        public string Token => token;

        public List<CameFile> Files { get; } = [];

        public long Bytes { get; set; }
    }

    /// <summary>All sets, by name.</summary>
    public IReadOnlyList<LetterSetLine> All => store.All;

    /// <summary>The set of a name; null: it is not here.</summary>
    /// <exception cref="EditRefusedException">Nothing in it is a letter any more.</exception>
    public LetterSet? Find(string? name) => All.FirstOrDefault(s => s.Name.Equals(name?.Trim(), StringComparison.OrdinalIgnoreCase)) is { } line ? Find(line.Id)?.Set : null;

    /// <summary>The set of a number; null: there is none.</summary>
    public OpenLetterSet? Find(long id) => All.FirstOrDefault(s => s.Id == id) is { } line ? _open.Get((line.Id, line.Version), () => Read(line)) : null;

    /// <summary>A new place for files to come to.</summary>
    public string Begin()
    {
        var token = Convert.ToHexStringLower(RandomNumberGenerator.GetBytes(12));
        _trays.Enqueue(new(token));
        while (_trays.Count > MostTrays) _trays.TryDequeue(out _);
        return token;
    }

    /// <summary>Lays a file down: one letter, an archive of them, or a saved set.</summary>
    /// <exception cref="RefusedException">It cannot be taken; a sentence.</exception>
    public int Lay(string token, string path, byte[] bytes)
    {
        var tray = TrayOf(token);
        ImmutableArray<CameFile> files = IsZip(bytes) ? LetterSetFiles.OfZip(bytes) : [new(LetterSetFiles.Cleaned(path), bytes)];
        lock (tray)
        {
            if (tray.Files.Count + files.Length > LetterSetSource.MostFiles + 1) throw new EditRefusedException($"A letter set has at most {LetterSetSource.MostFiles:N0} files.");
            if ((tray.Bytes += files.Sum(f => (long)f.Bytes.Length)) > LetterSetFiles.LargestAltogether) throw new EditRefusedException($"These files are larger than {LetterSetFiles.LargestAltogether >> 20} MB together, far more than a letter set has.");
            tray.Files.AddRange(files.Where(f => !tray.Files.Exists(o => o.Path == f.Path)));
            return tray.Files.Count;
        }
    }

    /// <summary>Makes a set of the files that lie in a place.</summary>
    /// <exception cref="RefusedException">They are no letters; a sentence.</exception>
    public LetterSetLine Finish(string token, string name)
    {
        var tray = TrayOf(token);
        ImmutableArray<CameFile> files;
        lock (tray) files = [.. tray.Files];
        return Add(name, files);
    }

    /// <summary>Takes files in as a set.</summary>
    /// <exception cref="RefusedException">They are no letters; a sentence.</exception>
    public LetterSetLine Add(string name, ImmutableArray<CameFile> files)
    {
        var (set, letters) = LetterSetArchive.Read(name, files);
        LetterSet.Of(set);
        return store.Add(set, letters);
    }

    /// <summary>Puts something right about a set.</summary>
    /// <exception cref="EditRefusedException">It cannot be so; a sentence.</exception>
    public void Mend(long id, long version, Func<LetterSetSource, LetterSetSource> change)
    {
        var open = Find(id) ?? throw new EditRefusedException("That letter set is no longer here.");
        var mended = change(open.Set.Source);
        LetterSet.Of(mended);
        store.Save(id, version, mended);
    }

    /// <summary>A set as one file; null: there is none.</summary>
    public byte[]? File(long id) => Find(id) is { } open && store.Find(id) is var (_, _, files) ? LetterSetArchive.ToBytes(open.Set.Source, files) : null;

    /// <summary>The set of a name as a file that a job carries along; null: it is not here.</summary>
    public ArchivedOriginal? ToTravel(string name) => All.FirstOrDefault(s => s.Name == name) is { } line && File(line.Id) is { } bytes ? new(line.Name + LetterSetArchive.Extension, bytes) : null;

    /// <summary>What a set that came with a job has to be kept; null where one of its name is here, or no more can be kept: the job has its letters anyway.</summary>
    /// <exception cref="RefusedException">It is damaged; a sentence.</exception>
    public Action? ToKeep(ArchivedOriginal travelled)
    {
        var (set, letters) = LetterSetArchive.Read(Path.GetFileNameWithoutExtension(travelled.FileName), LetterSetFiles.OfZip(travelled.Bytes));
        LetterSet.Of(set);
        var here = All;
        return here.Count >= LetterSetStore.MostSets || here.Any(s => s.Name.Equals(set.Name, StringComparison.OrdinalIgnoreCase)) ? null : () => store.Add(set, letters);
    }

    /// <summary>Takes a set out; null when there is none, else its name. Jobs keep the letters that they have.</summary>
    public string? Remove(long id) => All.FirstOrDefault(s => s.Id == id) is { } line && store.Remove(id) ? line.Name : null;

    /// <summary>A word of a set in thread (PNG); null where it has none of it.</summary>
    public byte[]? PictureOf(long id, string text, int height)
    {
        if (Find(id) is not { } open) return null;
        var shown = new string([.. text.ReplaceLineEndings(" ").Where(c => !char.IsControl(c)).Take(LongestShown)]).Trim();
        return _pictures.Get((open.Line.Id, open.Line.Version, shown, height), () => Drawn(open.Set, shown, height)) is { Length: > 0 } picture ? picture : null;
    }

    /// <summary>One letter of a set as it came (PNG), at so many pixels a millimetre; null: there is none.</summary>
    public byte[]? LetterPicture(long id, string path, double pixelsPerMm) =>
        Find(id)?.Set.Files.FirstOrDefault(f => f.File.Path == path)?.File.Design is { } design ? ThreadPainter.PictureAt(design, Math.Clamp(pixelsPerMm, 0.5, 10), ClothProfiles.Cotton.UsualColour, lines: false) : null;

    /// <summary>At which sizes a set sews well, in words.</summary>
    public static string GoodSizes(LetterSet set, LengthUnit unit) => set.Sizes.Length == 1
        ? $"capitals of {LengthText.Show(Math.Round(set.Sizes[0].CapitalMm, 1), unit)}, {set.Characters.Count} characters"
        : $"capitals of {string.Join(", ", set.Sizes.Take(4).Select(s => LengthText.Show(Math.Round(s.CapitalMm, 1), unit)))}, {set.Characters.Count} characters";

    private static byte[] Drawn(LetterSet set, string text, int height)
    {
        try
        {
            var content = LetterSetContent.Lay(new(text) { CapitalMm = set.Nearest(25).CapitalMm }, set, new(null, Joined: true));
            var job = new AddLettering(content, Placement.AsItCame).Apply(Job.New(Core.Machines.StandInMachines.Catalogue.HoopFor(default)));
            var file = Core.Planning.Sequencer.Plan(job, new Letters(set)).ToFile("look");
            return ThreadPainter.Picture(file, height * 264 / 56, height, ClothProfiles.Cotton.UsualColour, 5);
        }
        catch (EditRefusedException)
        {
            return [];
        }
    }

    private OpenLetterSet Read(LetterSetLine line)
    {
        var (found, document, files) = store.Find(line.Id) ?? throw new EditRefusedException("That letter set is no longer here.");
        var came = LetterSetFiles.Read(found.Name, files);
        try
        {
            return new(found, LetterSet.Of(LetterSetArchive.Mended(came, document)));
        }
        catch (StitchFileException)
        {
            return new(found, LetterSet.Of(came)) { Trouble = "What was put right about this set is damaged on the disk, so its letters are as they came. Put right what is needed; the damaged notes are kept until then." };
        }
    }

    private Tray TrayOf(string token) => _trays.FirstOrDefault(t => t.Token == token) ?? throw new EditRefusedException("These files were laid down too long ago. Choose them again.");

    private static bool IsZip(ReadOnlySpan<byte> bytes) => bytes.StartsWith("PK\u0003\u0004"u8);

    /// <summary>The stitches of a set's letters.</summary>
    private sealed class Letters(LetterSet set) : IStitchSource
    {
        private readonly Dictionary<BlobHash, StitchBlob> _blobs = set.Files.Select(f => f.File.Design?.Stitches).OfType<StitchBlob>().DistinctBy(b => b.Hash).ToDictionary(b => b.Hash);

        public StitchBlob Get(BlobHash hash) => _blobs[hash];
    }
}
