using System.Collections.Immutable;
using EvenThimble.Core.Craft;
using EvenThimble.Core.Files.Jobs;
using EvenThimble.Core.Geometry;
using EvenThimble.Core.Jobs;
using EvenThimble.Core.Lettering;
using EvenThimble.Core.Machines;
using EvenThimble.Core.Planning;
using EvenThimble.Core.Shapes;
using EvenThimble.Core.Stitches;
using EvenThimble.Core.Text;
using EvenThimble.Core.Threads;
using EvenThimble.Rendering.Fonts;

namespace EvenThimble.App.Tests.Lettering;

/// <summary>A lettering as a piece of a job: changed, stored, sewn.</summary>
public class LetteringContentTests
{
    private static readonly LetterFace Face = Named("Archivo");
    private static readonly SewingThread Thread = MadeUpCharts.All[0].Threads[3];

    private static LetterFace Named(string font) => new(font, InstalledFonts.Open(InstalledFonts.Find(font)!));

    private static LetteringContent Written(string text, LetteringContent? before = null, Func<LetteringWish, LetteringWish>? with = null, LetterFace? face = null, StitchWay way = StitchWay.Satin, LetterOutline? outline = null) =>
        LetteringContent.Lay((with ?? (w => w))(new(text)), face ?? Face, new(way, Thread, outline), before);

    private static Job JobOf(LetteringContent content) => new AddLettering(content, Placement.AsItCame).Apply(Job.New(StandInMachines.Catalogue.UsualHoop));

    private static SewingPlan Planned(Job job) => Sequencer.Plan(job, new NoStitches());

    [Fact]
    public void Every_letter_is_a_part_and_a_changed_word_keeps_what_was_done_to_its_letters()
    {
        var job = JobOf(Written("MARINA"));
        string.Concat(job.Order.Select(p => p.Name)).ShouldBe("MARINA");
        var r = job.Order[2];
        job = new Recolour(new HashSet<PartId> { r.Id }, MadeUpCharts.All[0].Threads[9]).Apply(job);
        job = new ChangeLettering(job.Pieces[0].Id, Written("SUMMER AT MARINA", (LetteringContent)job.Pieces[0].Content)).Apply(job);
        string.Concat(job.Order.Select(p => p.Name)).ShouldBe("SUMMERATMARINA");
        var kept = job.Order.Single(p => p.Id == r.Id);
        kept.Name.ShouldBe("R");
        kept.Thread.ShouldBe(MadeUpCharts.All[0].Threads[9]);
        job.Order.Count(p => p.Thread == Thread).ShouldBe(13);
        job.Pieces[0].Name.ShouldBe("SUMMER AT MARINA");
    }

    [Fact]
    public void The_same_letter_has_the_same_shape_wherever_it_stands() =>
        Written("OOO\nOO", with: w => w with { Course = new LetterCourse.OnRing(90) }).Shapes.Select(s => s.Shape.Hash).Distinct().Count().ShouldBe(1);

    [Fact]
    public void A_job_with_a_lettering_is_stored_and_comes_back_whole()
    {
        foreach (var with in new Func<LetteringWish, LetteringWish>[]
        {
            w => w,
            w => w with { CapitalMm = 7.25, WidthMm = 88, Align = LetterAlign.Justified, LineSpacing = 1.2, LetterSpacing = 0.1, WordSpacing = 1.5, SlantDegrees = 12, TurnDegrees = -30, FontKerning = false, OpticalSpacing = false },
            w => w with { Course = new LetterCourse.OnRing(120, 15) },
            w => w with { Course = new LetterCourse.OnArc(-70), Bend = new(BendShape.Find("wave")!, 0.4) },
            w => w with { Text = "ONE LINE", Course = new LetterCourse.OnPath([new(0, 0), new(100, 20), new(220, -10)]) },
            w => w with { Stacked = true },
            w => w with { Nudges = LetterNudges.Empty.With(2, new(0.2, -0.1, 14, 1.1)).With(13, new(0, 0.3, 0, 0.8)) },
            w => w with { Course = new LetterCourse.OnRing(120, 15, Inward: true), OwnKerning = false, Pairs = KerningTable.Empty.With("O", "P", -0.05).With("E", "N", 0.25) },
        })
        {
            var job = JobOf(Written("OPEN NIGHT\nLARKMOOR", with: with, outline: new(StitchWay.MotifRow, Alone: false)));
            var shapes = JobDocument.ShapesOf(job).ToDictionary(s => s.Hash);
            var again = JobDocument.FromJson(JobDocument.ToJson(job), new Stored(shapes), _ => null);
            again.ShouldBe(job);
            Planned(again).Records.Hash.ShouldBe(Planned(job).Records.Hash);
            JobDocument.ToJson(again).ShouldBe(JobDocument.ToJson(job));
        }
    }

    [Fact]
    public void A_line_around_letters_sews_after_all_of_them_in_a_thread_of_its_own()
    {
        var gold = MadeUpCharts.All[0].Threads[9];
        var content = LetteringContent.Lay(new("ROSA"), Face, new(StitchWay.Satin, Thread, new(StitchWay.TripleRun, Alone: false), gold));
        content.Letters.ShouldBe(4);
        var plan = Planned(JobOf(content));
        plan.Parts.Select(p => p.Name).ShouldBe(["R", "O", "S", "A", "R", "O", "S", "A"]);
        plan.ThreadChanges.ShouldBe(1);
        content.OutlineThread.ShouldBe(gold);

        // Each line runs on the edge of its letter.
        foreach (var k in Enumerable.Range(4, 4))
        {
            var letter = Area.Of(content.Shapes[k - 4].Shape.Paths.Select(p => p.Flattened()), content.Shapes[k - 4].Shape.Rule);
            content.Shapes[k].Shape.Paths.SelectMany(p => p.Flattened()).ShouldAllBe(p => letter.SelectMany(a => a.Rings).Min(r => DistanceTo(r, p)) < 0.02);
        }

        // Without the inside, and back: letters keep their keys where they stay.
        var alone = LetteringContent.Lay(new("ROSA"), Face, new(null, Thread, new(StitchWay.TripleRun, Alone: true)), content);
        alone.Shapes.Select(s => s.Key).ShouldBe(content.Shapes.Skip(4).Select(s => s.Key));
        alone.Shapes.ShouldAllBe(s => s.Thread == gold);
        alone.Letters.ShouldBe(0);
        Should.Throw<EditRefusedException>(() => LetteringContent.Lay(new("ROSA"), Named("Lark Small"), new(null, Thread, new(StitchWay.Run, Alone: true)))).Message.ShouldContain("no outline");
    }

    [Fact]
    public void Overlapping_letters_of_a_script_are_outlined_together()
    {
        var content = LetteringContent.Lay(new("minimum"), Named("Dancing Script"), new(null, Thread, new(StitchWay.Run, Alone: true)));
        content.Shapes.Length.ShouldBe(1);

        // The word, the dots of its two i, and nothing where its letters overlap.
        content.Shapes[0].Shape.Paths.Length.ShouldBeInRange(3, 12);
        Area.Of(content.Shapes[0].Shape.Paths.Select(p => p.Flattened())).Count.ShouldBe(3);
    }

    [Fact]
    public void Letters_of_a_pen_follow_the_size_of_their_text()
    {
        var small = Written("Iris", face: Named("Lark Small"), with: w => w with { CapitalMm = 4 }, way: StitchWay.Automatic);
        small.Shapes.ShouldAllBe(s => s.Settings.OutAndBack && s.Settings.WidthMm < StitchSettings.FinestSatin);
        var large = LetteringContent.Lay(small.Wish with { CapitalMm = 10 }, Named("Lark Small"), new(null, Thread), small);
        large.Shapes.ShouldAllBe(s => Math.Abs(s.Settings.WidthMm!.Value - (small.Shapes[0].Settings.WidthMm!.Value * 2.5)) < 0.01);

        // In a font of outlines there is no pen any more.
        LetteringContent.Lay(large.Wish, Face, new(null, Thread), large).Shapes.ShouldAllBe(s => !s.Settings.OutAndBack && s.Settings.WidthMm == null);
    }

    [Fact]
    public void What_was_set_for_one_letter_stays_and_what_was_set_for_all_is_followed()
    {
        var word = Written("MARS");
        var thick = (LetteringContent)word.With(word.Shapes[1].Key, s => s with { Settings = s.Settings with { SpacingMm = 0.3 } });
        var longer = LetteringContent.Lay(new("MARSH"), Face, new(null, Thread), thick);
        longer.Shapes.Select(s => s.Settings.SpacingMm).ShouldBe([null, 0.3, null, null, null]);
        var all = word with { Shapes = [.. word.Shapes.Select(s => s with { Settings = s.Settings with { SpacingMm = 0.5 } })] };
        LetteringContent.Lay(new("MARSH"), Face, new(null, Thread), all).Shapes.ShouldAllBe(s => s.Settings.SpacingMm == 0.5);

        // Another way is for all.
        LetteringContent.Lay(new("MARSH"), Face, new(StitchWay.Fill, Thread), thick).Shapes.ShouldAllBe(s => s.Settings == new StitchSettings(StitchWay.Fill));
    }

    [Fact]
    public void Letters_sew_from_the_centre_or_as_they_are_read_where_the_first_of_them_stood()
    {
        var job = new AddLettering(Written("x"), Placement.AsItCame).Apply(JobOf(Written("MARINAS", outline: new(StitchWay.Run, Alone: false))));
        var centred = new OrderLetters(job.Pieces[0].Id, FromCentre: true).Apply(job);
        string.Concat(centred.Order.Select(p => p.Name)).ShouldBe("INASRAMINASRAMx");
        new OrderLetters(job.Pieces[0].Id, FromCentre: false).Apply(centred).ShouldBe(job);
        Should.Throw<EditRefusedException>(() => new OrderLetters(new(99), true).Apply(job));
    }

    [Fact]
    public void Letters_that_were_moved_by_hand_are_put_back()
    {
        var job = JobOf(Written("MARS"));
        var (a, laid) = (job.Order[1], job);
        job = new ShiftParts(new HashSet<PartId> { a.Id }, 5, -3).Apply(job);
        job = new Recolour(new HashSet<PartId> { a.Id }, MadeUpCharts.All[0].Threads[9]).Apply(job);
        job.Order[1].ShouldNotBe(a);
        new PutLettersBack(new HashSet<PartId> { a.Id }).Apply(job).Order[1].ShouldBe(a);
        Should.Throw<EditRefusedException>(() => new PutLettersBack(new HashSet<PartId> { new(99) }).Apply(job));
    }

    [Fact]
    public void Letters_are_sewn_in_the_order_of_reading_and_trimmed_between_each_other()
    {
        var plan = Planned(JobOf(Written("HELMUT")));
        string.Concat(plan.Parts.Select(p => p.Name)).ShouldBe("HELMUT");
        plan.Records.CountOf(StitchKind.Trim).ShouldBeInRange(5, 6);
    }

    [Theory]
    [InlineData("Lark Small", 4, 6)]
    [InlineData("Lark Small", 6, 6)]
    [InlineData("PT Sans Caption", 6, 8)]
    public void Small_letters_are_sewn_on_from_one_to_the_next_where_they_are_nearest(string font, double capital, int mostTrims)
    {
        var content = Written("Night of the stars", face: Named(font), with: w => w with { CapitalMm = capital }, way: StitchWay.Automatic);
        var plan = Planned(JobOf(content));

        // Three gaps between words, the end, and few more, such as the dot of the i.
        plan.Records.CountOf(StitchKind.Trim).ShouldBeLessThanOrEqualTo(mostTrims);
        for (var i = 1; i < plan.Records.Count; i++)
            if (plan.Records.Kinds[i - 1] != StitchKind.Trim && plan.Records.Kinds[i] == StitchKind.Jump)
                plan.Records.At(i).DistanceTo(plan.Records.At(i - 1)).ShouldBeLessThanOrEqualTo(LetterJoints.LedBetween(content.Shapes[0].Settings, content.Shapes[1].Settings));

        // Where a letter is left and entered by hand stays when the text is laid anew; where neighbours had it so is forgotten.
        var entered = (LetteringContent)content.With(content.Shapes[2].Key, s => s with { Settings = s.Settings with { Start = new(1, -1) } });
        var again = LetteringContent.Lay(new("Night of the stars") { CapitalMm = 20 }, Named(font), new(null, Thread), entered);
        again.Shapes.Select(s => s.Settings.Start).ShouldBe([null, null, new Point(1, -1), .. Enumerable.Repeat<Point?>(null, again.Shapes.Length - 3)]);
    }

    [Fact]
    public void Every_size_that_can_be_wanted_is_accepted_in_either_kind_of_font()
    {
        foreach (var face in new[] { Face, Named("Lark Small") })
            foreach (var capital in new[] { LetteringWish.Capitals.Least, 4, 60, LetteringWish.Capitals.Most })
                Should.NotThrow(() => JobRules.Check(JobOf(Written("Il", face: face, with: w => w with { CapitalMm = capital }, way: StitchWay.Automatic))), $"{face.Name} {capital}");
    }

    [Fact]
    public void Stems_side_by_side_are_joined_at_their_feet()
    {
        var shapes = LetterShape.Of(Named("Lark Small").Lay(new("HIH") { CapitalMm = 6 })).Select(l => l.Placed).ToList();
        var joints = LetterJoints.Of(shapes, 6, 0.7);
        joints[0].Start.ShouldBeNull();
        joints[2].End.ShouldBeNull();
        joints.SelectMany(j => new[] { j.Start, j.End }).OfType<Point>().ShouldAllBe(p => Math.Abs(p.Y - shapes[0].Bounds.MaxY) < 0.05);
    }

    [Fact]
    public void Larger_letters_are_joined_only_where_they_nearly_touch_at_their_feet_or_heads()
    {
        // Stems face each other along their whole length, the bows of O only in their middles.
        var stems = Shapes("HIH", 20, gap: 0.6);
        var joints = LetterJoints.Of(stems, 20, 0);
        joints.SelectMany(j => new[] { j.Start, j.End }).OfType<Point>().Count().ShouldBe(4);
        joints.SelectMany(j => new[] { j.Start, j.End }).OfType<Point>().ShouldAllBe(p => Math.Abs(p.Y - stems[0].Bounds.MaxY) < 0.05);
        LetterJoints.Of(Shapes("OO", 20, gap: 0.6), 20, 0).ShouldAllBe(j => j.Start == null && j.End == null);
        LetterJoints.Of(Shapes("HIH", 20, gap: 1.2), 20, 0).ShouldAllBe(j => j.Start == null && j.End == null);

        // Sewn, the thread goes on from foot to foot.
        var content = Written("HI", face: Face, with: w => w with { CapitalMm = 20 }, way: StitchWay.Satin);
        var laid = Written("HI", face: Face, with: w => w with { CapitalMm = 20, LetterSpacing = (0.6 - Gap(content)) / 20 }, way: StitchWay.Satin);
        Planned(JobOf(laid)).Records.CountOf(StitchKind.Trim).ShouldBe(1);

        IReadOnlyList<DrawnShape> Shapes(string text, double capital, double gap)
        {
            var shapes = LetterShape.Of(Face.Lay(new(text) { CapitalMm = capital })).Select(l => l.Placed).ToList();
            for (var i = 1; i < shapes.Count; i++)
            {
                var by = shapes[i - 1].Bounds.MaxX + gap - shapes[i].Bounds.MinX;
                shapes[i] = shapes[i].Moved(p => p + new Point(by, 0));
            }

            return shapes;
        }

        double Gap(LetteringContent c) => c.Shapes[1].Shape.Moved(c.Shapes[1].At.Place).Bounds.MinX - c.Shapes[0].Shape.Moved(c.Shapes[0].At.Place).Bounds.MaxX;
    }

    [Fact]
    public void What_cannot_be_wanted_is_refused_by_the_one_validator()
    {
        foreach (var (wish, says) in new (LetteringWish, string)[]
        {
            (new("x") { CapitalMm = 0 }, "height of capitals"),
            (new("x") { CapitalMm = double.NaN }, "height of capitals"),
            (new("x") { WidthMm = 1e9 }, "width of a lettering"),
            (new("x") { SlantDegrees = 80 }, "slant"),
            (new("x") { Course = new LetterCourse.OnRing(0) }, "ring"),
            (new("x") { Bend = new(BendShape.All[0], 40) }, "bend"),
            (new("x\u0007"), "text"),
            (new(string.Empty), "text"),
        })
        {
            var job = JobOf(Written("x"));
            var broken = job with { Pieces = [.. job.Pieces.Select(p => p with { Content = (LetteringContent)p.Content with { Wish = wish } })] };
            Should.Throw<EditRefusedException>(() => JobRules.Check(broken)).Message.ShouldContain(says, Case.Insensitive);
        }
    }

    private static double DistanceTo(Point[] ring, Point place) => new MeasuredLine([.. ring, ring[0]]) is var line ? line.PointAt(line.Nearest(place)).DistanceTo(place) : 0;

    private sealed class Stored(Dictionary<BlobHash, DrawnShape> shapes) : IShapeSource
    {
        public DrawnShape Get(BlobHash hash) => shapes[hash];
    }

    private sealed class NoStitches : IStitchSource
    {
        public StitchBlob Get(BlobHash hash) => throw new KeyNotFoundException();
    }
}
