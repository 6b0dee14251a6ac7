using System.Globalization;
using System.Text;
using EvenThimble.Core.Craft;
using SkiaSharp;

namespace EvenThimble.Core.Tests.Quality;

/// <summary>Measures letters of all fonts that are installed, and shows whole alphabets of some, for <c>docs/letters.md</c>. Run by <c>./even-thimble shots</c>, not with the tests.</summary>
[Trait("Category", "shots")]
public sealed class LetterReport
{
    private const float PixelsPerMm = 2.2f;
    private const int LettersInRow = 31;
    private const int Worst = 10;
    private static readonly StitchWay[] Ways = [StitchWay.Satin, StitchWay.Automatic];
    private static readonly double[] Sizes = [5, 8, 15, 30, 80];
    private static string Docs => Path.Combine(MadeUp.Repository, "docs");

    [Fact]
    public void Table_of_letters()
    {
        LetterFonts.Installed.Count.ShouldBeGreaterThanOrEqualTo(20, "the fonts of the packages that ./even-thimble shots installs");
        var asked = (from font in LetterFonts.Installed.OrderBy(f => f.Key) from size in Sizes from way in Ways where way == StitchWay.Satin || size is 15 or 30 from letter in Glyphs.Usual select (font.Value, letter, size, way)).ToList();
        var looked = asked.AsParallel().AsOrdered().WithDegreeOfParallelism(2).Select(a => LetterLook.Of(a.Value, a.letter.ToString(), a.size, a.way)).OfType<LetterLook>().ToList();
        var text = new StringBuilder();
        foreach (var group in looked.GroupBy(l => (l.Way, l.CapitalMm)).OrderBy(g => g.Key.Way == StitchWay.Satin ? 0 : 1).ThenBy(g => g.Key.CapitalMm)) text.AppendLine(Row($"{group.Key.Way.InWords()} {group.Key.CapitalMm.ToString(CultureInfo.InvariantCulture)} mm", [.. group]));
        text.AppendLine(Row("satin, all of 8 mm and up", looked.FindAll(l => l.Way == StitchWay.Satin && l.CapitalMm >= 8)));
        Replace("table", text.ToString());
        Replace("fonts", string.Join(", ", LetterFonts.Installed.Keys.Order()) + ".\n");

        var worst = looked.Where(l => l.CapitalMm is 15 or 30).OrderByDescending(l => l.Lay.Stray + l.Lay.OverFour + (5 * l.Lay.Bare) + (l.Lay.Off / 5)).DistinctBy(l => (l.Family, l.Letter)).Take(Worst).ToList();
        const int cell = 300;
        using var picture = new SKBitmap(5 * cell, Worst / 5 * cell);
        using (var canvas = new SKCanvas(picture))
        {
            canvas.Clear(new SKColor(0xF0, 0xEA, 0xDC));
            foreach (var (look, i) in worst.Select((w, i) => (w, i)))
            {
                var outlines = Glyphs.Outlines(LetterFonts.Installed[look.Family], look.Letter, look.CapitalMm);
                using var path = StitchMeasure.PathOf(outlines);
                var box = path.TightBounds;
                canvas.Save();
                canvas.Translate(i % 5 * cell, i / 5 * cell);
                ThreadPicture.Write(canvas, look.Name, 10, 20, 13);
                canvas.Translate(20, 40);
                canvas.Scale((cell - 60) / Math.Max(box.Width, box.Height));
                canvas.Translate(-box.Left, -box.Top);
                ThreadPicture.Draw(canvas, outlines, LetterLook.Sewn(LetterFonts.Installed[look.Family], look.Letter, look.CapitalMm, look.Way));
                canvas.Restore();
            }
        }

        Save(picture, "letters-worst.png");
    }

    [Fact]
    public void Sheet_of_whole_alphabets()
    {
        var letters = Glyphs.Usual[..62].Select(c => c.ToString()).ToList();
        var rows = (from family in LetterFonts.Shown from size in new[] { 30.0, 15.0 } from way in Ways select (Face: LetterFonts.Installed[family], family, size, way)).ToList();
        var cell = (int)(30 * 1.3 * PixelsPerMm);
        using var picture = new SKBitmap(LettersInRow * (cell + 1), rows.Sum(r => Height(r.size)));
        using (var canvas = new SKCanvas(picture))
        {
            canvas.Clear(new SKColor(0xF0, 0xEA, 0xDC));
            var y = 0f;
            foreach (var (face, family, size, way) in rows)
            {
                var (wide, high) = ((float)(size * 1.3 * PixelsPerMm), (float)(size * 1.55 * PixelsPerMm));
                ThreadPicture.Write(canvas, $"{family}, {size} mm, {way.InWords()}", 6, y + 14, 13);
                for (var i = 0; i < letters.Count; i++)
                {
                    var inRow = size > 20 ? LettersInRow : 2 * LettersInRow;
                    var outlines = Glyphs.Outlines(face, letters[i], size);
                    if (outlines.Length == 0) continue;
                    canvas.Save();
                    canvas.Translate((i % inRow * wide) + (0.1f * wide), y + 20 + (i / inRow * high) + (0.72f * high));
                    canvas.Scale(PixelsPerMm);
                    ThreadPicture.Draw(canvas, outlines, LetterLook.Sewn(face, letters[i], size, way));
                    canvas.Restore();
                }

                y += Height(size);
            }
        }

        Save(picture, "letters.png");

        int Height(double size) => 24 + (int)((size > 20 ? 2 : 1) * size * 1.55 * PixelsPerMm);
    }

    private static string Row(string letters, List<LetterLook> l)
    {
        double Share(Func<LayMeasure, bool> has) => 100.0 * l.Count(x => has(x.Lay)) / l.Count;
        return string.Create(CultureInfo.InvariantCulture,
            $"| {letters} | {l.Count} | {l.Min(x => x.Edge.Coverage):0.0} / {l.Average(x => x.Edge.Coverage):0.00} | {100.0 * l.Count(x => x.Edge.Outside > 2) / l.Count:0.0} | {l.Average(x => x.Lay.Off):0.0}; {Share(m => m.Off > 15):0.0} | {l.Average(x => x.Lay.Turning):0.00} | {l.Average(x => x.Lay.OverThree):0.0} | {l.Average(x => x.Lay.OverFour):0.00} | {l.Average(x => x.Lay.Thick):0.0} / {l.Max(x => x.Lay.Thickest):0} | {Share(m => m.Stray > 0.6):0.0} | {Share(m => m.Out > ClothProfiles.Cotton.CompensationMm + 0.5):0.0} | {Share(m => m.Crowd > 8):0.0} | {100.0 * l.Sum(x => x.Lay.Missed) / Math.Max(1, l.Sum(x => x.Lay.Corners)):0.0} | {Share(m => m.Bare > 0.3):0.0} | {l.Average(x => x.Lay.Thread) * 0.2:0.00} / {l.Average(x => x.Lay.ThreadOfGround) * 0.2:0.00} |");
    }

    /// <summary>Puts text between the marks of a part of the document; what is written around it by hand stays.</summary>
    private static void Replace(string part, string text)
    {
        var file = Path.Combine(Docs, "letters.md");
        var document = File.ReadAllText(file);
        var (begin, end) = (document.IndexOf($"<!-- {part} -->", StringComparison.Ordinal), document.IndexOf($"<!-- /{part} -->", StringComparison.Ordinal));
        File.WriteAllText(file, document[..document.IndexOf('\n', begin)] + (part == "table" ? "\n\n" + Heading : "\n") + text.Replace("\r", "", StringComparison.Ordinal) + (part == "table" ? "\n" : string.Empty) + document[end..]);
    }

    private const string Heading = "| letters | measured | coverage % least / mean | overspill over 2 %: % of letters | off square: mean °; over 15°: % of letters | neighbours turning over 30° % | area over 3 layers % | over 4 layers % | thread on a mm², mm: 99th percentile / most | a stray over 0.6 mm: % of letters | thread outside: % of letters | over 8 needle points in 0.3 mm: % of letters | corners missed % | bare over 0.3 mm²: % of letters | thread / (area / spacing): area of the letter / with compensation |\n|---|---|---|---|---|---|---|---|---|---|---|---|---|---|---|\n";

    private static void Save(SKBitmap picture, string name)
    {
        using var png = picture.Encode(SKEncodedImageFormat.Png, 90);
        File.WriteAllBytes(Path.Combine(Docs, name), png.ToArray());
    }
}
