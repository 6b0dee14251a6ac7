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
        bench.ChooseFont("Dancing Script");
        _browser.Unfold("[data-fold=letters-stand]");
        _browser.Select("#letters-bend", "arch");
        _browser.Type("#letters-width", "140");
        _browser.Select("#letters-way", "satin");
        _browser.Click("#write");
        bench.WaitForVersion(2);
        _browser.WaitForStitches();
        desk.Find(1)!.Plan.Bounds.Width.ShouldBe(140 + (2 * ClothProfiles.Cotton.CompensationMm), 1);
        string.Concat(bench.Order).ShouldBe("CometovertheDome");

        // The ring below it bends it more.
        var box = desk.Find(1)!.Plan.Bounds;
        var (x, y) = bench.OnCloth(box.Middle.X, box.MaxY);
        bench.Selected.Count.ShouldBe(bench.Order.Count);
        _browser.Hand().MoveToElement(_browser.Find("#cloth"), x, y + 30).ClickAndHold().MoveByOffset(0, -10).MoveByOffset(0, -12).Release().Perform();
        bench.WaitForVersion(3);
        ((LetteringContent)desk.Find(1)!.Job.Pieces[0].Content).Wish.Bend!.Amount.ShouldBeGreaterThan(0.55);
        _browser.WaitForStitches();

        // One letter is turned by hand, and put back.
        _browser.Click("#line-parts li:nth-child(2)");
        _browser.WaitFor(() => bench.Selected.Count == 1, "one letter is selected");
        _browser.Click("[data-task=arrange]");
        _browser.WaitForText("#task-card h2", "Arrange");
        bench.WaitForVersion(3);
        _browser.Find("#cloth").SendKeys(Keys.Right);
        bench.WaitForVersion(4);
        _browser.Click("[data-task=letters]");
        _browser.Click("#put-back");
        bench.WaitForVersion(5);
        _browser.WaitFor(() => _browser.All("#put-back").Count == 0, "the card of letters as the text has them");
        var order = desk.Find(1)!.Job;
        order.Order[1].Placement.ShouldBe(order.Pieces[0].PlaceOf(order.Order[1].Made));

        // Of letters that touch one is set by hand, again and again from where the keyboard is.
        var (touching, version) = (order.Order.ToList().FindIndex(p => p.Name.Length > 2), 5);
        _browser.Click($"#line-parts li:nth-child({touching + 1})");
        _browser.Find("#nudge-form [name=letter][value='0']");
        _browser.Click("#nudge-form .touching label:nth-of-type(2)");
        foreach (var by in new[] { "up", "up", "clockwise" })
        {
            _browser.Find($"#nudge-{by}").SendKeys(Keys.Enter);
            bench.WaitForVersion(++version);
            _browser.WaitFor(() => (string)_browser.Run("return document.activeElement.id") == $"nudge-{by}" && _browser.All("#nudge-form .by-hand :checked").Count == 1, "the same letter and button");
        }

        ((LetteringContent)desk.Find(1)!.Job.Pieces[0].Content).Wish.Nudges.All.Select(n => n.Nudge).ShouldBe([new(0, -0.04, 2, 1)]);

        // A character that the font lacks is named, and nothing is changed.
        _browser.Find("#letters-text").SendKeys(" \u5b57");
        _browser.WaitForText("#trial", "Dancing Script has no");
        _browser.Click("#write");
        _browser.WaitForText("#said", "Dancing Script has no \u5b57");
        bench.Version.ShouldBe("8");

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

        // A font of one's own is brought in on the Letters screen; what is none gets a sentence.
        _browser.Go($"{server.Address}/letters");
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
        bench.ChooseFont("Archivo Bold");
        _browser.Unfold("#letters-fonts");
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
        double Of(int part) => desk.Find(1)!.Plan.BoundsOf(new HashSet<PartId> { desk.Find(1)!.Job.Order[part].Id }).MinX;
        var (before, after) = (Of(1) - Of(0), Of(2) - Of(1));
        _browser.Find("#cloth").SendKeys(Keys.Shift + Keys.Right);
        bench.WaitForVersion(3);
        _browser.WaitForText("#gap-form", "pulled by hand");
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
        _browser.Click("[data-pair=To] [value='1']");
        _browser.WaitFor(() => fonts.Find("Archivo Bold") is not null && _browser.All("[data-pair=To].by-hand").Count == 1, "the gap was set");
        _browser.Click("[data-pair=To] .reset");
        _browser.WaitFor(() => _browser.All("[data-pair=To].by-hand").Count == 0, "the gap is the font's again");

        // On a towel, as wide as a hand towel's border: where strokes are wider than 10 mm there are rows.
        bench.Open(server.Address);
        _browser.Click("#cloth-chip");
        _browser.Select("#cloth-kind", "terry towel");
        _browser.Click("#lay-on");
        bench.WaitForVersion(6);
        _browser.Click("[data-task=letters]");
        _browser.Click("#line-parts li:nth-child(1)");
        _browser.WaitForText("#write", "anew");
        bench.ChooseFont("Bowlby One");
        _browser.Type("#letters-width", "150");
        _browser.Click("#write");
        bench.WaitForVersion(7);
        _browser.WaitForStitches();
        var towel = desk.Find(1)!.Plan;
        towel.Parts.Take(6).ShouldContain(p => ReadStitches.Of(towel.Records.Cut(p.First, p.Count)).Passages.Any(r => r.Kind == PassageKind.Fill && !r.IsUnder));

        // Rehearsed, and handed to the machine whose field holds it.
        _browser.Keyboard(Keys.Escape);
        _browser.Find("#cloth").SendKeys(" ");
        _browser.WaitFor(() => bench.Needle > 100 && bench.Needle < bench.Records, "the rehearsal to go on");
        _browser.Find("#cloth").SendKeys(" ");
        _browser.Click("[data-task=hoop]");
        _browser.WaitForText("#task-card h2", "Hoop");
        _browser.Run("const m = document.getElementById('machine'); m.value = 'heron-200'; m.dispatchEvent(new Event('change', { bubbles: true }))");
        bench.WaitForVersion(8);
        _browser.Click("#make-ready");
        _browser.WaitForText(".spelling", "AVATAR");
        _browser.All("[name=anyway]").ToList().ForEach(tick => tick.Click());
        _browser.Click("#hand-over .btn-primary");
        _browser.WaitForText("#arrivals", "Heron 200 lists it");

        // It travels with the font that is not everywhere.
        var packed = server.Services.GetRequiredService<JobCase>().Pack(desk.Find(1)!);
        await using var elsewhere = await AppServer.StartAsync(demo: false);
        var (job, _) = elsewhere.Services.GetRequiredService<JobCase>().Unpack(packed);
        elsewhere.Services.GetRequiredService<JobDesk>().Find(job)!.PlanTag.ShouldBe(desk.Find(1)!.PlanTag);
        elsewhere.Services.GetRequiredService<LetterFonts>().Find("Archivo Bold").ShouldNotBeNull();
        _browser.Complaints().ShouldAllBe(c => c.Contains("/try/write"));
    }

    [Fact]
    public async Task Small_words_go_around_the_patch_and_along_a_line_that_was_clicked()
    {
        await using var server = await AppServer.StartAsync(demo: true);
        var bench = new BenchPage(_browser);
        var desk = server.Services.GetRequiredService<JobDesk>();
        _browser.Complaints();

        // Around the Open night patch, in the font for small text, on a ring of an exact diameter.
        _browser.Go(server.Address);
        _browser.Click("#new-job");
        _browser.WaitForText("#task-card h2", "Add");
        _browser.Run("[...document.querySelectorAll('#shelf-pick label')].find(l => l.title.startsWith('Open night patch')).querySelector('input').click()");
        _browser.WaitForText("#bringing", "Bring it in");
        _browser.Click("#bring-designs");
        bench.WaitForVersion(2);
        _browser.WaitForStitches();
        _browser.Click("[data-task=letters]");
        _browser.WaitForText("#task-card h2", "Letters");
        _browser.Find("#letters-text").SendKeys("LARKMOOR OBSERVATORY" + Keys.Enter + "OPEN NIGHT");
        bench.ChooseFont("Lark Small");
        bench.ChooseCourse("a ring");
        _browser.Type("#letters-height", "4");
        _browser.Type("#letters-ring", "62");
        _browser.Click("#write");
        bench.WaitForVersion(3);
        _browser.WaitForStitches();
        var job = desk.Find(3)!;
        var words = (LetteringContent)job.Job.Pieces[^1].Content;
        words.Wish.Course.ShouldBe(new LetterCourse.OnRing(62));
        job.Plan.BoundsOf(job.Job.Order.Where(p => p.Piece == job.Job.Pieces[^1].Id).Select(p => p.Id).ToHashSet()).Height.ShouldBe(62, 1.5);

        // Too small for its font, it is said in Check, with a button that mends it.
        bench.ChooseFont("PT Sans Caption");
        _browser.Click("#write");
        bench.WaitForVersion(4);
        _browser.Keyboard(Keys.Escape);
        _browser.Click("[data-task=check]");
        _browser.WaitForText("#task-card", "are small for PT Sans Caption");
        _browser.Run("[...document.querySelectorAll('#task-card button')].find(b => b.textContent.includes('Write it in Lark Small')).click()");
        bench.WaitForVersion(5);
        ((LetteringContent)desk.Find(3)!.Job.Pieces[^1].Content).Font.ShouldBe("Lark Small");

        // On the sampler: a click on a line chooses it for letters to follow.
        bench.Open(server.Address, 2);
        var line = desk.Find(2)!.Job.Order.First(p => p.Drawn is { Shape.IsClosed: false });
        _browser.Click("[data-task=letters]");
        _browser.WaitForText("#task-card h2", "Letters");
        _browser.Find("#letters-text").SendKeys("on");
        _browser.Type("#letters-height", "5");
        bench.ChooseCourse("a guide path");
        var at = line.Placement.Place(line.Drawn!.Shape.Paths[0].Flattened()[0]);
        bench.ClickCloth(at.X, at.Y);
        _browser.WaitFor(() => (string)_browser.Run("return document.getElementById('letters-guide').value") == line.Id.Value.ToString(System.Globalization.CultureInfo.InvariantCulture), "the line is chosen");
        _browser.WaitForText("#trial", "Not kept yet");
        _browser.Click("#write");
        _browser.WaitFor(() => desk.Find(2)!.Job.Pieces[^1].Content is LetteringContent { Wish.Course: LetterCourse.OnPath }, "the words follow it");

        // A guide may be drawn for the letters alone; with one point it is none.
        _browser.WaitForText("#write", "anew");
        _browser.Keyboard(Keys.Escape);
        bench.ClickCloth(0, 55);
        _browser.WaitFor(() => _browser.Text("#write") == "Write it", "the card of a new text");
        bench.ChooseCourse("a guide path");
        _browser.Click("[data-tool=guide]");
        _browser.WaitForText("#draw-hint", "run along");
        bench.ClickCloth(-40, 50);
        _browser.Keyboard(Keys.Enter);
        _browser.WaitFor(() => _browser.Text("#draw-hint").Length == 0, "the tool is laid aside");
        _browser.Click("[data-tool=guide]");
        foreach (var (x, y) in new[] { (-40, 50), (0, 58), (40, 50) }) bench.ClickCloth(x, y);
        _browser.Keyboard(Keys.Enter);
        _browser.WaitFor(() => (string)_browser.Run("return document.activeElement.id") == "letters-text", "the text has the keyboard");
        _browser.Keyboard("along the way");
        _browser.WaitForText("#trial", "Not kept yet");
        _browser.Click("#write");
        _browser.WaitFor(() => desk.Find(2)!.Job.Pieces[^1].Content is LetteringContent { Wish: { Text: "along the way", Course: LetterCourse.OnPath } }, "the words follow the drawn line");
        var drawn = (LetterCourse.OnPath)((LetteringContent)desk.Find(2)!.Job.Pieces[^1].Content).Wish.Course;
        foreach (var (x, y) in new[] { (-40, 50), (0, 58), (40, 50) }) drawn.Path.Min(p => desk.Find(2)!.Job.Pieces[^1].Placement.Place(p).DistanceTo(new(x, y))).ShouldBeLessThan(0.6);
        _browser.Complaints().ShouldAllBe(c => c.Contains("/try/write"));
    }
}
