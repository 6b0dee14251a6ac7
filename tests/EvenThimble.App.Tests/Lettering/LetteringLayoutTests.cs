using System.Collections.Immutable;
using EvenThimble.Core.Geometry;
using EvenThimble.Core.Lettering;
using EvenThimble.Core.Text;
using EvenThimble.Rendering.Fonts;

namespace EvenThimble.App.Tests.Lettering;

/// <summary>Letters lie where they are wanted, measured on their own outlines.</summary>
public class LetteringLayoutTests
{
    private static readonly ILetterFont Sans = Named("Archivo");

    private static ILetterFont Named(string font) => InstalledFonts.Open(InstalledFonts.Find(font)!);

    private static LaidLettering Laid(string text, Func<LetteringWish, LetteringWish>? with = null, ILetterFont? font = null) =>
        LetteringLayout.Of(with is null ? new(text) : with(new(text)), font ?? Sans);

    private static Box Box(LaidLettering laid, int line) => laid.Letters.Where(l => l.Line == line).Aggregate(Core.Geometry.Box.Empty, (box, l) => box.With(l.Box));

    public static TheoryData<string> Fonts => [.. InstalledFonts.All.Select(f => f.Name)];

    [Theory]
    [MemberData(nameof(Fonts))]
    public void Capitals_are_as_high_as_asked_in_every_font(string font)
    {
        var laid = Laid("H", w => w with { CapitalMm = 22.5 }, Named(font));
        (laid.Letters[0].Baseline.Y - laid.Box.MinY).ShouldBe(22.5, 0.05);
        laid.CapitalMm.ShouldBe(22.5, 1e-9);
    }

    [Theory]
    [MemberData(nameof(Fonts))]
    public void Every_font_has_the_letters_of_its_customers(string font) =>
        Laid("ABCDEFGHIJKLMNOPQRSTUVWXYZ abcdefghijklmnopqrstuvwxyz 0123456789 ÄéñßŁ&@?!.,-'", font: Named(font)).Missing.ShouldBeEmpty();

    [Fact]
    public void A_letter_that_is_set_by_hand_moves_turns_and_grows_and_no_other_does()
    {
        var wish = new LetteringWish("ab\nHIH") { CapitalMm = 20, Course = new LetterCourse.OnArc(60), TurnDegrees = 30 };
        var (plain, set) = (Laid(wish.Text, _ => wish), Laid(wish.Text, _ => wish with { Nudges = LetterNudges.Empty.With(4, new(0.25, -0.5, 10, 1.5)) }));
        for (var i = 0; i < plain.Letters.Length; i++)
        {
            if (i != 3) set.Letters[i].ShouldBe(plain.Letters[i]);
        }

        // The I stands at the fifth place of the text, the line break counted; along and down are those of its own baseline.
        var (before, after) = (plain.Letters[3], set.Letters[3]);
        before.Text.ShouldBe("I");
        (after.Box.Middle - before.Box.Middle).Turned(-before.TurnDegrees, Point.Zero).DistanceTo(new(5, -10)).ShouldBeLessThan(0.1);
        after.TurnDegrees.ShouldBe(before.TurnDegrees + 10, 1e-9);
        double Stem(PlacedLetter l) => l.Outline.Moved(p => p.Turned(-l.TurnDegrees, Point.Zero)).Bounds.Height;
        Stem(after).ShouldBe(1.5 * Stem(before), 0.01);

        // Kept while its letter is, wherever it stands then.
        var nudges = LetterNudges.Empty.With(4, new(0.25, 0, 0, 1));
        nudges.Following("ab\nHIH", "cab\nHIGH").All.Select(n => n.At).ShouldBe([5]);
        nudges.Following("ab\nHIH", "ab\nHH").Count.ShouldBe(0);
        nudges.With(4, LetterNudge.None).ShouldBe(LetterNudges.Empty);
        foreach (var wrong in new LetterNudge[] { new(4, 0, 0, 1), new(double.NaN, 0, 0, 1), new(0, 0, 200, 1), new(0, 0, 0, 0.1), new(0, 0, 0, double.PositiveInfinity) })
            Should.Throw<EditRefusedException>(() => nudges.With(0, wrong));
    }

    [Fact]
    public void A_block_is_exactly_as_wide_as_asked_and_keeps_its_proportions()
    {
        var plain = Laid("Comet over\nthe Dome");
        foreach (var wish in new Func<LetteringWish, LetteringWish>[] { w => w, w => w with { Bend = new(BendShape.Find("arch")!, 0.6) }, w => w with { Course = new LetterCourse.OnArc(80) }, w => w with { TurnDegrees = 90 } })
        {
            var fitted = Laid("Comet over\nthe Dome", w => wish(w) with { WidthMm = 123.4 });
            (wish(new("x")).TurnDegrees == 90 ? fitted.Box.Height : fitted.Box.Width).ShouldBe(123.4, 0.15);
            var high = Laid("Comet over\nthe Dome", w => wish(w) with { HeightMm = 31.7 });
            (wish(new("x")).TurnDegrees == 90 ? high.Box.Width : high.Box.Height).ShouldBe(31.7, 0.15);
        }

        var straight = Laid("Comet over\nthe Dome", w => w with { WidthMm = 123.4 });
        (straight.Box.Height / straight.Box.Width).ShouldBe(plain.Box.Height / plain.Box.Width, 1e-3);
    }

    [Fact]
    public void Lines_are_aligned_by_their_ink()
    {
        var left = Laid("Iris\nObservatory", w => w with { Align = LetterAlign.Left });
        Box(left, 0).MinX.ShouldBe(Box(left, 1).MinX, 1e-3);
        var right = Laid("Iris\nObservatory", w => w with { Align = LetterAlign.Right });
        Box(right, 0).MaxX.ShouldBe(Box(right, 1).MaxX, 1e-3);
        var centre = Laid("Iris\nObservatory");
        Box(centre, 0).Middle.X.ShouldBe(Box(centre, 1).Middle.X, 1e-3);
        var justified = Laid("To the moon\nand all the way back\nIris", w => w with { Align = LetterAlign.Justified });
        for (var line = 0; line < 3; line++) Box(justified, line).Width.ShouldBe(justified.Box.Width, 1e-3);

        // Where there are words, letters of a word stay together.
        var (plain, wide) = (Laid("To the moon"), justified.Letters.Where(l => l.Line == 0).ToList());
        (wide[1].Box.MinX - wide[0].Box.MaxX).ShouldBe(plain.Letters[1].Box.MinX - plain.Letters[0].Box.MaxX, 1e-3);
    }

    [Fact]
    public void Letters_and_words_are_set_apart_as_asked()
    {
        var plain = Laid("At night");
        var spaced = Laid("At night", w => w with { LetterSpacing = 0.2 });
        for (var i = 1; i < 2; i++) (spaced.Letters[i].Box.MinX - spaced.Letters[i - 1].Box.MaxX).ShouldBe(plain.Letters[i].Box.MinX - plain.Letters[i - 1].Box.MaxX + 3, 1e-3);
        var words = Laid("At night", w => w with { WordSpacing = 3 });
        (words.Box.Width - plain.Box.Width).ShouldBeGreaterThan(3);
        Laid("At\nnight", w => w with { LineSpacing = 2 }).Box.Height.ShouldBeGreaterThan(Laid("At\nnight").Box.Height + 10);
    }

    [Fact]
    public void Letters_stand_around_a_ring_that_they_touch_from_inside_and_are_read_from_the_front()
    {
        var laid = Laid("LARKMOOR OBSERVATORY\nOPEN NIGHT", w => w with { CapitalMm = 6, Course = new LetterCourse.OnRing(80) });
        foreach (var letter in laid.Letters)
        {
            var far = letter.Outline.Paths.SelectMany(p => p.Flattened()).Select(p => p.Length).ToList();
            far.Max().ShouldBeInRange(39.2, 40.6);
            far.Min().ShouldBeGreaterThan(33.2);
        }

        laid.Letters.Where(l => l.Line == 0).ShouldAllBe(l => Math.Abs(l.TurnDegrees) < 180);
        var above = laid.Letters.Where(l => l.Line == 0).Select(l => Angle(l.Box.Middle)).ToList();
        above.ShouldBeInOrder(SortDirection.Ascending, "clockwise from the left");
        var below = laid.Letters.Where(l => l.Line == 1).ToList();
        below.Select(l => l.Box.Middle.X).ShouldBeInOrder(SortDirection.Ascending);
        below.ShouldAllBe(l => l.Box.Middle.Y > 0);
        Math.Abs(above.Average()).ShouldBeLessThan(4, "about the top");

        static double Angle(Point p) => Math.Atan2(p.X, -p.Y) * 180 / Math.PI;
    }

    [Fact]
    public void A_ring_read_from_within_has_its_heads_the_other_way()
    {
        var laid = Laid("LARKMOOR\nOPEN NIGHT", w => w with { CapitalMm = 6, Course = new LetterCourse.OnRing(80, Inward: true) });
        foreach (var letter in laid.Letters) letter.Outline.Paths.SelectMany(p => p.Flattened()).Select(p => p.Length).Max().ShouldBeInRange(39, 40.7);

        // The first line stays above, its feet on the ring; the second below, its heads outwards.
        laid.Letters.Where(l => l.Line == 0).ShouldAllBe(l => l.Box.Middle.Y < 0 && l.Baseline.Length > 39);
        laid.Letters.Where(l => l.Line == 1).ShouldAllBe(l => l.Box.Middle.Y > 0 && l.Baseline.Length < 35);
        Laid("A", w => w with { CapitalMm = 6, Course = new LetterCourse.OnRing(80, 90) }).Letters[0].Box.Middle.X.ShouldBeGreaterThan(35, "turned on the ring to the right");
    }

    [Fact]
    public void A_ring_that_is_too_small_says_which_diameter_holds_the_text()
    {
        var said = Should.Throw<EditRefusedException>(() => Laid("Far too long for this ring", w => w with { CapitalMm = 8, Course = new LetterCourse.OnRing(30) })).Message;
        var diameter = double.Parse(System.Text.RegularExpressions.Regex.Match(said, @"diameter of ([0-9.]+) mm").Groups[1].Value, System.Globalization.CultureInfo.InvariantCulture);
        Laid("Far too long for this ring", w => w with { CapitalMm = 8, Course = new LetterCourse.OnRing(diameter) }).Letters.Length.ShouldBe(21);
        Should.Throw<EditRefusedException>(() => Laid("Far too long for this ring", w => w with { CapitalMm = 8, Course = new LetterCourse.OnRing(diameter - 0.4) }));
    }

    [Fact]
    public void An_arc_is_highest_in_its_middle_and_sags_below_zero()
    {
        var up = Laid("OOOOOOO", w => w with { Course = new LetterCourse.OnArc(120) });
        up.Letters[3].Box.Middle.Y.ShouldBe(up.Letters.Min(l => l.Box.Middle.Y), 1e-6);
        (up.Letters[6].TurnDegrees - up.Letters[0].TurnDegrees).ShouldBeInRange(95, 120);
        var down = Laid("OOOOOOO", w => w with { Course = new LetterCourse.OnArc(-120) });
        down.Letters[3].Box.Middle.Y.ShouldBe(down.Letters.Max(l => l.Box.Middle.Y), 1e-6);
        down.Letters.Select(l => l.Box.Middle.X).ShouldBeInOrder(SortDirection.Ascending);
    }

    [Fact]
    public void Letters_stand_on_a_guide_path_square_to_it()
    {
        ImmutableArray<Point> path = [new(0, 0), new(60, 30), new(140, 30)];
        var laid = Laid("HHHHHHH", w => w with { CapitalMm = 8, Align = LetterAlign.Left, Course = new LetterCourse.OnPath(path) });
        var guide = new MeasuredLine([.. path]);
        foreach (var letter in laid.Letters) guide.PointAt(guide.Nearest(letter.Baseline)).DistanceTo(letter.Baseline).ShouldBeLessThan(1.2);
        laid.Letters[0].TurnDegrees.ShouldBe(Math.Atan2(30, 60) * 180 / Math.PI, 0.01);
        Should.Throw<EditRefusedException>(() => Laid("HHHHHHH", w => w with { CapitalMm = 40, Course = new LetterCourse.OnPath(path) })).Message.ShouldContain("guide path 147.1 mm");
        Should.Throw<EditRefusedException>(() => Laid("H", w => w with { Course = new LetterCourse.OnPath([new(1, 1), new(1, 1)]) })).Message.ShouldContain("no length");

        // A loop carries letters too.
        var loop = Enumerable.Range(0, 200).Select(i => new Point(40 * Math.Sin(i * 0.05), 20 * Math.Sin(i * 0.1))).ToImmutableArray();
        Laid("AROUND AND AROUND", w => w with { CapitalMm = 5, Course = new LetterCourse.OnPath(loop) }).Letters.Length.ShouldBe(15);
    }

    public static TheoryData<string> Bends => [.. BendShape.All.Select(b => b.Name)];

    [Theory]
    [MemberData(nameof(Bends))]
    public void A_bend_moves_the_block_and_with_no_amount_does_nothing(string name)
    {
        var shape = BendShape.Find(name)!;
        var plain = Laid("MOONRISE");
        var still = Laid("MOONRISE", w => w with { Bend = new(shape, 0) });
        still.Box.Width.ShouldBe(plain.Box.Width, 1e-6);
        still.Box.Height.ShouldBe(plain.Box.Height, 1e-6);
        foreach (var amount in new[] { 0.5, -0.5, 1, -1 })
        {
            var bent = Laid("MOONRISE", w => w with { Bend = new(shape, amount) });
            bent.Letters.Length.ShouldBe(8);
            bent.Letters.Zip(plain.Letters).ShouldContain(p => Math.Abs(p.First.Box.MinY - p.Second.Box.MinY) > 0.8 || Math.Abs(p.First.Box.MaxY - p.Second.Box.MaxY) > 0.8 || Math.Abs(p.First.Box.MinX - p.Second.Box.MinX) > 0.8);
            bent.Letters.ShouldAllBe(l => l.Box.Width > 0.5 && l.Box.Height > 0.5);
        }
    }

    [Fact]
    public void Text_below_each_other_stands_on_one_axis()
    {
        var laid = Laid("NIGHT", w => w with { Stacked = true });
        laid.Letters.ShouldAllBe(l => Math.Abs(l.Box.Middle.X) < 1e-6);
        laid.Letters.Zip(laid.Letters.Skip(1)).ShouldAllBe(p => p.First.Box.MaxY < p.Second.Box.MinY);
    }

    [Fact]
    public void What_cannot_be_laid_is_said_and_nothing_is_dropped_silently()
    {
        Should.Throw<EditRefusedException>(() => Laid(" \n ")).Message.ShouldContain("no text");
        Should.Throw<EditRefusedException>(() => Laid(new string('x', 10_000))).Message.ShouldContain("10,000");
        Should.Throw<EditRefusedException>(() => Laid("🙂 🚀")).Message.ShouldContain("🙂 🚀");
        Laid("Moon 🙂").Missing.ShouldBe(["🙂"]);
        Should.Throw<EditRefusedException>(() => Laid("Moon", w => w with { WidthMm = 1 })).Message.ShouldContain("2 to 500 mm");
        Should.Throw<EditRefusedException>(() => Laid("a\nb\nc", w => w with { Course = new LetterCourse.OnRing(100) })).Message.ShouldContain("two lines");
    }

    [Fact]
    public void Right_to_left_is_read_from_the_right_and_numbers_in_it_from_the_left()
    {
        var laid = Laid("שלום 12", font: Named("Fredoka"));
        laid.Missing.ShouldBeEmpty();
        laid.Letters.Select(l => l.Text).ShouldBe(["ש", "ל", "ו", "ם", "1", "2"], "in the order of reading");
        laid.Letters.Take(4).Select(l => l.Box.Middle.X).ShouldBeInOrder(SortDirection.Descending);
        laid.Letters[4].Box.Middle.X.ShouldBeLessThan(laid.Letters[5].Box.Middle.X);
        laid.Letters[5].Box.Middle.X.ShouldBeLessThan(laid.Letters[3].Box.Middle.X);
    }

    [Fact]
    public void Marks_stand_on_their_letters()
    {
        var (together, apart) = (Laid("é"), Laid("e\u0301"));
        apart.Missing.ShouldBeEmpty();
        apart.Box.Width.ShouldBe(together.Box.Width, 0.5);
        apart.Box.Height.ShouldBe(together.Box.Height, 0.5);
    }
}
