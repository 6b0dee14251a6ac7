using System.Diagnostics;
using System.Globalization;
using System.Text;
using EvenThimble.Core.Colour;
using EvenThimble.Core.Craft;
using EvenThimble.Core.Lettering;
using EvenThimble.Core.Stitches;
using EvenThimble.Core.Tests;
using EvenThimble.Core.Tests.Quality;
using EvenThimble.Core.Threads;
using EvenThimble.Rendering;
using EvenThimble.Rendering.Fonts;
using SkiaSharp;

namespace EvenThimble.App.Tests.Lettering;

/// <summary>Measures all fonts that come with the application and some that do not, shows each in thread, and lets a reader of print read small text, for <c>docs/lettering.md</c>. Run by <c>./even-thimble shots</c>, not with the tests.</summary>
[Trait("Category", "shots")]
public sealed class FontReport
{
    private const string Letters = "ABCDEFGHIJKLMNOPQRSTUVWXYZabcdefghijklmnopqrstuvwxyz0123456789ÄéñßŁ&@?!";
    private static readonly double[] Sizes = [5, 8, 15, 30, 80];
    private static readonly string[] Strangers =
    [
        "opentype/cabin/Cabin-Bold.otf", "truetype/crosextra/Caladea-Bold.ttf", "truetype/comfortaa/Comfortaa-Bold.ttf", "opentype/lobster/lobster.otf", "truetype/lato/Lato-Bold.ttf", "truetype/dejavu/DejaVuSerif-Bold.ttf",
    ];

    private static readonly string[] Read =
    [
        "LARKMOOR OBSERVATORY", "Open night at the dome", "The quick brown fox jumps over the lazy dog", "SPHINX OF BLACK QUARTZ JUDGE MY VOW", "Wash at 40 degrees with like colours", "Made by Tamsin in 2026 no 13579 of 24680",
    ];

    private static string Docs => Path.Combine(MadeUp.Repository, "docs");

    [Fact]
    public void Table_and_pictures_of_fonts()
    {
        var shipped = InstalledFonts.All.Select(f => new LetterFace(f.Name, InstalledFonts.Open(f))).ToList();
        var strangers = Strangers.Select(f => Path.Combine("/usr/share/fonts", f)).Where(File.Exists).Select(f => FontFile.Read(File.ReadAllBytes(f))).Select(f => new LetterFace(f.FullName, f)).ToList();
        strangers.Count.ShouldBe(Strangers.Length, "the fonts of the packages that ./even-thimble shots installs");
        var asked = (from face in shipped.Concat(strangers) from size in Sizes from letter in Letters select (face, letter, size)).ToList();
        var looked = asked.AsParallel().AsOrdered().WithDegreeOfParallelism(2).Select(a => MeasuredLetter.Of(a.face, a.letter.ToString(), a.size)).OfType<MeasuredLetter>().ToList();
        Replace("fonts", FontTable(shipped, looked) + "\nFonts that do not come with the application:\n\n" + FontTable(strangers, looked));
        Replace("sizes", SizeTable(looked));
        Replace("read", Readings());
        Picture(shipped);
    }

    private static string FontTable(IReadOnlyList<LetterFace> faces, List<MeasuredLetter> looked)
    {
        var table = new StringBuilder("| font | good from | satin to | letters | coverage % least / mean | a stray over 0.6 mm: % | bare over 0.3 mm²: % | over 4 layers % | off square, mean ° |\n|---|---|---|---|---|---|---|---|---|\n");
        foreach (var face in faces)
        {
            // What a font is not said to be good for does not count against it.
            var good = looked.Where(l => l.Font == face.Name && l.CapitalMm >= face.Measure.SmallestGoodMm - 0.05).ToList();
            table.AppendLine(CultureInfo.InvariantCulture, $"| {face.Name} | {face.Measure.SmallestGoodMm:0.0} mm | {(face.Measure.OfPen ? "any" : $"{face.Measure.SatinToMm:0} mm")} | {Figures(good)} |");
        }

        return table.ToString();
    }

    private static string SizeTable(List<MeasuredLetter> looked)
    {
        var table = new StringBuilder("| capitals | letters | coverage % least / mean | a stray over 0.6 mm: % | bare over 0.3 mm²: % | over 4 layers % | off square, mean ° |\n|---|---|---|---|---|---|---|\n");
        foreach (var size in looked.GroupBy(l => l.CapitalMm).OrderBy(g => g.Key)) table.AppendLine(CultureInfo.InvariantCulture, $"| {size.Key} mm | {Figures([.. size])} |");
        return table.ToString();
    }

    private static string Figures(List<MeasuredLetter> l) => string.Create(
        CultureInfo.InvariantCulture,
        $"{l.Count} | {l.Min(x => x.Edge.Coverage):0.0} / {l.Average(x => x.Edge.Coverage):0.00} | {Share(l, x => x.Lay.Stray > 0.6):0.0} | {Share(l, x => x.Lay.Bare > 0.3):0.0} | {l.Average(x => x.Lay.OverFour):0.00} | {l.Average(x => x.Lay.Off):0.0}");

    private static double Share(List<MeasuredLetter> l, Func<MeasuredLetter, bool> has) => 100.0 * l.Count(has) / l.Count;

    /// <summary>What a reader of print makes of small text in thread: by font and size the share of characters that it reads rightly.</summary>
    private static string Readings()
    {
        var table = new StringBuilder("| font | capitals | characters read rightly |\n|---|---|---|\n");
        foreach (var (font, size) in new[] { ("Lark Small", 4.0), ("Lark Small", 6), ("PT Sans Caption", 6), ("Archivo", 6) })
        {
            var face = new LetterFace(font, InstalledFonts.Open(InstalledFonts.Find(font)!));
            var (right, all) = (0, 0);
            foreach (var line in Read)
            {
                right += Math.Max(0, line.Length - Distance(line, ReadBack(face, line, size)));
                all += line.Length;
            }

            table.AppendLine(CultureInfo.InvariantCulture, $"| {font} | {size} mm | {100.0 * right / all:0.0} % of {all} |");
        }

        return table.ToString();
    }

    private static string ReadBack(LetterFace face, string text, double capitalMm)
    {
        var file = Sewn(face, text, capitalMm, new("Fenlight", "0", "black", Rgb.FromInt(0x101010)));
        var picture = Path.Combine(Path.GetTempPath(), $"thimble-read-{Guid.NewGuid():n}.png");
        try
        {
            File.WriteAllBytes(picture, ThreadPainter.PictureAt(file, 12, Rgb.FromInt(0xFFFFFF), lines: false, borderMm: 4));
            using var reader = Process.Start(new ProcessStartInfo("tesseract", [picture, "stdout", "--psm", "7"]) { RedirectStandardOutput = true, RedirectStandardError = true })!;
            var said = reader.StandardOutput.ReadToEnd();
            reader.WaitForExit();
            return said.Trim();
        }
        finally
        {
            File.Delete(picture);
        }
    }

    private static StitchFile Sewn(LetterFace face, string text, double capitalMm, SewingThread thread)
    {
        var laid = face.Lay(new(text) { CapitalMm = capitalMm });
        var blob = LetteringSewing.Stitch(laid, LetteringSewing.SettingsFor(face.Measure, StitchWay.Automatic, laid.CapitalMm), ClothProfiles.Cotton);
        return new(text, blob, [new(0, blob.Count, thread, PartRole.Lettering)]);
    }

    /// <summary>By how many characters two texts differ (Levenshtein 1966).</summary>
    private static int Distance(string a, string b)
    {
        var row = Enumerable.Range(0, b.Length + 1).ToArray();
        for (var i = 1; i <= a.Length; i++)
        {
            var before = row[0];
            row[0] = i;
            for (var k = 1; k <= b.Length; k++) (before, row[k]) = (row[k], Math.Min(Math.Min(row[k], row[k - 1]) + 1, before + (a[i - 1] == b[k - 1] ? 0 : 1)));
        }

        return row[^1];
    }

    /// <summary>Every font at 15 mm and at the smallest height that it is good at.</summary>
    private static void Picture(IReadOnlyList<LetterFace> faces)
    {
        const int wide = 1240, high = 150;
        var thread = new SewingThread("Fenlight", "0", "indigo", Rgb.FromInt(0x2F4B7C));
        using var sheet = new SKBitmap(wide, high * faces.Count);
        using (var canvas = new SKCanvas(sheet))
        {
            foreach (var (face, i) in faces.Select((f, i) => (f, i)))
            {
                var good = Math.Max(face.Measure.SmallestGoodMm, 4);
                using var large = SKBitmap.Decode(ThreadPainter.Picture(Sewn(face, "Hamburg Äß 28", Math.Max(15, good), thread), 820, high, ClothProfiles.Cotton.UsualColour, 16));
                using var small = SKBitmap.Decode(ThreadPainter.Picture(Sewn(face, "Larkmoor", good, thread), wide - 820, high, ClothProfiles.Cotton.UsualColour, 34));
                canvas.DrawBitmap(large, 0, i * high, SKSamplingOptions.Default);
                canvas.DrawBitmap(small, 820, i * high, SKSamplingOptions.Default);
            }
        }

        using var png = sheet.Encode(SKEncodedImageFormat.Png, 90);
        File.WriteAllBytes(Path.Combine(Docs, "lettering.png"), png.ToArray());
    }

    /// <summary>Puts text between the marks of a part of the document; what is written around it by hand stays.</summary>
    private static void Replace(string part, string text)
    {
        var file = Path.Combine(Docs, "lettering.md");
        var document = File.ReadAllText(file);
        var (begin, end) = (document.IndexOf($"<!-- {part} -->", StringComparison.Ordinal), document.IndexOf($"<!-- /{part} -->", StringComparison.Ordinal));
        File.WriteAllText(file, document[..document.IndexOf('\n', begin)] + "\n\n" + text.Replace("\r", string.Empty, StringComparison.Ordinal) + "\n" + document[end..]);
    }
}
