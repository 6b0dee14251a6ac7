using System.Collections.Immutable;
using System.Diagnostics;
using System.Globalization;
using System.Net;
using System.Text;
using System.Text.RegularExpressions;
using EvenThimble.Core.Colour;
using EvenThimble.Core.Files.Jobs;
using EvenThimble.Core.Files.Stitch;
using EvenThimble.Core.Geometry;
using EvenThimble.Core.Jobs;
using EvenThimble.Core.Machines;
using EvenThimble.Core.Stitches;
using EvenThimble.Core.Threads;

namespace EvenThimble.App.Tests.Damage;

/// <summary>What is asked for may be enormous: then it is refused in words within some seconds, or it is done; and work ends when nobody waits for it.</summary>
public sealed class WorkThatEndsTests() : OnServer(demo: false)
{
    private static readonly TimeSpan Most = TimeSpan.FromSeconds(6);
    private static readonly SewingThread Indigo = new("Fenlight", "1", "indigo", Rgb.FromInt(0x2F4B7C));

    [Fact]
    public async Task Stitches_far_apart_crowded_or_very_many_are_shown_or_refused_in_time()
    {
        (await Brought("far.csv", Csv([new(-9_900, -9_900), new(9_900, 9_900)]), refused: true)).ShouldContain("4 m");
        var far = await Brought("wide.csv", Csv([new(-1_900, -1_900), new(1_900, 1_900), new(1_899, 1_899)]));
        var random = new Random(1);
        var crowd = await Brought("crowd.evth", Evth(Enumerable.Range(0, 300_000).Select(_ => new Point(random.NextDouble() / 10, random.NextDouble() / 10)).ToList(), 1));
        var many = await Brought("many.evth", Evth(Enumerable.Range(0, 500_000).Select(i => new Point(i % 1000 * 0.2, i / 1000 * 0.4)).ToList(), 4));
        foreach (var design in new[] { far, crowd, many })
        {
            var job = await Opened(design);
            foreach (var page in new[] { "", "/plan", "/picture.png", "/density.png" }) await InTime(() => Server.Http.GetAsync($"/jobs/{job}{page}"), $"{design}{page}");
            var size = await InTime(() => Do(job, "size", ("field", "size"), ("value", "5000%")), $"{design} at 5000 %");
            ((int)size.StatusCode).ShouldBeOneOf(200, 422);
            await InTime(() => Do(job, "rework", ("field", "seen"), ("value", "only")), $"{design} only what is seen");
            await InTime(() => Server.Http.GetAsync($"/jobs/{job}"), $"{design} afterwards");
        }

        Server.MostMegabytes.ShouldBeLessThan(700);
    }

    [Fact]
    public async Task Parts_without_number_and_one_blob_used_over_and_over_are_refused()
    {
        (await Brought("parts.evth", Evth(Enumerable.Range(0, 40_000).Select(i => new Point(i % 200, i / 200)).ToList(), 20_000), refused: true)).ShouldContain("5,000 parts");

        var blob = Blob(Enumerable.Range(0, 400_000).Select(i => new Point(i % 100, i / 1000.0)).ToList());
        var job = Job.FromDesign(null, new StitchFile("Over and over", blob, [new(0, blob.Count, Indigo, PartRole.Decoration)]), StandInMachines.Catalogue.UsualHoop);
        var copies = job.Order.Concat(Enumerable.Range(2, 1_499).Select(i => job.Order[0] with { Id = new(i) })).ToImmutableArray();
        var archive = new JobArchive(job with { Order = new(copies), NextPart = 2_000 }, ImmutableDictionary<BlobHash, StitchBlob>.Empty.Add(blob.Hash, blob), [], null).ToBytes();
        (await Brought("over.evjob", archive, refused: true)).ShouldContain("4,000,000");
        Server.MostMegabytes.ShouldBeLessThan(700);
    }

    [Fact]
    public async Task Scribbles_and_huge_shapes_are_stitched_or_refused_in_time()
    {
        var random = new Random(3);
        string Scribble(int points) => string.Join(' ', Enumerable.Range(0, points).Select(_ => string.Create(CultureInfo.InvariantCulture, $"{random.NextDouble() * 160 - 80:0.##},{random.NextDouble() * 160 - 80:0.##}")));
        var job = Regex.Match((await NewJob()).ToString(), @"/jobs/(\d+)").Groups[1].Value;
        foreach (var points in new[] { 200, 1_000 })
            foreach (var kind in new[] { "line", "curve" })
            {
                using var answer = await InTime(() => Do(job, "draw", ("kind", kind), ("points", Scribble(points)), ("closed", "true")), $"{points} {kind}");

                // Hundreds of points scribbled take much of the time that a change has; on a slow or busy computer they are refused.
                if (points < 500 || answer.StatusCode != HttpStatusCode.UnprocessableEntity)
                    answer.StatusCode.ShouldBe(HttpStatusCode.OK, $"{points} {kind}: {Regex.Match(await answer.Content.ReadAsStringAsync(), "id=\"said\".{0,400}", RegexOptions.Singleline).Value}");
            }
        foreach (var (width, height, corners) in new[] { ("1999", "20", "5"), ("1999", "20", "60"), ("20", "1999", "60"), ("1999", "1999", "60") })
            ((int)(await InTime(() => Do(job, "shape", ("shape", "star"), ("width", width), ("height", height), ("x", "0"), ("y", "0"), ("corners", corners)), $"star {width} {height} {corners}")).StatusCode).ShouldBeOneOf(200, 422);
        for (var n = 0; n < 2; n++)
            foreach (var (command, field) in new[] { ("turn", ("degrees", "37")), ("lean", ("degrees", "60")), ("size", ("value", "200%")) })
                ((int)(await InTime(() => Do(job, command, field, ("field", "size"), ("parts", "1")), $"{command} {n}")).StatusCode).ShouldBeOneOf(200, 422);
        await InTime(() => Server.Http.GetAsync($"/jobs/{job}"), "the bench afterwards");
        Server.MostMegabytes.ShouldBeLessThan(700);
    }

    [Fact]
    public async Task Work_ends_soon_after_its_client_has_left()
    {
        var random = new Random(9);
        var job = Regex.Match((await NewJob()).ToString(), @"/jobs/(\d+)").Groups[1].Value;
        var version = await VersionOf(job);
        var heavy = Enumerable.Range(0, 800).Select(_ => string.Create(CultureInfo.InvariantCulture, $"{random.NextDouble() * 300 - 150:0.##},{random.NextDouble() * 300 - 150:0.##}"));
        await Task.Delay(3_000); // the copy of the data is made meanwhile
        var idle = await Busy(TimeSpan.FromSeconds(1));
        using var leaves = new CancellationTokenSource(TimeSpan.FromMilliseconds(150));
        await Should.ThrowAsync<OperationCanceledException>(() => Server.Http.PostAsync($"/jobs/{job}/do/draw", new FormUrlEncodedContent([new("kind", "curve"), new("points", string.Join(' ', heavy)), new("closed", "true"), new("version", version)]), leaves.Token));
        await Task.Delay(1_500); // the runtime still compiles for a while what ran often
        (await Busy(TimeSpan.FromSeconds(1))).ShouldBeLessThan(idle + 0.3, "seconds of processor in a second after");
        (await VersionOf(job)).ShouldBe(version, "nothing was stored");
    }

    /// <summary>Seconds of processor that the server takes meanwhile.</summary>
    private async Task<double> Busy(TimeSpan meanwhile)
    {
        var before = Server.ProcessorSeconds;
        await Task.Delay(meanwhile);
        return Server.ProcessorSeconds - before;
    }

    private static StitchBlob Blob(IReadOnlyList<Point> points)
    {
        var builder = new StitchBuilder(points.Count);
        foreach (var p in points) builder.Stitch(p);
        return builder.ToBlob();
    }

    private static byte[] Evth(IReadOnlyList<Point> points, int parts)
    {
        var blob = Blob(points);
        var each = blob.Count / parts;
        return StitchFormats.Of(StitchFileKind.Evth2).Write(new("Made up", blob, [.. Enumerable.Range(0, parts).Select(i => new StitchFilePart(i * each, i == parts - 1 ? blob.Count - (i * each) : each, Indigo with { Number = $"{i}" }, PartRole.Decoration))]));
    }

    private static byte[] Csv(IEnumerable<Point> points) => Encoding.UTF8.GetBytes(string.Join('\n', ["op,x_mm,y_mm,thread,colour,role", "change,,,Fenlight|1|x,#112233,decoration", .. points.Select(p => string.Create(CultureInfo.InvariantCulture, $"stitch,{p.X},{p.Y},,,")), "end,,,,,"]));

    /// <summary>Brings a file in; its number on the shelf, or the sentence that refuses it.</summary>
    private async Task<string> Brought(string name, byte[] bytes, bool refused = false)
    {
        using var answer = await InTime(() => Server.SendAsync("/?handler=Import", name, bytes), name);
        var said = Regex.Unescape(await answer.Content.ReadAsStringAsync());
        if (refused)
        {
            answer.StatusCode.ShouldBe(HttpStatusCode.UnprocessableEntity, said);
            return said;
        }

        answer.StatusCode.ShouldBe(HttpStatusCode.OK, said);
        return Regex.Match(said, "\"design\":(\\d+)").Groups[1].Value;
    }

    private async Task<string> Opened(string design)
    {
        using var answer = await InTime(() => Server.PostAsync("/?handler=Open", ("id", design)), $"open {design}");
        answer.EnsureSuccessStatusCode();
        return Regex.Match(answer.RequestMessage!.RequestUri!.ToString(), @"/jobs/(\d+)").Groups[1].Value;
    }

    private async Task<Uri> NewJob()
    {
        using var answer = await Server.PostAsync("/?handler=New");
        answer.EnsureSuccessStatusCode();
        return answer.RequestMessage!.RequestUri!;
    }

    private async Task<string> VersionOf(string job) => Regex.Match(WebUtility.HtmlDecode(await Server.Http.GetStringAsync($"/jobs/{job}")), "\"version\":(\\d+)").Groups[1].Value;

    private async Task<HttpResponseMessage> Do(string job, string command, params (string Name, string Value)[] values) =>
        await Server.PostAsync($"/jobs/{job}/do/{command}", [.. values, ("version", await VersionOf(job))]);

    private async Task<HttpResponseMessage> InTime(Func<Task<HttpResponseMessage>> ask, string what)
    {
        var (clock, processor) = (Stopwatch.StartNew(), Server.ProcessorSeconds);
        var answer = await ask();
        ((int)answer.StatusCode).ShouldBeLessThan(500, $"{what}: {(answer.IsSuccessStatusCode ? string.Empty : await answer.Content.ReadAsStringAsync())}");
        (Server.ProcessorSeconds - processor).ShouldBeLessThan(2 * Most.TotalSeconds, $"{what} took {clock.Elapsed.TotalSeconds:0.0} s");
        return answer;
    }
}
