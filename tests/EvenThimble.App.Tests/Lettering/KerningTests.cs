using EvenThimble.Core.Lettering;
using EvenThimble.Core.Text;
using EvenThimble.Rendering.Fonts;
using EvenThimble.Storage;
using EvenThimble.Web.Workroom;

namespace EvenThimble.App.Tests.Lettering;

/// <summary>Gaps between letters: set by hand, kept for a font, and what counts first.</summary>
public class KerningTests : WithDatabase
{
    private static readonly ILetterFont Serif = InstalledFonts.Open(InstalledFonts.Find("Libre Baskerville")!);

    private static double Gap(LetteringWish wish) => LetteringLayout.Of(wish, Serif) is var laid ? laid.Letters[1].Box.MinX - laid.Letters[0].Box.MaxX : 0;

    [Fact]
    public void What_was_set_by_hand_counts_first_then_the_font_then_equal_white_and_each_can_be_left_out()
    {
        var byHand = new LetteringWish("AV") { CapitalMm = 20, Pairs = KerningTable.Empty.With("A", "V", 0.3) };
        var none = byHand with { OwnKerning = false, FontKerning = false, OpticalSpacing = false };
        Gap(byHand).ShouldBe(Gap(none) + 6, 0.01);
        var fonts = byHand with { OwnKerning = false };
        Gap(fonts).ShouldBeLessThan(Gap(none) - 1, "the font sets A and V nearer");
        var white = fonts with { FontKerning = false };
        Math.Abs(Gap(white) - Gap(none)).ShouldBeGreaterThan(0.05);
        Math.Abs(Gap(white) - Gap(fonts)).ShouldBeGreaterThan(0.01);

        // As a share of the letters it holds for every size.
        Gap(byHand with { CapitalMm = 40 }).ShouldBe(2 * Gap(byHand), 0.02);
        foreach (var wish in new[] { byHand, none, fonts, white })
            (Gap(none) + (20 * LetteringLayout.KerningOf(wish, Serif, "A", "V")!.Value)).ShouldBe(Gap(wish), 0.01);
        LetteringLayout.KerningOf(byHand, Serif, "A", "\u5b57").ShouldBeNull();
    }

    [Fact]
    public void A_table_holds_pairs_of_letters_and_refuses_what_is_none()
    {
        var table = KerningTable.Empty.With("V", "A", 0.1).With("A", "V", -0.05).With("A", "V", -0.06);
        table.Pairs.ShouldBe([("A", "V", -0.06), ("V", "A", 0.1)]);
        table.ShouldBe(KerningTable.Empty.With("A", "V", -0.06).With("V", "A", 0.1));
        table.GetHashCode().ShouldBe(KerningTable.Empty.With("A", "V", -0.06).With("V", "A", 0.1).GetHashCode());
        table.UsedIn("OVAL").ShouldBe(KerningTable.Empty.With("V", "A", 0.1));
        table.Without("V", "A").Count.ShouldBe(1);
        foreach (var (left, right, share) in new[] { ("", "A", 0.1), ("A", "", 0.1), ("A", "V", 40), ("A", "V", double.NaN), (new string('x', 9), "A", 0) })
            Should.Throw<EditRefusedException>(() => table.With(left, right, share)).Message.ShouldEndWith(".");
    }

    [Fact]
    public void Gaps_and_fonts_of_ones_own_are_kept_and_found_again()
    {
        var store = new FontStore(Database, Clock);
        store.Keep("Archivo", KerningTable.Empty.With("A", "V", -0.06).With("’", "s", 0.02));
        store.Keep("Archivo", store.KerningOf("Archivo").With("T", "o", -0.1));
        store.KerningOf("Archivo").Count.ShouldBe(3);
        store.KerningOf("Bitter").ShouldBe(KerningTable.Empty);

        var fonts = new LetterFonts(store);
        var bytes = File.ReadAllBytes(InstalledFonts.Find("Graduate")!.Path!);
        var own = fonts.Add("grad.ttf", bytes);
        own.Name.ShouldBe("Graduate 2", "the name is taken by the one that comes with the program");
        fonts.Add("again.ttf", bytes).ShouldBe(own, "it is there already");
        fonts.All[0].ShouldBe(own);
        fonts.Find("graduate 2")!.Lay(new("Iris")).Letters.Length.ShouldBe(4);
        fonts.ToTravel("Graduate 2")!.Bytes.ShouldBe(bytes);
        fonts.ToTravel("Graduate").ShouldBeNull("it comes with the program everywhere");
        Should.Throw<StitchFileException>(() => fonts.Add("song.ttf", "no font"u8.ToArray())).Message.ShouldContain("no font");

        store.Use("Bitter");
        Clock.Goes(TimeSpan.FromMinutes(1));
        store.Use("Graduate 2");
        fonts.LastUsed(5).Select(f => f.Name).ShouldBe(["Graduate 2", "Bitter"]);
        fonts.PictureOf("Graduate 2", "Iris")!.Length.ShouldBeGreaterThan(500);
        fonts.PictureOf("Graduate 2", "A", "V", 0.3).ShouldNotBe(fonts.PictureOf("Graduate 2", "A", "V", 0));
        fonts.PictureOf("Graduate 2", "\u5b57").ShouldBeNull();
        fonts.Remove(own.Hash!).ShouldBe("Graduate 2");
        fonts.Find("Graduate 2").ShouldBeNull();
        fonts.Remove(own.Hash!).ShouldBeNull();
    }
}
