using EvenThimble.Core.Lettering;
using EvenThimble.Rendering.Fonts;

namespace EvenThimble.App.Tests.Lettering;

/// <summary>Letters of the fonts that come with the application, a few of each at sizes that they are said to be good at; <c>./even-thimble shots</c> measures them all.</summary>
public class FontQualityTests
{
    private const string Letters = "ABCDEFGHIJKLMNOPQRSTUVWXYZabcdefghijklmnopqrstuvwxyz0123456789ÄéñßŁ&@?!";

    public static TheoryData<string> Fonts => [.. InstalledFonts.All.Select(f => f.Name)];

    [Theory]
    [MemberData(nameof(Fonts))]
    public void At_its_good_sizes_a_font_is_covered_and_kept_to(string font)
    {
        var face = new LetterFace(font, InstalledFonts.Open(InstalledFonts.Find(font)!));
        var random = new Random(13);
        foreach (var times in new[] { 1.0, 3 })
        {
            for (var n = 0; n < 5; n++)
            {
                var letter = Letters[random.Next(Letters.Length)].ToString();
                var found = MeasuredLetter.Of(face, letter, face.Measure.SmallestGoodMm * times)!;
                found.Edge.Coverage.ShouldBeGreaterThan(97, $"{letter} {found}");
                found.Edge.Outside.ShouldBeLessThan(4, $"{letter} {found}");
                found.Lay.Out.ShouldBeLessThan(1.2, $"{letter} {found}");
                found.Edge.Longest.ShouldBeLessThanOrEqualTo(12.1, letter);
                found.Lay.Bare.ShouldBeLessThan(1.2, $"{letter} {found}");
            }
        }
    }

    [Theory]
    [MemberData(nameof(Fonts))]
    public void Far_below_its_good_size_a_font_is_covered_still(string font)
    {
        var face = new LetterFace(font, InstalledFonts.Open(InstalledFonts.Find(font)!));
        var random = new Random(14);
        for (var n = 0; n < 5; n++)
        {
            var letter = Letters[random.Next(Letters.Length)].ToString();
            var found = MeasuredLetter.Of(face, letter, 5)!;
            found.Edge.Coverage.ShouldBeGreaterThan(95, $"{letter} {found}");
            found.Edge.Outside.ShouldBeLessThan(2, $"{letter} {found}");
        }
    }
}
