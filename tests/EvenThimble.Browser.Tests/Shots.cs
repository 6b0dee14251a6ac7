using System.Globalization;
using EvenThimble.Storage;
using EvenThimble.Web.Workroom;
using Microsoft.Extensions.DependencyInjection;

namespace EvenThimble.Browser.Tests;

/// <summary>Takes the pictures of the main views from the demo data. Run by <c>./even-thimble shots</c>, not with the tests.</summary>
[Trait("Category", "shots")]
public sealed class Shots
{
    private static readonly string Folder = Environment.GetEnvironmentVariable("THIMBLE_SHOTS") ?? Path.GetTempPath();

    [Fact]
    public async Task Pictures_of_the_main_views()
    {
        Directory.CreateDirectory(Folder);
        await using var server = await AppServer.StartAsync(demo: true);
        using var browser = new Browser();
        void Shoot(string name)
        {
            Thread.Sleep(500);
            browser.Shoot(Path.Combine(Folder, $"{name}.png"));
        }

        browser.Go(server.Address);
        Shoot("shelf");
        browser.Go($"{server.Address}/jobs/1");
        browser.WaitForStitches();
        browser.Click("[data-task=threads]");
        browser.WaitForText("#thread-list", "Fenlight");
        browser.Click("#sew-from-rack");
        browser.WaitFor(() => browser.All("#side-by-side img").Count == 2 && (bool)browser.Run("return [...document.querySelectorAll('#side-by-side img')].every(i => i.complete && i.naturalWidth > 0)"), "both pictures");
        Shoot("bench-from-rack");
        browser.Click("#from-rack [data-card-again]");
        browser.WaitFor(() => browser.All("#side-by-side").Count == 0, "the cloth again");
        for (var i = 0; i < 2; i++) browser.Click("[data-go=next-change]");
        for (var i = 0; i < 3; i++) browser.Click("[data-go=next-jump]");
        Shoot("bench-rehearsal");
        browser.Go($"{server.Address}/jobs/1/ready");
        browser.Click("[data-machine=wren-130] [name=machines]");
        Shoot("make-ready");
        browser.Click("[name=anyway]");
        browser.Click("#hand-over .btn-primary");
        browser.Find("#arrivals");
        browser.Go($"{server.Address}/machine-room");
        Shoot("machine-room");
        browser.Go($"{server.Address}/equipment?cloth=towel");
        Shoot("equipment");
        browser.Go($"{server.Address}/rack");
        Shoot("rack");
        browser.Go($"{server.Address}/jobs/2?task=stitch");
        browser.WaitForStitches();
        browser.Click("#line-parts li:nth-child(12)");
        browser.Find("#set-spacing");
        Shoot("bench-stitch");
        browser.Click("#cloth-chip");
        browser.Select("#cloth-kind", "terry towel");
        browser.WaitFor(() => browser.Text("#cloth-after-count").Length > 0, "the count on the other cloth");
        Shoot("bench-cloth");
        browser.Go($"{server.Address}/jobs/1");
        browser.WaitForStitches();
        browser.Click("#line-parts li:nth-child(3)");
        browser.WaitForText(".card-of-what", "Noon straw");
        browser.Type("#size-percent", "70");
        browser.Keyboard("\uE007");
        browser.WaitForText("#said", "70 %");
        browser.WaitForStitches();
        browser.Click("[data-task=add]");
        browser.WaitForText("#task-card h2", "Add");
        browser.Run("[...document.querySelectorAll('#shelf-pick label')].find(l => l.title.startsWith('Meteor shower')).querySelector('input').click()");
        browser.WaitForText("#bringing", "Bring it in");
        browser.Click("#bring-designs");
        browser.WaitFor(() => browser.All("#line-parts li").Count == 8, "the meteors");
        browser.Click("[data-task=stitch]");
        browser.WaitForText("#task-card", "Covered stitches");
        browser.Click("[data-show-gone]");
        browser.WaitForText("#gone-says", "covered");
        browser.WaitForStitches();
        browser.Run("document.getElementById('gone-says').scrollIntoView()");
        browser.WaitFor(() => !browser.Find("#working").Displayed, "the work to be done");
        browser.Click("[data-show-gone]");
        for (var i = 0; i < 2; i++)
        {
            browser.Click("#undo");
            browser.WaitForText("#said", "Undid");
            browser.WaitForStitches();
        }

        browser.Go(server.Address);
        browser.Click("#new-job");
        browser.WaitForText("#task-card h2", "Add");
        browser.Run("[...document.querySelectorAll('#shelf-pick label')].find(l => l.title.startsWith('Open night patch')).querySelector('input').click()");
        browser.WaitForText("#bringing", "Bring it in");
        browser.Click("#bring-designs");
        browser.WaitForStitches();
        browser.Click("[data-task=letters]");
        browser.WaitForText("#task-card h2", "Letters");
        browser.Find("#letters-text").SendKeys("LARKMOOR OBSERVATORY\nOPEN NIGHT");
        new BenchPage(browser).ChooseFont("Lark Small");
        new BenchPage(browser).ChooseCourse("a ring");
        browser.Type("#letters-height", "4");
        browser.Type("#letters-ring", "62");
        browser.Click("#write");
        browser.WaitForText("#write", "anew");
        browser.WaitForStitches();
        browser.Click("[data-zoom=selection]");
        browser.Click("[data-zoom=out]");
        browser.WaitFor(() => !browser.Find("#said").Displayed || browser.Text("#said").Length == 0 || browser.Find("#said").GetCssValue("opacity") == "0", "what was said to fade");
        Shoot("bench-letters");

        browser.Go($"{server.Address}/letters?words=Larkmoor");
        browser.WaitFor(() => (bool)browser.Run("return [...document.images].filter(i => i.getBoundingClientRect().top < innerHeight).every(i => i.complete && i.naturalWidth > 0)"), "the fonts to be drawn");
        Shoot("letters");
        browser.Go($"{server.Address}/letters/sets/1?words=HALDEN");
        browser.WaitFor(() => (bool)browser.Run("return [...document.images].every(i => i.complete && i.naturalWidth > 0)"), "the word to be drawn");
        Thread.Sleep(600);
        Shoot("letter-set");

        // A cushion: a monogram in a ring with a laurel, and the card of a border around it.
        browser.Go(server.Address);
        browser.Click("#new-job");
        browser.WaitForText("#task-card h2", "Add");
        browser.Click("[data-task=letters]");
        browser.WaitForText("#task-card h2", "Letters");
        browser.Click("#task-card [data-task=monogram]");
        browser.WaitForText("#task-card h2", "Monogram");
        browser.Type("#monogram-letters", "Marguerite-Anne Fothergill");
        browser.Click("#monogram-frames label:has([value=laurel-ring])");
        browser.Type("#monogram-size", "80");
        browser.Click("#make-monogram");
        browser.WaitForText("#make-monogram", "anew");
        browser.WaitForStitches();
        browser.Click(".rail [data-task=arrange]");
        browser.WaitForText("#task-card h2", "Arrange");
        browser.Click("#task-card [data-task=border]");
        browser.WaitForText("#task-card h2", "Border");
        browser.Click("#border-frames label:has([value=pearls])");
        browser.Click("#put-border");
        browser.WaitForText("#put-border", "anew");
        browser.WaitForStitches();
        browser.Click("#line-parts li:nth-child(2)");
        browser.Click("[data-task=letters]");
        browser.WaitForText("#task-card h2", "Letters");
        browser.Click("#task-card [data-task=monogram]");
        browser.WaitForText("#make-monogram", "anew");
        browser.WaitFor(() => (bool)browser.Run("return [...document.querySelectorAll('#monogram-layouts img')].every(i => i.complete && i.naturalWidth > 0)"), "the layouts to be drawn");
        browser.WaitFor(() => !browser.Find("#said").Displayed || browser.Text("#said").Length == 0 || browser.Find("#said").GetCssValue("opacity") == "0", "what was said to fade");
        Shoot("bench-monogram");

        // The banner in two positions of the long hoop, and its sheet.
        browser.Go(server.Address);
        browser.Run("[...document.querySelectorAll('[data-design]')].find(d => d.textContent.includes('Constellation banner')).querySelector('.card-picture').click()");
        browser.WaitForStitches();
        browser.Click("#readiness-chip");
        browser.Click("[data-remedy=\"divide-130x300-long\"]");
        browser.WaitForText("#job-bar", "2 hoopings");
        browser.Keyboard("6");
        browser.Click("#crosses");
        browser.WaitForText("#hoopings", "(2)");
        browser.WaitFor(() => (bool)browser.Run("return [...document.querySelectorAll('.hoop img')].every(i => i.complete && i.naturalWidth > 0)"), "the job in each hoop");
        browser.WaitFor(() => !browser.Find("#said").Displayed || browser.Text("#said").Length == 0 || browser.Find("#said").GetCssValue("opacity") == "0", "what was said to fade");
        Shoot("bench-hoopings");
        browser.Click("#to-sheet");
        browser.WaitForText(".sewing-sheet", "position 3");
        browser.Find("#tick-1").Click();
        browser.Find("#tick-2").Click();
        Shoot("sheet");

        browser.Go($"{server.Address}/rosters/1");
        browser.WaitForText("#roster-checks", "12 people");
        Shoot("roster");
        browser.Go(server.Address);
        var crest = server.Services.GetRequiredService<DesignStore>().All().First(d => d.Title == "Dome crest").Id;
        browser.Click($"[data-design=\"{crest.ToString(CultureInfo.InvariantCulture)}\"] .card-picture");
        browser.WaitForStitches();
        browser.Click("[data-task=names]");
        browser.Select("#names-roster", "Volunteers (12)");
        browser.WaitForText("#roster-form", "Volunteers");
        browser.WaitForText("#said", "Took 12 names");
        browser.Select("#slot-font", "Archivo");
        browser.Click("#place-slot");
        browser.WaitForText("#slot-shows", "Fothergill");
        browser.Click("#to-names");
        browser.WaitFor(() => (bool)browser.Run("return document.querySelectorAll('#name-roll img').length === 12 && [...document.querySelectorAll('#name-roll img')].every(i => i.complete && i.naturalWidth > 0)"), "the names as thread");
        Shoot("names");

        // The moon with its window, cut six times.
        browser.Go(server.Address);
        var moon = server.Services.GetRequiredService<DesignStore>().All().First(d => d.Title.StartsWith("Crescent")).Id;
        browser.Click($"[data-design=\"{moon.ToString(CultureInfo.InvariantCulture)}\"] .card-picture");
        browser.WaitForStitches();
        browser.Keyboard("7");
        foreach (var part in new[] { 2, 4 })
        {
            browser.Click($"#cut-parts input[data-part='{part}']");
            browser.WaitFor(() => browser.All("#cut-line-list li").Count == part / 2, "the cut line");
        }

        browser.WaitFor(() => !browser.Find("#said").Displayed || browser.Text("#said").Length == 0 || browser.Find("#said").GetCssValue("opacity") == "0", "what was said to fade");
        Shoot("bench-cut");
        browser.Click("#to-mat");
        browser.Type("#cut-copies", "6\uE007");
        browser.WaitFor(() => browser.All(".cut-piece").Count == 6, "six moons");
        Shoot("cut");
    }
}
