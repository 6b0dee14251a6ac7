using OpenQA.Selenium;

namespace EvenThimble.Browser.Tests;

/// <summary>A design that somebody else made is taken apart, changed, merged with another and made ready.</summary>
[Collection(BrowserCollection.Name)]
public class BoughtStoryTests(SharedBrowser shared)
{
    private readonly Browser _browser = shared.Browser;
    private long _version = 1;

    private static void Look(Browser browser, string name)
    {
        if (Environment.GetEnvironmentVariable("THIMBLE_LOOK") is { Length: > 0 } folder) browser.Shoot(Path.Combine(folder, name + ".png"));
    }

    private void Changed(BenchPage bench, string says)
    {
        bench.WaitForVersion(++_version);
        _browser.WaitForText("#said", says);
    }

    private void OnTheCloth() => _browser.Run("document.getElementById('cloth').focus()");

    [Fact]
    public async Task A_bought_design_is_split_copied_respaced_merged_and_made_ready()
    {
        await using var server = await AppServer.StartAsync(demo: true);
        var bench = new BenchPage(_browser);
        _browser.Complaints();
        using var http = new HttpClient { BaseAddress = new(server.Address) };
        var originals = await Originals(http);
        bench.Open(server.Address);
        var first = bench.Column("plan");

        // By jumps to where tail and star part, and cut there.
        _browser.Run("document.getElementById('needle').focus()");
        _browser.Keyboard(Keys.Home);
        for (var i = 0; i < 60 && !StarIsNext(); i++) _browser.Keyboard(">");
        Look(_browser, "b1-needle");
        _browser.Keyboard("x");
        Changed(bench, "into 2 parts at stitch");
        bench.Order.Count.ShouldBe(5);
        bench.Order[3].ShouldBe("Noon straw, 2");
        _browser.Run("document.getElementById('needle').focus()");
        _browser.Keyboard(Keys.End);

        // The star gets another thread, a mirrored copy, and a row.
        _browser.Click("#line-parts li:nth-child(4)");
        bench.WaitForSelected(5);
        _browser.Keyboard("5");
        _browser.WaitForText("#task-card h2", "Threads");
        _browser.Type("#find-thread", "#a63a3c");
        _browser.WaitForText("#thread-list", "close");
        _browser.Click("#thread-list li:first-child button");
        Changed(bench, "Recoloured");
        OnTheCloth();
        _browser.Press(Keys.Control, "d");
        Changed(bench, "Duplicated");
        bench.Order.Count.ShouldBe(6);
        var copy = bench.Column("part")[4];
        _browser.Click("#line-parts li:nth-child(5)");
        _browser.WaitFor(() => bench.Selected.SequenceEqual([copy]), "the copy to be selected");
        OnTheCloth();
        _browser.Keyboard("m");
        Changed(bench, "Mirrored");
        _browser.Keyboard("2");
        _browser.WaitForText("#task-card h2", "Arrange");
        _browser.Run("document.querySelector('[data-fold=copies]').open = true");
        _browser.Type("#row-count", "2");
        _browser.Type("[name=across]", "-34");
        Look(_browser, "b2-copies");
        _browser.Click("#make-row");
        Changed(bench, "row of 2");
        bench.Order.Count.ShouldBe(7);

        // Everything at 80 percent, re-spaced: as dense as before; the card shows counts and spacing.
        OnTheCloth();
        _browser.Press(Keys.Control, "a");
        _browser.WaitFor(() => bench.Selected.Count == 7, "everything to be selected");
        var before = await Density(http);
        _browser.WaitForText(".card-of-what", "All 7 parts");
        _browser.Keyboard("w");
        _browser.Type("#size-percent", "80");
        _browser.WaitForText("#trial", "fewer than now");
        Look(_browser, "b3-trial");
        _browser.Keyboard(Keys.Enter);
        Changed(bench, "80 % of its size");
        var after = await Density(http);
        (after / before).ShouldBeInRange(0.85, 1.2, "as much thread on each square millimetre as before");
        OnTheCloth();
        _browser.Keyboard("3");
        _browser.WaitForText(".readings", "satin");
        _browser.WaitForText(".readings", "→");
        Look(_browser, "b4-stitch");
        OnTheCloth();
        _browser.Keyboard("r");
        Changed(bench, "Stretched");
        (await Density(http) / after).ShouldBeGreaterThan(1.15);
        OnTheCloth();
        _browser.Press(Keys.Control, "z");
        Changed(bench, "Undid");

        // Meteor shower is brought in over it; what is covered is left out.
        _browser.Keyboard("1");
        _browser.WaitForText("#task-card h2", "Add");
        _browser.Run("[...document.querySelectorAll('#shelf-pick label')].find(l => l.title.startsWith('Meteor shower')).querySelector('input').click()");
        _browser.WaitForText("#bringing", "Bring it in");
        Look(_browser, "b5-bring");
        _browser.Click("#bring-designs");
        Changed(bench, "Brought Meteor shower in");
        bench.Order.Count.ShouldBe(11);
        var whole = Stitches();
        OnTheCloth();
        _browser.Keyboard("3");
        _browser.WaitForText("#task-card", "Covered stitches");
        _browser.Click("[data-show-gone]");
        _browser.WaitForText("#gone-says", "covered");
        _browser.WaitForStitches();
        Look(_browser, "b6-covered");
        OnTheCloth();
        _browser.Keyboard("v");
        Changed(bench, "Left covered stitches out");
        _browser.WaitFor(() => Stitches() < whole, "fewer stitches");
        Look(_browser, "b7-seen");

        // One of the stars gets the hill's thread: it need not wait for its turn between the red ones.
        _browser.Click("[data-show-gone]");
        _browser.Click("#line-parts li:nth-child(6)");
        OnTheCloth();
        _browser.Keyboard("5");
        _browser.WaitForText("#task-card h2", "Threads");
        _browser.Click($".look-like [data-look='{bench.Column("colour")[0]}']");
        _browser.WaitForText("#thread-list li:first-child", "Deep fern");
        _browser.Click("#thread-list li:first-child button");
        Changed(bench, "Recoloured");
        OnTheCloth();
        _browser.Keyboard("f");
        _browser.WaitForText("#fewer", "would become");
        Look(_browser, "b8-fewer");
        _browser.Click("#take-fewer");
        Changed(bench, "Fewer thread changes");
        var last = bench.Column("plan");
        var end = bench.Column("part");

        // Undo all to the start, redo all.
        OnTheCloth();
        var steps = 0;
        while (_browser.Find("#undo").Enabled && steps++ < 30)
        {
            _browser.Press(Keys.Control, "z");
            bench.WaitForVersion(++_version);
        }

        bench.Order.Count.ShouldBe(4);
        bench.Column("plan").ShouldBe(first);
        while (_browser.Find("#redo").Enabled && steps-- > 0)
        {
            _browser.Click("#redo");
            bench.WaitForVersion(++_version);
        }

        bench.Column("part").ShouldBe(end);
        bench.Column("plan").ShouldBe(last);

        // Made ready; the shelf's original is byte for byte what it was.
        _browser.Click("#make-ready");
        _browser.WaitForText("h1", "Make ready");
        (await Originals(http)).ShouldBe(originals);
        _browser.Complaints().ShouldBeEmpty();

        bool StarIsNext() => (bool)_browser.Driver.ExecuteAsyncScript(
            "const done = arguments[0]; import('/pages/Bench/Screen/bench.js').then(m => { const s = m.state, p = s.plan, n = s.needle; done(p.partAt(n) === 2 && p.xy[2 * n + 1] > -8 && s.needle < p.count); })")!;
    }

    /// <summary>Hashes of all designs of the shelf as they came.</summary>
    private static async Task<List<string>> Originals(HttpClient http)
    {
        var hashes = new List<string>();
        for (var id = 1; id <= 8; id++) hashes.Add(Convert.ToHexString(System.Security.Cryptography.SHA256.HashData(await http.GetByteArrayAsync(new Uri($"/designs/{id}/original", UriKind.Relative)))));
        return hashes;
    }

    private int Stitches() => int.Parse(_browser.Text("#readout div:nth-child(2) dd").Replace(",", string.Empty, StringComparison.Ordinal), System.Globalization.CultureInfo.InvariantCulture);

    /// <summary>Thread on a square millimetre of what is sewn, from the plan that the screen shows.</summary>
    private static async Task<double> Density(HttpClient http)
    {
        var plan = await http.GetByteArrayAsync(new Uri("/jobs/1/plan", UriKind.Relative));
        var (count, parts) = (BitConverter.ToInt32(plan, 8), BitConverter.ToInt32(plan, 12));
        var places = 16 + (12 * parts);
        (double X, double Y) At(int i) => (BitConverter.ToSingle(plan, places + (8 * i)), BitConverter.ToSingle(plan, places + (8 * i) + 4));
        var (length, cells) = (0.0, new HashSet<(int, int)>());
        for (var i = 1; i < count; i++)
        {
            if (plan[places + (8 * count) + i] != 0 || plan[places + (8 * count) + i - 1] != 0) continue;
            var (a, b) = (At(i - 1), At(i));
            var stitch = Math.Sqrt(((a.X - b.X) * (a.X - b.X)) + ((a.Y - b.Y) * (a.Y - b.Y)));
            length += stitch;
            for (var s = 0.0; s <= 1; s += 0.2 / Math.Max(stitch, 0.2)) cells.Add(((int)Math.Floor((a.X + ((b.X - a.X) * s)) * 2), (int)Math.Floor((a.Y + ((b.Y - a.Y) * s)) * 2)));
        }

        return length / cells.Count;
    }
}
