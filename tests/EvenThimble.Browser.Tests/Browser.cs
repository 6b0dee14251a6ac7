using System.Drawing;
using OpenQA.Selenium;
using OpenQA.Selenium.Chrome;
using OpenQA.Selenium.Interactions;

namespace EvenThimble.Browser.Tests;

/// <summary>Headless Chromium, 1280 x 800.</summary>
public sealed class Browser : IDisposable
{
    private static readonly TimeSpan Patience = TimeSpan.FromSeconds(20);
    private readonly string _profile = Directory.CreateTempSubdirectory("thimble-browser-").FullName;

    public Browser(int width = 1280, int height = 800)
    {
        var options = new ChromeOptions { BinaryLocation = "/usr/bin/chromium" };
        options.AddArguments(
            "--headless=new", "--no-sandbox", "--disable-gpu", "--disable-quic", "--no-first-run", "--disable-background-networking", "--disable-component-update",
            "--disable-sync", "--hide-scrollbars", "--force-device-scale-factor=1", $"--window-size={width},{height}", $"--user-data-dir={_profile}");
        options.SetLoggingPreference(LogType.Browser, LogLevel.All);
        var service = ChromeDriverService.CreateDefaultService("/usr/bin", "chromedriver");
        service.SuppressInitialDiagnosticInformation = true;
        service.HideCommandPromptWindow = true;
        Driver = new ChromeDriver(service, options);

        // The window's own frame takes some of the size; the page is what counts.
        var inner = (IReadOnlyCollection<object>)Run("return [innerWidth, innerHeight]");
        var size = inner.Select(Convert.ToInt32).ToList();
        Driver.Manage().Window.Size = new Size(width + (width - size[0]), height + (height - size[1]));
    }

    public ChromeDriver Driver { get; }

    public object Run(string script, params object[] arguments) => Driver.ExecuteScript(script, arguments)!;

    public void Go(string address) => Driver.Navigate().GoToUrl(address);

    public IWebElement Find(string css) => Until(() => Driver.FindElements(By.CssSelector(css)).FirstOrDefault(), $"an element {css}");

    public IReadOnlyList<IWebElement> All(string css) => Driver.FindElements(By.CssSelector(css));

    public string Text(string css) => Until(() => Driver.FindElements(By.CssSelector(css)).FirstOrDefault()?.Text, $"the text of {css}");

    public void Click(string css) => Retried(() =>
    {
        var element = Find(css);
        try
        {
            element.Click();
        }
        catch (ElementClickInterceptedException)
        {
            // It lies under a bar that stays at an edge of the window; a person would scroll on.
            Run("arguments[0].scrollIntoView({ block: 'center', behavior: 'instant' })", element);
            throw;
        }

        return true;
    }, $"a click on {css}");

    public void Type(string css, string text) => Retried(() =>
    {
        var field = Find(css);
        field.SendKeys(Keys.Control + "a");
        field.SendKeys(text);
        return true;
    }, $"typing into {css}");

    /// <summary>Chooses an entry of a list by its words.</summary>
    public void Select(string css, string words) => Retried(() =>
    {
        // The driver's click fires only "change", where a person's choice fires "input" too.
        ((IWebElement)Run("return [...arguments[0].options].find(o => o.text.trim() === arguments[1])", Find(css), words)).Click();
        Run("document.querySelector(arguments[0])?.dispatchEvent(new Event('input', { bubbles: true }))", css);
        return true;
    }, $"{words} in {css}");

    /// <summary>Folds a part of a card out.</summary>
    public void Unfold(string css)
    {
        if (Find(css).GetAttribute("open") is null) Click($"{css} > summary");
    }

    /// <summary>The pointer and the keys, faster than the driver's own quarter of a second for each way of the pointer.</summary>
    public Actions Hand() => new(Driver, TimeSpan.FromMilliseconds(40));

    public void Keyboard(string keys) => Hand().SendKeys(keys).Perform();

    public void Press(string key, string character) => Hand().KeyDown(key).SendKeys(character).KeyUp(key).Perform();

    /// <summary>Waits until something is so; fails with what was waited for.</summary>
    public void WaitFor(Func<bool> so, string what) => Until(() => so() ? "yes" : null, what);

    /// <summary>Waits until an element's text holds words.</summary>
    public void WaitForText(string css, string words) => WaitFor(
        () => (bool)Run("return [...document.querySelectorAll(arguments[0])].some(e => e.textContent.toLowerCase().includes(arguments[1]))", css, words.ToLowerInvariant()),
        $"“{words}” in {css}");

    /// <summary>Waits until the bench has drawn the stitches it shows.</summary>
    public void WaitForStitches() => WaitFor(
        () => (bool)Run("const l = document.getElementById('line-parts'), c = document.getElementById('cloth'); return !!l && !!c && (c.dataset.drawn === JSON.parse(document.getElementById('bench').dataset.state).plan || localStorage.view === 'density')"),
        "the stitches to be drawn");

    /// <summary>Makes the browser drop files of bytes onto the page.</summary>
    public void Drop(params (string Name, byte[] Bytes)[] files)
    {
        Run(
            """
            const transfer = new DataTransfer();
            for (const [name, base64] of arguments[0]) transfer.items.add(new File([Uint8Array.from(atob(base64), c => c.charCodeAt(0))], name));
            for (const kind of ["dragenter", "dragover", "drop"]) document.body.dispatchEvent(new DragEvent(kind, { bubbles: true, cancelable: true, dataTransfer: transfer }));
            """,
            (object)files.Select(f => (object)new object[] { f.Name, Convert.ToBase64String(f.Bytes) }).ToArray());
    }

    /// <summary>What the browser itself complained about: errors of scripts, things that the content policy stopped.</summary>
    public IReadOnlyList<string> Complaints() => [.. Driver.Manage().Logs.GetLog(LogType.Browser).Where(l => l.Level == LogLevel.Severe).Select(l => l.Message)];

    /// <summary>A picture to look at while a story is written, into the folder that THIMBLE_LOOK names; nothing otherwise.</summary>
    public void Look(string name)
    {
        if (Environment.GetEnvironmentVariable("THIMBLE_LOOK") is { Length: > 0 } folder) Shoot(Path.Combine(folder, name + ".png"));
    }

    public void Shoot(string path) => Driver.GetScreenshot().SaveAsFile(path);

    public void Dispose()
    {
        Driver.Quit();
        Driver.Dispose();
        Directory.Delete(_profile, recursive: true);
    }

    private void Retried(Func<bool> act, string what) => Until(() => act() ? "done" : null, what);

    /// <summary>Tries again while the page is changing under it.</summary>
    private T Until<T>(Func<T?> look, string what)
        where T : class
    {
        // Often at first, then less so: a page that is asked all the time is not done sooner.
        var (until, pause) = (DateTime.UtcNow + Patience, 20.0);
        while (true)
        {
            try
            {
                if (look() is { } found) return found;
            }
            catch (Exception e) when (e is WebDriverException or FormatException && DateTime.UtcNow < until)
            {
                // The element was just replaced, something lies over it for a moment, or it does not show its number yet.
            }

            if (DateTime.UtcNow > until) throw new TimeoutException($"Waited in vain for {what}. The browser says: {string.Join("; ", Complaints())}");
            Thread.Sleep((int)pause);
            pause = Math.Min(pause * 1.4, 120);
        }
    }
}
