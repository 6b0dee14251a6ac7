using System.Collections.Immutable;
using EvenThimble.Core.Craft;
using EvenThimble.Core.Digitizing;
using EvenThimble.Core.Files.Jobs;
using EvenThimble.Core.Geometry;
using EvenThimble.Core.Jobs;
using EvenThimble.Core.Lettering;
using EvenThimble.Core.Machines;
using EvenThimble.Core.Monograms;
using EvenThimble.Core.Shapes;
using EvenThimble.Core.Stitches;
using EvenThimble.Core.Text;
using EvenThimble.Core.Threads;
using EvenThimble.Rendering.Fonts;

namespace EvenThimble.App.Tests;

/// <summary>Monograms: letters that fill their outline, frames at their distance, all of it as large as wanted, and laid anew with what was done to it.</summary>
public class MonogramTests
{
    private static readonly SewingThread Blue = Alphabets.Blue;
    private static readonly SewingThread Gold = Alphabets.Gold;
    private static readonly LetterFace Archivo = new("Archivo", InstalledFonts.Open(InstalledFonts.Find("Archivo")!));

    // Each layout with a frame, every second frame around an outline, with corners or without; all of them are measured for docs/monograms.md.
    public static TheoryData<string, string> LayoutsAndFrames
    {
        get
        {
            var pairs = MonogramLayout.All.Select((l, i) => (l.Id, MonogramFrame.All[(i * 5) % MonogramFrame.All.Count].Id))
                .Concat(MonogramFrame.All.Where((_, i) => i % 2 == 0).Select((f, i) => (i % 2 == 0 ? "circle" : "diamond", f.Id))).Distinct();
            return [.. pairs.Select(p => new TheoryDataRow<string, string>(p.Item1, p.Item2))];
        }
    }

    [Theory]
    [MemberData(nameof(LayoutsAndFrames))]
    public void Size_and_distance_are_as_wanted_in_the_thread(string layout, string frame)
    {
        var wish = Wish("OMB", layout) with { Frame = MonogramFrame.Find(frame), SizeMm = 85, FrameGapMm = 4 };
        var content = MonogramContent.Lay(wish, Archivo, new(StitchWay.Automatic, Blue, Gold), ClothProfiles.Cotton);
        var (size, gap) = Measured(content, 3);
        size.ShouldBe(85, 0.06);
        gap.ShouldBe(4, 0.1);
        content.Parts.Take(3).Select(p => p.Name).ShouldBe(["O", "M", "B"]);
        content.Parts.Skip(3).ShouldAllBe(p => p.Thread == Gold && p.Role == PartRole.Decoration);
    }

    [Theory]
    [InlineData("circle")]
    [InlineData("oval")]
    [InlineData("diamond")]
    [InlineData("square")]
    [InlineData("shield")]
    [InlineData("arch")]
    [InlineData("wide-oval")]
    public void A_ring_lies_everywhere_as_far_from_the_outline_that_the_letters_fill(string layout)
    {
        var laid = MonogramLaying.Of(Wish("QRS", layout) with { Frame = MonogramFrame.Find("ring"), SizeMm = 90, FrameGapMm = 3.5 }, Archivo.Font);
        var ring = laid.Frame.Single().Shape.Paths.Single().Flattened();
        var outline = Area.Of([laid.Outline]).Single();
        var half = laid.Frame[0].Settings.WidthMm!.Value / 2;
        foreach (var p in ring) outline.DistanceTo(p).ShouldBe(3.5 + half, 0.1);

        // And the letters reach it: no more than a hair within, and to it on all sides.
        var points = laid.Letters.SelectMany(l => l.Outline.Paths).SelectMany(p => p.Flattened()).ToList();
        points.Max(outline.DistanceTo).ShouldBeLessThan(0.15);
        var (letters, box) = (Box.Around(points), outline.Bounds);
        letters.Width.ShouldBe(box.Width, 0.1 * box.Width);
        letters.Height.ShouldBe(box.Height, 0.1 * box.Height);
    }

    [Theory]
    [InlineData("pearls", "circle")]
    [InlineData("kites", "square")]
    [InlineData("stars", "diamond")]
    [InlineData("rope", "oval")]
    public void Motifs_are_whole_and_equally_far_apart(string frame, string layout)
    {
        var piece = MonogramLaying.Of(Wish("AB", layout) with { Frame = MonogramFrame.Find(frame), SizeMm = 80 }, Archivo.Font).Frame.Single();
        var motifs = piece.Shape.Paths.Where(p => p.Closed).Select(p => p.Flattened()).ToList();
        motifs.Count.ShouldBeGreaterThan(8);
        var sizes = motifs.Select(m => Area.Of([m]).Single().SquareMm).ToList();
        sizes.Max().ShouldBe(sizes.Min(), 0.02 * sizes.Max(), "none is cut");
        if (frame is "pearls" or "kites")
        {
            var way = new MeasuredLine([.. piece.Shape.Paths.Single(p => !p.Closed).Flattened()]);
            var along = motifs.Select(m => way.Nearest(Box.Around(m).Middle)).Order().ToList();
            var steps = along.Zip(along.Skip(1), (a, b) => b - a).ToList();
            (steps.Max() - steps.Min()).ShouldBeLessThan(0.02 * steps.Average() + 0.1);
        }

        var middles = motifs.ConvertAll(m => Box.Around(m).Middle);
        for (var i = 0; i < motifs.Count; i++)
            for (var k = i + 1; k < motifs.Count; k++)
                if (middles[i].DistanceTo(middles[k]) < 8)
                    Area.Of([motifs[i]]).Single().Meets(Area.Of([motifs[k]]).Single()).ShouldBeFalse("no motif lies over another, at corners neither");
    }

    [Fact]
    public void Motifs_on_a_string_are_sewn_without_a_cut_between()
    {
        foreach (var (frame, most) in new[] { ("pearls", 1), ("rope", 1), ("rays", 1), ("laurel", 4) })
        {
            var content = MonogramContent.Lay(Wish("O", "circle") with { Frame = MonogramFrame.Find(frame) }, Archivo, new(StitchWay.Automatic, Blue, Gold), ClothProfiles.Cotton);
            content.Shapes.Skip(1).Sum(s => Digitizer.Runs(s.Shape, s.Settings, ClothProfiles.Cotton).Count).ShouldBeLessThanOrEqualTo(most, frame);
        }
    }

    [Fact]
    public void Every_layout_takes_one_two_and_three_letters()
    {
        foreach (var layout in MonogramLayout.All)
        {
            foreach (var letters in new[] { "I", "WJ", "ÄQß", "&M&" })
            {
                var laid = MonogramLaying.Of(Wish(letters, layout.Id), Archivo.Font);
                laid.Letters.Select(l => l.Text).ShouldBe(letters.Select(c => c.ToString()));
                Math.Max(laid.Box.Width, laid.Box.Height).ShouldBe(70, 0.05);
                laid.Letters.ShouldAllBe(l => l.Outline.Bounds.Height > 3);
            }
        }
    }

    [Fact]
    public void Letters_that_a_pen_draws_keep_clear_of_each_other_and_of_their_frame()
    {
        var small = new LetterFace(StrokeFont.Small.Name, StrokeFont.Small);
        var content = MonogramContent.Lay(Wish("MFA", "circle") with { Frame = MonogramFrame.Find("ring"), FrameGapMm = 3 }, small, new(StitchWay.Automatic, Blue, Gold), ClothProfiles.Cotton);
        var (size, gap) = Measured(content, 3);
        size.ShouldBe(70, 0.15);
        gap.ShouldBe(3, 0.1);
        var letters = content.Shapes.Take(3).Select(s => Area.Of(s.Shape.Moved(s.At.Place).Paths.Select(p => p.Flattened()), s.Shape.Rule).ToList()).ToList();
        foreach (var (one, other) in letters.Zip(letters.Skip(1))) one.Min(a => other.Min(a.DistanceTo)).ShouldBeGreaterThan(0.5);
    }

    [Fact]
    public void Interlocked_letters_leave_room_for_each_other_by_turns()
    {
        var laid = MonogramLaying.Of(Wish("OMB", "interlocked") with { SizeMm = 80 }, Archivo.Font);
        var areas = laid.Letters.Select(l => Area.Of(l.Outline.Paths.Select(p => p.Flattened()), l.Outline.Rule).ToList()).ToList();
        foreach (var (one, other) in areas.Zip(areas.Skip(1)))
        {
            Box.Around(one.SelectMany(a => a.Corners)).Meets(Box.Around(other.SelectMany(a => a.Corners))).ShouldBeTrue("they cross");
            one.Sum(a => other.Sum(b => a.SharedWith(b).Areas.Sum(s => s.SquareMm))).ShouldBeLessThan(0.5, "no place is sewn twice");
        }
    }

    [Theory]
    [InlineData("Ottoline Marsh", InitialOrder.FamilyInMiddle, "OM")]
    [InlineData("Marguerite-Anne Fothergill", InitialOrder.FamilyInMiddle, "MFA")]
    [InlineData("Marguerite-Anne Fothergill", InitialOrder.AsRead, "MAF")]
    [InlineData("wen achterberg", InitialOrder.AsRead, "WA")]
    [InlineData("Piet van der Sallow", InitialOrder.AsRead, "PVS")]
    [InlineData("OMB", InitialOrder.FamilyInMiddle, "OMB")]
    [InlineData("o.m.", InitialOrder.FamilyInMiddle, "om")]
    [InlineData("Q", InitialOrder.AsRead, "Q")]
    [InlineData("Constantinopolitanischerdudelsackpfeifer", InitialOrder.AsRead, "C")]
    [InlineData("", InitialOrder.AsRead, "")]
    public void Initials_are_taken_from_a_name(string typed, InitialOrder order, string letters) => string.Concat(Initials.Of(typed, order)).ShouldBe(letters);

    [Fact]
    public void What_cannot_be_is_refused_in_a_sentence()
    {
        Refused(Wish("OMB", "circle") with { SizeMm = 20, Frame = MonogramFrame.Find("laurel") }).ShouldContain("no room for letters");
        Refused(Wish("OMB", "circle") with { SizeMm = 2 }).ShouldContain("from 8 to 500 mm");
        Refused(Wish("OMB", "circle") with { FrameGapMm = -1 }).ShouldContain("Between letters and frame");
        Refused(new(["O", "M", "B", "X"], MonogramLayout.All[0])).ShouldContain("one to three");
        Refused(new([], MonogramLayout.All[0])).ShouldContain("no letters yet");
        Refused(Wish("O", "circle") with { Letters = ["☃"] }).ShouldContain("has no ☃");
        string Refused(MonogramWish wish) => Should.Throw<EditRefusedException>(() => MonogramContent.Lay(wish, Archivo, new(StitchWay.Automatic, Blue, Gold), ClothProfiles.Cotton)).Message;
    }

    [Fact]
    public void Another_letter_frame_or_size_keeps_what_was_done_to_the_others_and_all_of_it_is_stored()
    {
        var job = Job.New(StandInMachines.Catalogue.HoopFor(new(-60, -60, 60, 60)));
        var stitched = new MonogramContent.Stitched(StitchWay.Automatic, Blue, Gold);
        var wish = Wish("OMB", "shield") with { Frame = MonogramFrame.Find("double-ring") };
        job = new AddMonogram(MonogramContent.Lay(wish, Archivo, stitched, job.Cloth.Profile), Placement.AsItCame).Apply(job);
        var middle = job.Order[1].Id;
        job = new Recolour(new HashSet<PartId> { middle }, Gold).Apply(job);
        var changed = new ChangeMonogram(job.Pieces[0].Id, MonogramContent.Lay(wish with { Letters = ["O", "X", "B"], SizeMm = 60, Frame = MonogramFrame.Find("pearls") }, Archivo, stitched, job.Cloth.Profile)).Apply(job);
        changed.Order.Select(p => p.Name).ShouldBe(["O", "X", "B", "pearls"]);
        changed.Order[1].Id.ShouldBe(middle);
        changed.Order[1].Thread.ShouldBe(Gold);
        changed.Pieces[0].Name.ShouldBe("Monogram OXB");
        var shapes = JobDocument.ShapesOf(changed).ToDictionary(s => s.Hash);
        JobDocument.FromJson(JobDocument.ToJson(changed), new Shapes(shapes), _ => null).ShouldBe(changed);
    }

    [Theory]
    [InlineData("pillar", "scallops")]
    [InlineData("shield", "rope")]
    [InlineData("square", "laurel")]
    public void Where_a_motif_more_or_less_would_fit_as_well_size_and_distance_do_not_leap(string layout, string frame)
    {
        for (var size = 58.5; size < 61; size += 1.2)
        {
            var wish = Wish("OMB", layout) with { Frame = MonogramFrame.Find(frame), SizeMm = size, FrameGapMm = 3 };
            var found = Measured(MonogramContent.Lay(wish, Archivo, new(StitchWay.Automatic, Blue, Gold), ClothProfiles.Cotton), 3);
            found.Size.ShouldBe(size, 0.15);
            found.Gap.ShouldBe(3, 0.1);
        }
    }

    [Fact]
    public void A_row_divides_its_line_into_whole_motifs_unless_their_length_was_typed()
    {
        var stitched = new MonogramContent.Stitched(StitchWay.Automatic, Blue, Gold);
        var wish = Wish("OMB", "circle") with { Frame = MonogramFrame.Find("hearts") };
        var before = MonogramContent.Lay(wish, Archivo, stitched, ClothProfiles.Cotton);
        var larger = MonogramContent.Lay(wish with { SizeMm = 93 }, Archivo, stitched, ClothProfiles.Cotton, before);
        larger.Shapes[3].Settings.MotifLengthMm!.Value.ShouldBe(7.5, 0.4);
        larger.Shapes[3].Settings.MotifLengthMm.ShouldNotBe(before.Shapes[3].Settings.MotifLengthMm);

        var typed = before with { Shapes = before.Shapes.SetItem(3, before.Shapes[3] with { Settings = before.Shapes[3].Settings with { MotifLengthMm = 10 } }) };
        MonogramContent.Lay(wish with { SizeMm = 93 }, Archivo, stitched, ClothProfiles.Cotton, typed).Shapes[3].Settings.MotifLengthMm.ShouldBe(10);
    }

    [Fact]
    public void Settings_that_were_changed_by_hand_stay_when_it_is_laid_anew()
    {
        var job = Job.New(StandInMachines.Catalogue.HoopFor(new(-60, -60, 60, 60)));
        var stitched = new MonogramContent.Stitched(StitchWay.Automatic, Blue, Gold);
        var wish = Wish("OMB", "shield") with { Frame = MonogramFrame.Find("double-ring") };
        job = new AddMonogram(MonogramContent.Lay(wish, Archivo, stitched, job.Cloth.Profile), Placement.AsItCame).Apply(job);
        var (middle, ring) = (job.Order[1].Id, job.Order[3].Id);
        job = new Restitch(new HashSet<PartId> { middle }, [new("spacing", "0.55 mm", s => s with { SatinSpacingMm = 0.55 })]).Apply(job);
        job = new Restitch(new HashSet<PartId> { ring }, [new("width", "3 mm", s => s with { WidthMm = 3, SatinSpacingMm = 0.5 })]).Apply(job);
        var before = (MonogramContent)job.Pieces[0].Content;

        MonogramContent Anew(MonogramWish other, StitchWay way = StitchWay.Automatic) => MonogramContent.Lay(other, Archivo, stitched with { Way = way }, job.Cloth.Profile, before);
        var larger = Anew(wish with { Letters = ["O", "X", "B"], SizeMm = 62 });
        larger.Shapes.Select(s => s.Settings.SatinSpacingMm).ShouldBe([null, 0.55, null, 0.5, null]);
        larger.Shapes[3].Settings.WidthMm.ShouldBe(3);
        larger.Shapes[0].Settings.Way.ShouldBe(before.Shapes[0].Settings.Way);
        Measured(larger, 3).Size.ShouldBe(62, 0.15, "the broader ring is counted in");

        // Another frame begins as usual; another way for all letters is another way, but the spacing stays.
        Anew(wish with { Frame = MonogramFrame.Find("ring") }).Shapes[3].Settings.ShouldBe(MonogramContent.Lay(wish with { Frame = MonogramFrame.Find("ring") }, Archivo, stitched, job.Cloth.Profile).Shapes[3].Settings);
        var rows = Anew(wish, StitchWay.Fill);
        rows.Shapes.Take(3).ShouldAllBe(s => s.Settings.Way == StitchWay.Fill);
        rows.Shapes[1].Settings.SatinSpacingMm.ShouldBe(0.55);
    }

    private static MonogramWish Wish(string letters, string layout) => new([.. letters.Select(c => c.ToString())], MonogramLayout.Find(layout)!) { SizeMm = 70 };

    /// <summary>Size and distance as the needle makes them, apart from how the program finds them.</summary>
    internal static (double Size, double Gap) Measured(MonogramContent content, int letters)
    {
        var runs = content.Shapes.Select(s => Digitizer.Runs(s.Shape, s.Settings, ClothProfiles.Cotton).Select(r => r.ConvertAll(s.At.Place)).ToList()).ToList();
        var box = Box.Around(runs.SelectMany(r => r).SelectMany(r => r));
        var threads = runs.Take(letters).SelectMany(r => r).SelectMany(r => r.Zip(r.Skip(1))).ToList();
        var around = runs.Skip(letters).SelectMany(r => r).SelectMany(r => r.Zip(r.Skip(1))).ToList();
        var nearest = double.PositiveInfinity;
        var places = around.SelectMany(t => Enumerable.Range(0, 5).Select(k => t.First.Toward(t.Second, k / 4.0))).ToList();
        foreach (var (a, b) in threads)
        {
            var near = Box.Around([a, b]).Grown(nearest < 100 ? nearest : 10);
            foreach (var p in places)
                if (near.Holds(p))
                    nearest = Math.Min(nearest, a.Toward(b, Math.Clamp((p - a).Dot(b - a) / Math.Max((b - a).Dot(b - a), 1e-12), 0, 1)).DistanceTo(p));
        }

        return (Math.Max(box.Width, box.Height), nearest);
    }

    private sealed class Shapes(Dictionary<BlobHash, DrawnShape> shapes) : IShapeSource
    {
        public DrawnShape Get(BlobHash hash) => shapes[hash];
    }
}
