using System.Xml.Linq;
using EvenThimble.Core.Craft;
using EvenThimble.Core.Geometry;
using EvenThimble.Core.Shapes;
using SkiaSharp;

namespace EvenThimble.Core.Tests.Quality;

/// <summary>Shapes of a body that is filled and arms that are thrown, as most drawings are: where both meet they lie upon each other, with their underlay and the ways between them.</summary>
public sealed class MixedShapeTests
{
    // What a cloth takes, and a little for the raster: of these shapes two are at 14.1 and 14.4 mm on a mm².
    private const double MostThread = 14.5;

    [Fact]
    public void Where_arms_leave_a_body_nothing_is_heaped_and_nothing_lies_alone()
    {
        var random = new Random(44);
        var faults = new List<string>();
        for (var i = 0; i < 12; i++)
        {
            var (radius, count, squeezed) = (11 + (random.NextDouble() * 6), 2 + random.Next(4), 0.8 + (random.NextDouble() * 0.5));
            Point[] body = [.. Enumerable.Range(0, 72).Select(k => new Point(radius, 0).Turned(5 * k, Point.Zero)).Select(p => new Point(p.X * squeezed, p.Y))];
            var arms = Enumerable.Range(0, count).Select(k => Arm(((k + (random.NextDouble() * 0.5)) * 360 / count) + (i * 7), 3 + (random.NextDouble() * 4), radius + 9 + (random.NextDouble() * 8)));
            var outlines = Together([body, .. arms]);
            if (Faults(outlines) is { Length: > 0 } wrong) faults.Add($"{i}: {radius:0.0} mm, {count} arms: {wrong}");
        }

        faults.ShouldBeEmpty();
    }

    [Fact]
    public void Where_a_bow_ends_in_a_body_nothing_is_heaped_and_nothing_lies_alone()
    {
        var random = new Random(45);
        var faults = new List<string>();
        for (var i = 0; i < 8; i++)
        {
            var (wide, high, width, slant) = (26 + (random.NextDouble() * 14), 20 + (random.NextDouble() * 12), 4 + (random.NextDouble() * 4), random.NextDouble() * 5);
            var bow = wide * (0.25 + (random.NextDouble() * 0.1));
            Point[] body = [new(-wide / 2, 0), new(wide / 2, slant), new(wide / 2, high), new(-wide / 2, high)];
            Point[] Arch(double radius) => [.. Enumerable.Range(0, 37).Select(k => new Point(-radius, 0).Turned(5 * k, Point.Zero) - new Point(0, 7))];
            Point[] shackle = [new(-bow - (width / 2), 6), .. Arch(bow + (width / 2)), new(bow + (width / 2), 6), new(bow - (width / 2), 6), .. Arch(bow - (width / 2)).AsEnumerable().Reverse(), new(-bow + (width / 2), 6)];
            var outlines = Together([body, shackle]);
            if (Faults(outlines) is { Length: > 0 } wrong) faults.Add($"{i}: {wide:0.0} by {high:0.0} mm, a bow of {width:0.0}: {wrong}");
        }

        faults.ShouldBeEmpty();
    }

    [Fact]
    public void A_slanted_edge_that_rows_of_underlay_run_along_is_not_left()
    {
        // A window whose long edges lie nearly as the rows of light underlay do, square to those of the fill.
        var random = new Random(46);
        for (var i = 0; i < 30; i++)
        {
            var (wide, off, length) = (3 + (random.NextDouble() * 4), (random.NextDouble() * 6) - 3, 14 + (random.NextDouble() * 14));
            Point[] box = [new(0, 0), new(46, 0), new(46, 46), new(0, 46)];
            var (along, middle) = (new Point(1, 0).Turned(StitchSettings.UsualAngle + 90 + off, Point.Zero), new Point(23, 23));
            var (half, aside) = (along * (length / 2), along.Normal() * (wide / 2));
            Point[] Round(Point at, double from) => [.. Enumerable.Range(0, 13).Select(k => at + ((aside * -1).Turned(from + (15 * k), Point.Zero)))];
            Point[] window = [.. Round(middle + half, 0), .. Round(middle - half, 180)];
            LayMeasure.Of([box, window], LetterLook.Sewn([box, window], StitchWay.Fill)).Out.ShouldBeLessThan(ClothProfiles.Cotton.CompensationMm + 0.5, $"{i}: {wide:0.0} by {length:0.0} mm, {off:0.0}° off the rows");
        }
    }

    [Fact]
    public void Drawings_that_were_not_made_for_thread_are_sewn_without_fault()
    {
        // Pictures of the interface, which are drawn for screens: a few of the two thousand, as they are, at a size at which they are satin and fill.
        foreach (var file in Icons().Where((_, i) => i % 190 == 11)) Faults(Drawn(file, 60), 99).ShouldBeEmpty(Path.GetFileNameWithoutExtension(file));
    }

    [Fact]
    public void A_body_that_is_thrown_though_it_is_too_broad_stays_within_its_edges()
    {
        // Throws fan out about corners, and their ends come to lie beyond others.
        var outlines = Drawn(Icons().Single(f => Path.GetFileName(f) == "hourglass-bottom.svg"), 50);
        LayMeasure.Of(outlines, LetterLook.Sewn(outlines, StitchWay.Satin)).Out.ShouldBeLessThan(ClothProfiles.Cotton.CompensationMm + 0.8);
    }

    private static IEnumerable<string> Icons() => Directory.GetFiles(Path.Combine(MadeUp.Repository, "node_modules", "bootstrap-icons", "icons"), "*.svg").Order(StringComparer.Ordinal);

    /// <summary>The outlines of a drawing of filled paths, its longer side so long, mm.</summary>
    private static Point[][] Drawn(string file, double longest)
    {
        using var all = SKPath.ParseSvgPathData(string.Join(' ', XDocument.Load(file).Descendants().Select(e => (string?)e.Attribute("d")).OfType<string>()));
        using var simple = all.Simplify();
        return Glyphs.OutlinesOf(simple, longest / Math.Max(simple.TightBounds.Width, simple.TightBounds.Height));
    }

    private static string Faults(Point[][] outlines, double leastCovered = 0)
    {
        var runs = LetterLook.Sewn(outlines, StitchWay.Automatic);
        if (leastCovered > 0) StitchQualityTests.Measured(outlines, runs).Coverage.ShouldBeGreaterThan(leastCovered);
        var lay = LayMeasure.Of(outlines, runs);
        return (lay.Out > ClothProfiles.Cotton.CompensationMm + 0.5 ? $"{lay.Out:0.0} mm outside " : "") + (lay.Bare > 0.3 ? $"{lay.Bare:0.0} mm² bare " : "") + (lay.Thickest > MostThread ? $"{lay.Thickest:0.0} mm of thread on a mm² " : "") + (lay.Stray > 0.6 ? $"{lay.Stray:0.0} mm alone " : "") + (lay.Crowd > 8 ? $"{lay.Crowd} needle points" : "");
    }

    private static Point[] Arm(double degrees, double width, double reach) =>
        Array.ConvertAll<Point, Point>([new(0, -width / 2), new(reach, -width / 2), new(reach, width / 2), new(0, width / 2)], p => p.Turned(degrees, Point.Zero));

    private static Point[][] Together(Point[][] parts) => [.. Area.Of(parts, Inside.AnyWinding).SelectMany(a => a.Rings)];
}
