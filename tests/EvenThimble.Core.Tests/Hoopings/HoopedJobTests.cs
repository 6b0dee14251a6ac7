using EvenThimble.Core.Files.Jobs;
using EvenThimble.Core.Geometry;
using EvenThimble.Core.Hoopings;
using EvenThimble.Core.Jobs;
using EvenThimble.Core.Machines;
using EvenThimble.Core.Planning;
using EvenThimble.Core.Readiness;
using EvenThimble.Core.Stitches;
using EvenThimble.Core.Text;
using EvenThimble.Scenario;
using FsCheck.Xunit;

namespace EvenThimble.Core.Tests.Hoopings;

/// <summary>A divided job: crosses, measured offsets, parts given by hand, what holds the cloth, and the same after edits.</summary>
public sealed class HoopedJobTests
{
    private static readonly MachineCatalogue Machines = StandInMachines.Catalogue;
    private static readonly HoopField Long = StandInMachines.Heron200.FindHoop("130x300-long")!;
    private static readonly Lazy<(Job Job, SewingPlan Plan, IStitchSource Source)> PlainBanner = new(() => MadeBanner(crosses: false));
    private static readonly Lazy<(Job Job, SewingPlan Plan, IStitchSource Source)> BannerWithCrosses = new(() => MadeBanner(crosses: true));

    [Fact]
    public void The_banner_takes_two_positions_and_crosses_are_sewn_first_at_the_same_spot()
    {
        var (job, plan, _) = Banner(crosses: true);
        var hooped = HoopedJob.Of(job, plan, Machines);
        hooped.Hoopings.Select(h => h.Position).ShouldBe([1, 3]);
        hooped.Crosses.Length.ShouldBe(2);
        hooped.Crosses[0].DistanceTo(hooped.Crosses[1]).ShouldBeGreaterThan(60);
        foreach (var hooping in hooped.Hoopings)
        {
            hooping.Plan.Parts[0].Role.ShouldBe(PartRole.RegistrationCross);
            var sewn = MiddlesOf(hooping.AtMachine).Select(p => p + hooping.Place.Centre).ToList();
            sewn.Count.ShouldBe(2);
            for (var i = 0; i < 2; i++) sewn[i].DistanceTo(hooped.Crosses[i]).ShouldBeLessThan(0.01);
            hooping.Plan.Parts.Skip(1).ShouldAllBe(p => p.Thread != hooping.Plan.Parts[0].Thread);
        }
    }

    [Property(MaxTest = 40)]
    public void After_a_measured_offset_the_crosses_meet(int x, int y, int turn)
    {
        var (job, plan, _) = Banner(crosses: true);
        var measured = new MeasuredOffset(x % 200 / 100.0, y % 200 / 100.0, turn % 300 / 100.0);
        job = new MeasureOffset(1, measured).Apply(job);
        var second = HoopedJob.Of(job, plan, Machines).Hoopings[1];
        var spots = HoopedJob.Of(job, plan, Machines).Crosses;

        // How the cloth lies in the hoop, written down apart from the program: turned about the first cross, then shifted.
        var radians = measured.TurnDegrees * Math.PI / 180;
        Point Lands(Point p) => new(
            spots[0].X + ((p.X - spots[0].X) * Math.Cos(radians)) - ((p.Y - spots[0].Y) * Math.Sin(radians)) + measured.Dx,
            spots[0].Y + ((p.X - spots[0].X) * Math.Sin(radians)) + ((p.Y - spots[0].Y) * Math.Cos(radians)) + measured.Dy);
        var landed = MiddlesOf(second.AtMachine).Select(p => Lands(p + second.Place.Centre)).ToList();
        for (var i = 0; i < spots.Length; i++) landed[i].DistanceTo(spots[i]).ShouldBeLessThan(0.001);
    }

    [Fact]
    public void A_seam_drawn_between_two_stars_gives_each_to_its_side_and_moves_no_whole_part()
    {
        var (job, plan, _) = Banner();
        var before = HoopedJob.Of(job, plan, Machines);
        var drawn = new DrawSeam(0, 1, [new(-60, -4), new(60, -4)]).Apply(job);
        var after = HoopedJob.Of(drawn, plan, Machines);
        after.Strays.ShouldBeEmpty();
        after.Seams().Single().Line.ShouldBe([new(-60, -4), new(60, -4)]);
        var measured = SplitMeasure.Of(plan, after);
        (measured.Lost, measured.Outside, measured.TurnedRound).ShouldBe((0, 0, 0));
        var moved = before.HoopingOfRecords().Zip(after.HoopingOfRecords()).Count(h => h.First != h.Second);
        moved.ShouldBeGreaterThan(0);
        new DrawSeam(0, 1, []).Apply(drawn).ShouldBe(job);
    }

    [Fact]
    public void A_part_given_to_a_hooping_goes_there_or_it_is_said_why_not()
    {
        var pen = new DesignPen();
        foreach (var (y, n) in new[] { (-120.0, 0), (0, 1), (2, 2), (120, 3) })
        {
            pen.Take(new("Fenlight", $"{n}", $"thread {n}", Core.Colour.Rgb.FromInt(n * 0x303030)));
            pen.Fill([[new(-20, y - 15), new(20, y - 15), new(20, y + 15), new(-20, y + 15)]], 0, 0.6);
        }

        var (job, source) = MadeUp.JobOf(pen.Finish("four"));
        var plan = Sequencer.Plan(job, source);
        job = new DivideInHoop(plan, StandInMachines.Heron200, Long).Apply(job);
        var ids = job.Order.Select(p => p.Id).ToList();
        foreach (var to in new[] { 0, 1 })
        {
            var given = HoopedJob.Of(new GiveToHooping(new HashSet<PartId> { ids[1], ids[2] }, to).Apply(job), plan, Machines);
            given.Ungiven.ShouldBeEmpty();
            given.HoopingsOf(ids[1]).ShouldBe([to]);
            given.HoopingsOf(ids[2]).ShouldBe([to]);
        }

        // The lower one later than what lies over it: the upper goes along, and where that is given elsewhere it is told.
        var torn = new GiveToHooping(new HashSet<PartId> { ids[2] }, 0).Apply(new GiveToHooping(new HashSet<PartId> { ids[1] }, 1).Apply(job));
        var hooped = HoopedJob.Of(torn, plan, Machines);
        hooped.Strays.ShouldBeEmpty();
        hooped.Ungiven.ShouldHaveSingleItem().Outside.ShouldBeFalse();
        var outside = HoopedJob.Of(new GiveToHooping(new HashSet<PartId> { ids[0] }, 1).Apply(job), plan, Machines);
        outside.Ungiven.ShouldHaveSingleItem().Outside.ShouldBeTrue();
        Inspector.Inspect(torn, plan, Machines).ShouldContain(f => f.Key.StartsWith("given") && f.ConcernsTheHoop);
    }

    [Fact]
    public void An_edit_keeps_the_division_where_it_holds_and_says_where_not()
    {
        var (job, _, source) = Banner(crosses: true);
        var recoloured = new Recolour(new HashSet<PartId> { job.Order[0].Id }, job.Order[1].Thread).Apply(job);
        var plan = Sequencer.Plan(recoloured, source);
        HoopedJob.Of(recoloured, plan, Machines).Strays.ShouldBeEmpty();
        Inspector.Inspect(recoloured, plan, Machines).ShouldNotContain(f => f.ConcernsTheHoop);

        var moved = new ShiftParts(new HashSet<PartId> { job.Order[0].Id }, 0, 40).Apply(job);
        plan = Sequencer.Plan(moved, source);
        HoopedJob.Of(moved, plan, Machines).Strays.ShouldHaveSingleItem().Outside.ShouldBeTrue();
        var finding = Inspector.Inspect(moved, plan, Machines).First();
        (finding.Level, finding.ConcernsTheHoop).ShouldBe((FindingLevel.Trouble, true));
        finding.Says.ShouldContain(job.Order[0].Name);
    }

    [Theory]
    [InlineData(Basting.AroundTheJob)]
    [InlineData(Basting.AlongTheField)]
    public void Basting_and_marks_are_sewn_inside_the_field_before_all_else_and_the_needle_rests_where_it_should(Basting basting)
    {
        var (job, plan, _) = Banner();
        var hooped = HoopedJob.Of(new HoldCloth(new(basting, true, NeedleRest.Centre, NeedleRest.FarLeft)).Apply(job), plan, Machines);
        foreach (var hooping in hooped.Hoopings)
        {
            FitAdvisor.Fits(hooping.AtMachine, hooping.Place.Field).ShouldBeTrue();
            hooping.Plan.Parts.Take(2).Select(p => p.Role).ShouldBe([PartRole.Basting, PartRole.RegistrationCross]);
            var own = HoopedJob.Of(job, plan, Machines).Hoopings[hooping.Number - 1].Plan;
            var records = hooping.Plan.Records;
            var firstMove = Enumerable.Range(0, records.Count).First(i => records.Kinds[i] == StitchKind.Jump);
            records.At(firstMove).ShouldBe(hooping.Place.Centre);
            (records.Kinds[^1], records.At(records.Count - 1)).ShouldBe((StitchKind.Jump, new Point(own.Bounds.MinX, own.Bounds.MinY)));
            var line = hooping.Plan.Parts[0];
            var lengths = Enumerable.Range(line.First + 1, line.Count - 1).Where(i => records.Kinds[i] == StitchKind.Stitch && records.Kinds[i - 1] == StitchKind.Stitch).Select(i => records.At(i).DistanceTo(records.At(i - 1))).ToList();
            lengths.Max().ShouldBeLessThanOrEqualTo(6.01);
        }
    }

    [Fact]
    public void A_job_that_is_not_divided_nor_held_sews_exactly_its_plan()
    {
        var (job, source) = MadeUp.JobOf(DemoDesigns.All[0].Drawn());
        var plan = Sequencer.Plan(job, source);
        HoopedJob.Of(job, plan, Machines).Hoopings.Single().AtMachine.ShouldBeSameAs(plan);
    }

    [Fact]
    public void The_document_keeps_hoopings_seams_crosses_and_notes()
    {
        var (job, _, _) = Banner(crosses: true);
        job = new DrawSeam(0, 1, [new(-60, -4), new(60, 3)]).Apply(job);
        job = new GiveToHooping(new HashSet<PartId> { job.Order[2].Id }, 1).Apply(job);
        job = new MeasureOffset(1, new(0.6, -0.2, 1)).Apply(job);
        job = new SetCrosses(new([new(-40, 3), new(40, 3)])).Apply(job);
        job = new HoldCloth(new(Basting.AlongTheField, true, NeedleRest.Centre, NeedleRest.NearRight)).Apply(job);
        job = new WriteNotes("Iron it first.\nUse the long hoop.").Apply(job);
        JobDocument.FromJson(JobDocument.ToJson(job), MadeUp.ShapesOf(job), _ => null).ShouldBe(job);
    }

    [Fact]
    public void What_cannot_be_divided_is_refused_in_a_sentence()
    {
        var (small, source) = MadeUp.JobOf(DemoDesigns.All[0].Drawn());
        Should.Throw<EditRefusedException>(() => FewestHoopings.For(Sequencer.Plan(small, source), StandInMachines.Heron200, StandInMachines.Heron200.FindHoop("200x200")!)).Message.ShouldContain("fits");
        var pen = new DesignPen();
        pen.Take(VolunteersThreadsForTests.Any);
        pen.Sew([new(-150, 0), new(150, 0), new(-150, 1), new(150, 1)]);
        var plan = LargeJobs.PlanOf(pen.Finish("long throws"));
        Should.Throw<EditRefusedException>(() => FewestHoopings.For(plan, StandInMachines.Heron200, StandInMachines.Heron200.Hoops[0])).Message.ShouldContain("longer than the field");
        Should.Throw<EditRefusedException>(() => new Undivide().Apply(small)).Message.ShouldContain("not divided");
        Should.Throw<EditRefusedException>(() => new SetCrosses(CrossWish.Proposed).Apply(small)).Message.ShouldContain("one");
    }

    [Fact]
    public void The_smallest_turn_is_found_and_every_needle_point_fits_then()
    {
        var wren = StandInMachines.Wren130.FindHoop("130x180")!;
        foreach (var lean in new[] { 60.0, -55, 72, 90 })
        {
            // A bar that just fits upright, lying askew.
            var pen = new DesignPen();
            pen.Take(VolunteersThreadsForTests.Any);
            pen.Run([.. new Point[] { new(-3, -89), new(3, -89), new(3, 89), new(-3, 89), new(-3, -89) }.Select(p => p.Turned(lean, Point.Zero))], 2);
            var (job, source) = MadeUp.JobOf(pen.Finish("askew"));
            var plan = Sequencer.Plan(job, source);
            var fit = new FieldFit(plan);
            fit.Fits(wren).ShouldBeFalse();
            var turn = fit.SmallestTurn(wren)!.Value;

            // By trying every tenth of a degree, apart from the program.
            bool Fits(double degrees) => Box.Around(Enumerable.Range(0, plan.Records.Count).Where(i => plan.Records.Kinds[i] == StitchKind.Stitch).Select(i => plan.Records.At(i).Turned(degrees, Point.Zero))) is { Width: <= 130.1, Height: <= 180.1 };
            var best = Enumerable.Range(1, 900).Select(n => n / 10.0).First(d => Fits(d) || Fits(-d));
            Math.Abs(turn).ShouldBe(best, 0.11);
            var all = job.Order.Select(p => p.Id).ToHashSet();
            var turned = new CentreParts(all, fit.MiddleTurned(turn)).Apply(new TurnParts(all, turn, fit.Middle).Apply(job));
            FitAdvisor.Fits(Sequencer.Plan(turned, source), wren).ShouldBeTrue();
        }
    }

    [Theory]
    [InlineData(0, 100, 0, 1, 0, "wide and high")]
    [InlineData(120, 100, 60, 1, 0, "free inside")]
    [InlineData(120, 100, 0, 3, 95, "do not overlap")]
    [InlineData(120, 100, 0, 9, 20, "1 to 6")]
    [InlineData(double.NaN, 100, 0, 1, 0, "wide and high")]
    public void A_hoop_that_cannot_be_is_refused_in_a_sentence(double width, double height, double margin, int positions, double step, string says) =>
        Should.Throw<EditRefusedException>(() => HoopRules.Checked(new("", "mine", width, height) { Margin = margin, Positions = positions, PositionStep = step })).Message.ShouldContain(says);

    [Theory]
    [InlineData(FieldShape.Ellipse)]
    [InlineData(FieldShape.Rounded)]
    public void Round_fields_hold_what_lies_within_their_edge_and_no_more(FieldShape shape)
    {
        var field = new HoopField("own-1", "mine", 120, 80) { Shape = shape, CornerRadius = 30 };
        foreach (var p in field.Edge(0.2)) field.Holds(p).ShouldBeTrue();
        foreach (var p in field.Edge(-0.2)) field.Holds(p).ShouldBeFalse();
    }

    private static (Job Job, SewingPlan Plan, IStitchSource Source) Banner(bool crosses = false) => (crosses ? BannerWithCrosses : PlainBanner).Value;

    private static (Job Job, SewingPlan Plan, IStitchSource Source) MadeBanner(bool crosses)
    {
        var (job, source) = MadeUp.JobOf(DemoDesigns.All.Single(d => d.FileName == "constellation-banner.evth").Drawn());
        var plan = Sequencer.Plan(job, source);
        job = new DivideInHoop(plan, StandInMachines.Heron200, Long).Apply(job);
        return (crosses ? new SetCrosses(CrossWish.Proposed).Apply(job) : job, plan, source);
    }

    /// <summary>The middles of the crosses that a plan sews, found by their two lines.</summary>
    private static IEnumerable<Point> MiddlesOf(SewingPlan plan)
    {
        var part = plan.Parts.First(p => p.Role == PartRole.RegistrationCross);
        var points = Enumerable.Range(part.First, part.Count).Where(i => plan.Records.Kinds[i] == StitchKind.Stitch).Select(plan.Records.At).ToList();
        return points.Chunk(6).Select(c => Box.Around([(c[0] + c[2]) / 2, (c[3] + c[5]) / 2]).Middle);
    }

    private static class VolunteersThreadsForTests
    {
        public static readonly Core.Threads.SewingThread Any = new("Fenlight", "1", "any", Core.Colour.Rgb.FromInt(0x336699));
    }
}
