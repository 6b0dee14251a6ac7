using System.Globalization;
using System.Net;
using System.Text.RegularExpressions;
using EvenThimble.Core.Files.Jobs;
using EvenThimble.Core.Files.Stitch;
using EvenThimble.Core.Garments;
using EvenThimble.Core.Jobs;
using EvenThimble.Core.Lettering;
using EvenThimble.Core.Names;
using EvenThimble.Equipment;
using EvenThimble.Storage;
using EvenThimble.Web.Workroom;
using Microsoft.Extensions.DependencyInjection;
using Shouldly;
using UglyToad.PdfPig;
using Xunit;

namespace EvenThimble.App.Tests.Names;

/// <summary>Rosters and names over real HTTP: what is typed, pasted, brought and refused; what a job keeps; what is proofed and written.</summary>
public class NamesHttpTests() : BenchOverHttp(1)
{
    private static readonly (string, string)[] Slot = [("pattern", "{given} {family}"), ("width", "60"), ("height", "9"), ("font", "Archivo"), ("otherFont", ""), ("way", "automatic"), ("align", "Centre"), ("narrow", "85"), ("lines", "100"), ("arc", ""), ("guide", ""), ("most", ""), ("x", "0"), ("y", "60")];

    private OpenJob Open => Server.Services.GetRequiredService<JobDesk>().Find(1)!;

    private RosterStore Rosters => Server.Services.GetRequiredService<RosterStore>();

    private Roster Kept => Rosters.Find(1)!.Roster;

    [Fact]
    public async Task A_roster_is_typed_pasted_into_mended_and_taken_back()
    {
        await Roster("Cell", ("person", "2"), ("field", "1"), ("value", "Tully"));
        Kept.People[1].Values[1].ShouldBe("Tully");
        await Roster("Add", ("after", "2"));
        var added = Kept.People[2].Id.Value.ToString(CultureInfo.InvariantCulture);
        await Roster("Paste", ("person", added), ("field", "0"), ("block", "Elke\tRowntree\tTea\nILSE\tMOOR"));
        Kept.People[2].Values.ShouldBe(["Elke", "Rowntree", "Tea"]);
        Kept.People[3].Values[..2].ShouldBe(["ILSE", "MOOR"]);
        (await Roster("Cell", ("person", "4"), ("field", "0"), ("value", "Wen "))).ShouldContain("data-fault=\"Spaces\"");
        await Roster("Mend", ("fault", "Letters"));
        await Roster("Mend", ("fault", "Spaces"));
        Kept.People[3].Values[..2].ShouldBe(["Ilse", "Moor"]);
        RosterChecks.Of(Kept).ShouldBeEmpty();
        await Roster("Move", ("person", added), ("by", "-1"));
        Kept.People[1].Values[0].ShouldBe("Elke");
        await Roster("Duplicate", ("person", added));
        Kept.People.Length.ShouldBe(14);
        await Roster("Remove", ("person", added));
        await Roster("Sort", ("field", "1"));
        Kept.People.Select(p => p.Values[1]).ShouldBe(Kept.People.Select(p => p.Values[1]).Order(StringComparer.OrdinalIgnoreCase));
        await Roster("Field", ("name", "badge"));
        await Roster("Cell", ("person", "1"), ("field", "-1"), ("value", "3"));
        Kept.Fields.ShouldBe(["given", "family", "duty", "badge"]);
        Kept.Garments.ShouldBe(15);
        var before = Kept;
        await Roster("DropField", ("field", "0"));
        await Roster("Undo");
        Kept.ShouldBe(before);
        (await Http.GetStringAsync("/rosters/1?handler=People&find=zz")).ShouldNotContain("data-person");
        (await Http.GetStringAsync("/rosters/1?handler=People&find=rowntree")).ShouldContain("Rowntree");
        (await Http.GetByteArrayAsync("/rosters/1?handler=Export"))[..3].ShouldBe([0xEF, 0xBB, 0xBF]);

        foreach (var (handler, says, values) in new (string, string, (string, string)[])[]
        {
            ("Cell", "no number of garments", [("person", "1"), ("field", "-1"), ("value", "many")]),
            ("Cell", "no such column", [("person", "1"), ("field", "40"), ("value", "x")]),
            ("Field", "already", [("name", "Given")]),
            ("Field", "needs a name", [("name", " ")]),
            ("Rename", "needs a name", [("name", " ")]),
        })
        {
            var answer = await PostTo($"/rosters/1?handler={handler}", values);
            ((int)answer.StatusCode, handler).ShouldBe((422, handler));
            WebUtility.HtmlDecode(await answer.Content.ReadAsStringAsync()).ShouldContain(says);
        }

        (await PostTo("/rosters/99?handler=Add")).StatusCode.ShouldBe(HttpStatusCode.NotFound);
        Kept.ShouldBe(before);
    }

    [Fact]
    public async Task A_list_is_shown_before_it_is_taken_and_what_is_none_is_said()
    {
        using var look = new MultipartFormDataContent { { new ByteArrayContent([0xD0, 0xCF, 0x11, 0xE0, 1, 2, 3]), "file", "locked.xlsx" } };
        var locked = await Http.PostAsync("/rosters?handler=Look", look);
        locked.StatusCode.ShouldBe(HttpStatusCode.UnprocessableEntity);
        (await locked.Content.ReadAsStringAsync()).ShouldContain("password");
        var shown = await (await PostTo("/rosters?handler=Look", ("Lines", "Club list\nVorname;Nachname;Anzahl\nZoë;Müller;2\n;;\nOle;Ö"), ("Name", "Club"))).Content.ReadAsStringAsync();
        WebUtility.HtmlDecode(shown).ShouldContain("2 people");
        Rosters.All.Count.ShouldBe(1);
        (await PostTo("/rosters?handler=Take", ("Lines", "Club list\nVorname;Nachname;Anzahl\nZoë;Müller;2\n;;\nOle;Ö"), ("Name", "Club"))).StatusCode.ShouldBe(HttpStatusCode.Redirect);
        var club = Rosters.Find(Rosters.All.First(r => r.Name == "Club").Id)!.Roster;
        club.People.Select(p => (string.Join(' ', p.Values), p.Quantity)).ShouldBe([("Zoë Müller", 2), ("Ole Ö", 1)]);
        (await PostTo("/rosters?handler=Look", ("Lines", " "))).StatusCode.ShouldBe(HttpStatusCode.UnprocessableEntity);
    }

    [Fact]
    public async Task A_job_keeps_the_names_it_took_through_undo_files_and_another_computer()
    {
        await Said("take-roster", ("roster", "1"));
        (await Said("slot", Slot)).ShouldContain("Marguerite-Anne Fothergill");
        var slot = Open.Job.Pieces.Single(p => p.Content is NameSlotContent);
        ((NameSlotContent)slot.Content).Fit.ShouldBe(SlotFit.Narrower | SlotFit.Smaller | SlotFit.BelowGood);
        Open.Findings.ShouldContain(f => f.Key == $"name-small-{slot.Id.Value}");

        // What is otherwise in the roster later changes no job until it is taken again.
        Rosters.Change(1, r => r.With(new PersonId(1), 0, "Otti"));
        Open.Job.Names!.Roster.People[0].Values[0].ShouldBe("Ottoline");
        (await Http.GetStringAsync("/jobs/1/part/card?task=names&version=3")).ShouldContain("roster-changed");
        await Said("show-name", ("person", "2"));
        ((NameSlotContent)Open.Job.Pieces.Single(p => p.Id == slot.Id).Content).Text.ShouldBe("Bram Tull");
        string.Concat(Open.Job.Order.Where(p => p.Piece == slot.Id).Select(p => p.Name)).ShouldBe("BramTull");

        // Made larger by hand, it is a larger slot.
        var letters = string.Join(',', Open.Job.Order.Where(p => p.Piece == slot.Id).Select(p => p.Id.Value));
        await Said("size", ("field", "percent"), ("value", "150"), ("free", "false"), ("parts", letters));
        NameSlot.Of(Open.Job.Pieces.Single(p => p.Id == slot.Id)).Slot.WidthMm.ShouldBe(90, 0.01);
        NameRoll.Of(Open.Job, Server.Services.GetRequiredService<ILetterFaces>()).Medians[slot.Id].ShouldBeGreaterThan(9);
        (await PostTo("/jobs/1/names?handler=Own", ("person", "6"), ("slot", $"{slot.Id.Value}"), ("text", "Marguerite-Anne\nFothergill"), ("height", ""))).StatusCode.ShouldBe(HttpStatusCode.Redirect);
        (await PostTo("/jobs/1/names?handler=Proofed")).StatusCode.ShouldBe(HttpStatusCode.Redirect);
        (await PostTo("/jobs/1/names?handler=Rule", ("rule", "{nn}-{family}"))).StatusCode.ShouldBe(HttpStatusCode.Redirect);
        (await PostTo("/jobs/1/names?handler=Own", ("person", "1"), ("slot", $"{slot.Id.Value}"), ("text", ""), ("height", "tall"))).StatusCode.ShouldBe(HttpStatusCode.UnprocessableEntity);

        // Through the job's own file and back.
        var archive = JobArchive.FromBytes(await Http.GetByteArrayAsync("/jobs/1/case"));
        archive.Job.ShouldBe(Open.Job);
        archive.Job.Names!.Own.ShouldHaveSingleItem();

        // A thing taken back takes the names back too.
        (await PostTo("/jobs/1/do/undo", ("version", $"{Open.Stored.Version}"))).EnsureSuccessStatusCode();
        Open.Job.Names!.FileRule.ShouldBe(JobNames.UsualFileRule);
    }

    [Fact]
    public async Task The_proof_and_the_files_carry_every_name()
    {
        await Said("take-roster", ("roster", "1"));
        await Said("slot", [.. Slot.Where(s => s.Item1 is not ("pattern" or "otherFont")), ("pattern", "{given} {family}\n{duty}"), ("otherFont", "Lark Small")]);
        using var proof = PdfDocument.Open(await Http.GetByteArrayAsync("/jobs/1/names?handler=Proof&paper=letter"));
        proof.GetPage(1).Width.ShouldBe(612, 0.5);
        var text = string.Concat(proof.GetPages().Select(p => p.Text)).Replace(" ", string.Empty, StringComparison.Ordinal);
        foreach (var person in Kept.People) text.ShouldContain($"{person.Values[0]}{person.Values[1]}/{person.Values[2]}");
        (await Http.GetStringAsync("/jobs/1/names/proof")).ShouldContain("is right");
        var answer = await (await PostTo("/jobs/1/names?handler=HandOver&machine=heron-200&way=OneFile&part=NamesOnly", ("where", "heron-200"), ("from", "0"))).Content.ReadAsStringAsync();
        answer.ShouldContain("All 1 file written");
        var machine = Server.Services.GetRequiredService<EquipmentRoom>().Machine("heron-200")!;
        var file = StitchFormats.Read(machine.Memory.Read(machine.Memory.Files().Single().Name), "names.evth").File;
        file.Stitches.Messages.Values.Count().ShouldBe(12);
        Server.Services.GetRequiredService<SewingQueue>().Of("heron-200").ShouldHaveSingleItem().State.ShouldBe(SewState.Waiting);
        (await (await PostTo("/jobs/1/names?handler=HandOver&machine=heron-200&way=OneFile&part=NamesOnly", ("where", "heron-200"), ("from", "0"))).Content.ReadAsStringAsync()).ShouldContain("already");

        // What cannot be is said and changes nothing.
        foreach (var (command, says, values) in new (string, string, (string, string)[])[]
        {
            ("slot", "not a length", [.. Slot.Where(s => s.Item1 != "width"), ("width", "wide")]),
            ("slot", "from 2 to 1000", [.. Slot.Where(s => s.Item1 != "width"), ("width", "0.5")]),
            ("slot", "too small", [.. Slot.Where(s => s.Item1 is not ("height" or "width")), ("height", "2"), ("width", "5")]),
            ("slot", "what stands in the slot", [.. Slot.Where(s => s.Item1 != "pattern"), ("pattern", " ")]),
            ("slot", "is not here", [.. Slot.Where(s => s.Item1 != "font"), ("font", "No Such Font")]),
            ("show-name", "no longer in the roster", [("person", "99")]),
        })
        {
            var refused = await Post(command, values);
            ((int)refused.StatusCode, says).ShouldBe((422, says));
            WebUtility.HtmlDecode(await refused.Content.ReadAsStringAsync()).ShouldContain(says);
        }
    }

    [Fact]
    public async Task A_long_roster_is_stitched_by_and_by_and_each_file_is_looked_over()
    {
        var id = Rosters.Add(Volunteers.Made(70, 5));
        await Said("take-roster", ("roster", $"{id}"));
        (await Said("slot", [.. Slot.Where(s => s.Item1 != "pattern"), ("pattern", "{given} {family}{badge}")])).ShouldContain("has no field {badge}");
        var page = await Http.GetStringAsync("/jobs/1/names");
        page.ShouldContain("0 of 70 names stitched");
        var (next, rounds) = (0, 0);
        for (; next < 70; rounds++)
        {
            var answer = await (await PostTo("/jobs/1/names?handler=Stitch", ("from", $"{next}"))).Content.ReadAsStringAsync();
            next = Regex.Match(answer, @"(\d+) of 70") is { Success: true } some ? int.Parse(some.Groups[1].Value, CultureInfo.InvariantCulture) : 70;
            if (next == 70) answer.ShouldContain("All 70 names stitched");
        }

        rounds.ShouldBe(3);
        Regex.Count(await Http.GetStringAsync("/jobs/1/names?handler=Roll"), "<li class").ShouldBe(70);
        (await Http.GetStringAsync("/jobs/1/names")).ShouldNotContain("data-working");

        // What the font lacks is spelled plainly at a click.
        Rosters.Change(id, r => r.With(new PersonId(1), 0, "Zoë 🌟"));
        await Said("take-roster", ("roster", $"{id}"));
        WebUtility.HtmlDecode(await Http.GetStringAsync("/jobs/1/names")).ShouldContain("Spell it “Zoë ");
        await PostTo("/jobs/1/names?handler=Own", ("person", "1"), ("slot", $"{Open.Job.Pieces.Single(p => p.Content is NameSlotContent).Id.Value}"), ("text", "Zoë Vale"), ("height", ""));
        Server.Services.GetRequiredService<NameDesk>().RollOf(Open).All[0].CanBeSewn.ShouldBeTrue();

        // A few files with each request, each with its own readiness.
        var first = await (await PostTo("/jobs/1/names?handler=HandOver&machine=wren-130&way=EachGarment&part=NamesOnly", ("where", "wren-130"), ("from", "0"))).Content.ReadAsStringAsync();
        first.ShouldContain("8 of 70 written");
        Regex.Count(first, "data-arrived").ShouldBe(8);
        WebUtility.HtmlDecode(first).ShouldContain("is small in its slot");
        Server.Services.GetRequiredService<SewingQueue>().Of("wren-130").Count.ShouldBe(8);
        await Said("slot", [.. Slot.Where(s => s.Item1 is not ("width" or "height")), ("piece", $"{Open.Job.Pieces.Single(p => p.Content is NameSlotContent).Id.Value}"), ("width", "300"), ("height", "40")]);
        var large = await (await PostTo("/jobs/1/names?handler=HandOver&machine=wren-130&way=EachGarment&part=NamesOnly", ("where", "wren-130"), ("from", "0"), ("replace", "true"))).Content.ReadAsStringAsync();
        WebUtility.HtmlDecode(large).ShouldContain("Wren 130 would not list it");
    }

    private async Task<string> Roster(string handler, params (string, string)[] values) => await (await PostTo($"/rosters/1?handler={handler}", values)).EnsureSuccessStatusCode().Content.ReadAsStringAsync();

    private async Task<string> Said(string command, params (string, string)[] values)
    {
        var answer = await Post(command, [.. values, ("task", "names")]);
        var text = WebUtility.HtmlDecode(await answer.Content.ReadAsStringAsync());
        answer.IsSuccessStatusCode.ShouldBeTrue(text);
        return text;
    }
}
