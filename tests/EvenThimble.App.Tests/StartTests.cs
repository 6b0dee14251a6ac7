using System.Net;
using EvenThimble.Browser.Tests;
using EvenThimble.Scenario;
using EvenThimble.Storage;
using EvenThimble.Web;

namespace EvenThimble.App.Tests;

/// <summary>How the program starts, and who gets an answer.</summary>
public class StartTests
{
    [Fact]
    public async Task A_port_that_is_taken_or_a_folder_that_cannot_be_one_is_said_in_a_sentence()
    {
        await using var server = await AppServer.StartAsync(demo: false);
        var folder = Directory.CreateTempSubdirectory("thimble-").FullName;
        var before = Console.Error;
        using var said = new StringWriter();
        Console.SetError(said);
        try
        {
            (await EvenThimbleHost.RunAsync(["--port", new Uri(server.Address).Port.ToString(), "--data", folder])).ShouldBe(1);
            said.ToString().ShouldContain("--port");
            var file = Path.Combine(folder, "file");
            await File.WriteAllTextAsync(file, "x");
            (await EvenThimbleHost.RunAsync(["--port", "0", "--data", Path.Combine(file, "below")])).ShouldBe(1);
            said.ToString().ShouldContain("--data");
        }
        finally
        {
            Console.SetError(before);
            Microsoft.Data.Sqlite.SqliteConnection.ClearAllPools();
            Directory.Delete(folder, recursive: true);
        }
    }

    [Fact]
    public async Task A_name_that_was_made_to_mean_this_computer_gets_no_answer()
    {
        await using var server = await AppServer.StartAsync(demo: false);
        using var http = new HttpClient { BaseAddress = new(server.Address) };
        using var request = new HttpRequestMessage(HttpMethod.Get, "/");
        request.Headers.Host = "example.org";
        (await http.SendAsync(request)).StatusCode.ShouldBe(HttpStatusCode.BadRequest);
    }

    [Fact]
    public async Task The_demo_fills_an_empty_folder_once_and_serving_leaves_it_empty()
    {
        await using var demo = await AppServer.StartAsync(demo: true);
        DesignStore Designs() => (DesignStore)demo.Services.GetService(typeof(DesignStore))!;
        Designs().All().Count.ShouldBe(DemoDesigns.All.Count);
        Designs().Delete(1);
        await demo.RestartAsync();
        Designs().All().Count.ShouldBe(DemoDesigns.All.Count - 1);
        await using var plain = await AppServer.StartAsync(demo: false);
        ((DesignStore)plain.Services.GetService(typeof(DesignStore))!).All().ShouldBeEmpty();
    }
}
