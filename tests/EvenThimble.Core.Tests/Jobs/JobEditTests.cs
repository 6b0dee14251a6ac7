using EvenThimble.Core.Craft;
using EvenThimble.Core.Files.Jobs;
using EvenThimble.Core.Geometry;
using EvenThimble.Core.Jobs;
using EvenThimble.Core.Machines;
using EvenThimble.Core.Planning;
using EvenThimble.Core.Stitches;
using EvenThimble.Core.Text;
using FsCheck;
using FsCheck.Xunit;

namespace EvenThimble.Core.Tests.Jobs;

public class JobEditTests
{
    private static readonly Job Job = MadeUp.JobOf(MadeUp.Rows((0, 0, "tail"), (0, 10, "star"), (0, 20, "dome"), (0, 30, "hill"))).Job;

    [Fact]
    public void Recolouring_changes_the_chosen_parts_alone_and_the_name_that_came_from_the_thread()
    {
        var edit = new Recolour(MadeUp.Ids(1, 3), MadeUp.Thread("gold"));
        var after = edit.Apply(Job);
        after.Order.Select(p => p.Thread.Name).ShouldBe(["gold", "star", "gold", "hill"]);
        after.Order.Select(p => p.Name).ShouldBe(["gold", "star", "gold", "hill"]);
        edit.Label(Job).ShouldBe("Recoloured 2 parts to Fenlight gold gold");
        var named = new NameParts(MadeUp.Ids(1), "The tail").Apply(Job);
        edit.Apply(named).Order[0].Name.ShouldBe("The tail");
    }

    [Fact]
    public void An_edit_leaves_the_job_before_it_as_it_was()
    {
        var before = JobDocument.ToJson(Job);
        new ShiftParts(MadeUp.Ids(1), 5, 5).Apply(Job).ShouldNotBe(Job);
        JobDocument.ToJson(Job).ShouldBe(before);
    }

    [Theory]
    [InlineData(new[] { 1 }, 2, new[] { 2, 1, 3, 4 })]
    [InlineData(new[] { 4 }, 0, new[] { 4, 1, 2, 3 })]
    [InlineData(new[] { 1, 3 }, 4, new[] { 2, 4, 1, 3 })]
    [InlineData(new[] { 2, 4 }, 1, new[] { 1, 2, 4, 3 })]
    [InlineData(new[] { 2 }, 1, new[] { 1, 2, 3, 4 })]
    public void Parts_are_put_where_they_are_dropped_in_their_own_order(int[] chosen, int index, int[] order) =>
        new PlaceInOrder(MadeUp.Ids(chosen), index).Apply(Job).Order.Select(p => p.Id.Value).ShouldBe(order);

    [Theory]
    [InlineData(new[] { 1 }, true, new[] { 1, 2, 3, 4 })]
    [InlineData(new[] { 2, 3 }, true, new[] { 2, 3, 1, 4 })]
    [InlineData(new[] { 1, 2 }, false, new[] { 3, 1, 2, 4 })]
    [InlineData(new[] { 1, 4 }, false, new[] { 2, 1, 3, 4 })]
    public void A_step_moves_each_chosen_part_by_one_and_none_past_another_chosen(int[] chosen, bool earlier, int[] order) =>
        new StepInOrder(MadeUp.Ids(chosen), earlier).Apply(Job).Order.Select(p => p.Id.Value).ShouldBe(order);

    [Property]
    public void No_reordering_loses_or_doubles_a_part(int[] chosen, int index)
    {
        var ids = chosen.Select(c => new PartId((Math.Abs(c % 4)) + 1)).ToHashSet();
        if (ids.Count == 0) return;
        new PlaceInOrder(ids, index).Apply(Job).Order.Select(p => p.Id.Value).Order().ShouldBe([1, 2, 3, 4]);
    }

    [Fact]
    public void Four_quarter_turns_bring_every_number_back()
    {
        var about = new Point(3.37, -12.91);
        var turned = Job;
        for (var i = 0; i < 4; i++) turned = new TurnParts(MadeUp.Ids(1, 2), 90, about).Apply(turned);
        turned.ShouldBe(Job);
    }

    [Property]
    public void Turning_back_brings_a_part_back(NormalFloat degrees, NormalFloat x, NormalFloat y)
    {
        var (by, about) = (degrees.Item % 720, new Point(x.Item % 200, y.Item % 200));
        var there = new TurnParts(MadeUp.Ids(1), by, about).Apply(Job);
        var back = new TurnParts(MadeUp.Ids(1), -by, about).Apply(there).Order[0].Placement;
        back.X.ShouldBe(0, 1e-4);
        back.Y.ShouldBe(0, 1e-4);
        Math.Min(back.TurnDegrees, 360 - back.TurnDegrees).ShouldBe(0, 1e-4);
    }

    [Fact]
    public void Turning_keeps_every_distance()
    {
        var (job, source) = MadeUp.JobOf(MadeUp.File(4));
        var before = Sequencer.Plan(job, source).Records;
        var after = Sequencer.Plan(new TurnParts(job.Order.Select(p => p.Id).ToHashSet(), 33.3, new(10, 20)).Apply(job), source).Records;
        for (var i = 1; i < before.Count; i++) after.At(i).DistanceTo(after.At(i - 1)).ShouldBe(before.At(i).DistanceTo(before.At(i - 1)), 1e-4);
    }

    [Fact]
    public void Wrong_edits_are_refused_in_a_sentence_and_change_nothing()
    {
        foreach (var edit in new JobEdit[]
        {
            new Recolour(MadeUp.Ids(), MadeUp.Thread("x")), new ShiftParts(MadeUp.Ids(9), 1, 1), new ShiftParts(MadeUp.Ids(1), double.NaN, 0), new ShiftParts(MadeUp.Ids(1), 1e9, 0),
            new TurnParts(MadeUp.Ids(1), double.PositiveInfinity, Point.Zero), new RenameJob(" \u0000 "), new SetShortTitle("A far too long short name"), new SetShortTitle("天"),
            new ChooseHoop(StandInMachines.Wren130, StandInMachines.StarlingEight.Hoops[0]), new NameParts(MadeUp.Ids(1), "  "),
        })
            Should.Throw<EditRefusedException>(() => edit.Apply(Job)).Message.ShouldEndWith(".");
    }

    [Fact]
    public void A_job_is_stored_and_read_as_the_same_job()
    {
        Job job = new EditsTogether("all",
        [
            new Recolour(MadeUp.Ids(2), MadeUp.Thread("gold")), new ShiftParts(MadeUp.Ids(1, 4), 1.25, -3.5), new TurnParts(MadeUp.Ids(3), 33.3, new(1, 2)), new HideParts(MadeUp.Ids(1), true),
            new LockParts(MadeUp.Ids(2), true), new GiveRole(MadeUp.Ids(4), PartRole.Cover), MadeUp.Wren("130x180"), new SetShortTitle("ROWS"),
            new ChooseCloth(new(ClothProfiles.Find("towel")! with { Id = "own-1", FillSpacingMm = 0.5, Topping = "net" }, new(1, 2, 3))), new PlaceInOrder(MadeUp.Ids(4), 0),
        ]).Apply(Job);
        MadeUp.Reread(job).ShouldBe(job);
    }

    [Theory]
    [InlineData("")]
    [InlineData("[]")]
    [InlineData("{\"version\":99,\"pieces\":[],\"parts\":[]}")]
    [InlineData("{\"version\":1}")]
    public void A_stored_job_that_is_damaged_is_told_so(string json) => Should.Throw<InvalidDataException>(() => JobDocument.FromJson(json, MadeUp.ShapesOf(), _ => null));

    [Fact]
    public void A_new_job_starts_in_a_hoop_that_it_fits()
    {
        var machines = StandInMachines.Catalogue;
        machines.FieldOf(machines.HoopFor(new(-90, -50, 90, 50))).Name.ShouldBe("200 × 200");
        machines.MachineOf(machines.HoopFor(new(-60, -80, 60, 80))).ShouldBe(StandInMachines.Heron200);
        machines.MachineOf(machines.HoopFor(new(-160, -90, 160, 90))).ShouldBe(StandInMachines.StarlingEight);
        machines.HoopFor(new(-900, -90, 160, 90)).ShouldBe(machines.UsualHoop);
    }
}
