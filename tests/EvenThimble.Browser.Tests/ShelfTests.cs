using EvenThimble.Core.Files.Stitch;
using EvenThimble.Core.Stitches;
using EvenThimble.Core.Tests;
using EvenThimble.Scenario;

namespace EvenThimble.Browser.Tests;

[Collection(BrowserCollection.Name)]
public class ShelfTests(SharedBrowser shared)
{
    private readonly Browser _browser = shared.Browser;

    [Fact]
    public async Task Deleting_asks_and_can_be_undone()
    {
        await using var server = await AppServer.StartAsync(demo: true);
        _browser.Go(server.Address);
        _browser.Run("document.querySelector('[data-design=\"3\"] [data-ask]').click()");
        _browser.WaitForText("#ask-words", "off the shelf");
        _browser.Click("#ask [value=no]");
        _browser.All("[data-design]").Count.ShouldBe(DemoDesigns.All.Count);
        _browser.Run("document.querySelector('[data-design=\"3\"] [data-ask]').click()");
        _browser.WaitFor(() => _browser.Find("#ask").Displayed, "the question");
        _browser.Click("#ask-yes");
        _browser.WaitFor(() => _browser.All("[data-design]").Count == DemoDesigns.All.Count - 1, "one design less");
        _browser.Click("#said button");
        _browser.WaitFor(() => _browser.All("[data-design]").Count == DemoDesigns.All.Count, "the design to be back");
    }

    [Fact]
    public async Task Typing_narrows_the_shelf_and_tags_are_kept()
    {
        await using var server = await AppServer.StartAsync(demo: true);
        _browser.Go(server.Address);
        _browser.Type("[name=find]", "vinyl");
        _browser.WaitFor(() => _browser.All("[data-design]").Count == 1, "the luggage tag alone");
        _browser.Type("[name=find]", "nothing like it");
        _browser.WaitForText("#shelf-lists", "Nothing here matches");
        _browser.Go(server.Address);
        _browser.Type("[data-design='4'] [name=tags]", "for Bram Tull\t");
        _browser.WaitFor(() =>
        {
            _browser.Go($"{server.Address}/?find=bram");
            return _browser.All("[data-design]").Count == 1;
        }, "the new tag to be found");
    }

    [Fact]
    public async Task Several_files_are_taken_in_each_with_its_own_sentence()
    {
        await using var server = await AppServer.StartAsync(demo: false);
        _browser.Go(server.Address);
        var planet = StitchFormats.Write(StitchFileKind.Svg, DemoDesigns.All[2].Drawn());
        _browser.Drop(("planet.svg", planet), ("again.svg", planet), ("empty.evth", []), ("photo.png", [0x89, 0x50, 0x4E, 0x47]), ("tag.csv", StitchFormats.Write(StitchFileKind.Csv, DemoDesigns.All[3].Drawn())));
        _browser.WaitFor(() => _browser.All("[data-design]").Count == 2, "two designs on the shelf");
        _browser.WaitForText("#imports", "already");
        _browser.WaitForText("#imports", "holds no bytes");
        _browser.WaitForText("#imports", "not a stitch file");
        _browser.All("#imports .trouble").Count.ShouldBe(2);
    }

    [Fact]
    public async Task A_machine_file_is_deleted_in_the_machine_room_after_a_question()
    {
        await using var server = await AppServer.StartAsync(demo: true);
        _browser.Go($"{server.Address}/jobs/1/ready");
        _browser.Click("#hand-over .btn-primary");
        _browser.WaitForText("#arrivals", "lists it");
        _browser.Go($"{server.Address}/machine-room");
        _browser.Click("#machine-heron-200 [data-file] button");
        _browser.WaitForText("#ask-words", "Comet over the dome.evth");
        _browser.Click("#ask-yes");
        _browser.WaitFor(() => _browser.All("#machine-heron-200 [data-file]").Count == 0, "the file to be gone");
    }
}
