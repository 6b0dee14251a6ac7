using System.Buffers.Binary;
using System.Net;
using System.Text.Json;
using EvenThimble.Core.Jobs;
using EvenThimble.Storage;
using Microsoft.Extensions.DependencyInjection;

namespace EvenThimble.App.Tests;

/// <summary>Changing a bought design over real HTTP: Comet over the dome with its four parts.</summary>
public sealed class BoughtHttpTests() : BenchOverHttp(job: 1)
{
    [Fact]
    public async Task What_cannot_be_is_refused_in_words_and_changes_nothing()
    {
        // One server for all of them: each leaves the job as it was.
        foreach (var (handler, form, says) in new[]
        {
            ("cut", "record=1", "nothing to cut off"),
            ("cut", "record=999999", "nothing to cut off"),
            ("cut", "record=-5", "nothing to cut off"),
            ("split", "how=jumps", "Nothing is selected"),
            ("lasso", "parts=3&points=500,500 501,500 501,501", "does not lie partly"),
            ("lasso", "parts=3&points=1,1", "two points"),
            ("join", "parts=1", "two parts at least"),
            ("join", "parts=1,3", "different threads"),
            ("join", "parts=1,3&oneThread=true", "Other parts sew between"),
            ("size", "parts=3&field=percent&value=wide", "not a percentage"),
            ("size", "parts=3&field=width&value=-4", "not a size"),
            ("size", "parts=3&field=percent&value=1", "from 2 % to"),
            ("rework", "parts=3&field=lighter&value=900", "from 50 to 300"),
            ("rework", "parts=3&field=short&value=9", "can be left out"),
            ("rework", "parts=3&field=magic&value=1", "nothing that can be changed"),
            ("scale", "across=0&down=1&x=0&y=0", "not a size"),
            ("scale", "across=NaN&down=1&x=0&y=0", "not a size"),
            ("lean", "parts=3&degrees=80", "lean by up to"),
            ("row", "parts=3&count=1", "2 to 100"),
            ("ring", "parts=3&count=6&radius=0", "on the centre itself"),
            ("ring", "count=6", "Nothing is selected"),
            ("space", "parts=1,2&across=true", "three pieces"),
            ("paste", "from=999&copied=1", "no longer there"),
            ("paste", "from=2&copied=777", "Nothing is copied"),
            ("bring-designs", "design=999", "Choose a design"),
            ("fewer", "staying=1", "There is no order"),
        })
        {
            var before = Job;
            var answer = await Post(handler, [.. form.Split('&').Select(p => p.Split('=')).Select(p => (p[0], p[1]))]);
            answer.StatusCode.ShouldBe(HttpStatusCode.UnprocessableEntity, $"{handler} {form}");
            WebUtility.HtmlDecode(await answer.Content.ReadAsStringAsync()).ShouldContain(says);
            Job.ShouldBe(before);
        }
    }

    [Fact]
    public async Task Each_is_one_step_of_the_history_said_in_words_and_undone_whole()
    {
        // One server for all of them: each leaves the job as it was.
        foreach (var (handler, form, says) in new[]
        {
            ("size", "parts=3&field=width&value=3in", "of its size"),
            ("size", "parts=3&field=width&value=80%", "80 % of its size"),
            ("size", "parts=3&field=height&value=40&free=true", "100 % as wide"),
            ("rework", "parts=3&field=lighter&value=125", "lighter: spacing 125 %"),
            ("rework", "parts=3&field=underlay&value=out", "Left out the underlay of Noon straw"),
            ("rework", "parts=3&field=short&value=0.5", "Left out stitches under 0.5 mm"),
            ("rework", "field=seen&value=only", "Left covered stitches out"),
            ("rework", "parts=2&field=whole&value=whole", "Keeps Noon slate blue whole"),
            ("split", "parts=3&how=jumps", "Split Noon straw into"),
            ("split", "parts=3,4&how=stretches", "Split 2 parts into"),
            ("lasso", "parts=3&points=28,-9 64,-9 64,24 28,24", "Split Noon straw into 2 parts around what you drew"),
            ("join", "parts=1,3&oneThread=true&together=true", "Joined 2 parts into one"),
            ("lean", "parts=3&degrees=12", "Leaned Noon straw by 12"),
            ("ring", "parts=3&count=5&radius=40&turned=true", "Made a ring of 5"),
            ("paste", "from=2&copied=1,2&times=1", "Pasted 2 parts from"),
            ("duplicate", "parts=1,2", "Duplicated 2 parts"),
            ("bring-designs", "design=6&design=3&x=10&y=20", "Brought 2 designs in"),
        })
        {
            var before = Job;
            var plan = await Http.GetByteArrayAsync("/jobs/1/plan");
            var answer = await Post(handler, [.. form.Split('&').Select(p => p.Split('=')).Select(p => (p[0], p[1]))]);
            WebUtility.HtmlDecode(await answer.Content.ReadAsStringAsync()).ShouldContain(says);
            answer.StatusCode.ShouldBe(HttpStatusCode.OK);
            Job.ShouldNotBe(before, $"{handler} {form}");
            Server.Services.GetRequiredService<JobStore>().History(1).ShouldContain(l => l.Label.Contains(says));
            (await Post("undo")).StatusCode.ShouldBe(HttpStatusCode.OK);
            Job.ShouldBe(before);
            (await Http.GetByteArrayAsync("/jobs/1/plan")).ShouldBe(plan);
        }
    }

    [Fact]
    public async Task A_size_is_tried_before_it_is_kept()
    {
        var kept = await Http.GetByteArrayAsync("/jobs/1/plan");
        var tried = await Post("try size", ("parts", "1,2,3,4"), ("field", "percent"), ("value", "60"));
        var plan = await tried.Content.ReadAsByteArrayAsync();
        BinaryPrimitives.ReadUInt32LittleEndian(plan.AsSpan(8)).ShouldBeLessThan(BinaryPrimitives.ReadUInt32LittleEndian(kept.AsSpan(8)) * 7 / 10);
        (await Http.GetByteArrayAsync("/jobs/1/plan")).ShouldBe(kept);
        var dense = await (await Post("try rework", ("parts", "1,2,3,4"), ("field", "lighter"), ("value", "60"), ("show", "density"))).Content.ReadAsByteArrayAsync();
        dense.AsSpan(1, 3).SequenceEqual("PNG"u8).ShouldBeTrue();
        dense.ShouldNotBe(await Http.GetByteArrayAsync("/jobs/1/density.png"));
        (await Post("try size", ("parts", "3"), ("field", "percent"), ("value", "0"))).StatusCode.ShouldBe(HttpStatusCode.UnprocessableEntity);
    }

    [Fact]
    public async Task Percent_is_of_how_it_came_however_often_it_is_typed()
    {
        foreach (var percent in new[] { "40", "250", "73", "100" })
            (await Post("size", ("parts", "1,2,3,4"), ("field", "percent"), ("value", percent))).StatusCode.ShouldBe(HttpStatusCode.OK);
        Job.Order.ShouldAllBe(p => p.Placement == Placement.AsItCame);
    }

    [Fact]
    public async Task The_card_tells_what_was_read_and_warns_of_what_a_size_does()
    {
        (await Post("size", ("parts", "3,4"), ("field", "percent"), ("value", "40"))).StatusCode.ShouldBe(HttpStatusCode.OK);
        var stitch = WebUtility.HtmlDecode(await Http.GetStringAsync("/jobs/1/part/card?task=stitch&parts=3"));
        stitch.ShouldContain("satin, sure");
        stitch.ShouldContain("→");
        var arrange = WebUtility.HtmlDecode(await Http.GetStringAsync("/jobs/1/part/card?task=arrange&parts=4"));
        arrange.ShouldContain("narrower than a needle");
        arrange.ShouldContain("Show the place");
        var join = WebUtility.HtmlDecode(await Http.GetStringAsync("/jobs/1/part/card?task=arrange&parts=1,4"));
        join.ShouldContain("To be one part they need one thread and to follow each other");
        join.ShouldContain("would come under it");
    }

    [Fact]
    public async Task What_is_covered_is_told_as_lines_and_the_file_follows_the_switch()
    {
        var planet = Server.Services.GetRequiredService<DesignStore>().All().First(d => d.Title == "Ringed planet").Id;
        (await Post("bring-designs", ("design", planet.ToString(System.Globalization.CultureInfo.InvariantCulture)))).StatusCode.ShouldBe(HttpStatusCode.OK);
        using var gone = JsonDocument.Parse(await Http.GetStringAsync("/jobs/1/part/gone"));
        gone.RootElement.GetProperty("lines").GetArrayLength().ShouldBeGreaterThan(20);
        gone.RootElement.GetProperty("metres").GetDouble().ShouldBeGreaterThan(1);
        var whole = await Http.GetByteArrayAsync("/jobs/1/export/csv");
        (await Post("rework", ("field", "seen"), ("value", "only"))).StatusCode.ShouldBe(HttpStatusCode.OK);
        (await Http.GetByteArrayAsync("/jobs/1/export/csv")).Length.ShouldBeLessThan(whole.Length);
        Job.Order.Sum(p => p.Slices.Sum(s => s.Count)).ShouldBeGreaterThan(13_000, "the job keeps every stitch");
    }

    [Fact]
    public async Task Threads_that_look_the_same_are_offered_and_taken_only_where_ticked()
    {
        var planet = Server.Services.GetRequiredService<DesignStore>().All().First(d => d.Title == "Ringed planet").Id.ToString(System.Globalization.CultureInfo.InvariantCulture);
        var asked = WebUtility.HtmlDecode(await Http.GetStringAsync($"/jobs/1/part/bringing?design={planet}"));
        asked.ShouldContain("look like threads of this job");
        var key = System.Text.RegularExpressions.Regex.Match(asked, "name=\"same\" value=\"([^\"]+)\"").Groups[1].Value;
        var before = Job.Order.Select(p => p.Thread).ToHashSet();
        await Post("bring-designs", ("design", planet), ("same", key));
        var with = Job.Order.Select(p => p.Thread).Distinct().Count();
        await Post("undo");
        await Post("bring-designs", ("design", planet));
        Job.Order.Select(p => p.Thread).Distinct().Count().ShouldBe(with + 1);
    }

    [Fact]
    public async Task A_drawn_shape_is_not_split_or_joined_and_says_why()
    {
        (await Post("shape", ("shape", "star"), ("width", "20"), ("height", "20"))).StatusCode.ShouldBe(HttpStatusCode.OK);
        foreach (var (handler, values) in new[] { ("split", new[] { ("parts", "5"), ("how", "jumps") }), ("join", [("parts", "4,5"), ("oneThread", "true")]), ("rework", [("parts", "5"), ("field", "underlay"), ("value", "out")]) })
        {
            var answer = await Post(handler, values);
            answer.StatusCode.ShouldBe(HttpStatusCode.UnprocessableEntity);
            (await answer.Content.ReadAsStringAsync()).ShouldMatch("drawn|shape");
        }

        (await Post("size", ("parts", "5"), ("field", "width"), ("value", "30"))).StatusCode.ShouldBe(HttpStatusCode.OK);
    }
}
