using System.Globalization;
using System.Net;
using System.Text;
using System.Text.RegularExpressions;
using EvenThimble.Core.Files.Stitch;
using EvenThimble.Core.Machines;
using EvenThimble.Core.Rack;
using EvenThimble.Core.Stitches;
using EvenThimble.Core.Threads;
using EvenThimble.Equipment;
using EvenThimble.Rendering.Sheets;
using EvenThimble.Storage;
using EvenThimble.Web.Workroom;
using Microsoft.Extensions.DependencyInjection;
using UglyToad.PdfPig;
using UglyToad.PdfPig.Content;

namespace EvenThimble.App.Tests;

/// <summary>The thread box over real HTTP: what is kept, what is refused in words, and its papers.</summary>
public class ThreadBoxHttpTests() : BenchOverHttp(1)
{
    private static readonly ThreadChart Rayon = MadeUpCharts.All[0];

    private RackStore Racks => Server.Services.GetRequiredService<RackStore>();

    private ThreadStore Charts => Server.Services.GetRequiredService<ThreadStore>();

    private OpenJob Open => Server.Services.GetRequiredService<JobDesk>().Find(1)!;

    private byte[] Written(SewingMachineModel machine)
    {
        var desk = Server.Services.GetRequiredService<HandOver>();
        var plan = desk.PlanFor(Open, machine);
        return desk.Write(Open, plan, plan.Hoopings[0]);
    }

    [Fact]
    public async Task A_rack_is_filled_in_every_way_and_what_cannot_be_is_told_and_kept_aside()
    {
        var rack = Racks.AddRack("Project");
        await Said(PostTo($"/rack?handler=Add&rack={rack}", ("line", "1001")), "Fenlight 1001");
        await Said(PostTo($"/rack?handler=Add&rack={rack}", ("line", "1001")), "2 cones");
        await Said(PostTo($"/rack?handler=Add&rack={rack}", ("line", "12")), "No chart has the number 12", HttpStatusCode.UnprocessableEntity);
        foreach (var nothing in new[] { "number", ";", "number;name", "\"" }) (await PostTo($"/rack?handler=Add&rack={rack}", ("line", nothing))).StatusCode.ShouldBe(HttpStatusCode.UnprocessableEntity, nothing);
        await Said(PostTo($"/rack?handler=Paste&rack={rack}", ("lines", "number;colour;left\n5;#123456;3 m")), "1 thread taken");
        await Said(PostTo($"/rack?handler=Change&rack={rack}", ("of", ""), ("number", "5"), ("left", "7 m")), "7 m left");
        await Said(PostTo($"/rack?handler=Off&rack={rack}", ("of", ""), ("number", "5")), "5 is off the rack");
        await Said(PostTo($"/rack?handler=Add&rack={rack}", ("line", "")), "Type the number", HttpStatusCode.UnprocessableEntity);
        await Said(PostTo($"/rack?handler=Paste&rack={rack}", ("lines", "Fenlight 1004 x3\n<script>alert(1)</script>\n1004")), "1 line kept aside");
        Racks.Cones(rack).Single(c => c.Thread.Number == "1004").Count.ShouldBe(4);
        await Said(PostTo($"/rack?handler=Range&rack={rack}", ("chart", MadeUpCharts.All[4].Key)), "120 cones of Glimmerdale Metallic");
        await Said(PostTo($"/rack?handler=Range&rack={rack}", ("chart", "no|such")), "Choose a range", HttpStatusCode.UnprocessableEntity);
        await Said(PostTo($"/rack?handler=Import&rack={rack}", ("_", "")), "Choose a file", HttpStatusCode.UnprocessableEntity);
        var before = Racks.Cones(rack).Sum(c => c.LeftMetres);
        await Said(PostTo($"/rack?handler=Paste&rack={rack}", ("lines", string.Join('\n', Enumerable.Range(0, 100_000)))), "more than 20,000 lines", HttpStatusCode.UnprocessableEntity);
        Racks.Cones(rack).Sum(c => c.LeftMetres).ShouldBe(before);

        // Told anew, one thing at a time.
        await Said(Change(rack, "1001", ("left", "40 %")), "800 m left on 2 cones");
        await Said(Change(rack, "1001", ("count", "3")), "1800 m left on 3 cones");
        await Said(Change(rack, "1001", ("stands", "tea tin")), "1800 m");
        await Said(Change(rack, "1001", ("empty", "14 g")), "1800 m");
        await Said(Change(rack, "1001", ("left", "62g")), "800 m left");
        Racks.Cones(rack).Single(c => c.Thread.Number == "1001").ShouldSatisfyAllConditions(c => c.Stands.ShouldBe("tea tin"), c => c.EmptyGrams.ShouldBe(14));
        foreach (var (field, value, says) in new[] { ("left", "-1", "less than nothing"), ("left", "moon", "no amount of thread"), ("count", "0", "1 to 1,000 cones"), ("full", "1e9", "no length of a full cone"), ("low", "-4", "from 0 m on"), ("stands", new string('x', 60), "40 letters") })
            await Said(Change(rack, "1001", (field, value)), says, HttpStatusCode.UnprocessableEntity);
        await Said(Change(rack, "77", ("left", "1")), "not on this rack any more", HttpStatusCode.UnprocessableEntity);

        // Searched, filtered, exported and read again into another.
        (await Http.GetStringAsync($"/rack?handler=List&rack={rack}&find=1004")).ShouldSatisfyAllConditions(list => list.ShouldContain("data-cone=\"1004\""), list => list.ShouldNotContain("data-cone=\"1001\""));
        (await Http.GetStringAsync($"/rack?handler=List&rack={rack}&show=low")).ShouldNotContain("data-cone=\"1004\"");
        var other = Racks.AddRack("Another");
        using var form = new MultipartFormDataContent { { new ByteArrayContent(await Http.GetByteArrayAsync($"/rack?handler=Export&rack={rack}")), "file", "rack.csv" } };
        await Said(Http.PostAsync($"/rack?handler=Import&rack={other}", form), "threads taken");
        Racks.Cones(other).ShouldBe(Racks.Cones(rack));
        await Said(PostTo($"/rack?handler=Off&rack={rack}", ("of", "Fenlight"), ("number", "1001")), "off the rack");
        await Said(PostTo($"/rack?handler=Rename&rack={rack}", ("name", "Another")), "Another rack is called", HttpStatusCode.UnprocessableEntity);
    }

    [Fact]
    public async Task Charts_of_ones_own_are_shown_before_they_are_taken_and_a_chart_read_again_loses_nothing()
    {
        const string list = "Nr;Name;Farbe;m;Preis\n12;Sea;#102030;400 m;4,20 €\n13;Sky;aabbcc;;\n14;Moon;moonish;;\n";
        var shown = await Said(PostTo("/equipment/ranges?handler=Look", ("maker", "Larkmoor Mill"), ("range", "Cotton 50"), ("lines", list)), "2 threads of Larkmoor Mill Cotton 50");
        shown.ShouldContain("“moonish” is no colour");
        Charts.Charts.ShouldNotContain(c => c.Maker == "Larkmoor Mill");
        await Said(PostTo("/equipment/ranges?handler=Take", ("maker", "Larkmoor Mill"), ("range", "Cotton 50"), ("lines", list)), "2 new");
        Charts.Find("Larkmoor Mill", "12")!.Name.ShouldBe("Sea");
        Charts.Sold(Charts.Find("Larkmoor Mill", "12")!).ShouldSatisfyAllConditions(s => s!.ConeMetres.ShouldBe(400), s => s!.Price.ShouldBe(4.20m), s => s!.Make.ShouldBe(new ThreadMake(Fibre.Cotton, 50)));
        var rack = Racks.Racks[0].Id;
        await Said(PostTo($"/rack?handler=Add&rack={rack}", ("line", "Larkmoor Mill 13 x2")), "2 cones");
        await Said(PostTo("/equipment/ranges?handler=Take", ("maker", "Larkmoor Mill"), ("range", "Cotton 50"), ("lines", "number,name,colour\n13,Evening sky,#ccbbaa\n15,Dune,#d0b080")), "1 new, 1 brought up to date");
        Charts.Charts.Single(c => c.Maker == "Larkmoor Mill").Threads.Select(t => t.Name).ShouldBe(["Sea", "Evening sky", "Dune"]);
        Racks.Cones(rack).Single(c => c.Thread.Maker == "Larkmoor Mill").ShouldSatisfyAllConditions(c => c.Thread.Name.ShouldBe("Evening sky"), c => c.Count.ShouldBe(2), c => c.LeftMetres.ShouldBe(1_000));
        await Said(PostTo("/equipment/ranges?handler=Take", ("maker", "Larkmoor Mill"), ("range", "Silk 60"), ("lines", "number,name,colour\n13,x,#ccbbaa\n99,y,#d0b080")), "another range of Larkmoor Mill has those numbers already (13)");
        foreach (var (maker, lines, says) in new[] { ("", list, "needs a maker"), ("A", "", "Choose a file or paste"), ("A", "hello there", "No column"), ("A", "number,name\n1,\"x", "never closed") })
            await Said(PostTo(maker.Length == 0 ? "/equipment/ranges?handler=Take" : "/equipment/ranges?handler=Look", ("maker", maker), ("range", "R"), ("lines", lines)), says, HttpStatusCode.UnprocessableEntity);
        await Said(PostTo("/equipment/ranges?handler=Thread", ("maker", "Larkmoor Mill"), ("range", "Cotton 50"), ("number", "16"), ("name", "Ash"), ("colour", "#777777"), ("metres", "-3")), "no length of a cone", HttpStatusCode.UnprocessableEntity);
        await Said(PostTo("/equipment/ranges?handler=Thread", ("maker", "Larkmoor Mill"), ("range", "Cotton 50"), ("number", "16"), ("name", "Ash"), ("colour", "#777777")), "Larkmoor Mill 16 Ash is in");

        // What is bought comes first everywhere; taken out, its cones stay.
        foreach (var chart in new[] { "Glimmerdale|Metallic", "Larkmoor Mill|Cotton 50" }) await Said(PostTo("/equipment/ranges?handler=Buy", ("chart", chart), ("how", "buy")), "Larkmoor");
        await Said(PostTo("/equipment/ranges?handler=Buy", ("chart", "Larkmoor Mill|Cotton 50"), ("how", "up")), "Larkmoor");
        Charts.Charts.Take(2).Select(c => c.Key).ShouldBe(["Larkmoor Mill|Cotton 50", "Glimmerdale|Metallic"]);
        Charts.ThreadsOf(null).Count.ShouldBe(124);
        (await Http.GetStringAsync("/jobs/1/part/threads?find=ash")).ShouldNotContain("Fenlight");
        (await Http.GetStringAsync("/jobs/1/part/threads?find=ash&chart=all")).ShouldContain("Fenlight");
        await Said(PostTo("/equipment/ranges?handler=TakeOut", ("chart", "Fenlight|Rayon 40")), "comes with the program and stays");
        await Said(PostTo("/equipment/ranges?handler=TakeOut", ("chart", "Larkmoor Mill|Cotton 50")), "taken out");
        Racks.Cones(rack).ShouldContain(c => c.Thread.Maker == "Larkmoor Mill");
    }

    [Fact]
    public async Task A_job_is_sewn_from_the_rack_in_one_step_and_a_substitution_is_remembered()
    {
        var rack = Racks.AddRack("Project");
        Racks.Put(rack, Rayon.Sold.Where((s, n) => n % 5 == 2 && !Open.Plan.Threads.Contains(s.Thread)).Select(s => Cone.Full(s)));
        Racks.SetRackOf(1, rack);
        var before = Job;
        var card = await Http.GetStringAsync("/jobs/1/part/from-rack");
        var options = Regex.Matches(card, "<select name=\"pair\".*?</select>", RegexOptions.Singleline).Select(s => Regex.Matches(s.Value, "value=\"([^\"]+)\"").Select(v => WebUtility.HtmlDecode(v.Groups[1].Value)).ToList()).ToList();
        options.Count.ShouldBe(Open.Plan.Threads.Length);
        options.ShouldAllBe(o => o.Count == 6, "the match and the next five");
        string[] taken = [options[0][0], options[1][2], options[2][0], options[3][0]];
        var picture = await Http.GetByteArrayAsync($"/jobs/1/part/in-threads?from=rack:{rack}&{string.Join('&', taken.Select(t => $"pair={Uri.EscapeDataString(t)}"))}");
        picture.AsSpan(1, 3).SequenceEqual("PNG"u8).ShouldBeTrue();
        picture.ShouldNotBe(await Http.GetByteArrayAsync("/jobs/1/part/in-threads"));
        await Said(Post("sewn-from", ("from", $"rack:{rack}"), ("pair", "0:Fenlight|1")), "not there any more", HttpStatusCode.UnprocessableEntity);
        await Said(Post("sewn-from", ("from", $"rack:{rack}")), "sewn in those threads already", HttpStatusCode.UnprocessableEntity);
        Job.ShouldBe(before);
        await Said(Post("sewn-from", [("from", $"rack:{rack}"), .. taken.Select(t => ("pair", t))]), "Sewn from Project");
        Open.Plan.Threads.Select(t => t.Number).ShouldBe(taken.Select(t => t.Split('|')[1]));
        Server.Services.GetRequiredService<JobStore>().History(1).Count(l => l.Label.StartsWith("Sewn from Project", StringComparison.Ordinal)).ShouldBe(1);
        await Said(Post("undo"), "Undid");
        Job.ShouldBe(before);

        // One of them alone; then, one chosen, the others are found anew, also where more is to choose from.
        await Said(Post("sewn-from", [("from", $"rack:{rack}"), ("only", "2"), .. taken.Select(t => ("pair", t))]), "Sewn from Project");
        Open.Plan.Threads.Where((_, n) => n != 2).ShouldBe(before.Palette.Threads.Where((_, n) => n != 2));
        Open.Plan.Threads[2].Number.ShouldBe(taken[2].Split('|')[1]);
        await Said(Post("undo"), "Undid");
        var more = await Http.GetStringAsync($"/jobs/1/part/from-rack?from=rack:{rack}&from={Uri.EscapeDataString(Rayon.Key)}&held={Uri.EscapeDataString(options[1][3])}");
        Regex.Matches(more, "the same thread").Count.ShouldBeGreaterThanOrEqualTo(3);
        Regex.Matches(more, "name=\"held\"").Count.ShouldBe(1);
        more.ShouldContain($"value=\"{WebUtility.HtmlEncode(options[1][3])}\" selected");

        // The second time the substitution that was chosen is what is offered.
        var again = await Http.GetStringAsync("/jobs/1/part/from-rack");
        WebUtility.HtmlDecode(Regex.Matches(again, "<select name=\"pair\".*?value=\"([^\"]+)\"", RegexOptions.Singleline)[1].Groups[1].Value).ShouldBe(taken[1]);
    }

    [Fact]
    public async Task Copies_lists_papers_and_what_was_sewn_agree_with_the_plan()
    {
        var plan = Open.Plan;
        var rack = Racks.AddRack("Project");
        Racks.Put(rack, plan.Threads.Take(3).Select((t, n) => Cone.Full(Charts.Sold(t)!) with { LeftMetres = n == 0 ? 40 : 700, Stands = $"box {n}" }));
        await Said(PostTo("/jobs/1/fetch?handler=Rack", ("rack", rack.ToString(CultureInfo.InvariantCulture))), "Project");
        foreach (var wrong in new[] { "0", "-2", "10001", "many", "" }) await Said(Post("copies", ("value", wrong)), "times", HttpStatusCode.UnprocessableEntity);
        await Said(Post("copies", ("value", "12")), "To be sewn 12 times");
        var needs = Server.Services.GetRequiredService<ThreadBox>().NeedsOf(Open);
        needs.Copies.ShouldBe(12);
        var check = await Said(Http.GetAsync("/jobs/1/part/card?task=check"), $"{plan.Threads[0].Label} runs out in copy {needs.Threads[0].Out!.Copy} of 12");
        check.ShouldContain($"{plan.Threads[3].Label} is not on the rack");

        // On paper, within its margins, nothing cut off or over each other; the same figures as a table.
        foreach (var (query, paper) in new[] { ("", Paper.A4), ("&paper=letter", Paper.Letter) })
        {
            using var pdf = PdfDocument.Open(await Http.GetByteArrayAsync($"/jobs/1/fetch?handler=Paper&on=starling-eight{query}"));
            var page = pdf.GetPage(1);
            (page.Width / 72 * 25.4).ShouldBe(paper.Width, 0.5);
            var words = page.GetWords().ToList();
            words.ShouldAllBe(w => w.BoundingBox.Left > 30 && w.BoundingBox.Right < page.Width - 30);
            page.Text.ShouldNotContain("…");
            foreach (var need in needs.Threads)
            {
                var row = words.Where(w => Math.Abs(w.BoundingBox.Bottom - words.First(x => x.Text == need.Thread.Number).BoundingBox.Bottom) < 3).OrderBy(w => w.BoundingBox.Left).ToList();
                foreach (var (left, right) in row.Zip(row.Skip(1))) right.BoundingBox.Left.ShouldBeGreaterThan(left.BoundingBox.Right);
                string.Join(' ', row.Select(w => w.Text)).ShouldContain(need.TopMetres.ToString("0.#", CultureInfo.InvariantCulture));
            }

            string.Join(' ', words.Select(w => w.Text)).ShouldContain($"runs out in copy {needs.Threads[0].Out!.Copy} at stitch");
        }

        Encoding.UTF8.GetString(await Http.GetByteArrayAsync("/jobs/1/fetch?handler=Table")).Split("\r\n")[1].ShouldStartWith($"{plan.Threads[0].Maker},{plan.Threads[0].Number},");

        // Bought: whole cones with their sum.
        await Said(PostTo("/jobs/1/fetch?handler=Buy", ("_", "")), "2 threads put on the shopping list");
        (await Http.GetStringAsync("/rack/shopping")).ShouldContain("Together 8.40");
        using (var pdf = PdfDocument.Open(await Http.GetByteArrayAsync("/rack/shopping?handler=Paper"))) pdf.GetPage(1).Text.ShouldContain(plan.Threads[3].Number);
        await PostTo("/rack/shopping?handler=Strike", ("of", plan.Threads[3].Maker), ("number", plan.Threads[3].Number));
        (await Http.GetStringAsync("/rack/shopping?handler=Table")).ShouldSatisfyAllConditions(t => t.ShouldContain(plan.Threads[0].Number), t => t.ShouldNotContain(plan.Threads[3].Number));

        // Sewn, and given back once.
        var before = Racks.Cones(rack);
        await Said(PostTo("/jobs/1/fetch?handler=Sewn&on=starling-eight", ("_", "")), "Taken off Project");
        Racks.Cones(rack).Select(c => c.LeftMetres).ShouldBe(needs.Threads.Take(3).OrderBy(n => n.Thread.Number, StringComparer.Ordinal).Select(n => n.LeftAfter), 1e-6);
        var use = Racks.LastUseOf(1)!;
        use.Threads.Sum(t => t.Metres).ShouldBe(before.Sum(c => c.LeftMetres) - Racks.Cones(rack).Sum(c => c.LeftMetres), 1e-6);
        await Said(PostTo("/jobs/1/fetch?handler=Unsewn", ("use", $"{use.Id}")), "Given back");
        await Said(PostTo("/jobs/1/fetch?handler=Unsewn", ("use", $"{use.Id}")), "given back already", HttpStatusCode.UnprocessableEntity);
        Racks.Cones(rack).Select(c => Math.Round(c.LeftMetres, 6)).ShouldBe(before.Select(c => c.LeftMetres));
        (await Http.GetStringAsync("/rack/used")).ShouldContain("given back");
    }

    [Fact]
    public async Task Needles_keep_what_is_on_them_and_the_machine_file_names_them()
    {
        var (threads, machine) = (Open.Plan.Threads, StandInMachines.StarlingEight);
        await Said(PostTo("/equipment/needles/starling-eight", ("needle", ""), ("needle", "31200"), ("needle", $"{threads[2].Maker} {threads[2].Number}")), "Noted what is on the needles");
        await Said(PostTo("/equipment/needles/starling-eight", ("needle", "moon")), "No chart has that", HttpStatusCode.UnprocessableEntity);
        (await Http.GetAsync("/equipment/needles/wren-130")).StatusCode.ShouldBe(HttpStatusCode.NotFound);
        var plan = Server.Services.GetRequiredService<ThreadBox>().NeedlesFor(Open, machine)!;
        plan.NeedleOfPart.ShouldBe([1, 4, 3, 5]);
        plan.Changes.Length.ShouldBe(3);
        StitchFormats.Read(Written(machine), "x").File.Needles.ShouldBe(plan.NeedleOfPart);
        var gcode = StitchFormats.Write(StitchFileKind.GCode, Open.ToFile() with { Needles = plan.NeedleOfPart });
        Encoding.UTF8.GetString(gcode).ShouldContain("(needle 4)");
        StitchFormats.Read(gcode, "x").File.Needles.ShouldBe(plan.NeedleOfPart);
        StitchFormats.Read(Written(StandInMachines.Heron200), "x").File.Needles.ShouldBeEmpty();
        (await Http.GetStringAsync("/jobs/1/ready")).ShouldContain("3 cones to change");
        await Said(PostTo("/jobs/1/fetch?handler=Threaded&on=starling-eight", ("_", "")), "Noted what is on the needles of Starling Eight");
        (await Http.GetStringAsync("/jobs/1/fetch?on=starling-eight")).ShouldContain("All of its threads are on their needles already");
        await Said(PostTo("/jobs/1/fetch?handler=Threaded", ("_", "")), "has one needle", HttpStatusCode.UnprocessableEntity);
    }

    private Task<HttpResponseMessage> Change(long rack, string number, params (string Name, string Value)[] values) => PostTo($"/rack?handler=Change&rack={rack}", [("of", "Fenlight"), ("number", number), .. values]);

    private static async Task<string> Said(Task<HttpResponseMessage> asked, string says, HttpStatusCode status = HttpStatusCode.OK)
    {
        using var answer = await asked;
        var text = WebUtility.HtmlDecode(await answer.Content.ReadAsStringAsync());
        text.ShouldContain(says);
        answer.StatusCode.ShouldBe(status, says);
        return text;
    }
}
