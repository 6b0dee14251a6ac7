using EvenThimble.Core.Files.Stitch;
using EvenThimble.Core.Stitches;
using EvenThimble.Storage;
using Microsoft.Data.Sqlite;

namespace EvenThimble.App.Tests.Damage;

/// <summary>A server that is killed while files come in and go out: whatever it acknowledged is there whole, and there is no half of anything. <c>./even-thimble fuzz</c> kills it more often.</summary>
public sealed class KilledServerTests : IDisposable
{
    private const int KillsInTheSuite = 4;
    private readonly string _data = Directory.CreateTempSubdirectory("thimble-kill-").FullName;

    public void Dispose()
    {
        SqliteConnection.ClearAllPools();
        Directory.Delete(_data, recursive: true);
    }

    [Fact]
    public async Task Imports_and_files_handed_over_are_there_wholly_or_not_at_all_whenever_the_server_is_killed()
    {
        var random = new Random(Fuzz.Seed);
        var (acknowledged, handed) = (new HashSet<string>(), new Dictionary<string, long>());
        for (var round = 0; round < Math.Max(2, Fuzz.CasesOr(KillsInTheSuite * 200) / 200); round++)
        {
            using (var server = await ServerProcess.StartAsync(_data, demo: round == 0))
            {
                var killing = Task.CompletedTask;
                try
                {
                    for (var n = 0; ; n++)
                    {
                        var (name, bytes) = ($"r{round}n{n}.evth", AnyDesign.File(random, $"r{round}n{n}", 3_000));
                        using var import = await server.SendAsync("/?handler=Import", name, bytes);
                        if (import.IsSuccessStatusCode) acknowledged.Add(BlobHash.Of(bytes).Hex);
                        using var put = await server.SendAsync("/machine-room?handler=Put", name, bytes, ("drawer", "wren-130"));
                        if ((int)put.StatusCode < 400) handed[name] = bytes.Length;
                        if (n == 0) killing = Task.Delay(random.Next(20, 900)).ContinueWith(_ => server.Kill(), TaskScheduler.Default);
                    }
                }
                catch (Exception e) when (e is HttpRequestException or IOException)
                {
                    await killing;
                }
            }

            SqliteConnection.ClearAllPools();
            Backups.WhatIsWrong(Path.Combine(_data, Database.FileName)).ShouldBeNull();
            var database = Database.Open(_data);
            foreach (var hash in acknowledged)
            {
                var original = new DesignStore(database, TimeProvider.System).Original(hash).ShouldNotBeNull("an acknowledged import is there");
                BlobHash.Of(original.Bytes).Hex.ShouldBe(hash);
            }

            foreach (var design in new DesignStore(database, TimeProvider.System).All()) new DesignStore(database, TimeProvider.System).Load(design.Id, new BlobStore(database))!.Stitches.Count.ShouldBeGreaterThan(0);
            var memory = Path.Combine(_data, "machines", "wren-130");
            foreach (var (name, length) in handed) new FileInfo(Path.Combine(memory, name)).Length.ShouldBe(length);
            foreach (var file in Directory.EnumerateFiles(memory).Where(f => !Path.GetFileName(f).StartsWith('.'))) Should.NotThrow(() => StitchFormats.Read(File.ReadAllBytes(file), file));
        }

        acknowledged.Count.ShouldBeGreaterThan(0);
        handed.Count.ShouldBeGreaterThan(0);

        // The next start sweeps what the kills left unfinished.
        using (DataFolder.Take(_data)) Directory.EnumerateFiles(_data, ".*.part", SearchOption.AllDirectories).ShouldBeEmpty();
        Directory.EnumerateFiles(Path.Combine(_data, "uploads")).ShouldBeEmpty();
    }
}
