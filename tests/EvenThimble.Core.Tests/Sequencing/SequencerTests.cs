using EvenThimble.Core.Geometry;
using EvenThimble.Core.Jobs;
using EvenThimble.Core.Machines;
using EvenThimble.Core.Planning;
using EvenThimble.Core.Stitches;
using FsCheck.Xunit;

namespace EvenThimble.Core.Tests.Sequencing;

[Properties(Arbitrary = [typeof(MadeUpFiles)], MaxTest = 80)]
public class SequencerTests
{
    [Property]
    public void An_untouched_design_is_sewn_exactly_as_it_came(StitchFile file)
    {
        var (job, source) = MadeUp.JobOf(file);
        var plan = Sequencer.Plan(job, source);
        plan.Records.X.ToArray().ShouldBe(file.Stitches.X.ToArray());
        plan.Records.Y.ToArray().ShouldBe(file.Stitches.Y.ToArray());
        plan.Records.Kinds.ToArray().ShouldBe(file.Stitches.Kinds.ToArray());
        plan.Records.Messages.ShouldBe(file.Stitches.Messages);
        plan.ToFile(job.Title).Parts.ToArray().ShouldBe(file.Parts.ToArray());
    }

    [Property]
    public void However_parts_are_ordered_every_stitch_is_sewn_once_at_its_place(StitchFile file, int seed)
    {
        var (job, source) = MadeUp.JobOf(file);
        var random = new Random(seed);
        var shuffled = job with { Order = new([.. job.Order.OrderBy(_ => random.Next())]) };
        var plan = Sequencer.Plan(shuffled, source);
        Needles(plan.Records).Order().ShouldBe(Needles(file.Stitches).Order());
        plan.Parts.Sum(p => p.Count).ShouldBe(plan.Records.Count);
        plan.Parts.Select(p => p.Id).ShouldBe(shuffled.Order.Select(p => p.Id));
    }

    [Property]
    public void Between_parts_that_were_put_side_by_side_the_thread_is_cut_and_nothing_is_sewn_across(StitchFile file)
    {
        var (job, source) = MadeUp.JobOf(file);
        if (job.Order.Count < 2) return;
        var plan = Sequencer.Plan(job with { Order = new([.. job.Order.Reverse()]) }, source);
        foreach (var part in plan.Parts.Skip(1))
        {
            plan.Records.Kinds[part.First - 1].ShouldBeOneOf(StitchKind.Trim, StitchKind.Stop);
            plan.Records.Kinds[part.First].ShouldBe(StitchKind.Jump);
        }
    }

    [Fact]
    public void A_part_moved_alone_is_reached_by_a_jump_to_its_new_place()
    {
        var (job, source) = MadeUp.JobOf(MadeUp.Rows((0, 0, "a"), (0, 10, "b"), (0, 20, "c")));
        var plan = Sequencer.Plan(new ShiftParts(MadeUp.Ids(2), 100, 0).Apply(job), source);
        var moved = plan.Parts[1];
        plan.Records.Kinds[moved.First].ShouldBe(StitchKind.Jump);
        plan.Records.At(moved.First).ShouldBe(new Point(100, 10));
        moved.Bounds.ShouldBe(new Box(100, 10, 118, 10));
        plan.Parts[2].Bounds.ShouldBe(new Box(0, 20, 18, 20));
        plan.StitchCount.ShouldBe(30);
    }

    [Fact]
    public void The_next_part_of_the_same_thread_nearby_needs_no_cut()
    {
        var builder = new StitchBuilder();
        foreach (var x in new double[] { 0, 2, 4 }) builder.Stitch(new(x, 0));
        foreach (var x in new double[] { 20, 22 }) builder.Stitch(new(x, 0));
        foreach (var x in new double[] { 5, 7 }) builder.Stitch(new(x, 0));
        var thread = MadeUp.Thread("a");
        var (job, source) = MadeUp.JobOf(new("x", builder.ToBlob(), [new(0, 3, thread, 0), new(3, 2, thread, 0), new(5, 2, thread, 0)]));
        var plan = Sequencer.Plan(new PlaceInOrder(MadeUp.Ids(2), 3).Apply(job), source);
        plan.Records.Kinds.ToArray().ShouldBe([0, 0, (StitchKind)0, StitchKind.Jump, 0, (StitchKind)0, StitchKind.Trim, StitchKind.Jump, 0, (StitchKind)0]);
        plan.ThreadChanges.ShouldBe(0);
    }

    [Fact]
    public void A_message_before_a_part_stays_with_it_wherever_it_goes()
    {
        var builder = new StitchBuilder();
        builder.Stitch(new(0, 0));
        builder.Stitch(new(2, 0));
        builder.Stop("Lay the star fabric");
        builder.Jump(new(9, 9));
        builder.Stitch(new(9, 9));
        builder.Stitch(new(11, 9));
        var (job, source) = MadeUp.JobOf(new("x", builder.ToBlob(), [new(0, 2, MadeUp.Thread("a"), 0), new(2, 4, MadeUp.Thread("b"), 0)]));
        var plan = Sequencer.Plan(new PlaceInOrder(MadeUp.Ids(2), 0).Apply(job), source);
        plan.Records.Messages.Values.ShouldBe(["Lay the star fabric"]);
        plan.PartOf(plan.Records.Messages.Keys.Single())!.Id.ShouldBe(new PartId(2));
    }

    [Property]
    public void The_stream_for_the_screen_holds_the_same_records(StitchFile file)
    {
        var (job, source) = MadeUp.JobOf(file);
        var plan = Sequencer.Plan(job, source);
        var bytes = PlanStream.Write(plan);
        BitConverter.ToInt32(bytes, 8).ShouldBe(plan.Records.Count);
        BitConverter.ToInt32(bytes, 12).ShouldBe(plan.Parts.Length);
        var places = 16 + (12 * plan.Parts.Length);
        for (var i = 0; i < plan.Records.Count; i++)
        {
            BitConverter.ToSingle(bytes, places + (8 * i)).ShouldBe((float)plan.Records.X[i]);
            BitConverter.ToSingle(bytes, places + (8 * i) + 4).ShouldBe((float)plan.Records.Y[i]);
            bytes[places + (8 * plan.Records.Count) + i].ShouldBe((byte)plan.Records.Kinds[i]);
        }

        bytes.Length.ShouldBe(places + (9 * plan.Records.Count));
    }

    [Fact]
    public void The_density_map_holds_all_thread_and_one_layer_of_fill_counts_as_one()
    {
        var builder = new StitchBuilder();
        for (var row = 0; row < 50; row++)
            for (var k = 0; k <= 10; k++)
                builder.Stitch(new(row % 2 == 0 ? 2 * k : 20 - (2 * k), row * 0.4));
        var (job, source) = MadeUp.JobOf(new("x", builder.ToBlob(), [new(0, builder.Count, MadeUp.Thread("a"), 0)]));
        var map = DensityMap.Of(Sequencer.Plan(job, source));
        map.TotalMm.ShouldBe((50 * 20) + (49 * 0.4), 0.01);
        Enumerable.Range(4, 10).Average(row => map.LayersAt(10, row)).ShouldBe(1, 0.05);
        DensityMap.Of(Sequencer.Plan(job, source), _ => false).TotalMm.ShouldBe(0);
    }

    [Fact]
    public void Time_counts_stitches_trims_and_thread_changes()
    {
        var (job, source) = MadeUp.JobOf(MadeUp.Rows((0, 0, "a"), (0, 1, "b"), (0, 2, "a")));
        var estimate = SewingEstimate.Of(Sequencer.Plan(job, source), StandInMachines.Wren130, clothThickness: 0.5);
        estimate.Minutes.ShouldBe(((30 * 60.0 / 650) + (3 * 7) + (2 * 60)) / 60, 1e-9);
        estimate.Threads.Select(t => t.Stitches).ShouldBe([20, 10]);

        // Nine stitches of 2 mm and one on the spot, each going through the cloth and back; two tails of 20 mm at the trim.
        estimate.Threads[1].TopMetres.ShouldBe((18 + (10 * 1.0) + 40) / 1000, 1e-9);
    }

    [Fact]
    public void A_stored_blob_comes_back_the_same_and_a_damaged_one_is_told_so()
    {
        var blob = MadeUp.File(21).Stitches;
        var bytes = blob.ToBytes();
        var again = StitchBlob.FromBytes(bytes);
        again.Hash.ShouldBe(blob.Hash);
        again.Messages.ShouldBe(blob.Messages);
        Should.Throw<InvalidDataException>(() => StitchBlob.FromBytes(bytes.AsSpan(0, 40)));
        Should.Throw<InvalidDataException>(() => StitchBlob.FromBytes([]));
    }

    private static IEnumerable<(double X, double Y)> Needles(StitchBlob blob) =>
        Enumerable.Range(0, blob.Count).Where(i => blob.Kinds[i] == StitchKind.Stitch).Select(i => (blob.X[i], blob.Y[i])).ToList();
}
