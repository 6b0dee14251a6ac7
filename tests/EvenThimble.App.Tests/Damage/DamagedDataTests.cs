using System.Globalization;
using System.Net;
using System.Text.RegularExpressions;
using Dapper;
using EvenThimble.Browser.Tests;
using EvenThimble.Storage;
using Microsoft.Data.Sqlite;

namespace EvenThimble.App.Tests.Damage;

/// <summary>One thing of the stored data holds nonsense: every list is shown all the same, and whatever cannot be read is told in a sentence. <c>./even-thimble fuzz</c> tries every column of every table.</summary>
public sealed class DamagedDataTests
{
    private const int InTheSuite = 2;

    private static readonly string[] Lists = ["/", "/letters", "/rack", "/rack/shopping", "/rack/used", "/rosters", "/equipment", "/equipment/ranges", "/equipment/hoops", "/machine-room", "/about"];
    private static readonly string[] Things =
    [
        "/jobs/1", "/jobs/2", "/jobs/1?task=threads", "/jobs/1?task=letters", "/jobs/1?task=names", "/jobs/1?task=hoop", "/jobs/1/plan", "/jobs/1/picture.png", "/jobs/1/ready", "/jobs/1/names", "/jobs/1/fetch", "/jobs/1/cut", "/jobs/1/part/history", "/jobs/1/case",
        "/rosters/1", "/letters/sets/1", "/letters/sets/1/word.png?text=TARN", "/designs/1/original", "/designs/1/picture.png", "/equipment/needles/heron-200",
    ];

    // Of any kind, and of the kind that the column holds.
    private static readonly Dictionary<string, object[]> Nonsense = new()
    {
        ["any"] = ["x", "", "NaN", "{}", "[1]", "\u202e\0", 1e308, -1L, 99_999_999_999L, new byte[] { 0, 255, 7 }],
        ["TEXT"] = ["x", "", "{}", "[1]", "{\"a\":", "null", "[]", "[{}]", "-1", "\u202eevil"],
        ["INTEGER"] = [-1L, 0L, 7_777L, 2_147_483_647L],
        ["REAL"] = [-1.0, 0.0, 1e-9, 9e11],
        ["BLOB"] = [Array.Empty<byte>(), new byte[] { 0, 255, 7 }],
    };

    [Fact]
    public async Task Whatever_the_data_holds_lists_are_shown_and_what_cannot_be_read_is_told()
    {
        await using var server = await AppServer.StartAsync(demo: true);
        using (var http = new HttpClient { BaseAddress = new(server.Address) })
        {
            http.DefaultRequestHeaders.Add("X-Thimble-Token", Regex.Match(await http.GetStringAsync("/"), "thimble-token\" content=\"([^\"]+)").Groups[1].Value);
            await RichJob.FillAsync(http, 1);
        }

        var file = Path.Combine(server.Data, Database.FileName);
        var sound = $"{file}.sound";
        await server.StoppedAsync(() =>
        {
            FillEmptyTables(file);
            File.Copy(file, sound);
        });
        var columns = Columns(file);
        columns.Count.ShouldBeGreaterThan(100);
        var random = new Random(Fuzz.Seed);
        var tried = Fuzz.CasesOr(0) > 0 ? columns : [.. columns.OrderBy(_ => random.Next()).Take(InTheSuite)];
        var wrong = new List<string>();
        foreach (var (table, column, kind) in tried.SelectMany(c => (string[])["any", c.Type], (c, kind) => (c.Table, c.Column, kind)))
        {
            var value = Nonsense[kind][random.Next(Nonsense[kind].Length)];
            var what = string.Create(CultureInfo.InvariantCulture, $"{table}.{column} = {(value as byte[] is null ? value : "bytes")}");
            try
            {
                await server.StoppedAsync(() => Damage(file, sound, table, column, value));
                using var http = new HttpClient { BaseAddress = new(server.Address) };
                foreach (var list in Lists)
                    using (var answer = await http.GetAsync(list))
                        if (answer.StatusCode != HttpStatusCode.OK) wrong.Add($"{what}: {list} {(int)answer.StatusCode} {Said(await answer.Content.ReadAsStringAsync())}");
                foreach (var thing in Things)
                    using (var answer = await http.GetAsync(thing))
                        if ((int)answer.StatusCode == 500) wrong.Add($"{what}: {thing} {Said(await answer.Content.ReadAsStringAsync())}");
            }
            catch (Exception e) when (e is not ShouldAssertException)
            {
                wrong.Add($"{what}: does not start, {e.GetType().Name}: {e.Message}");
            }
        }

        await server.StoppedAsync(() => File.Copy(sound, file, overwrite: true));
        wrong.ShouldBeEmpty();
    }

    private static string Said(string body) => body[..Math.Min(body.Length, 160)].ReplaceLineEndings(" ");

    /// <summary>Every column that is not what a row is known by.</summary>
    private static List<(string Table, string Column, string Type)> Columns(string file)
    {
        using var connection = Opened(file);
        return [.. connection.Query<string>("SELECT name FROM sqlite_master WHERE type = 'table' AND name NOT LIKE 'sqlite%' AND name <> 'SchemaVersions'")
            .SelectMany(t => connection.Query<(long Id, string Name, string Type, long NotNull, string Default, long Key)>($"SELECT cid, name, type, \"notnull\", dflt_value, pk FROM pragma_table_info('{t}')").Where(c => c.Key == 0).Select(c => (t, c.Name, c.Type)))];
    }

    private static void Damage(string file, string sound, string table, string column, object value)
    {
        File.Copy(sound, file, overwrite: true);
        foreach (var beside in Directory.EnumerateFiles(Path.GetDirectoryName(file)!, Database.FileName + "-*")) File.Delete(beside);
        using var connection = Opened(file);
        connection.Execute("PRAGMA foreign_keys = OFF; PRAGMA ignore_check_constraints = ON");
        var keys = connection.Query<string>($"SELECT name FROM pragma_table_info('{table}') WHERE pk > 0").ToList();
        var first = string.Join(" AND ", keys.Select(k => $"{k} = (SELECT {k} FROM {table} ORDER BY {string.Join(", ", keys)} LIMIT 1)"));
        connection.Execute($"UPDATE OR IGNORE {table} SET {column} = @value WHERE {first}", new { value });
    }

    /// <summary>A row in each table that the demo data leave empty.</summary>
    private static void FillEmptyTables(string file)
    {
        using var connection = Opened(file);
        connection.Execute("PRAGMA foreign_keys = OFF");
        foreach (var table in connection.Query<string>("SELECT name FROM sqlite_master WHERE type = 'table' AND name NOT LIKE 'sqlite%'").ToList())
        {
            if (connection.ExecuteScalar<long>($"SELECT count(*) FROM {table}") > 0) continue;
            var columns = connection.Query<(string Name, string Type)>($"SELECT name, type FROM pragma_table_info('{table}')").ToList();
            connection.Execute($"INSERT INTO {table} ({string.Join(", ", columns.Select(c => c.Name))}) VALUES ({string.Join(", ", columns.Select(c => Plausible(c.Name, c.Type)))})");
        }
    }

    private static string Plausible(string name, string type) => name switch
    {
        "machine" => "'heron-200'",
        "colour" => "'#2f4b7c'",
        "maker" or "to_maker" => "'Fenlight'",
        "font" => "'Archivo'",
        "lines" or "garments" or "document" => "'[]'",
        "shape" => "'rectangle'",
        "undone_at" => "NULL",
        _ when name.EndsWith("_at", StringComparison.Ordinal) || name == "at" => "'2026-11-02T10:00:00.0000000+00:00'",
        _ => type == "TEXT" ? "'a'" : type == "BLOB" ? "x'00'" : "1",
    };

    private static SqliteConnection Opened(string file)
    {
        var connection = new SqliteConnection($"Data Source={file};Pooling=False");
        connection.Open();
        return connection;
    }
}
