using EvenThimble.Core.Craft;
using EvenThimble.Core.Files.Stitch;
using EvenThimble.Core.Jobs;
using EvenThimble.Core.Machines;
using EvenThimble.Core.Planning;
using EvenThimble.Core.Rack;
using EvenThimble.Core.Stitches;
using EvenThimble.Core.Text;
using EvenThimble.Core.Threads;
using EvenThimble.Scenario;

namespace EvenThimble.Core.Tests.Rack;

/// <summary>How much thread is taken, measured on the exported file; where it runs out; what is bought.</summary>
public class ThreadNeedsTests
{
    private const double Cloth = 0.5;

    public static TheoryData<string> Designs() => [.. DemoDesigns.All.Select(d => d.FileName)];

    [Theory]
    [MemberData(nameof(Designs))]
    public void Metres_are_those_of_the_exported_file_and_the_allowances_that_are_told(string design)
    {
        var plan = PlanOf(DemoDesigns.All.First(d => d.FileName == design).Drawn());
        var file = StitchFormats.Of(StitchFileKind.Evth2).Read(StitchFormats.Write(StitchFileKind.Evth2, plan.ToFile("x")));
        foreach (var need in NeedsOf(plan, 3, []).Threads)
        {
            var (mm, stitches, trims) = (0.0, 0, 0);
            foreach (var part in file.Parts.Where(p => p.Thread == need.Thread))
            {
                for (var i = part.First; i < part.First + part.Count; i++)
                {
                    if (file.Stitches.Kinds[i] == StitchKind.Trim) trims++;
                    if (file.Stitches.Kinds[i] != StitchKind.Stitch) continue;
                    stitches++;
                    if (i > 0) mm += Math.Sqrt(Math.Pow(file.Stitches.X[i] - file.Stitches.X[i - 1], 2) + Math.Pow(file.Stitches.Y[i] - file.Stitches.Y[i - 1], 2));
                }
            }

            need.TopMetres.ShouldBe(3 * (mm + (2 * Cloth * stitches) + (40 * trims)) / 1000, 0.01 * need.TopMetres);
            need.BobbinMetres.ShouldBeInRange(0.3 * 3 * mm / 1000, 0.5001 * 3 * (mm + (80 * trims)) / 1000);
        }
    }

    [Fact]
    public void A_thread_runs_out_in_the_copy_and_at_the_stitch_where_it_does()
    {
        var plan = PlanOf(DemoDesigns.All[0].Drawn());
        var thread = plan.Threads[1];
        var each = NeedsOf(plan, 1, []).Threads.Single(t => t.Thread == thread).TopMetres;
        var needs = NeedsOf(plan, 12, [ConeOf(thread, each * 7.4), ConeOf(plan.Threads[0], 5_000)]);
        var need = needs.Threads.Single(t => t.Thread == thread);
        need.Out!.Copy.ShouldBe(8);
        plan.PartOf(need.Out.Record)!.Thread.ShouldBe(thread);
        need.MissingMetres.ShouldBe(each * 4.6, 1e-6);
        need.LeftAfter.ShouldBe(0);

        // Counted apart: what is sewn of it before that stitch is 0.4 of a copy.
        var before = plan.Parts.Where(p => p.Thread == thread).SelectMany(p => Enumerable.Range(p.First, p.Count)).Where(i => i < need.Out.Record).Sum(i => ThreadLengths.TopMm(plan.Records, i, Cloth)) / 1000;
        before.ShouldBe(each * 0.4, 0.02);
        need.Out.Stitch.ShouldBe(Enumerable.Range(0, need.Out.Record + 1).Count(i => plan.Records.Kinds[i] == StitchKind.Stitch));
        needs.Threads.Single(t => t.Thread == plan.Threads[0]).IsEnough.ShouldBeTrue();
        needs.Threads.Where(t => t.Cone is null).ShouldAllBe(t => t.Out == null && t.MissingMetres == t.TopMetres);
    }

    [Fact]
    public void One_article_under_two_names_comes_off_one_cone()
    {
        var file = MadeUp.Rows((0, 0, "a"), (20, 0, "b"), (40, 0, "c"));
        var (sea, named) = (new SewingThread("Fenlight", "1001", "Sea", default), new SewingThread("Fenlight", "1001", "Sea again", default));
        var plan = PlanOf(file with { Parts = [file.Parts[0] with { Thread = sea }, file.Parts[1] with { Thread = named }, file.Parts[2]] });
        var alone = SewingEstimate.Of(plan, StandInMachines.Heron200, Cloth).Threads;
        var need = NeedsOf(plan, 2, [ConeOf(sea, (2 * alone[0].TopMetres) + (1.5 * alone[1].TopMetres))]).Threads[0];
        need.TopMetres.ShouldBe(2 * (alone[0].TopMetres + alone[1].TopMetres), 1e-9);
        need.Out!.Copy.ShouldBe(2);
        plan.PartOf(need.Out.Record)!.Thread.ShouldBe(named, "the first part of the second copy is sewn");
    }

    [Fact]
    public void A_shopping_list_is_in_whole_cones_by_maker_with_its_sum()
    {
        var sold = MadeUpCharts.All[0].Sold;
        var strange = new SewingThread("Elsewhere", "9", "Nine", default);
        var list = ShoppingList.Of(
            [new(sold[3].Thread, 700, "Crest"), new(sold[3].Thread, 600, "Patch"), new(strange, 20, "Crest"), new(sold[1].Thread, 1_000, "Patch")],
            thread => sold.FirstOrDefault(s => s.Thread.IsSameAs(thread)));
        list.Lines.Select(l => (l.Thread.Number, l.Cones)).ShouldBe([("9", 1), (sold[1].Thread.Number, 1), (sold[3].Thread.Number, 2)]);
        list.Lines[2].For.ShouldBe(["Crest", "Patch"]);
        list.Sum.ShouldBe(3 * 4.20m);
        list.WithoutPrice.ShouldBe(1);
    }

    [Theory]
    [InlineData("350", 350)]
    [InlineData("350 m", 350)]
    [InlineData("1,5 km", 1500)]
    [InlineData("40 %", 1600)]
    [InlineData("74g", 1360)]
    public void What_is_left_is_told_in_metres_a_part_or_grams(string typed, double metres) =>
        (ConeOf(MadeUpCharts.All[0].Threads[0], 2_000) with { Count = 2, EmptyGrams = 20 }).Told(typed).LeftMetres.ShouldBe(metres, 1e-6);

    [Theory]
    [InlineData("-3 m", "less than nothing")]
    [InlineData("30 g", "less than the bare cones weigh")]
    [InlineData("9000", "more than 2 full cones hold")]
    [InlineData("half", "no amount of thread")]
    [InlineData("12 ells", "no unit for thread")]
    [InlineData("", "no amount of thread")]
    public void What_cannot_be_left_is_refused(string typed, string says) =>
        Should.Throw<EditRefusedException>(() => (ConeOf(MadeUpCharts.All[0].Threads[0], 500) with { Count = 2, EmptyGrams = 20 }).Told(typed)).Message.ShouldContain(says);

    [Fact]
    public void Grams_need_the_weights_that_they_are_counted_with()
    {
        Should.Throw<EditRefusedException>(() => ConeOf(MadeUpCharts.All[0].Threads[0], 500).Told("60 g")).Message.ShouldContain("bare cone weighs");
        Should.Throw<EditRefusedException>(() => (ConeOf(MadeUpCharts.All[4].Threads[0], 500) with { Make = ThreadMake.Of("Metallic"), EmptyGrams = 20 }).Told("60 g")).Message.ShouldContain("not known");
    }

    private static Cone ConeOf(SewingThread thread, double left) => new(thread, ThreadMake.Of("Rayon 40"), 1, Math.Max(1_000, Math.Min(left, 5_000)), left);

    private static ThreadNeeds NeedsOf(SewingPlan plan, int copies, IReadOnlyList<Cone> rack) =>
        ThreadNeeds.Of(plan, SewingEstimate.Of(plan, StandInMachines.Heron200, Cloth).Threads, Cloth, copies, rack);

    private static SewingPlan PlanOf(StitchFile design)
    {
        var (job, source) = MadeUp.JobOf(design);
        return Sequencer.Plan(job, source);
    }
}
