using EvenThimble.Storage;
using Microsoft.Extensions.DependencyInjection;
using OpenQA.Selenium;
using OpenQA.Selenium.Interactions;

namespace EvenThimble.Browser.Tests;

/// <summary>Hands and keys on the bench, on the demo job: 1 hill, 2 dome, 3 tail and star, 4 lights.</summary>
[Collection(BrowserCollection.Name)]
public sealed class BenchTests(SharedBrowser shared) : IAsyncLifetime
{
    private readonly Browser _browser = shared.Browser;
    private readonly BenchPage _bench = new(shared.Browser);
    private AppServer _server = null!;

    public async ValueTask InitializeAsync()
    {
        _server = await AppServer.StartAsync(demo: true);
        _browser.Complaints();
        _bench.Open(_server.Address);
    }

    public async ValueTask DisposeAsync()
    {
        _browser.Complaints().Where(c => !c.Contains("409") && !c.Contains("422")).ShouldBeEmpty();
        _browser.Go("about:blank");
        await _server.DisposeAsync();
    }

    [Fact]
    public void A_click_takes_what_is_on_top_and_again_what_lies_under_it()
    {
        // The band of light lies over the dome's wall.
        _bench.ClickCloth(-26, 26.2);
        _bench.WaitForSelected(4);
        _bench.ClickCloth(-26, 26.2);
        _bench.WaitForSelected(2);
        _bench.ClickCloth(46, 8, shift: true);
        _bench.WaitForSelected(2, 3);
        _browser.WaitForText("#task-card", "2 of 4 parts");
        _bench.ClickCloth(-60, -60);
        _bench.WaitForSelected();
    }

    [Fact]
    public void A_frame_takes_all_that_it_touches_and_a_double_click_the_whole_piece()
    {
        _bench.DragCloth(-80, 60, 80, 30);
        _bench.WaitForSelected(1, 2, 4);
        _bench.DoubleClickCloth(46, 8);
        _bench.WaitForSelected(1, 2, 3, 4);
    }

    [Fact]
    public void Nothing_is_tried_while_a_command_is_under_way()
    {
        _browser.Click("[data-task=letters]");
        _browser.WaitFor(() => _browser.All("#letters-text").Count == 1, "the card of letters");
        // Commands take a while here; the first trial has hardly begun when one is given, and more is typed before it is done.
        _browser.Run(
            """
            const { open, send } = XMLHttpRequest.prototype, ask = window.fetch, text = document.getElementById("letters-text");
            const type = words => { text.value = words; text.dispatchEvent(new Event("input", { bubbles: true })); };
            let commands = 0;
            window.tried = [];
            XMLHttpRequest.prototype.open = function (method, ...rest) { this.isCommand = method === "POST"; open.call(this, method, ...rest); };
            XMLHttpRequest.prototype.send = function (body) {
                if (!this.isCommand) return send.call(this, body);
                commands++;
                this.addEventListener("loadend", () => commands--);
                setTimeout(() => send.call(this, body), 400);
            };
            window.fetch = (to, how) => {
                if (!String(to).includes("/try/")) return ask(to, how);
                const trial = { during: commands > 0 };
                tried.push(trial);
                if (tried.length === 1) {
                    text.form.requestSubmit();
                    trial.givenUp = how.signal.aborted;
                    type("Adah");
                }
                return ask(to, how);
            };
            type("Ada");
            """);
        _bench.WaitForVersion(2);
        _browser.WaitForStitches();
        ((string)_browser.Run("return JSON.stringify(tried[0])")).ShouldBe("""{"during":false,"givenUp":true}""");
        ((bool)_browser.Run("return tried.every(t => !t.during)")).ShouldBeTrue();
        _browser.Complaints().ShouldBeEmpty();
    }

    [Fact]
    public void A_locked_part_lets_the_click_through_and_a_hidden_one_is_not_there()
    {
        _bench.ClickCloth(-26, 26.2);
        _bench.WaitForSelected(4);
        _browser.Keyboard("l");
        _bench.WaitForVersion(2);
        _bench.ClickCloth(-26, 26.2);
        _bench.WaitForSelected(2);
        _browser.Keyboard("h");
        _bench.WaitForVersion(3);
        _bench.ClickCloth(-26, 20);
        _bench.WaitForSelected();
        _browser.WaitForText("#part-list", _bench.Order[3]);
        _browser.Keyboard("8");
        _browser.WaitForText("#task-card", "hidden on the screen");
        _browser.Click("[data-remedy=show-all]");
        _bench.WaitForVersion(4);
        _bench.Column("hidden").ShouldAllBe(h => h != "true");
    }

    [Fact]
    public void On_the_sewing_line_parts_are_selected_alone_in_a_range_and_one_by_one()
    {
        _browser.Click("#line-parts li:nth-child(1)");
        _bench.WaitForSelected(1);
        ClickPart(3, Keys.Shift);
        _bench.WaitForSelected(1, 2, 3);
        ClickPart(2, Keys.Control);
        _bench.WaitForSelected(1, 3);
        _browser.Keyboard(Keys.Escape);
        _bench.WaitForSelected();
        _browser.Press(Keys.Control, "a");
        _bench.WaitForSelected(1, 2, 3, 4);
    }

    [Fact]
    public void Parts_are_dragged_along_the_sewing_line_and_stepped_by_key()
    {
        var (first, last) = (_browser.Find("#line-parts li:nth-child(1)"), _browser.Find("#line-parts li:nth-child(3)"));
        _browser.Hand().MoveToElement(first).ClickAndHold().MoveByOffset(30, 0).MoveToElement(last, 120, 0).Release().Perform();
        _bench.WaitForVersion(2);
        _bench.Column("part").ShouldBe(["2", "3", "1", "4"]);
        _browser.WaitForStitches();
        _browser.Keyboard("q");
        _bench.WaitForVersion(3);
        _bench.Column("part").ShouldBe(["2", "1", "3", "4"]);
    }

    [Fact]
    public void A_part_is_moved_by_hand_by_arrows_and_by_numbers()
    {
        _bench.DragCloth(46, 8, 56, -2);
        _bench.WaitForVersion(2);
        _bench.WaitForSelected(3);
        _browser.WaitForText("#said", $"Moved {_bench.Order[2]}");
        var (x, y) = (Place("x"), Place("y"));
        _browser.Run("document.getElementById('cloth').focus()");
        // In one go: a slow machine must not put the time of another step between two keys.
        _browser.Hand().SendKeys(Keys.ArrowRight + Keys.ArrowRight).KeyDown(Keys.Shift).SendKeys(Keys.ArrowDown).KeyUp(Keys.Shift).Perform();
        _bench.WaitForVersion(3);
        _browser.WaitFor(() => Math.Abs(Place("x") - x - 1) < 0.11 && Math.Abs(Place("y") - y - 5) < 0.11, "three nudges in one step");
        _browser.Type("#place-x", "1in" + Keys.Enter);
        _bench.WaitForVersion(4);
        _browser.WaitFor(() => Place("x") == 25.4, "the middle at one inch");
        _browser.Type("#place-x", "sideways" + Keys.Enter);
        _browser.WaitForText("#said", "not a length");
        _bench.Version.ShouldBe("4");
    }

    [Fact]
    public void A_nudge_is_kept_when_the_page_is_left_at_once()
    {
        _bench.ClickCloth(46, 8);
        _bench.WaitForSelected(3);
        var jobs = _server.Services.GetRequiredService<JobStore>();
        double X() => jobs.Find(1)!.Job.Order.Single(p => p.Id.Value == 3).Placement.X;
        var x = X();
        _browser.Run("document.getElementById('cloth').dispatchEvent(new KeyboardEvent('keydown', { key: 'ArrowRight', bubbles: true, cancelable: true })); location.assign('/')");
        _browser.WaitForText("h1", "shelf");
        _browser.WaitFor(() => Math.Abs(X() - x - 0.5) < 1e-6, "half a millimetre to the right");
    }

    [Fact]
    public void Everything_is_turned_by_the_ring_by_a_number_and_by_quarters_and_centred()
    {
        _browser.Press(Keys.Control, "a");
        _bench.WaitForSelected(1, 2, 3, 4);
        var ring = ((IReadOnlyCollection<object>)_browser.Driver.ExecuteAsyncScript(
            "const done = arguments[0]; import('/pages/Bench/Screen/bench.js').then(m => { const b = m.cloth.selectedBox(), [x, y] = m.cloth.toScreen((b.minX + b.maxX) / 2, b.minY), v = m.cloth.view; done([Math.round(x - v.width / 2), Math.round(y - 29 - v.height / 2)]); })")!).Select(Convert.ToInt32).ToList();
        _browser.Hand().MoveToElement(_browser.Find("#cloth"), ring[0], ring[1]).ClickAndHold().MoveByOffset(40, 10).MoveByOffset(60, 30).Release().Perform();
        _bench.WaitForVersion(2);
        _browser.WaitForText("#said", "Turned everything by");
        _browser.Type("#turn-by", "-12.5" + Keys.Enter);
        _bench.WaitForVersion(3);
        _browser.WaitForText("#said", "-12.5°");
        _browser.Click("#task-card .row-of-buttons button:nth-child(1)");
        _bench.WaitForVersion(4);
        _browser.WaitFor(() => Place("x") == 0 && Place("y") == 0, "the middle on the centre");
    }

    [Fact]
    public void The_needle_steps_hops_and_plays_and_says_where_it_is()
    {
        _browser.Text("#needle-says").ShouldContain("Part 4 of 4");
        _browser.Find("#cloth").Click();
        _browser.Keyboard("]");
        _browser.Text("#needle-says").ShouldContain("Part 1 of 4");
        var change = _bench.Needle;
        _browser.Keyboard(".");
        _bench.Needle.ShouldBe(change + 1);
        _browser.Text("#needle-says").ShouldContain("Part 2 of 4");
        _browser.Keyboard(",");
        _browser.Keyboard(">");
        var jump = _bench.Needle;
        jump.ShouldBeGreaterThan(change);
        _browser.Keyboard(">");
        _browser.Keyboard("<");
        _bench.Needle.ShouldBe(jump);
        _browser.Click("[data-go=previous-change]");
        _bench.Needle.ShouldBe(change);
        _browser.Run("const s = document.getElementById('speed'); s.value = '500'; s.dispatchEvent(new Event('change', { bubbles: true }))");
        _browser.Keyboard(" ");
        _browser.WaitFor(() => _bench.Needle == _bench.Records, "the rehearsal to reach the end");
        _browser.Find("[data-go=play][aria-pressed=false]");
        _browser.Hand().MoveToElement(_browser.Find("#line-track"), 0, -40).Click().Perform();
        _browser.WaitFor(() => Math.Abs((_bench.Needle / (double)_bench.Records) - 0.5) < 0.03, "the needle in the middle of the line");
    }

    [Fact]
    public void Threads_are_found_by_number_and_name_previewed_and_given_to_all_parts_of_a_thread()
    {
        _browser.Keyboard("5");
        _browser.WaitForText("#task-card h2", "Threads");
        _browser.Click(".job-threads li:nth-child(3) .pick");
        _bench.WaitForSelected(3);
        _browser.Type("#find-thread", "20115");
        _browser.WaitForText("#thread-list b", "20115");
        var wanted = _browser.Find("#thread-list button");
        var colour = wanted.GetAttribute("data-preview")!;
        _browser.Hand().MoveToElement(wanted).Perform();
        _browser.WaitFor(() => ShownColours().Contains(colour), "the thread to be shown before it is taken");
        _bench.Version.ShouldBe("1");
        _browser.Hand().MoveToElement(_browser.Find("#task-card h2")).Perform();
        _browser.WaitFor(() => !ShownColours().Contains(colour), "the preview to go");
        _browser.Click("#thread-list button");
        _bench.WaitForVersion(2);
        _bench.Column("colour")[2].ShouldBe(colour);
        _browser.Click("[data-look]");
        _browser.WaitForText("#thread-list small", "looks the same");
        _browser.Type("#find-thread", "no thread is called so");
        _browser.WaitForText("#thread-list .none", "Try");
    }

    [Fact]
    public void Lines_thread_and_density_are_three_views_and_the_choice_is_remembered()
    {
        _browser.Click("[data-view=density]");
        _browser.WaitFor(() => _browser.Find("#density-scale").Displayed, "the scale of layers");
        _browser.Click("[data-view=plain]");
        _browser.Driver.Navigate().Refresh();
        _browser.WaitForStitches();
        _browser.Find("[data-view=plain]").GetAttribute("aria-checked").ShouldBe("true");
    }

    [Fact]
    public void Inches_and_millimetres_change_every_number_on_the_bench()
    {
        _browser.Text("#readout").ShouldContain("148 × 103.5 mm");
        _browser.Click("[data-units]");
        _browser.WaitForText("#readout", "5.83 × 4.08 in");
        _browser.WaitForText("#task-card legend", "in");
        _browser.Type("#place-x", "2" + Keys.Enter);
        _bench.WaitForVersion(2);
        _browser.WaitFor(() => Place("x") == 2, "two inches");
        _browser.Click("[data-units]");
        _browser.WaitFor(() => Place("x") == 50.8, "the same in millimetres");
    }

    [Fact]
    public void The_wheel_and_keys_zoom_and_the_whole_hoop_comes_back()
    {
        double Scale() => Convert.ToDouble(_browser.Driver.ExecuteAsyncScript("const done = arguments[0]; import('/pages/Bench/Screen/bench.js').then(m => done(m.cloth.view.scale))"));
        var whole = Scale();
        _browser.Hand().ScrollFromOrigin(new WheelInputDevice.ScrollOrigin { Element = _browser.Find("#cloth") }, 0, -300).Perform();
        _browser.WaitFor(() => Scale() > whole * 1.3, "a larger view");
        _browser.Keyboard("-");
        _browser.Keyboard("0");
        _browser.WaitFor(() => Math.Abs(Scale() - whole) < 1e-6, "the whole hoop");
        _browser.Click("#line-parts li:nth-child(1)");
        _bench.WaitForSelected(1);
        _browser.Keyboard("9");
        _browser.WaitFor(() => Scale() > whole * 1.1, "the selection");
    }

    [Fact]
    public void A_second_window_is_told_that_the_job_has_moved_on()
    {
        var first = _browser.Driver.CurrentWindowHandle;
        _browser.Driver.SwitchTo().NewWindow(WindowType.Tab);
        _browser.Go($"{_server.Address}/jobs/1");
        _browser.WaitForStitches();
        _browser.Type("#job-title", "From the second window" + Keys.Enter);
        _bench.WaitForVersion(2);
        _browser.Driver.Close();
        _browser.Driver.SwitchTo().Window(first);
        _browser.Click("#line-parts li:nth-child(2)");
        _bench.WaitForSelected(2);
        _browser.Keyboard("h");
        _browser.WaitForText("#said", "another window");
        _bench.WaitForVersion(2);
        _browser.Find("#job-title").GetAttribute("value").ShouldBe("From the second window");
        _bench.Column("hidden").ShouldAllBe(h => h != "true");
        _browser.Keyboard("h");
        _bench.WaitForVersion(3);
    }

    [Fact]
    public void A_line_of_the_history_can_be_gone_to()
    {
        for (var i = 1; i <= 3; i++)
        {
            _browser.Type("#job-title", $"Title {i}" + Keys.Enter);
            _bench.WaitForVersion(i + 1);
        }

        _browser.Click("#history-button");
        _browser.WaitForText("#history", "Title 1");
        _browser.Click("#history li:nth-child(3) button");
        _bench.WaitForVersion(5);
        _browser.Find("#job-title").GetAttribute("value").ShouldBe("Title 1");
    }

    [Fact]
    public void A_hundred_thousand_stitches_are_worked_on_like_any_other()
    {
        _browser.Go(_server.Address);
        _browser.Click("[data-design='1'] .card-picture");
        _browser.WaitForStitches();
        _browser.Text("#readout").ShouldContain("120,");
        _browser.Click("#line-parts li:nth-child(2)");
        _browser.Keyboard("]]");
        _browser.Text("#needle-says").ShouldContain("of 13");
    }

    private void ClickPart(int number, string key) =>
        _browser.Hand().KeyDown(key).Click(_browser.Find($"#line-parts li:nth-child({number})")).KeyUp(key).Perform();

    private double Place(string axis) => double.Parse((string)_browser.Run("return document.getElementById(arguments[0]).value", $"place-{axis}"), System.Globalization.CultureInfo.InvariantCulture);

    private IEnumerable<string> ShownColours() =>
        ((IReadOnlyCollection<object>)_browser.Driver.ExecuteAsyncScript("const done = arguments[0]; import('/pages/Bench/Screen/bench.js').then(m => done(m.state.colours()))")!).Cast<string>();
}
