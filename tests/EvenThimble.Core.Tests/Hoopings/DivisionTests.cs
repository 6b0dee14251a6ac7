using EvenThimble.Core.Colour;
using EvenThimble.Core.Craft;
using EvenThimble.Core.Digitizing;
using EvenThimble.Core.Geometry;
using EvenThimble.Core.Hoopings;
using EvenThimble.Core.Jobs;
using EvenThimble.Core.Machines;
using EvenThimble.Core.Planning;
using EvenThimble.Core.Shapes;
using EvenThimble.Core.Stitches;
using EvenThimble.Scenario;
using Shouldly;
using Xunit;

namespace EvenThimble.Core.Tests.Hoopings;

/// <summary>Jobs larger than the hoop, divided: every stitch once and in its field, nothing under what it lay over.</summary>
public sealed class DivisionTests(ITestOutputHelper says)
{
    private static readonly MachineCatalogue Machines = StandInMachines.Catalogue;

    // Each kind on two hoops: the first with one of three seeds, and one of two others.
    public static TheoryData<string, int> Jobs => [.. LargeJobs.Kinds.SelectMany((kind, n) => new[] { 1 + (n % 3), 4 + (n % 2) }.Select(seed => (kind, seed)))];

    [Theory]
    [MemberData(nameof(Jobs))]
    public void Every_stitch_is_sewn_once_in_its_field_and_no_layer_is_turned_round(string kind, int seed)
    {
        // The long hoop, the same with a job that is wider than it, and a large job on a small hoop.
        var (width, height, machine, hoop) = seed switch
        {
            <= 3 => (118.0, 285.0, "heron-200", "130x300-long"),
            4 => (180.0, 230.0, "heron-200", "130x180"),
            _ => (190.0, 190.0, "wren-130", "100x100"),
        };
        var plan = LargeJobs.Make(kind, seed, width, height);
        var m = Machines.Find(machine)!;
        var hoopings = FewestHoopings.For(plan, m, m.FindHoop(hoop)!);
        var hooped = HoopedJob.Of(JobFor(hoopings), plan, Machines);
        var measured = SplitMeasure.Of(plan, hooped);
        says.WriteLine($"{kind} {seed}: {plan.StitchCount} stitches, {measured}");
        hooped.Strays.ShouldBeEmpty();
        measured.Lost.ShouldBe(0);
        measured.Twice.ShouldBe(0);
        measured.Outside.ShouldBe(0);
        measured.TurnedRound.ShouldBe(0);
        measured.Untied.ShouldBe(0);
        measured.Slivers.ShouldBe(0);
        measured.OtherPixels.ShouldBeLessThan(0.005);
        hoopings.Length.ShouldBe(seed <= 3 ? 2 : hoopings.Length);
    }

    [Fact]
    public void What_is_tied_under_its_own_throws_is_not_tied_again()
    {
        // Six bars of satin above one another, each in one hooping or the other.
        var (builder, parts) = (new StitchBuilder(), new List<StitchFilePart>());
        for (var n = 0; n < 6; n++)
        {
            var (first, bar) = (builder.Count, Digitizer.Stitch(BasicShapes.Rectangle(30, 1.2).Moved(p => p + new Point(0, (44 * n) - 110)), new(StitchWay.Satin), ClothProfiles.Cotton));
            builder.Append(bar, 0, bar.Count);
            parts.Add(new(first, bar.Count, MadeUp.Thread("one"), PartRole.Decoration));
        }

        var (job, source) = MadeUp.JobOf(new("Bars", builder.ToBlob(), [.. parts]));
        var plan = Sequencer.Plan(job, source);
        var hooped = HoopedJob.Of(JobFor(FewestHoopings.For(plan, StandInMachines.Heron200, StandInMachines.Heron200.FindHoop("130x180")!)), plan, Machines);
        hooped.Hoopings.Length.ShouldBe(2);
        hooped.Hoopings.Sum(h => h.Plan.StitchCount).ShouldBe(plan.StitchCount);
    }

    /// <summary>Small cases against all ways: every set of fields, laid by the edges of parts, in every order, whole parts only. The program may cut parts, so it may need fewer, never more.</summary>
    [Fact]
    public void No_way_of_laying_whole_parts_needs_fewer_hoopings()
    {
        var (random, fewer) = (new Random(5), 0);
        var wren = StandInMachines.Wren130;
        var field = wren.FindHoop("100x100")!;
        for (var n = 0; n < 40; n++)
        {
            var (boxes, pen) = (new List<Box>(), new DesignPen());
            for (var p = 0; p < 5; p++)
            {
                var at = new Point(random.Next(-110, 110), random.Next(-110, 110));
                var half = random.Next(6, 30);
                boxes.Add(new Box(at.X - half, at.Y - half, at.X + half, at.Y + half).Grown(0.3));
                pen.Take(new("Fenlight", $"{p}", $"part {p}", Rgb.FromInt(0x101010 * (p + 1))));
                pen.Run([new(at.X - half, at.Y - half), new(at.X + half, at.Y - half), new(at.X + half, at.Y + half), new(at.X - half, at.Y + half), new(at.X - half, at.Y - half)], 4);
                pen.Run([new(at.X - half, at.Y), new(at.X + half, at.Y)], 4);
            }

            var plan = LargeJobs.PlanOf(pen.Finish($"five {n}"));
            if (plan.Bounds is { Width: <= 100, Height: <= 100 }) continue;
            var found = FewestHoopings.For(plan, wren, field).Length;
            var best = Exhaustive(boxes, 100);
            found.ShouldBeLessThanOrEqualTo(best, $"case {n}");
            if (found < best) fewer++;
        }

        says.WriteLine($"fewer than whole parts need: {fewer} of 40");
    }

    /// <summary>The fewest fields of a size that sew boxes in their order where they overlap, by trying all.</summary>
    private static int Exhaustive(List<Box> boxes, double side)
    {
        var fields = boxes.SelectMany(a => boxes.Select(b => new Box(a.MinX, b.MinY, a.MinX + side, b.MinY + side))).ToList();
        var front = new HashSet<int> { 0 };
        for (var count = 0; ; count++)
        {
            if (front.Contains((1 << boxes.Count) - 1)) return count;
            front = [.. front.SelectMany(done => fields.Select(f => Take(done, f)))];
        }

        int Take(int done, Box f)
        {
            for (var n = 0; n < boxes.Count; n++)
            {
                var b = boxes[n];
                if ((done & (1 << n)) == 0 && b.MinX >= f.MinX && b.MinY >= f.MinY && b.MaxX <= f.MaxX + 0.6 && b.MaxY <= f.MaxY + 0.6 && Enumerable.Range(0, n).All(a => (done & (1 << a)) != 0 || !boxes[a].Meets(b)))
                    done |= 1 << n;
            }

            return done;
        }
    }

    private static Job JobFor(IEnumerable<Hooping> hoopings) => Job.New(new("heron-200", "130x180")) with { Hoopings = [.. hoopings] };
}
