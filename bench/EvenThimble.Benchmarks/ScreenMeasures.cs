using System.Diagnostics;
using System.Globalization;
using EvenThimble.Browser.Tests;
using EvenThimble.Core.Files.Stitch;
using EvenThimble.Core.Jobs;
using EvenThimble.Core.Machines;
using EvenThimble.Core.Stitches;
using EvenThimble.Core.Threads;
using EvenThimble.Storage;
using EvenThimble.Web;
using EvenThimble.Web.Workroom;
using Microsoft.Extensions.DependencyInjection;
using OpenQA.Selenium.Interactions;

namespace EvenThimble.Benchmarks;

/// <summary>What needs a browser or a process of its own: frames of the cloth, opening a job, memory of the idle server.</summary>
public static class ScreenMeasures
{
    private const int Openings = 7;

    public static async Task RunAsync()
    {
        await using var server = await AppServer.StartAsync(demo: false);
        var large = NewJob(server, ReadingBenchmarks.Made(100_000));
        var builder = new StitchBuilder();
        builder.Stitch(new(0, 0));
        builder.Stitch(new(2, 0));
        var tiny = NewJob(server, new("Two stitches", builder.ToBlob(), [new(0, 2, SewingThread.Unnamed(0), PartRole.Decoration)]));
        using var browser = new Browser.Tests.Browser();

        Console.WriteLine("| measure | value |");
        Console.WriteLine("|---|---|");
        var (smallMs, largeMs) = (new List<double>(), new List<double>());
        for (var i = 0; i <= Openings; i++)
        {
            var (s, l) = (Open(browser, server, tiny), Open(browser, server, large));
            if (i == 0) continue; // the first fills the browser's cache
            smallMs.Add(s);
            largeMs.Add(l);
        }

        Row("opening a job of 2 stitches until they are drawn, median", $"{Median(smallMs):0} ms");
        Row("opening a job of 100,000 stitches until all are drawn, median", $"{Median(largeMs):0} ms ({Median(largeMs) / Median(smallMs):0.00} of the small one)");

        var frames = PanAndZoom(browser);
        Row($"script of a frame while panning and zooming 100,000 stitches, 95th percentile of {frames.Count}", $"{Percentile(frames, 0.95):0.0} ms (median {Median(frames):0.0} ms)");
        var keys = Typed(browser, server, tiny);
        Row($"a key in a line of 20 letters until its thread is on the cloth, 95th percentile of {keys.Count}", $"{Percentile(keys, 0.95):0} ms (median {Median(keys):0} ms)");
        Row("memory of the idle server with the demo data, resident", $"{await IdleMemoryAsync():0} MB");
    }

    private static long NewJob(AppServer server, StitchFile design)
    {
        var services = server.Services;
        var id = services.GetRequiredService<Importer>().Import("bench.evth", StitchFormats.Write(StitchFileKind.Evth2, design)).Id;
        return services.GetRequiredService<JobStore>().Create(Job.FromDesign(null, services.GetRequiredService<DesignStore>().Load(id, services.GetRequiredService<BlobStore>())!, StandInMachines.Catalogue.UsualHoop), "bench");
    }

    /// <summary>From asking for the page until the stitches are drawn, by the browser's own clock, ms.</summary>
    private static double Open(Browser.Tests.Browser browser, AppServer server, long job)
    {
        browser.Go("about:blank");
        browser.Go($"{server.Address}/jobs/{job}");
        browser.WaitForStitches();
        return Convert.ToDouble(browser.Run("return performance.getEntriesByName('stitches-drawn')[0].startTime"), CultureInfo.InvariantCulture);
    }

    private static List<double> PanAndZoom(Browser.Tests.Browser browser)
    {
        browser.Run("performance.clearMeasures('cloth-frame')");
        var cloth = browser.Find("#cloth");
        browser.Click("[data-slide]");
        for (var round = 0; round < 6; round++)
        {
            var hand = new Actions(browser.Driver).MoveToElement(cloth, -150, 80).ClickAndHold();
            for (var k = 0; k < 12; k++) hand.MoveByOffset(k % 4 < 2 ? 22 : -18, k % 3 == 0 ? 9 : -6);
            hand.Release().Perform();
            for (var k = 0; k < 8; k++) new Actions(browser.Driver).ScrollFromOrigin(new WheelInputDevice.ScrollOrigin { Element = cloth }, 0, round % 2 == 0 ? -120 : 120).Perform();
            Thread.Sleep(300); // the hand rests: the stitches are drawn anew, in slices that count too
        }

        return [.. ((IReadOnlyCollection<object>)browser.Run("return performance.getEntriesByName('cloth-frame').map(m => m.duration)")).Select(d => Convert.ToDouble(d, CultureInfo.InvariantCulture))];
    }

    /// <summary>Types a line of text at the pace of a quick hand, a few times over; from each key until its thread is drawn, ms.</summary>
    private static List<double> Typed(Browser.Tests.Browser browser, AppServer server, long job)
    {
        browser.Go($"{server.Address}/jobs/{job}?task=letters");
        browser.WaitForStitches();
        browser.Run("performance.clearMeasures('letters-key')");
        for (var round = 0; round < 4; round++)
        {
            browser.Type("#letters-text", "L");
            foreach (var key in "ARKMOOR OBSERVATORYS")
            {
                browser.Find("#letters-text").SendKeys(key.ToString());
                Thread.Sleep(140);
            }
        }

        return [.. ((IReadOnlyCollection<object>)browser.Run("return performance.getEntriesByName('letters-key').map(m => m.duration)")).Select(d => Convert.ToDouble(d, CultureInfo.InvariantCulture))];
    }

    /// <summary>Starts the program as a user does, opens its screens once, lets it rest, and asks the system.</summary>
    private static async Task<double> IdleMemoryAsync()
    {
        var data = Directory.CreateTempSubdirectory("thimble-").FullName;
        var start = new ProcessStartInfo("dotnet") { RedirectStandardOutput = true, RedirectStandardError = true };
        foreach (var argument in new[] { typeof(EvenThimbleHost).Assembly.Location, "--port", "0", "--data", data, "--demo", "true" }) start.ArgumentList.Add(argument);
        using var process = Process.Start(start)!;
        try
        {
            var ready = await process.StandardOutput.ReadLineAsync() ?? string.Empty;
            using var http = new HttpClient { BaseAddress = new(ready[ready.IndexOf("http", StringComparison.Ordinal)..]) };
            foreach (var screen in new[] { "/", "/jobs/1", "/jobs/1/plan", "/jobs/1/picture.png", "/jobs/1/ready", "/machine-room" }) await http.GetByteArrayAsync(screen);
            await Task.Delay(TimeSpan.FromSeconds(20));
            process.Refresh();
            return process.WorkingSet64 / 1024.0 / 1024.0;
        }
        finally
        {
            process.Kill();
            await process.WaitForExitAsync();
            Directory.Delete(data, recursive: true);
        }
    }

    private static void Row(string measure, string value) => Console.WriteLine($"| {measure} | {value} |");

    private static double Median(List<double> values) => Percentile(values, 0.5);

    private static double Percentile(List<double> values, double part) => values.Order().ElementAt(Math.Min(values.Count - 1, (int)(values.Count * part)));
}
