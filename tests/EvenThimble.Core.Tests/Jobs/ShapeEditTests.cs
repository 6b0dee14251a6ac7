using EvenThimble.Core.Craft;
using EvenThimble.Core.Files.Jobs;
using EvenThimble.Core.Geometry;
using EvenThimble.Core.Jobs;
using EvenThimble.Core.Machines;
using EvenThimble.Core.Planning;
using EvenThimble.Core.Shapes;
using EvenThimble.Core.Stitches;
using EvenThimble.Core.Text;
using EvenThimble.Scenario;

namespace EvenThimble.Core.Tests.Jobs;

public class ShapeEditTests
{
    private static readonly Job Sample = Sampler.Make();

    private static SewingPlan PlanOf(Job job) => Sequencer.Plan(job, new MadeUp.OneBlob(EvenThimble.Core.Stitches.StitchBlob.None));

    [Fact]
    public void Every_kind_of_stitch_is_stored_with_all_its_settings() => MadeUp.Reread(Sample).ShouldBe(Sample);

    [Fact]
    public void The_same_job_gives_the_same_plan() => PlanOf(Sample).Records.Hash.ShouldBe(PlanOf(Sampler.Make()).Records.Hash);

    [Fact]
    public void Spacing_and_underlay_follow_the_cloth_but_for_what_was_set_by_hand()
    {
        var square = new AddShapes("square", [New(BasicShapes.Rectangle(30, 30), new(StitchWay.Fill))]).Apply(Job.New(StandInMachines.Catalogue.UsualHoop));
        var byHand = new Restitch(MadeUp.Ids(1), [Spacing(0.5), new("underlay", "none", s => s with { Underlay = UnderlayLayers.None }), new("compensation", "0.2", s => s with { CompensationMm = 0.2 })]).Apply(square);
        int On(Job job, string cloth) => PlanOf(new ChooseCloth(Cloth.Of(ClothProfiles.Find(cloth)!)).Apply(job)).StitchCount;
        On(square, "towel").ShouldBeGreaterThan(On(square, "cotton") * 110 / 100);
        On(square, "vinyl").ShouldBeLessThan(On(square, "cotton") * 85 / 100);
        On(byHand, "towel").ShouldBe(On(byHand, "vinyl"));
        var back = new Restitch(MadeUp.Ids(1), [Spacing(null), new("underlay", null, s => s with { Underlay = null }), new("compensation", null, s => s with { CompensationMm = null })]).Apply(byHand);
        back.Order[0].Drawn.ShouldBe(square.Order[0].Drawn);
    }

    [Fact]
    public void The_program_brings_ten_cloths_with_sound_values()
    {
        ClothProfiles.All.Count.ShouldBe(10);
        ClothProfiles.All.ShouldAllBe(c => c.FillSpacingMm >= 0.3 && c.FillSpacingMm <= 0.6 && c.CompensationMm >= 0.1 && c.CompensationMm <= 0.4 && c.Stabilizer.Length > 0 && c.Needle.Length > 0 && c.Advice.EndsWith('.'));
        foreach (var cloth in ClothProfiles.All) JobDocument.ProfileFromJson(JobDocument.ToJson(cloth)).ShouldBe(cloth);
    }

    public static TheoryData<double> Impossible() => [0.05, -2, 0, 6, double.NaN, double.PositiveInfinity];

    [Theory]
    [MemberData(nameof(Impossible))]
    public void A_spacing_that_cannot_be_sewn_is_refused_in_words(double mm) =>
        Should.Throw<EditRefusedException>(() => new Restitch(MadeUp.Ids(1), [Spacing(mm)]).Apply(Sample)).Message.ShouldEndWith(".");

    [Fact]
    public void Every_number_of_the_settings_has_limits_on_both_sides()
    {
        foreach (var range in SettingRange.All)
        {
            if (!range.Says.StartsWith("angle"))
                foreach (var beyond in new[] { range.Least - 0.001, range.Most + 0.001 })
                    Should.Throw<EditRefusedException>(() => SettingRange.Check(range.With(new(), beyond))).Message.ShouldContain(range.Says);
            range.Holds(range.Least).ShouldBeTrue();
            range.Holds(range.Most + 0.001).ShouldBeFalse();
            range.Get(range.With(new(), range.Least))!.Value.ShouldBe(range.Says.StartsWith("angle") ? 0 : range.Least, 1e-9);
        }
    }

    private static SettingChange Spacing(double? mm) => new("spacing", mm?.ToString(System.Globalization.CultureInfo.InvariantCulture), s => s with { SpacingMm = mm });

    [Fact]
    public void Plain_stitches_take_no_settings_and_open_lines_no_fill()
    {
        var bought = MadeUp.JobOf(MadeUp.File(3)).Job;
        Should.Throw<EditRefusedException>(() => new Restitch(MadeUp.Ids(1), [Spacing(0.5)]).Apply(bought)).Message.ShouldContain("plain stitches");
        Should.Throw<EditRefusedException>(() => new Restitch(MadeUp.Ids(1), [SettingChange.OfWay(StitchWay.Fill)]).Apply(Sample)).Message.ShouldContain("open line");
    }

    [Fact]
    public void Mirroring_twice_gives_the_same_place_and_once_the_other_side()
    {
        var plan = PlanOf(Sample);
        var once = new MirrorParts(MadeUp.Ids(5), plan.BoundsOf(MadeUp.Ids(5)).Middle, false).Apply(Sample);
        var (before, after) = (plan.BoundsOf(MadeUp.Ids(5)), PlanOf(once).BoundsOf(MadeUp.Ids(5)));
        after.Middle.DistanceTo(before.Middle).ShouldBeLessThan(0.2);
        once.Order[4].Placement.Mirrored.ShouldBeTrue();
        new MirrorParts(MadeUp.Ids(5), plan.BoundsOf(MadeUp.Ids(5)).Middle, false).Apply(once).ShouldBe(Sample);
        var turned = new TurnParts(MadeUp.Ids(5), 30, Point.Zero).Apply(once);
        var p = turned.Order[4].Placement;
        p.Unplace(p.Place(new(3, 4))).DistanceTo(new(3, 4)).ShouldBeLessThan(1e-5);
    }

    [Fact]
    public void Scaled_shapes_keep_their_spacing()
    {
        var half = new ResizeParts(MadeUp.Ids(9), 0.5, 0.5, Point.Zero).Apply(Sample);
        var (before, after) = (PlanOf(Sample).Parts[8], PlanOf(half).Parts[8]);
        after.Bounds.Width.ShouldBe(before.Bounds.Width / 2, 0.5);
        ((double)after.Count / before.Count).ShouldBeInRange(0.22, 0.6);
        Should.Throw<EditRefusedException>(() => new ResizeParts(MadeUp.Ids(9), 0.001, 0.001, Point.Zero).Apply(Sample));
    }

    [Fact]
    public void Pieces_are_aligned_as_wholes()
    {
        var plan = PlanOf(Sample);
        (IReadOnlySet<PartId>, Box) Group(params int[] ids) => (MadeUp.Ids(ids), plan.BoundsOf(MadeUp.Ids(ids)));
        var aligned = PlanOf(new AlignParts([Group(5, 6), Group(11)], plan.Bounds, Alignment.Left).Apply(Sample));
        aligned.BoundsOf(MadeUp.Ids(5, 6)).MinX.ShouldBe(plan.Bounds.MinX, 1e-6);
        aligned.BoundsOf(MadeUp.Ids(11)).MinX.ShouldBe(plan.Bounds.MinX, 1e-6);
        aligned.BoundsOf(MadeUp.Ids(5, 6)).Width.ShouldBe(plan.BoundsOf(MadeUp.Ids(5, 6)).Width, 1e-6);
    }

    [Fact]
    public void Shapes_that_cannot_be_sewn_are_refused_and_the_job_stays()
    {
        foreach (var shape in new[] { BasicShapes.Ellipse(0.1, 0.1), BasicShapes.Rectangle(5000, 5), new DrawnShape([ShapePath.Through([new(1, 1)], false)]), new DrawnShape([ShapePath.Through(Enumerable.Range(0, 30_000).Select(i => new Point(i % 100, i / 100)), true)]) })
            Should.Throw<EditRefusedException>(() => new AddShapes("x", [New(shape, new())]).Apply(Sample)).Message.ShouldEndWith(".");
        new RemoveParts(Sample.Order.Select(p => p.Id).ToHashSet()).Apply(Sample).Order.Count.ShouldBe(0);
    }

    [Fact]
    public void Stitches_are_made_once_for_a_shape_and_remembered()
    {
        var memory = new StitchMemory();
        var part = Sample.Order[8].Drawn!;
        var first = memory.Drawn(part, Sizing.Original, ClothProfiles.Cotton);
        memory.Drawn(new(part.Shape with { }, part.Settings with { }), Sizing.Original, ClothProfiles.Cotton with { Advice = "other words" }).ShouldBeSameAs(first);
        memory.Drawn(part, Sizing.Original, ClothProfiles.Find("towel")!).ShouldNotBeSameAs(first);
        memory.Drawn(part, new(2, 2), ClothProfiles.Cotton).ShouldNotBeSameAs(first);
    }

    private static NewShape New(DrawnShape shape, StitchSettings settings) => new("shape", shape, settings, MadeUp.Thread("a"), Placement.AsItCame);
}
