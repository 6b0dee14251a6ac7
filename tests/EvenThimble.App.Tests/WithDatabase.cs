using EvenThimble.Core.Files.Stitch;
using EvenThimble.Core.Jobs;
using EvenThimble.Core.Machines;
using EvenThimble.Core.Stitches;
using EvenThimble.Core.Tests;
using EvenThimble.Scenario;
using EvenThimble.Storage;
using Microsoft.Data.Sqlite;

namespace EvenThimble.App.Tests;

/// <summary>A data folder of its own, with a clock that the test sets.</summary>
public abstract class WithDatabase : IDisposable
{
    protected static readonly StitchFile Planet = DemoDesigns.All[2].Drawn();
    protected static readonly byte[] PlanetBytes = StitchFormats.Write(StitchFileKind.Evth2, Planet);

    protected WithDatabase()
    {
        Database = Database.Open(Folder);
        Shapes = new(Database);
    }

    protected string Folder { get; } = Directory.CreateTempSubdirectory("thimble-").FullName;

    protected Database Database { get; private set; }

    protected ShapeStore Shapes { get; private set; }

    protected SetClock Clock { get; } = new();

    protected DesignStore Designs => new(Database, Clock);

    protected JobStore Jobs => new(Database, Shapes, Clock);

    public void Dispose()
    {
        SqliteConnection.ClearAllPools();
        Directory.Delete(Folder, recursive: true);
        GC.SuppressFinalize(this);
    }

    protected long Import() => Designs.Import(new(Planet, StitchFileKind.Evth2, "planet.evth", PlanetBytes, [])).Id;

    protected long NewJob()
    {
        var design = Import();
        return Jobs.Create(Job.FromDesign(Designs.Find(design)!.OriginalHash, Planet, StandInMachines.Catalogue.UsualHoop), "Opened Ringed planet");
    }

    /// <summary>Everything is forgotten that is not on the disk.</summary>
    protected void Restart()
    {
        SqliteConnection.ClearAllPools();
        Database = Database.Open(Folder);
        Shapes = new(Database);
    }

    /// <summary>The one value that a query gives.</summary>
    protected T Ask<T>(string sql) => Database.Read(c => Dapper.SqlMapper.ExecuteScalar<T>(c, sql))!;

    /// <summary>A clock that goes when it is told to.</summary>
    protected sealed class SetClock : TimeProvider
    {
        private DateTimeOffset _now = new(2026, 3, 1, 9, 0, 0, TimeSpan.Zero);

        public void Goes(TimeSpan by) => _now += by;

        public override DateTimeOffset GetUtcNow() => _now;
    }
}
