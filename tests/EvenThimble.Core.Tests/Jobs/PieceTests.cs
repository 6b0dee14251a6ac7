using EvenThimble.Core.Craft;
using EvenThimble.Core.Files.Jobs;
using EvenThimble.Core.Geometry;
using EvenThimble.Core.Jobs;
using EvenThimble.Core.Machines;
using EvenThimble.Core.Planning;
using EvenThimble.Core.Shapes;
using EvenThimble.Core.Stitches;
using FsCheck.Xunit;

namespace EvenThimble.Core.Tests.Jobs;

/// <summary>Pieces own what they make; what is done to parts is kept by their keys.</summary>
public class PieceTests
{
    private static readonly DrawingContent Three = new(
    [
        Shape("1", "hill", 0), Shape("2", "dome", 30), Shape("3", "star", 60),
    ]);

    private static readonly Job Sketch = Job.New(StandInMachines.Catalogue.UsualHoop).With("sketch", Three, Placement.AsItCame.Shifted(5, 5));

    private static DrawingShape Shape(string key, string name, double x) => new(new(key), name, BasicShapes.Ellipse(20, 10), new(StitchWay.Fill), MadeUp.Thread("grey"), new(x, 0, 0));

    [Fact]
    public void What_was_done_to_parts_stays_when_their_content_changes()
    {
        var job = new EditsTogether("all",
        [
            new Recolour(MadeUp.Ids(2), MadeUp.Thread("gold")), new NameParts(MadeUp.Ids(3), "Vega"), new HideParts(MadeUp.Ids(3), true), new KeepWhole(MadeUp.Ids(2), true), new GiveRole(MadeUp.Ids(1), PartRole.Cover),
            new ShiftParts(MadeUp.Ids(3), 0, -8), new PlaceInOrder(MadeUp.Ids(3), 0),
        ]).Apply(Sketch);

        // The dome is drawn anew and all of it farther to the right, the hill is gone, and a comet comes in between.
        var changed = job.WithContent(new(1), new DrawingContent(
        [
            Shape("2", "large dome", 40) with { Shape = BasicShapes.Ellipse(30, 30) }, Shape("4", "comet", 60), Shape("3", "star", 80),
        ]));
        changed.Order.Select(p => p.Id.Value).ShouldBe([3, 2, 4]);
        changed.Order.Select(p => p.Name).ShouldBe(["Vega", "large dome", "comet"]);
        (changed.Order[1].Thread, changed.Order[1].KeptWhole, changed.Order[1].Placement.X).ShouldBe((MadeUp.Thread("gold"), true, 45));
        changed.Order[1].Drawn!.Shape.Bounds.Height.ShouldBe(30, 0.1);
        changed.Order[0].Hidden.ShouldBeTrue();
        (changed.Order[0].Placement.X, changed.Order[0].Placement.Y).ShouldBe((85, -3), "it was moved apart by 8 mm and still is");
        changed.NextPart.ShouldBe(5);
        MadeUp.Reread(changed).ShouldBe(changed);
    }

    [Fact]
    public void What_was_taken_out_does_not_come_back_and_numbers_are_never_given_twice()
    {
        var job = new RemoveParts(MadeUp.Ids(2, 3)).Apply(Sketch);
        job = job.WithContent(new(1), Three.With(new("1"), s => s with { Name = "moor" }));
        job.Order.Select(p => p.Name).ShouldBe(["moor"]);
        job = new AddShapes("line", [new("line", BasicShapes.Star(20, 20, 5, 0.5), new(StitchWay.Run), MadeUp.Thread("grey"), Placement.AsItCame)]).Apply(job);
        job.Order.Select(p => p.Id.Value).ShouldBe([1, 4]);
        job.Pieces.Select(p => p.Id.Value).ShouldBe([1, 2]);
        MadeUp.Reread(job).NextPart.ShouldBe(5);
    }

    [Fact]
    public void A_piece_moves_along_when_all_of_it_is_moved_and_stays_when_a_part_is()
    {
        new ShiftParts(MadeUp.Ids(1, 2, 3), 10, 0).Apply(Sketch).Pieces[0].Placement.X.ShouldBe(15);
        new ShiftParts(MadeUp.Ids(1, 2), 10, 0).Apply(Sketch).Pieces[0].Placement.X.ShouldBe(5);
        var turned = new TurnParts(MadeUp.Ids(1, 2, 3), 30, new(1, 2)).Apply(Sketch);
        foreach (var part in turned.Order)
        {
            var place = turned.Pieces[0].PlaceOf(part.Made);
            new Point(place.X, place.Y).DistanceTo(new(part.Placement.X, part.Placement.Y)).ShouldBeLessThan(1e-6);
        }
    }

    [Fact]
    public void Reshaping_a_copy_leaves_what_it_was_copied_from()
    {
        var job = AddCopies.Of(Sketch, MadeUp.Ids(1, 2, 3), 0, 40, "copied").Apply(Sketch);
        var reshaped = new Reshape(job.Order[3].Id, BasicShapes.Star(20, 20, 5, 0.4), "Changed").Apply(job);
        reshaped.Order[0].Drawn.ShouldBe(job.Order[0].Drawn);
        reshaped.Order[3].Drawn.ShouldNotBe(job.Order[3].Drawn);
        MadeUp.Reread(reshaped).ShouldBe(reshaped);
    }

    [Fact]
    public void The_palette_holds_each_thread_once_in_the_order_it_came()
    {
        Sketch.Palette.Threads.ShouldBe([MadeUp.Thread("grey")]);
        var job = new Recolour(MadeUp.Ids(2), MadeUp.Thread("gold")).Apply(Sketch);
        job.Palette.Threads.ShouldBe([MadeUp.Thread("grey"), MadeUp.Thread("gold")]);
        new Recolour(MadeUp.Ids(1, 3), MadeUp.Thread("red")).Apply(job).Palette.Threads.ShouldBe([MadeUp.Thread("gold"), MadeUp.Thread("red")]);
    }

    [Property(MaxTest = 60)]
    public void A_job_that_was_edited_at_random_comes_back_from_its_document(int seed)
    {
        var random = new Random(seed);
        var (job, source) = MadeUp.JobOf(MadeUp.File(seed & 0xFFFF, parts: 6, recordsPerPart: 30));
        job = job.With("sketch", Three, Placement.AsItCame);
        for (var i = 0; i < 12; i++)
        {
            var chosen = job.Order.Where(_ => random.Next(3) == 0).Select(p => p.Id).ToHashSet();
            if (chosen.Count == 0) continue;
            JobEdit edit = random.Next(8) switch
            {
                0 => new Recolour(chosen, MadeUp.Thread($"{random.Next(4)}")),
                1 => new ShiftParts(chosen, random.NextDouble() * 10, random.Next(5)),
                2 => new TurnParts(chosen, random.NextDouble() * 360, new(random.Next(9), 0)),
                3 => new HideParts(chosen, random.Next(2) == 0),
                4 => new GiveRole(chosen, (PartRole)random.Next(8)),
                5 => AddCopies.Of(job, chosen, 1, 2, "copied"),
                6 => new PlaceInOrder(chosen, random.Next(job.Order.Count)),
                _ => new RemoveParts(chosen),
            };
            job = edit.Apply(job);
        }

        var back = MadeUp.Reread(job);
        back.ShouldBe(job);
        (back.NextPart, back.NextPiece).ShouldBe((job.NextPart, job.NextPiece));
        Sequencer.Plan(back, source).Records.Hash.ShouldBe(Sequencer.Plan(job, source).Records.Hash);
    }

    [Fact]
    public void A_document_of_many_parts_as_their_design_has_them_is_small_and_each_that_differs_has_a_line()
    {
        var job = MadeUp.JobOf(MadeUp.File(3, parts: 600, recordsPerPart: 3)).Job;
        var plain = JobDocument.ToJson(job);
        plain[plain.IndexOf("\"parts\":", StringComparison.Ordinal)..].Split('\n').Length.ShouldBeLessThan(6);
        var edited = JobDocument.ToJson(new HideParts(MadeUp.Ids(300), true).Apply(job)).Split('\n');
        edited.Except(plain.Split('\n')).Count().ShouldBeLessThan(5);
    }
}
