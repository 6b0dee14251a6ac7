using EvenThimble.Browser.Tests;

namespace EvenThimble.App.Tests.Damage;

/// <summary>Tests of a real server with a data folder of its own, as a process that can be watched.</summary>
/// <param name="demo">Begun with the demo data.</param>
public abstract class OnServer(bool demo) : IAsyncLifetime
{
    /// <summary>The data folder.</summary>
    protected string Data { get; } = Directory.CreateTempSubdirectory("thimble-server-").FullName;

    /// <summary>The server.</summary>
    protected ServerProcess Server { get; private set; } = null!;

    public async ValueTask InitializeAsync()
    {
        if (demo) await AppServer.FillAsync(Data);
        Server = await ServerProcess.StartAsync(Data);
    }

    public ValueTask DisposeAsync()
    {
        Server.Dispose();
        Directory.Delete(Data, recursive: true);
        return default;
    }
}
