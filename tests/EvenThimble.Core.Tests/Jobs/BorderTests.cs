using System.Collections.Immutable;
using EvenThimble.Core.Borders;
using EvenThimble.Core.Colour;
using EvenThimble.Core.Craft;
using EvenThimble.Core.Digitizing;
using EvenThimble.Core.Digitizing.Lines;
using EvenThimble.Core.Files.Jobs;
using EvenThimble.Core.Geometry;
using EvenThimble.Core.Jobs;
using EvenThimble.Core.Machines;
using EvenThimble.Core.Monograms;
using EvenThimble.Core.Planning;
using EvenThimble.Core.Readiness;
using EvenThimble.Core.Shapes;
using EvenThimble.Core.Stitches;
using EvenThimble.Core.Text;
using EvenThimble.Core.Threads;

namespace EvenThimble.Core.Tests.Jobs;

/// <summary>Borders: at their distance, mirrored, of whole motifs, and laid anew when what they go around has changed.</summary>
public class BorderTests
{
    private static readonly SewingThread Gold = new("Fenlight", "2", "gold", Rgb.FromInt(0xCC9922));
    private static readonly ImmutableArray<PieceId> It = [new(1)];

    public static TheoryData<string, BorderSides> FramesAndSides =>
        [.. MonogramFrame.All.Concat(MonogramFrame.OfMotifs).Select((f, i) => new TheoryDataRow<string, BorderSides>(f.Id, (BorderSides)(i % 4)))];

    [Theory]
    [MemberData(nameof(FramesAndSides))]
    public void A_border_lies_at_its_distance(string frame, BorderSides sides)
    {
        var content = Lay(new(MonogramFrame.Find(frame)!) { Sides = sides, DistanceMm = 6 });
        var box = Box.Around(content.Outline);
        var needles = Needles(content);
        needles.Min(box.DistanceTo).ShouldBe(6, 0.15);
        needles.ShouldAllBe(p => !box.Holds(p));
    }

    [Theory]
    [InlineData(FrameForm.Circle)]
    [InlineData(FrameForm.Oval)]
    [InlineData(FrameForm.Diamond)]
    [InlineData(FrameForm.Shield)]
    [InlineData(FrameForm.AsLetters)]
    public void Every_form_holds_what_it_goes_around(FrameForm form)
    {
        var content = Lay(new(MonogramFrame.Find("ring")!) { Form = form, DistanceMm = 4 });
        content.SewnMm(ClothProfiles.Cotton).ShouldBe(4, 0.1);
        var ring = Area.Of([content.Shapes[0].Shape.Moved(content.Shapes[0].At.Place).Paths[0].Flattened()]).Single();
        content.Outline.ShouldAllBe(p => ring.DistanceTo(p) == 0);
    }

    [Fact]
    public void Opposite_sides_are_mirrored()
    {
        var content = Lay(new(MonogramFrame.Find("motif-heart")!) { Sides = BorderSides.AboveAndBelow });
        var (above, below) = (Runs(content.Shapes[0]), Runs(content.Shapes[1]));
        var middle = Box.Around(content.Outline).Middle.Y;
        above.Count.ShouldBe(below.Count);
        foreach (var (a, b) in above.Zip(below)) new Point(a.X, (2 * middle) - a.Y).DistanceTo(b).ShouldBeLessThan(0.01);
    }

    [Fact]
    public void Motifs_fill_each_side_of_a_sharp_corner_in_whole_numbers()
    {
        var content = Lay(new(MonogramFrame.Find("motif-peaks")!) { SharpCorners = true, DistanceMm = 5 });
        var ring = content.Shapes[0].Shape.Paths.Single().Flattened();
        var sides = RunLine.Stretches([.. ring, ring[0]]).Select(s => Polylines.Length(s)).Where(l => l > 1).ToList();
        sides.Count.ShouldBeInRange(4, 5, "the side that the line begins on is two");
        var lengths = sides.Select(l => l / Math.Max(1, Math.Round(l / 7))).ToList();
        lengths.Max().ShouldBeLessThan(7 * 1.2);
        lengths.Min().ShouldBeGreaterThan(7 * 0.8);

        // Each corner is a needle point.
        var box = Box.Around(ring);
        var needles = Runs(content.Shapes[0]).ConvertAll(p => p - content.Shapes[0].At.Place(Point.Zero));
        foreach (var corner in new Point[] { new(box.MinX, box.MinY), new(box.MaxX, box.MinY), new(box.MaxX, box.MaxY), new(box.MinX, box.MaxY) })
            needles.Min(corner.DistanceTo).ShouldBeLessThan(0.02);
    }

    [Fact]
    public void What_cannot_be_is_refused_in_a_sentence()
    {
        Should.Throw<EditRefusedException>(() => Lay(new(MonogramFrame.All[0]) { DistanceMm = -5 })).Message.ShouldContain("would lie over it");
        Should.Throw<EditRefusedException>(() => Lay(new(MonogramFrame.All[0]) { DistanceMm = 4_000 })).Message.ShouldContain("too far");
        Should.Throw<EditRefusedException>(() => BorderContent.Lay(new(MonogramFrame.All[0]), It, [new(0, 0), new(1, 0), new(0, 1)], Gold, ClothProfiles.Cotton)).Message.ShouldContain("too small");
        Should.Throw<EditRefusedException>(() => BorderContent.Lay(new(MonogramFrame.All[0]), It, [], Gold, ClothProfiles.Cotton)).Message.ShouldContain("too small");
    }

    [Fact]
    public void When_what_it_goes_around_is_moved_readiness_says_so_and_lays_it_anew()
    {
        var job = Job.New(StandInMachines.Catalogue.HoopFor(new(-80, -80, 80, 80)));
        job = new AddShapes("Heart", [new("Heart", BasicShapes.Heart(40, 36), new(StitchWay.Fill), Gold, Placement.AsItCame)]).Apply(job);
        var plan = Plan(job);
        job = new AddBorder(BorderContent.Lay(new(MonogramFrame.Find("pearls")!) { DistanceMm = 5 }, It, PieceOutlines.Of(job, plan, It), Gold, job.Cloth.Profile), "Heart").Apply(job);
        Findings(job).ShouldBeEmpty();
        var border = job.Order[^1].Id;
        var moved = new ShiftParts(new HashSet<PartId> { job.Order[0].Id }, 12, 3).Apply(job);
        var finding = Findings(moved).Single();
        finding.Says.ShouldContain("no longer lies 5");
        var mended = finding.Remedies.Single().Edit.Apply(moved);
        Findings(mended).ShouldBeEmpty();
        mended.Order[^1].Id.ShouldBe(border);
        Plan(mended).BoundsOf(new HashSet<PartId> { border }).Middle.DistanceTo(Plan(job).BoundsOf(new HashSet<PartId> { border }).Middle + new Point(12, 3)).ShouldBeLessThan(0.3);

        // So too when the border itself was moved away.
        var away = new ShiftParts(new HashSet<PartId> { border }, 0, 9).Apply(job);
        Findings(Findings(away).Single().Remedies.Single().Edit.Apply(away)).ShouldBeEmpty();

        var shapes = JobDocument.ShapesOf(job).ToDictionary(s => s.Hash);
        JobDocument.FromJson(JobDocument.ToJson(job), new Held(shapes), _ => null).ShouldBe(job);

        static List<Finding> Findings(Job job) => [.. Inspector.Inspect(job, Plan(job), StandInMachines.Catalogue).Where(f => f.Key.StartsWith("border", StringComparison.Ordinal))];
    }

    [Fact]
    public void Settings_that_were_changed_by_hand_stay_when_it_is_laid_anew_of_the_same()
    {
        var wish = new BorderWish(MonogramFrame.Find("double-ring")!) { Sides = BorderSides.AboveAndBelow };
        var laid = Lay(wish);
        var before = laid with { Shapes = laid.Shapes.SetItem(2, laid.Shapes[2] with { Settings = laid.Shapes[2].Settings with { WidthMm = 3.4, Underlay = new UnderlayLayers(Underlay.None) } }) };
        BorderContent Anew(BorderWish other) => BorderContent.Lay(other, It, before.Outline, Gold, ClothProfiles.Cotton, before);
        var farther = Anew(wish with { DistanceMm = 11 });
        farther.Shapes.Select(s => s.Settings.WidthMm).ShouldBe([laid.Shapes[0].Settings.WidthMm, laid.Shapes[1].Settings.WidthMm, 3.4, laid.Shapes[3].Settings.WidthMm]);
        farther.Shapes[2].Settings.Underlay.ShouldBe(new UnderlayLayers(Underlay.None));
        farther.SewnMm(ClothProfiles.Cotton).ShouldBe(11, 0.1);
        Anew(wish with { Sides = BorderSides.LeftAndRight }).Shapes.ShouldAllBe(s => s.Settings.WidthMm != 3.4);
    }

    private static SewingPlan Plan(Job job) => Sequencer.Plan(job, NoStitches.Are);

    private static BorderContent Lay(BorderWish wish) =>
        BorderContent.Lay(wish, It, [new(-30, -14), new(26, -18), new(34, 10), new(2, 22), new(-28, 16)], Gold, ClothProfiles.Cotton);

    private static List<Point> Needles(BorderContent content) => [.. content.Shapes.SelectMany(Runs)];

    private static List<Point> Runs(DrawingShape shape) => [.. Digitizer.Runs(shape.Shape, shape.Settings, ClothProfiles.Cotton).SelectMany(r => r).Select(shape.At.Place)];

    private sealed class Held(Dictionary<BlobHash, DrawnShape> shapes) : IShapeSource
    {
        public DrawnShape Get(BlobHash hash) => shapes[hash];
    }

    private sealed class NoStitches : IStitchSource
    {
        public static readonly NoStitches Are = new();

        public StitchBlob Get(BlobHash hash) => throw new KeyNotFoundException();
    }
}
