using System.Diagnostics;
using System.Globalization;
using System.Text;
using System.Text.RegularExpressions;
using EvenThimble.Scenario;

namespace EvenThimble.App.Tests.Damage;

/// <summary>A real server that is given what nobody should give it: damaged files, extreme values, very much at once.</summary>
public sealed class ServerUnderFireTests() : OnServer(demo: true)
{
    private const int ImportsInTheSuite = 60;
    private const int FormsInTheSuite = 100;
    private const double MostMegabytes = 600;
    private const double MostProcessorSeconds = 7; // a request has 5; with it goes what the server does by itself meanwhile

    [Fact]
    public async Task Damaged_files_over_HTTP_give_a_sentence_and_leave_nothing_and_what_is_taken_in_can_be_seen()
    {
        var files = new DamagedFiles(Fuzz.Seed + 1);
        for (var n = 0; n < Fuzz.CasesOr(ImportsInTheSuite * 20) / 20; n++)
        {
            var file = files.Next();
            var before = await CountsAsync();
            var processor = Server.ProcessorSeconds;
            using var answer = file.Kind == "drawing" ? await Server.SendAsync("/jobs/1/part/drawing", file.Name, file.Bytes) : await Server.SendAsync("/?handler=Import", file.Name, file.Bytes);
            var said = await answer.Content.ReadAsStringAsync();
            var took = Server.ProcessorSeconds - processor;
            if ((int)answer.StatusCode >= 500 || took > MostProcessorSeconds) Fuzz.Keep(file, n);
            ((int)answer.StatusCode).ShouldBeLessThan(500, $"case {n}, {file.Name}: {said}");
            took.ShouldBeLessThan(MostProcessorSeconds, $"case {n}, {file.Name}");
            if (!answer.IsSuccessStatusCode) (await CountsAsync()).ShouldBe(before, $"case {n}, {file.Name} was refused, and yet: {said}");
            if (answer.IsSuccessStatusCode && Regex.Match(said, "\"job\":(\\d+)") is { Success: true } job)
                foreach (var page in new[] { "", "/plan", "/picture.png", "/density.png", "/export/evth2" })
                    await SeenAsync($"/jobs/{job.Groups[1].Value}{page}", $"case {n}, {file.Name}");
            else if (answer.IsSuccessStatusCode && Regex.Match(said, "\"design\":(\\d+)") is { Success: true } design)
                await SeenAsync($"/designs/{design.Groups[1].Value}/picture.png", $"case {n}, {file.Name}");
        }

        await SeenAsync("/", "the shelf afterwards");
        Directory.EnumerateFiles(Path.Combine(Data, "uploads")).ShouldBeEmpty();
        Directory.EnumerateFiles(Data, ".*.part", SearchOption.AllDirectories).ShouldBeEmpty();
        Server.MostMegabytes.ShouldBeLessThan(MostMegabytes);
    }

    [Fact]
    public async Task Extreme_values_in_forms_give_a_sentence()
    {
        var random = new Random(Fuzz.Seed);
        string[] numbers = ["0", "-1", "1e-6", "1e308", "NaN", "9999", "4999", "2000", "0.01", "1999", "50", "5000%", "200%", "1/0", "", "x", "89.99", "-0", "300", "99999999999"];
        (string Command, string[] Fields)[] commands =
        [
            ("size", ["field", "value"]), ("turn", ["degrees"]), ("lean", ["degrees"]), ("move-to", ["x", "y"]), ("shift", ["dx", "dy"]), ("scale", ["across", "down", "x", "y"]), ("restitch", ["field", "value"]),
            ("row", ["count", "across", "down"]), ("ring", ["count", "radius", "turned"]), ("rows", ["part", "angle"]), ("cut", ["record"]), ("lasso", ["points"]), ("move-node", ["part", "path", "node", "x", "y"]),
            ("shape", ["shape", "width", "height", "x", "y", "corners", "radius", "depth"]), ("draw", ["kind", "points", "closed"]), ("rework", ["field", "value"]),
        ];
        string[] words = ["spacing", "angle", "stitch", "width", "motif-length", "tile-scale", "compensation", "way", "lighter", "short", "seen", "star", "ellipse", "rectangle", "curve", "line", "satin", "motif row", "only", "true", "size", "height"];
        var (done, refused) = (0, 0);
        for (var n = 0; n < Fuzz.CasesOr(FormsInTheSuite * 20) / 20; n++)
        {
            var (command, fields) = commands[random.Next(commands.Length)];
            var job = random.Next(1, 3);
            var version = Regex.Match(System.Net.WebUtility.HtmlDecode(await Server.Http.GetStringAsync($"/jobs/{job}")), "\"version\":(\\d+)").Groups[1].Value;
            var values = fields.Select(f => (f, f is "field" or "kind" or "shape" or "closed" || random.Next(5) == 0 ? words[random.Next(words.Length)] : f == "points" ? Points(random) : numbers[random.Next(numbers.Length)]))
                .Append(("parts", string.Join(',', Enumerable.Range(1, random.Next(1, 6))))).Append(("version", version)).ToArray();
            var before = Server.ProcessorSeconds;
            using var answer = await Server.PostAsync($"/jobs/{job}/{(random.Next(2) == 0 ? "try" : "do")}/{command}", values);
            ((int)answer.StatusCode).ShouldBeLessThan(500, $"case {n}: {command} {string.Join(' ', values)}: {await answer.Content.ReadAsStringAsync()}");
            (Server.ProcessorSeconds - before).ShouldBeLessThan(MostProcessorSeconds, $"case {n}: {command} {string.Join(' ', values)}");
            if (answer.IsSuccessStatusCode) done++;
            else if (answer.StatusCode == System.Net.HttpStatusCode.UnprocessableEntity) refused++;
        }

        done.ShouldBeGreaterThan(3);
        refused.ShouldBeGreaterThan(3);
        Server.MostMegabytes.ShouldBeLessThan(MostMegabytes);
    }

    [Fact]
    public async Task Twenty_tabs_two_hundred_imports_and_connections_that_say_nothing_are_all_served()
    {
        var silent = new List<System.Net.Sockets.TcpClient>();
        try
        {
            for (var i = 0; i < 400; i++)
            {
                var half = new System.Net.Sockets.TcpClient();
                await half.ConnectAsync(Server.Http.BaseAddress!.Host, Server.Http.BaseAddress.Port);
                await half.GetStream().WriteAsync("GET / HT"u8.ToArray());
                silent.Add(half);
            }

            var tabs = Enumerable.Range(0, 20).Select(async _ =>
            {
                foreach (var page in new[] { "/", "/jobs/1", "/jobs/1/plan", "/jobs/2/picture.png", "/jobs/2", "/machine-room" }) (await Server.Http.GetAsync(page)).EnsureSuccessStatusCode();
            });
            var sound = Encoding.UTF8.GetBytes(string.Join('\n', "op,x_mm,y_mm,thread,colour,role", "change,,,Fenlight|1|x,#112233,decoration", "jump,0,0,,,", string.Join('\n', Enumerable.Range(0, 500).Select(i => $"stitch,{i % 20},{i / 20},,,")), "end,,,,,"));
            var imports = Enumerable.Range(0, 200).Select(async i =>
            {
                using var answer = await Server.SendAsync("/?handler=Import", $"{i}.csv", [.. Encoding.UTF8.GetBytes(Encoding.UTF8.GetString(sound).Replace("stitch,0,0", $"stitch,0.{i},0", StringComparison.Ordinal))]);
                answer.EnsureSuccessStatusCode();
            });
            await Task.WhenAll([.. tabs, .. imports]);
        }
        finally
        {
            foreach (var half in silent) half.Dispose();
        }

        (await Server.Http.GetStringAsync("/healthz")).ShouldBe("ready");
        (await CountsAsync()).Designs.ShouldBe(DemoDesigns.All.Count + 200);
        Server.MostMegabytes.ShouldBeLessThan(MostMegabytes);
    }

    private static string Points(Random random) => string.Join(' ', Enumerable.Range(0, new[] { 1, 3, 200, 800 }[random.Next(4)]).Select(_ => string.Create(CultureInfo.InvariantCulture, $"{random.NextDouble() * 200 - 100:0.##},{random.NextDouble() * 200 - 100:0.##}")));

    private async Task SeenAsync(string address, string of)
    {
        var before = Server.ProcessorSeconds;
        using var answer = await Server.Http.GetAsync(address);
        ((int)answer.StatusCode).ShouldBeLessThan(500, $"{of}: {address}: {(answer.IsSuccessStatusCode ? string.Empty : await answer.Content.ReadAsStringAsync())}");
        (Server.ProcessorSeconds - before).ShouldBeLessThan(MostProcessorSeconds, $"{of}: {address}");
    }

    /// <summary>How many designs and jobs are stored, deleted ones too.</summary>
    private Task<(long Designs, long Jobs)> CountsAsync()
    {
        using var connection = new Microsoft.Data.Sqlite.SqliteConnection($"Data Source={Path.Combine(Data, "even-thimble.db")};Mode=ReadOnly;Pooling=False");
        connection.Open();
        return Task.FromResult((Dapper.SqlMapper.ExecuteScalar<long>(connection, "SELECT count(*) FROM design"), Dapper.SqlMapper.ExecuteScalar<long>(connection, "SELECT count(*) FROM job")));
    }
}
