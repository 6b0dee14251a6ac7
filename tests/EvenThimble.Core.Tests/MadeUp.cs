using EvenThimble.Core.Colour;
using EvenThimble.Core.Files.Jobs;
using EvenThimble.Core.Geometry;
using EvenThimble.Core.Jobs;
using EvenThimble.Core.Machines;
using EvenThimble.Core.Shapes;
using EvenThimble.Core.Stitches;
using EvenThimble.Core.Threads;
using FsCheck;
using FsCheck.Fluent;

namespace EvenThimble.Core.Tests;

/// <summary>Stitch files made up for tests; the same seed, the same file.</summary>
public static class MadeUp
{
    /// <summary>The folder of the whole project.</summary>
    public static string Repository { get; } = RepositoryAbove(AppContext.BaseDirectory);

    private static readonly string[] Messages = ["Lay the moon fabric", "Schneide den Rand", "布を置く", "Trim (close)"];

    /// <summary>A file of several parts with all kinds of records, on the grid of 0.01 mm.</summary>
    public static StitchFile File(int seed, int parts = 4, int recordsPerPart = 60, double reach = 60)
    {
        var random = new Random(seed);
        var builder = new StitchBuilder();
        var made = new List<StitchFilePart>();
        for (var p = 0; p < parts; p++)
        {
            var first = builder.Count;
            var at = new Point(Coordinate(random, reach), Coordinate(random, reach));
            builder.Jump(at);
            builder.Stitch(at);
            for (var i = 0; i < recordsPerPart; i++)
            {
                var roll = random.Next(100);
                if (roll < 88) builder.Stitch(at = Near(random, at));
                else if (roll < 94) builder.Jump(at = Near(random, at));
                else if (roll < 98) builder.Trim();
                else builder.Stop(Messages[random.Next(Messages.Length)]);
            }

            builder.Stitch(at = Near(random, at));
            if (random.Next(2) == 0) builder.Trim();
            var thread = new SewingThread("Fenlight", $"{1000 + random.Next(900)}", $"Quiet, “tarn” {seed}-{p}", Rgb.FromInt(random.Next(0x1000000)));
            made.Add(new(first, builder.Count - first, thread, (PartRole)random.Next(8)));
        }

        return new($"Made up {seed}", builder.ToBlob(), [.. made]);
    }

    /// <summary>Simple parts, each a run of stitches at its own place, ending with a trim.</summary>
    public static StitchFile Rows(params (double X, double Y, string Thread)[] rows)
    {
        var builder = new StitchBuilder();
        var made = new List<StitchFilePart>();
        foreach (var (x, y, thread) in rows)
        {
            var first = builder.Count;
            builder.Jump(new(x, y));
            for (var i = 0; i < 10; i++) builder.Stitch(new(x + (i * 2), y));
            builder.Trim();
            made.Add(new(first, builder.Count - first, Thread(thread), PartRole.Decoration));
        }

        return new("Rows", builder.ToBlob(), [.. made]);
    }

    public static SewingThread Thread(string name) => new("Fenlight", name, name, Rgb.FromInt(name.Sum(c => c * 7919) % 0x1000000));

    public static (Job Job, IStitchSource Source) JobOf(StitchFile file) => (Job.FromDesign(Original, file, StandInMachines.Catalogue.HoopFor(file.Bounds)), new OneBlob(file.Stitches));

    /// <summary>The hash of a design's file that is nowhere.</summary>
    public static readonly string Original = new('a', 64);

    /// <summary>The job as it comes back from its document.</summary>
    public static Job Reread(Job job) => JobDocument.FromJson(JobDocument.ToJson(job), ShapesOf(job), _ => null);

    /// <summary>The shapes of a job, by their hashes; none of none.</summary>
    public static IShapeSource ShapesOf(Job? job = null) => new Shapes(job is null ? [] : JobDocument.ShapesOf(job).ToDictionary(s => s.Hash, s => ShapeBytes.Read(ShapeBytes.Write(s))));

    private sealed class Shapes(Dictionary<BlobHash, DrawnShape> known) : IShapeSource
    {
        public DrawnShape Get(BlobHash hash) => known[hash];
    }

    public static ChooseHoop Wren(string hoop) => new(StandInMachines.Wren130, StandInMachines.Wren130.Hoops.First(h => h.Id == hoop));

    public static HashSet<PartId> Ids(params int[] ids) => [.. ids.Select(i => new PartId(i))];

    private static string RepositoryAbove(string folder) =>
        System.IO.File.Exists(Path.Combine(folder, "EvenThimble.slnx")) ? folder : RepositoryAbove(Path.GetDirectoryName(folder) ?? throw new DirectoryNotFoundException("The tests run outside the project."));

    private static double Coordinate(Random random, double reach) => Math.Round((random.NextDouble() - 0.5) * 2 * reach, 2);

    private static Point Near(Random random, Point at) => new(Math.Round(at.X + ((random.NextDouble() - 0.5) * 8), 2), Math.Round(at.Y + ((random.NextDouble() - 0.5) * 8), 2));

    public sealed class OneBlob(StitchBlob blob) : IStitchSource
    {
        public StitchBlob Get(BlobHash hash) => hash == blob.Hash ? blob : throw new KeyNotFoundException();
    }
}

/// <summary>Lets properties take made-up files.</summary>
public static class MadeUpFiles
{
    public static Arbitrary<StitchFile> File() =>
        (from seed in Gen.Choose(0, 1_000_000) from parts in Gen.Choose(1, 7) from records in Gen.Choose(0, 120) select MadeUp.File(seed, parts, records)).ToArbitrary();
}
