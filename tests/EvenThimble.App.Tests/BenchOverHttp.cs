using System.Globalization;
using System.Text.RegularExpressions;
using EvenThimble.Browser.Tests;
using EvenThimble.Core.Jobs;
using EvenThimble.Storage;
using EvenThimble.Web.Workroom;
using Microsoft.Extensions.DependencyInjection;

namespace EvenThimble.App.Tests;

/// <summary>A server with the demo data, and one of its jobs on the bench, over real HTTP.</summary>
public abstract class BenchOverHttp(long job) : IAsyncLifetime
{
    protected AppServer Server { get; private set; } = null!;

    protected HttpClient Http { get; private set; } = null!;

    /// <summary>The job as it stands.</summary>
    protected Job Job => Server.Services.GetRequiredService<JobDesk>().Find(job)!.Job;

    public async ValueTask InitializeAsync()
    {
        Server = await AppServer.StartAsync(demo: true);
        Http = new HttpClient(new HttpClientHandler { AllowAutoRedirect = false }) { BaseAddress = new(Server.Address) };
        var token = Regex.Match(await Http.GetStringAsync("/"), "thimble-token\" content=\"([^\"]+)").Groups[1].Value;
        Http.DefaultRequestHeaders.Add("X-Thimble-Token", token);
    }

    public async ValueTask DisposeAsync()
    {
        Http.Dispose();
        await Server.DisposeAsync();
    }

    /// <summary>Does a command of the bench, or tries it ("try size"), for the version that is there now.</summary>
    protected Task<HttpResponseMessage> Post(string handler, params (string Name, string Value)[] values) =>
        PostTo($"/jobs/{job}/{(handler.StartsWith("try ", StringComparison.Ordinal) ? handler.Replace("try ", "try/") : $"do/{handler}")}", [.. values, ("version", Server.Services.GetRequiredService<JobStore>().VersionOf(job)!.Value.ToString(CultureInfo.InvariantCulture))]);

    /// <summary>Posts to a handler of a page.</summary>
    protected Task<HttpResponseMessage> Post(string handler, string page, params (string Name, string Value)[] values) =>
        PostTo($"{page}?handler={handler}", values);

    /// <summary>Posts to an address.</summary>
    protected Task<HttpResponseMessage> PostTo(string address, params (string Name, string Value)[] values) =>
        Http.PostAsync(address, new FormUrlEncodedContent(values.Select(v => new KeyValuePair<string, string>(v.Name, v.Value))));
}
