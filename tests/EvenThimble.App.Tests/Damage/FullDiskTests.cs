using System.Net;
using EvenThimble.Core.Stitches;
using EvenThimble.Storage;
using Microsoft.Data.Sqlite;

namespace EvenThimble.App.Tests.Damage;

/// <summary>Disks that are full: the true reason is told, what was there is kept, and the work goes on as soon as there is room.</summary>
public sealed class FullDiskTests : IDisposable
{
    private readonly string _data = Directory.CreateTempSubdirectory("thimble-full-").FullName;

    public void Dispose()
    {
        SqliteConnection.ClearAllPools();
        Directory.Delete(_data, recursive: true);
    }

    [Fact]
    public async Task A_full_folder_for_files_on_their_way_is_told_as_such_and_small_files_still_come_in()
    {
        var uploads = Directory.CreateDirectory(Path.Combine(_data, "uploads")).FullName;
        var disk = new SmallDisk(uploads, kilobytes: 1_024);
        using var server = await ServerProcess.StartAsync(_data, disk: disk);

        using var large = await server.SendAsync("/?handler=Import", "large.evth", Design(1, 1_000_000));
        large.StatusCode.ShouldBe(HttpStatusCode.InsufficientStorage);
        var sentence = await large.Content.ReadAsStringAsync();
        sentence.ShouldContain("folder for files on their way in is full");
        sentence.ShouldContain("nothing was taken in");

        using var small = await server.SendAsync("/?handler=Import", "small.evth", Design(2, 1_000));
        small.IsSuccessStatusCode.ShouldBeTrue();
        Directory.EnumerateFiles(disk.SeenFrom(server.Id), "ASPNETCORE_*").ShouldBeEmpty("what did not come in leaves nothing behind");
    }

    [Fact]
    public async Task A_full_disk_refuses_what_it_cannot_keep_shows_what_is_there_and_goes_on_when_there_is_room()
    {
        var disk = new SmallDisk(_data, kilobytes: 6_000, ballastKilobytes: 8_000);
        using var server = await ServerProcess.StartAsync(_data, disk: disk);
        var acknowledged = new HashSet<string>();
        string refusal;
        for (var n = 0; ; n++)
        {
            n.ShouldBeLessThan(400, "the disk has to be full at last");
            var bytes = Design(n, 10_000);
            using var answer = await server.SendAsync("/?handler=Import", $"d{n}.evth", bytes);
            if (answer.IsSuccessStatusCode)
            {
                acknowledged.Add(BlobHash.Of(bytes).Hex).ShouldBeTrue();
                continue;
            }

            answer.StatusCode.ShouldBe(HttpStatusCode.InsufficientStorage);
            refusal = await answer.Content.ReadAsStringAsync();
            break;
        }

        acknowledged.Count.ShouldBeGreaterThan(2);
        if (disk.IsMounted) refusal.ShouldMatch("(?i)full");
        refusal.ShouldMatch("(?i)nothing was (stored|taken in)");

        // Looking goes on while it is full, and so does the copying of what is there.
        (await server.Http.GetStringAsync("/")).ShouldContain("d0");
        (await Kept(disk, server)).ShouldBe(acknowledged, ignoreOrder: true);

        disk.MakeRoom(server.Id);
        var last = Design(1_000, 10_000);
        using (var answer = await server.SendAsync("/?handler=Import", "last.evth", last)) answer.IsSuccessStatusCode.ShouldBeTrue();
        (await Kept(disk, server)).ShouldBe(acknowledged.Append(BlobHash.Of(last).Hex), ignoreOrder: true);
    }

    /// <summary>The hashes of the designs in a copy of the data as it lies on the disk, after a look for damage.</summary>
    private static async Task<IReadOnlyCollection<string>> Kept(SmallDisk disk, ServerProcess server)
    {
        var copy = Directory.CreateTempSubdirectory("thimble-full-copy-").FullName;
        try
        {
            await Task.Delay(200); // the answer is out before the last handle is closed
            foreach (var file in Directory.EnumerateFiles(disk.SeenFrom(server.Id), Database.FileName + "*")) File.Copy(file, Path.Combine(copy, Path.GetFileName(file)));
            Backups.WhatIsWrong(Path.Combine(copy, Database.FileName)).ShouldBeNull();
            var database = Database.Open(copy);
            var store = new DesignStore(database, TimeProvider.System);
            return [.. store.All().Select(d => BlobHash.Of(store.Original(d.Id)!.Value.Bytes).Hex)];
        }
        finally
        {
            SqliteConnection.ClearAllPools();
            Directory.Delete(copy, recursive: true);
        }
    }

    private static byte[] Design(int number, int stitches) => AnyDesign.File(new(number), $"d{number}", stitches);
}
