using System.Globalization;
using System.Text;
using EvenThimble.Core.Craft;
using EvenThimble.Core.Geometry;
using EvenThimble.Core.Jobs;
using EvenThimble.Core.Lettering;
using EvenThimble.Core.Machines;
using EvenThimble.Core.Monograms;
using EvenThimble.Core.Planning;
using EvenThimble.Core.Stitches;
using EvenThimble.Core.Tests;
using EvenThimble.Rendering;
using EvenThimble.Rendering.Fonts;
using SkiaSharp;

namespace EvenThimble.App.Tests.Lettering;

/// <summary>Draws every layout with every frame and measures them, and the baselines of letter sets, for <c>docs/monograms.md</c>. Run by <c>./even-thimble shots</c>, not with the tests.</summary>
[Trait("Category", "shots")]
public sealed class MonogramReport
{
    private const double SizeMm = 60;
    private const double GapMm = 3;
    private const int CellPx = 150;

    private static string Docs => Path.Combine(MadeUp.Repository, "docs");

    [Fact]
    public void Picture_and_table_of_monograms()
    {
        var face = new LetterFace("Archivo", InstalledFonts.Open(InstalledFonts.Find("Archivo")!));
        IReadOnlyList<MonogramFrame?> frames = [null, .. MonogramFrame.All];
        using var bitmap = new SKBitmap(frames.Count * CellPx, MonogramLayout.All.Count * CellPx);
        using var canvas = new SKCanvas(bitmap);
        var table = new StringBuilder("| frame | farthest off the size, mm | farthest off the distance, mm | trims, of all layouts most |\n|---|---|---|---|\n");
        for (var column = 0; column < frames.Count; column++)
        {
            var (offSize, offGap, trims) = (0.0, 0.0, 0);
            for (var row = 0; row < MonogramLayout.All.Count; row++)
            {
                var wish = new MonogramWish(["O", "M", "B"], MonogramLayout.All[row]) { SizeMm = SizeMm, Frame = frames[column], FrameGapMm = GapMm };
                var content = MonogramContent.Lay(wish, face, new(StitchWay.Automatic, Alphabets.Blue, Alphabets.Gold), ClothProfiles.Cotton);
                var plan = Sequencer.Plan(new AddMonogram(content, Placement.AsItCame).Apply(Job.New(StandInMachines.Catalogue.HoopFor(default))), NoStitches.Are);
                var (size, gap) = MonogramTests.Measured(content, 3);
                (offSize, trims) = (Math.Max(offSize, Math.Abs(size - SizeMm)), Math.Max(trims, plan.Trims));
                if (frames[column] is not null) offGap = Math.Max(offGap, Math.Abs(gap - GapMm));
                using var picture = SKImage.FromEncodedData(ThreadPainter.Picture(plan.ToFile("look"), 2 * CellPx, 2 * CellPx, ClothProfiles.Cotton.UsualColour, 8));
                canvas.DrawImage(picture, SKRect.Create(column * CellPx, row * CellPx, CellPx, CellPx), new SKSamplingOptions(SKFilterMode.Linear, SKMipmapMode.Linear));
            }

            table.AppendLine(CultureInfo.InvariantCulture, $"| {frames[column]?.Name ?? "none"} | {offSize:0.00} | {(frames[column] is null ? "–" : offGap.ToString("0.00", CultureInfo.InvariantCulture))} | {trims} |");
        }

        using (var file = File.Create(Path.Combine(Docs, "monograms.png"))) bitmap.Encode(file, SKEncodedImageFormat.Png, 90);
        Replace("monograms", table.ToString());
    }

    [Fact]
    public void Table_of_baselines()
    {
        var table = new StringBuilder("| font | files | within 0.2 mm | farthest off |\n|---|---|---|---|\n");
        foreach (var font in new[] { "Archivo", "Saira Condensed", "Bitter", "Libre Baskerville", "Graduate", "Fredoka" })
        {
            foreach (var (where, origin) in new (string, Func<Box, Random, Point>)[] { ("origin", (_, _) => Point.Zero), ("middle", (box, _) => box.Middle), ("anywhere", (_, random) => new((random.NextDouble() - 0.5) * 40, (random.NextDouble() - 0.5) * 40)) })
            {
                var letters = Alphabets.Make(new(font, 25) { Origin = origin });
                var found = Alphabets.SetOf(letters).Sizes.Single().Letters;
                var off = letters.Select(l => (l.Character, Off: found[l.Character].BaselineY - l.BaselineY)).ToList();
                var usual = off.Select(o => o.Off).Order().ElementAt(off.Count / 2);
                var worst = off.Select(o => (o.Character, Off: o.Off - usual)).OrderByDescending(o => Math.Abs(o.Off)).Take(3).ToList();
                table.AppendLine(CultureInfo.InvariantCulture, $"| {font} | {where} | {off.Count(o => Math.Abs(o.Off - usual) <= 0.2)} of {off.Count} | {string.Join(", ", worst.Select(w => $"{w.Character} {w.Off:0.00}"))} |");
            }
        }

        Replace("baselines", table.ToString());
    }

    private static void Replace(string part, string text)
    {
        var path = Path.Combine(Docs, "monograms.md");
        var document = File.ReadAllText(path);
        var (from, to) = (document.IndexOf($"<!-- {part} -->", StringComparison.Ordinal), document.IndexOf($"<!-- /{part} -->", StringComparison.Ordinal));
        File.WriteAllText(path, $"{document[..from]}<!-- {part} -->\n\n{text}\n{document[to..]}");
    }

    private sealed class NoStitches : IStitchSource
    {
        public static readonly NoStitches Are = new();

        public StitchBlob Get(BlobHash hash) => throw new KeyNotFoundException();
    }
}
