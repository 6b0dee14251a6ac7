using System.Globalization;
using System.Text;
using EvenThimble.Core.Craft;
using EvenThimble.Core.Stitches;
using SkiaSharp;

namespace EvenThimble.Core.Tests.Quality;

/// <summary>Writes the table and the pictures of <c>docs/stitch-quality.md</c>. Run by <c>./even-thimble shots</c>, not with the tests.</summary>
[Trait("Category", "shots")]
public sealed class QualityReport
{
    private const int Cell = 360;

    [Fact]
    public void Table_and_pictures_of_stitch_quality()
    {
        var folder = Path.Combine(MadeUp.Repository, "docs");
        var ways = new[] { StitchWay.Fill, StitchWay.Satin, StitchWay.Automatic };
        var measured = QualityShapes.All.SelectMany(s => ways.Select(w => (s.Key, Way: w, Runs: StitchQualityTests.Stitched(s.Value, w))))
            .Select(m => (m.Key, m.Way, m.Runs, Found: StitchQualityTests.Measured(QualityShapes.All[m.Key], m.Runs))).ToList();
        var text = new StringBuilder();
        text.AppendLine("# Stitch quality\n");
        text.AppendLine("Measured on pictures at 14 px/mm with thread drawn 0.4 mm wide, on quilting cotton (0.2 mm compensation, its usual underlay), by code that shares nothing with what makes the stitches (`tests/EvenThimble.Core.Tests/Quality`). The same measures hold as tests, for these shapes and for 500 random ones each of fill and satin. Beyond: thread farther outside than compensation and 0.2 mm. Short: stitches under 0.4 mm. Off square: degrees, mean over throws from edge to edge. Written by `./even-thimble shots`.\n");
        foreach (var way in ways)
        {
            var all = measured.Where(m => m.Way == way).ToList();
            text.AppendLine(CultureInfo.InvariantCulture, $"**{way.InWords()}**, {all.Count} shapes: coverage {all.Min(m => m.Found.Coverage):0.0} % at least, {all.Average(m => m.Found.Coverage):0.0} % on average; beyond the edge {all.Max(m => m.Found.Outside):0.00} % at most; short {all.Max(m => m.Found.Short):0.00} % at most; longest stitch {all.Max(m => m.Found.Longest):0.0} mm{(way == StitchWay.Satin ? string.Create(CultureInfo.InvariantCulture, $"; off square {all.Average(m => m.Found.FromSquare):0.0}° on average, {all.Max(m => m.Found.FromSquare):0.0}° at most") : "")}.\n");
        }

        text.AppendLine("The ten of lowest coverage, from the lowest:\n\n![The ten shapes of lowest coverage](stitch-quality.png)\n");
        text.AppendLine("What has no strokes (a sieve, a noisy blob) has no direction that throws could be square to; forced to be satin, such shapes are covered, but off square.\n");
        text.AppendLine("| shape | stitched as | coverage % | beyond % | short % | longest mm | off square ° | stitches | runs |\n|---|---|---|---|---|---|---|---|---|");
        foreach (var (name, way, _, m) in measured)
            text.AppendLine(CultureInfo.InvariantCulture, $"| {name} | {way.InWords()} | {m.Coverage:0.0} | {m.Outside:0.00} | {m.Short:0.00} | {m.Longest:0.0} | {(way == StitchWay.Satin ? m.FromSquare.ToString("0.0", CultureInfo.InvariantCulture) : "")} | {m.Stitches} | {m.Runs} |");
        File.WriteAllText(Path.Combine(folder, "stitch-quality.md"), text.ToString().Replace("\r", "", StringComparison.Ordinal));

        using var picture = new SKBitmap(5 * Cell, 2 * Cell);
        using var canvas = new SKCanvas(picture);
        canvas.Clear(new SKColor(0xF0, 0xEA, 0xDC));
        foreach (var (worst, i) in measured.OrderBy(m => m.Found.Coverage).DistinctBy(m => m.Key).Take(10).Select((w, i) => (w, i)))
        {
            using var outline = StitchMeasure.PathOf(QualityShapes.All[worst.Key]);
            var bounds = outline.TightBounds;
            var scale = (Cell - 60) / Math.Max(bounds.Width, bounds.Height);
            canvas.Save();
            canvas.Translate((i % 5 * Cell) + 30, (i / 5 * Cell) + 40);
            ThreadPicture.Write(canvas, $"{worst.Key}, {worst.Way.InWords()}, {worst.Found.Coverage.ToString("0.0", CultureInfo.InvariantCulture)} %", 0, -14);
            canvas.Scale(scale);
            canvas.Translate(-bounds.Left, -bounds.Top);
            ThreadPicture.Draw(canvas, QualityShapes.All[worst.Key], worst.Runs);
            canvas.Restore();
        }

        using var png = picture.Encode(SKEncodedImageFormat.Png, 90);
        File.WriteAllBytes(Path.Combine(folder, "stitch-quality.png"), png.ToArray());
    }
}
