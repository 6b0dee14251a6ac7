using System.Globalization;
using System.IO.Compression;
using EvenThimble.Core.Craft;
using EvenThimble.Core.Digitizing.Lines;
using EvenThimble.Core.Jobs;
using EvenThimble.Web.Workroom;
using Microsoft.Extensions.DependencyInjection;

namespace EvenThimble.Browser.Tests;

/// <summary>From a vector drawing to stitches on a towel, and on to another computer.</summary>
[Collection(BrowserCollection.Name)]
public class ShapesStoryTests(SharedBrowser shared)
{
    private readonly Browser _browser = shared.Browser;

    private static string Telescope { get; } = Path.Combine(Repository(), "src", "EvenThimble.Web", "wwwroot", "drawings", "telescope-sketch.svg");

    [Fact]
    public async Task From_a_vector_drawing_to_stitches_on_a_towel_and_on_to_another_computer()
    {
        await using var server = await AppServer.StartAsync(demo: false);
        var bench = new BenchPage(_browser);
        _browser.Complaints();
        var desk = server.Services.GetRequiredService<JobDesk>();

        // A new job, and in it the telescope at 90 mm: the tube becomes fill, the legs satin.
        _browser.Go(server.Address);
        _browser.Click("#new-job");
        _browser.WaitForText("#task-card h2", "Add");
        _browser.Find("#drawing-file").SendKeys(Telescope);
        _browser.WaitForText("#task-card", "does not say how large it is");
        _browser.Type("#drawing-width", "90");
        Choose("tube", "fill");
        foreach (var leg in new[] { "left leg", "right leg", "middle leg" }) Choose(leg, "satin");
        Choose("beam", "left out");
        _browser.Click("#bring");
        bench.WaitForVersion(2);
        _browser.WaitForStitches();
        bench.Order.ShouldBe(["tube", "lens hood", "eyepiece", "band", "left leg", "right leg", "middle leg", "mount"]);
        var tube = desk.Find(1)!.Job.Order[0];
        tube.Drawn!.Settings.Way.ShouldBe(StitchWay.Fill);
        desk.Find(1)!.Job.Order.Where(p => p.Name.EndsWith("leg", StringComparison.Ordinal)).ShouldAllBe(p => p.Drawn!.Settings.Way == StitchWay.Satin);

        // The rows of the tube are turned by their handle; while it is held, the cloth shows them so.
        _browser.Click("#line-parts li:nth-child(1)");
        _browser.Keyboard("3");
        _browser.WaitForText("#task-card h2", "Stitch");
        _browser.WaitFor(() => (bool)_browser.Driver.ExecuteAsyncScript("const done = arguments[0]; import('/pages/Bench/Screen/bench.js').then(m => done(m.tools.stack.find(t => t.name === 'rows').handle() !== null));")!, "the handle of the rows");
        var (hx, hy) = Handle();
        _browser.Hand().MoveToElement(_browser.Find("#cloth"), hx, hy).ClickAndHold().MoveByOffset(-40, 40).MoveByOffset(-25, 10).Perform();
        _browser.WaitForText("#trial", "Not kept yet");
        bench.Version.ShouldBe("2");
        _browser.Hand().Release().Perform();
        bench.WaitForVersion(3);
        var turned = desk.Find(1)!.Job.Order[0].Drawn!.Settings.Angle;
        turned.ShouldNotBeNull();
        Math.Abs(turned.Value - StitchSettings.UsualAngle).ShouldBeGreaterThan(20);

        // A star goes around it, a row of motifs along its line.
        _browser.Keyboard("\uE00C");
        bench.WaitForSelected();
        _browser.Keyboard("1");
        _browser.WaitForText("#task-card h2", "Add");
        _browser.Run("document.querySelector('#shape-form [value=star]').click()");
        _browser.Type("#shape-width", "118");
        _browser.Type("#shape-height", "118");
        _browser.Type("[name=depth]", "80");
        _browser.Type("[name=corners]", "8");
        _browser.Click("#add-shape");
        bench.WaitForVersion(4);
        _browser.WaitForStitches();
        _browser.Click("#line-parts li:nth-child(9)");
        _browser.Keyboard("3");
        _browser.WaitForText("#task-card h2", "Stitch");
        _browser.Click("[data-field=way][data-value='motif row']");
        bench.WaitForVersion(5);
        _browser.Click("[data-field=motif][data-value=star]");
        bench.WaitForVersion(6);
        desk.Find(1)!.Job.Order[8].Drawn!.Settings.ShouldBe(new StitchSettings(StitchWay.MotifRow) { Motif = "star" });

        // The cloth is changed to terry towel after a look at both: spacing and underlay follow.
        var onCotton = desk.Find(1)!.Plan.StitchCount;
        _browser.Click("#cloth-chip");
        _browser.WaitForText("#task-card h2", "Cloth");
        _browser.Select("#cloth-kind", "terry towel");
        _browser.WaitFor(() => _browser.Text("#cloth-after-count") is { Length: > 0 } shown && shown != onCotton.ToString("N0", CultureInfo.InvariantCulture), "the count on the other cloth");
        bench.Version.ShouldBe("6");
        var promised = _browser.Text("#cloth-after-count");
        _browser.Click("#lay-on");
        bench.WaitForVersion(7);
        _browser.WaitForStitches();
        var towel = desk.Find(1)!;
        towel.Plan.StitchCount.ToString("N0", CultureInfo.InvariantCulture).ShouldBe(promised);
        towel.Plan.StitchCount.ShouldBeGreaterThan(onCotton * 11 / 10);
        _browser.WaitForText("#task-card", "0.36 mm");
        _browser.WaitForText("#task-card", "double zigzag");
        _browser.WaitForText(".cloth-advice", "water-soluble film");

        // It is rehearsed and made ready for Heron 200; the advice for towels stands there too.
        _browser.Keyboard(" ");
        _browser.WaitFor(() => bench.Needle > 100 && bench.Needle < bench.Records, "the rehearsal to go on");
        _browser.Keyboard(" ");
        _browser.Click("#readiness-chip");
        _browser.WaitForText("#task-card h2", "Check");
        if (_browser.All("[data-remedy]").Count > 0) _browser.Click("[data-remedy]");
        _browser.Click("#make-ready");
        _browser.WaitForText(".cloth-advice", "water-soluble film");
        _browser.Find("[data-machine=heron-200] [name=machines]").Selected.ShouldBeTrue();
        _browser.Click("#hand-over .btn-primary");
        _browser.WaitForText("#arrivals", "Heron 200 lists it");

        // Saved as a job file and opened on an empty data folder: the same stitches to the last one.
        using var http = new HttpClient();
        var saved = await http.GetByteArrayAsync($"{server.Address}/jobs/1/case");
        using (var zip = new ZipArchive(new MemoryStream(saved))) zip.Entries.Select(e => e.FullName).ShouldContain("job.json");
        await using var other = await AppServer.StartAsync(demo: false);
        _browser.Go(other.Address);
        _browser.Drop(("telescope.evjob", saved));
        _browser.WaitForText("#imports", "among the jobs in hand");
        _browser.Click(".cards.jobs h3 a");
        _browser.WaitForStitches();
        var (here, there) = (desk.Find(1)!, other.Services.GetRequiredService<JobDesk>().Find(1)!);
        there.Job.ShouldBe(here.Job);
        there.Plan.Records.Hash.ShouldBe(here.Plan.Records.Hash);
        _browser.Complaints().ShouldBeEmpty();
    }

    private void Choose(string shape, string becomes)
    {
        var id = (string)_browser.Run("return [...document.querySelectorAll('.becomes label')].find(l => l.querySelector('bdi').textContent === arguments[0]).htmlFor", shape);
        _browser.Select($"#{id}", becomes);
    }

    /// <summary>The handle of the rows, in pixels from the middle of the cloth.</summary>
    private (int X, int Y) Handle()
    {
        var at = (IReadOnlyCollection<object>)_browser.Driver.ExecuteAsyncScript(
            "const done = arguments[0]; import('/pages/Bench/Screen/bench.js').then(m => { const p = m.tools.stack.find(t => t.name === 'rows').handle(), v = m.cloth.view; done([Math.round(p[0] - v.width / 2), Math.round(p[1] - v.height / 2)]); });")!;
        var p = at.Select(Convert.ToInt32).ToList();
        return (p[0], p[1]);
    }

    private static string Repository()
    {
        var folder = AppContext.BaseDirectory;
        while (!File.Exists(Path.Combine(folder, "EvenThimble.slnx"))) folder = Path.GetDirectoryName(folder)!;
        return folder;
    }
}
