using System.Buffers.Binary;
using System.Net;
using System.Text;
using System.Text.RegularExpressions;
using EvenThimble.Browser.Tests;
using EvenThimble.Core.Craft;
using EvenThimble.Core.Jobs;
using EvenThimble.Core.Text;
using EvenThimble.Scenario;
using EvenThimble.Storage;
using EvenThimble.Web.Workroom;
using Microsoft.Extensions.DependencyInjection;

namespace EvenThimble.App.Tests;

/// <summary>Drawn shapes, cloths and job files over real HTTP.</summary>
public sealed class ShapesHttpTests() : BenchOverHttp(job: 2)
{
    private Job Sampler => Job;

    [Fact]
    public async Task Trying_a_setting_shows_its_plan_and_keeps_nothing()
    {
        var kept = await Http.GetByteArrayAsync("/jobs/2/plan");
        var tried = await Post("try restitch", ("parts", "9"), ("field", "spacing"), ("value", "0.8"));
        tried.StatusCode.ShouldBe(HttpStatusCode.OK);
        var plan = await tried.Content.ReadAsByteArrayAsync();
        BinaryPrimitives.ReadUInt32LittleEndian(plan.AsSpan(8)).ShouldBeLessThan(BinaryPrimitives.ReadUInt32LittleEndian(kept.AsSpan(8)));
        (await Http.GetByteArrayAsync("/jobs/2/plan")).ShouldBe(kept);
        (await (await Post("restitch", ("parts", "9"), ("field", "spacing"), ("value", "0.8"))).Content.ReadAsStringAsync()).ShouldContain("Set spacing");
        (await Http.GetByteArrayAsync("/jobs/2/plan")).ShouldBe(plan);
    }

    [Fact]
    public async Task What_cannot_be_is_refused_in_words_and_changes_nothing()
    {
        // One server for all of them: each leaves the job as it was.
        foreach (var (handler, form, says) in new[]
        {
            ("try restitch", "field=spacing&value=99", "can be from"),
            ("restitch", "field=way&value=fill&parts=1", "open line"),
            ("draw", "kind=line&points=1,1", "two points"),
            ("draw", "kind=arc&points=1,1 5,5", "three points"),
            ("draw", "kind=line&points=1,1 x,y", "nowhere"),
            ("shape", "shape=star&width=0&height=4", "width and a height"),
            ("shape", "shape=blob&width=9&height=4", "no such shape"),
            ("shape", "shape=star&width=9&height=9&corners=2", "3 to 60"),
            ("bring", "token=none&width=90", "too long ago"),
            ("move-node", "part=1&path=7&node=0&x=0&y=0", "no longer"),
            ("remove-node", "part=12&path=0&node=99", "no longer"),
            ("cloth", "kind=silk", "not known"),
            ("size", "field=width&value=0", "not a size"),
        })
        {
            var before = Sampler;
            var values = form.Split('&').Select(p => p.Split('=')).Select(p => (p[0], p[1])).ToList();
            if (values.All(v => v.Item1 != "parts") && handler == "try restitch") values.Add(("parts", "9"));
            var answer = await Post(handler, [.. values]);
            answer.StatusCode.ShouldBe(HttpStatusCode.UnprocessableEntity, $"{handler} {form}");
            WebUtility.HtmlDecode(await answer.Content.ReadAsStringAsync()).ShouldContain(says);
            Sampler.ShouldBe(before);
        }
    }

    [Fact]
    public async Task A_drawing_is_laid_out_and_brought_in_as_chosen()
    {
        using var form = new MultipartFormDataContent
        {
            { new StringContent("1"), "version" },
            { new ByteArrayContent(Encoding.UTF8.GetBytes("<svg xmlns='http://www.w3.org/2000/svg' viewBox='0 0 96 96'><rect id='sky' width='96' height='48' fill='#26385e'/><path id='edge' d='M0 48h96' stroke='#d9a520' stroke-width='8' fill='none'/><text>no</text></svg>")), "file", "../../hill by night.svg" },
        };
        var laid = await (await Http.PostAsync("/jobs/2/part/drawing", form)).Content.ReadAsStringAsync();
        laid.ShouldContain("does not say how large");
        laid.ShouldContain("letters are typed");
        var token = Regex.Match(laid, "name=\"token\" value=\"([0-9a-f]+)\"").Groups[1].Value;
        (await Post("bring", ("token", token), ("width", "96"), ("become", "fill"), ("become", "satin"))).StatusCode.ShouldBe(HttpStatusCode.OK);
        var added = Sampler.Order.TakeLast(2).ToList();
        added.Select(p => p.Name).ShouldBe(["sky", "edge"]);
        added[1].Drawn!.Settings.WidthMm!.Value.ShouldBe(8, 0.01);
        added[0].Thread.Maker.ShouldBe("Fenlight");
        Sampler.Pieces[^1].Name.ShouldBe("hill by night");
    }

    [Fact]
    public async Task A_cloth_of_ones_own_is_made_changed_used_and_deleted()
    {
        (string, string)[] typed =
        [
            ("name", "heavy wool"), ("weave", "Twill"), ("colour", "#445566"), ("thickness", "1.8"), ("fillSpacing", "0.45"), ("satinSpacing", "0.4"), ("compensation", "0.3"), ("fillFirst", "Edge"), ("fillSecond", "Zigzag"),
            ("satinFirst", "centre"), ("satinSecond", "None"), ("stabilizer", "cut-away"), ("speed", "80"),
        ];
        (await (await Post("Save", "/equipment", typed)).Content.ReadAsStringAsync()).ShouldContain("Kept “heavy wool”".Replace("“", "&#x201C;").Replace("”", "&#x201D;"));
        var store = Server.Services.GetRequiredService<ClothStore>();
        var own = store.All.Single(c => c.IsOwn);
        (own.FillSpacingMm, own.FillUnderlay.InWords).ShouldBe((0.45, "edge run and zigzag"));
        var wrong = await Post("Save", "/equipment", [.. typed.Where(t => t.Item1 != "fillSpacing"), ("fillSpacing", "9"), ("id", own.Id)]);
        wrong.StatusCode.ShouldBe(HttpStatusCode.UnprocessableEntity);
        await Post("Save", "/equipment", [.. typed.Where(t => t.Item1 != "fillSpacing"), ("fillSpacing", "0.5"), ("id", own.Id)]);
        store.Find(own.Id)!.FillSpacingMm.ShouldBe(0.5);
        (await Post("cloth", ("kind", own.Id))).StatusCode.ShouldBe(HttpStatusCode.OK);
        Sampler.Cloth.Profile.Name.ShouldBe("heavy wool");
        await Post("Delete", "/equipment", ("id", own.Id));
        store.All.Count.ShouldBe(ClothProfiles.All.Count);
        Sampler.Cloth.Profile.FillSpacingMm.ShouldBe(0.5);
        (await Http.GetStringAsync("/jobs/2?task=cloth")).ShouldContain("heavy wool");
        (await (await Post("Delete", "/equipment", ("id", "cotton"))).Content.ReadAsStringAsync()).ShouldContain("stays");
    }

    [Fact]
    public async Task A_job_file_travels_with_its_design_and_a_damaged_one_leaves_nothing_behind()
    {
        var saved = await Http.GetByteArrayAsync("/jobs/1/case");
        await using var other = await AppServer.StartAsync(demo: false);
        var cases = other.Services.GetRequiredService<JobCase>();
        Should.Throw<StitchFileException>(() => cases.Unpack(saved[..(saved.Length / 2)]));
        other.Services.GetRequiredService<DesignStore>().All().ShouldBeEmpty();
        cases.Unpack(saved).Title.ShouldBe("Comet over the dome");
        var (here, there) = (Server.Services.GetRequiredService<JobDesk>().Find(1)!, other.Services.GetRequiredService<JobDesk>().Find(1)!);
        there.Plan.Records.Hash.ShouldBe(here.Plan.Records.Hash);
        var design = other.Services.GetRequiredService<DesignStore>().All().Single();
        there.Job.Pieces[0].Content.ShouldBe(here.Job.Pieces[0].Content);
        other.Services.GetRequiredService<DesignStore>().Original(design.Id)!.Value.Bytes.ShouldBe(Server.Services.GetRequiredService<DesignStore>().Original(((DesignContent)here.Job.Pieces[0].Content).Original!)!.Value.Bytes);
    }

    [Fact]
    public async Task Kinds_motifs_and_patterns_are_shown_as_pictures()
    {
        foreach (var look in new[] { "way/automatic", "way/motif-row", "motif/comet", "tile/scale" })
        {
            var picture = await Http.GetByteArrayAsync($"/looks/{look}.png");
            picture.AsSpan(1, 3).SequenceEqual("PNG"u8).ShouldBeTrue(look);
            picture.Length.ShouldBeGreaterThan(1000, look);
        }
    }
}
