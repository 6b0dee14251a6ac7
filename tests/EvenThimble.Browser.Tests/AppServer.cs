using EvenThimble.Web;
using Microsoft.AspNetCore.Builder;

namespace EvenThimble.Browser.Tests;

/// <summary>The application on a free port of this computer, with a data folder of its own; it can be stopped and started again.</summary>
public sealed class AppServer : IAsyncDisposable
{
    private WebApplication? _app;

    private AppServer(string data, bool demo) => (Data, Demo) = (data, demo);

    public string Data { get; }

    public string Address => _app!.Urls.First();

    public IServiceProvider Services => _app!.Services;

    private bool Demo { get; }

    // Drawing the scenario takes a second or two; tests start from copies of a data folder that was filled once.
    private static readonly Lazy<Task<string>> Filled = new(FilledAsync);

    public static async Task<AppServer> StartAsync(bool demo)
    {
        var server = new AppServer(Directory.CreateTempSubdirectory("thimble-").FullName, demo);
        if (demo) await FillAsync(server.Data);
        await server.UpAsync();
        return server;
    }

    /// <summary>Copies the demo data into an empty data folder.</summary>
    public static async Task FillAsync(string data)
    {
        foreach (var file in Directory.EnumerateFiles(await Filled.Value)) File.Copy(file, Path.Combine(data, Path.GetFileName(file)));
    }

    public Task RestartAsync() => StoppedAsync(() => { });

    /// <summary>Stops, lets something happen to the data folder, and starts again.</summary>
    public async Task StoppedAsync(Action happens)
    {
        await DownAsync();
        happens();
        await UpAsync();
    }

    public async ValueTask DisposeAsync()
    {
        await DownAsync();
        Directory.Delete(Data, recursive: true);
    }

    private static async Task<string> FilledAsync()
    {
        var server = new AppServer(Directory.CreateTempSubdirectory("thimble-").FullName, demo: true);
        await server.UpAsync();
        await server.DownAsync();
        AppDomain.CurrentDomain.ProcessExit += (_, _) => Directory.Delete(server.Data, recursive: true);
        return server.Data;
    }

    private async Task UpAsync()
    {
        _app = EvenThimbleHost.Build(["--port", "0", "--data", Data, "--demo", Demo ? "true" : "false"]);
        await _app.StartAsync();
    }

    // Disposing alone does not wait for the daily copy of the data, which then writes into a folder that is being deleted.
    private async Task DownAsync()
    {
        if (_app is null) return;
        await _app.StopAsync();
        await _app.DisposeAsync();
        Microsoft.Data.Sqlite.SqliteConnection.ClearAllPools();
    }
}
