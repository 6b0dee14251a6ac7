using System.Reflection;
using EvenThimble.Core.Jobs;
using EvenThimble.Equipment;
using EvenThimble.Storage;
using Microsoft.Extensions.DependencyInjection;

namespace EvenThimble.Browser.Tests;

/// <summary>axe-core finds nothing serious on any screen, light or dark.</summary>
[Collection(BrowserCollection.Name)]
public class AccessTests(SharedBrowser shared)
{
    // What changes on the bench with the task.
    private const string Card = "#task-card";

    private readonly Browser _browser = shared.Browser;

    [Fact]
    public async Task Nothing_serious_stands_in_anybodys_way()
    {
        await using var server = await AppServer.StartAsync(demo: true);
        var jobs = server.Services.GetRequiredService<JobStore>();
        jobs.Apply(2, 1, new ChooseCutLines([.. jobs.Find(2)!.Job.Order.Where(p => p.Drawn is { Shape.IsClosed: true }).Take(3).Select(p => p.Id)]));
        server.Services.GetRequiredService<EquipmentRoom>().Cutter("plover-12")!.Memory.Put("square.svg", "<svg xmlns='http://www.w3.org/2000/svg' width='40mm' height='40mm' viewBox='0 0 40 40'><path fill='none' stroke='red' d='M5 5h20v20h-20z'/></svg>"u8.ToArray(), replace: false);
        _browser.Go(server.Address);
        _browser.Run("localStorage.clear(); document.cookie = 'theme=light; path=/'");
        foreach (var screen in new[] { "/", "/jobs/2", "/jobs/1", "/jobs/1/ready", "/machine-room", "/letters", "/letters?font=Graduate", "/equipment", "/equipment/ranges?chart=Glimmerdale|Metallic", "/equipment/needles/starling-eight", "/rack", "/rack/shopping", "/rack/used", "/jobs/1/fetch?on=starling-eight", "/jobs/2/cut", "/machine-room/cut?cutter=plover-12&file=square.svg", "/about", "/nowhere" })
        {
            _browser.Go(server.Address + screen);
            if (screen is "/jobs/1" or "/jobs/2") await CheckBenchAsync();
            else CheckBothThemes(screen);
        }
    }

    [Fact]
    public async Task An_empty_shelf_and_the_keys_and_questions_are_open_to_everybody()
    {
        await using var server = await AppServer.StartAsync(demo: false);
        _browser.Go(server.Address);
        Check("empty shelf");
        _browser.Keyboard("?");
        _browser.WaitFor(() => _browser.Find("#keys").Displayed, "the keys");
        Check("keys");
    }

    [Fact]
    public async Task The_bench_works_on_a_tablet()
    {
        await using var server = await AppServer.StartAsync(demo: true);
        var before = _browser.Driver.Manage().Window.Size;
        try
        {
            _browser.Driver.Manage().Window.Size = new(1024, before.Height);
            _browser.Go($"{server.Address}/jobs/1");
            _browser.WaitForStitches();
            Convert.ToInt32(_browser.Run("return document.documentElement.scrollWidth - innerWidth")).ShouldBeLessThanOrEqualTo(0);
            foreach (var element in new[] { "#make-ready", "#readiness-chip", "[data-go=play]", "[data-view=density]" })
                Convert.ToDouble(_browser.Run("return document.querySelector(arguments[0]).getBoundingClientRect().right", element)).ShouldBeLessThanOrEqualTo(1024, element);
        }
        finally
        {
            _browser.Driver.Manage().Window.Size = before;
        }
    }

    private async Task CheckBenchAsync()
    {
        _browser.WaitForStitches();
        _browser.Click("#line-parts li:nth-child(2)");
        foreach (var task in new[] { "add", "arrange", "stitch", "letters", "threads", "hoop", "check" })
        {
            _browser.Click($".rail [data-task={task}]");
            _browser.WaitForText("#task-card h2", task);
            await Task.Delay(150);
            CheckBothThemes($"bench, {task}", task == "add" ? "html" : Card);
        }

        _browser.Click("#cloth-chip");
        _browser.WaitForText("#task-card h2", "Cloth");
        await Task.Delay(150);
        CheckBothThemes("bench, cloth", Card);
    }

    private void CheckBothThemes(string where, string within = "html")
    {
        Check(where, within);
        _browser.Click("[data-toggle-theme]");
        _browser.WaitFor(() => (string)_browser.Run("return document.documentElement.dataset.bsTheme")! == "dark", "the dark");
        Check($"{where} in the dark", within, isDark: true);
        _browser.Click("[data-toggle-theme]");
    }

    private void Check(string where, string within = "html", bool isDark = false)
    {
        // In the dark the same page has other colours, and nothing else is otherwise.
        var rules = isDark ? "runOnly: { type: 'rule', values: ['color-contrast', 'link-in-text-block'] }, " : string.Empty;
        // Halfway from one colour to another nothing has its own.
        _browser.WaitFor(() => (bool)_browser.Run("return !document.getAnimations().some(a => a instanceof CSSTransition)")!, "the colours to settle");
        _browser.Run(Axe());
        var found = (IReadOnlyCollection<object>)_browser.Driver.ExecuteAsyncScript(
            $$"""
            const done = arguments[1];
            axe.run(arguments[0], { {{rules}}resultTypes: ['violations'] }).then(r => done(r.violations.filter(v => ['serious', 'critical'].includes(v.impact))
                .map(v => `${v.id}: ${v.help} (${v.nodes.slice(0, 3).map(n => n.target.join(' ') + ' ' + (n.any[0]?.message ?? '')).join('; ')})`)), e => done([String(e)]));
            """,
            within)!;
        found.Cast<string>().ShouldBeEmpty(where);
    }

    private static string Axe()
    {
        var folder = new DirectoryInfo(Path.GetDirectoryName(Assembly.GetExecutingAssembly().Location)!);
        while (!File.Exists(Path.Combine(folder.FullName, "package-lock.json"))) folder = folder.Parent!;
        return File.ReadAllText(Path.Combine(folder.FullName, "node_modules", "axe-core", "axe.min.js"));
    }
}
