using System.Net;
using Dapper;
using EvenThimble.Browser.Tests;
using EvenThimble.Core.Files.Stitch;
using EvenThimble.Core.Jobs;
using EvenThimble.Core.Machines;
using EvenThimble.Core.Stitches;
using EvenThimble.Storage;
using Microsoft.Data.Sqlite;

namespace EvenThimble.App.Tests;

/// <summary>What happens to the data folder while the program works in it, and copies of it.</summary>
public sealed class DataFolderTests : WithDatabase
{
    [Fact]
    public void Nothing_is_stored_in_a_folder_that_was_deleted_moved_or_exchanged()
    {
        var job = NewJob();
        var elsewhere = Folder + "-moved";
        Directory.Move(Folder, elsewhere);
        Should.Throw<StorageException>(() => Jobs.Apply(job, 1, new RenameJob("Lost"))).Message.ShouldContain("deleted, moved or exchanged");
        Should.Throw<StorageException>(() => Jobs.Find(job)).Message.ShouldContain(Folder);

        // Another folder in its place is not it.
        Directory.CreateDirectory(Folder);
        foreach (var file in Directory.EnumerateFiles(elsewhere)) File.Copy(file, Path.Combine(Folder, Path.GetFileName(file)));
        Should.Throw<StorageException>(() => Jobs.Apply(job, 1, new RenameJob("Lost"))).Message.ShouldContain("exchanged");

        Directory.Delete(Folder, recursive: true);
        Directory.Move(elsewhere, Folder);
        Jobs.Apply(job, 1, new RenameJob("Found")).Job.Title.ShouldBe("Found");
    }

    [Fact]
    public void Two_programs_do_not_work_in_one_folder_and_what_a_crash_left_is_swept()
    {
        var uploads = Directory.CreateDirectory(Path.Combine(Folder, "uploads")).FullName;
        File.WriteAllText(Path.Combine(uploads, "ASPNETCORE_1.tmp"), "half a file");
        File.WriteAllText(Path.Combine(Directory.CreateDirectory(Path.Combine(Folder, "machines", "wren-130")).FullName, ".x.part"), "half a file");
        using (DataFolder.Take(Folder))
        {
            Directory.EnumerateFiles(uploads).ShouldBeEmpty();
            Directory.EnumerateFiles(Folder, "*.part", SearchOption.AllDirectories).ShouldBeEmpty();
            Should.Throw<StorageException>(() => DataFolder.Take(Folder)).Message.ShouldContain("Another Even Thimble works in the data folder");
        }

        DataFolder.Take(Folder).Dispose();
    }

    [Fact]
    public void Copies_are_whole_the_last_seven_are_kept_and_one_put_back_brings_everything_back()
    {
        var job = NewJob();
        for (var day = 0; day < 9; day++)
        {
            Jobs.Apply(job, day + 1, new RenameJob($"Day {day}"));
            Backups.Make(Database, Clock);
            Clock.Goes(TimeSpan.FromDays(1));
        }

        var copies = Backups.In(Folder);
        copies.Count.ShouldBe(Backups.Kept);
        copies.ShouldAllBe(c => Backups.WhatIsWrong(c.Path) == null);
        copies.Select(c => c.MadeAt.Day).ShouldBe(copies.Select(c => c.MadeAt.Day).OrderDescending());

        SqliteConnection.ClearAllPools();
        var file = Path.Combine(Folder, Database.FileName);
        using (var damaged = File.OpenWrite(file)) damaged.Write(new byte[40_000]);
        foreach (var beside in new[] { "-wal", "-shm" }) File.Delete(file + beside);
        Should.Throw<StorageException>(() => Database.Open(Folder)).Message.ShouldContain("restore");

        using (var folder = DataFolder.Take(Folder))
        {
            var spoiled = copies[0].Path + ".cut";
            File.WriteAllBytes(spoiled, File.ReadAllBytes(copies[0].Path)[..9_000]);
            Should.Throw<StorageException>(() => Backups.Restore(folder, spoiled, Clock)).Message.ShouldContain("Nothing was changed");
            File.Exists(Backups.Restore(folder, copies[1].Path, Clock)).ShouldBeTrue("what was there is kept");
        }

        Restart();
        Jobs.Find(job)!.Job.Title.ShouldBe("Day 7");
        Jobs.History(job).Count.ShouldBe(9);
    }

    [Fact]
    public void Damaged_stitches_are_made_anew_from_the_file_they_came_in_and_else_named()
    {
        var (kind, read) = StitchFormats.Read(PlanetBytes, "planet.evth");
        Designs.Import(new(read, kind, "planet.evth", PlanetBytes, []));
        var job = Jobs.Create(Job.FromDesign(BlobHash.Of(PlanetBytes).Hex, read, StandInMachines.Catalogue.UsualHoop), "Opened Ringed planet");
        var hash = read.Stitches.Hash;
        Database.Write((c, t) => c.Execute("UPDATE stitch_blob SET bytes = substr(bytes, 1, 100) || x'01' || substr(bytes, 102)", transaction: t));
        new BlobStore(Database).Get(hash).Hash.ShouldBe(hash);
        new BlobStore(Database).Get(hash).ToBytes().ShouldBe(read.Stitches.ToBytes(), "and stored again");
        Database.Write((c, t) => c.Execute("DELETE FROM job_blob; UPDATE design SET original = x'00'; UPDATE stitch_blob SET bytes = x'00'", transaction: t));
        Should.Throw<UnreadableException>(() => new BlobStore(Database).Get(hash)).Message.ShouldContain("Ringed planet");
        Jobs.Find(job).ShouldNotBeNull("the job itself can still be read");
    }

    [Fact]
    public void A_job_that_cannot_be_read_goes_back_to_the_last_step_that_can()
    {
        var job = NewJob();
        Jobs.Apply(job, 1, new RenameJob("Good"));
        Jobs.Apply(job, 2, new RenameJob("Bad"));
        Database.Write((c, t) => c.Execute("UPDATE revision SET packed = x'00112233' WHERE position = 2", transaction: t));
        Should.Throw<UnreadableException>(() => Jobs.Find(job)).Message.ShouldContain("cannot be read");
        Jobs.All().ShouldHaveSingleItem().Title.ShouldBe("Bad");
        Jobs.StepBackToReadable(job).ShouldBeTrue();
        Jobs.Find(job)!.Job.Title.ShouldBe("Good");
    }

    [Fact]
    public async Task A_database_that_another_program_holds_is_told_and_pages_that_need_none_answer()
    {
        await using var server = await AppServer.StartAsync(demo: true);
        using var http = new HttpClient { BaseAddress = new(server.Address) };
        http.DefaultRequestHeaders.Add("X-Thimble-Token", System.Text.RegularExpressions.Regex.Match(await http.GetStringAsync("/"), "thimble-token\" content=\"([^\"]+)").Groups[1].Value);
        await Task.Delay(TimeSpan.FromSeconds(3), TestContext.Current.CancellationToken); // the copy at the start is made
        using var holder = new SqliteConnection($"Data Source={Path.Combine(server.Data, Database.FileName)};Pooling=False");
        holder.Open();
        holder.Execute("BEGIN IMMEDIATE");
        var waiting = Enumerable.Range(0, 40).Select(i => http.PostAsync("/?handler=Tag", new FormUrlEncodedContent([new("id", "1"), new("tags", $"{i}")]))).ToList();
        await Task.Delay(1_500, TestContext.Current.CancellationToken);
        foreach (var page in new[] { "/about", "/machine-room", "/healthz", "/", "/jobs/1" })
        {
            var clock = System.Diagnostics.Stopwatch.StartNew();
            (await http.GetAsync(page)).StatusCode.ShouldBe(HttpStatusCode.OK, page);
            clock.Elapsed.TotalSeconds.ShouldBeLessThan(4, $"{page} while forty edits wait");
        }

        var told = await Task.WhenAll(waiting);
        told.ShouldAllBe(t => t.StatusCode == HttpStatusCode.InsufficientStorage);
        (await told[^1].Content.ReadAsStringAsync()).ShouldContain("busy with another program");
        holder.Execute("ROLLBACK");
        (await http.PostAsync("/?handler=Tag", new FormUrlEncodedContent([new("id", "1"), new("tags", "free")]))).StatusCode.ShouldBe(HttpStatusCode.NoContent);
    }

    [Fact]
    public async Task One_bad_thing_does_not_take_the_shelf_down()
    {
        await using var server = await AppServer.StartAsync(demo: true);
        await server.StoppedAsync(() =>
        {
            using var connection = new SqliteConnection($"Data Source={Path.Combine(server.Data, Database.FileName)};Pooling=False");
            connection.Open();
            connection.Execute("UPDATE revision SET packed = x'00', summary = '' WHERE job_id = 1; UPDATE revision SET summary = '{\"Machine\":null}' WHERE job_id = 2; UPDATE design SET parts = '[{]' WHERE id = 2; UPDATE design SET added_at = 'never' WHERE id = 3");
            File.WriteAllText(Path.Combine(server.Data, "keys", "key-broken.xml"), "<key");
            foreach (var key in Directory.EnumerateFiles(Path.Combine(server.Data, "keys"), "key-*.xml")) File.AppendAllText(key, "<<<");
        });
        using var http = new HttpClient(new HttpClientHandler { AllowAutoRedirect = false }) { BaseAddress = new(server.Address) };
        var shelf = await http.GetAsync("/");
        shelf.StatusCode.ShouldBe(HttpStatusCode.OK);
        var page = WebUtility.HtmlDecode(await shelf.Content.ReadAsStringAsync());
        page.ShouldContain("This job cannot be read");
        page.ShouldContain("What is stored of this design is damaged");
        page.ShouldContain("Sampler");
        http.DefaultRequestHeaders.Add("X-Thimble-Token", System.Text.RegularExpressions.Regex.Match(page, "thimble-token\" content=\"([^\"]+)").Groups[1].Value);
        foreach (var address in new[] { "/jobs/1", "/jobs/1/plan", "/jobs/1/picture.png", "/make-ready/1" })
        {
            var answer = await http.GetAsync(address);
            ((int)answer.StatusCode).ShouldBeOneOf(404, 422);
            answer.Headers.Contains("X-Frame-Options").ShouldBeTrue(address);
        }

        (await http.PostAsync("/?handler=Open", new FormUrlEncodedContent([new("id", "2")]))).StatusCode.ShouldBe(HttpStatusCode.UnprocessableEntity);
        (await http.PostAsync("/?handler=StepBack", new FormUrlEncodedContent([new("id", "1")]))).StatusCode.ShouldBe(HttpStatusCode.UnprocessableEntity);
        (await (await http.PostAsync("/?handler=DeleteJob", new FormUrlEncodedContent([new("id", "1")]))).Content.ReadAsStringAsync()).ShouldNotContain("cannot be read");
    }

    [Fact]
    public async Task Answers_of_every_kind_bear_the_headers_that_keep_the_browser_safe()
    {
        await using var server = await AppServer.StartAsync(demo: false);
        using var http = new HttpClient { BaseAddress = new(server.Address) };
        using var foreign = new HttpRequestMessage(HttpMethod.Get, "/") { Headers = { Host = "elsewhere.example" } };
        var answers = new[] { await http.GetAsync("/"), await http.GetAsync("/nothing"), await http.GetAsync("/?find=" + new string('a', 20_000)), await http.SendAsync(foreign), await http.PostAsync("/?handler=New", null), await http.GetAsync("/jobs/99/plan") };
        answers.Select(a => (int)a.StatusCode).ShouldBe([200, 404, 414, 400, 400, 404]);
        answers.ShouldAllBe(a => a.Headers.GetValues("X-Content-Type-Options").Single() == "nosniff" && a.Headers.Contains("Content-Security-Policy"));
    }

    [Theory]
    [InlineData("no port 99999", "--port", "99999")]
    [InlineData("no port x", "--port", "x")]
    public async Task A_port_that_cannot_be_is_told_in_a_sentence(string says, params string[] arguments)
    {
        var (code, said) = await ServerProcess.RunAsync([.. arguments, "--data", Folder + "-none"]);
        (code, said.Trim().Split('\n').Length).ShouldBe((1, 1), said);
        said.ShouldContain(says);
        if (Directory.Exists(Folder + "-none")) Directory.Delete(Folder + "-none", recursive: true);
    }

    [Fact]
    public async Task A_port_or_a_folder_that_another_program_has_is_told_in_a_sentence()
    {
        await using var server = await AppServer.StartAsync(demo: false);
        var (code, said) = await ServerProcess.RunAsync("--port", $"{new Uri(server.Address).Port}", "--data", Folder);
        (code, said.Trim()).ShouldBe((1, "Another program, perhaps another Even Thimble, has this port. Choose one with --port."));
        (code, said) = await ServerProcess.RunAsync("--port", "0", "--data", server.Data);
        (code, said.Trim().Split('\n').Length).ShouldBe((1, 1), said);
        said.ShouldContain("Another Even Thimble works in the data folder");
    }

    [Fact]
    public async Task A_copy_can_be_made_and_put_back_from_the_command_line()
    {
        var job = NewJob();
        (await ServerProcess.RunAsync("backup", "--data", Folder)).ExitCode.ShouldBe(0);
        Jobs.Apply(job, 1, new RenameJob("Later"));
        SqliteConnection.ClearAllPools();
        var (code, said) = await ServerProcess.RunAsync("restore", "--data", Folder);
        (code, said.Contains("was put back", StringComparison.Ordinal)).ShouldBe((0, true), said);
        Restart();
        Jobs.Find(job)!.Job.Title.ShouldBe(Planet.Title);
        (await ServerProcess.RunAsync("restore", Path.Combine(Folder, "none.db"), "--data", Folder)).ShouldSatisfyAllConditions(r => r.ExitCode.ShouldBe(1), r => r.Said.ShouldContain("no copy"));
    }

    [Fact]
    public void Many_designs_and_jobs_are_listed_by_what_is_written_down()
    {
        var job = NewJob();
        Jobs.All().ShouldHaveSingleItem().Summary.ShouldBeNull();
        var stored = Jobs.Find(job)!;
        Jobs.Summarise(stored, new(10, 20, 30, "Wren 130", "field", 0));
        Jobs.All()[0].Summary!.Readiness.ShouldBe("ready");
        Jobs.Apply(job, 1, new RenameJob("Changed"));
        Jobs.All()[0].Summary.ShouldBeNull("it was of another state");
        Jobs.Summarise(stored, new(1, 2, 3, "x", "y", 1));
        Jobs.All()[0].Summary.ShouldBeNull("nor can it be written down late");
        Jobs.GoTo(job, 2, 0);
        Jobs.All()[0].Summary!.Stitches.ShouldBe(30);
    }

    [Fact]
    public async Task A_shelf_of_five_hundred_designs_and_a_hundred_jobs_is_sent_a_screen_at_a_time()
    {
        await using var server = await AppServer.StartAsync(demo: false);
        var (designs, jobs) = ((DesignStore)server.Services.GetService(typeof(DesignStore))!, (JobStore)server.Services.GetService(typeof(JobStore))!);
        for (var n = 0; n < 500; n++) designs.Import(new(Planet with { Title = $"Planet {n}" }, StitchFileKind.Evth2, $"planet {n}.evth", [.. PlanetBytes, (byte)n, (byte)(n / 256)], []));
        var job = Job.FromDesign(null, Planet, StandInMachines.Catalogue.UsualHoop);
        for (var n = 0; n < 100; n++) jobs.Create(job with { Title = $"Job {n}" }, "made", summary: new(50, 50, 1_000, "Heron 200", "130 × 180", 0));
        using var http = new HttpClient { BaseAddress = new(server.Address) };
        await http.GetStringAsync("/");
        var clock = System.Diagnostics.Stopwatch.StartNew();
        for (var n = 0; n < 20; n++) await http.GetStringAsync("/");
        TestContext.Current.SendDiagnosticMessage($"{20 / clock.Elapsed.TotalSeconds:0} shelves a second");
        var page = await http.GetStringAsync("/");
        page.Length.ShouldBeLessThan(120_000);
        Cards(page, "data-design").ShouldBe(24);
        Cards(page, "data-job").ShouldBe(8);
        page.ShouldContain("92 more jobs");
        var rest = await http.GetStringAsync("/?handler=MoreDesigns&from=480");
        Cards(rest, "data-design").ShouldBe(20);
        rest.ShouldNotContain("card-more");
        Cards(await http.GetStringAsync("/?find=Planet+49"), "data-design").ShouldBe(15, "49, 149 to 449 and 490 to 499");
        Cards(await http.GetStringAsync("/?handler=MoreJobs&from=96&find=Job"), "data-job").ShouldBe(4);

        static int Cards(string html, string kind) => System.Text.RegularExpressions.Regex.Count(html, $" {kind}=\"");
    }
}
