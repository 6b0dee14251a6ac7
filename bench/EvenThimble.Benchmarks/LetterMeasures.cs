using System.Diagnostics;
using EvenThimble.Core.Craft;
using EvenThimble.Core.Digitizing;
using EvenThimble.Core.Lettering;
using EvenThimble.Core.Shapes;
using EvenThimble.Rendering.Fonts;
using NetTopologySuite.Geometries;

namespace EvenThimble.Benchmarks;

/// <summary>
/// Satin of single letters: how long the slowest takes for a stitch, and how many times as long as a triangulation of its outline's points in the same run. Of some tries the best counts.
/// </summary>
public static class LetterMeasures
{
    private const string Letters = "ABCDEFGHIJKLMNOPQRSTUVWXYZabcdefghijklmnopqrstuvwxyz0123456789&?!";
    private const int Tries = 6;

    // So many of the slowest are named; more than the target is too long, microseconds a stitch.
    private const int Worst = 5;
    private const double Target = 60;
    private static readonly double[] SizesMm = [5, 8, 15, 30, 80];

    /// <summary>Measures the letters of the program's fonts, or of all font files in a folder and those in it, and prints them by size.</summary>
    /// <param name="folder">The folder; null for the program's fonts.</param>
    /// <param name="every">Of so many letters one is measured.</param>
    public static void Run(string? folder, int every)
    {
        if (folder is not null && !Directory.Exists(folder))
        {
            Console.WriteLine($"There is no folder {folder}.");
            return;
        }

        var fonts = folder is null
            ? InstalledFonts.All.Where(f => f.Path is not null).Select(InstalledFonts.Open).ToList()
            : [.. Directory.EnumerateFiles(folder, "*.?tf", SearchOption.AllDirectories).Order(StringComparer.Ordinal).Select(f => (ILetterFont)FontFile.Read(File.ReadAllBytes(f)))];
        var letters = fonts.SelectMany(f => Letters.Select(c => (Font: f, Letter: c))).Where((_, i) => i % every == 0).ToList();
        foreach (var (font, letter) in letters.Take(40)) Measured(font, letter, SizesMm[^1]);
        foreach (var size in SizesMm)
        {
            var found = letters.Select(l => Measured(l.Font, l.Letter, size)).Where(m => m.Stitches > 0).OrderByDescending(m => m.PerStitch).ToList();
            Console.WriteLine($"{size:0} mm: {found.Count} letters, {found.Sum(m => m.Microseconds) / found.Sum(m => m.Stitches):0.0} µs a stitch on the mean, {found.Count(m => m.PerStitch > Target)} over {Target:0}; all together {found.Sum(m => m.Microseconds) / found.Sum(m => m.Triangulation):0.0} times the triangulation of their outlines");
            foreach (var m in found.Take(Worst)) Console.WriteLine($"    {m.PerStitch:0} µs a stitch, {m.Microseconds / 1000:0.0} ms, {m.Microseconds / m.Triangulation:0.0} times: {m.Name}");
        }
    }

    private static (string Name, int Stitches, double Microseconds, double PerStitch, double Triangulation) Measured(ILetterFont font, char letter, double capitalMm)
    {
        var scale = capitalMm / font.CapitalEm;
        var shape = font.Shape(letter.ToString()).Glyphs.Select(g => font.Outline(g.Glyph).Moved(p => p * scale)).FirstOrDefault();
        if (shape is null || !shape.Paths.Any()) return default;
        var sites = shape.Paths.SelectMany(p => p.Flattened()).Distinct().Select(p => new Coordinate(p.X, p.Y)).ToArray();
        var (stitches, made) = Best(() => Digitizer.Stitch(shape, new(StitchWay.Satin), ClothProfiles.Cotton).Count);
        var (_, triangulated) = Best(() => DigitizingBenchmarks.Triangulated(sites));
        return ($"{letter} of {font.Name}", stitches, made, made / Math.Max(1, stitches), triangulated);
    }

    private static (T Result, double Microseconds) Best<T>(Func<T> make)
    {
        var (result, best) = (make(), double.PositiveInfinity);
        for (var i = 0; i < Tries; i++)
        {
            var watch = Stopwatch.StartNew();
            result = make();
            best = Math.Min(best, watch.Elapsed.TotalMicroseconds);
        }

        return (result, best);
    }
}
