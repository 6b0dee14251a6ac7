using System.Net;
using System.Text.Json;
using System.Text.RegularExpressions;
using EvenThimble.Web.Pages.Bench;

namespace EvenThimble.App.Tests;

/// <summary>What the registry of commands promises, and what a command answers.</summary>
public sealed class BenchCommandsTests() : BenchOverHttp(job: 1)
{
    [Fact]
    public void Names_and_keys_are_each_there_once_and_each_key_has_its_line_in_the_table()
    {
        var commands = BenchRegistry.Commands;
        commands.Keys.ShouldAllBe(n => Regex.IsMatch(n, "^[a-z]+(-[a-z]+)*$"));
        commands.Values.ShouldAllBe(c => c.Label.Length > 3);
        commands.Values.Select(c => c.Label).ShouldBeUnique();
        BenchRegistry.Tasks.Select(t => t.Id).ShouldBeUnique();
        var keys = JsonDocument.Parse(BenchRegistry.KeysForScript).RootElement.EnumerateObject().Select(k => k.Name).ToList();
        keys.Count.ShouldBeGreaterThan(40);
        var table = BenchRegistry.KeyTable.SelectMany(s => s).ToList();
        table.ShouldAllBe(l => l.Says.Length > 0);
        foreach (var key in commands.Values.SelectMany(c => c.Keys)) table.ShouldContain((key.Press, key.Says));
    }

    [Fact]
    public async Task The_page_has_the_table_of_keys_a_button_for_each_task_and_a_script_for_each_that_has_one()
    {
        var page = WebUtility.HtmlDecode(await Http.GetStringAsync("/jobs/1"));
        foreach (var (_, says) in BenchRegistry.KeyTable.SelectMany(s => s)) page.ShouldContain(says);
        foreach (var task in BenchRegistry.Tasks.Where(t => t.OnRail)) page.ShouldContain($"data-task=\"{task.Id}\"");
        foreach (var task in BenchRegistry.Tasks.Where(t => t.HasScript))
        {
            page.ShouldContain(task.Script);
            (await Http.GetStringAsync(task.Script)).ShouldContain("export function mount(");
        }
    }

    [Fact]
    public async Task An_answer_says_how_the_job_stands_and_what_came_in()
    {
        var answer = await Post("duplicate", ("parts", "2,3"));
        var told = JsonDocument.Parse(answer.Headers.GetValues("HX-Trigger-After-Swap").Single()).RootElement.GetProperty("thimble:job");
        told.GetProperty("state").GetProperty("version").GetInt64().ShouldBe(2);
        told.GetProperty("selects").EnumerateArray().Select(s => s.GetInt32()).ShouldBe([5, 7]);
        told.GetProperty("refused").GetBoolean().ShouldBeFalse();
        Job.Order.Select(p => p.Id.Value).Order().ShouldBe([1, 2, 3, 4, 5, 6]);

        var refused = await Post("turn", ("parts", "2"), ("degrees", "much"));
        refused.StatusCode.ShouldBe(HttpStatusCode.UnprocessableEntity);
        told = JsonDocument.Parse(refused.Headers.GetValues("HX-Trigger-After-Swap").Single()).RootElement.GetProperty("thimble:job");
        (told.GetProperty("refused").GetBoolean(), told.GetProperty("state").GetProperty("version").GetInt64()).ShouldBe((true, 2L));
    }

    [Fact]
    public async Task Only_the_pieces_of_the_page_that_changed_are_sent()
    {
        var page = await Http.GetStringAsync("/jobs/1");
        string Shown() => string.Join(' ', Regex.Matches(page, "id=\"([a-z-]+)\"[^>]*data-tag=\"([0-9a-f]+)\"").Select(m => $"{m.Groups[1].Value}:{m.Groups[2].Value}"));
        Shown().Split(' ').Length.ShouldBe(BenchPiece.All.Count);

        // A move within the hoop changes neither the parts nor their counts.
        var moved = await (await Post("shift", ("parts", "4"), ("dx", "0.4"), ("dy", "0"), ("shown", Shown()), ("task", "arrange"))).Content.ReadAsStringAsync();
        moved.ShouldNotContain("id=\"line-parts\"");
        moved.ShouldContain("id=\"job-bar\"");
        moved.ShouldContain("id=\"task-card\"");

        page = await Http.GetStringAsync("/jobs/1");
        var recoloured = await (await Post("recolour", ("parts", "4"), ("maker", "Fenlight"), ("number", "2009"), ("shown", Shown()), ("task", "threads"))).Content.ReadAsStringAsync();
        recoloured.ShouldContain("id=\"line-parts\"");

        // Who shows nothing gets everything.
        var all = await (await Post("shift", ("parts", "4"), ("dx", "0.4"), ("dy", "0"))).Content.ReadAsStringAsync();
        foreach (var piece in BenchPiece.All) all.ShouldContain($"id=\"{piece.Id}\"");
    }

    [Fact]
    public async Task A_command_or_a_part_that_is_not_known_is_not_found()
    {
        (await Post("fly")).StatusCode.ShouldBe(HttpStatusCode.NotFound);
        (await Post("try fly")).StatusCode.ShouldBe(HttpStatusCode.NotFound);
        (await Http.GetAsync("/jobs/1/part/wings")).StatusCode.ShouldBe(HttpStatusCode.NotFound);
        (await Http.GetAsync("/pages/Bench/Index.cshtml")).StatusCode.ShouldBe(HttpStatusCode.NotFound);
        (await Http.GetAsync("/pages/Bench/Threads/ThreadsTask.cs")).StatusCode.ShouldBe(HttpStatusCode.NotFound);
        (await Post("try rename", ("title", "no trial of that"))).StatusCode.ShouldNotBe(HttpStatusCode.OK);
    }
}
