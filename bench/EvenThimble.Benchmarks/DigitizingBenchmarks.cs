using BenchmarkDotNet.Attributes;
using BenchmarkDotNet.Configs;
using EvenThimble.Core.Craft;
using EvenThimble.Core.Digitizing.Fill;
using EvenThimble.Core.Digitizing.Satin;
using EvenThimble.Core.Geometry;
using EvenThimble.Core.Shapes;
using NetTopologySuite.Triangulate;
using SkiaSharp;

namespace EvenThimble.Benchmarks;

/// <summary>
/// Making stitches: 100,000 of fill against drawing them once as antialiased lines at 10 px/mm; satin of outlines against the Delaunay triangulation of the points it uses, one of 20,000
/// rough points against that of those; and how fill and satin grow from one area to sixteen times as much.
/// </summary>
[SimpleJob(warmupCount: 5, iterationCount: 12)]
[GroupBenchmarksBy(BenchmarkLogicalGroupRule.ByCategory)]
[CategoriesColumn]
public class DigitizingBenchmarks
{
    private const int Letters = 12;
    private readonly Area _large = Square(366);
    private readonly Area _comb = Comb(Letters, 1);
    private readonly Point[] _rough = Rough(20_000);
    private NetTopologySuite.Geometries.Coordinate[] _sites = [];
    private List<Point> _stitches = [];

    [GlobalSetup]
    public void Prepare()
    {
        _stitches = Fill(_large);
        if (_stitches.Count < 100_000) throw new InvalidOperationException($"Only {_stitches.Count} stitches.");
        _sites = [.. InnerTriangles.Of(_comb).Points.Select(p => new NetTopologySuite.Geometries.Coordinate(p.X, p.Y))];
    }

    [Benchmark(Baseline = true, Description = "drawing the stitches with SkiaSharp")]
    [BenchmarkCategory("fill, 100,000 stitches")]
    public void Draw()
    {
        using var bitmap = new SKBitmap(3700, 3700);
        using var canvas = new SKCanvas(bitmap);
        using var paint = new SKPaint { IsAntialias = true, StrokeWidth = 4, Color = SKColors.Navy };
        for (var i = 1; i < _stitches.Count; i++)
            canvas.DrawLine((float)(_stitches[i - 1].X * 10), (float)(_stitches[i - 1].Y * 10), (float)(_stitches[i].X * 10), (float)(_stitches[i].Y * 10), paint);
    }

    [Benchmark(Description = "making them")]
    [BenchmarkCategory("fill, 100,000 stitches")]
    public int Make() => Fill(_large).Count;

    [Benchmark(Baseline = true, Description = "Delaunay triangulation of its points")]
    [BenchmarkCategory("satin of an outline")]
    public object Triangulate() => Triangulated(_sites);

    [Benchmark(Description = "satin of the outline")]
    [BenchmarkCategory("satin of an outline")]
    public int Satin() => SatinSewing.Sew(_comb, new()).Count;

    [Benchmark(Baseline = true, Description = "Delaunay triangulation of 20,000 rough points")]
    [BenchmarkCategory("satin of a rough outline")]
    public object TriangulateRough() => Triangulated([.. _rough.Select(p => new NetTopologySuite.Geometries.Coordinate(p.X, p.Y))]);

    [Benchmark(Description = "area and satin of the outline of them")]
    [BenchmarkCategory("satin of a rough outline")]
    public int SatinOfRough() => Area.Of([_rough]).Sum(a => SatinSewing.Sew(a, new()).Count);

    /// <summary>The yardstick of satin: a Delaunay triangulation of some places.</summary>
    internal static object Triangulated(NetTopologySuite.Geometries.Coordinate[] sites)
    {
        var builder = new DelaunayTriangulationBuilder();
        builder.SetSites(sites);
        return builder.GetTriangles(NetTopologySuite.Geometries.GeometryFactory.Default);
    }

    /// <summary>A flower whose edge trembles by 0.3 mm, as a bad tracing of a photograph does.</summary>
    private static Point[] Rough(int count)
    {
        var random = new Random(5);
        return [.. Enumerable.Range(0, count).Select(i => i * 2 * Math.PI / count).Select(a => (a, R: 30 + (9 * Math.Sin(7 * a)) + (0.3 * ((2 * random.NextDouble()) - 1)))).Select(p => new Point(p.R * Math.Cos(p.a), p.R * Math.Sin(p.a)))];
    }

    private static List<Point> Fill(Area area) => FillSewing.Sew(area, new RowFill(35) { CompensationMm = 0.2 }, [Underlay.Edge, Underlay.Light]);

    private static Area Square(double side) => Area.Of([[new(0, 0), new(side, 0), new(side, side), new(0, side)]])[0];

    /// <summary>A comb of wavy teeth, a shape with many strokes and bends.</summary>
    internal static Area Comb(int teeth, double scale)
    {
        var points = new List<Point> { new(0, -4) };
        for (var i = 0; i < teeth; i++)
        {
            for (var k = 0; k <= 40; k++) points.Add(new((i * 7) + (1.2 * Math.Sin(k / 4.0)), k));
            for (var k = 40; k >= 0; k--) points.Add(new((i * 7) + 3.4 + (1.2 * Math.Sin(k / 4.0)), k));
        }

        points.Add(new((teeth * 7) - 3.6, -4));
        return Area.Of([[.. points.Select(p => p * scale)]])[0];
    }

    /// <summary>Microseconds a stitch, the best of some tries, for areas from one to sixteen times a size; fill and satin.</summary>
    public static IEnumerable<(string What, double[] MicrosecondsPerStitch)> Growth()
    {
        yield return ("fill, 100 mm square and twice its area four times over", [.. Enumerable.Range(0, 5).Select(i => Best(() => Fill(Square(100 * Math.Pow(2, i / 2.0))).Count))]);
        yield return ("satin, 4 teeth of a comb and twice as many four times over", [.. Enumerable.Range(0, 5).Select(i => Comb(4 << i, 1)).Select(c => Best(() => SatinSewing.Sew(c, new()).Count))]);
    }

    /// <summary>The least time a stitch, after two seconds in which the code has been compiled for speed.</summary>
    private static double Best(Func<int> make)
    {
        for (var warming = System.Diagnostics.Stopwatch.StartNew(); warming.Elapsed.TotalSeconds < 2;) make();
        var best = double.PositiveInfinity;
        for (var i = 0; i < 40; i++)
        {
            var watch = System.Diagnostics.Stopwatch.StartNew();
            var stitches = make();
            best = Math.Min(best, watch.Elapsed.TotalMicroseconds / stitches);
        }

        return best;
    }
}
