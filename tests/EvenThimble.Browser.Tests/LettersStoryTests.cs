using EvenThimble.Core.Craft;
using EvenThimble.Core.Jobs;
using EvenThimble.Core.Lettering;
using EvenThimble.Core.Recognition;
using EvenThimble.Rendering.Fonts;
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
        bench.ChooseFont("PT Sans Caption");
        bench.ChooseCourse("a ring");
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
        bench.ChooseFont("Courgette");
        _browser.Unfold("[data-fold=letters-stand]");
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

    [Fact]
    public async Task A_text_is_typed_where_the_cloth_was_clicked_kerned_by_hand_and_travels_with_its_font()
    {
        await using var server = await AppServer.StartAsync(demo: false);
        var bench = new BenchPage(_browser);
        var (desk, fonts) = (server.Services.GetRequiredService<JobDesk>(), server.Services.GetRequiredService<LetterFonts>());
        void Look(string n) => _browser.Shoot($"/tmp/w/look-{n}.png");

        // A font of one's own is brought in on the Letters screen; what is none gets a sentence.
        _browser.Go($"{server.Address}/letters");
        Look("letters");
        _browser.Complaints();
        _browser.Drop(("story.ttf", File.ReadAllBytes(InstalledFonts.Find("Archivo")!.Path!)));
        _browser.WaitForText("[data-font='Archivo Bold'] b", "Archivo Bold");
        _browser.Drop(("song.ttf", "la la la"u8.ToArray()));
        _browser.WaitForText("#said", "no font that can be read");
        _browser.Complaints();

        _browser.Go(server.Address);
        _browser.Click("#new-job");
        _browser.WaitForText("#task-card h2", "Add");
        _browser.Click("[data-task=letters]");
        _browser.WaitForText("#task-card h2", "Letters");
        bench.ClickCloth(10, -30);
        _browser.WaitFor(() => (string)_browser.Run("return document.activeElement.id") == "letters-text", "the text has the keyboard");
        _browser.Keyboard("AVATAR");
        _browser.WaitForText("#trial", "Not kept yet");
        Look("typing");
        bench.ChooseFont("Archivo Bold");
        _browser.Unfold("#letters-fonts");
        Thread.Sleep(2500);
        Look("fonts");
        _browser.Click("#letters-fonts > summary");

        // A click outside ends it: it is written.
        bench.ClickCloth(-40, 60);
        bench.WaitForVersion(2);
        _browser.WaitForStitches();
        string.Concat(bench.Order).ShouldBe("AVATAR");
        var plan = desk.Find(1)!.Plan;
        plan.Bounds.Middle.X.ShouldBe(10, 1);
        plan.Bounds.Middle.Y.ShouldBe(-30, 1);

        // One letter is turned and pulled; the gap is set so, and what follows goes along.
        _browser.Click("#line-parts li:nth-child(2)");
        _browser.WaitForText("#gap-form", "between A and V");
        Look("gap");
        double Of(int part) => desk.Find(1)!.Plan.BoundsOf(new HashSet<PartId> { desk.Find(1)!.Job.Order[part].Id }).MinX;
        var (before, after) = (Of(1) - Of(0), Of(2) - Of(1));
        _browser.Find("#cloth").SendKeys(Keys.Shift + Keys.Right);
        bench.WaitForVersion(3);
        _browser.WaitForText("#gap-form", "pulled by hand");
        Look("pulled");
        _browser.Find("#keep-gap").Enabled.ShouldBeFalse();
        _browser.Click("#set-gap");
        bench.WaitForVersion(4);
        (Of(1) - Of(0)).ShouldBe(before + 5, 0.15);
        (Of(2) - Of(1)).ShouldBe(after, 0.15, "the letters after it go along");
        _browser.Click("#keep-gap");
        _browser.WaitForText("#said", "Kept: AV in Archivo Bold");
        bench.Version.ShouldBe("4");

        // The pair typed elsewhere is set so; a text that was written before keeps its own.
        _browser.Keyboard(Keys.Escape);
        bench.ClickCloth(0, 40);
        _browser.WaitFor(() => (string)_browser.Run("return document.activeElement.id") == "letters-text", "the text has the keyboard");
        _browser.Keyboard("AV");
        _browser.WaitForText("#trial", "Not kept yet");
        _browser.Keyboard(Keys.Escape);
        bench.WaitForVersion(5);
        (Of(7) - Of(6)).ShouldBe(before + 5, 0.3);

        // The gaps of the font, all in thread: one more is set there.
        _browser.Go($"{server.Address}/letters?font=Archivo+Bold&left=T");
        _browser.Find("[data-pair=To]");
        Thread.Sleep(1500);
        Look("pairs");
        _browser.Click("[data-pair=To] [value='1']");
        _browser.WaitFor(() => fonts.Find("Archivo Bold") is not null && _browser.All("[data-pair=To].by-hand").Count == 1, "the gap was set");
        _browser.Click("[data-pair=To] .reset");
        _browser.WaitFor(() => _browser.All("[data-pair=To].by-hand").Count == 0, "the gap is the font's again");

        // On a towel, as wide as a hand towel's border: where satin is too long there are rows.
        bench.Open(server.Address);
        _browser.Click("#cloth-chip");
        _browser.Select("#cloth-kind", "terry towel");
        _browser.Click("#lay-on");
        bench.WaitForVersion(6);
        _browser.Click("[data-task=letters]");
        _browser.Click("#line-parts li:nth-child(1)");
        _browser.WaitForText("#write", "anew");
        bench.ChooseFont("Bowlby One");
        _browser.Type("#letters-width", "140");
        _browser.Click("#write");
        bench.WaitForVersion(7);
        _browser.WaitForStitches();
        Look("towel");
        var towel = desk.Find(1)!.Plan;
        towel.Parts.Take(6).ShouldContain(p => ReadStitches.Of(towel.Records.Cut(p.First, p.Count)).Passages.Any(r => r.Kind == PassageKind.Fill && !r.IsUnder));

        // It travels with the font that is not everywhere.
        var packed = server.Services.GetRequiredService<JobCase>().Pack(desk.Find(1)!);
        await using var elsewhere = await AppServer.StartAsync(demo: false);
        var (job, _) = elsewhere.Services.GetRequiredService<JobCase>().Unpack(packed);
        elsewhere.Services.GetRequiredService<JobDesk>().Find(job)!.PlanTag.ShouldBe(desk.Find(1)!.PlanTag);
        elsewhere.Services.GetRequiredService<LetterFonts>().Find("Archivo Bold").ShouldNotBeNull();
        _browser.Complaints().ShouldAllBe(c => c.Contains("/try/write"));
    }
}
