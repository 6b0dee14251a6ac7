using EvenThimble.Core.Geometry;
using EvenThimble.Core.Hoopings;
using EvenThimble.Core.Jobs;
using EvenThimble.Core.Machines;
using EvenThimble.Core.Planning;
using EvenThimble.Core.Readiness;
using EvenThimble.Core.Stitches;
using FsCheck;
using FsCheck.Xunit;

namespace EvenThimble.Core.Tests.Readiness;

public class InspectorTests
{
    [Fact]
    public void What_fits_and_is_small_enough_is_ready()
    {
        var (job, source) = Rectangle(100, 150);
        Inspector.Inspect(job, Sequencer.Plan(job, source), StandInMachines.Catalogue).ShouldBeEmpty();
    }

    [Fact]
    public void One_needle_point_outside_is_enough_and_a_jump_outside_is_none()
    {
        var builder = new StitchBuilder();
        builder.Jump(new(500, 500));
        builder.Stitch(new(0, 0));
        builder.Stitch(new(64.9, 0));
        Findings(builder).ShouldBeEmpty();
        builder.Stitch(new(65.2, 0));
        Findings(builder).Single().Key.ShouldBe("outside");
    }

    [Theory]
    [InlineData(1, null)]
    [InlineData(4, null)]
    [InlineData(6, FindingLevel.Attention)]
    [InlineData(9, FindingLevel.Trouble)]
    public void Layers_that_lie_on_each_other_are_told_from_satin_with_its_underlay(int times, FindingLevel? level)
    {
        var builder = new StitchBuilder();
        for (var k = 0; k < times; k++)
        {
            builder.Stitch(new(0, 1.5));
            for (var x = 0.0; x <= 20; x += 2) builder.Stitch(new(x, 1.5));
            for (var x = 20.0; x >= 0; x -= 0.4)
            {
                builder.Stitch(new(x, 0));
                builder.Stitch(new(x, 3));
            }
        }

        var found = Findings(builder).ToList();
        found.Select(f => (f.Key, (FindingLevel?)f.Level)).ShouldBe(level is null ? [] : [("too-dense", level)]);
        if (level is not null) found[0].Record.ShouldNotBeNull();
    }

    [Fact]
    public void Demo_designs_are_not_too_dense()
    {
        foreach (var design in EvenThimble.Scenario.DemoDesigns.All)
        {
            var (job, source) = MadeUp.JobOf(design.Drawn());
            Inspector.Inspect(job, Sequencer.Plan(job, source), StandInMachines.Catalogue).Where(f => f.Key == "too-dense").Select(f => f.Says).ShouldBeEmpty(design.Drawn().Title);
        }
    }

    [Theory]
    [InlineData(150, 100, 0, 0, "turn")]
    [InlineData(100, 150, 40, 0, "centre")]
    public void What_would_fit_turned_or_centred_is_offered_so_and_then_fits(double width, double height, double x, double y, string remedy)
    {
        var (job, source) = Rectangle(width, height, x, y);
        job = MadeUp.Wren("130x180").Apply(job);
        var finding = Inspector.Inspect(job, Sequencer.Plan(job, source), StandInMachines.Catalogue).Single(f => f.Key == "outside");
        finding.Level.ShouldBe(FindingLevel.Trouble);
        var mended = finding.Remedies.Single(r => r.Key == remedy).Edit.Apply(job);
        Inspector.Inspect(mended, Sequencer.Plan(mended, source), StandInMachines.Catalogue).ShouldNotContain(f => f.Key == "outside");
    }

    [Property(MaxTest = 200)]
    public void Every_remedy_that_is_offered_makes_it_fit(PositiveInt w, PositiveInt h, int x, int y, bool wren)
    {
        var (job, source) = Rectangle((w.Get * 7 % 400) + 2, (h.Get * 11 % 400) + 2, x % 60, y % 60);
        if (wren) job = MadeUp.Wren("100x100").Apply(job);
        foreach (var remedy in Inspector.Inspect(job, Sequencer.Plan(job, source), StandInMachines.Catalogue).Where(f => f.Key == "outside").SelectMany(f => f.Remedies))
        {
            var mended = remedy.Edit.Apply(job);
            var hooped = HoopedJob.Of(mended, Sequencer.Plan(mended, source), StandInMachines.Catalogue);
            hooped.Strays.ShouldBeEmpty(remedy.Label);
            hooped.Hoopings.ShouldAllBe(h => FitAdvisor.Fits(h.AtMachine, h.Place.Field), remedy.Label);
        }
    }

    [Fact]
    public void What_no_hoop_holds_can_be_sewn_in_parts_or_smaller()
    {
        var (job, source) = Rectangle(300, 300);
        var finding = Inspector.Inspect(job, Sequencer.Plan(job, source), StandInMachines.Catalogue).Single(f => f.Key == "outside");
        finding.Remedies.Select(r => r.Key).ShouldBe(["divide", "smaller"]);
    }

    [Fact]
    public void Too_many_stitches_and_thread_changes_for_a_machine_are_told()
    {
        var rows = Enumerable.Range(0, 30).Select(i => (X: -9.0, Y: i - 15.0, Thread: i.ToString())).ToArray();
        var (job, source) = MadeUp.JobOf(MadeUp.Rows(rows));
        job = MadeUp.Wren("100x100").Apply(job);
        Inspector.Inspect(job, Sequencer.Plan(job, source), StandInMachines.Catalogue).Single(f => f.Level == FindingLevel.Trouble).Key.ShouldBe("too-many-changes");

        var builder = new StitchBuilder();
        for (var i = 0; i < 40_001; i++) builder.Stitch(new(i % 2, i % 40));
        var (large, largeSource) = MadeUp.JobOf(new("Large", builder.ToBlob(), [new(0, builder.Count, MadeUp.Thread("a"), 0)]));
        large = MadeUp.Wren("100x100").Apply(large);
        var finding = Inspector.Inspect(large, Sequencer.Plan(large, largeSource), StandInMachines.Catalogue).First();
        finding.Key.ShouldBe("too-many-stitches");
        finding.Says.ShouldContain("40,001");
        finding.Remedies.Select(r => r.Edit.Apply(large).Hoop.MachineId).ShouldBe(["heron-200", "starling-eight"]);
    }

    [Fact]
    public void A_title_that_a_machine_cannot_show_gets_a_short_name_that_it_can()
    {
        var (job, source) = Rectangle(50, 50);
        job = MadeUp.Wren("100x100").Apply(job with { Title = "Comet over the dome" });
        var finding = Inspector.Inspect(job, Sequencer.Plan(job, source), StandInMachines.Catalogue).Single();
        finding.Level.ShouldBe(FindingLevel.Note);
        var named = finding.Remedies.Single().Edit.Apply(job);
        Inspector.NameOn(named, StandInMachines.Wren130).ShouldBe("Comet dome");
        Inspector.NameOn(named, StandInMachines.Heron200).ShouldBe("Comet over the dome");
    }

    [Fact]
    public void Long_stitches_are_counted_and_the_first_is_shown()
    {
        var builder = new StitchBuilder();
        foreach (var x in new[] { 0, 5, 17.0, 17.05, 30, 42.2 }) builder.Stitch(new(x, 0));
        var finding = Findings(builder).Single();
        finding.Key.ShouldBe("long-stitches");
        finding.Record.ShouldBe(4);
        finding.Says.ShouldContain("2 stitches");
    }

    [Fact]
    public void Hidden_parts_are_noted_but_the_job_is_ready()
    {
        var (job, source) = Rectangle(50, 50);
        var hidden = new HideParts(MadeUp.Ids(1), true).Apply(job);
        var finding = Inspector.Inspect(hidden, Sequencer.Plan(hidden, source), StandInMachines.Catalogue).Single();
        finding.Level.ShouldBe(FindingLevel.Note);
        finding.Remedies.Single().Edit.Apply(hidden).ShouldBe(job);
    }

    [Fact]
    public void An_ellipse_holds_less_than_its_rectangle()
    {
        var field = new HoopField("oval", "oval", 100, 60) { Shape = FieldShape.Ellipse };
        field.Holds(new(49, 0)).ShouldBeTrue();
        field.Holds(new(40, 25)).ShouldBeFalse();
        (field with { Margin = 5 }).Holds(new(49, 0)).ShouldBeFalse();
    }

    private static (Job Job, IStitchSource Source) Rectangle(double width, double height, double x = 0, double y = 0)
    {
        var builder = new StitchBuilder();
        Point[] corners = [new(x - (width / 2), y - (height / 2)), new(x + (width / 2), y - (height / 2)), new(x + (width / 2), y + (height / 2)), new(x - (width / 2), y + (height / 2))];
        for (var i = 0; i < 5; i++)
            for (var k = 0; k < 100; k++)
                builder.Stitch(corners[i % 4].Toward(corners[(i + 1) % 4], i == 4 ? 0 : k / 100.0));
        var (job, source) = MadeUp.JobOf(new("Rectangle", builder.ToBlob(), [new(0, builder.Count, MadeUp.Thread("a"), 0)]));
        return (job with { Hoopings = [new(StandInMachines.Catalogue.UsualHoop)] }, source);
    }

    private static IEnumerable<Finding> Findings(StitchBuilder builder)
    {
        var (job, source) = MadeUp.JobOf(new("x", builder.ToBlob(), [new(0, builder.Count, MadeUp.Thread("a"), 0)]));
        job = job with { Hoopings = [new(StandInMachines.Catalogue.UsualHoop)] };
        return Inspector.Inspect(job, Sequencer.Plan(job, source), StandInMachines.Catalogue).Where(f => f.Key != "long-stitches" || builder.Count > 4);
    }
}
