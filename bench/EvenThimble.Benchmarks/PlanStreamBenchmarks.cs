using System.Net.Http.Headers;
using BenchmarkDotNet.Attributes;
using EvenThimble.Browser.Tests;
using EvenThimble.Core.Files.Stitch;
using EvenThimble.Core.Jobs;
using EvenThimble.Core.Machines;
using EvenThimble.Core.Stitches;
using EvenThimble.Storage;
using EvenThimble.Web.Workroom;
using Microsoft.AspNetCore.Hosting;
using Microsoft.Extensions.DependencyInjection;

namespace EvenThimble.Benchmarks;

/// <summary>The plan of a job of 200,000 stitches over HTTP, against a static file of the same size from the same server.</summary>
public class PlanStreamBenchmarks
{
    private AppServer _server = null!;
    private HttpClient _http = null!;
    private string _file = string.Empty;
    private EntityTagHeaderValue? _tag;

    [GlobalSetup]
    public async Task Prepare()
    {
        _server = await AppServer.StartAsync(demo: false);
        var services = _server.Services;
        var design = ReadingBenchmarks.Made(200_000);
        var id = services.GetRequiredService<Importer>().Import("bench.evth", StitchFormats.Write(StitchFileKind.Evth2, design)).Id;
        services.GetRequiredService<JobStore>().Create(Job.FromDesign(null, services.GetRequiredService<DesignStore>().Load(id, services.GetRequiredService<BlobStore>())!, StandInMachines.Catalogue.UsualHoop), "bench");
        _http = new HttpClient { BaseAddress = new(_server.Address) };
        var plan = await _http.GetAsync("/jobs/1/plan");
        _tag = plan.Headers.ETag;
        _file = Path.Combine(services.GetRequiredService<IWebHostEnvironment>().WebRootPath, "lib", "bench.bin");
        await File.WriteAllBytesAsync(_file, await plan.Content.ReadAsByteArrayAsync());
    }

    [GlobalCleanup]
    public async Task CleanUp()
    {
        File.Delete(_file);
        _http.Dispose();
        await _server.DisposeAsync();
    }

    [Benchmark(Baseline = true, Description = "static file of that size")]
    public Task<byte[]> StaticFile() => _http.GetByteArrayAsync("/lib/bench.bin");

    [Benchmark(Description = "plan stream")]
    public Task<byte[]> Plan() => _http.GetByteArrayAsync("/jobs/1/plan");

    [Benchmark(Description = "plan stream, not modified (304)")]
    public async Task<int> NotModified()
    {
        using var request = new HttpRequestMessage(HttpMethod.Get, "/jobs/1/plan");
        request.Headers.IfNoneMatch.Add(_tag!);
        using var response = await _http.SendAsync(request);
        return (int)response.StatusCode == 304 ? 304 : throw new InvalidOperationException("304 was expected");
    }
}
