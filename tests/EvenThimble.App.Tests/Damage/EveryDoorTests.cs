using System.Globalization;
using System.Net;
using System.Text;
using System.Text.RegularExpressions;
using EvenThimble.Core.Files.Stitch;
using EvenThimble.Scenario;
using Microsoft.AspNetCore.Http;

namespace EvenThimble.App.Tests.Damage;

/// <summary>Every door of the program, tried with what stands on its own pages mixed with what nobody should send. The doors are those that the program declares, so a new one is tried from its first day.</summary>
public sealed class EveryDoorTests() : OnServer(demo: true)
{
    private const int InTheSuite = 70;
    private const double MostMegabytes = 600;
    private const double MuchMegabytes = 40;
    private const double MostProcessorSeconds = 7;

    // Shown as it came, it would be a script of somebody else's; so no answer may hold it so.
    private const string Foreign = "<i data-foreign=\"1\">";

    private static readonly string[] Extremes =
    [
        "0", "-1", "1e-6", "1e308", "-1e308", "NaN", "Infinity", "9999", "2147483647", "-2147483648", "9223372036854775807", "99999999999999999999", "0.01", "50", "5000%", "1/0", "", " ", "x", "-0", "1999", "2.75in", "true", "null",
        Foreign, "../../etc/passwd", "\u202eevil", "a\0b", "\ud83d\udc69\u200d\ud83d\udc67", "nan,nan", "0,0 1,1", "0,0 0,0 0,0", "-1e9,4 7,1e9", "{given}{nn}", "{", "%", "--", "1,2,3,4,5", "9999999,1",
    ];

    private readonly Random _random = new(Fuzz.Seed);
    private readonly Dictionary<string, List<string>> _seen = new(StringComparer.OrdinalIgnoreCase);
    private readonly List<string> _grew = [];
    private readonly DamagedFiles _files = new(Fuzz.Seed + 2);

    [Fact]
    public async Task Whatever_is_sent_to_any_door_gets_an_answer_in_time_and_spoils_nothing()
    {
        var apart = Directory.CreateTempSubdirectory("thimble-doors-declared-").FullName;
        var doors = await Door.AllAsync(apart);
        Directory.Delete(apart, recursive: true);
        doors.Count(d => d.Method == "POST").ShouldBeGreaterThan(150);
        await RichJob.FillAsync(Server.Http, 1);
        var rich = await Server.Http.GetByteArrayAsync("/jobs/1/case");
        await LookAroundAsync();
        var (codes, wrong) = (new Dictionary<int, int>(), new List<string>());
        for (var n = 0; n < Fuzz.CasesOr(InTheSuite * 20) / 20; n++)
        {
            if (n % 60 == 59)
            {
                // What is deleted, wrecked or full of copies by now is brought anew.
                await StandsAsync($"after {n}");
                using var again = await Server.SendAsync("/?handler=Import", "rich.evjob", rich);
                await LookAroundAsync();
            }

            var door = doors[_random.Next(doors.Count)];
            var code = await TriedAsync(door, $"case {n} of seed {Fuzz.Seed}", wrong);
            codes[code] = codes.GetValueOrDefault(code) + 1;
        }

        wrong.ShouldBeEmpty();
        await StandsAsync("the end");
        TestContext.Current.SendDiagnosticMessage(string.Join(", ", codes.OrderBy(c => c.Key).Select(c => $"{c.Value} × {c.Key}")));
        codes.GetValueOrDefault(200).ShouldBeGreaterThan(10);
        codes.GetValueOrDefault(422).ShouldBeGreaterThan(5);
        Server.MostMegabytes.ShouldBeLessThan(MostMegabytes, string.Join('\n', _grew));
        Directory.EnumerateFiles(Path.Combine(Data, "uploads")).ShouldBeEmpty();
    }

    private async Task<int> TriedAsync(Door door, string at, List<string> wrong)
    {
        _wildness = new[] { 0, 0.1, 0.4 }[_random.Next(3)];
        var values = door.Fields.Where(f => f.Type != typeof(IFormFile) && _random.Next(8) > 0).SelectMany(f => Values(f.Name, f.Type)).ToList();
        if (values.FindIndex(v => v.Name == "version") is >= 0 and var version && _random.Next(12) > 0) values[version] = ("version", await VersionAsync());
        var address = Regex.Replace(door.Address, @"\{(\w+)\}", m =>
        {
            var name = m.Groups[1].Value;
            var value = name == "id" && _random.Next(20) > 0 ? $"{_job}" : values.FirstOrDefault(v => v.Name.Equals(name, StringComparison.OrdinalIgnoreCase)).Value ?? OneOf(name, typeof(string));
            return Uri.EscapeDataString(value.Length == 0 ? "x" : value);
        });
        var told = $"{at}: {door.Method} {address} {string.Join('&', values.Select(v => $"{v.Name}={v.Value[..Math.Min(v.Value.Length, 60)]}"))}";
        var held = Server.MostMegabytes;
        var (answer, took) = await TimedAsync(door, address, values);
        if (Server.MostMegabytes - held > MuchMegabytes) _grew.Add(string.Create(CultureInfo.InvariantCulture, $"{told}: {held:0} to {Server.MostMegabytes:0} MB"));
        using (answer)
        {
            var said = await answer.Content.ReadAsStringAsync();
            var kind = answer.Content.Headers.ContentType?.MediaType;
            if ((int)answer.StatusCode >= 500) wrong.Add($"{told}: {(int)answer.StatusCode} {LastLogged()}");

            // What the server does by itself meanwhile, such as the copy of the data, is not the request's; so it is asked once more.
            if (took >= MostProcessorSeconds && await TimedAsync(door, address, values) is var (again, longer))
            {
                again.Dispose();
                if (longer >= MostProcessorSeconds) wrong.Add($"{told}: {took:0.0} s, and {longer:0.0} s again");
            }

            if (kind == "text/html" && said.Contains(Foreign, StringComparison.Ordinal)) wrong.Add($"{told}: shows what came as it came");
            if ((int)answer.StatusCode >= 400 && kind == "text/plain" && said.Length >= 240) wrong.Add($"{told}: {said}");
            return (int)answer.StatusCode;
        }
    }

    private async Task<(HttpResponseMessage Answer, double Seconds)> TimedAsync(Door door, string address, List<(string Name, string Value)> values)
    {
        var before = Server.ProcessorSeconds;
        var answer = door.Method == "GET" ? await Server.Http.GetAsync($"{address}{(address.Contains('?') ? '&' : '?')}{string.Join('&', values.Select(v => $"{v.Name}={Uri.EscapeDataString(v.Value)}"))}")
            : door.Fields.FirstOrDefault(f => f.Type == typeof(IFormFile)) is { Name: { } field } ? await SentAsync(address, field, values)
            : _random.Next(40) == 0 ? await Server.Http.PostAsync(address, _random.Next(2) == 0 ? null : new StringContent("{\"value\":1}", Encoding.UTF8, "application/json"))
            : await Server.PostAsync(address, [.. values]);
        return (answer, Server.ProcessorSeconds - before);
    }

    /// <summary>The fault that was written into the log last, as far as its first lines.</summary>
    private string LastLogged()
    {
        using var log = new StreamReader(new FileStream(Directory.EnumerateFiles(Path.Combine(Data, "logs")).Max()!, FileMode.Open, FileAccess.Read, FileShare.ReadWrite));
        var lines = log.ReadToEnd().Split('\n');
        var last = Array.FindLastIndex(lines, l => l.Contains("[ERR]", StringComparison.Ordinal));
        return last < 0 ? string.Empty : string.Join('\n', lines.Skip(last).Where(l => !l.Contains(" Microsoft.", StringComparison.Ordinal)).Take(8));
    }

    private async Task<HttpResponseMessage> SentAsync(string address, string field, List<(string Name, string Value)> values)
    {
        using var form = new MultipartFormDataContent();
        foreach (var (name, value) in values) form.Add(new StringContent(value), name);
        var (fileName, bytes) = AnyFile();
        if (_random.Next(10) > 0) form.Add(new ByteArrayContent(bytes), field, fileName);
        else form.Add(new StringContent("none"), "nothing");
        return await Server.Http.PostAsync(address, form);
    }

    private (string Name, byte[] Bytes) AnyFile()
    {
        if (_random.Next(2) == 0)
        {
            var damaged = _files.Next();
            return (damaged.Name, damaged.Bytes);
        }

        var rows = Enumerable.Range(0, new[] { 0, 1, 12, 3_000 }[_random.Next(4)]).Select(_ => string.Join(new[] { ",", ";", "\t" }[_random.Next(3)], Enumerable.Range(0, _random.Next(1, 6)).Select(_ => OneOf("text", typeof(string)))));
        var table = Encoding.UTF8.GetBytes(string.Join('\n', (string[])["maker,number,name,colour,metres", .. rows]));
        return (new[] { "list.csv", "list.xlsx", "a.txt", "A.evth", "font.ttf", "set.zip", "noname", ".." }[_random.Next(8)], table);
    }

    private IEnumerable<(string Name, string Value)> Values(string name, Type type)
    {
        if (!type.IsArray) return [(name, OneOf(name, type))];
        return Enumerable.Range(0, new[] { 1, 1, 2, 3, 40 }[_random.Next(5)]).Select(_ => (name, OneOf(name, type.GetElementType()!)));
    }

    /// <summary>A value: mostly one that stands on the pages under that name, or one of its kind; else one that nobody should send.</summary>
    private string OneOf(string name, Type type)
    {
        var kind = Nullable.GetUnderlyingType(type) ?? type;
        if (_random.NextDouble() >= _wildness)
        {
            if (name == "parts") return string.Join(',', Enumerable.Range(0, _random.Next(1, 5)).Select(_ => _random.Next(1, 30)));
            if (name is "points" or "line" or "places" or "spots" or "guideLine") return Points();
            if (_seen.TryGetValue(name, out var known) && _random.Next(5) > 0) return known[_random.Next(known.Count)];
            if (kind.IsEnum) return Enum.GetNames(kind)[_random.Next(Enum.GetNames(kind).Length)];
            if (kind == typeof(bool)) return _random.Next(2) == 0 ? "true" : "false";
            if (kind.IsPrimitive || _random.Next(2) == 0) return _random.Next(0, 30).ToString(CultureInfo.InvariantCulture);
        }

        if (_random.Next(30) == 0) return new string('a', 6_000);
        if (_random.Next(30) == 0) return "a" + new string('\u0301', 4_000);
        return Extremes[_random.Next(Extremes.Length)];
    }

    private string Points() => string.Join(' ', Enumerable.Range(0, new[] { 1, 2, 3, 12, 300 }[_random.Next(5)]).Select(_ => string.Create(CultureInfo.InvariantCulture, $"{(_random.NextDouble() * 200) - 100:0.##},{(_random.NextDouble() * 200) - 100:0.##}")));

    /// <summary>How many of the values of a request are such as nobody should send.</summary>
    private double _wildness;

    private long _job = 1;

    private async Task<string> VersionAsync() =>
        Regex.Match(WebUtility.HtmlDecode(await (await Server.Http.GetAsync($"/jobs/{_job}")).Content.ReadAsStringAsync()), "\"version\":(\\d+)").Groups[1].Value;

    /// <summary>Goes through the pages as they are now and notes what stands in their fields; chooses a job to work on.</summary>
    private async Task LookAroundAsync()
    {
        var shelf = await Server.Http.GetStringAsync("/");
        var jobs = Regex.Matches(shelf, "/jobs/(\\d+)\"").Select(m => long.Parse(m.Groups[1].Value, CultureInfo.InvariantCulture)).Distinct().ToList();
        _job = jobs.Count == 0 ? 1 : _random.Next(2) == 0 ? jobs.Max() : jobs[_random.Next(jobs.Count)];
        string[] pages =
        [
            "/", "/letters", "/rack", "/rack/shopping", "/rack/used", "/equipment", "/equipment/ranges", "/equipment/hoops", "/machine-room", "/rosters", "/rosters/1", $"/jobs/{_job}/cut", $"/jobs/{_job}/names", $"/jobs/{_job}/ready", $"/jobs/{_job}/fetch", $"/jobs/{_job}/sheet",
            .. Web.Pages.Bench.BenchRegistry.Tasks.Select(t => $"/jobs/{_job}?task={t.Id}&parts=1,2"),
        ];
        foreach (var page in pages)
        {
            using var answer = await Server.Http.GetAsync(page);
            ((int)answer.StatusCode).ShouldBeLessThan(500, page);
            var html = WebUtility.HtmlDecode(await answer.Content.ReadAsStringAsync());
            foreach (Match m in Regex.Matches(html, "(?:name|data-field)=\"([^\"]+)\"[^>]*?(?:data-)?value=\"([^\"]*)\"")) Note(m.Groups[1].Value, m.Groups[2].Value);
            foreach (Match select in Regex.Matches(html, "<select[^>]*name=\"([^\"]+)\"[^>]*>([\\s\\S]*?)</select>"))
                foreach (Match option in Regex.Matches(select.Groups[2].Value, "<option[^>]*value=\"([^\"]*)\"")) Note(select.Groups[1].Value, option.Groups[1].Value);
        }
    }

    private void Note(string name, string value)
    {
        if (!_seen.TryGetValue(name, out var values)) _seen[name] = values = [];
        if (!values.Contains(value)) values.Add(value);
    }

    /// <summary>Every list and every job that is on the shelf can be looked at.</summary>
    private async Task StandsAsync(string when)
    {
        var shelf = await Server.Http.GetStringAsync("/");
        foreach (var page in (string[])["/letters", "/rack", "/rack/shopping", "/rack/used", "/equipment", "/equipment/ranges", "/equipment/hoops", "/machine-room", "/rosters", "/about", .. Regex.Matches(shelf, "\"(/jobs/\\d+)\"").Select(m => m.Groups[1].Value).Distinct()])
        {
            using var answer = await Server.Http.GetAsync(page);
            answer.StatusCode.ShouldBe(HttpStatusCode.OK, $"{page} {when}: {await answer.Content.ReadAsStringAsync()}");
        }

        StitchFormats.Read(await Server.Http.GetByteArrayAsync("/designs/1/original"), DemoDesigns.All[0].FileName).File.Stitches.Count.ShouldBeGreaterThan(0);
    }
}
