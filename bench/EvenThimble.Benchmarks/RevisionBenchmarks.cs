using BenchmarkDotNet.Attributes;
using Dapper;
using EvenThimble.Core.Colour;
using EvenThimble.Core.Files.Jobs;
using EvenThimble.Core.Jobs;
using EvenThimble.Core.Machines;
using EvenThimble.Core.Stitches;
using EvenThimble.Core.Threads;
using EvenThimble.Storage;

namespace EvenThimble.Benchmarks;

/// <summary>Edits of a job of 4,096 parts, a hundred of which have gone before, against storing and reading the whole document as plain text in the same file.</summary>
public class RevisionBenchmarks
{
    private const int Parts = 4_096;
    private readonly Random _random = new(7);
    private string _folder = string.Empty;
    private Database _database = null!;
    private ShapeStore _shapes = null!;
    private JobStore _jobs = null!;
    private long _id;
    private long _version;

    [GlobalSetup]
    public void Prepare()
    {
        _folder = Directory.CreateTempSubdirectory("thimble-bench-").FullName;
        _database = Database.Open(_folder);
        _shapes = new(_database);
        _jobs = new(_database, _shapes, TimeProvider.System);
        var builder = new StitchBuilder();
        var made = new List<StitchFilePart>();
        for (var i = 0; i < Parts; i++)
        {
            var first = builder.Count;
            for (var s = 0; s < 6; s++) builder.Stitch(new(Math.Round(_random.NextDouble() * 180, 2), s));
            made.Add(new(first, builder.Count - first, new("Fenlight", $"{2000 + (i % 12)}", "Thread", Rgb.FromInt(i % 12)), PartRole.Decoration));
        }

        var design = new StitchFile("Scattered", builder.ToBlob(), [.. made]);
        _id = _jobs.Create(Job.FromDesign(null, design, StandInMachines.Catalogue.UsualHoop), "bench", [design.Stitches]);
        _version = 1;
        _database.Write((c, t) => c.Execute("CREATE TABLE plain (document TEXT NOT NULL)", transaction: t));
        for (var i = 0; i < 100; i++) Edit();
    }

    [GlobalCleanup]
    public void CleanUp()
    {
        Microsoft.Data.Sqlite.SqliteConnection.ClearAllPools();
        Directory.Delete(_folder, recursive: true);
    }

    [Benchmark(Baseline = true, Description = "the whole document as text: read, changed, stored, read")]
    public Job Plain()
    {
        var changed = Moved().Apply(_jobs.Find(_id)!.Job);
        _database.Write((c, t) => c.Execute("DELETE FROM plain; INSERT INTO plain VALUES (@json)", new { json = JobDocument.ToJson(changed) }, t));
        return Read(_database.Read(c => c.QuerySingle<string>("SELECT document FROM plain")));
    }

    [Benchmark(Description = "an edit, stored as a revision")]
    public long Edit() => _version = _jobs.Apply(_id, _version, Moved()).Version;

    [Benchmark(Description = "opening")]
    public Job Open() => _jobs.Find(_id)!.Job;

    [Benchmark(Description = "undo and redo")]
    public long BackAndForth()
    {
        var stored = _jobs.Find(_id)!;
        stored = _jobs.GoTo(_id, stored.Version, stored.Before!.Value);
        return _version = _jobs.GoTo(_id, stored.Version, stored.After!.Value).Version;
    }

    [Benchmark(Description = "the history")]
    public int History() => _jobs.History(_id).Count;

    private Job Read(string json) => JobDocument.FromJson(json, _shapes, _ => null);

    private ShiftParts Moved() => new(Enumerable.Range(0, 40).Select(_ => new PartId(_random.Next(1, Parts + 1))).ToHashSet(), 0.5, 0.25);
}
