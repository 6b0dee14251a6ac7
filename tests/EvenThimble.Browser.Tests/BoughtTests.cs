using EvenThimble.Core.Geometry;
using OpenQA.Selenium;

namespace EvenThimble.Browser.Tests;

/// <summary>Hands and keys on bought designs: sizes by the rings, drawing around, copies from job to job, pictures dropped on the cloth.</summary>
[Collection(BrowserCollection.Name)]
public class BoughtTests(SharedBrowser shared)
{
    private readonly Browser _browser = shared.Browser;

    /// <summary>The rectangle about the selection, mm: left, top, right, bottom.</summary>
    private double[] Box() => [.. ((IReadOnlyCollection<object>)_browser.Driver.ExecuteAsyncScript(
        "const done = arguments[0]; import('/pages/Bench/Screen/bench.js').then(m => { const b = m.cloth.selectedBox(); done([b.minX, b.minY, b.maxX, b.maxY]); })")!).Select(Convert.ToDouble)];

    /// <summary>Drags a ring of the selection (-1, 0, 1 across and down) by millimetres, perhaps with a key held.</summary>
    private void DragRing(BenchPage bench, int across, int down, double dx, double dy, string? key = null)
    {
        var box = Box();
        var scale = Convert.ToDouble(_browser.Driver.ExecuteAsyncScript("const done = arguments[0]; import('/pages/Bench/Screen/bench.js').then(m => done(m.cloth.view.scale))"));
        var (x, y) = (((box[0] + box[2]) / 2) + (across * (((box[2] - box[0]) / 2) + (3 / scale))), ((box[1] + box[3]) / 2) + (down * (((box[3] - box[1]) / 2) + (3 / scale))));
        var (from, to) = (bench.OnCloth(x, y), bench.OnCloth(x + dx, y + dy));
        var actions = _browser.Hand();
        if (key is not null) actions.KeyDown(key);
        actions.MoveToElement(_browser.Find("#cloth"), from.X, from.Y).ClickAndHold().MoveByOffset((to.X - from.X) / 2, (to.Y - from.Y) / 2).MoveByOffset(to.X - from.X - ((to.X - from.X) / 2), to.Y - from.Y - ((to.Y - from.Y) / 2)).Release();
        if (key is not null) actions.KeyUp(key);
        actions.Perform();
    }

    [Fact]
    public async Task The_rings_make_larger_and_smaller_in_proportion_or_free_and_from_the_middle()
    {
        await using var server = await AppServer.StartAsync(demo: true);
        var bench = new BenchPage(_browser);
        bench.Open(server.Address);
        _browser.Click("#line-parts li:nth-child(2)");
        bench.WaitForSelected(2);
        _browser.WaitForText("#task-card .card-of-what", "Noon slate blue");
        var was = Box();
        double Width(double[] b) => b[2] - b[0];
        double Height(double[] b) => b[3] - b[1];
        void Drawn() => _browser.WaitForStitches();

        DragRing(bench, 1, 1, -20, -20);
        bench.WaitForVersion(2);
        Drawn();
        var proportional = Box();
        (Width(proportional) / Height(proportional)).ShouldBe(Width(was) / Height(was), 0.06);
        proportional[0].ShouldBe(was[0], 0.6, "the opposite corner stays");
        Width(proportional).ShouldBeLessThan(Width(was) - 5);

        DragRing(bench, 1, 0, 12, 0, Keys.Shift);
        bench.WaitForVersion(3);
        Drawn();
        var free = Box();
        Width(free).ShouldBe(Width(proportional) + 12, 1.2);
        Height(free).ShouldBe(Height(proportional), 0.8);

        DragRing(bench, 0, 1, 0, 5, Keys.Alt);
        bench.WaitForVersion(4);
        Drawn();
        var middle = Box();
        ((middle[1] + middle[3]) / 2).ShouldBe((free[1] + free[3]) / 2, 0.6, "with Alt the middle stays");
        Height(middle).ShouldBe(Height(free) + 10, 1.5);

        DragRing(bench, 0, -1, 15, 0, Keys.Control);
        bench.WaitForVersion(5);
        _browser.WaitForText("#said", "Leaned");

        // Back to how it came, by number.
        for (var i = 0; i < 4; i++)
        {
            _browser.Run("document.getElementById('cloth').focus()");
            _browser.Press(Keys.Control, "z");
            bench.WaitForVersion(6 + i);
        }

        Drawn();
        Box().ShouldBe(was);
    }

    [Fact]
    public async Task What_a_line_is_drawn_around_becomes_a_part_and_joins_again_by_key()
    {
        await using var server = await AppServer.StartAsync(demo: true);
        var bench = new BenchPage(_browser);
        bench.Open(server.Address);
        _browser.Click("#line-parts li:nth-child(3)");
        bench.WaitForSelected(3);
        _browser.WaitForText("#task-card .card-of-what", "Noon straw");
        _browser.Run("document.getElementById('cloth').focus()");
        _browser.Keyboard("o");
        _browser.WaitForText("#draw-hint", "Draw a line around");
        var corners = new[] { (28.0, -9.0), (46.0, -10.0), (64.0, -9.0), (65.0, 8.0), (64.0, 24.0), (46.0, 25.0), (28.0, 24.0), (27.0, 8.0), (27.5, -6.0) }.Select(c => bench.OnCloth(c.Item1, c.Item2)).ToList();
        var actions = _browser.Hand().MoveToElement(_browser.Find("#cloth"), corners[0].X, corners[0].Y).ClickAndHold();
        for (var i = 1; i < corners.Count; i++)
        {
            var (dx, dy) = (corners[i].X - corners[i - 1].X, corners[i].Y - corners[i - 1].Y);
            actions.MoveByOffset(dx / 2, dy / 2).MoveByOffset(dx - (dx / 2), dy - (dy / 2));
        }

        actions.Release().Perform();
        bench.WaitForVersion(2);
        _browser.WaitForText("#said", "around what you drew");
        bench.Order.Count.ShouldBe(5);
        _browser.Run("document.getElementById('line-parts').querySelectorAll('li')[2].focus()");
        _browser.Click("#line-parts li:nth-child(3)");
        _browser.Hand().KeyDown(Keys.Shift).Click(_browser.Find("#line-parts li:nth-child(4)")).KeyUp(Keys.Shift).Perform();
        bench.WaitForSelected(3, 5);
        _browser.WaitForText("#join", "Join");
        _browser.Run("document.getElementById('cloth').focus()");
        _browser.Keyboard("j");
        bench.WaitForVersion(3);
        bench.Order.Count.ShouldBe(4);
    }

    [Fact]
    public async Task What_would_go_is_seen_before_it_goes_and_so_is_the_density()
    {
        await using var server = await AppServer.StartAsync(demo: true);
        var bench = new BenchPage(_browser);
        bench.Open(server.Address);
        _browser.Click("#line-parts li:nth-child(3)");
        bench.WaitForSelected(3);
        _browser.Keyboard("3");
        _browser.WaitForText(".readings", "satin, sure");
        _browser.Hand().MoveToElement(_browser.Find("#underlay-out")).Perform();
        _browser.WaitForText("#trial", "fewer than now");
        if (Environment.GetEnvironmentVariable("THIMBLE_LOOK") is { Length: > 0 } folder) _browser.Shoot(Path.Combine(folder, "b9-goes.png"));
        _browser.Hand().MoveToElement(_browser.Find("#job-title")).Perform();
        _browser.WaitFor(() => !_browser.Find("#trial").Displayed, "the trial to end");

        _browser.Click("#task-card [data-view=density]");
        _browser.WaitFor(() => Density() == "HTMLImageElement", "the density as it is");
        _browser.Type("#set-lighter", "60");
        _browser.WaitForText("#trial", "more than now");
        _browser.WaitFor(() => Density() == "ImageBitmap", "the density as it would be");
        _browser.Keyboard(Keys.Escape);
        _browser.WaitFor(() => Density() == "HTMLImageElement", "the density as it is");
        bench.Version.ShouldBe("1");
        _browser.Click(".cloth-tools [data-view=thread]");

        string Density() => (string)_browser.Driver.ExecuteAsyncScript("const done = arguments[0]; import('/pages/Bench/Screen/bench.js').then(m => done(m.cloth.density?.constructor.name ?? ''))")!;
    }

    [Fact]
    public async Task A_ring_of_copies_stands_evenly_about_its_middle_and_goes_in_one_step()
    {
        await using var server = await AppServer.StartAsync(demo: true);
        var bench = new BenchPage(_browser);
        bench.Open(server.Address);
        _browser.Click("#line-parts li:nth-child(4)");
        bench.WaitForSelected(4);
        _browser.Keyboard("2");
        _browser.WaitFor(() => _browser.Driver.FindElements(OpenQA.Selenium.By.CssSelector("[data-fold=copies]")).Count == 1, "the card to be about the part");
        _browser.Run("document.querySelector('[data-fold=copies]').open = true");
        _browser.Type("[name=radius]", "30");
        _browser.Type("#ring-count", "1");
        _browser.Click("#make-ring");
        _browser.WaitForText("#said", "from 2 to");
        bench.Version.ShouldBe("1");
        _browser.Type("#ring-count", "8");
        _browser.Click("#make-ring");
        bench.WaitForVersion(2);
        bench.Order.Count.ShouldBe(11);
        _browser.WaitForStitches();
        _browser.Keyboard(Keys.Home);
        if (Environment.GetEnvironmentVariable("THIMBLE_LOOK") is { Length: > 0 } folder) _browser.Shoot(Path.Combine(folder, "b10-ring.png"));
        _browser.Press(Keys.Control, "z");
        bench.WaitForVersion(3);
        bench.Order.Count.ShouldBe(4);
    }

    [Fact]
    public async Task Every_command_is_reached_by_a_key()
    {
        await using var server = await AppServer.StartAsync(demo: true);
        var bench = new BenchPage(_browser);
        bench.Open(server.Address);
        foreach (var (key, lands) in new[] { ("w", "size-width"), ("i", "lean-by"), ("n", "row-count"), ("N", "ring-count"), ("y", "set-lighter"), ("Y", "set-short"), ("a", "Align left"), ("b", "design") })
        {
            _browser.Click("#line-parts li:nth-child(3)");
            bench.WaitForSelected(3);
            _browser.Run("document.getElementById('cloth').focus()");
            _browser.Keyboard(key);
            _browser.WaitFor(() => (bool)_browser.Run("const a = document.activeElement; return [a.id, a.title, a.name].includes(arguments[0])", lands), $"{key} to lead to {lands}");
        }

        var version = 1;
        foreach (var (key, says) in new[] { ("c", "Centred"), ("m", "Mirrored"), ("M", "top to bottom"), ("t", "Turned"), ("u", "Left out the underlay"), ("k", "at its jumps") })
        {
            _browser.Click("#line-parts li:nth-child(3)");
            bench.WaitForSelected(3);
            _browser.Run("document.getElementById('cloth').focus()");
            _browser.Keyboard(key);
            bench.WaitForVersion(++version);
            _browser.WaitForText("#said", says);
        }
    }

    [Fact]
    public async Task Long_work_is_shown_and_can_be_stopped()
    {
        await using var server = await AppServer.StartAsync(demo: true);
        var bench = new BenchPage(_browser);
        _browser.Go(server.Address);
        _browser.Run("[...document.querySelectorAll('[data-design]')].find(l => l.textContent.includes('Larkmoor by night')).querySelector('.card-picture').click()");
        _browser.WaitFor(() => (bool)_browser.Run("return location.pathname.startsWith('/jobs/')"), "the job to be opened");
        _browser.WaitForStitches();
        var (version, plan) = (bench.Version, bench.Column("plan"));
        _browser.Run("document.getElementById('cloth').focus()");
        _browser.Press(Keys.Control, "a");
        _browser.WaitFor(() => bench.Selected.Count > 1, "all to be selected");

        // 120,000 stitches that have never been looked at for what covers them.
        _browser.Run("document.getElementById('working').hidden = true; window.shown = false; new MutationObserver(() => { if (!document.getElementById('working').hidden) { window.shown = true; document.getElementById('stop-working').click(); } }).observe(document.getElementById('working'), { attributes: true })");
        _browser.Keyboard("v");
        _browser.WaitFor(() => (bool)_browser.Run("return window.shown"), "the work to be shown");
        _browser.WaitForText("#said", "Stopped");
        bench.Version.ShouldBe(version);
        bench.Column("plan").ShouldBe(plan);
    }

    [Fact]
    public async Task Copies_go_from_job_to_job_and_a_design_drops_where_it_is_let_go()
    {
        await using var server = await AppServer.StartAsync(demo: true);
        var bench = new BenchPage(_browser);
        bench.Open(server.Address);
        _browser.Click("#line-parts li:nth-child(1)");
        bench.WaitForSelected(1);
        _browser.Run("document.getElementById('cloth').focus()");
        _browser.Press(Keys.Control, "c");
        _browser.WaitForText("#said", "Copied");
        _browser.Go($"{server.Address}/jobs/2");
        _browser.WaitForStitches();
        var before = bench.Order.Count;
        _browser.Run("document.getElementById('cloth').focus()");
        _browser.Press(Keys.Control, "v");
        bench.WaitForVersion(2);
        _browser.WaitForText("#said", "Pasted Deep fern from Comet over the dome");
        bench.Order[^1].ShouldBe("Deep fern");
        _browser.WaitFor(() => bench.Selected.Count == 1, "what was pasted to be selected");

        // Browsers do not let a test drag; the events that a hand would cause are sent instead.
        _browser.Keyboard("1");
        _browser.WaitForText("#task-card h2", "Add");
        _browser.Run("""
            const card = [...document.querySelectorAll('[data-bring]')].find(l => l.title.startsWith('Ringed planet')), cloth = document.getElementById('cloth'), box = cloth.getBoundingClientRect();
            const data = new DataTransfer();
            card.dispatchEvent(new DragEvent('dragstart', { bubbles: true, dataTransfer: data }));
            cloth.dispatchEvent(new DragEvent('dragover', { bubbles: true, cancelable: true, dataTransfer: data }));
            cloth.dispatchEvent(new DragEvent('drop', { bubbles: true, cancelable: true, dataTransfer: data, clientX: box.left + box.width / 2 + 60, clientY: box.top + box.height / 2 }));
            """);
        bench.WaitForVersion(3);
        _browser.WaitForText("#said", "Brought Ringed planet in");
        bench.Order.Count.ShouldBe(before + 6);
        _browser.WaitForStitches();
        var box = Box();
        ((box[0] + box[2]) / 2).ShouldBeGreaterThan(5, "it lies where it was dropped, right of the middle");
    }
}
