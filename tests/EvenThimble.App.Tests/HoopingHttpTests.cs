using System.Globalization;
using System.Net;
using System.Text.RegularExpressions;
using EvenThimble.Core.Files.Stitch;
using EvenThimble.Core.Geometry;
using EvenThimble.Core.Jobs;
using EvenThimble.Core.Machines;
using EvenThimble.Core.Stitches;
using EvenThimble.Equipment;
using EvenThimble.Storage;
using EvenThimble.Web.Workroom;
using Microsoft.Extensions.DependencyInjection;
using UglyToad.PdfPig;
using UglyToad.PdfPig.Content;

namespace EvenThimble.App.Tests;

/// <summary>A banner longer than the hoop over real HTTP: divided, written as a set, on paper at true size, in hoops of one's own.</summary>
public class HoopingHttpTests() : BenchOverHttp(3)
{
    private const double PointsPerMm = 72 / 25.4;

    private OpenJob Open => Server.Services.GetRequiredService<JobDesk>().Find(3)!;

    [Fact]
    public async Task The_banner_is_divided_aligned_and_written_as_a_set_that_the_machine_lists_and_rehearses()
    {
        await OpenBanner();
        (await Said("mend", ("key", "divide-130x300-long"))).ShouldContain("2 hoopings");
        (await Said("crosses", ("wanted", "true"))).ShouldContain("Crosses to align by (2)");
        (await Said("seam", ("first", "0"), ("second", "1"), ("line", "-60,-4 60,-4"))).ShouldContain("Seam 1/2 where found");
        (await Said("landed", ("hooping", "1"), ("right", "0.6"), ("down", "0"), ("turned", "1"))).ShouldContain("turned 1°");
        Open.Job.Hoopings[1].Measured.ShouldBe(new(0.6, 0, 1));
        foreach (var (command, says, values) in new (string, string, (string, string)[])[]
        {
            ("landed", "not a length", [("hooping", "1"), ("right", "far")]),
            ("landed", "up to 20 mm", [("hooping", "1"), ("right", "90")]),
            ("seam", "two places", [("first", "0"), ("second", "1"), ("line", "3,3")]),
            ("seam", "no such seam", [("first", "1"), ("second", "7"), ("line", "0,0 10,0")]),
            ("give-hooping", "no such hooping", [("value", "9"), ("parts", $"{Open.Job.Order[0].Id.Value}")]),
            ("give-hooping", "Nothing is selected", [("value", "1")]),
            ("hoop", "no such hoop", [("machine", "heron-200"), ("hoop", "9x9")]),
            ("hold", "cannot be understood", [("basting", "glue"), ("start", "Centre"), ("end", "Centre")]),
        })
        {
            var answer = await Post(command, values);
            ((int)answer.StatusCode, command).ShouldBe((422, command));
            WebUtility.HtmlDecode(await answer.Content.ReadAsStringAsync()).ShouldContain(says);
        }

        var page = await (await PostTo("/jobs/3/ready", ("machines", "heron-200"), ("name-heron-200", "banner.evth"), ("where-heron-200", "heron-200"))).Content.ReadAsStringAsync();
        page.ShouldContain("banner 1of2.evth");
        var machine = Server.Services.GetRequiredService<EquipmentRoom>().Machine("heron-200")!;
        machine.List().Select(l => (l.FileName, l.Listed)).ShouldBe([("banner 1of2.evth", true), ("banner 2of2.evth", true)]);
        var files = machine.Memory.Files().Select(f => StitchFormats.Read(machine.Memory.Read(f.Name), f.Name).File).ToList();
        files.Select(f => f.Hoop).ShouldBe([new("130 × 300 long hoop", 1, 3, 0, -60), new("130 × 300 long hoop", 3, 3, 0, 60)]);
        files[1].Stitches.Messages.Values.First().ShouldBe("Hooping 2 of 2: hoop at position 3 of 3");
        (await PostTo("/jobs/3/ready", ("machines", "heron-200"), ("name-heron-200", "banner.evth"), ("where-heron-200", "heron-200"))).StatusCode.ShouldBe(HttpStatusCode.UnprocessableEntity, "a file of the set is there already");

        (await Http.GetStringAsync("/machine-room")).ShouldContain("is a set of 2 hoopings");
        var rehearsal = WebUtility.HtmlDecode(await Http.GetStringAsync("/machine-room/rehearse?machine=heron-200&file=banner%202of2.evth"));
        rehearsal.IndexOf("banner 1of2", StringComparison.Ordinal).ShouldBeLessThan(rehearsal.IndexOf("banner 2of2", StringComparison.Ordinal));
        rehearsal.ShouldContain("position 3 of 3");
        machine.Memory.Delete("banner 1of2.evth");
        (await Http.GetStringAsync("/machine-room")).ShouldContain("number 1 is not here");
        (await Http.GetStringAsync("/machine-room/rehearse?machine=heron-200&file=banner%202of2.evth")).ShouldContain("number 1 is missing");
        (await Http.GetAsync("/machine-room/rehearse?machine=heron-200&file=..%2Fthimble.db")).StatusCode.ShouldBe(HttpStatusCode.OK, "there is no such file, said in a sentence");

        var export = await Http.GetAsync("/jobs/3/ready?handler=Download&machine=heron-200&hooping=2");
        StitchFormats.Read(await export.Content.ReadAsByteArrayAsync(), "x.evth").File.Stitches.Hash.ShouldBe(files[1].Stitches.Hash);
        (await Said("undivide")).ShouldContain("does not fit");
        Open.Job.Hoopings.Length.ShouldBe(1);
    }

    [Theory]
    [InlineData("a4", 210, 297, 2)]
    [InlineData("letter", 215.9, 279.4, 2)]
    public async Task Templates_are_at_true_size_over_as_many_sheets_as_they_take(string paper, double wide, double high, int sheets)
    {
        await OpenBanner();
        await Said("mend", ("key", "divide-130x300-long"));
        await Said("crosses", ("wanted", "true"));
        using var whole = PdfDocument.Open(await Http.GetByteArrayAsync($"/jobs/3/sheet?handler=Template&of=whole&paper={paper}"));
        whole.NumberOfPages.ShouldBe(sheets);
        foreach (var page in whole.GetPages())
        {
            (page.Width / PointsPerMm, page.Height / PointsPerMm).ShouldSatisfyAllConditions(s => s.Item1.ShouldBe(wide, 0.2), s => s.Item2.ShouldBe(high, 0.2));
            Rule(page).ShouldBe(50, 0.05);
        }

        foreach (var (of, mirrored) in new[] { ("1", false), ("2", false), ("2", true) })
        {
            using var pdf = PdfDocument.Open(await Http.GetByteArrayAsync($"/jobs/3/sheet?handler=Template&of={of}&paper={paper}&mirrored={mirrored}"));
            pdf.NumberOfPages.ShouldBe(1);
            var hooping = Open.Hooped.Hoopings[int.Parse(of, CultureInfo.InvariantCulture) - 1];
            var lines = Lines(pdf.GetPage(1)).ToList();

            // The crosshair's two strokes of 20 mm meet in the middle of the field; each cross has two of 8 mm.
            var centre = Meeting(lines, 20).ShouldHaveSingleItem();
            var side = mirrored ? -1 : 1;
            var spots = Meeting(lines, 8).Select(p => new Point(side * (p.X - centre.X), p.Y - centre.Y) + hooping.Place.Centre).OrderBy(p => p.X).ToList();
            var wanted = Open.Hooped.Crosses.OrderBy(p => p.X).ToList();
            spots.Count.ShouldBe(wanted.Count);
            for (var i = 0; i < spots.Count; i++) spots[i].DistanceTo(wanted[i]).ShouldBeLessThan(0.1);
            pdf.GetPage(1).Text.ShouldContain("top of the hoop");
        }

        using var stabilizer = PdfDocument.Open(await Http.GetByteArrayAsync($"/jobs/3/sheet?handler=Template&of=stabilizer&paper={paper}"));
        stabilizer.GetPages().SelectMany(p => Meeting([.. Lines(p)], 20)).Count().ShouldBeGreaterThanOrEqualTo(3);
        (await Http.GetAsync("/jobs/3/sheet?handler=Template&of=9")).StatusCode.ShouldBe(HttpStatusCode.NotFound);
    }

    [Fact]
    public async Task The_sewing_sheet_names_every_thread_stop_and_file_on_one_page()
    {
        await OpenBanner();
        await Said("mend", ("key", "divide-130x300-long"));
        await Said("crosses", ("wanted", "true"));
        await Said("notes", ("notes", "Iron it first.\nÄrmel: links"));
        using var pdf = PdfDocument.Open(await Http.GetByteArrayAsync("/jobs/3/sheet?handler=Paper"));
        pdf.NumberOfPages.ShouldBe(1);
        var text = string.Join(' ', pdf.GetPage(1).GetWords().Select(w => w.Text));
        foreach (var thread in Open.Plan.Threads) text.ShouldContain(thread.Number);
        foreach (var said in new[] { "Constellation banner 1of2.evth", "Constellation banner 2of2.evth", "hoop at position 3 of 3", "Heron 200", "130 × 300 long hoop", "medium tear-away", "118 × 285 mm", "Iron it first.", "Ärmel: links", "left 6" })
            text.ShouldContain(said);
        var page = await Http.GetStringAsync("/jobs/3/sheet");
        Regex.Count(page, "data-tick=").ShouldBe(Open.Hooped.Hoopings.Sum(h => h.Plan.ThreadChanges + 1) + 2, "a line for each thread that is taken, and a stop for each hooping");
        (await Http.GetAsync("/jobs/99/sheet")).StatusCode.ShouldBe(HttpStatusCode.NotFound);
    }

    [Fact]
    public async Task A_hoop_of_ones_own_can_be_chosen_and_what_cannot_be_is_refused()
    {
        (string, string)[] Hoop(string name, string width, string positions = "1", string step = "0", string shape = "Rounded") =>
            [("machine", "wren-130"), ("name", name), ("shape", shape), ("width", width), ("height", "90"), ("corner", "20"), ("margin", "2"), ("positions", positions), ("step", step), ("across", "false")];
        foreach (var (values, says) in new[] { (Hoop("mine", "0"), "20 to 1500 mm"), (Hoop("mine", "wide"), "not a length"), (Hoop("", "90"), "needs a name"), (Hoop("mine", "90", "3", "95"), "do not overlap") })
        {
            var answer = await PostTo("/equipment/hoops?handler=Save", values);
            answer.StatusCode.ShouldBe(HttpStatusCode.UnprocessableEntity);
            WebUtility.HtmlDecode(await answer.Content.ReadAsStringAsync()).ShouldContain(says);
        }

        WebUtility.HtmlDecode(await (await PostTo("/equipment/hoops?handler=Save", Hoop("Pocket frame", "96"))).Content.ReadAsStringAsync()).ShouldContain("Kept “Pocket frame”");
        var machines = Server.Services.GetRequiredService<MachineCatalogue>();
        var own = machines.Find("wren-130")!.Hoops[^1];
        (own.Name, own.InnerWidth, own.Shape, own.IsOwn).ShouldBe(("Pocket frame", 92, FieldShape.Rounded, true));
        await PostTo("/jobs/1/do/hoop", ("machine", "wren-130"), ("hoop", own.Id), ("version", "1"));
        var desk = Server.Services.GetRequiredService<JobDesk>();
        desk.Find(1)!.Field.ShouldBe(own);
        (await Http.GetByteArrayAsync($"/jobs/1/in/wren-130/{own.Id}.png")).Length.ShouldBeGreaterThan(500);
        (await PostTo("/equipment/hoops?handler=Save", Hoop("Pocket frame", "70"))).StatusCode.ShouldBe(HttpStatusCode.UnprocessableEntity, "the name is taken");
        await PostTo("/equipment/hoops?handler=Save", [("id", own.Id), .. Hoop("Pocket frame", "70")]);
        desk.Find(1)!.Field.Width.ShouldBe(70, "jobs follow their hoop");
        await PostTo($"/equipment/hoops?handler=Delete&id={own.Id}");
        desk.Find(1)!.Field.Name.ShouldBe("100 × 100");
    }

    private async Task OpenBanner()
    {
        var banner = Server.Services.GetRequiredService<DesignStore>().All().First(d => d.Title == "Constellation banner");
        await PostTo("/?handler=Open", ("id", banner.Id.ToString(CultureInfo.InvariantCulture)));
    }

    private async Task<string> Said(string command, params (string, string)[] values)
    {
        var answer = await Post(command, [.. values, ("task", "hoop")]);
        var text = WebUtility.HtmlDecode(await answer.Content.ReadAsStringAsync());
        answer.StatusCode.ShouldBe(HttpStatusCode.OK, text);
        return text;
    }

    /// <summary>Straight strokes of a page: ends in mm, y down as on the sheet.</summary>
    private static IEnumerable<(Point From, Point To)> Lines(Page page) => page.Paths.SelectMany(p => p).Where(s => s.Commands.Count >= 2).SelectMany(s => s.Commands.OfType<UglyToad.PdfPig.Core.PdfSubpath.Line>())
        .Select(l => (new Point(l.From.X / PointsPerMm, (page.Height - l.From.Y) / PointsPerMm), new Point(l.To.X / PointsPerMm, (page.Height - l.To.Y) / PointsPerMm)));

    /// <summary>Where an upright and a level stroke of a length meet in their middles.</summary>
    private static List<Point> Meeting(IReadOnlyList<(Point From, Point To)> lines, double length)
    {
        var those = lines.Where(l => Math.Abs(l.From.DistanceTo(l.To) - length) < 0.05).ToList();
        var (level, upright) = (those.Where(l => Math.Abs(l.From.Y - l.To.Y) < 0.01), those.Where(l => Math.Abs(l.From.X - l.To.X) < 0.01).ToList());
        return [.. level.Select(l => l.From.Toward(l.To, 0.5)).Where(m => upright.Exists(u => u.From.Toward(u.To, 0.5).DistanceTo(m) < 0.1)).Distinct()];
    }

    /// <summary>The length of the rule: the level stroke beside the words "50 mm".</summary>
    private static double Rule(Page page)
    {
        var word = page.GetWords().First(w => w.Text == "50");
        var y = (page.Height - word.BoundingBox.Bottom) / PointsPerMm;
        return Lines(page).Where(l => Math.Abs(l.From.Y - l.To.Y) < 0.01 && Math.Abs(l.From.Y - y) < 1 && l.To.X < (word.BoundingBox.Left / PointsPerMm) + 1).Select(l => l.From.DistanceTo(l.To)).Max();
    }
}
