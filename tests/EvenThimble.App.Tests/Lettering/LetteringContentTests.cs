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
    private static readonly FontFile Font = InstalledFonts.Open(InstalledFonts.Find("Archivo")!);
    private static readonly SewingThread Thread = MadeUpCharts.All[0].Threads[3];

    private static LetteringContent Written(string text, LetteringContent? before = null, Func<LetteringWish, LetteringWish>? with = null)
    {
        var wish = (with ?? (w => w))(new(text));
        return LetteringContent.Of(wish, Font.Name, LetterShape.Of(LetteringLayout.Of(wish, Font)), before, (new(StitchWay.Satin), Thread));
    }

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
        })
        {
            var job = JobOf(Written("OPEN NIGHT\nLARKMOOR", with: with));
            var shapes = JobDocument.ShapesOf(job).ToDictionary(s => s.Hash);
            var again = JobDocument.FromJson(JobDocument.ToJson(job), new Stored(shapes), _ => null);
            again.ShouldBe(job);
            Planned(again).Records.Hash.ShouldBe(Planned(job).Records.Hash);
            JobDocument.ToJson(again).ShouldBe(JobDocument.ToJson(job));
        }
    }

    [Fact]
    public void Letters_are_sewn_in_the_order_of_reading_and_trimmed_between_each_other()
    {
        var plan = Planned(JobOf(Written("HELMUT")));
        string.Concat(plan.Parts.Select(p => p.Name)).ShouldBe("HELMUT");
        plan.Records.CountOf(StitchKind.Trim).ShouldBeInRange(5, 6);
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

    private sealed class Stored(Dictionary<BlobHash, DrawnShape> shapes) : IShapeSource
    {
        public DrawnShape Get(BlobHash hash) => shapes[hash];
    }

    private sealed class NoStitches : IStitchSource
    {
        public StitchBlob Get(BlobHash hash) => throw new KeyNotFoundException();
    }
}
