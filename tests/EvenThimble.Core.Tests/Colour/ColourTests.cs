using System.Globalization;
using EvenThimble.Core.Colour;
using EvenThimble.Core.Threads;
using FsCheck.Xunit;

namespace EvenThimble.Core.Tests.Colour;

public class ColourTests
{
    [Fact]
    public void The_colour_difference_agrees_with_the_published_pairs()
    {
        var pairs = File.ReadAllLines(Path.Combine(AppContext.BaseDirectory, "Data", "ciede2000-pairs.csv")).Skip(1).Where(l => l.Length > 0).ToList();
        pairs.Count.ShouldBe(19);
        foreach (var line in pairs)
        {
            var n = line.Split(',').Select(v => double.Parse(v, CultureInfo.InvariantCulture)).ToArray();
            var (one, two) = (new Lab(n[0], n[1], n[2]), new Lab(n[3], n[4], n[5]));
            ColourDifference.Ciede2000(one, two).ShouldBe(n[6], 0.00006, line);
            ColourDifference.Ciede2000(two, one).ShouldBe(n[6], 0.00006, line);
        }
    }

    [Property]
    public void A_screen_colour_survives_the_way_through_lab(byte r, byte g, byte b)
    {
        Lab.From(new(r, g, b)).TryToRgb(out var back).ShouldBeTrue();
        back.ShouldBe(new Rgb(r, g, b));
    }

    [Theory]
    [InlineData("#2F4b7c", "#2f4b7c")]
    [InlineData("2f4b7c", "#2f4b7c")]
    [InlineData("#abc", "#aabbcc")]
    public void Colours_are_read_as_they_are_written(string text, string hex)
    {
        Rgb.TryParse(text, out var colour).ShouldBeTrue();
        colour.Hex.ShouldBe(hex);
    }

    [Theory]
    [InlineData("")]
    [InlineData("#12345")]
    [InlineData("blue")]
    [InlineData("-12345")]
    public void What_is_no_colour_is_refused(string text) => Rgb.TryParse(text, out _).ShouldBeFalse();

    [Fact]
    public void The_charts_hold_more_than_a_thousand_threads_each_with_number_name_and_look_of_its_own()
    {
        var charts = MadeUpCharts.All;
        charts.Sum(c => c.Threads.Count).ShouldBeGreaterThanOrEqualTo(1000);
        foreach (var chart in charts)
        {
            chart.Threads.Count.ShouldBeInRange(120, 400, chart.Range);
            chart.Threads.Select(t => t.Number).Distinct().Count().ShouldBe(chart.Threads.Count);
            chart.Threads.Select(t => t.Name).Distinct().Count().ShouldBe(chart.Threads.Count);
            chart.Threads.Select(t => t.Colour).Distinct().Count().ShouldBe(chart.Threads.Count);
        }

        charts.SelectMany(c => c.Threads).Select(t => (t.Maker, t.Number)).Distinct().Count().ShouldBe(charts.Sum(c => c.Threads.Count));
    }

    [Fact]
    public void The_charts_reach_every_hue_so_that_any_colour_finds_a_near_thread()
    {
        var threads = MadeUpCharts.All.SelectMany(c => c.Threads).ToList();
        for (var hue = 0; hue < 360; hue += 15)
        {
            Lab.FromLch(55, 35, hue).TryToRgb(out var colour);
            ThreadSearch.ByLook(threads, colour, 1)[0].Difference!.Value.ShouldBeLessThan(6, $"hue {hue}");
        }
    }

    [Fact]
    public void Threads_are_found_by_number_by_name_and_by_look()
    {
        var threads = MadeUpCharts.All.SelectMany(c => c.Threads).ToList();
        var wanted = threads[77];
        ThreadSearch.Find(threads, wanted.Number, 5)[0].Thread.ShouldBe(wanted);
        ThreadSearch.Find(threads, wanted.Name.ToUpperInvariant(), 60).ShouldContain(m => m.Thread == wanted);
        ThreadSearch.Find(threads, wanted.Colour.Hex, 5)[0].Thread.Colour.ShouldBe(wanted.Colour);
        var byLook = ThreadSearch.ByLook(threads, wanted.Colour, 30).Select(m => m.Difference!.Value).ToList();
        byLook[0].ShouldBe(0, 1e-9);
        byLook.ShouldBe(byLook.Order());
        ThreadSearch.Find(threads, "no such thread", 5).ShouldBeEmpty();
    }
}
