using EvenThimble.Core.Craft;
using EvenThimble.Core.Digitizing;
using EvenThimble.Core.Digitizing.Lines;
using EvenThimble.Core.Geometry;
using EvenThimble.Core.Lettering;
using EvenThimble.Rendering.Fonts;

namespace EvenThimble.App.Tests.Lettering;

/// <summary>The stroke font for small text: its letters are lines, sewn out and back.</summary>
public class SmallFontTests
{
    private const string Letters = "ABCDEFGHIJKLMNOPQRSTUVWXYZabcdefghijklmnopqrstuvwxyz0123456789ÄéñßŁ&@?!%§€";

    private static IEnumerable<(string Letter, List<Point[]> Lines, IReadOnlyList<List<Point>> Runs, StitchSettings Settings)> Sewn(double capitalMm)
    {
        foreach (var letter in Letters.Select(c => c.ToString()))
        {
            var laid = LetteringLayout.Of(new(letter) { CapitalMm = capitalMm }, StrokeFont.Small);
            var settings = LetteringSewing.SettingsFor(FontMeasure.Of(StrokeFont.Small), StitchWay.Automatic, capitalMm);
            yield return (letter, [.. laid.Letters[0].Outline.Paths.Select(p => p.Flattened().ToArray())], Digitizer.Runs(laid.Letters[0].Outline, settings, ClothProfiles.Cotton), settings);
        }
    }

    [Theory]
    [InlineData(4)]
    [InlineData(8)]
    public void Thread_lies_on_the_lines_and_every_line_is_sewn(double capitalMm)
    {
        foreach (var (letter, lines, runs, settings) in Sewn(capitalMm))
        {
            var measured = lines.ConvertAll(l => new MeasuredLine(l));
            Func<Point, double> fromLines = p => measured.Min(m => m.PointAt(m.Nearest(p)).DistanceTo(p));
            var half = settings.WidthMm!.Value / 2;
            foreach (var run in runs) run.Where(p => fromLines(p) >= half * 1.35).ShouldBeEmpty(letter);
            var sewn = runs.Select(r => new MeasuredLine([.. r])).ToList();
            foreach (var line in measured)
                for (var at = 0.0; at < line.Length; at += 0.2)
                    sewn.Min(s => s.PointAt(s.Nearest(line.PointAt(at))).DistanceTo(line.PointAt(at))).ShouldBeLessThan(0.15, letter);
        }
    }

    [Theory]
    [InlineData(4)]
    [InlineData(5)]
    public void Out_and_back_lie_side_by_side_and_cover_what_the_pen_draws(double capitalMm)
    {
        var face = new LetterFace(StrokeFont.Small.Name, StrokeFont.Small);
        foreach (var letter in Letters)
        {
            var found = MeasuredLetter.Of(face, letter.ToString(), capitalMm)!;
            found.Edge.Coverage.ShouldBeGreaterThan(98.5, $"{letter} {found}");
            found.Edge.Outside.ShouldBeLessThan(1, $"{letter} {found}");
            found.Lay.Stray.ShouldBeLessThan(0.7, $"{letter} {found}");
        }
    }

    [Fact]
    public void A_letter_whose_lines_meet_is_sewn_in_one_go()
    {
        foreach (var (letter, _, runs, _) in Sewn(5))
            runs.Count.ShouldBe(letter switch { "i" or "j" or "é" or "ñ" or "?" or "!" => 2, "Ä" or "%" => 3, _ => 1 }, letter);
    }

    [Fact]
    public void Small_letters_are_run_and_larger_ones_fine_satin()
    {
        // A run goes out and back: the letter is as long as its lines, twice. Satin goes out under its own throws.
        foreach (var (letter, lines, runs, _) in Sewn(4))
            (runs.Sum(r => Polylines.Length(r)) / lines.Sum(l => Polylines.Length(l))).ShouldBeInRange(1.85, 2.05, letter);
        foreach (var (letter, lines, runs, _) in Sewn(8))
            (runs.Sum(r => Polylines.Length(r)) / lines.Sum(l => Polylines.Length(l))).ShouldBeGreaterThan(4, letter);
    }

    [Fact]
    public void What_a_broad_pen_draws_is_sewn_as_other_letters_are()
    {
        var face = new LetterFace("Lark Small", StrokeFont.Small);
        foreach (var letter in new[] { "A", "g", "8", "ñ" })
        {
            var found = MeasuredLetter.Of(face, letter, 40)!;
            found.Edge.Coverage.ShouldBeGreaterThan(97, $"{found}");
            found.Lay.OverFour.ShouldBeLessThan(3, $"{found}");
            found.Edge.Outside.ShouldBeLessThan(3, $"{found}");
        }
    }

    [Fact]
    public void Throws_of_a_pen_cover_its_line_evenly_around_corners_and_bends()
    {
        Point[][] lines =
        [
            [new(0, 0), new(10, 0)],
            [new(0, 0), new(8, 0), new(8, 6)],
            [.. Enumerable.Range(0, 60).Select(i => new Point(3 * Math.Cos(i * 0.1), 3 * Math.Sin(i * 0.1)))],
        ];
        foreach (var line in lines)
        {
            var points = PenSatin.Along(line, 1, 0.4);
            var measured = new MeasuredLine(line);
            points.ShouldAllBe(p => measured.PointAt(measured.Nearest(p)).DistanceTo(p) < 0.72);
            for (var i = 2; i < points.Count; i++) points[i].DistanceTo(points[i - 2]).ShouldBeLessThan(0.62, "throws of one side lie near each other");
            points[^1].DistanceTo(line[^1]).ShouldBe(0.5, 0.01);
        }
    }

    [Fact]
    public void A_tour_of_lines_that_meet_goes_along_each_out_and_back_and_returns()
    {
        Point[][] star = [[new(0, 0), new(10, 0)], [new(5, 0), new(5, 8)], [new(0, 4), new(10, 4)], [new(30, 0), new(30, 5)]];
        var tours = LineTour.Of(star, null);
        tours.Count.ShouldBe(2, "one line hangs on no other");
        foreach (var tour in tours)
        {
            tour[0].Line[0].ShouldBe(tour[^1].Line[^1]);
            foreach (var (one, next) in tour.Zip(tour.Skip(1))) one.Line[^1].DistanceTo(next.Line[0]).ShouldBeLessThan(LineTour.Meeting);
            tour.Where(l => l.Back).Sum(l => Polylines.Length(l.Line)).ShouldBe(tour.Where(l => !l.Back).Sum(l => Polylines.Length(l.Line)), 1e-6);
        }

        tours.Sum(t => t.Sum(l => Polylines.Length(l.Line))).ShouldBe(2 * 33, 1e-6);
    }

    [Fact]
    public void A_tour_ends_where_it_is_wanted_and_all_is_sewn()
    {
        Point[][] h = [[new(0, 0), new(0, 7)], [new(4.8, 0), new(4.8, 7)], [new(0, 3.6), new(4.8, 3.6)]];
        var tour = LineTour.Of(h, new(0, 7), new(4.8, 2)).Single();
        tour[0].Line[0].ShouldBe(new(0, 7));
        tour[^1].Line[^1].DistanceTo(new(4.8, 2)).ShouldBeLessThan(1e-6, "in the middle of a line, as asked");
        foreach (var (one, next) in tour.Zip(tour.Skip(1))) one.Line[^1].DistanceTo(next.Line[0]).ShouldBeLessThan(LineTour.Meeting);
        tour.Where(l => l.Back).Sum(l => Polylines.Length(l.Line)).ShouldBe(18.8, 1e-6, "every line is covered");
    }

    [Fact]
    public void A_font_says_at_which_heights_it_sews_well()
    {
        FontMeasure.Of(StrokeFont.Small).SmallestGoodMm.ShouldBe(4);
        FontMeasure Of(string name) => FontMeasure.Of(InstalledFonts.Open(InstalledFonts.Find(name)!));
        foreach (var font in InstalledFonts.All.Where(f => f.File is not null))
        {
            Of(font.Name).SmallestGoodMm.ShouldBeInRange(6, 40, font.Name);
            Of(font.Name).SatinToMm.ShouldBeGreaterThan(Of(font.Name).SmallestGoodMm, font.Name);
        }

        // Archivo bold has stems of about a fifth of its capitals; the hairlines of Great Vibes are a tenth of those.
        (Of("Archivo").UsualEm / Of("Archivo").CapitalEm).ShouldBeInRange(0.14, 0.26);
        Of("Great Vibes").SmallestGoodMm.ShouldBeGreaterThan(1.5 * Of("Archivo").SmallestGoodMm);
        Of("Bowlby One").SatinToMm.ShouldBeLessThan(Of("Saira Condensed").SatinToMm);
    }
}
