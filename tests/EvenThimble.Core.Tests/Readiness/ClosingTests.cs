using System.Collections.Immutable;
using EvenThimble.Core.Colour;
using EvenThimble.Core.Craft;
using EvenThimble.Core.Jobs;
using EvenThimble.Core.Machines;
using EvenThimble.Core.Planning;
using EvenThimble.Core.Planning.Ordering;
using EvenThimble.Core.Readiness;
using EvenThimble.Core.Recognition;
using EvenThimble.Core.Shapes;
using EvenThimble.Core.Stitches;
using EvenThimble.Core.Threads;
using EvenThimble.Scenario;

namespace EvenThimble.Core.Tests.Readiness;

/// <summary>What sews after a thing made in the hoop is closed shows on its back; and parts are suited to a cloth.</summary>
public class ClosingTests
{
    private static readonly SewingThread Red = new("Fenlight", "9", "red", Rgb.FromInt(0xAA2222));
    private static readonly StitchFile Tag = DemoDesigns.All.First(d => d.FileName == "luggage-tag.evth").Drawn();

    [Fact]
    public void What_lies_within_a_closed_tag_is_put_before_the_stop_for_its_back()
    {
        var job = Job.FromDesign(null, Tag, StandInMachines.Catalogue.HoopFor(Tag.Bounds));
        job = new AddShapes("Star", [new("Star", BasicShapes.Star(12, 12, 5, 0.45), new(StitchWay.Fill), Red, new(0, -28, 0))]).Apply(job);
        var star = job.Order[^1].Id;
        var finding = Findings(job).ShouldHaveSingleItem();
        finding.Says.ShouldContain("“Star” sews after the closing outline of “Luggage tag”");
        var mended = finding.Remedies.Single().Edit.Apply(job);
        Findings(mended).ShouldBeEmpty();
        var plan = Plan(mended);
        var stops = Enumerable.Range(0, plan.Records.Count).Where(i => plan.Records.Kinds[i] == StitchKind.Stop).ToList();
        plan.Parts.Single(p => p.Id == star).End.ShouldBeLessThanOrEqualTo(stops[^1]);
        plan.Parts.Single(p => p.Id == star).First.ShouldBeGreaterThan(stops[0]);
    }

    [Fact]
    public void What_lies_beside_it_and_designs_that_close_nothing_are_left_alone()
    {
        var job = Job.FromDesign(null, Tag, StandInMachines.Catalogue.HoopFor(Tag.Bounds));
        Findings(job).ShouldBeEmpty();
        Findings(new AddShapes("Star", [new("Star", BasicShapes.Star(12, 12, 5, 0.45), new(StitchWay.Fill), Red, new(60, 0, 0))]).Apply(job)).ShouldBeEmpty("it lies beside the tag");
        var planet = DemoDesigns.All.First(d => d.FileName == "ringed-planet.evth").Drawn();
        ClosingOutlines.Of(Job.FromDesign(null, planet, StandInMachines.Catalogue.HoopFor(planet.Bounds)), Plan(Job.FromDesign(null, planet, StandInMachines.Catalogue.HoopFor(planet.Bounds)), planet)).ShouldBeEmpty();
    }

    [Fact]
    public void Drawn_and_bought_parts_are_taken_to_the_spacing_and_underlay_of_a_cloth()
    {
        var vinyl = ClothProfiles.Find("vinyl")!;
        var job = Job.FromDesign(null, Tag, StandInMachines.Catalogue.HoopFor(Tag.Bounds));
        job = new AddShapes("Heart", [new("Heart", BasicShapes.Heart(20, 18), new(StitchWay.Fill), Red, new(80, 0, 0)), new("Ring", BasicShapes.Ellipse(20, 20), new(StitchWay.LineSatin), Red, new(80, 40, 0)), new("Line", BasicShapes.Ellipse(30, 30), new(StitchWay.Run), Red, new(80, 40, 0))]).Apply(job);
        var readings = job.Order.Where(p => p.Drawn is null).ToImmutableDictionary(p => p.Id, p => p.Slices.Select(s => ReadStitches.Of(Tag.Stitches.Cut(s.First, s.Count))).Select(r => new SliceReading(r.SpacingMm, r.MostIsSatin)).ToImmutableArray());
        var edit = new SuitToCloth(job.Order.Select(p => p.Id).ToHashSet(), vinyl, readings);
        var suited = edit.Apply(job);
        edit.Label(job).ShouldBe("Suited everything to vinyl");
        Drawn(suited, "Heart").SpacingMm.ShouldBe(vinyl.FillSpacingMm);
        Drawn(suited, "Heart").Underlay.ShouldBe(vinyl.FillUnderlay);
        Drawn(suited, "Ring").SpacingMm.ShouldBe(vinyl.SatinSpacingMm);
        Drawn(suited, "Line").ShouldBe(Drawn(job, "Line"), "a line has no spacing");
        foreach (var part in suited.Order.Where(p => p.Drawn is null))
        {
            var reading = readings[part.Id][0];
            if (reading.SpacingMm == 0) part.Slices[0].Rework.ShouldBe(default);
            else (reading.SpacingMm * (part.Slices[0].Rework.SpacingTimes ?? 1)).ShouldBe(reading.IsSatin ? vinyl.SatinSpacingMm : vinyl.FillSpacingMm, 0.02);
        }

        Plan(suited).StitchCount.ShouldBeLessThan((int)(Plan(job).StitchCount * 0.9));
        Should.Throw<Core.Text.EditRefusedException>(() => edit.Apply(suited)).Message.ShouldContain("has its spacing already");
    }

    private static StitchSettings Drawn(Job job, string name) => job.Order.Single(p => p.Name == name).Drawn!.Settings;

    private static List<Finding> Findings(Job job) => [.. Inspector.Inspect(job, Plan(job), StandInMachines.Catalogue).Where(f => f.Key.StartsWith("after-closing", StringComparison.Ordinal))];

    private static SewingPlan Plan(Job job, StitchFile? design = null) => Sequencer.Plan(job, new Held(design ?? Tag));

    private sealed class Held(StitchFile design) : IStitchSource
    {
        public StitchBlob Get(BlobHash hash) => design.Stitches;
    }
}
