using System.Globalization;
using EvenThimble.Core.Files.Cut;
using EvenThimble.Core.Files.Stitch;
using EvenThimble.Core.Geometry;
using EvenThimble.Core.Jobs;
using EvenThimble.Core.Machines;
using EvenThimble.Core.Stitches;
using EvenThimble.Equipment;
using EvenThimble.Storage;
using EvenThimble.Web.Workroom;
using Microsoft.Extensions.DependencyInjection;
using OpenQA.Selenium;

namespace EvenThimble.Browser.Tests;

/// <summary>The crescent moon appliqué: roles, cut lines, allowance, six on the mat, to both cutters; and a shape that becomes an appliqué.</summary>
[Collection(BrowserCollection.Name)]
public class CutStoryTests(SharedBrowser shared)
{
    private readonly Browser _browser = shared.Browser;

    [Fact]
    public async Task The_moon_and_its_window_are_cut_six_times_and_both_cutters_list_them_at_one_size()
    {
        await using var server = await AppServer.StartAsync(demo: true);
        var (desk, bench, room) = (server.Services.GetRequiredService<JobDesk>(), new BenchPage(_browser), server.Services.GetRequiredService<EquipmentRoom>());
        _browser.Go(server.Address);
        _browser.Complaints();
        var moon = server.Services.GetRequiredService<DesignStore>().All().First(d => d.Title.StartsWith("Crescent")).Id;
        _browser.Click($"[data-design=\"{moon.ToString(CultureInfo.InvariantCulture)}\"] .card-picture");
        _browser.WaitForStitches();
        var id = long.Parse(_browser.Driver.Url.Split('/')[^1].Split('?')[0], CultureInfo.InvariantCulture);

        // As if it had come from a machine that knows no roles.
        var jobs = server.Services.GetRequiredService<JobStore>();
        jobs.Apply(id, 1, new GiveRole(desk.Find(id)!.Job.Order.Select(p => p.Id).ToHashSet(), PartRole.Decoration));
        _browser.Go($"{server.Address}/jobs/{id}");
        _browser.WaitForStitches();
        _browser.Keyboard("7");
        _browser.WaitForText("#roles-suggested", "tack-down");
        _browser.Click("#give-roles");
        bench.WaitForVersion(3);
        desk.Find(id)!.Job.Order.Select(p => p.Role).ShouldBe([PartRole.PlacementLine, PartRole.TackDown, PartRole.PlacementLine, PartRole.TackDown, PartRole.Cover, PartRole.Cover, PartRole.Decoration]);

        // The lines of both tack-downs are cut; the star is a window in the moon.
        _browser.Click("#cut-parts input[data-part='2']");
        bench.WaitForVersion(4);
        _browser.WaitForText("#cut-line-list", "with allowance");
        _browser.Click("#cut-parts input[data-part='4']");
        bench.WaitForVersion(5);
        _browser.WaitForText("#cut-line-list", "window");
        _browser.Find("#allowance").GetAttribute("placeholder").ShouldBe("1");
        _browser.WaitForStitches();
        _browser.Look("cut-bench");

        // Wrong input is said and changes nothing.
        _browser.Type("#allowance", "much" + Keys.Enter);
        _browser.WaitForText("#said", "not a length");
        _browser.Type("#allowance", "-2" + Keys.Enter);
        _browser.WaitForText("#said", "from 0 to 20 mm");
        bench.Version.ShouldBe("5");

        // On terry towel the allowance is larger, and the cloth lies face down.
        _browser.Click("#cloth-chip");
        _browser.Select("#cloth-kind", "terry towel");
        _browser.Click("#lay-on");
        bench.WaitForVersion(6);
        _browser.Keyboard("7");
        _browser.WaitFor(() => _browser.All("#allowance").FirstOrDefault()?.GetAttribute("placeholder") == "1.5", "1.5 mm for terry");
        _browser.WaitForText("#cut-line-list", "with allowance");

        // A stretch is left out with two clicks on the line, and taken back.
        var line = desk.Find(id) is { } open ? server.Services.GetRequiredService<CutDesk>().Of(open).Lines.All[0].Line.Points : [];
        _browser.Click("#cut-line-list li:first-child [data-bridge]");
        bench.ClickCloth(line[40].X, line[40].Y);
        bench.ClickCloth(line[60].X, line[60].Y);
        bench.WaitForVersion(7);
        desk.Find(id)!.Job.Cutting.Changes.ShouldHaveSingleItem().Bridged.ShouldHaveSingleItem();
        _browser.Press(Keys.Control, "z");
        bench.WaitForVersion(8);
        desk.Find(id)!.Job.Cutting.Changes.ShouldBeEmpty();

        // Six on a mat of 300 mm.
        _browser.WaitForText("#cut-line-list", "with allowance");
        _browser.Click("#to-mat");
        _browser.WaitFor(() => _browser.All(".cut-piece").Count == 1, "one piece");
        _browser.WaitForText("#side-says", "face down");
        _browser.Type("#cut-copies", "6" + Keys.Enter);
        _browser.WaitFor(() => _browser.All(".cut-piece").Count == 6, "six pieces");
        _browser.Look("cut-mat");
        desk.Find(id)!.Job.Cutting.Copies.ShouldBe(6);

        // One is moved by keyboard, and all are laid anew.
        _browser.Run("document.querySelectorAll('.cut-piece')[5].focus()");
        new OpenQA.Selenium.Interactions.Actions(_browser.Driver).KeyDown(Keys.Shift).SendKeys(Keys.ArrowDown).SendKeys(Keys.ArrowDown).KeyUp(Keys.Shift).Perform();
        _browser.WaitFor(() => _browser.All(".cut-piece.by-hand").Count == 1, "a piece moved by hand");
        _browser.Click("#lay-anew");
        _browser.WaitFor(() => _browser.All(".cut-piece.by-hand").Count == 0 && _browser.All(".cut-piece").Count == 6, "all laid anew");

        // To both cutters; both list the moon at one size.
        _browser.Click("[data-cutter=dunlin-mini] input[type=checkbox]");
        _browser.Click("#hand-over-cutters");
        _browser.WaitFor(() => _browser.All("[data-cut-arrived]").Count >= 2, "what arrived");
        _browser.All("[data-cut-arrived]").ShouldAllBe(a => a.GetAttribute("data-listed") == "true");
        _browser.Go($"{server.Address}/machine-room");
        var (plover, dunlin) = (room.Cutter("plover-12")!, room.Cutter("dunlin-mini")!);
        var sizes = plover.List().Concat(dunlin.List()).ToList();
        sizes.ShouldAllBe(l => l.Listed);
        sizes.Select(l => l.Shows.Split("largest ")[1]).Distinct().ShouldHaveSingleItem();
        var name = plover.List()[0].FileName;
        name.ShouldEndWith(".svg");
        dunlin.List()[0].FileName.ShouldEndWith(".plt");
        plover.Read(name).Lines.Count().ShouldBe(12);
        dunlin.List().Sum(l => dunlin.Read(l.FileName).Lines.Count()).ShouldBe(12);
        _browser.Look("cutters");

        // It is cut: inner lines before outer, with length and time.
        _browser.Click("#cutter-plover-12 [data-cut-run]");
        _browser.WaitForText("#run-says", "12 lines");
        _browser.All("#run-steps li").Select(l => l.GetAttribute("data-inner")).Take(4).ShouldBe(["true", "false", "true", "false"]);
        _browser.Click("#run-go");
        _browser.WaitFor(() => _browser.All("#run-steps li.done").Count > 0, "a line that is cut");
        _browser.Look("cut-run");
        _browser.Go($"{server.Address}/machine-room");
        _browser.Click("#cutter-plover-12 [data-square]");
        _browser.WaitForText("#run-says", "1 line");

        // The stitch file's stops carry their messages.
        _browser.Go($"{server.Address}/jobs/{id}/ready");
        _browser.Click("#hand-over .btn-primary");
        _browser.Find("#arrivals");
        var heron = room.Machine("heron-200")!;
        var sewn = StitchFormats.Read(heron.Memory.Read(heron.List()[0].FileName), heron.List()[0].FileName).File;
        sewn.Stitches.Messages.Values.ShouldBe(["Lay the moon fabric over the line", "Trim the moon fabric close to the stitches", "Lay the star fabric over the line", "Trim the star fabric close to the stitches"]);
        _browser.Complaints().Where(c => !c.Contains("422")).ShouldBeEmpty();
    }

    [Fact]
    public async Task A_shape_becomes_an_applique_whose_cloth_is_cut()
    {
        await using var server = await AppServer.StartAsync(demo: true);
        var (desk, bench) = (server.Services.GetRequiredService<JobDesk>(), new BenchPage(_browser));
        bench.Open(server.Address, 2);
        _browser.Complaints();
        var before = desk.Find(2)!.Job;
        var heart = before.Order.First(p => p.Drawn is { } d && d.Shape.IsClosed && d.Shape.Bounds.Width > 12);
        _browser.Click($"#line-parts li[data-part='{heart.Id.Value}']");
        bench.WaitForSelected(heart.Id.Value);
        _browser.Keyboard("7");
        _browser.WaitForText("#applique-form", "held by");
        var version = long.Parse(bench.Version, CultureInfo.InvariantCulture);
        _browser.Click("#make-applique");
        bench.WaitForVersion(version + 1);
        var made = desk.Find(2)!.Job;
        var its = made.Order.Where(p => before.Order.Find(p.Id) is null).ToList();
        its.Select(p => p.Role).ShouldBe([PartRole.PlacementLine, PartRole.TackDown, PartRole.Cover]);
        made.Cutting.Parts.ShouldBe([its[0].Id]);
        desk.Find(2)!.Plan.Records.Messages.Values.ShouldContain(m => m.StartsWith("Lay the cut cloth"));
        _browser.WaitForText("#cut-line-list", "outline of the shape");

        // What the machine says is written otherwise.
        _browser.Click($"#line-parts li[data-part='{its[0].Id.Value}']");
        bench.WaitForSelected(its[0].Id.Value);
        _browser.Find("#stop-message");
        _browser.Type("#stop-message", "Lay the yellow felt" + Keys.Enter);
        bench.WaitForVersion(version + 2);
        desk.Find(2)!.Plan.Records.Messages.Values.ShouldContain("Lay the yellow felt");
        _browser.Look("applique");
        _browser.Complaints().ShouldBeEmpty();
    }
}
