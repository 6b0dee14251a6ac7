using BenchmarkDotNet.Attributes;
using BenchmarkDotNet.Configs;
using EvenThimble.Core.Craft;
using EvenThimble.Core.Digitizing;
using EvenThimble.Core.Digitizing.Fill;
using EvenThimble.Core.Geometry;
using EvenThimble.Core.Jobs;
using EvenThimble.Core.Machines;
using EvenThimble.Core.Planning;
using EvenThimble.Core.Recognition;
using EvenThimble.Core.Respacing;
using EvenThimble.Core.Shapes;
using EvenThimble.Core.Stitches;
using EvenThimble.Core.Threads;
using SkiaSharp;

namespace EvenThimble.Benchmarks;

/// <summary>Bought stitches: reading and re-spacing 50,000 of them, and leaving out what is covered among twice 50,000, each against drawing those stitches once as antialiased lines at 10 px/mm.</summary>
[SimpleJob(warmupCount: 3, iterationCount: 8)]
[GroupBenchmarksBy(BenchmarkLogicalGroupRule.ByCategory)]
[CategoriesColumn]
public class BoughtBenchmarks
{
    private StitchBlob _one = StitchBlob.None;
    private Job _job = Job.New(StandInMachines.Catalogue.UsualHoop);
    private SewingPlan _both = SewingPlan.Empty;

    private sealed class Blobs(params StitchBlob[] blobs) : IStitchSource
    {
        public StitchBlob Get(BlobHash hash) => blobs.First(b => b.Hash == hash);
    }

    [GlobalSetup]
    public void Prepare()
    {
        _one = Stitched(Outlines.Circle(Point.Zero, 150), 20);
        var other = Stitched(Outlines.Circle(new(90, 30), 150), 70);
        foreach (var blob in new[] { _one, other })
            if (blob.CountOf(StitchKind.Stitch) < 50_000) throw new InvalidOperationException($"Only {blob.CountOf(StitchKind.Stitch)} stitches.");
        DesignContent Of(StitchBlob blob, int number) => new(null, blob.Hash, [new(blob.Count, new SewingThread("Fenlight", $"{number}", "thread", default), PartRole.Decoration)]);
        _job = _job.With("one", Of(_one, 1), Placement.AsItCame).With("other", Of(other, 2), Placement.AsItCame) with { SewsOnlySeen = true };
        _both = Sequencer.Whole(_job, new Blobs(_one, other));
    }

    [Benchmark(Baseline = true, Description = "drawing 50,000 stitches with SkiaSharp")]
    [BenchmarkCategory("re-spacing")]
    public void DrawOne() => Draw(_one);

    [Benchmark(Description = "reading and re-spacing them to 80 %")]
    [BenchmarkCategory("re-spacing")]
    public int Respace() => Respacer.Make(ReadStitches.Of(_one), new(0.8, 0.8), default).Count;

    [Benchmark(Description = "reading and re-spacing them to 125 %, with a look for what opens")]
    [BenchmarkCategory("re-spacing")]
    public int RespaceLarger() => Respacer.Make(ReadStitches.Of(_one), new(1.25, 1.25), default).Count;

    [Benchmark(Baseline = true, Description = "drawing 2 x 50,000 stitches with SkiaSharp")]
    [BenchmarkCategory("covered")]
    public void DrawBoth() => Draw(_both.Records);

    [Benchmark(Description = "leaving out what is covered")]
    [BenchmarkCategory("covered")]
    public int Cover() => Covering.Apply(_job, _both).Plan.Records.Count;

    private static void Draw(StitchBlob blob)
    {
        var box = blob.BoundsOf(0, blob.Count);
        using var bitmap = new SKBitmap((int)(box.Width * 10) + 1, (int)(box.Height * 10) + 1);
        using var canvas = new SKCanvas(bitmap);
        using var paint = new SKPaint { IsAntialias = true, StrokeWidth = 4, Color = SKColors.Navy };
        for (var i = 1; i < blob.Count; i++)
            canvas.DrawLine((float)((blob.At(i - 1).X - box.MinX) * 10), (float)((blob.At(i - 1).Y - box.MinY) * 10), (float)((blob.At(i).X - box.MinX) * 10), (float)((blob.At(i).Y - box.MinY) * 10), paint);
    }

    private static StitchBlob Stitched(Point[] outline, double angle)
    {
        var builder = new StitchBuilder();
        foreach (var area in Area.Of([outline])) Ties.Add(builder, FillSewing.Sew(area, new RowFill(angle) { CompensationMm = 0.2 }, [Underlay.Edge, Underlay.Light]));
        return builder.ToBlob();
    }
}
