using System.Net;
using System.Net.Http.Headers;
using System.Text.Json;
using System.Text.RegularExpressions;
using EvenThimble.Browser.Tests;
using EvenThimble.Core.Files.Stitch;
using EvenThimble.Core.Stitches;
using EvenThimble.Core.Tests;
using EvenThimble.Scenario;
using EvenThimble.Web.Workroom;

namespace EvenThimble.App.Tests;

/// <summary>What changes the data, over real HTTP; each test has a server of its own.</summary>
public sealed class HttpTests : IAsyncLifetime
{
    private AppServer _server = null!;
    private HttpClient _http = null!;

    public async ValueTask InitializeAsync()
    {
        _server = await AppServer.StartAsync(demo: true);
        _http = new HttpClient { BaseAddress = new(_server.Address) };
    }

    public async ValueTask DisposeAsync()
    {
        _http.Dispose();
        await _server.DisposeAsync();
    }

    [Fact]
    public async Task A_post_without_the_pages_token_is_refused()
    {
        (await _http.PostAsync("/?handler=DeleteDesign", new FormUrlEncodedContent([new("id", "1")]))).StatusCode.ShouldBe(HttpStatusCode.BadRequest);
        (await _http.GetStringAsync("/")).ShouldContain("data-design=\"1\"");
    }

    [Fact]
    public async Task The_original_is_given_back_byte_for_byte_after_any_edit()
    {
        var bytes = StitchFormats.Write(StitchFileKind.Csv, DemoDesigns.All[2].Drawn());
        var imported = await Import("planet.csv", bytes);
        imported.Status.ShouldBe(HttpStatusCode.OK);
        var design = imported.Answer.GetProperty("design").GetInt64();
        var job = await OpenJob(design);
        await Edit(job, "shift", 1, ("dx", "12"), ("dy", "3"));
        (await _http.GetByteArrayAsync($"/designs/{design}/original")).ShouldBe(bytes);
    }

    [Fact]
    public async Task A_damaged_file_is_explained_and_leaves_nothing_on_the_shelf()
    {
        var before = Regex.Count(await _http.GetStringAsync("/"), "data-design=");
        var bytes = StitchFormats.Write(StitchFileKind.Evth2, DemoDesigns.All[2].Drawn());
        bytes[900] ^= 4;
        var (status, answer) = await Import("damaged.evth", bytes);
        status.ShouldBe(HttpStatusCode.UnprocessableEntity);
        answer.GetProperty("says").GetString()!.ShouldContain("checksum");
        Regex.Count(await _http.GetStringAsync("/"), "data-design=").ShouldBe(before);
    }

    [Theory]
    [InlineData("../../../etc/passwd.evth")]
    [InlineData("..\\..\\x.evth")]
    [InlineData("מגדל.evth")]
    public async Task A_name_with_folders_or_other_scripts_is_only_a_name(string name)
    {
        var file = DemoDesigns.All[2].Drawn() with { Title = string.Empty };
        var (status, _) = await Import(name, StitchFormats.Write(StitchFileKind.Csv, file));
        status.ShouldBe(HttpStatusCode.OK);
        var shelf = WebUtility.HtmlDecode(await _http.GetStringAsync("/"));
        shelf.ShouldNotContain("../");
        shelf.ShouldContain(name.Contains('מ') ? "מגדל" : name.Contains("passwd") ? "passwd" : "x.evth");
        Directory.EnumerateFiles(Path.GetDirectoryName(_server.Data)!, "passwd*").ShouldBeEmpty();
    }

    [Fact]
    public async Task A_file_of_100_MB_gets_a_sentence()
    {
        var (status, answer) = await Import("huge.evth", new byte[100 * 1024 * 1024]);
        status.ShouldBe(HttpStatusCode.UnprocessableEntity);
        answer.GetProperty("says").GetString()!.ShouldContain("64 MB");
    }

    [Fact]
    public async Task The_same_file_twice_is_told()
    {
        var bytes = StitchFormats.Write(StitchFileKind.Svg, DemoDesigns.All[3].Drawn());
        await Import("tag.svg", bytes);
        var (status, answer) = await Import("tag again.svg", bytes);
        status.ShouldBe(HttpStatusCode.OK);
        answer.GetProperty("says").GetString()!.ShouldContain("already");
    }

    [Fact]
    public async Task The_plan_is_sent_once_and_then_not_modified()
    {
        var first = await _http.GetAsync("/jobs/1/plan");
        var tag = first.Headers.ETag!;
        var again = new HttpRequestMessage(HttpMethod.Get, "/jobs/1/plan");
        again.Headers.IfNoneMatch.Add(tag);
        (await _http.SendAsync(again)).StatusCode.ShouldBe(HttpStatusCode.NotModified);
        await Edit(1, "recolour", 1, ("maker", "Glimmerdale"), ("number", "805"), ("parts", "1"));
        (await _http.GetAsync("/jobs/1/plan")).Headers.ETag.ShouldBe(tag, "a colour changes no stitch");
        await Edit(1, "shift", 2, ("dx", "1"), ("dy", "0"));
        (await _http.GetAsync("/jobs/1/plan")).Headers.ETag.ShouldNotBe(tag);
    }

    [Fact]
    public async Task A_stale_edit_answers_with_the_fresh_state_and_a_clear_message()
    {
        await Edit(1, "rename", 1, ("title", "From the first tab"));
        var (status, body) = await Edit(1, "rename", 1, ("title", "From the second tab"));
        status.ShouldBe(HttpStatusCode.Conflict);
        body.ShouldContain("another window");
        body.ShouldContain("From the first tab");
        body.ShouldNotContain("value=\"From the second tab\"");
    }

    [Fact]
    public async Task A_typed_place_moves_the_middle_there_and_an_untouched_field_moves_nothing()
    {
        await Edit(1, "move-to", 1, ("x", "1in"), ("y", "0.8"));
        var file = StitchFormats.Read(await _http.GetByteArrayAsync("/jobs/1/export/csv"), "x").File;
        file.Bounds.Middle.X.ShouldBe(25.4, 1e-5);
        file.Bounds.Middle.Y.ShouldBe(DemoDesigns.All[0].Drawn().Bounds.Middle.Y, 0.006);
    }

    [Fact]
    public async Task Machine_files_arrive_are_listed_and_are_never_overwritten_silently()
    {
        var (status, page) = await MakeReady(("machines", "heron-200"), ("where-heron-200", "blue"), ("name-heron-200", "comet.evth"));
        status.ShouldBe(HttpStatusCode.OK);
        page.ShouldContain("Heron 200 lists it");
        var on = Path.Combine(_server.Data, "sticks", "blue", "comet.evth");
        var written = await File.ReadAllBytesAsync(on);
        var read = StitchFormats.Read(written, "x").File;
        read.StitchCount.ShouldBe(DemoDesigns.All[0].Drawn().StitchCount);
        read.Picture.Length.ShouldBeGreaterThan(1000);

        await Edit(1, "shift", 1, ("dx", "1"), ("dy", "0"));
        (status, page) = await MakeReady(("machines", "heron-200"), ("where-heron-200", "blue"), ("name-heron-200", "comet.evth"));
        status.ShouldBe(HttpStatusCode.UnprocessableEntity);
        page.ShouldContain("comet-2.evth");
        (await File.ReadAllBytesAsync(on)).ShouldBe(written);

        (status, _) = await MakeReady(("machines", "heron-200"), ("where-heron-200", "blue"), ("name-heron-200", "comet.evth"), ("replace-heron-200", "true"));
        status.ShouldBe(HttpStatusCode.OK);
        (await File.ReadAllBytesAsync(on)).ShouldNotBe(written);
    }

    [Theory]
    [InlineData("wren-130", "much too long a name.evth", "at most 16")]
    [InlineData("heron-200", "../../x.evth", "not possible")]
    [InlineData("heron-200", "comet.txt", "end in .evth")]
    public async Task File_names_that_are_not_possible_are_refused(string machine, string name, string says)
    {
        var (status, page) = await MakeReady(("machines", machine), ($"where-{machine}", machine), ($"name-{machine}", name), ("anyway", "true"));
        status.ShouldBe(HttpStatusCode.UnprocessableEntity);
        WebUtility.HtmlDecode(page).ShouldContain(says);
        Directory.EnumerateFiles(_server.Data, "*.evth", SearchOption.AllDirectories).ShouldBeEmpty();
    }

    [Fact]
    public async Task A_machine_that_would_not_list_it_is_told_before_and_after()
    {
        var (status, page) = await MakeReady(("machines", "wren-130"), ("where-wren-130", "wren-130"));
        status.ShouldBe(HttpStatusCode.UnprocessableEntity);
        page.ShouldContain("would not list");
        (status, page) = await MakeReady(("machines", "wren-130"), ("where-wren-130", "wren-130"), ("anyway", "true"));
        status.ShouldBe(HttpStatusCode.OK);
        page.ShouldContain("does not list it");
        (await _http.GetStringAsync("/machine-room")).ShouldContain("too large");
    }

    [Fact]
    public async Task Deleting_can_be_undone()
    {
        var deleted = await Post("/?handler=DeleteDesign", ("id", "2"));
        deleted.Body.ShouldNotContain("data-design=\"2\"");
        deleted.Body.ShouldContain("RestoreDesign");
        (await Post("/?handler=RestoreDesign", ("id", "2"))).Body.ShouldContain("data-design=\"2\"");
        (await Post("/?handler=DeleteJob", ("id", "1"))).Body.ShouldNotContain("data-job=\"1\"");
        (await Post("/?handler=RestoreJob", ("id", "1"))).Body.ShouldContain("data-job=\"1\"");
    }

    private async Task<(HttpStatusCode Status, JsonElement Answer)> Import(string name, byte[] bytes)
    {
        var content = new ByteArrayContent(bytes);
        content.Headers.ContentDisposition = new ContentDispositionHeaderValue("form-data") { Name = "file", FileName = name, FileNameStar = name };
        using var form = new MultipartFormDataContent { content };
        using var request = new HttpRequestMessage(HttpMethod.Post, "/?handler=Import") { Content = form };
        request.Headers.Add("X-Thimble-Token", await Token());
        var response = await _http.SendAsync(request);
        return (response.StatusCode, JsonDocument.Parse(await response.Content.ReadAsStringAsync()).RootElement);
    }

    private async Task<long> OpenJob(long design)
    {
        var response = await Post("/?handler=Open", ("id", $"{design}"));
        return long.Parse(Regex.Match(response.Body, "/jobs/(\\d+)/ready").Groups[1].Value);
    }

    private Task<(HttpStatusCode Status, string Body)> Edit(long job, string handler, long version, params (string Name, string Value)[] values) =>
        Post($"/jobs/{job}/do/{handler}", [("version", $"{version}"), .. values]);

    private Task<(HttpStatusCode Status, string Body)> MakeReady(params (string Name, string Value)[] values) => Post("/jobs/1/ready", values);

    private async Task<(HttpStatusCode Status, string Body)> Post(string address, params (string Name, string Value)[] values)
    {
        using var request = new HttpRequestMessage(HttpMethod.Post, address) { Content = new FormUrlEncodedContent(values.Select(v => KeyValuePair.Create(v.Name, v.Value))) };
        request.Headers.Add("X-Thimble-Token", await Token());
        var response = await _http.SendAsync(request);
        return (response.StatusCode, await response.Content.ReadAsStringAsync());
    }

    private async Task<string> Token() => Regex.Match(await _http.GetStringAsync("/machine-room"), "name=\"thimble-token\" content=\"([^\"]+)\"").Groups[1].Value;
}
