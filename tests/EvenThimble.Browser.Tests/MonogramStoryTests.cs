using EvenThimble.Core.Colour;
using EvenThimble.Core.Craft;
using EvenThimble.Core.Files.Stitch;
using EvenThimble.Core.Jobs;
using EvenThimble.Core.Monograms;
using EvenThimble.Core.Readiness;
using EvenThimble.Core.Stitches;
using EvenThimble.Scenario;
using EvenThimble.Storage;
using EvenThimble.Web.Workroom;
using Microsoft.Extensions.DependencyInjection;
using OpenQA.Selenium;

namespace EvenThimble.Browser.Tests;

/// <summary>A name is written on a luggage tag with a letter set, and a cushion gets a monogram.</summary>
[Collection(BrowserCollection.Name)]
public class MonogramStoryTests(SharedBrowser shared)
{
    private readonly Browser _browser = shared.Browser;

    [Fact]
    public async Task A_name_is_written_on_a_luggage_tag_with_a_letter_set_lighter_and_before_the_tag_is_closed()
    {
        await using var server = await AppServer.StartAsync(demo: true);
        var (bench, desk) = (new BenchPage(_browser), server.Services.GetRequiredService<JobDesk>());
        _browser.Complaints();
        var id = OpenTag(server.Services);
        bench.Open(server.Address, id);
        var parts = bench.Order.Count;

        // Clicked, typed, in the set, as wide as the tag with a margin, in one thread.
        _browser.Keyboard("4");
        _browser.WaitForText("#task-card h2", "Letters");
        bench.ClickCloth(0, -27);
        _browser.Find("#letters-text").SendKeys("HALDEN");
        bench.ChooseFont(OrbitBlock.Name);
        _browser.Type("#letters-width", "48");
        _browser.WaitForText("#trial", "Not kept yet");
        Look("tag-typed");
        _browser.Click("#write");
        bench.WaitForVersion(2);
        bench.Order.Count.ShouldBe(parts + 1, "all letters are one part");
        var written = Written(desk.Find(id)!.Job);
        written.How.OneThread.ShouldBe(written.ThreadsAsCame[0]);
        bench.Selected.Count.ShouldBe(1);
        var name = new PartId(int.Parse(bench.Selected[0], System.Globalization.CultureInfo.InvariantCulture));
        desk.Find(id)!.Plan.BoundsOf(new HashSet<PartId> { name }).Width.ShouldBe(48, 0.3);

        // Lighter for vinyl, seen before it is kept.
        var before = Stitches(desk, id, name);
        _browser.Click("[data-task=stitch]");
        _browser.WaitForText("#task-card h2", "Stitch");
        _browser.Unfold("#suit");
        _browser.Click("[data-do=suit][data-value=vinyl]");
        bench.WaitForVersion(3);
        Stitches(desk, id, name).ShouldBeLessThan((int)(before * 0.8));

        // It would sew through the back; readiness says so, and a button puts it right.
        _browser.Click("[data-task=check]");
        _browser.WaitForText("#task-card", "would show on the back");
        _browser.Click("[data-remedy^=before-closing]");
        bench.WaitForVersion(4);
        _browser.WaitForText("#readiness-chip", "ready");
        var job = desk.Find(id)!;
        job.Findings.ShouldAllBe(f => f.Level == FindingLevel.Note);
        var order = job.Plan.Parts.Select(p => p.Id).ToList();
        var stop = job.Plan.Records.Kinds.LastIndexOf(StitchKind.Stop);
        job.Plan.Parts[order.IndexOf(name)].End.ShouldBeLessThan(stop, "before the back is laid");

        // Rehearsed.
        _browser.Run("document.activeElement.blur()");
        _browser.Keyboard(">");
        _browser.WaitFor(() => bench.Needle > 0, "the needle moves");
        Look("tag-sewn");
        _browser.Complaints().ShouldBeEmpty();
    }

    [Fact]
    public async Task Many_files_come_in_one_after_another_can_be_stopped_and_are_called_by_what_they_have_in_common()
    {
        await using var server = await AppServer.StartAsync(demo: true);
        var sets = server.Services.GetRequiredService<LetterSetStore>();
        var folder = Directory.CreateTempSubdirectory("thimble-set-").FullName;
        try
        {
            // One alphabet in two sizes, and some files that are no letters.
            var letters = OrbitBlock.Files.Select(f => (f.FileName, Bytes: StitchFormats.Write(StitchFileKind.Evth2, f.Draw()))).ToList();
            var names = Enumerable.Range(0, 120).Select(n => n < 96 ? $"{10 + (5 * (n / letters.Count))}mm_{letters[n % letters.Count].FileName}" : $"read me {n}.evth").ToList();
            foreach (var (name, n) in names.Select((name, n) => (name, n))) await File.WriteAllBytesAsync(Path.Combine(folder, name), letters[n % letters.Count].Bytes);
            var paths = string.Join('\n', names.Select(n => Path.Combine(folder, n)));
            _browser.Go($"{server.Address}/letters");
            _browser.Complaints();
            _browser.Run("document.getElementById('set-files').hidden = false");
            _browser.Find("#set-files").SendKeys(paths);
            _browser.WaitForText("#set-progress span", "of 120");
            _browser.Click("#set-progress button");
            _browser.WaitForText("#said", "Stopped. Nothing was brought in.");
            sets.All.Count.ShouldBe(1);
            _browser.Find("#set-files").SendKeys(paths);
            _browser.WaitFor(() => _browser.Driver.Url.Contains("/letters/sets/", StringComparison.Ordinal), "the set");
            sets.All.Count.ShouldBe(2);
            sets.All.ShouldContain(s => s.Name == "orbit block 2", "Orbit Block is there already");
            Look("many-files");
            _browser.Complaints().ShouldBeEmpty();
        }
        finally
        {
            Directory.Delete(folder, recursive: true);
        }
    }

    [Fact]
    public async Task A_monogram_in_a_ring_with_a_laurel_is_laid_recoloured_and_gets_another_middle_letter()
    {
        await using var server = await AppServer.StartAsync(demo: false);
        var (bench, desk) = (new BenchPage(_browser), server.Services.GetRequiredService<JobDesk>());
        var id = server.Services.GetRequiredService<JobStore>().Create(
            Job.New(server.Services.GetRequiredService<Core.Machines.MachineCatalogue>().HoopFor(new(-70, -70, 70, 70))) with { Title = "Satin cushion", Cloth = Cloth.Of(ClothProfiles.Find("satin")!) }, "Begun");
        _browser.Go($"{server.Address}/jobs/{id}");
        _browser.Click("[data-task=letters]");
        _browser.WaitForText("#task-card h2", "Letters");
        _browser.Click("#task-card [data-task=monogram]");
        _browser.WaitForText("#task-card h2", "Monogram");
        _browser.Complaints();

        // A name: it is asked where the family's initial goes.
        _browser.Type("#monogram-letters", "Marguerite Anne Fothergill");
        _browser.Find("#monogram-order").Displayed.ShouldBeTrue();
        _browser.Click("#monogram-layouts label:has([value=circle])");
        _browser.Click("#monogram-frames label:has([value=laurel-ring])");
        _browser.Type("#monogram-size", "90");
        _browser.Type("#monogram-gap", "4");
        _browser.WaitForText("#trial", "Not kept yet");
        _browser.Click("#make-monogram");
        bench.WaitForVersion(2);
        bench.Order.ShouldBe(["M", "F", "A", "ring", "stems", "leaves"]);
        var job = desk.Find(id)!;
        Math.Max(job.Plan.Bounds.Width, job.Plan.Bounds.Height).ShouldBe(90, 0.15);
        ((MonogramContent)job.Job.Pieces[0].Content).Sewn(job.Job.Cloth.Profile).GapMm!.Value.ShouldBe(4, 0.1);
        Look("monogram");

        // Recoloured: the middle letter. It keeps its thread when it becomes another.
        var middle = job.Job.Order[1];
        _browser.Click("#line-parts li:nth-child(2)");
        bench.WaitForSelected(middle.Id.Value);
        _browser.Click("[data-task=threads]");
        _browser.WaitForText("#task-card h2", "Threads");
        _browser.Click("#thread-list li:nth-child(9) button:not([disabled])");
        bench.WaitForVersion(3);
        var thread = desk.Find(id)!.Job.Order[1].OwnThread.ShouldNotBeNull();
        _browser.Click("[data-task=letters]");
        _browser.WaitForText("#task-card h2", "Letters");
        _browser.Click("#task-card [data-task=monogram]");
        _browser.WaitForText("#make-monogram", "Lay it anew");
        _browser.Type("#monogram-letters", "MQA");
        _browser.Click("#make-monogram");
        bench.WaitForVersion(4);
        bench.Order.ShouldBe(["M", "Q", "A", "ring", "stems", "leaves"]);
        desk.Find(id)!.Job.Order[1].Id.ShouldBe(middle.Id);
        desk.Find(id)!.Job.Order[1].Thread.ShouldBe(thread);
        desk.Find(id)!.Job.Pieces[0].Content.ShouldBeOfType<MonogramContent>().Wish.Layout.ShouldBe(MonogramLayout.Find("circle"));

        // Too small for its frame: a sentence, and nothing is lost.
        _browser.Type("#monogram-size", "20");
        _browser.Click("#make-monogram");
        _browser.WaitForText("body", "no room for letters");
        bench.Version.ShouldBe("4");
        _browser.Find("#monogram-size").GetAttribute("value").ShouldBe("20");

        // A border around all of it, seen before it is kept.
        _browser.Click("[data-task=arrange]");
        _browser.WaitForText("#task-card h2", "Arrange");
        _browser.Click("#task-card [data-task=border]");
        _browser.WaitForText("#task-card h2", "Border");
        _browser.Type("#border-distance", "5");
        _browser.Click("#border-frames label:has([value=rope])");
        _browser.WaitForText("#trial", "Not kept yet");
        Look("border");
        _browser.Click("#put-border");
        bench.WaitForVersion(5);
        bench.Order[^1].ShouldBe("rope");
        desk.Find(id)!.Job.Pieces[^1].Content.ShouldBeOfType<BorderContent>().SewnMm(ClothProfiles.Find("satin")!).ShouldBe(5, 0.1);
        _browser.Complaints().ShouldAllBe(c => c.Contains("monogram"));
    }

    private static LetterSetContent Written(Job job) => job.Pieces[^1].Content.ShouldBeOfType<LetterSetContent>();

    private static int Stitches(JobDesk desk, long id, PartId part) => desk.Find(id)!.Plan is var plan ? plan.Parts.Where(p => p.Id == part).Sum(p => plan.Records.Kinds.Slice(p.First, p.Count).Count(StitchKind.Stitch)) : 0;

    private static long OpenTag(IServiceProvider services)
    {
        var designs = services.GetRequiredService<DesignStore>();
        var tag = designs.All().Single(d => d.FileName == "luggage-tag.evth");
        var file = designs.Load(tag.Id, services.GetRequiredService<BlobStore>())!;
        var job = Job.FromDesign(tag.OriginalHash, file, services.GetRequiredService<Core.Machines.MachineCatalogue>().HoopFor(file.Bounds));
        return services.GetRequiredService<JobStore>().Create(job with { Cloth = Cloth.Of(ClothProfiles.Find("vinyl")!) }, "Opened Luggage tag");
    }

    private void Look(string name)
    {
        if (Environment.GetEnvironmentVariable("THIMBLE_LOOK") is not { Length: > 0 } folder) return;
        Thread.Sleep(900);
        Directory.CreateDirectory(folder);
        _browser.Shoot(Path.Combine(folder, name + ".png"));
    }
}
