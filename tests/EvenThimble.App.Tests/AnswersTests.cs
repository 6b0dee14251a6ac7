using System.Net;
using System.Text.RegularExpressions;
using EvenThimble.Browser.Tests;
using EvenThimble.Core.Files.Stitch;
using EvenThimble.Core.Stitches;
using EvenThimble.Core.Tests;
using EvenThimble.Scenario;

namespace EvenThimble.App.Tests;

/// <summary>What leaves everything as it is, over real HTTP: all tests ask one server.</summary>
public sealed class AnswersTests(AnswersTests.DemoServer server) : IClassFixture<AnswersTests.DemoServer>
{
    [Theory]
    [InlineData("/")]
    [InlineData("/jobs/1")]
    [InlineData("/jobs/1/ready")]
    [InlineData("/machine-room")]
    [InlineData("/equipment")]
    [InlineData("/equipment/ranges")]
    [InlineData("/equipment/needles/starling-eight")]
    [InlineData("/rack")]
    [InlineData("/rack/shopping")]
    [InlineData("/rack/used")]
    [InlineData("/jobs/1/fetch")]
    [InlineData("/letters")]
    [InlineData("/letters?font=Graduate&left=A")]
    [InlineData("/jobs/2?task=stitch&parts=3")]
    [InlineData("/jobs/2?task=add")]
    [InlineData("/jobs/2?task=cloth")]
    [InlineData("/rosters")]
    [InlineData("/rosters/1")]
    [InlineData("/jobs/1/names")]
    [InlineData("/jobs/1?task=names")]
    [InlineData("/about")]
    [InlineData("/healthz")]
    public async Task Every_screen_answers_and_lets_nothing_foreign_in(string address)
    {
        var response = await server.Http.GetAsync(address);
        response.StatusCode.ShouldBe(HttpStatusCode.OK);
        var policy = response.Headers.GetValues("Content-Security-Policy").Single();
        policy.ShouldContain("script-src 'self'");
        policy.ShouldNotContain("unsafe");
        var page = await response.Content.ReadAsStringAsync();
        page.ShouldNotContain("http://www.w3.org/1999/xhtml");
        Regex.IsMatch(page, "<script(?![^>]*src=)").ShouldBeFalse();
        Regex.IsMatch(page, "\\sstyle=\"").ShouldBeFalse();
        Regex.IsMatch(page, "(src|href)=\"(https?:)?//").ShouldBeFalse();
    }

    [Fact]
    public void It_listens_on_this_computer_alone() => new Uri(server.Address).Host.ShouldBe("127.0.0.1");

    [Theory]
    [InlineData("/jobs/999")]
    [InlineData("/jobs/999/plan")]
    [InlineData("/jobs/1/export/exe")]
    [InlineData("/jobs/999/case")]
    [InlineData("/jobs/2/on/silk.png")]
    [InlineData("/looks/motif/none.png")]
    [InlineData("/jobs/1/part/outline?part=1")]
    [InlineData("/designs/999/original")]
    [InlineData("/nowhere")]
    public async Task What_is_not_there_is_told_so(string address) => (await server.Http.GetAsync(address)).StatusCode.ShouldBe(HttpStatusCode.NotFound);

    [Theory]
    [InlineData("evth1")]
    [InlineData("evth2")]
    [InlineData("csv")]
    [InlineData("svg")]
    [InlineData("gcode")]
    public async Task Each_export_reads_back_with_the_jobs_stitches(string kind)
    {
        var bytes = await server.Http.GetByteArrayAsync($"/jobs/1/export/{kind}");
        var (found, file) = StitchFormats.Read(bytes, "x");
        found.Id.ShouldBe(kind);
        file.StitchCount.ShouldBe(DemoDesigns.All[0].Drawn().StitchCount);
    }

    [Theory]
    [InlineData("shift", "dx", "1e12", "dy", "0")]
    [InlineData("turn", "degrees", "sideways", "x", "0")]
    [InlineData("move-to", "x", "left", "y", "0")]
    [InlineData("hoop", "machine", "wren-130", "hoop", "9x9")]
    [InlineData("recolour", "maker", "Nobody", "number", "1")]
    [InlineData("mend", "key", "nothing", "x", "0")]
    [InlineData("rename", "title", "  ", "x", "0")]
    [InlineData("redo", "x", "0", "y", "0")]
    public async Task A_wrong_edit_is_refused_in_a_sentence_with_the_state_as_it_is(string handler, string name1, string value1, string name2, string value2)
    {
        var answer = await server.Http.PostAsync($"/jobs/1/do/{handler}", new FormUrlEncodedContent([new("version", "1"), new("parts", "1"), new(name1, value1), new(name2, value2)]));
        answer.StatusCode.ShouldBe(HttpStatusCode.UnprocessableEntity);
        var body = await answer.Content.ReadAsStringAsync();
        Regex.Match(body, "id=\"said\"[^>]*><span>([^<]+)</span>").Groups[1].Value.ShouldEndWith(".");
    }

    [Fact]
    public async Task The_shelf_finds_by_title_tag_and_machine()
    {
        async Task<int> Found(string query) => Regex.Count(await server.Http.GetStringAsync($"/?{query}"), "data-design=");
        (await Found("find=moon")).ShouldBe(1);
        (await Found("find=VINYL+hoop")).ShouldBe(1);
        (await Found("find=nothing+like+it")).ShouldBe(0);
        (await Found("fits=starling-eight")).ShouldBe(9);
        (await Found("fits=wren-130")).ShouldBe(7);
    }

    /// <summary>A server with the demo data, and a browser that has opened it.</summary>
    public sealed class DemoServer : IAsyncLifetime
    {
        private AppServer _server = null!;

        public string Address => _server.Address;

        public HttpClient Http { get; private set; } = null!;

        public async ValueTask InitializeAsync()
        {
            _server = await AppServer.StartAsync(demo: true);
            Http = new() { BaseAddress = new(Address) };
            Http.DefaultRequestHeaders.Add("X-Thimble-Token", Regex.Match(await Http.GetStringAsync("/machine-room"), "name=\"thimble-token\" content=\"([^\"]+)\"").Groups[1].Value);
        }

        public async ValueTask DisposeAsync()
        {
            Http.Dispose();
            await _server.DisposeAsync();
        }
    }
}
