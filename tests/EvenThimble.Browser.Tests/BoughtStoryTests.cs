using EvenThimble.Core.Colour;
using EvenThimble.Core.Files.Stitch;
using EvenThimble.Core.Geometry;
using EvenThimble.Core.Planning;
using EvenThimble.Core.Stitches;
using EvenThimble.Core.Tests.Respacing;
using EvenThimble.Web.Workroom;
using Microsoft.Extensions.DependencyInjection;
using OpenQA.Selenium;
using SkiaSharp;

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

    private void OpenHeart(AppServer server, StitchBlob stitches)
    {
        _browser.Go(server.Address);
        _browser.Drop(("heart.csv", Csv("heart", stitches)));
        _browser.WaitForText("#shelf-lists", "heart");
        _browser.Click("[data-design='1'] .card-picture");
        _browser.WaitForStitches();
    }

    private void ChooseHeart(BenchPage bench)
    {
        OnTheCloth();
        _browser.Press(Keys.Control, "a");
        _browser.WaitFor(() => bench.Selected.Count == 1, "the heart to be selected");
        OnTheCloth();
        _browser.Keyboard("3");
        _browser.WaitForText("#task-card h2", "Stitch");
    }

    [Fact]
    public async Task A_bought_heart_in_rings_grows_without_bare_cloth_and_a_badge_under_lace_stays_whole()
    {
        await using var server = await AppServer.StartAsync(demo: false);
        var bench = new BenchPage(_browser);
        var desk = server.Services.GetRequiredService<JobDesk>();
        _browser.Complaints();
        var heart = RingSamples.All.Single(s => s.Name == "heart");
        OpenHeart(server, heart.Stitches);

        // The card calls it by its name; lighter is lighter.
        ChooseHeart(bench);
        Look(_browser, "b20-rings");
        _browser.WaitForText(".readings", "fill in rings, sure");
        var before = Thread();
        _browser.Type("#set-lighter", "130");
        _browser.Keyboard(Keys.Enter);
        Changed(bench, "130 %");
        (before / Thread()).ShouldBe(1.3, 0.13);
        OnTheCloth();
        _browser.Press(Keys.Control, "z");
        Changed(bench, "Undid");

        // At 160 percent no cloth is seen between its rings.
        _browser.Keyboard("w");
        _browser.Type("#size-percent", "160");
        _browser.WaitForText("#trial", "more than now");
        _browser.Keyboard(Keys.Enter);
        Changed(bench, "160 % of its size");
        _browser.WaitForStitches();
        Look(_browser, "b21-rings-160");
        (Thread() / before).ShouldBe(1.6 * 1.6, 0.3);
        BareOf(desk.Find(1)!.Plan, heart.Ground).ShouldBeLessThan(0.005);
        OnTheCloth();
        _browser.Press(Keys.Control, "z");
        Changed(bench, "Undid");
        desk.Find(1)!.Plan.Records.CountOf(StitchKind.Stitch).ShouldBe(heart.Stitches.CountOf(StitchKind.Stitch));

        // A badge under a loose lace fill keeps all its stitches when only what is seen is sewn; under close rows it does not.
        foreach (var (spacing, keeps) in new[] { (0.8, true), (0.4, false) })
        {
            _browser.Go(server.Address);
            var file = $"lace{spacing * 10:0}.csv";
            _browser.Drop((file, Csv("badge", Rows(24, 0.4, 90), Rows(34, spacing, 0))));
            _browser.WaitForText("#shelf-lists", file[..5]);
            _browser.Click($"[data-design='{(keeps ? 2 : 3)}'] .card-picture");
            _browser.WaitForStitches();
            _version = 1;
            var job = desk.Find(keeps ? 2 : 3)!;
            var badge = job.Plan.Parts[0].Count;
            _browser.Keyboard("3");
            _browser.WaitForText("#task-card", "Covered stitches");
            OnTheCloth();
            _browser.Keyboard("v");
            Changed(bench, "Left covered stitches out");
            (desk.Find(keeps ? 2 : 3)!.Plan.Parts[0].Count == badge).ShouldBe(keeps, $"rows {spacing} mm apart");
        }

        _browser.Complaints().ShouldBeEmpty();

        double Thread() => DensityMap.Of(desk.Find(1)!.Plan).TotalMm;
    }

    [Fact]
    public async Task Stretches_are_seen_when_pointed_at_and_a_wrong_reading_is_told_and_kept()
    {
        await using var server = await AppServer.StartAsync(demo: false);
        var bench = new BenchPage(_browser);
        var desk = server.Services.GetRequiredService<JobDesk>();
        _browser.Complaints();
        var heart = RingSamples.All.Single(s => s.Name == "heart").Stitches;
        OpenHeart(server, heart);
        ChooseHeart(bench);
        _browser.WaitForText("#passages", "Its stretches");
        _browser.Click("#passages summary");
        _browser.WaitForText("#passages ol", "fill in rings");
        Marked().ShouldBe(0);

        // By mouse and by keyboard; away from it the mark goes.
        _browser.Run("document.querySelector('[data-passage]').dispatchEvent(new PointerEvent('pointerover', { bubbles: true }))");
        _browser.WaitFor(() => Marked() > 500, "the stretch to be marked");
        Look(_browser, "b30-stretch");
        _browser.Run("document.querySelector('[data-passage]').dispatchEvent(new PointerEvent('pointerout', { bubbles: true, relatedTarget: document.body }))");
        _browser.WaitFor(() => Marked() == 0, "the mark to go");
        _browser.Run("document.querySelector('#passages select').focus()");
        _browser.WaitFor(() => Marked() > 500, "the stretch to be marked");

        // Told to be left as it is, it is so at any size, and after the page is opened anew.
        _browser.Select("#passages select", "leave as it is");
        Changed(bench, "as they are");
        _browser.WaitForText("#passages ol", "told by you");
        _browser.Find("#set-lighter").Enabled.ShouldBeFalse();
        Look(_browser, "b31-told");
        _browser.Go(_browser.Driver.Url);
        _browser.WaitForStitches();
        ChooseHeart(bench);
        _browser.WaitForText("#passages", "told by you");
        OnTheCloth();
        _browser.Keyboard("w");
        _browser.Type("#size-percent", "150");
        _browser.Keyboard(Keys.Enter);
        Changed(bench, "150 % of its size");
        desk.Find(1)!.Plan.Records.CountOf(StitchKind.Stitch).ShouldBe(heart.CountOf(StitchKind.Stitch));
        foreach (var _ in new[] { 1, 2 })
        {
            OnTheCloth();
            _browser.Press(Keys.Control, "z");
            Changed(bench, "Undid");
        }

        OnTheCloth();
        _browser.Keyboard("3");
        _browser.WaitForText("#passages", "sure");
        _browser.Complaints().ShouldBeEmpty();

        // Pixels in the colour of the mark.
        long Marked() => Convert.ToInt64(_browser.Run("const c = document.getElementById('cloth-marks'); const d = c.getContext('2d').getImageData(0, 0, c.width, c.height).data; let n = 0; for (let i = 0; i < d.length; i += 4) if (d[i + 3] > 60 && d[i] < 90 && d[i + 1] > 95 && d[i + 1] < 160 && d[i + 2] > 90 && d[i + 2] < 160 && d[i + 1] - d[i] > 50) n++; return n;"));
    }

    private static byte[] Csv(string name, params StitchBlob[] parts)
    {
        var (all, cuts) = (new StitchBuilder(), new List<StitchFilePart>());
        for (var n = 0; n < parts.Length; n++)
        {
            var first = all.Count;
            for (var i = 0; i < parts[n].Count; i++) all.Add(parts[n].Kinds[i], parts[n].At(i));
            cuts.Add(new(first, all.Count - first, new("Fenlight", $"{n + 1}", $"thread {n + 1}", Rgb.FromInt(0x2F4B7C + (n * 0x505000))), PartRole.Decoration));
        }

        return StitchFormats.Of(StitchFileKind.Csv).Write(new(name, all.ToBlob(), [.. cuts]));
    }

    /// <summary>Rows over a square about the middle, turned.</summary>
    private static StitchBlob Rows(double side, double spacing, double degrees)
    {
        var builder = new StitchBuilder();
        for (var row = 0; row * spacing <= side; row++)
            for (var s = 0; s <= 8; s++)
                builder.Stitch(new Point(side * (((row % 2 == 0 ? s : 8 - s) / 8.0) - 0.5), (row * spacing) - (side / 2)).Turned(degrees, Point.Zero));
        return builder.ToBlob();
    }

    /// <summary>Which part of a ground, grown to the plan's own size, has no thread within a third of a millimetre.</summary>
    private static double BareOf(SewingPlan plan, SKPath ground)
    {
        var (box, random, records) = (ground.TightBounds, new Random(7), plan.Records);
        var (bare, all) = (0, 0);
        while (all < 1_500)
        {
            var (x, y) = (random.NextDouble(), random.NextDouble());
            if (!ground.Contains((float)(box.Left + (x * box.Width)), (float)(box.Top + (y * box.Height)))) continue;
            all++;
            var place = new Point(plan.Bounds.MinX + (x * plan.Bounds.Width), plan.Bounds.MinY + (y * plan.Bounds.Height));
            if (!Enumerable.Range(1, records.Count - 1).Any(i => records.Kinds[i] == StitchKind.Stitch && records.Kinds[i - 1] == StitchKind.Stitch && Near(place, records.At(i - 1), records.At(i)))) bare++;
        }

        return bare / (double)all;

        static bool Near(Point p, Point a, Point b)
        {
            var along = b - a;
            var at = along.Length < 1e-9 ? 0 : Math.Clamp((p - a).Dot(along) / along.Dot(along), 0, 1);
            return a.Toward(b, at).DistanceTo(p) <= 0.33;
        }
    }

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
