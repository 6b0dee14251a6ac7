using EvenThimble.Core.Craft;
using EvenThimble.Core.Jobs;
using EvenThimble.Core.Lettering;
using EvenThimble.Core.Machines;
using EvenThimble.Core.Planning;
using EvenThimble.Core.Readiness;
using EvenThimble.Core.Stitches;
using EvenThimble.Core.Threads;
using EvenThimble.Rendering.Fonts;

namespace EvenThimble.App.Tests.Lettering;

/// <summary>Readiness speaks of letters that would not sew well, and each button mends what it is about.</summary>
public class LetterFindingsTests
{
    private static readonly Installed Faces = new();

    private static Job Written(string text, string font, double capital, StitchWay way = StitchWay.Automatic, Func<LetteringWish, LetteringWish>? with = null)
    {
        var wish = new LetteringWish(text) { CapitalMm = capital };
        return new AddLettering(LetteringContent.Lay(with?.Invoke(wish) ?? wish, Faces.Find(font)!, new(way, MadeUpCharts.All[0].Threads[3])), Placement.AsItCame).Apply(Job.New(StandInMachines.Catalogue.UsualHoop));
    }

    private static List<Finding> Found(Job job) =>
        [.. Inspector.Inspect(job, Sequencer.Plan(job, new NoStitches()), StandInMachines.Catalogue, Faces).Where(f => f.Key.StartsWith("letters-", StringComparison.Ordinal))];

    public static TheoryData<string, string, double, StitchWay, double, string> Bad() => new()
    {
        { "Iris", "Archivo", 4.5, StitchWay.Automatic, double.NaN, "letters-small" },
        { "Iris", "Great Vibes", 12, StitchWay.Automatic, double.NaN, "letters-small" },
        { "IRIS", "Archivo", 70, StitchWay.Satin, double.NaN, "letters-long" },
        { "Iris", "Great Vibes", 40, StitchWay.Fill, double.NaN, "letters-fine" },
        { "HIIH", "Archivo", 14, StitchWay.Automatic, 0.1, "letters-close" },
    };

    [Theory]
    [MemberData(nameof(Bad))]
    public void What_would_not_sew_well_is_told_and_every_button_mends_it(string text, string font, double capital, StitchWay way, double apart, string key)
    {
        var plain = Faces.Find(font)!.Lay(new(text) { CapitalMm = capital }).Letters;
        var spacing = double.IsNaN(apart) ? 0 : (apart - (plain[1].Box.MinX - plain[0].Box.MaxX)) / capital;
        var job = Written(text, font, capital, way, w => w with { LetterSpacing = spacing });
        var finding = Found(job).Single(f => f.Key.StartsWith(key, StringComparison.Ordinal));
        finding.Level.ShouldBe(FindingLevel.Attention);
        finding.Remedies.ShouldNotBeEmpty();
        foreach (var remedy in finding.Remedies) Found(remedy.Edit.Apply(job)).ShouldNotContain(f => f.Key == finding.Key, remedy.Label);
    }

    [Fact]
    public void Of_small_text_a_font_for_it_is_offered_and_kept_to_what_was_wanted()
    {
        var job = Written("Iris", "Archivo", 4.5);
        var mended = Found(job).Single().Remedies[1].Edit.Apply(job);
        var content = (LetteringContent)mended.Pieces.Single().Content;
        (content.Font, content.CapitalMm, content.Wish.Text).ShouldBe(("Lark Small", 4.5, "Iris"));
    }

    [Fact]
    public void What_sews_well_is_not_spoken_of()
    {
        foreach (var font in InstalledFonts.All)
            Found(Written("Larkmoor", font.Name, Math.Max(12, Faces.Find(font.Name)!.Measure.SmallestGoodMm))).ShouldBeEmpty(font.Name);
        Found(Written("Larkmoor", "Lark Small", 4)).ShouldBeEmpty();
    }

    [Fact]
    public void Without_its_font_a_lettering_is_left_alone()
    {
        var job = Written("Iris", "Archivo", 4.5);
        Inspector.Inspect(job, Sequencer.Plan(job, new NoStitches()), StandInMachines.Catalogue, new None()).ShouldNotContain(f => f.Key.StartsWith("letters-"));
    }

    private sealed class Installed : ILetterFaces
    {
        private readonly Dictionary<string, LetterFace> _faces = InstalledFonts.All.ToDictionary(f => f.Name, f => new LetterFace(f.Name, InstalledFonts.Open(f)));

        public LetterFace? Find(string? name) => _faces.GetValueOrDefault(name ?? string.Empty);
    }

    private sealed class None : ILetterFaces
    {
        public LetterFace? Find(string? name) => null;
    }

    private sealed class NoStitches : IStitchSource
    {
        public StitchBlob Get(BlobHash hash) => throw new KeyNotFoundException();
    }
}
