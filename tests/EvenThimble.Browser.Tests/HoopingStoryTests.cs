using System.Globalization;
using System.Text;
using EvenThimble.Core.Jobs;
using EvenThimble.Equipment;
using EvenThimble.Storage;
using EvenThimble.Web.Workroom;
using Microsoft.Extensions.DependencyInjection;
using OpenQA.Selenium;

namespace EvenThimble.Browser.Tests;

/// <summary>A banner longer than any field is sewn in two hoopings of the long hoop.</summary>
[Collection(BrowserCollection.Name)]
public class HoopingStoryTests(SharedBrowser shared)
{
    private readonly Browser _browser = shared.Browser;

    [Fact]
    public async Task The_banner_is_sewn_in_two_positions_aligned_by_crosses_with_template_sheet_and_a_set_of_files()
    {
        await using var server = await AppServer.StartAsync(demo: true);
        var (desk, bench) = (server.Services.GetRequiredService<JobDesk>(), new BenchPage(_browser));
        var banner = server.Services.GetRequiredService<DesignStore>().All().First(d => d.Title == "Constellation banner").Id;
        bench.Open(server.Address);
        _browser.Complaints();
        _browser.Go(server.Address);
        _browser.Click($"[data-design=\"{banner.ToString(CultureInfo.InvariantCulture)}\"] .card-picture");
        _browser.WaitForStitches();
        var id = desk.Find(3)!.Stored.Id;

        // Readiness offers the long hoop.
        _browser.Click("#readiness-chip");
        _browser.WaitForText("[data-finding=outside]", "118 × 285 mm");
        _browser.Click("[data-remedy=\"divide-130x300-long\"]");
        bench.WaitForVersion(2);
        _browser.WaitForText("#job-bar", "2 hoopings");
        _browser.Keyboard("6");
        _browser.WaitForText("#hoopings", "Position 1");
        _browser.All("#hoopings [data-hooping]").Count.ShouldBe(2);
        _browser.WaitFor(() => (bool)_browser.Run("return [...document.querySelectorAll('.hoop img')].every(i => i.complete && i.naturalWidth > 0)"), "the job in each hoop");
        var before = desk.Find(id)!.Hooped.HoopingOfRecords();

        // The seam goes to between two stars by the hand.
        bench.DragCloth(-45, 0, -45, -9);
        bench.WaitForVersion(3);
        desk.Find(id)!.Job.Split.Seams.ShouldHaveSingleItem().Line.ShouldAllBe(p => Math.Abs(p.Y + 9) < 1);
        desk.Find(id)!.Hooped.Strays.ShouldBeEmpty();
        desk.Find(id)!.Hooped.HoopingOfRecords().ShouldNotBe(before);
        _browser.WaitForText("#hoopings", "Seam 1/2 where found");

        // Crosses, and where the second landed.
        _browser.Click("#crosses");
        bench.WaitForVersion(4);
        _browser.WaitForText("#hoopings", "Crosses to align by (2)");
        _browser.Look("hoopings");
        _browser.Unfold("[data-fold=\"landed-2\"]");
        _browser.Type(".landed [name=right]", "0.6");
        _browser.Type(".landed [name=turned]", "1");
        _browser.Click(".landed button");
        bench.WaitForVersion(5);
        desk.Find(id)!.Job.Hoopings[1].Measured.ShouldBe(new MeasuredOffset(0.6, 0, 1));
        _browser.WaitForText("#hoopings", "turned 1°");

        // What cannot be is said, and what was typed stays.
        _browser.Unfold("[data-fold=\"landed-2\"]");
        _browser.Type(".landed [name=right]", "far");
        _browser.Click(".landed button");
        _browser.WaitForText("#said", "not a length");
        bench.Version.ShouldBe("5");

        // By the keyboard back and on again.
        _browser.Press(Keys.Control, "z");
        bench.WaitForVersion(6);
        desk.Find(id)!.Job.Hoopings[1].Measured.ShouldBe(MeasuredOffset.None);

        // The sheet shows both hoopings, is ticked off and remembers it; the template goes over two pages.
        _browser.Click("#to-sheet");
        _browser.WaitForText(".sewing-sheet", "Hooping 2 of 2, position 3");
        _browser.Find("#tick-1").Click();
        _browser.Find("#tick-2").Click();
        _browser.Text("#ticked").ShouldStartWith("2 of ");
        _browser.Driver.Navigate().Refresh();
        _browser.WaitForText("#ticked", "2 of ");
        _browser.Select("#paper", "Letter");
        _browser.Find("[data-template=whole]").GetAttribute("href")!.ShouldContain("paper=letter");
        _browser.Look("sheet");
        using (var http = new HttpClient())
            Encoding.ASCII.GetString(await http.GetByteArrayAsync(_browser.Find("[data-template=whole]").GetAttribute("href")))[..5].ShouldBe("%PDF-");

        // Handed over: two files, listed as a set and rehearsed in turn.
        bench.Open(server.Address, id);
        _browser.Click("#make-ready");
        _browser.WaitForText(".hooping-files", "2of2");
        _browser.Text("#chosen-count").ShouldStartWith("2 files");
        _browser.Click(".hand-over button");
        _browser.WaitForText("#arrivals", "1of2");
        server.Services.GetRequiredService<EquipmentRoom>().Machine("heron-200")!.List().Count(l => l.Listed).ShouldBe(2);
        _browser.Go($"{server.Address}/machine-room");
        _browser.WaitForText(".file-set", "a set of 2 hoopings");
        _browser.Click(".file-set a");
        _browser.WaitForText("#rehearse-says", "hoop at position 1 of 3");
        _browser.Select("#rehearse-speed", "200 ×");
        for (var waits = 0; waits < 30 && !_browser.Text("#rehearse-says").Contains("position 3 of 3", StringComparison.Ordinal); waits++)
        {
            if (_browser.Text("#go-on") is "Go on" or "Begin") _browser.Click("#go-on");
            Thread.Sleep(400);
        }

        _browser.WaitForText("#rehearse-says", "Hooping 2 of 2: hoop at position 3 of 3");
        _browser.Look("rehearse");
        _browser.Complaints().Where(c => !c.Contains("422", StringComparison.Ordinal)).ShouldBeEmpty();
    }
}
