using EvenThimble.Core.Craft;
using EvenThimble.Core.Digitizing.Satin;
using EvenThimble.Core.Geometry;
using EvenThimble.Core.Shapes;

namespace EvenThimble.Core.Tests.Quality;

/// <summary>Strokes of black letters: hardly longer than they are wide, with feet that widen them to one side, so that the middle between their edges runs aslant.</summary>
public sealed class BlackStrokeTests
{
    [Fact]
    public void Where_feet_widen_a_short_stem_throws_lie_square_to_its_edges()
    {
        var (random, off) = (new Random(41), new List<double>());
        for (var i = 0; i < 30; i++)
        {
            var (width, times, out1, out2, high1, high2) = (3 + (random.NextDouble() * 5), 1.7 + (random.NextDouble() * 1.6), Part(), Part(), Part(), Part());
            var outlines = Turned(Stem(width, width * times, width * out1, width * out2, width * high1, width * high2), random.NextDouble() * 360);
            var runs = LetterLook.Sewn(outlines, StitchWay.Satin);
            var lay = LayMeasure.Of(outlines, runs);
            var name = $"{i}: {width:0.0} mm, {times:0.0} times as long, feet {out1:0.00} by {high1:0.00} and {out2:0.00} by {high2:0.00} of that";
            lay.Off.ShouldBeLessThan(9, name);
            off.Add(lay.Off);
            lay.Thickest.ShouldBeLessThan(14, name);
            lay.Stray.ShouldBeLessThanOrEqualTo(0.6, name);
            lay.Out.ShouldBeLessThan(ClothProfiles.Cotton.CompensationMm + 0.5, name);
            StitchQualityTests.Measured(outlines, runs).Coverage.ShouldBeGreaterThan(99, name);
        }

        // Throws go to and fro, so that they are 2 to 3 degrees off square even on a plain stem.
        off.Average().ShouldBeLessThan(4.5);

        double Part() => 0.2 + (random.NextDouble() * 0.25);
    }

    [Fact]
    public void A_way_that_begins_at_a_corner_goes_round_the_notch_beside_it()
    {
        // An arm that steps wider, entered at the corner of the step: straight from there to the middle of the narrow part lies open cloth.
        var random = new Random(42);
        for (var i = 0; i < 20; i++)
        {
            var (thin, thick, step, length) = (3 + (random.NextDouble() * 6), 3 + (random.NextDouble() * 8), 1 + (random.NextDouble() * 5), 4 + (random.NextDouble() * 12));
            var corner = new Point(length, thin + step);
            Point Put(Point p) => (i % 2 == 0 ? p : new(p.Y, p.X)) * (i % 4 < 2 ? 1 : -1);
            Point[][] outlines = [Array.ConvertAll<Point, Point>([new(0, 0), new(length + thick, 0), new(length + thick, corner.Y), corner, new(length, thin), new(0, thin)], Put)];
            var area = Area.Of(outlines)[0];
            foreach (var inset in new[] { 0, 0.1, -ClothProfiles.Cotton.CompensationMm })
            {
                var start = Put(corner + new Point(inset, -inset));
                var run = SatinSewing.Sew(area, new SatinStyle(CompensationMm: ClothProfiles.Cotton.CompensationMm), start);
                LayMeasure.Of(outlines, [run]).Out.ShouldBeLessThan(ClothProfiles.Cotton.CompensationMm + 0.5, $"{i}: {thin:0.0} mm, {step:0.0} more from {length:0.0} on, begun {inset} inside the corner");
            }
        }
    }

    /// <summary>A stem with a foot to the left at its top and one to the right at its bottom: how far they reach, and how high they are.</summary>
    private static Point[] Stem(double width, double length, double left, double right, double high, double low) =>
        [new(-left, 0), new(width, 0), new(width, length - low), new(width + right, length - low), new(width + right, length), new(0, length), new(0, high), new(-left, high)];

    private static Point[][] Turned(Point[] outline, double degrees) => [Array.ConvertAll(outline, p => p.Turned(degrees, Point.Zero))];
}
