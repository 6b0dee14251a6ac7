using System.CommandLine;
using System.Globalization;
using EvenThimble.Core.Craft;
using EvenThimble.Core.Files.Stitch;
using EvenThimble.Core.Jobs;
using EvenThimble.Core.Machines;
using EvenThimble.Core.Planning;
using EvenThimble.Core.Stitches;
using EvenThimble.Core.Text;
using EvenThimble.Rendering;

namespace EvenThimble.Cli;

/// <summary>Stitch files read and written for the commands.</summary>
internal static class StitchFiles
{
    /// <summary>The machines that hoops are taken from.</summary>
    public static readonly MachineCatalogue Machines = StandInMachines.Catalogue;

    private const int PictureWidth = 240;
    private const int PictureHeight = 180;

    /// <summary>The revision of a stitch file.</summary>
    public static Option<int> Revision() => new("--revision") { Description = "Revision of an .evth file: 1 for older machines, 2 with threads and a picture.", DefaultValueFactory = _ => 2 };

    /// <summary>Reads a file of any kind.</summary>
    /// <exception cref="StitchFileException">It cannot be read.</exception>
    public static StitchFile Read(string path) => StitchFormats.Read(Bytes(path, StitchFormats.LargestFile), Path.GetFileName(path)).File;

    /// <summary>The bytes of a file that is not larger than it may be.</summary>
    public static byte[] Bytes(string path, long most)
    {
        var file = new FileInfo(path);
        if (!file.Exists) throw new StitchFileException("There is no such file.");
        return file.Length > most ? throw new StitchFileException($"The file is larger than {most >> 20} MB. Check that it is the right one.") : File.ReadAllBytes(path);
    }

    /// <summary>The kind of file that a name asks for by its ending.</summary>
    /// <exception cref="UsageException">No kind has this ending.</exception>
    public static StitchFileKind KindOf(string path, int revision)
    {
        if (revision is not (1 or 2)) throw new UsageException($"There are revisions 1 and 2 of the stitch file; {revision} is none.");
        var ending = Path.GetExtension(path);
        return StitchFormats.Kinds.Where(k => k.Extension.Equals(ending, StringComparison.OrdinalIgnoreCase)).ToList() switch
        {
            [var one] => one,
            { Count: > 1 } => revision == 1 ? StitchFileKind.Evth1 : StitchFileKind.Evth2,
            _ => throw new UsageException($"“{ending}” is no ending of a stitch file; there are {string.Join(", ", StitchFormats.Kinds.Select(k => k.Extension).Distinct())}."),
        };
    }

    /// <summary>A job of one design.</summary>
    public static Job JobOf(StitchFile design) => Job.FromDesign(null, design, Machines.HoopFor(design.Bounds));

    /// <summary>The plan of a job as the contents of a stitch file.</summary>
    public static StitchFile FileOf(Job job, IStitchSource stitches) => Sequencer.Plan(job, stitches).ToFile(job.Title) with { Hoop = new(Machines.FieldOf(job.Hoop).Name, 1, 1, 0, 0) };

    /// <summary>The bytes of a file in a kind, read back and compared; a revision 2 file carries its picture.</summary>
    /// <exception cref="StitchFileException">It cannot be written.</exception>
    public static byte[] Write(StitchFileKind kind, StitchFile file)
    {
        if (kind == StitchFileKind.Evth2 && file.Picture.IsEmpty) file = file with { Picture = ThreadPainter.Picture(file, PictureWidth, PictureHeight, Cloth.Usual.Colour) };
        return StitchFormats.Write(kind, file);
    }

    /// <summary>What is told of a file that was written.</summary>
    public static WorkResult Told(string path, StitchFile file, IEnumerable<string> notes)
    {
        var said = notes.ToList();
        var b = file.Bounds;
        return new(
            [
                string.Create(CultureInfo.InvariantCulture, $"{path}: {b.Width:0.#} × {b.Height:0.#} mm, {file.StitchCount:N0} stitches, {file.Threads.Length} threads, {file.ThreadChanges} thread changes"),
                .. said.Select(n => $"  {n}"),
            ],
            new
            {
                title = file.Title,
                widthMm = Math.Round(b.Width, 2),
                heightMm = Math.Round(b.Height, 2),
                stitches = file.StitchCount,
                jumps = file.Stitches.CountOf(StitchKind.Jump),
                trims = file.Stitches.CountOf(StitchKind.Trim),
                threadChanges = file.ThreadChanges,
                threads = file.Threads.Select(t => t.Label),
                notes = said,
            });
    }

    /// <summary>Stitches of designs that are held in memory.</summary>
    public sealed class Held(IEnumerable<StitchFile> designs) : IStitchSource
    {
        private readonly Dictionary<BlobHash, StitchBlob> _blobs = designs.Select(d => d.Stitches).DistinctBy(b => b.Hash).ToDictionary(b => b.Hash);

        public StitchBlob Get(BlobHash hash) => _blobs[hash];
    }
}
