using System.Globalization;
using OpenQA.Selenium;

namespace EvenThimble.Browser.Tests;

/// <summary>One browser for all tests; each test has a server of its own.</summary>
public sealed class SharedBrowser : IDisposable
{
    public Browser Browser { get; } = new();

    public void Dispose() => Browser.Dispose();
}

[CollectionDefinition(Name)]
public sealed class BrowserCollection : ICollectionFixture<SharedBrowser>
{
    public const string Name = "browser";
}

/// <summary>The bench as a person has it before them.</summary>
public sealed class BenchPage(Browser browser)
{
    public IReadOnlyList<string> Order => Column("name");

    public IReadOnlyList<string> Selected => [.. Strings("return [...document.querySelectorAll('#line-parts li[aria-selected=true]')].map(li => li.dataset.part)")];

    public int Needle => Convert.ToInt32(browser.Run("return Number(document.getElementById('needle').getAttribute('aria-valuenow'))"), CultureInfo.InvariantCulture);

    public int Records => int.Parse(browser.Find("#needle").GetAttribute("aria-valuemax")!, CultureInfo.InvariantCulture);

    public string Version => (string)browser.Run("return String(JSON.parse(document.getElementById('bench').dataset.state).version)");

    public void Open(string address, long job = 1)
    {
        browser.Go($"{address}/about"); // the lightest page
        browser.Run("localStorage.clear(); document.cookie = 'unit=mm; path=/'; document.cookie = 'theme=light; path=/'");
        browser.Go($"{address}/jobs/{job}");
        browser.WaitForStitches();
    }

    public IReadOnlyList<string> Column(string name) => name == "plan" ? [(string)browser.Run("return JSON.parse(document.getElementById('bench').dataset.state).plan")] :
        [.. Strings("return [...document.querySelectorAll('#line-parts li')].map(li => li.dataset[arguments[0]] ?? '')", name)];

    /// <summary>Where a place of the job (mm) lies, in pixels from the middle of the cloth.</summary>
    public (int X, int Y) OnCloth(double x, double y)
    {
        var at = (IReadOnlyCollection<object>)browser.Driver.ExecuteAsyncScript(
            "const [x, y, done] = arguments; import('/pages/Bench/Screen/bench.js').then(m => { const p = m.cloth.toScreen(x, y), v = m.cloth.view; done([Math.round(p[0] - v.width / 2), Math.round(p[1] - v.height / 2)]); });", x, y)!;
        var p = at.Select(Convert.ToInt32).ToList();
        return (p[0], p[1]);
    }

    public void ClickCloth(double x, double y, bool shift = false)
    {
        var (px, py) = OnCloth(x, y);
        var actions = browser.Hand();
        if (shift) actions.KeyDown(Keys.Shift);
        actions.MoveToElement(browser.Find("#cloth"), px, py).Click();
        if (shift) actions.KeyUp(Keys.Shift);
        actions.Perform();
    }

    public void DoubleClickCloth(double x, double y)
    {
        var (px, py) = OnCloth(x, y);
        browser.Hand().MoveToElement(browser.Find("#cloth"), px, py).DoubleClick().Perform();
    }

    /// <summary>Drags on the cloth from one place of the job to another (mm).</summary>
    public void DragCloth(double x0, double y0, double x1, double y1)
    {
        var (from, to) = (OnCloth(x0, y0), OnCloth(x1, y1));
        browser.Hand().MoveToElement(browser.Find("#cloth"), from.X, from.Y).ClickAndHold()
            .MoveByOffset((to.X - from.X) / 2, (to.Y - from.Y) / 2).MoveByOffset(to.X - from.X - ((to.X - from.X) / 2), to.Y - from.Y - ((to.Y - from.Y) / 2)).Release().Perform();
    }

    /// <summary>Chooses the font of a lettering by its picture.</summary>
    public void ChooseFont(string name)
    {
        browser.Unfold("#letters-fonts");
        browser.Click($"#letters-fonts .font-of:has([value='{name}'])");
        browser.WaitForText("#letters-font-name", name);
        browser.Click("#letters-fonts > summary");
    }

    /// <summary>Chooses what letters stand on.</summary>
    public void ChooseCourse(string words)
    {
        browser.Unfold("[data-fold=letters-stand]");
        browser.Select("#letters-course", words);
    }

    public void WaitForVersion(long version) => browser.WaitFor(() => Version == version.ToString(CultureInfo.InvariantCulture), $"version {version}");

    public void WaitForSelected(params int[] parts) =>
        browser.WaitFor(() => Selected.SequenceEqual(parts.Select(p => p.ToString(CultureInfo.InvariantCulture))), $"parts {string.Join(",", parts)} to be selected");

    private IEnumerable<string> Strings(string script, params object[] arguments) => ((IReadOnlyCollection<object>)browser.Run(script, arguments)).Cast<string>();
}
