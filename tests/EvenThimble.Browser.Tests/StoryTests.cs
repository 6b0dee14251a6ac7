using EvenThimble.Core.Files.Stitch;
using EvenThimble.Core.Stitches;
using EvenThimble.Core.Tests;
using EvenThimble.Core.Threads;
using EvenThimble.Scenario;

namespace EvenThimble.Browser.Tests;

/// <summary>The whole way, from an opened design to a file that the machine lists.</summary>
[Collection(BrowserCollection.Name)]
public class StoryTests(SharedBrowser shared)
{
    private readonly Browser _browser = shared.Browser;

    [Fact]
    public async Task From_an_opened_design_to_a_file_that_the_machine_lists()
    {
        await using var server = await AppServer.StartAsync(demo: false);
        var bench = new BenchPage(_browser);
        var comet = Comet();
        var file = StitchFormats.Write(StitchFileKind.Evth2, comet);
        var damaged = (byte[])file.Clone();
        damaged[^2000] ^= 0x10;

        // An empty shelf teaches the first step; two files are dropped, one of them damaged.
        _browser.Go(server.Address);
        _browser.WaitForText(".first-step", "first design");
        _browser.Drop(("comet.evth", file), ("broken.evth", damaged));
        _browser.WaitForText("#imports", "checksum");
        _browser.WaitForText(".card-of", "Comet over the dome");
        _browser.Text(".card-of .numbers").ShouldBe($"148 × 103.5 mm · {comet.StitchCount:N0} stitches");
        _browser.All("[data-design]").Count.ShouldBe(1);

        // It is opened as a job, played, and the needle hops to the third thread change.
        _browser.Click("[data-design] .card-picture");
        _browser.WaitForStitches();
        bench.Order.Count.ShouldBe(5);
        _browser.Keyboard(" ");
        _browser.WaitFor(() => bench.Needle > 200 && bench.Needle < bench.Records, "the rehearsal to go on");
        _browser.Keyboard(" ");
        _browser.Find("[data-go=play][aria-pressed=false]");
        _browser.Run("document.getElementById('needle').focus()");
        _browser.Keyboard("\uE011");
        for (var i = 0; i < 3; i++) _browser.Keyboard("]");
        bench.Needle.ShouldBe(comet.Parts[3].First);
        _browser.Text("#needle-says").ShouldContain("Part 3 of 5");
        _browser.Keyboard(".");
        _browser.Text("#needle-says").ShouldContain("Part 4 of 5");

        // The tail gets another thread and goes after the star; two steps are undone, one is redone.
        _browser.Click("#line-parts li:nth-child(3)");
        bench.WaitForSelected(3);
        _browser.Keyboard("5");
        _browser.WaitForText("#task-card h2", "Threads");
        _browser.Type("#find-thread", "#a63a3c");
        _browser.WaitForText("#thread-list", "close");
        _browser.Click("#thread-list li:first-child button");
        bench.WaitForVersion(2);
        var recoloured = bench.Column("colour")[2];
        recoloured.ShouldNotBe(comet.Parts[2].Thread.Colour.Hex);
        _browser.Run("document.getElementById('cloth').focus()");
        _browser.Keyboard("e");
        bench.WaitForVersion(3);
        bench.Column("part").ShouldBe(["1", "2", "4", "3", "5"]);
        _browser.WaitForText("#said", "later");
        _browser.Press(OpenQA.Selenium.Keys.Control, "z");
        bench.WaitForVersion(4);
        _browser.Press(OpenQA.Selenium.Keys.Control, "z");
        bench.WaitForVersion(5);
        bench.Column("colour")[2].ShouldBe(comet.Parts[2].Thread.Colour.Hex);
        _browser.Click("#redo");
        bench.WaitForVersion(6);
        bench.Column("colour")[2].ShouldBe(recoloured);

        // The server is stopped and started again: all is there, with its history.
        var job = new Uri(_browser.Driver.Url).AbsolutePath;
        await server.RestartAsync();
        _browser.Go(server.Address + job);
        _browser.WaitForStitches();
        bench.Column("colour")[2].ShouldBe(recoloured);
        bench.Column("part").ShouldBe(["1", "2", "3", "4", "5"]);
        _browser.Click("#history-button");
        _browser.WaitForText("#history", "Moved");
        _browser.All("#history li").Count.ShouldBe(3);
        _browser.All("#history li.undone").Count.ShouldBe(1);
        _browser.Keyboard("\uE00C");

        // The small field of the first machine is too small; turned and in the larger one it is ready.
        _browser.Click(".rail [data-task=hoop]");
        _browser.WaitForText("#task-card h2", "Hoop");
        _browser.Run("const m = document.getElementById('machine'); m.value = 'wren-130'; m.dispatchEvent(new Event('change', { bubbles: true }))");
        bench.WaitForVersion(7);
        _browser.WaitForText(".chips", "100 × 100, does not fit");
        _browser.WaitForText("#readiness-chip", "thing to look at");
        _browser.Click(".rail [data-task=arrange]");
        _browser.WaitForText("#task-card h2", "Arrange");
        _browser.Click("#task-card .row-of-buttons button:nth-child(3)");
        bench.WaitForVersion(8);
        _browser.WaitForText(".chips", "does not fit");
        _browser.Click(".rail [data-task=hoop]");
        _browser.WaitForText("#task-card h2", "Hoop");
        _browser.Click("#hoop-130x180");
        bench.WaitForVersion(9);
        _browser.WaitForText(".chips", "130 × 180, fits");
        _browser.Text("#readiness-chip").ShouldBe("ready");

        // Both machines get their kind of file at once, and list it.
        _browser.Click("#make-ready");
        _browser.Click("[data-machine=heron-200] [name=machines]");
        _browser.Text("[data-machine=wren-130]").ShouldContain("revision 1");
        _browser.Text("[data-machine=heron-200]").ShouldContain("revision 2");
        _browser.Text("#chosen-count").ShouldBe("2 files will be written.");
        _browser.Click("#hand-over .btn-primary");
        _browser.WaitForText("#arrivals", "Wren 130 lists it");
        _browser.WaitForText("#arrivals", "Heron 200 lists it");

        // A third one that is too large is handed over all the same: the machine does not list it, and says why.
        _browser.Go(server.Address);
        _browser.Drop(("night.csv", StitchFormats.Write(StitchFileKind.Csv, DemoDesigns.All[^1].Drawn())));
        _browser.WaitForText("#shelf-lists", "337.9 × 197.9");
        _browser.Click("[data-design='2'] .card-picture");
        _browser.WaitForStitches();
        _browser.Click("#make-ready");
        _browser.Click("[data-machine=wren-130] [name=machines]");
        _browser.Click("[name=anyway]");
        _browser.Click("#hand-over .btn-primary");
        _browser.WaitForText("#arrivals", "does not list it");
        _browser.Go($"{server.Address}/machine-room");
        _browser.All("#machine-wren-130 [data-listed=true]").Count.ShouldBe(1);
        _browser.Text("#machine-wren-130 [data-listed=false]").ShouldContain("too large: 338 × 198 mm");
        _browser.All("#machine-heron-200 [data-listed=true]").Count.ShouldBe(1);

        // What came is as it came.
        using var http = new HttpClient();
        (await http.GetByteArrayAsync($"{server.Address}/designs/1/original")).ShouldBe(file);
    }

    /// <summary>The comet with tail and star as parts of their own, in two golds.</summary>
    private static StitchFile Comet()
    {
        var design = DemoDesigns.All[0].Drawn();
        var gold = design.Parts[2];
        var leap = Enumerable.Range(gold.First + 1, gold.Count - 1).Last(i => design.Stitches.Kinds[i] == StitchKind.Jump && design.Stitches.At(i).DistanceTo(design.Stitches.At(i - 1)) > 20);
        var star = gold with { First = leap, Count = gold.First + gold.Count - leap, Thread = MadeUpCharts.All[2].Threads[40] };
        return design with { Parts = [design.Parts[0], design.Parts[1], gold with { Count = leap - gold.First }, star, design.Parts[3]] };
    }
}
