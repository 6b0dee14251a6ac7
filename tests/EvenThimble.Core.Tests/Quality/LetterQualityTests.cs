using EvenThimble.Core.Craft;
using EvenThimble.Core.Geometry;
using SkiaSharp;

namespace EvenThimble.Core.Tests.Quality;

/// <summary>How thread lies on letters: every fifth letter of the four fonts of the tests. Those of other fonts are measured by <c>./even-thimble shots</c>.</summary>
public sealed class LetterQualityTests
{
    private const int EveryNth = 5;
    private static readonly string[] Fonts =
    [
        "lora/400Regular/Lora_400Regular.ttf", "oswald/500Medium/Oswald_500Medium.ttf", "pacifico/400Regular/Pacifico_400Regular.ttf", "nunito-sans/700Bold/NunitoSans_700Bold.ttf",
    ];

    [Theory]
    [InlineData(15)]
    [InlineData(30)]
    [InlineData(80)]
    public void Letters_in_satin_are_laid_as_a_hand_would(double capitalMm)
    {
        var letters = Looked(capitalMm, StitchWay.Satin);
        foreach (var l in letters)
        {
            l.Edge.Coverage.ShouldBeGreaterThan(97, l.Name);
            l.Edge.Outside.ShouldBeLessThan(2, l.Name);
            l.Lay.Out.ShouldBeLessThan(ClothProfiles.Cotton.CompensationMm + 0.5, l.Name);
        }

        letters.Average(l => l.Edge.Coverage).ShouldBeGreaterThan(99.6, "coverage");
        letters.Average(l => l.Lay.Off).ShouldBeLessThan(10, "off square");
        Share(letters, l => l.Off > 15).ShouldBeLessThanOrEqualTo(3, "percent of letters off square by more than 15°");
        letters.Average(l => l.Lay.Turning).ShouldBeLessThan(0.3, "neighbouring throws that turn");
        letters.Average(l => l.Lay.OverThree).ShouldBeLessThan(capitalMm < 20 ? 8 : 6, "percent of the area over three layers");
        letters.Average(l => l.Lay.OverFour).ShouldBeLessThan(0.25, "percent of the area over four layers");
        (letters.Average(l => l.Lay.ThreadOfGround) * ClothProfiles.Cotton.SatinSpacingMm / 2).ShouldBeLessThan(1.15, "thread against two layers at the spacing");
        AssertNothingIsHeaped(letters);
        Share(letters, l => l.Stray > 0.6).ShouldBe(0, "percent of letters with a stray");
        Share(letters, l => l.Crowd > 8).ShouldBe(0, "percent of letters where needle points crowd");
        Share(letters, l => l.Bare > 0.3).ShouldBe(0, "percent of letters with a bare place");
        (100.0 * letters.Sum(l => l.Lay.Missed) / letters.Sum(l => l.Lay.Corners)).ShouldBeLessThan(5, "percent of corners missed");
    }

    [Theory]
    [InlineData(8)]
    [InlineData(15)]
    [InlineData(30)]
    public void Where_strokes_join_no_gap_opens_when_throws_are_pulled_in(double capitalMm)
    {
        var open = Of((face, letter) =>
        {
            var outlines = Glyphs.Outlines(face, letter, capitalMm);
            var pulled = LetterLook.Sewn(outlines, StitchWay.Satin).ConvertAll(run => (IReadOnlyList<Point>)PulledIn(run, ClothProfiles.Cotton.CompensationMm));
            return outlines.Length == 0 ? null : new { letter, LayMeasure.Of(outlines, pulled).Bare };
        });
        open.Count(l => l.Bare > 0.3).ShouldBeLessThanOrEqualTo(1, string.Join(' ', open.Where(l => l.Bare > 0.3).Select(l => l.letter)));
    }

    [Theory]
    [InlineData(5)]
    [InlineData(8)]
    public void Small_letters_are_covered_and_kept_to(double capitalMm)
    {
        var letters = Looked(capitalMm, StitchWay.Satin);
        foreach (var l in letters)
        {
            l.Edge.Coverage.ShouldBeGreaterThan(capitalMm < 8 ? 96 : 97, l.Name);
            l.Lay.Out.ShouldBeLessThan(ClothProfiles.Cotton.CompensationMm + 0.5, l.Name);
        }

        letters.Average(l => l.Edge.Coverage).ShouldBeGreaterThan(99.5, "coverage");
        letters.Average(l => l.Lay.Off).ShouldBeLessThan(capitalMm < 8 ? 14 : 12, "off square");
        letters.Average(l => l.Lay.OverFour).ShouldBeLessThan(0.9, "percent of the area over four layers");
        AssertNothingIsHeaped(letters);
        Share(letters, l => l.Stray > 0.6).ShouldBe(0, "percent of letters with a stray");
        Share(letters, l => l.Crowd > 8).ShouldBe(0, "percent of letters where needle points crowd");
    }

    [Fact]
    public void A_letter_of_even_strokes_is_of_one_kind()
    {
        // Letters up to 30 mm have no stroke wider than satin may be: each is what it is when satin is asked for.
        using var face = Face(Fonts[3]);
        foreach (var letter in new[] { "R", "B", "a", "e", "g", "&", "8", "M", "K" })
        {
            LetterLook.Sewn(face, letter, 30, StitchWay.Automatic).SelectMany(r => r).ShouldBe(LetterLook.Sewn(face, letter, 30, StitchWay.Satin).SelectMany(r => r), letter);
        }
    }

    [Fact]
    public void No_thread_of_a_fill_crosses_open_ground()
    {
        foreach (var l in Looked(30, StitchWay.Fill)) l.Lay.Out.ShouldBeLessThan(1, l.Name);
    }

    private static void AssertNothingIsHeaped(List<LetterLook> letters)
    {
        var heaped = letters.FindAll(l => l.Lay.Thickest > 14);
        heaped.ShouldBeEmpty(string.Join("; ", heaped.Select(l => l.Name)));
    }

    private static List<LetterLook> Looked(double capitalMm, StitchWay way) => Of((face, letter) => LetterLook.Of(face, letter, capitalMm, way));

    /// <summary>What is made of every fifth letter of the fonts.</summary>
    private static List<T> Of<T>(Func<SKTypeface, string, T?> make)
        where T : class
    {
        var made = new List<T>();
        foreach (var (file, f) in Fonts.Select((file, f) => (file, f)))
        {
            using var face = Face(file);
            for (var i = f; i < Glyphs.Usual.Length; i += EveryNth)
                if (make(face, Glyphs.Usual[i].ToString()) is { } one)
                    made.Add(one);
        }

        return made;
    }

    /// <summary>Where thread turns back it pulls the cloth together: the needle point moves between its neighbours.</summary>
    private static List<Point> PulledIn(List<Point> run, double by) => [.. run.Select((p, i) =>
    {
        if (i == 0 || i == run.Count - 1) return p;
        var (back, on) = ((run[i - 1] - p).Unit(), (run[i + 1] - p).Unit());
        return back.Dot(on) > 0.7 ? p + ((back + on).Unit() * by) : p;
    })];

    private static double Share(List<LetterLook> letters, Func<LayMeasure, bool> has) => 100.0 * letters.Count(l => has(l.Lay)) / letters.Count;

    private static SKTypeface Face(string file) => SKTypeface.FromFile(Path.Combine(MadeUp.Repository, "node_modules", "@expo-google-fonts", file)) ?? throw new FileNotFoundException($"The font {file} is missing; run npm ci.");
}
