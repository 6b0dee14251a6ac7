using EvenThimble.Core.Lettering;
using EvenThimble.Core.Shapes;
using EvenThimble.Rendering.Fonts;

namespace EvenThimble.App.Tests.Lettering;

/// <summary>Optical spacing, measured by code of its own: the white between two letters, row by row.</summary>
public class OpticalSpacingTests
{
    private const string Capitals = "ABCDEFGHIJKLMNOPQRSTUVWXYZ";

    public static TheoryData<string> Upright => ["Archivo", "Saira Condensed", "Bitter", "Libre Baskerville", "Fredoka", "Allerta Stencil", "PT Sans Caption"];

    [Theory]
    [MemberData(nameof(Upright))]
    public void The_white_between_neighbouring_capitals_hardly_differs(string name)
    {
        var font = InstalledFonts.Open(InstalledFonts.Find(name)!);
        var optical = new OpticalSpacing(font);
        var whites = new List<double>();
        var stems = font.Shape("HH").Glyphs;
        var depth = 0.67 * White(font.Outline(stems[0].Glyph), font.Outline(stems[1].Glyph), stems[0].AdvanceEm, font.CapitalEm, font.CapitalEm) / font.CapitalEm;
        foreach (var a in Capitals)
        {
            foreach (var b in Capitals)
            {
                var pair = font.Shape($"{a}{b}").Glyphs;
                var advance = pair[0].AdvanceEm + optical.Between(pair[0].Glyph, pair[1].Glyph, pair[0].AdvanceEm);
                whites.Add(White(font.Outline(pair[0].Glyph), font.Outline(pair[1].Glyph), advance, font.CapitalEm, depth));
            }
        }

        // Of some pairs, as LA, no white is left to take away without their touching.
        var usual = whites.Order().ElementAt(whites.Count / 2);
        whites.Count(w => Math.Abs(w - usual) <= 0.15 * usual).ShouldBeGreaterThan(whites.Count * 95 / 100);
    }

    [Theory]
    [InlineData("Archivo")]
    [InlineData("Libre Baskerville")]
    [InlineData("Bitter")]
    [InlineData("Saira Condensed")]
    public void Pairs_come_near_to_what_the_maker_of_the_font_kerned(string name)
    {
        var font = InstalledFonts.Open(InstalledFonts.Find(name)!);
        var optical = new OpticalSpacing(font);
        var off = new List<double>();
        foreach (var a in Capitals + "abcdefghijklmnopqrstuvwxyz")
        {
            foreach (var b in Capitals + "abcdefghijklmnopqrstuvwxyz")
            {
                var pair = font.Shape($"{a}{b}").Glyphs;
                if (pair.Count == 2 && pair[0].KernEm != 0) off.Add(Math.Abs(optical.Between(pair[0].Glyph, pair[1].Glyph, pair[0].AdvanceEm) - pair[0].KernEm) / font.CapitalEm);
            }
        }

        off.Count.ShouldBeGreaterThan(50, "the font has kerning");
        off.Order().ElementAt(off.Count / 2).ShouldBeLessThan(0.033);
    }

    [Fact]
    public void Letters_of_a_script_stay_joined()
    {
        var font = InstalledFonts.Open(InstalledFonts.Find("Dancing Script")!);
        var optical = new OpticalSpacing(font);
        foreach (var (a, b) in new[] { ('o', 'n'), ('m', 'e'), ('e', 'a'), ('i', 'n') })
        {
            var pair = font.Shape($"{a}{b}").Glyphs;
            optical.Between(pair[0].Glyph, pair[1].Glyph, pair[0].AdvanceEm).ShouldBe(0, $"{a}{b}");
        }
    }

    /// <summary>The white between two outlines in rows over the height of capitals, looked into each no deeper than so much, em; em².</summary>
    private static double White(DrawnShape left, DrawnShape right, double advance, double height, double depth)
    {
        const int rows = 200;
        const double unit = 50;
        var (a, b) = (Edges(left), Edges(right));
        var (rightmost, leftmost) = (a.Max(e => Math.Max(e.X1, e.X2)), b.Min(e => Math.Min(e.X1, e.X2)) + advance);
        var white = 0.0;
        for (var r = 0; r < rows; r++)
        {
            var y = -height * (r + 0.5) / rows;
            var inA = Crossings(a, y).DefaultIfEmpty(double.NegativeInfinity).Max();
            var inB = Crossings(b, y).DefaultIfEmpty(double.PositiveInfinity).Min() + advance;
            white += Math.Min(rightmost - inA, depth) + Math.Min(inB - leftmost, depth) + (leftmost - rightmost);
        }

        return white * height / rows;

        static List<(double X1, double Y1, double X2, double Y2)> Edges(DrawnShape shape) =>
            [.. shape.Moved(p => p * unit).Paths.Select(p => p.Flattened()).SelectMany(p => p.Select((q, i) => (q.X / unit, q.Y / unit, p[(i + 1) % p.Count].X / unit, p[(i + 1) % p.Count].Y / unit)))];

        static IEnumerable<double> Crossings(List<(double X1, double Y1, double X2, double Y2)> edges, double y) =>
            edges.Where(e => e.Y1 <= y != e.Y2 <= y).Select(e => e.X1 + ((y - e.Y1) / (e.Y2 - e.Y1) * (e.X2 - e.X1)));
    }
}
