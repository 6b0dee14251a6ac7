using System.IO.Compression;
using System.Security.Cryptography;
using Dapper;
using EvenThimble.Browser.Tests;
using EvenThimble.Core.Jobs;
using EvenThimble.Core.Stitches;
using EvenThimble.Storage;
using EvenThimble.Web.Workroom;
using Microsoft.Data.Sqlite;
using Microsoft.Extensions.DependencyInjection;

namespace EvenThimble.App.Tests;

/// <summary>
/// A database as the program wrote it when documents had version 3: the two demo jobs with edits made on their pages, one of them undone, and a job that was deleted. Three satin shapes were
/// taken out of the sampler: where points lie on one circle, their triangles are chosen otherwise today.
/// </summary>
public sealed class DatabaseOfVersion3Tests
{
    // SHA-256 of the stitch tables that the program exported then. Of the bought job: but for a spacing of 110 %, which leaves lines alone today, as many rows as lead from where they begin to where they end, laid as rows are today, and with a few more rows at the tip of a gore, which were taken for throws, a few short throws at its tips fewer, and a few wide throws and a line at most 0.15 mm elsewhere; of the drawn one: as the engine makes them today (a satin whose end was chosen stops a throw nearer to it, what bulges beyond a last throw is thrown over, one that only grazes the edge goes on along it, beside a stroke that tucks under them throws are not lengthened, what is sewn over the way that it begins with is tied by small steps, where throws fan out others stop short, near an end they keep their distance at the edge, where thread is heaped throws that others cover end sooner or are left out, where a tie would make it too much, or nearly, the needle begins on another stroke, on that of few where least thread is heaped before it is thinned out, and neither those nor throws that stop short in a fan leave a dent in an edge; where the edges beside a stroke do not run as its middle does, throws lie square to the edges; where satin meets fill what is covered and heaped is thinned out too; a way inside an area goes through its sections where it is shortest).
    private static readonly Dictionary<long, string> Tables = new()
    {
        [1] = "0145823b31dc46e979aa459ccaf829ab33ad8a0ffa27d5acc087468c80872c41",
        [2] = "07644596e1ece2700b1c8bde664376ba80227aba201404be0f9cf68362c350ce",
    };

    [Fact]
    public async Task It_opens_upgraded_with_all_stitches_the_same_and_its_history()
    {
        await using var server = await AppServer.StartAsync(demo: false);
        await server.StoppedAsync(() => Unpack(Path.Combine(server.Data, "even-thimble.db")));
        using var http = new HttpClient { BaseAddress = new(server.Address) };
        foreach (var (job, hash) in Tables) Convert.ToHexStringLower(SHA256.HashData(await http.GetByteArrayAsync($"/jobs/{job}/export/csv"))).ShouldBe(hash, $"job {job}");

        var jobs = server.Services.GetRequiredService<JobStore>();
        jobs.History(1).Select(h => h.Label).Reverse().ShouldBe(
        [
            "Opened Comet over the dome", "Split Noon straw into 8 parts at its jumps", "Recoloured Pale honey to Fenlight 2009 Noon straw", "Made Noon straw 120 % of its size", "Made Noon slate blue lighter: spacing 110 %",
            "Keeps Noon straw whole where it is covered", "Turned Noon straw by 12°", "Left out the underlay of Deep fern", "Hid Noon straw, 2",
        ]);
        var stored = jobs.Find(1)!;
        (stored.Version, stored.Position, stored.CanUndo, stored.CanRedo).ShouldBe((12L, 7L, true, true));
        stored = jobs.GoTo(1, stored.Version, 8);
        stored.Job.Order.Find(new PartId(5))!.Hidden.ShouldBeTrue();
        for (; stored.CanUndo; stored = jobs.GoTo(1, stored.Version, stored.Before!.Value))
        {
        }

        stored.Job.Order.Count.ShouldBe(4);
        jobs.Find(3).ShouldBeNull();
        jobs.Restore(3).ShouldBeTrue();
        jobs.Find(3)!.Job.Order[0].Placement.Mirrored.ShouldBeTrue();

        // The design's own file, which the job knows by its hash, is there byte for byte.
        var original = ((DesignContent)stored.Job.Pieces[0].Content).Original!;
        var design = server.Services.GetRequiredService<DesignStore>();
        design.Original(original)!.Value.Bytes.Length.ShouldBeGreaterThan(10_000);
        BlobHash.Of(design.Original(original)!.Value.Bytes).Hex.ShouldBe(original);
    }

    [Fact]
    public void An_upgrade_that_is_cut_off_leaves_the_database_as_it_was() => Unpacked((folder, ask) =>
    {
        ask("CREATE TRIGGER cut BEFORE UPDATE ON revision WHEN NEW.job_id = 2 AND NEW.position = 5 BEGIN SELECT RAISE(ABORT, 'cut off'); END");
        Should.Throw<StorageException>(() => Database.Open(folder));
        ask("SELECT count(*) FROM revision WHERE length(document) > 1000").ShouldBe(18);
        ask("DROP TRIGGER cut");
        var database = Database.Open(folder);
        new JobStore(database, new ShapeStore(database), TimeProvider.System).Find(2)!.Job.Order.Count.ShouldBe(14);
    });

    [Fact]
    public void A_document_that_cannot_be_read_stays_with_its_stitches() => Unpacked((folder, ask) =>
    {
        ask("UPDATE revision SET document = replace(document, '\"version\":3', '\"version\":99') WHERE job_id = 1; DELETE FROM design");
        ask("SELECT count(*) FROM revision WHERE document LIKE '%\"version\":99%'").ShouldBe(9);
        var database = Database.Open(folder);
        var jobs = new JobStore(database, new ShapeStore(database), TimeProvider.System);
        Should.Throw<UnreadableException>(() => jobs.Find(1)).Message.ShouldContain("later version");
        jobs.History(1).Count.ShouldBe(9);
        jobs.Find(2).ShouldNotBeNull();
        ask("SELECT count(*) FROM stitch_blob").ShouldBe(2);
    });

    /// <summary>Works in a folder with the database, which may be asked and changed beside the program.</summary>
    private static void Unpacked(Action<string, Func<string, long>> work)
    {
        var folder = Directory.CreateTempSubdirectory("thimble-").FullName;
        var file = Path.Combine(folder, "even-thimble.db");
        try
        {
            Unpack(file);
            work(folder, sql =>
            {
                using var connection = new SqliteConnection($"Data Source={file}");
                connection.Open();
                return SqlMapper.ExecuteScalar<long>(connection, sql);
            });
        }
        finally
        {
            SqliteConnection.ClearAllPools();
            Directory.Delete(folder, recursive: true);
        }
    }

    private static void Unpack(string file)
    {
        using var packed = new GZipStream(File.OpenRead(Path.Combine(AppContext.BaseDirectory, "Data", "database-of-version-3.db.gz")), CompressionMode.Decompress);
        foreach (var old in Directory.GetFiles(Path.GetDirectoryName(file)!, "even-thimble.db*")) File.Delete(old);
        using var unpacked = File.Create(file);
        packed.CopyTo(unpacked);
    }
}
