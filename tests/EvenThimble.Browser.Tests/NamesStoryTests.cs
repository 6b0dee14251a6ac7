using System.Globalization;
using EvenThimble.Core.Files.Stitch;
using EvenThimble.Core.Garments;
using EvenThimble.Equipment;
using EvenThimble.Storage;
using EvenThimble.Web.Workroom;
using Microsoft.Extensions.DependencyInjection;
using OpenQA.Selenium;

namespace EvenThimble.Browser.Tests;

/// <summary>One crest and twelve volunteers: a roster is pasted, its names fitted to a slot, proofed, and sewn on eight heads and on one.</summary>
[Collection(BrowserCollection.Name)]
public class NamesStoryTests(SharedBrowser shared)
{
    private const string Twelve = "Ottoline, Marsh\nBram, Tull\nIlse, Quarrie\nWen, Achterberg\nRufus, Ode\nMarguerite-Anne, Fothergill\nJo, Pym\nTamsin, Vale\nDov, Ister\nCato, Brindle\nNgaire, Holm\nPiet, Sallow";
    private readonly Browser _browser = shared.Browser;

    [Fact]
    public async Task Twelve_volunteers_are_pasted_fitted_proofed_and_sewn_in_rounds_and_one_by_one()
    {
        await using var server = await AppServer.StartAsync(demo: true);
        var (desk, bench, room) = (server.Services.GetRequiredService<JobDesk>(), new BenchPage(_browser), server.Services.GetRequiredService<EquipmentRoom>());
        bench.Open(server.Address);
        _browser.Complaints();

        // The roster, from text.
        _browser.Go($"{server.Address}/rosters");
        _browser.Type("#roster-lines", Twelve);
        _browser.Type("#bring-name", "Open night");
        _browser.Click("#look-roster");
        _browser.WaitForText("#understood", "12 people");
        _browser.WaitForText(".roster-look", "Ottoline");
        _browser.Look("roster-look");
        _browser.Click("#take-roster");
        _browser.WaitFor(() => _browser.All("tr[data-person]").Count == 12, "twelve lines");
        _browser.Look("roster");

        // The slot on the crest; the longest name is shown first and flagged.
        _browser.Go(server.Address);
        var crest = server.Services.GetRequiredService<DesignStore>().All().First(d => d.Title == "Dome crest").Id;
        _browser.Click($"[data-design=\"{crest.ToString(CultureInfo.InvariantCulture)}\"] .card-picture");
        _browser.WaitForStitches();
        _browser.Click("[data-task=names]");
        _browser.Select("#names-roster", "Open night (12)");
        bench.WaitForVersion(2);
        _browser.WaitForText("#roster-form", "Open night");
        _browser.Type("#slot-width", "60");
        _browser.Type("#slot-height", "9");
        _browser.Select("#slot-font", "Archivo");
        _browser.Click("#place-slot");
        bench.WaitForVersion(3);
        _browser.WaitForText("#slot-shows", "Marguerite-Anne Fothergill");
        _browser.WaitForText("#names-flagged", "1 name to look at");
        _browser.WaitForStitches();
        _browser.Look("names-bench");

        // Another name is shown; a wrong size is said.
        _browser.Select("#names-person", "Bram Tull");
        bench.WaitForVersion(4);
        _browser.WaitForText("#slot-shows", "Bram Tull");
        _browser.Type("#slot-height", "high");
        _browser.Click("#place-slot");
        _browser.WaitForText("#said", "not a length");
        bench.Version.ShouldBe("4");

        // All names, the worst first; her line is broken.
        _browser.Click("#to-names");
        _browser.WaitFor(() => _browser.All("#name-roll > li").Count == 12, "twelve names");
        _browser.All("#name-roll > li")[0].GetAttribute("data-name").ShouldBe("Marguerite-Anne Fothergill");
        _browser.All("#name-roll > li")[0].GetAttribute("data-flags")!.ShouldContain("too-small");
        _browser.WaitFor(() => (bool)_browser.Run("return [...document.querySelectorAll('#name-roll img')].slice(0, 8).every(i => i.complete && i.naturalWidth > 0)"), "pictures of names");
        _browser.Look("names");
        _browser.Click("#name-6 summary");
        _browser.Type("#name-6 textarea", "Marguerite-Anne\nFothergill");
        _browser.Click("#name-6 form button");
        _browser.WaitForText("#name-6 summary", "set");
        desk.Find(3)!.Job.Names!.Own.ShouldHaveSingleItem().Text.ShouldBe("Marguerite-Anne\nFothergill");

        // The proof, and a name spelled otherwise after it.
        var proof = (string)_browser.Run("const x = new XMLHttpRequest(); x.open('GET', document.getElementById('proof-a4').href, false); x.overrideMimeType('text/plain; charset=x-user-defined'); x.send(); return x.responseText.slice(0, 5)");
        proof.ShouldBe("%PDF-");
        _browser.Click("#proofed");
        _browser.WaitForText("#names", "Given out with 12 names; 0 changed since");
        _browser.Click("#name-9 summary");
        _browser.Type("#name-9 textarea", "Dove Ister");
        _browser.Click("#name-9 form button");
        _browser.WaitForText("#name-9", "changed since the proof");

        // Eight heads: rounds of eight and four.
        _browser.Select("#sew-machine", "Starling Eight, 8 heads");
        _browser.WaitFor(() => _browser.All("#name-files li").Count == 2, "two rounds");
        _browser.Click("#hand-over");
        _browser.WaitForText("#all-written", "All 2 files written");
        var rounds = room.Machine("starling-eight")!;
        rounds.List().ShouldAllBe(l => l.Listed);
        var messages = rounds.Memory.Files().SelectMany(f => StitchFormats.Read(rounds.Memory.Read(f.Name), f.Name).File.Stitches.Messages.OrderBy(m => m.Key).Select(m => m.Value)).ToList();
        messages.Count.ShouldBe(14);
        messages[0].ShouldBe("all heads: Dome crest");
        messages[3].ShouldBe("head 3 only: Ilse Quarrie");
        messages[9].ShouldBe("heads 1 to 4 only: Dome crest");
        messages[10].ShouldBe("head 1 only: Dove Ister");

        // One head: twelve files that it lists.
        _browser.Select("#sew-machine", "Wren 130");
        _browser.WaitFor(() => _browser.All("#name-files li").Count == 12, "twelve files");
        _browser.Click("#hand-over");
        _browser.WaitForText("#all-written", "All 12 files written");
        room.Machine("wren-130")!.List().Count(l => l.Listed).ShouldBe(12);

        // Five are sewn, the fifth once more; the queue is there on another day.
        _browser.Go($"{server.Address}/machine-room");
        for (var n = 1; n <= 5; n++)
        {
            _browser.Click("[data-queue=wren-130] li.next .btn-primary");
            _browser.WaitForText("[data-queue=wren-130] summary", $"To sew: {12 - n} of 12");
        }

        _browser.Look("queue");
        _browser.Click("[data-queue=wren-130] li:nth-child(5) button");
        _browser.WaitForText("[data-queue=wren-130] summary", "To sew: 8 of 12");
        _browser.Text("[data-queue=wren-130] li.next").ShouldContain("Rufus Ode");

        // Next season: a copy, two taken out, one more by the keyboard.
        _browser.Go($"{server.Address}/rosters");
        var kept = server.Services.GetRequiredService<RosterStore>();
        var night = kept.All.First(r => r.Name == "Open night").Id;
        _browser.Click($"[data-roster=\"{night.ToString(CultureInfo.InvariantCulture)}\"] button");
        _browser.WaitFor(() => _browser.All("tr[data-person]").Count == 12, "the copy");
        _browser.Click("tr[data-person=\"2\"] [data-remove]");
        _browser.WaitFor(() => _browser.All("tr[data-person]").Count == 11, "one less");
        _browser.Click("tr[data-person=\"5\"] [data-remove]");
        _browser.WaitFor(() => _browser.All("tr[data-person]").Count == 10, "two less");
        _browser.Click("tr[data-person=\"12\"] [data-cell=\"0\"]");
        _browser.Keyboard(Keys.Enter);
        _browser.WaitFor(() => _browser.All("tr[data-person]").Count == 11 && (string)_browser.Run("return document.activeElement.closest('tr')?.dataset.person ?? ''") == "13", "a new line");
        _browser.Keyboard("Elke" + Keys.Tab + "Rowntree" + Keys.Tab);
        _browser.WaitFor(() => kept.All.First(r => r.Name == "Open night, copy").Id is var copy && kept.Find(copy)!.Roster.People[^1].Values is ["Elke", "Rowntree"], "the new name is kept");
        kept.Find(night)!.Roster.People.Length.ShouldBe(12);
        _browser.Complaints().Where(c => !c.Contains("422", StringComparison.Ordinal)).ShouldBeEmpty();
        desk.Find(3)!.Job.Names!.Roster.People.Length.ShouldBe(12);
    }
}
