using System.Net;
using System.Text.Json;
using System.Text.RegularExpressions;
using EvenThimble.Browser.Tests;

namespace EvenThimble.App.Tests;

/// <summary>What the program says of itself, and what it writes down.</summary>
public sealed class AboutAndLogTests
{
    [Fact]
    public async Task About_names_every_package_that_the_server_uses_in_its_true_version()
    {
        await using var server = await AppServer.StartAsync(demo: false);
        using var http = new HttpClient { BaseAddress = new(server.Address) };
        var page = await http.GetStringAsync("/about");
        var sources = Path.Combine(Core.Tests.MadeUp.Repository, "src");
        var used = Directory.GetFiles(sources, "*.csproj", SearchOption.AllDirectories).Where(p => !p.Contains("Cli")).SelectMany(p => Regex.Matches(File.ReadAllText(p), "<PackageReference Include=\"([^\"]+)\"").Select(m => m.Groups[1].Value)).ToHashSet();
        used.Count.ShouldBeGreaterThan(6);
        using var locked = JsonDocument.Parse(File.ReadAllText(Path.Combine(sources, "EvenThimble.Web", "packages.lock.json")));
        var versions = locked.RootElement.GetProperty("dependencies").GetProperty("net10.0");
        foreach (var name in used) page.ShouldContain($"<td>{name}</td><td>{versions.GetProperty(name).GetProperty("resolved").GetString()}</td>");
        page.ShouldContain($"<td>ASP.NET Core</td><td>{Environment.Version}</td>");
    }

    [Fact]
    public async Task What_goes_wrong_is_written_to_a_log_in_the_data_folder_that_does_not_grow_for_ever()
    {
        await using var server = await AppServer.StartAsync(demo: false);
        await using var other = await AppServer.StartAsync(demo: false);
        var cookies = new CookieContainer();
        using var http = new HttpClient(new HttpClientHandler { CookieContainer = cookies });
        var token = Regex.Match(await http.GetStringAsync(other.Address), "thimble-token\" content=\"([^\"]+)").Groups[1].Value;

        // Cookies know no ports, so this one gets the other's, which it cannot read.
        using var request = new HttpRequestMessage(HttpMethod.Post, $"{server.Address}/?handler=New") { Headers = { { "X-Thimble-Token", token } } };
        (await http.SendAsync(request)).StatusCode.ShouldBe(HttpStatusCode.BadRequest);
        var log = Directory.GetFiles(Path.Combine(server.Data, "logs")).ShouldHaveSingleItem();
        Path.GetFileName(log).ShouldMatch(@"^even-thimble-\d{8}\.log$");
        await using var stream = new FileStream(log, FileMode.Open, FileAccess.Read, FileShare.ReadWrite);
        (await new StreamReader(stream).ReadToEndAsync()).ShouldContain("token");
    }
}
