using EvenThimble.Core.Files.Stitch;
using EvenThimble.Core.Jobs;
using EvenThimble.Core.Machines;
using EvenThimble.Core.Stitches;
using EvenThimble.Core.Text;
using EvenThimble.Core.Threads;
using EvenThimble.Scenario;
using EvenThimble.Storage;
using Microsoft.Data.Sqlite;

namespace EvenThimble.App.Tests;

/// <summary>What the data folder promises.</summary>
public sealed class StorageTests : WithDatabase
{
    [Fact]
    public void A_design_is_kept_with_its_file_byte_for_byte_and_its_stitches()
    {
        var result = Designs.Import(new(Planet, StitchFileKind.Evth2, "planet.evth", PlanetBytes, [1, 2, 3], "planet"));
        Restart();
        Designs.Original(result.Id)!.Value.Bytes.ShouldBe(PlanetBytes);
        Designs.Picture(result.Id).ShouldBe([1, 2, 3]);
        var card = Designs.Find(result.Id)!;
        (card.Stitches, card.ThreadChanges, card.Tags).ShouldBe((Planet.StitchCount, Planet.ThreadChanges, "planet"));
        var loaded = Designs.Load(result.Id, new BlobStore(Database))!;
        loaded.Stitches.Hash.ShouldBe(Planet.Stitches.Hash);
        loaded.Parts.ToArray().ShouldBe(Planet.Parts.ToArray());
    }

    [Fact]
    public void The_same_file_twice_is_one_design_and_comes_back_when_it_was_deleted()
    {
        var first = Import();
        var second = Designs.Import(new(Planet, StitchFileKind.Evth2, "other name.evth", PlanetBytes, []));
        (second.Id, second.WasThere).ShouldBe((first, true));
        Designs.All().Count.ShouldBe(1);
        Designs.Delete(first).ShouldBeTrue();
        Designs.All().ShouldBeEmpty();
        Import().ShouldBe(first);
        Designs.All().Count.ShouldBe(1);
    }

    [Fact]
    public void A_job_goes_on_working_when_its_design_is_deleted_and_both_can_be_brought_back()
    {
        var job = NewJob();
        var design = Designs.All().Single().Id;
        Designs.Delete(design);
        Jobs.Apply(job, 1, new RenameJob("Still here")).Job.Title.ShouldBe("Still here");
        Designs.Restore(design).ShouldBeTrue();
        Jobs.Delete(job).ShouldBeTrue();
        Jobs.Find(job).ShouldBeNull();
        Jobs.Restore(job);
        Jobs.Find(job)!.Job.Title.ShouldBe("Still here");
    }

    [Fact]
    public void Every_edit_is_a_revision_that_survives_a_restart_with_undo_and_redo()
    {
        var id = NewJob();
        var start = Jobs.Find(id)!.Job;
        var version = 1L;
        foreach (var title in new[] { "one", "two", "three" }) version = Jobs.Apply(id, version, new RenameJob(title)).Version;
        Restart();
        var stored = Jobs.Find(id)!;
        (stored.Job.Title, stored.Position, stored.CanRedo).ShouldBe(("three", 3, false));
        stored = Jobs.GoTo(id, stored.Version, 1);
        stored.Job.Title.ShouldBe("one");
        Restart();
        stored = Jobs.Find(id)!;
        (stored.Job.Title, stored.CanUndo, stored.CanRedo).ShouldBe(("one", true, true));
        stored = Jobs.GoTo(id, stored.Version, 3);
        stored.Job.Title.ShouldBe("three");
        Jobs.GoTo(id, stored.Version, 0).Job.ShouldBe(start);
        Jobs.History(id).Select(h => h.Label).ShouldBe(["Named the job “three”", "Named the job “two”", "Named the job “one”", "Opened Ringed planet"]);
    }

    [Fact]
    public void An_edit_after_an_undo_gives_up_what_was_undone()
    {
        var id = NewJob();
        Jobs.Apply(id, 1, new RenameJob("one"));
        Jobs.GoTo(id, 2, 0);
        var stored = Jobs.Apply(id, 3, new RenameJob("other"));
        stored.CanRedo.ShouldBeFalse();
        Jobs.History(id).Count.ShouldBe(2);
        Should.Throw<EditRefusedException>(() => Jobs.GoTo(id, stored.Version, 2)).Message.ShouldContain("nothing to redo");
        Should.Throw<EditRefusedException>(() => Jobs.GoTo(id, stored.Version, -1)).Message.ShouldContain("nothing left to undo");
    }

    [Fact]
    public void An_edit_of_an_old_state_is_refused_and_changes_nothing()
    {
        var id = NewJob();
        Jobs.Apply(id, 1, new RenameJob("from the first window"));
        Should.Throw<StaleEditException>(() => Jobs.Apply(id, 1, new RenameJob("from the second window"))).Message.ShouldContain("another window");
        Jobs.Find(id)!.Job.Title.ShouldBe("from the first window");
    }

    [Fact]
    public void Of_many_edits_at_once_one_wins_and_the_others_are_told()
    {
        var id = NewJob();
        var (done, stale) = (0, 0);
        Parallel.For(0, 12, i =>
        {
            try
            {
                Jobs.Apply(id, 1, new RenameJob($"window {i}"));
                Interlocked.Increment(ref done);
            }
            catch (StaleEditException)
            {
                Interlocked.Increment(ref stale);
            }
        });
        (done, stale).ShouldBe((1, 11));
        Jobs.History(id).Count.ShouldBe(2);
    }

    [Fact]
    public void An_edit_that_changes_nothing_leaves_no_revision()
    {
        var id = NewJob();
        Jobs.Apply(id, 1, new RenameJob("Ringed planet")).Version.ShouldBe(1);
        Jobs.History(id).Count.ShouldBe(1);
    }

    [Fact]
    public void A_full_disk_gets_a_sentence_and_loses_nothing()
    {
        var id = NewJob();
        Should.Throw<StorageException>(() => Database.Write((c, t) =>
        {
            // SQLite answers just so when the disk has no page left.
            var pages = Convert.ToInt64(Execute(c, t, "PRAGMA page_count"));
            Execute(c, t, $"PRAGMA max_page_count = {pages}");
            Execute(c, t, "UPDATE job SET title = 'half done'");
            return Execute(c, t, "INSERT INTO stitch_blob VALUES ('x', zeroblob(50000000))");
        })).Message.ShouldContain("disk is full");
        SqliteConnection.ClearAllPools();
        Jobs.Find(id)!.Job.Title.ShouldBe("Ringed planet");
        Jobs.Apply(id, 1, new RenameJob("after")).Job.Title.ShouldBe("after");
    }

    [Fact]
    public void A_data_folder_that_cannot_be_written_gets_a_sentence()
    {
        Should.Throw<StorageException>(() => Database.Write((c, t) =>
        {
            using var command = c.CreateCommand();
            command.CommandText = "PRAGMA query_only = ON; DELETE FROM job;";
            return command.ExecuteNonQuery();
        })).Message.ShouldContain("cannot be written");
        var file = Path.Combine(Folder, "a file");
        File.WriteAllText(file, "x");
        Should.Throw<StorageException>(() => Database.Open(Path.Combine(file, "below"))).Message.ShouldContain("--data");
    }

    [Fact]
    public void The_charts_are_laid_in_once()
    {
        Restart();
        var threads = new ThreadStore(Database);
        threads.Charts.Select(c => c.Range).ShouldBe(MadeUpCharts.All.Select(c => c.Range));
        threads.ThreadsOf(null).Count.ShouldBeGreaterThan(1000);
        threads.ThreadsOf("Glimmerdale|Metallic").Count.ShouldBe(120);
        var known = MadeUpCharts.All[3].Threads[5];
        threads.Find(known.Maker, known.Number).ShouldBe(known);
        threads.Find("nobody", "1").ShouldBeNull();
    }

    [Fact]
    public void The_cache_keeps_what_was_used_last_and_not_more_than_it_may()
    {
        var made = new List<int>();
        var cache = new RecentlyMade<int, int>(3, _ => 1);
        foreach (var key in new[] { 1, 2, 3, 1, 4, 1, 2 })
            cache.Get(key, () =>
            {
                made.Add(key);
                return key;
            }).ShouldBe(key);
        made.ShouldBe([1, 2, 3, 4, 2]);
    }

    private static object? Execute(SqliteConnection connection, SqliteTransaction transaction, string sql)
    {
        using var command = connection.CreateCommand();
        (command.CommandText, command.Transaction) = (sql, transaction);
        return command.ExecuteScalar();
    }
}
