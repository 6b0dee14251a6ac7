using System.Collections.Immutable;
using EvenThimble.Core.Geometry;
using EvenThimble.Core.Jobs;
using EvenThimble.Core.Planning;
using EvenThimble.Core.Planning.Splitting;
using EvenThimble.Core.Stitches;
using EvenThimble.Core.Text;
using EvenThimble.Core.Threads;
using EvenThimble.Scenario;
using FsCheck.Xunit;
using Shouldly;
using Xunit;

namespace EvenThimble.Core.Tests.Jobs;

public class ResizeAndCopyTests
{
    private static readonly (Job Job, IStitchSource Source) Comet = MadeUp.JobOf(DemoDesigns.All[0].Drawn());
    private static readonly (Job Job, IStitchSource Source) Sampler = (EvenThimble.Scenario.Sampler.Make(), new MadeUp.OneBlob(StitchBlob.None));

    private static HashSet<PartId> All(Job job) => [.. job.Order.Select(p => p.Id)];

    private static Job Resized(Job job, double across, double down) =>
        new ResizeParts(All(job), across, down, PartStitches.BoundsOf(job.Order, Comet.Source).Middle).Apply(job);

    [Property(MaxTest = 200)]
    public bool A_placement_and_its_inverse_undo_each_other(int seed)
    {
        var random = new Random(seed);
        double At() => (random.NextDouble() - 0.5) * 100;
        var placed = new Placement(At(), At(), random.Next(4) * 90, random.Next(2) == 0)
            .Scaled(0.3 + random.NextDouble(), 0.3 + random.NextDouble(), new(At(), At())).Turned(At(), new(At(), At())).Leaned(At() / 3, new(At(), At())).Scaled(0.5 + random.NextDouble(), 0.5 + random.NextDouble(), new(At(), At()));
        var p = new Point(At(), At());
        return placed.Unplace(placed.Place(p)).DistanceTo(p) < 1e-4 && placed.Size.Across > 0 && placed.Size.Down > 0;
    }

    [Property(MaxTest = 200)]
    public bool Placements_come_one_after_another(int seed)
    {
        var random = new Random(seed);
        double At() => (random.NextDouble() - 0.5) * 80;
        Placement Any() => new Placement(At(), At(), 0, random.Next(2) == 0).Turned(At() * 3, Point.Zero).Scaled(0.4 + random.NextDouble(), 0.4 + random.NextDouble(), new(At(), At()));
        var (outer, inner, p) = (Any(), Any(), new Point(At(), At()));
        return outer.After(inner).Place(p).DistanceTo(outer.Place(inner.Place(p))) < 1e-5
            && outer.After(outer.Before(inner)).Place(p).DistanceTo(inner.Place(p)) < 1e-5
            && inner.MirroredAt(7).Place(p).DistanceTo(new(14 - inner.Place(p).X, inner.Place(p).Y)) < 1e-5;
    }

    [Property(MaxTest = 100)]
    public bool Scaling_and_leaning_do_to_every_place_what_they_say(int seed)
    {
        var random = new Random(seed);
        double At() => (random.NextDouble() - 0.5) * 80;
        var (placed, about, p) = (new Placement(At(), At(), 0).Turned(At(), Point.Zero), new Point(At(), At()), new Point(At(), At()));
        var (was, scaled, leaned) = (placed.Place(p), placed.Scaled(0.7, 1.9, about).Place(p), placed.Leaned(20, about).Place(p));
        return scaled.DistanceTo(new(about.X + (0.7 * (was.X - about.X)), about.Y + (1.9 * (was.Y - about.Y)))) < 1e-5
            && leaned.DistanceTo(new(was.X - (Math.Tan(Math.PI / 9) * (was.Y - about.Y)), was.Y)) < 1e-5;
    }

    [Theory]
    [InlineData(0.4)]
    [InlineData(0.37)]
    [InlineData(1.83)]
    public void Down_and_back_the_very_same_stitches_are_sewn(double scale)
    {
        var before = Sequencer.Plan(Comet.Job, Comet.Source);
        var small = Resized(Comet.Job, scale, scale);
        Sequencer.Plan(small, Comet.Source).Records.Hash.ShouldNotBe(before.Records.Hash);
        var back = Resized(small, 1 / scale, 1 / scale);
        back.Order.ShouldAllBe(p => p.Placement.Size.IsOriginal);
        Sequencer.Plan(back, Comet.Source).Records.Hash.ShouldBe(before.Records.Hash);

        // Ten changes do no more than one.
        var many = Enumerable.Range(0, 10).Aggregate(Comet.Job, (job, i) => Resized(job, i % 2 == 0 ? 0.5 : 2, i % 2 == 0 ? 0.5 : 2));
        Sequencer.Plan(many, Comet.Source).Records.Hash.ShouldBe(before.Records.Hash);
    }

    [Fact]
    public void Drawn_shapes_grow_with_their_stitches_made_anew()
    {
        var job = Sampler.Job;
        var before = Sequencer.Plan(job, Sampler.Source);
        var twice = new ResizeParts(All(job), 2, 2, Point.Zero).Apply(job);
        var after = Sequencer.Plan(twice, Sampler.Source);
        after.Bounds.Width.ShouldBe(before.Bounds.Width * 2, 3);
        (after.StitchCount / (double)before.StitchCount).ShouldBeInRange(2, 4);
        Sequencer.Plan(new ResizeParts(All(job), 0.5, 0.5, Point.Zero).Apply(twice), Sampler.Source).Records.Hash.ShouldBe(before.Records.Hash);
    }

    [Fact]
    public void Sizes_that_cannot_be_are_refused()
    {
        foreach (var (across, down) in new[] { (0.0, 1.0), (-1, 1), (double.NaN, 1), (1000, 1000), (0.001, 0.001), (double.PositiveInfinity, 1) })
            Should.Throw<EditRefusedException>(() => Resized(Comet.Job, across, down)).Message.ShouldEndWith(".");
        Should.Throw<EditRefusedException>(() => new LeanParts(All(Comet.Job), 89, Point.Zero).Apply(Comet.Job));
        Should.Throw<EditRefusedException>(() => new ChangeSpacing(All(Comet.Job), 9).Apply(Comet.Job));
        Should.Throw<EditRefusedException>(() => new LeaveOutShort(All(Comet.Job), 5).Apply(Comet.Job));
    }

    [Fact]
    public void Stretched_keeps_the_count_and_respaced_follows_the_size()
    {
        var small = Resized(Comet.Job, 0.8, 0.8);
        var before = Sequencer.Plan(Comet.Job, Comet.Source).StitchCount;
        Sequencer.Plan(new ChooseResizeMode(All(small), ResizeMode.Stretch).Apply(small), Comet.Source).StitchCount.ShouldBe(before);
        (Sequencer.Plan(small, Comet.Source).StitchCount / (double)before).ShouldBeInRange(0.62, 0.85);
    }

    [Fact]
    public void Parts_split_and_respaced_look_like_the_whole_respaced()
    {
        var plan = Sequencer.Plan(Comet.Job, Comet.Source);
        var cut = plan.Parts[2].First + (plan.Parts[2].Count / 4);
        var split = Splitter.AtNeedle(Comet.Job, plan, cut, Comet.Source).Apply(Comet.Job);
        var (whole, halves) = (Sequencer.Plan(Resized(Comet.Job, 1.5, 1.5), Comet.Source), Sequencer.Plan(Resized(split, 1.5, 1.5), Comet.Source));
        Math.Abs(whole.StitchCount - halves.StitchCount).ShouldBeLessThan(30);
        halves.Trims.ShouldBe(whole.Trims);
        halves.Jumps.ShouldBeInRange(whole.Jumps - 1, whole.Jumps + 1);
    }

    [Fact]
    public void Copies_are_pieces_of_their_own_sewn_after_what_they_were_copied_from()
    {
        var gold = new HashSet<PartId> { Comet.Job.Order[2].Id };
        var job = AddCopies.Of(Comet.Job, gold, 5, 5, "Duplicated Noon straw").Apply(Comet.Job);
        job.Order.Select(p => p.Name).ShouldBe(["Deep fern", "Noon slate blue", "Noon straw", "Noon straw", "Pale honey"]);
        job.Pieces.Length.ShouldBe(2);
        job.Order[3].Piece.ShouldBe(job.Pieces[1].Id);
        job.Order.Select(p => p.Id).Distinct().Count().ShouldBe(5);
        var ring = AddCopies.Ring(Comet.Job, gold, 6, Point.Zero, new(40, 0), turned: true).Apply(Comet.Job);
        ring.Order.Count.ShouldBe(9);
        ring.Order[3].Placement.TurnDegrees.ShouldBe(60);
        var row = AddCopies.Row(Comet.Job, gold, 4, 10, 0).Apply(Comet.Job);
        row.Order.Skip(2).Take(4).Select(p => p.Placement.X).ShouldBe([0, 10, 20, 30]);
        Should.Throw<EditRefusedException>(() => AddCopies.Row(Comet.Job, gold, 1, 10, 0));
        Should.Throw<EditRefusedException>(() => AddCopies.Row(Comet.Job, gold, 101, 10, 0));
        Should.Throw<EditRefusedException>(() => AddCopies.Of(Comet.Job, new HashSet<PartId>(), 1, 1, "x"));
        Should.Throw<EditRefusedException>(() => AddCopies.Row(Comet.Job, gold, 90, 100, 0).Apply(Comet.Job)).Message.ShouldContain("from the centre");
    }

    [Fact]
    public void Designs_come_in_as_pieces_with_threads_the_job_has_already()
    {
        var meteors = DemoDesigns.All[5].Drawn();
        var (theirs, ours) = (meteors.Parts[1].Thread, Comet.Job.Order[2].Thread);
        var job = new BringDesigns([new(null, meteors, new(10, -20)), new(null, meteors, null)], ImmutableDictionary<SewingThread, SewingThread>.Empty.Add(theirs, ours)).Apply(Comet.Job);
        job.Pieces.Length.ShouldBe(3);
        job.Order.Count.ShouldBe(4 + (2 * meteors.Parts.Length));
        job.Order[5].Thread.ShouldBe(ours);
        job.Order[4].Placement.X.ShouldBe(10 - meteors.Bounds.Middle.X, 1e-6);
        Should.Throw<EditRefusedException>(() => new BringDesigns([], ImmutableDictionary<SewingThread, SewingThread>.Empty).Apply(Comet.Job));
    }

    [Fact]
    public void Pieces_are_spaced_at_even_gaps()
    {
        var (job, source) = MadeUp.JobOf(MadeUp.Rows((0, 0, "a"), (21, 10, "b"), (90, 20, "c")));
        var plan = Sequencer.Plan(job, source);
        var groups = job.Order.Select(p => ((IReadOnlySet<PartId>)new HashSet<PartId> { p.Id }, plan.BoundsOf(new HashSet<PartId> { p.Id }))).ToImmutableArray();
        Sequencer.Plan(new SpaceEvenly(groups, Across: true).Apply(job), source).Parts[1].Bounds.MinX.ShouldBe(45, 1e-6);
        Should.Throw<EditRefusedException>(() => new SpaceEvenly(groups[..2], true).Apply(job)).Message.ShouldContain("three");
    }
}
