using EvenThimble.Core.Craft;
using EvenThimble.Core.Jobs;
using EvenThimble.Core.Lettering;
using EvenThimble.Web.Workroom;
using Microsoft.Extensions.DependencyInjection;
using OpenQA.Selenium;

namespace EvenThimble.Browser.Tests;

/// <summary>A text is written, put around a patch, and changed again.</summary>
[Collection(BrowserCollection.Name)]
public class LettersStoryTests(SharedBrowser shared)
{
    private readonly Browser _browser = shared.Browser;

    [Fact]
    public async Task A_ring_of_words_is_written_on_a_patch_and_changed_again()
    {
        await using var server = await AppServer.StartAsync(demo: false);
        var bench = new BenchPage(_browser);
        _browser.Complaints();
        var desk = server.Services.GetRequiredService<JobDesk>();
        _browser.Go(server.Address);
        _browser.Click("#new-job");
        _browser.WaitForText("#task-card h2", "Add");

        // The key leads to the text at once.
        _browser.Keyboard("4");
        _browser.WaitForText("#task-card h2", "Letters");
        _browser.WaitFor(() => (string)_browser.Run("return document.activeElement.id") == "letters-text", "the text has the keyboard");
        _browser.Keyboard("LARKMOOR OBSERVATORY" + Keys.Enter + "OPEN NIGHT");
        _browser.Select("#letters-font", "PT Sans Caption");
        _browser.Select("#letters-course", "a ring");
        _browser.Type("#letters-height", "6");
        _browser.Type("#letters-ring", "40");
        _browser.Click("#write");
        _browser.WaitForText("body", "too long for this ring");
        bench.Version.ShouldBe("1");
        _browser.Find("#letters-text").GetAttribute("value").ShouldBe("LARKMOOR OBSERVATORY\nOPEN NIGHT", "what was typed stays");
        _browser.Complaints();
        _browser.Type("#letters-ring", "70");
        _browser.Click("#write");
        bench.WaitForVersion(2);
        _browser.WaitForStitches();
        string.Concat(bench.Order).ShouldBe("LARKMOOROBSERVATORYOPENNIGHT");
        var job = desk.Find(1)!;
        job.Plan.Bounds.Width.ShouldBe(70, 1.2);
        job.Job.Order.ShouldAllBe(p => p.Role == Core.Stitches.PartRole.Lettering);

        // What came in is selected, and the card is that of the lettering.
        bench.Selected.Count.ShouldBe(bench.Order.Count);
        _browser.WaitForText("#write", "Write it anew");
        _browser.Find("#letters-text").GetAttribute("value").ShouldBe("LARKMOOR OBSERVATORY\nOPEN NIGHT");

        // One letter is hidden by hand; then the text below changes: it stays hidden.
        var first = job.Job.Order[0];
        _browser.Click("#line-parts li:nth-child(1)");
        _browser.WaitFor(() => bench.Selected.Count == 1, "one letter is selected");
        _browser.Keyboard("h");
        bench.WaitForVersion(3);
        _browser.Find("#letters-text").Clear();
        _browser.Find("#letters-text").SendKeys("LARKMOOR OBSERVATORY" + Keys.Enter + "OPEN DAY");
        _browser.Click("#write");
        bench.WaitForVersion(4);
        string.Concat(bench.Order).ShouldBe("LARKMOOROBSERVATORYOPENDAY");
        var changed = desk.Find(1)!.Job;
        changed.Order[0].Id.ShouldBe(first.Id);
        changed.Order[0].Hidden.ShouldBeTrue();
        changed.Pieces.Single().Content.ShouldBeOfType<LetteringContent>().Wish.Course.ShouldBe(new LetterCourse.OnRing(70));

        // Undone as anything else, and there after a new start of the page.
        _browser.Click("#undo");
        bench.WaitForVersion(5);
        string.Concat(bench.Order).ShouldBe("LARKMOOROBSERVATORYOPENNIGHT");
        _browser.Go($"{server.Address}/jobs/1");
        _browser.WaitForStitches();
        string.Concat(bench.Order).ShouldBe("LARKMOOROBSERVATORYOPENNIGHT");

        // Before it is sewn the words are read once more as text.
        _browser.Keyboard("8");
        _browser.WaitForText("#task-card .spelling", "LARKMOOR OBSERVATORY");
        _browser.Go($"{server.Address}/jobs/1/ready");
        _browser.WaitForText(".spelling", "OPEN NIGHT");

        // What is only tried while it is typed, a ring of 7 mm on the way to 70, may be refused.
        _browser.Complaints().ShouldAllBe(c => c.Contains("/try/write"));
    }

    [Fact]
    public async Task Two_lines_in_a_script_are_bent_to_an_arch_and_made_exactly_wide()
    {
        await using var server = await AppServer.StartAsync(demo: false);
        var bench = new BenchPage(_browser);
        var desk = server.Services.GetRequiredService<JobDesk>();
        _browser.Go(server.Address);
        _browser.Click("#new-job");
        _browser.WaitForText("#task-card h2", "Add");
        _browser.Click("[data-task=letters]");
        _browser.WaitForText("#task-card h2", "Letters");

        // The thread appears while it is typed; nothing is kept yet.
        _browser.Find("#letters-text").SendKeys("Comet over");
        _browser.WaitForText("#trial", "Not kept yet");
        bench.Version.ShouldBe("1");
        bench.Order.ShouldBeEmpty();
        _browser.Find("#letters-text").SendKeys(Keys.Enter + "the Dome");
        _browser.Select("#letters-font", "Courgette");
        _browser.Select("#letters-bend", "arch");
        _browser.Type("#letters-width", "140");
        _browser.Select("#letters-way", "satin");
        _browser.Click("#write");
        bench.WaitForVersion(2);
        _browser.WaitForStitches();
        desk.Find(1)!.Plan.Bounds.Width.ShouldBe(140 + (2 * ClothProfiles.Cotton.CompensationMm), 1);
        string.Concat(bench.Order).ShouldBe("CometovertheDome");

        // A character that the font lacks is named, and nothing is changed.
        _browser.Find("#letters-text").SendKeys(" \u5b57");
        _browser.WaitForText("#trial", "Courgette has no");
        _browser.Click("#write");
        _browser.WaitForText("#said", "Courgette has no \u5b57");
        bench.Version.ShouldBe("2");

        // Another task leaves what was only tried.
        _browser.Click("[data-task=arrange]");
        _browser.WaitForText("#task-card h2", "Arrange");
        _browser.WaitForStitches();
        string.Concat(bench.Order).ShouldBe("CometovertheDome");
    }
}
