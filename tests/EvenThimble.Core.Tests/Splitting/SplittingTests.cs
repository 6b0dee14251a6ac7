using System.Collections.Immutable;
using EvenThimble.Core.Geometry;
using EvenThimble.Core.Jobs;
using EvenThimble.Core.Planning;
using EvenThimble.Core.Planning.Ordering;
using EvenThimble.Core.Planning.Splitting;
using EvenThimble.Core.Stitches;
using EvenThimble.Core.Text;
using EvenThimble.Scenario;
using FsCheck.Xunit;
using Shouldly;
using Xunit;

namespace EvenThimble.Core.Tests.Splitting;

public class SplittingTests
{
    private static readonly (Job Job, IStitchSource Source) Comet = MadeUp.JobOf(DemoDesigns.All[0].Drawn());

    private static SewingPlan PlanOf(Job job) => Sequencer.Plan(job, Comet.Source);

    private static PartId Gold => Comet.Job.Order[2].Id;

    /// <summary>The record at which the needle leaps from the tails to the star.</summary>
    private static int StarJump(SewingPlan plan)
    {
        var part = plan.Parts[2];
        return Enumerable.Range(part.First + 1, part.Count - 1).First(i => plan.Records.Kinds[i] == StitchKind.Jump && plan.Records.At(i).Y > -8);
    }

    [Fact]
    public void A_cut_where_the_needle_leaps_parts_tails_from_star_and_says_so()
    {
        var plan = PlanOf(Comet.Job);
        var split = Splitter.AtNeedle(Comet.Job, plan, StarJump(plan), Comet.Source);
        split.Label(Comet.Job).ShouldMatch(@"^Split Noon straw into 2 parts at stitch [\d,]+$");
        var job = split.Apply(Comet.Job);
        job.Order.Select(p => p.Name).ShouldBe(["Deep fern", "Noon slate blue", "Noon straw", "Noon straw, 2", "Pale honey"]);
        var after = PlanOf(job);
        after.Records.Hash.ShouldBe(plan.Records.Hash);
        after.Parts[2].Bounds.MaxY.ShouldBeLessThan(0);
        after.Parts[3].Bounds.MinY.ShouldBeGreaterThan(-10);
    }

    [Property(MaxTest = 60)]
    public bool Wherever_it_is_cut_every_stitch_is_still_there(int place)
    {
        var plan = PlanOf(Comet.Job);
        var record = (int)((uint)place % (uint)plan.Records.Count);
        try
        {
            var job = Splitter.AtNeedle(Comet.Job, plan, record, Comet.Source).Apply(Comet.Job);
            return job.Order.Count == 5 && PlanOf(job).Records.Hash == plan.Records.Hash;
        }
        catch (EditRefusedException e)
        {
            return e.Message.Contains("nothing to cut off", StringComparison.Ordinal);
        }
    }

    [Fact]
    public void Halves_that_are_moved_apart_are_tied_off_and_in()
    {
        var plan = PlanOf(Comet.Job);
        var part = plan.Parts[2];
        var middle = part.First + (part.Count / 3);
        while (plan.Records.Kinds[middle] != StitchKind.Stitch) middle++;
        var job = Splitter.AtNeedle(Comet.Job, plan, middle, Comet.Source).Apply(Comet.Job);
        var moved = new ShiftParts(new HashSet<PartId> { job.Order[3].Id }, 5, 30).Apply(job);
        var after = PlanOf(moved);
        var (first, second) = (after.Parts[2], after.Parts[3]);
        SmallStitches(after, Enumerable.Range(0, 6).Select(k => LastStitch(after, first) - k)).ShouldBeGreaterThanOrEqualTo(3);
        SmallStitches(after, Enumerable.Range(1, 6).Select(k => FirstStitch(after, second) + k)).ShouldBeGreaterThanOrEqualTo(3);
        after.Records.Kinds[LastStitch(after, first) + 1].ShouldBe(StitchKind.Trim);

        // Recoloured where they lie they are parted as well.
        var recoloured = PlanOf(new Recolour(new HashSet<PartId> { job.Order[3].Id }, MadeUp.Thread("other")).Apply(job));
        SmallStitches(recoloured, Enumerable.Range(1, 6).Select(k => FirstStitch(recoloured, recoloured.Parts[3]) + k)).ShouldBeGreaterThanOrEqualTo(3);
    }

    [Fact]
    public void Cut_and_joined_again_it_is_the_very_same_part()
    {
        var plan = PlanOf(Comet.Job);
        var job = Splitter.AtNeedle(Comet.Job, plan, StarJump(plan), Comet.Source).Apply(Comet.Job);
        var joined = new JoinParts(new HashSet<PartId> { job.Order[2].Id, job.Order[3].Id }).Apply(job);
        joined.ShouldBe(Comet.Job);
        var (far, back) = (new ShiftParts(new HashSet<PartId> { job.Order[3].Id }, 3, -4).Apply(job), new HashSet<PartId> { job.Order[2].Id, job.Order[3].Id });
        PlanOf(new JoinParts(back).Apply(far)).Records.Hash.ShouldBe(PlanOf(far).Records.Hash);
    }

    [Fact]
    public void At_its_jumps_a_part_falls_into_its_runs()
    {
        var job = Splitter.AtJumps(Comet.Job, Gold, Comet.Source).Apply(Comet.Job);
        job.Order.Count.ShouldBeGreaterThan(6);
        PlanOf(job).Records.Hash.ShouldBe(PlanOf(Comet.Job).Records.Hash);
        var rows = MadeUp.JobOf(MadeUp.Rows((0, 0, "a"), (0, 20, "b")));
        Should.Throw<EditRefusedException>(() => Splitter.AtJumps(rows.Job, rows.Job.Order[0].Id, rows.Source)).Message.ShouldContain("has no jump");
    }

    [Fact]
    public void By_stretches_what_hangs_together_stays_together()
    {
        var job = Splitter.ByStretches(Comet.Job, Gold, Comet.Source).Apply(Comet.Job);
        var plan = PlanOf(job);
        var pieces = plan.Parts.Where(p => p.Name.StartsWith("Noon straw", StringComparison.Ordinal)).ToList();
        pieces.Count.ShouldBe(2, string.Join("; ", pieces.Select(p => p.Bounds)) + "the tails hang together near the head, the star is alone");
        pieces.ShouldContain(p => p.Bounds.MinY > -10);
        plan.StitchCount.ShouldBe(PlanOf(Comet.Job).StitchCount);
    }

    [Theory]
    [InlineData(0.6)]
    [InlineData(1.0)]
    public void Letters_that_nearly_touch_come_apart_and_what_a_letter_is_made_of_stays_together(double apart)
    {
        // Fifteen letters like an H: two stems and a bar of satin, each a thread of its own, the bar over both stems.
        const double high = 8, wide = 6, stem = 1.4;
        var letters = new StitchBuilder();
        for (var k = 0; k < 15; k++)
        {
            Point at = new(k % 5 * (wide + apart), k / 5 * (high + apart));
            Column(at, stem, high);
            Column(at + new Point(wide - stem, 0), stem, high);
            letters.Trim();
            letters.Jump(at + new Point(stem - 0.3, 3));
            for (var x = stem - 0.3; x < wide - stem + 0.3; x += 0.2) letters.Stitch(at + new Point(x, (int)Math.Round(x / 0.2) % 2 == 0 ? 3 : 4.5));
        }

        var (job, source) = MadeUp.JobOf(MadeUp.Rows((0, 0, "a")) with { Stitches = letters.ToBlob(), Parts = [MadeUp.Rows((0, 0, "a")).Parts[0] with { First = 0, Count = letters.Count }] });
        var parts = Splitter.ByStretches(job, job.Order[0].Id, source).Apply(job).Order;
        parts.Count.ShouldBe(15);

        void Column(Point at, double width, double length)
        {
            if (letters.Count > 0) letters.Trim();
            letters.Jump(at);
            for (var y = 0.0; y < length; y += 0.2) letters.Stitch(at + new Point((int)Math.Round(y / 0.2) % 2 == 0 ? 0 : width, y));
        }
    }

    [Fact]
    public void What_a_line_is_drawn_around_becomes_a_part_of_its_own()
    {
        var around = new Point[] { new(28, -9), new(64, -9), new(64, 24), new(28, 24) };
        var job = Splitter.ByLasso(Comet.Job, Gold, around, Comet.Source).Apply(Comet.Job);
        job.Order.Count.ShouldBe(5);
        PlanOf(job).Parts[3].Bounds.MinY.ShouldBeGreaterThan(-9);
        Should.Throw<EditRefusedException>(() => Splitter.ByLasso(Comet.Job, Gold, [new(500, 500), new(501, 500), new(501, 501)], Comet.Source)).Message.ShouldContain("does not lie partly");

        // A line across a fill cuts it once.
        var fill = Splitter.ByLasso(Comet.Job, Comet.Job.Order[0].Id, [new(-90, 20), new(-20, 20), new(-20, 70), new(-90, 70)], Comet.Source);
        fill.Pieces.Length.ShouldBe(2);
        fill.Pieces.Sum(p => p.Length).ShouldBeLessThan(14);
    }

    [Fact]
    public void Joining_says_what_is_in_the_way()
    {
        var job = Comet.Job;
        var ids = new HashSet<PartId> { job.Order[0].Id, job.Order[3].Id };
        var needs = JoinNeeds.Of(job, ids, Overlaps.Of(PlanOf(job)));
        needs.DifferInThread.ShouldBeTrue();
        needs.Between.Select(p => p.Name).ShouldBe(["Noon slate blue", "Noon straw"]);
        needs.Conflicts.ShouldContain(c => c.Over.Name == "Noon slate blue" && c.Part.Name == "Pale honey");
        Should.Throw<EditRefusedException>(() => new JoinParts(ids).Apply(job)).Message.ShouldContain("different threads");
        Should.Throw<EditRefusedException>(() => new JoinParts(ids, job.Order[0].Thread).Apply(job)).Message.ShouldContain("Other parts sew between");
        var joined = new JoinParts(ids, job.Order[0].Thread, BringTogether: true).Apply(job);
        joined.Order.Select(p => p.Name).ShouldBe(["Deep fern", "Noon slate blue", "Noon straw"]);
        joined.Order[0].Slices.Sum(s => s.Count).ShouldBe(job.Order[0].Slices[0].Count + job.Order[3].Slices[0].Count);
        Should.Throw<EditRefusedException>(() => new JoinParts(new HashSet<PartId> { job.Order[0].Id }).Apply(job));
    }

    [Fact]
    public void A_split_part_keeps_its_halves_through_a_document()
    {
        var plan = PlanOf(Comet.Job);
        var job = Splitter.AtNeedle(Comet.Job, plan, StarJump(plan), Comet.Source).Apply(Comet.Job);
        var changed = new EditsTogether("x",
        [
            new ShiftParts(new HashSet<PartId> { job.Order[3].Id }, 3, 4), new JoinParts(new HashSet<PartId> { job.Order[2].Id, job.Order[3].Id }),
            new ResizeParts(new HashSet<PartId> { job.Order[0].Id, Gold }, 0.8, 0.7, Point.Zero), new ChangeSpacing(new HashSet<PartId> { job.Order[1].Id }, 1.2), new SewOnlySeen(true),
            new KeepWhole(new HashSet<PartId> { job.Order[1].Id }, true), new LeaveOutShort(new HashSet<PartId> { job.Order[1].Id }, 0.5), new LeaveOutUnderlay(new HashSet<PartId> { job.Order[0].Id }, true),
        ]).Apply(job);
        MadeUp.Reread(changed).ShouldBe(changed);
    }

    private static int SmallStitches(SewingPlan plan, IEnumerable<int> records) =>
        records.Count(r => plan.Records.Kinds[r] == StitchKind.Stitch && plan.Records.Kinds[r - 1] == StitchKind.Stitch && plan.Records.At(r).DistanceTo(plan.Records.At(r - 1)) is > 0.3 and < 0.85);

    private static int FirstStitch(SewingPlan plan, PlannedPart part) => Enumerable.Range(part.First, part.Count).First(i => plan.Records.Kinds[i] == StitchKind.Stitch);

    private static int LastStitch(SewingPlan plan, PlannedPart part) => Enumerable.Range(part.First, part.Count).Last(i => plan.Records.Kinds[i] == StitchKind.Stitch);
}
