using System.Diagnostics;
using System.Globalization;
using System.Text.RegularExpressions;
using EvenThimble.Web;

namespace EvenThimble.App.Tests;

/// <summary>The server as a process of its own, that can be watched and killed.</summary>
public sealed class ServerProcess : IDisposable
{
    private readonly Process _process;

    private ServerProcess(Process process, string address, string data)
    {
        (_process, Data) = (process, data);
        Http = new() { BaseAddress = new(address), Timeout = TimeSpan.FromSeconds(120) };
    }

    public string Data { get; }

    public HttpClient Http { get; }

    public int Id => _process.Id;

    public int ExitCode => _process.ExitCode;

    /// <summary>The most memory that it has held, MB.</summary>
    public double MostMegabytes => double.Parse(Regex.Match(File.ReadAllText($"/proc/{_process.Id}/status"), @"VmHWM:\s+(\d+)").Groups[1].Value, CultureInfo.InvariantCulture) / 1024;

    /// <summary>The time of the processor that it has taken, s.</summary>
    public double ProcessorSeconds
    {
        get
        {
            _process.Refresh();
            return _process.TotalProcessorTime.TotalSeconds;
        }
    }

    public static async Task<ServerProcess> StartAsync(string data, bool demo = false, bool keepsToken = true, SmallDisk? disk = null)
    {
        var asked = Asked(["--port", "0", "--data", data, "--demo", demo ? "true" : "false"]);
        var process = Process.Start(disk?.Around(asked) ?? asked)!;
        process.ErrorDataReceived += (_, _) => { };
        process.BeginErrorReadLine();
        var said = await process.StandardOutput.ReadLineAsync() ?? string.Empty;
        var server = new ServerProcess(process, Regex.Match(said, "http://\\S+").Value, data);
        if (keepsToken) server.Http.DefaultRequestHeaders.Add("X-Thimble-Token", Regex.Match(await server.Http.GetStringAsync("/"), "thimble-token\" content=\"([^\"]+)").Groups[1].Value);
        return server;
    }

    /// <summary>Runs the program to its end; what it said and how it ended.</summary>
    public static async Task<(int ExitCode, string Said)> RunAsync(params string[] arguments)
    {
        using var process = Process.Start(Asked(arguments))!;
        var (output, error) = (process.StandardOutput.ReadToEndAsync(), process.StandardError.ReadToEndAsync());
        await process.WaitForExitAsync();
        return (process.ExitCode, await output + await error);
    }

    public Task<HttpResponseMessage> PostAsync(string address, params (string Name, string Value)[] values) =>
        Http.PostAsync(address, new FormUrlEncodedContent(values.Select(v => new KeyValuePair<string, string>(v.Name, v.Value))));

    public async Task<HttpResponseMessage> SendAsync(string address, string name, byte[] bytes, params (string Name, string Value)[] values)
    {
        using var form = new MultipartFormDataContent();
        foreach (var (field, value) in values) form.Add(new StringContent(value), field);
        form.Add(new ByteArrayContent(bytes), "file", name);
        return await Http.PostAsync(address, form);
    }

    public void Kill()
    {
        _process.Kill();
        _process.WaitForExit();
    }

    public void Dispose()
    {
        Http.Dispose();
        if (!_process.HasExited) Kill();
        _process.Dispose();
    }

    private static ProcessStartInfo Asked(string[] arguments) => new("dotnet", [typeof(EvenThimbleHost).Assembly.Location, .. arguments]) { RedirectStandardOutput = true, RedirectStandardError = true };
}
