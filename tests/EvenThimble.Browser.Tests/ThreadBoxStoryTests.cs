using System.Globalization;
using EvenThimble.Core.Machines;
using EvenThimble.Core.Rack;
using EvenThimble.Core.Threads;
using EvenThimble.Storage;
using EvenThimble.Web.Workroom;
using Microsoft.Extensions.DependencyInjection;
using OpenQA.Selenium;

namespace EvenThimble.Browser.Tests;

/// <summary>Cones are put on a rack, a design is seen in them, sewn and taken off.</summary>
[Collection(BrowserCollection.Name)]
public class ThreadBoxStoryTests(SharedBrowser shared)
{
    private readonly Browser _browser = shared.Browser;

    [Fact]
    public async Task A_design_is_sewn_from_the_rack_what_runs_out_is_bought_and_what_was_sewn_is_taken_off()
    {
        await using var server = await AppServer.StartAsync(demo: true);
        var (racks, desk, bench) = (server.Services.GetRequiredService<RackStore>(), server.Services.GetRequiredService<JobDesk>(), new BenchPage(_browser));
        var (osier, fenlight) = (MadeUpCharts.All[2].Threads, MadeUpCharts.All[0].Threads);
        bench.Open(server.Address);
        _browser.Complaints();

        // A rack of its own: ten cones by number, Enter after each, and one that no chart has.
        _browser.Go($"{server.Address}/rack");
        _browser.Unfold(".rack-more");
        _browser.Type(".rack-more input[placeholder]", "Open night");
        _browser.Click("#make-rack");
        _browser.WaitForText(".racks .here", "Open night");
        var rack = racks.Racks[^1].Id;
        _browser.Select("#entry-maker", osier[0].Maker);
        for (var n = 0; n < 10; n++)
        {
            _browser.Find("#cone-number").SendKeys(osier[20 + (38 * n)].Number + Keys.Enter);
            _browser.WaitForText("#rack-says", osier[20 + (38 * n)].Number);
            _browser.WaitFor(() => _browser.Find("#cone-number").GetAttribute("value") == string.Empty, "room for the next number");
        }

        _browser.Find("#cone-number").SendKeys("999" + Keys.Enter);
        _browser.WaitForText("#rack-says", "No chart has the number 999");
        _browser.Find("#cone-number").GetAttribute("value").ShouldBe("999", "what was typed stays");
        _browser.Find("#cone-number").Clear();

        // Twenty pasted, each begun; a line that cannot be is kept aside.
        var pasted = Enumerable.Range(0, 20).Select(n => fenlight[4 + (17 * n)]).ToList();
        _browser.Find("#cone-lines").SendKeys(string.Join('\n', pasted.Select(t => $"{t.Maker} {t.Number} x1 24 m").Append("Fenlight 77 x1")));
        _browser.Click("#paste-cones button");
        _browser.WaitForText("#rack-says", "20 threads taken");
        _browser.Text("#aside").ShouldContain("No chart has the number 77 of Fenlight");
        racks.Cones(rack).Count.ShouldBe(30);
        _browser.WaitForText(".racks .here small", "30");
        _browser.Type("#find-cone", pasted[3].Name);
        _browser.WaitFor(() => _browser.All("#cones tbody tr").Count is > 0 and < 5, "the cone by its name");
        _browser.Look("rack");

        // The comet, seen in them beside what it is.
        bench.Open(server.Address);
        _browser.Click("[data-task=threads]");
        _browser.WaitForText("#task-card h2", "Threads");
        _browser.Select("#task-card [name=rack]", "Open night");
        _browser.WaitForText("#task-card .enough", "Open night lacks");
        _browser.Click("#sew-from-rack");
        _browser.WaitForText("#from-rack", "Sewn from Open night");
        _browser.WaitFor(() => _browser.All("#side-by-side img").Count == 2 && (bool)_browser.Run("return [...document.querySelectorAll('#side-by-side img')].every(i => i.complete && i.naturalWidth > 0)"), "both pictures");
        _browser.Look("from-rack");

        // A thread without a good match can be bought itself.
        _browser.Click("#from-rack [data-to-buy]");
        _browser.WaitForText("#said", "On the shopping list");
        server.Services.GetRequiredService<ShoppingStore>().All.Count.ShouldBe(1);
        server.Services.GetRequiredService<ShoppingStore>().StrikeAll();
        _browser.Text("#from-rack").ShouldContain("Sewn from Open night");

        // One match is refused for the second candidate; the rest is found around it.
        var box = _browser.Find("#from-rack li:nth-child(2) select");
        var second = box.FindElements(By.TagName("option"))[2];
        var (words, wanted) = (second.Text, second.GetAttribute("value")!.Split('|')[1]);
        second.Click();
        _browser.WaitForText("#from-rack li:nth-child(2) .says", "as chosen");
        _browser.All("#from-rack [name=held]").Count.ShouldBe(1, "the others are found anew");
        _browser.Find("#from-rack li:nth-child(2) select option").Text.ShouldStartWith(words[..words.IndexOf('·', StringComparison.Ordinal)]);
        _browser.Click("#take-all");
        bench.WaitForVersion(2);
        var job = desk.Find(1)!;
        job.Plan.Threads[1].Number.ShouldBe(wanted);
        job.Plan.Threads.ShouldAllBe(t => racks.Cones(rack).Any(c => c.Thread == t));
        _browser.WaitForText("#task-card .enough", "Open night has enough of all");
        _browser.All("#side-by-side").ShouldBeEmpty();

        // Twelve copies: a cone runs out, and readiness says where.
        _browser.Type("#copies", "12" + Keys.Enter);
        bench.WaitForVersion(3);
        var needs = server.Services.GetRequiredService<ThreadBox>().NeedsOf(desk.Find(1)!);
        var lacking = needs.Threads.First(n => !n.IsEnough);
        _browser.Click("[data-task=check]");
        _browser.WaitForText("#task-card", string.Create(CultureInfo.InvariantCulture, $"{lacking.Thread.Label} runs out in copy {lacking.Out!.Copy} of 12, at stitch {lacking.Out.Stitch:N0}"));
        _browser.Look("runs-out");
        _browser.Click($"[data-finding^=runs-out][data-finding$='-{lacking.Thread.Number}'] [data-to-buy]");
        _browser.WaitForText("#said", "On the shopping list");
        _browser.Go($"{server.Address}/rack/shopping");
        _browser.WaitForText("#shopping-table", lacking.Thread.Number);
        _browser.Look("shopping");
        _browser.Go($"{server.Address}/jobs/1/fetch");
        _browser.WaitForText("#fetch-table", "runs out in copy");
        _browser.Look("fetch");

        // Handed over: the needles are given.
        _browser.Go($"{server.Address}/jobs/1/ready");
        var starling = StandInMachines.StarlingEight.Id;
        _browser.Click("[name=machines]:checked");
        _browser.Click($"[data-machine={starling}] [name=machines]");
        _browser.Unfold($"[data-machine={starling}] .needles-of");
        _browser.Text($"[data-machine={starling}] .needles-of").ShouldContain("needle 1: ");
        _browser.Click("#hand-over button.btn-primary");
        _browser.WaitForText("#arrivals", "lists it");
        _browser.WaitForText("#sewn-form", "take off Open night");
        _browser.Look("handed-over");

        // Sewn: the rack is less by just those metres, the needles are threaded so; and back again.
        var before = racks.Cones(rack);
        _browser.Click("#sewn");
        _browser.WaitForText("#fetch-says", "Taken off Open night");
        foreach (var need in needs.Threads)
            racks.Cones(rack).Single(c => c.Thread == need.Thread).LeftMetres.ShouldBe(need.LeftAfter, 1e-6);
        var machine = StandInMachines.StarlingEight;
        server.Services.GetRequiredService<NeedleStore>().On(machine).OfType<SewingThread>().ShouldBe(needs.Threads.Select(n => n.Thread), ignoreOrder: true);
        _browser.Go($"{server.Address}/rack/used");
        _browser.Text(".uses").ShouldContain("Comet over the dome");
        _browser.Look("used");
        _browser.Click(".uses button");
        _browser.WaitForText(".uses", "given back");
        racks.Cones(rack).Select(c => (c.Thread, Math.Round(c.LeftMetres, 6))).ShouldBe(before.Select(c => (c.Thread, Math.Round(c.LeftMetres, 6))));
        _browser.Complaints().Where(c => !c.Contains("422", StringComparison.Ordinal)).ShouldBeEmpty();
    }
}
