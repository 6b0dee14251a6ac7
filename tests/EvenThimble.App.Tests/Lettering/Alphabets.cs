using System.Collections.Immutable;
using EvenThimble.Core.Colour;
using EvenThimble.Core.Geometry;
using EvenThimble.Core.LetterSets;
using EvenThimble.Core.Stitches;
using EvenThimble.Core.Threads;
using EvenThimble.Rendering.Fonts;

namespace EvenThimble.App.Tests;

/// <summary>A letter file of a test, and where its baseline truly lies in it, mm.</summary>
public sealed record MadeLetter(string Character, SetFile File, double BaselineY);

/// <summary>
/// Alphabets as files, made apart from the engine: the outlines of a font are hatched row by row by plain arithmetic, and each file is put where its maker was careless enough to put it.
/// </summary>
internal static class Alphabets
{
    public static readonly SewingThread Blue = new("Fenlight", "1", "blue", Rgb.FromInt(0x2244AA));
    public static readonly SewingThread Gold = new("Fenlight", "2", "gold", Rgb.FromInt(0xCC9922));
    public const string Letters = "ABCDEFGHIJKLMNOPQRSTUVWXYZabcdefghijklmnopqrstuvwxyz0123456789";
    private const double RowMm = 0.35;

    /// <summary>How the letters of an alphabet are made.</summary>
    public sealed record Making(string Font, double CapitalMm)
    {
        /// <summary>Where the origin of a letter's file lies, seen from its own left end and baseline, by its rectangle.</summary>
        public Func<Box, Random, Point> Origin { get; init; } = (_, _) => Point.Zero;

        /// <summary>More outlines of a letter than the font has, by its character and its rectangle (mm, y down, baseline at 0).</summary>
        public Func<string, Box, IEnumerable<Point[]>> More { get; init; } = (_, _) => [];

        /// <summary>Times as large as the others.</summary>
        public Func<string, double> Times { get; init; } = _ => 1;

        public bool InTwoThreads { get; init; }

        public int Decimals { get; init; } = 6;

        public Func<string, string> NameOf { get; init; } = c => char.IsLower(c, 0) ? $"{c}_lower.evth" : $"{c}.evth";
    }

    public static List<MadeLetter> Make(Making making, string characters = Letters, int seed = 7)
    {
        var (font, random) = (InstalledFonts.Open(InstalledFonts.Find(making.Font)!), new Random(seed));
        return [.. characters.Select(c => c.ToString()).Select(c =>
        {
            var scale = making.CapitalMm / font.CapitalEm * making.Times(c);
            var rings = font.Outline(font.Shape(c).Glyphs[0].Glyph).Moved(p => p * scale).Paths.Where(p => p.Closed).Select(p => p.Flattened().ToArray()).ToList();
            var box = Box.Around(rings.SelectMany(r => r));
            rings.AddRange(making.More(c, box));
            box = Box.Around(rings.SelectMany(r => r));
            var origin = making.Origin(box, random);
            var builder = new StitchBuilder();
            var parts = ImmutableArray.CreateBuilder<StitchFilePart>();
            if (making.InTwoThreads) Hatch(4 * RowMm, 0.5);
            Hatch(RowMm, 0);
            parts.Add(new(0, builder.Count, Blue, PartRole.Decoration));
            if (making.InTwoThreads)
            {
                foreach (var ring in rings) Line([.. ring, ring[0]]);
                parts.Add(new(parts[0].Count, builder.Count - parts[0].Count, Gold, PartRole.Decoration));
            }

            return new MadeLetter(c, new(making.NameOf(c), new(c, builder.ToBlob(), parts.ToImmutable())), Math.Round(-origin.Y, making.Decimals));

            void Hatch(double step, double inset)
            {
                var rows = Math.Max(2, (int)Math.Ceiling(box.Height / step));
                for (var row = 0; row <= rows; row++)
                {
                    var y = Math.Clamp(box.MinY + (box.Height * row / rows), box.MinY + 0.01, box.MaxY - 0.01);
                    foreach (var (from, to) in Within(rings, y).Where(i => i.To - i.From > (2 * inset) + 0.1)) Line([new(from + inset, y), new((from + to) / 2, y), new(to - inset, y)]);
                }
            }

            void Line(IReadOnlyList<Point> points)
            {
                Point At(Point p) => new(Math.Round(p.X - origin.X, making.Decimals), Math.Round(p.Y - origin.Y, making.Decimals));
                builder.Jump(At(points[0]));
                foreach (var p in points) builder.Stitch(At(p));
            }
        })];
    }

    /// <summary>A set of made letters.</summary>
    public static LetterSet SetOf(IEnumerable<MadeLetter> letters, string name = "Made") => LetterSet.Of(new(name, [.. letters.Select(l => l.File)]));

    /// <summary>The stretches of a row that are inside, by nonzero winding.</summary>
    private static IEnumerable<(double From, double To)> Within(List<Point[]> rings, double y)
    {
        var crossings = rings.SelectMany(r => r.Select((a, i) => (A: a, B: r[(i + 1) % r.Length]))).Where(e => e.A.Y <= y != e.B.Y <= y)
            .Select(e => (X: e.A.X + ((y - e.A.Y) / (e.B.Y - e.A.Y) * (e.B.X - e.A.X)), Turn: e.A.Y < e.B.Y ? 1 : -1)).OrderBy(c => c.X).ToList();
        var (winding, from) = (0, 0.0);
        foreach (var (x, turn) in crossings)
        {
            if (winding == 0) from = x;
            winding += turn;
            if (winding == 0) yield return (from, x);
        }
    }
}
