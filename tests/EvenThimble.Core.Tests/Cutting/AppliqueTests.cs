using System.Collections.Immutable;
using EvenThimble.Core.Craft;
using EvenThimble.Core.Cutting;
using EvenThimble.Core.Files.Jobs;
using EvenThimble.Core.Geometry;
using EvenThimble.Core.Jobs;
using EvenThimble.Core.Machines;
using EvenThimble.Core.Planning;
using EvenThimble.Core.Shapes;
using EvenThimble.Core.Stitches;
using EvenThimble.Core.Threads;
using EvenThimble.Scenario;

namespace EvenThimble.Core.Tests.Cutting;

/// <summary>Roles read from stitches, and appliqués made of shapes.</summary>
public class AppliqueTests
{
    private static readonly StitchFile Drawn = DemoDesigns.All.First(d => d.FileName.StartsWith("crescent")).Drawn();
    private static readonly StitchFile Moon = Drawn with { Parts = [.. Drawn.Parts.Select(p => p with { Role = PartRole.Decoration })] };

    [Fact]
    public void Roles_of_a_bought_applique_are_suggested_from_its_stitches()
    {
        var job = Job.FromDesign(null, Moon, StandInMachines.Catalogue.UsualHoop);
        var stitches = new CutPiecesTests.Held(Moon.Stitches);
        var plan = Sequencer.Plan(job, stitches);
        var suggested = RoleReading.Suggest(job, plan);
        var wanted = Drawn.Parts.Select(p => p.Role).ToList();
        job.Order.Select(p => suggested.FirstOrDefault(s => s.Part == p.Id)?.Role ?? PartRole.Decoration).ShouldBe(wanted);
        RoleReading.Edit(job, plan, suggested, stitches).Apply(job).Order.Select(p => p.Role).ShouldBe(wanted);
    }

    [Fact]
    public void An_applique_in_one_thread_is_taken_apart_at_its_stops()
    {
        var one = Moon with { Parts = [new(0, Moon.Stitches.Count, Moon.Parts[0].Thread, PartRole.Decoration)] };
        var job = Job.FromDesign(null, one, StandInMachines.Catalogue.UsualHoop);
        var stitches = new CutPiecesTests.Held(Moon.Stitches);
        var plan = Sequencer.Plan(job, stitches);
        var changed = RoleReading.Edit(job, plan, RoleReading.Suggest(job, plan), stitches).Apply(job);
        changed.Order.Count(p => p.Role == PartRole.PlacementLine).ShouldBe(2);
        changed.Order.Count(p => p.Role == PartRole.TackDown).ShouldBe(2);
        Sequencer.Plan(changed, stitches).StitchCount.ShouldBeGreaterThanOrEqualTo(plan.StitchCount);
    }

    [Fact]
    public void Nothing_is_suggested_for_designs_that_lay_no_cloth()
    {
        foreach (var design in DemoDesigns.All.Where(d => !d.FileName.StartsWith("larkmoor")).Select(d => d.Drawn()).Where(d => d.Parts.All(p => p.Role is PartRole.Decoration or PartRole.Lettering)))
        {
            var job = Job.FromDesign(null, design, StandInMachines.Catalogue.UsualHoop);
            RoleReading.Suggest(job, Sequencer.Plan(job, new CutPiecesTests.Held(design.Stitches))).ShouldBeEmpty(design.Title);
        }
    }

    [Theory]
    [InlineData(TackDownWay.Zigzag)]
    [InlineData(TackDownWay.TripleRun)]
    [InlineData(TackDownWay.Run)]
    public void A_shape_becomes_placement_tack_down_and_cover_with_stops_that_say_what_to_do(TackDownWay way)
    {
        var job = Shape(BasicShapes.Heart(40, 36));
        var made = new MakeApplique(new HashSet<PartId> { job.Order[0].Id }, new(way, 3.2, CutBefore: false)).Apply(job);
        JobRules.Check(made);
        made.Order.Select(p => p.Role).ShouldBe([PartRole.PlacementLine, PartRole.TackDown, PartRole.Cover]);
        var plan = Sequencer.Plan(made, new Nothing());
        plan.Records.Messages.Values.ShouldBe(["Lay the cloth over the line: Heart", "Trim the cloth close to the stitches: Heart"]);
        plan.Records.CountOf(StitchKind.Stop).ShouldBe(2);

        // The lines read from the stitches of all three are one edge: the outline that was drawn.
        var outline = made.Order[0].Drawn!.Shape.Paths[0].Flattened().Select(made.Order[0].Placement.Place).ToArray();
        foreach (var part in plan.Parts)
        {
            var found = Outlining.StitchOutlines.Of(plan.Records, part.First, part.End).Lines.ShouldHaveSingleItem(part.Name);
            found.Closed.ShouldBeTrue(part.Name);
            OutlineTests.Off([.. found.Points], outline).ShouldBeLessThan(part.Role == PartRole.PlacementLine ? 0.3 : 0.9, part.Name);
        }
    }

    [Fact]
    public void Cloth_that_is_cut_before_is_cut_along_the_placement_line_and_not_trimmed()
    {
        var job = Shape(BasicShapes.Heart(40, 36));
        var made = new MakeApplique(new HashSet<PartId> { job.Order[0].Id }, new()).Apply(job);
        var plan = Sequencer.Plan(made, new Nothing());
        plan.Records.Messages.Values.ShouldHaveSingleItem().ShouldStartWith("Lay the cut cloth");
        var cut = new CutJob(made, plan);
        cut.AllowanceMm.ShouldBe(1.0);
        cut.Pieces.All.ShouldHaveSingleItem().Bounds.Width.ShouldBe(Box.Around(cut.Lines.All[0].Line.Points).Width + 2, 0.05);
        new CutJob(made with { Cloth = Cloth.Of(ClothProfiles.Find("towel")!) }, plan).AllowanceMm.ShouldBe(1.5);
    }

    [Fact]
    public void A_message_of_ones_own_takes_the_place_of_the_stop_that_a_design_brought()
    {
        var job = Job.FromDesign(null, Moon, StandInMachines.Catalogue.UsualHoop);
        var changed = new StopAfterParts(new HashSet<PartId> { job.Order[0].Id }, "Lay the blue moon").Apply(job);
        var (before, after) = (Sequencer.Plan(job, new CutPiecesTests.Held(Moon.Stitches)).Records, Sequencer.Plan(changed, new CutPiecesTests.Held(Moon.Stitches)).Records);
        after.CountOf(StitchKind.Stop).ShouldBe(before.CountOf(StitchKind.Stop));
        after.CountOf(StitchKind.Stitch).ShouldBe(before.CountOf(StitchKind.Stitch));
        after.Messages.Values.First().ShouldBe("Lay the blue moon");
        Should.Throw<Core.Text.EditRefusedException>(() => new StopAfterParts(new HashSet<PartId> { job.Order[0].Id }, new string('ü', 100)).Apply(job));
    }

    [Fact]
    public void What_is_cut_of_a_job_is_kept_with_it()
    {
        var job = Job.FromDesign(null, Moon, StandInMachines.Catalogue.UsualHoop);
        var id = job.Order[1].Id;
        job = new StopAfterParts(new HashSet<PartId> { id }, "Trim").Apply(job) with
        {
            Cutting = new()
            {
                Parts = [id, job.Order[3].Id],
                Around = [job.Order[0].Id],
                AllowanceMm = 1.25,
                Changes = [new CutChange(new(id, 0)) { OwnPiece = true, Material = "Felt", Joined = true, Bridged = [new(0.25, 0.5)] }, new CutChange(new(new(0), 1)) { Dropped = true }],
                Cutter = "plover-12",
                GapMm = 3,
                Copies = 6,
                FaceDown = true,
                Turning = CutTurning.Never,
                TestSquare = true,
                ByHand = [new(new(id, 0), 2, 1, 80, 90.5, 180)],
            },
        };
        JobRules.Check(job);
        JobDocument.FromJson(JobDocument.ToJson(job), new NoShapes(), _ => null).ShouldBe(job);
    }

    private static Job Shape(DrawnShape shape) => new AddShapes("Heart", [new("Heart", shape, new(StitchWay.Fill), MadeUpCharts.All[0].Threads[0], new(10, -5, 20))]).Apply(Job.New(StandInMachines.Catalogue.UsualHoop));

    private sealed class Nothing : IStitchSource
    {
        public StitchBlob Get(BlobHash hash) => throw new KeyNotFoundException();
    }

    private sealed class NoShapes : IShapeSource
    {
        public DrawnShape Get(BlobHash hash) => throw new KeyNotFoundException();
    }
}
