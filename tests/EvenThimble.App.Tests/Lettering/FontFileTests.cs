using EvenThimble.Core.Lettering;
using EvenThimble.Core.Text;
using EvenThimble.Core.Work;
using EvenThimble.Rendering.Fonts;

namespace EvenThimble.App.Tests.Lettering;

public class FontFileTests
{
    private static byte[] Shipped(string name) => File.ReadAllBytes(InstalledFonts.Find(name)!.Path!);

    [Fact]
    public void Fonts_of_clearly_different_kinds_come_with_the_application()
    {
        InstalledFonts.All.Count.ShouldBeGreaterThanOrEqualTo(14);
        InstalledFonts.All.Select(f => f.Kind).Distinct().Count().ShouldBeGreaterThanOrEqualTo(12);
        InstalledFonts.All.Count(f => f.Kind == "script").ShouldBeGreaterThanOrEqualTo(3);
        InstalledFonts.All.ShouldAllBe(f => f.Path == null || File.Exists(f.Path));
    }

    [Fact]
    public void A_packed_font_is_read_like_the_plain_one()
    {
        var folder = new DirectoryInfo(AppContext.BaseDirectory);
        while (!Directory.Exists(Path.Combine(folder.FullName, "node_modules"))) folder = folder.Parent!;
        using var font = FontFile.Read(File.ReadAllBytes(Path.Combine(folder.FullName, "node_modules", "@fontsource", "figtree", "files", "figtree-latin-700-normal.woff")));
        font.Name.ShouldContain("Figtree");
        var shaped = font.Shape("AVATAR");
        shaped.Missing.ShouldBeEmpty();
        shaped.Glyphs.Count.ShouldBe(6);
        shaped.Glyphs.ShouldContain(g => g.KernEm < 0, "its kerning is there too");
        font.Outline(shaped.Glyphs[0].Glyph).Paths.Length.ShouldBe(2);
    }

    [Fact]
    public void What_is_no_font_is_refused_in_a_sentence()
    {
        foreach (var bytes in new[] { [], "not a font at all"u8.ToArray(), new byte[5_000], Shipped("Graduate")[..400] })
            Should.Throw<StitchFileException>(() => FontFile.Read(bytes)).Message.ShouldEndWith(".");
        Should.Throw<StitchFileException>(() => FontFile.Read(new byte[FontFile.LargestFile + 1])).Message.ShouldContain("20 MB");
    }

    [Fact]
    public void A_damaged_font_is_refused_or_written_with_but_takes_nothing_down()
    {
        var random = new Random(77);
        foreach (var name in new[] { "Graduate", "Fredoka", "Courgette" })
        {
            var whole = Shipped(name);
            for (var n = 0; n < 120; n++)
            {
                var bytes = whole.ToArray();
                for (var k = random.Next(1, 40); k > 0; k--) bytes[random.Next(n % 2 == 0 ? 400 : bytes.Length)] = (byte)random.Next(256);
                if (n % 5 == 0) bytes = bytes[..random.Next(100, bytes.Length)];
                try
                {
                    using var font = FontFile.Read(bytes);
                    foreach (var glyph in font.Shape("Hamburg 12 éß").Glyphs) font.Outline(glyph.Glyph).Paths.Length.ShouldBeGreaterThanOrEqualTo(0);
                }
                catch (RefusedException e)
                {
                    e.Message.ShouldEndWith(".");
                }
            }
        }
    }

    [Fact]
    public void Licence_bits_say_whether_a_font_may_travel()
    {
        foreach (var (bits, may) in new[] { (0x0000, true), (0x0002, false), (0x0004, true), (0x0008, true), (0x0200, false), (0x000C, true) })
        {
            var bytes = Shipped("Graduate");
            bytes[TableAt(bytes, "OS/2") + 8] = (byte)(bits >> 8);
            bytes[TableAt(bytes, "OS/2") + 9] = (byte)bits;
            using var font = FontFile.Read(bytes);
            font.MayTravel.ShouldBe(may, $"{bits:x}");
        }

        static int TableAt(byte[] font, string tag)
        {
            for (var i = 12; ; i += 16)
                if (System.Text.Encoding.ASCII.GetString(font, i, 4) == tag)
                    return System.Buffers.Binary.BinaryPrimitives.ReadInt32BigEndian(font.AsSpan(i + 8));
        }
    }

    [Fact]
    public void Ligatures_stand_for_all_their_letters()
    {
        var font = InstalledFonts.Open(InstalledFonts.Find("Libre Baskerville")!);
        string.Concat(font.Shape("office flies").Glyphs.Select(g => g.Text)).ShouldBe("office flies");
    }

    [Fact]
    public void A_font_whose_measuring_somebody_did_not_wait_for_is_there_for_the_next()
    {
        var face = new LetterFace("Archivo", InstalledFonts.Open(InstalledFonts.Find("Archivo")!));
        using (var gone = new CancellationTokenSource())
        {
            gone.Cancel();
            using (WorkBudget.Begin(TimeSpan.FromMinutes(1), gone.Token)) Should.Throw<OperationCanceledException>(() => face.Measure);
        }

        face.Measure.SmallestGoodMm.ShouldBeInRange(1, 20);
    }
}
