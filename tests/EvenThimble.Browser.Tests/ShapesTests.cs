using EvenThimble.Core.Craft;
using EvenThimble.Core.Geometry;
using EvenThimble.Core.Jobs;
using EvenThimble.Core.Shapes;
using EvenThimble.Web.Workroom;
using Microsoft.Extensions.DependencyInjection;

namespace EvenThimble.Browser.Tests;

/// <summary>Drawing on the cloth and setting stitches, by mouse and by keyboard.</summary>
[Collection(BrowserCollection.Name)]
public class ShapesTests(SharedBrowser shared)
{
    private const int SamplerJob = 2;
    private readonly Browser _browser = shared.Browser;

    [Fact]
    public async Task Lines_curves_and_arcs_are_drawn_by_clicking_and_by_keyboard()
    {
        await using var server = await AppServer.StartAsync(demo: true);
        var (bench, job) = Open(server);
        _browser.Keyboard("1");
        _browser.WaitForText("#task-card h2", "Add");

        // An outline is closed by a click on its first point and is stitched as an area.
        _browser.Click("[data-tool=line]");
        foreach (var (x, y) in new[] { (-20.0, 70.0), (0.0, 50.0), (20.0, 70.0), (-20.0, 70.0) }) bench.ClickCloth(x, y);
        bench.WaitForVersion(2);
        var outline = job().Order[^1];
        (outline.Drawn!.Shape.IsClosed, outline.Drawn.Settings.Way).ShouldBe((true, StitchWay.Automatic));

        // A curve ends with Enter; a point too many is taken back.
        _browser.Click("[data-tool=curve]");
        foreach (var (x, y) in new[] { (-40.0, -70.0), (0.0, -50.0), (40.0, -70.0), (60.0, 60.0) }) bench.ClickCloth(x, y);
        _browser.Keyboard("\uE003");
        _browser.Keyboard("\uE007");
        bench.WaitForVersion(3);
        var curve = job().Order[^1].Drawn!;
        curve.Shape.Paths[0].Nodes.Length.ShouldBe(3);
        curve.Shape.Paths[0].Nodes.ShouldAllBe(n => n.Kind == NodeKind.Smooth);
        curve.Settings.Way.ShouldBe(StitchWay.Run);

        // An arc is done with its third point.
        _browser.Click("[data-tool=arc]");
        foreach (var (x, y) in new[] { (-30.0, 0.0), (0.0, -30.0), (30.0, 0.0) }) bench.ClickCloth(x, y);
        bench.WaitForVersion(4);
        job().Order[^1].Drawn!.Shape.Bounds.Height.ShouldBe(30, 1.5);

        // And by keyboard alone: arrows carry the cross, Space sets a point.
        _browser.Click("[data-tool=line]");
        _browser.Keyboard(" ");
        for (var i = 0; i < 4; i++) _browser.Hand().KeyDown("\uE008").SendKeys("\uE014").KeyUp("\uE008").Perform();
        _browser.Keyboard(" ");
        _browser.Keyboard("\uE007");
        bench.WaitForVersion(5);
        job().Order[^1].Drawn!.Shape.Bounds.Width.ShouldBe(20, 0.01);

        // Escape leaves without a trace.
        _browser.Click("[data-tool=line]");
        bench.ClickCloth(10, 10);
        _browser.Keyboard("\uE00C");
        _browser.Find("[data-tool=line][aria-pressed=false]");
        bench.Version.ShouldBe("5");
        _browser.Press("\uE009", "z");
        bench.WaitForVersion(6);
        job().Order.Count.ShouldBe(19);
        _browser.Complaints().ShouldBeEmpty();
    }

    [Fact]
    public async Task Points_of_a_shape_are_moved_added_and_taken_out()
    {
        await using var server = await AppServer.StartAsync(demo: true);
        var (bench, job) = Open(server);
        _browser.Click("#line-parts li:nth-child(16)");
        _browser.Keyboard("1");
        _browser.WaitForText("#task-card h2", "Add");
        _browser.Click("[data-tool=nodes]");
        var part = job().Order[15];
        Point At(int node) => part.Placement.Place(part.Drawn!.Shape.Paths[0].Nodes[node].At);
        _browser.WaitFor(() => (bool)_browser.Driver.ExecuteAsyncScript("const done = arguments[0]; import('/pages/Bench/Screen/bench.js').then(m => done(m.outline.data !== null));")!, "the outline");
        bench.DragCloth(At(2).X, At(2).Y, At(2).X + 8, At(2).Y + 5);
        bench.WaitForVersion(2);
        var moved = job().Order[15].Drawn!.Shape.Paths[0].Nodes[2].At - part.Drawn!.Shape.Paths[0].Nodes[2].At;
        moved.DistanceTo(new(8, 5)).ShouldBeLessThan(0.6);

        var middle = At(0).Toward(At(1), 0.5);
        _browser.WaitForStitches();
        Thread.Sleep(150);
        bench.ClickCloth(middle.X, middle.Y);
        bench.WaitForVersion(3);
        job().Order[15].Drawn!.Shape.Paths[0].Nodes.Length.ShouldBe(5);
        Thread.Sleep(150);
        _browser.Keyboard(".");
        _browser.Keyboard("\uE017");
        bench.WaitForVersion(4);
        job().Order[15].Drawn!.Shape.Paths[0].Nodes.Length.ShouldBe(4);
        _browser.Complaints().ShouldBeEmpty();
    }

    [Fact]
    public async Task A_setting_is_tried_while_it_is_typed_kept_when_entered_and_led_back_to_the_usual()
    {
        await using var server = await AppServer.StartAsync(demo: true);
        var (bench, job) = Open(server);
        _browser.Click("#line-parts li:nth-child(9)");
        _browser.Keyboard("3");
        _browser.WaitForText("#task-card h2", "Stitch");
        _browser.Type("#set-spacing", "0.8");
        _browser.WaitForText("#trial", "fewer than now");
        bench.Version.ShouldBe("1");
        _browser.Keyboard("\uE00C");
        _browser.WaitFor(() => _browser.Find("#set-spacing").GetAttribute("value") == "0.4", "the usual spacing to be back");
        bench.Version.ShouldBe("1");
        _browser.Type("#set-spacing", "0.8");
        _browser.Keyboard("\uE007");
        bench.WaitForVersion(2);
        job().Order[8].Drawn!.Settings.SpacingMm.ShouldBe(0.8);
        _browser.Click("button[data-field=spacing]");
        bench.WaitForVersion(3);
        job().Order[8].Drawn!.Settings.SpacingMm.ShouldBeNull();

        // What cannot be is said, and nothing is lost.
        _browser.Type("#set-spacing", "0.01");
        _browser.Keyboard("\uE007");
        _browser.WaitForText("#said", "can be from 0.2 to 5 mm");
        bench.Version.ShouldBe("3");
        _browser.Keyboard("\uE00C");

        // Plain stitches say that they do not follow.
        _browser.Go($"{server.Address}/jobs/1");
        _browser.WaitForStitches();
        _browser.Click("#line-parts li:nth-child(1)");
        _browser.Keyboard("3");
        _browser.WaitForText("#task-card", "came as plain stitches");
    }

    [Fact]
    public async Task Start_and_end_are_chosen_on_the_cloth_and_shapes_are_mirrored_sized_and_taken_out()
    {
        await using var server = await AppServer.StartAsync(demo: true);
        var (bench, job) = Open(server);
        var plan = server.Services.GetRequiredService<JobDesk>().Find(SamplerJob)!.Plan;
        var box = plan.Parts[12].Bounds;
        _browser.Click("#line-parts li:nth-child(13)");
        _browser.Keyboard("3");
        _browser.WaitForText("#task-card h2", "Stitch");
        _browser.Click("[data-tool=start]");
        bench.ClickCloth(box.MinX + 4, box.MaxY - 4);
        bench.WaitForVersion(2);
        var after = server.Services.GetRequiredService<JobDesk>().Find(SamplerJob)!.Plan;
        after.Records.At(after.Parts[12].First).DistanceTo(new(box.MinX + 4, box.MaxY - 4)).ShouldBeLessThan(1);
        _browser.Keyboard("2");
        _browser.WaitForText("#task-card h2", "Arrange");
        _browser.Type("#size-width", "50%");
        _browser.Keyboard("\uE007");
        bench.WaitForVersion(3);
        job().Order[12].Placement.Size.ShouldBe(new(0.5, 0.5));
        _browser.Click("[title='Mirror left to right']");
        bench.WaitForVersion(4);
        job().Order[12].Placement.Mirrored.ShouldBeTrue();
        _browser.Click("[title='Align left']");
        bench.WaitForVersion(5);
        _browser.Run("document.getElementById('cloth').focus()");
        _browser.Keyboard("\uE017");
        bench.WaitForVersion(6);
        job().Order.Count.ShouldBe(15);
        _browser.Complaints().ShouldBeEmpty();
    }

    [Fact]
    public async Task A_cloth_of_ones_own_is_made_and_lain_on()
    {
        await using var server = await AppServer.StartAsync(demo: true);
        _browser.Go($"{server.Address}/equipment?cloth=towel");
        _browser.Type("#cloth-name", "bath sheet");
        _browser.Type("#fill-spacing", "9");
        _browser.Click("#keep-cloth");
        _browser.WaitForText(".finding", "can be from");
        _browser.Type("#cloth-name", "bath sheet");
        _browser.Type("#fill-spacing", "0.34");
        _browser.Click("#keep-cloth");
        _browser.WaitForText(".finding", "bath sheet");
        var (bench, job) = Open(server);
        _browser.Click("#cloth-chip");
        _browser.Select("#cloth-kind", "bath sheet");
        _browser.Click("#lay-on");
        bench.WaitForVersion(2);
        job().Cloth.Profile.Name.ShouldBe("bath sheet");
        _browser.WaitForText("#cloth-chip", "bath sheet");
    }

    private (BenchPage Bench, Func<Job> Job) Open(AppServer server)
    {
        var bench = new BenchPage(_browser);
        bench.Open(server.Address, SamplerJob);
        _browser.Complaints();
        return (bench, () => server.Services.GetRequiredService<JobDesk>().Find(SamplerJob)!.Job);
    }
}
