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

    // A wave from left to right, its ends level; one whose ends are not; a shape with a hole.
    private static readonly OwnMotif Wave = new("Wave", new([ShapePath.Through(Enumerable.Range(0, 33).Select(i => new Point(100 + (i * 0.5), 20 - (2 * Math.Sin(i * Math.PI / 16)))), closed: false)]), new(StitchWay.TripleRun));
    private static readonly OwnMotif Slant = new("Slant", new([ShapePath.Through([new(0, 0), new(9, -4)], closed: false)]), new(StitchWay.LineSatin) { WidthMm = 1.5 });
    private static readonly OwnMotif Badge = new("Badge", new([.. BasicShapes.Star(8, 8, 6, 0.5).Paths, .. BasicShapes.Ellipse(1.6, 1.6).Paths]), new(StitchWay.Fill));

    [Fact]
    public void A_line_of_ones_own_whose_ends_are_level_goes_round_without_a_break_in_whole_waves()
    {
        foreach (var form in new[] { FrameForm.Rectangle, FrameForm.Circle, FrameForm.Oval })
            foreach (var sharp in new[] { false, true })
            {
                var content = Lay(new(MonogramFrame.Of(Wave)) { Form = form, DistanceMm = 6, SharpCorners = sharp });
                content.SewnMm(ClothProfiles.Cotton).ShouldBe(6, 0.1, $"{form}");
                var line = content.Shapes.ShouldHaveSingleItem().Shape.Paths.ShouldHaveSingleItem();
                line.Closed.ShouldBeTrue();
                line.Nodes.Length.ShouldBe(line.Nodes.Length / 32 * 32, "whole waves of 32 steps");
                var points = line.Flattened();
                var steps = points.Zip(points.Skip(1).Append(points[0]), (a, b) => a.DistanceTo(b)).ToList();
                steps.Max().ShouldBeLessThan(sharp && form == FrameForm.Rectangle ? 6 : 2.2, $"{form}: nowhere a break");
            }
    }

    [Theory]
    [InlineData(BorderSides.AboveAndBelow, 2)]
    [InlineData(BorderSides.LeftAndRight, 2)]
    [InlineData(BorderSides.FourSides, 4)]
    public void Along_sides_what_was_drawn_is_mirrored_whole_and_evenly_spaced(BorderSides sides, int pieces)
    {
        foreach (var motif in new[] { Wave, Slant, Badge })
        {
            var content = Lay(new(MonogramFrame.Of(motif)) { Sides = sides, DistanceMm = 4 });
            content.Shapes.Length.ShouldBe(pieces);
            content.SewnMm(ClothProfiles.Cotton).ShouldBe(4, 0.1, motif.Name);
            if (motif.GoesOn) continue;
            foreach (var side in content.Shapes)
            {
                var middles = side.Shape.Paths.Chunk(motif.Shape.Paths.Length).Select(m => Box.Around(m.SelectMany(p => p.Flattened())).Middle).ToList();
                middles.Count.ShouldBeGreaterThan(1, "more than one stands there");
                var gaps = middles.Zip(middles.Skip(1), (a, b) => a.DistanceTo(b)).ToList();
                (gaps.Max() - gaps.Min()).ShouldBeLessThan(0.02, "equally far apart");
                gaps.Min().ShouldBeGreaterThan(motif.Bounds.Width * 0.95, "no two lie over each other");
            }
        }
    }

    [Fact]
    public void What_was_drawn_is_stored_with_the_border_and_what_cannot_be_one_is_refused()
    {
        var job = new AddShapes("Heart", [new("Heart", BasicShapes.Heart(40, 36), new(StitchWay.Fill), Gold, Placement.AsItCame)]).Apply(Job.New(StandInMachines.Catalogue.HoopFor(new(-80, -80, 80, 80))));
        job = new AddBorder(BorderContent.Lay(new(MonogramFrame.Of(Badge)) { DistanceMm = 5, Form = FrameForm.Circle }, It, PieceOutlines.Of(job, Plan(job), It), Gold, job.Cloth.Profile), "Heart").Apply(job);
        var shapes = JobDocument.ShapesOf(job).ToDictionary(s => s.Hash);
        var back = JobDocument.FromJson(JobDocument.ToJson(job), new Held(shapes), _ => null);
        back.ShouldBe(job);
        ((BorderContent)back.Pieces[^1].Content).Wish.Frame.Own.ShouldBe(Badge);
        Should.Throw<InvalidDataException>(() => JobDocument.FromJson(JobDocument.ToJson(job).Replace("\"shape\":\"", "\"shape\":\"!", StringComparison.Ordinal), new Held(shapes), _ => null));

        string Refused(DrawnShape shape) => Should.Throw<EditRefusedException>(() => MonogramFrame.Of(new("Line", shape, new(StitchWay.Run)))).Message;
        Refused(new([ShapePath.Through([new(0, 0), new(0, 8)], closed: false)])).ShouldContain("from 1 to 150 mm wide");
        Refused(new([ShapePath.Through([new(0, 0), new(400, 8)], closed: false)])).ShouldContain("400 × 8 mm");
        Refused(new([ShapePath.Through(Enumerable.Range(0, 5_000).Select(i => new Point(i * 0.01, i % 2)), closed: false)])).ShouldContain("too many points");
        var fine = MonogramFrame.Of(new("Fine", new([ShapePath.Through(Enumerable.Range(0, 400).Select(i => new Point(i * 0.003, i % 2 * 0.5)), closed: false)]), new(StitchWay.Run)));
        Should.Throw<EditRefusedException>(() => Lay(new(fine) { DistanceMm = 20 })).Message.ShouldContain("times there");
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
