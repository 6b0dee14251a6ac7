using System.Globalization;
using System.Text.RegularExpressions;
using EvenThimble.Browser.Tests;
using EvenThimble.Storage;
using Microsoft.Data.Sqlite;

namespace EvenThimble.App.Tests;

/// <summary>A server process of its own that is killed while it works.</summary>
public sealed class CrashTests
{
    [Fact]
    public async Task A_server_killed_in_the_middle_of_edits_has_every_edit_that_it_answered_and_a_whole_history()
    {
        var random = new Random(5);
        await using var filled = await AppServer.StartAsync(demo: true);
        var data = Directory.CreateTempSubdirectory("thimble-crash-").FullName;
        try
        {
            await filled.StoppedAsync(() =>
            {
                foreach (var file in Directory.EnumerateFiles(filled.Data)) File.Copy(file, Path.Combine(data, Path.GetFileName(file)));
            });
            for (var round = 0; round < 4; round++)
            {
                var answered = await EditUntilKilled(data, random.Next(30, 400));
                SqliteConnection.ClearAllPools();
                var database = Database.Open(data);
                database.Read(c => Dapper.SqlMapper.ExecuteScalar<string>(c, "PRAGMA integrity_check")).ShouldBe("ok");
                var jobs = new JobStore(database, new ShapeStore(database), TimeProvider.System);
                var stored = jobs.Find(1)!;
                stored.Version.ShouldBeInRange(answered.Version, answered.Version + 1);
                if (stored.Version == answered.Version) stored.Job.Title.ShouldBe(answered.Title);
                foreach (var line in jobs.History(1).Take(30).ToList())
                {
                    stored = jobs.GoTo(1, stored.Version, line.Position);
                    if (line.Label.StartsWith("Named", StringComparison.Ordinal)) line.Label.ShouldContain(stored.Job.Title);
                }

                jobs.GoTo(1, stored.Version, jobs.History(1)[0].Position);
                SqliteConnection.ClearAllPools();
            }
        }
        finally
        {
            SqliteConnection.ClearAllPools();
            Directory.Delete(data, recursive: true);
        }
    }

    /// <summary>Posts edits as fast as they are answered until the process is killed; what was answered last.</summary>
    private static async Task<(long Version, string Title)> EditUntilKilled(string data, int milliseconds)
    {
        using var server = await ServerProcess.StartAsync(data);
        var page = System.Net.WebUtility.HtmlDecode(await server.Http.GetStringAsync("/jobs/1"));
        var version = long.Parse(Regex.Match(page, "\"version\":(\\d+)").Groups[1].Value, CultureInfo.InvariantCulture);
        var title = string.Empty;
        var killed = Task.CompletedTask;
        try
        {
            for (var edit = 0; ; edit++)
            {
                var next = $"{milliseconds} and {edit}";
                using var answer = await server.PostAsync("/jobs/1/do/rename", ("title", next), ("version", version.ToString(CultureInfo.InvariantCulture)));
                answer.EnsureSuccessStatusCode();
                (version, title) = (version + 1, next);
                if (edit == 0) killed = Task.Delay(milliseconds).ContinueWith(_ => server.Kill(), TaskScheduler.Default);
            }
        }
        catch (HttpRequestException)
        {
            await killed;
            server.ExitCode.ShouldNotBe(0);
            title.ShouldNotBeEmpty("some edits were to be answered before");
            return (version, title);
        }
    }
}
