using BenchmarkDotNet.Attributes;
using EvenThimble.Core.Colour;
using EvenThimble.Core.Craft;
using EvenThimble.Core.Digitizing.Fill;
using EvenThimble.Core.Hoopings;
using EvenThimble.Core.Jobs;
using EvenThimble.Core.Machines;
using EvenThimble.Core.Planning;
using EvenThimble.Core.Shapes;
using EvenThimble.Core.Stitches;
using EvenThimble.Core.Threads;

namespace EvenThimble.Benchmarks;

/// <summary>Dividing a drawn job of 200,000 stitches that is larger than its hoop, against making its plan.</summary>
[SimpleJob(warmupCount: 2, iterationCount: 8)]
public class HoopingBenchmarks
{
    private static readonly HoopField Field = StandInMachines.Heron200.FindHoop("200x200")!;
    private Job _job = Job.New(StandInMachines.Catalogue.UsualHoop);
    private SewingPlan _plan = SewingPlan.Empty;

    [GlobalSetup]
    public void Prepare()
    {
        var random = new Random(3);
        SewingThread Thread(int n) => new("Fenlight", $"{n}", $"thread {n}", Rgb.FromInt(random.Next(0x1000000)));
        NewShape At(string name, DrawnShape shape, StitchWay way, double x, double y, int thread) => new(name, shape, new(way) { Angle = random.Next(180) }, Thread(thread), new(x, y, 0));

        // Two skies that are larger than the field, and stars, rings and moons over them.
        _job = new AddShapes("Night", [
            At("sky", BasicShapes.Rectangle(372, 186, 0), StitchWay.Fill, 0, -93, 1), At("hill", BasicShapes.Rectangle(372, 186, 0), StitchWay.Fill, 0, 93, 2),
            .. Enumerable.Range(0, 150).Select(i => At($"star {i}", i % 3 == 0 ? BasicShapes.Star(27, 27, 5, 0.5) : BasicShapes.Ellipse(28, 22), StitchWay.Fill, random.Next(-165, 165), random.Next(-165, 165), 3 + (i % 6))),
        ]).Apply(_job);
        _plan = Plan();
        Console.WriteLine($"{_plan.StitchCount:N0} stitches in {FewestHoopings.For(_plan, StandInMachines.Heron200, Field).Length} hoopings");
    }

    /// <summary>The plan, every stitch made anew.</summary>
    [Benchmark(Baseline = true)]
    public SewingPlan Plan() => Sequencer.Plan(_job, new NoStitches());

    /// <summary>Finding the hoopings, dividing, and the plan of each.</summary>
    [Benchmark]
    public HoopedJob Divide() => HoopedJob.Dividing(_job, _plan, StandInMachines.Heron200, Field, StandInMachines.Catalogue).Hooped;

    /// <summary>Dividing anew after an edit, with the hoopings that there are.</summary>
    [Benchmark]
    public HoopedJob DivideAgain() => HoopedJob.Of(_divided ??= _job with { Hoopings = FewestHoopings.For(_plan, StandInMachines.Heron200, Field) }, _plan, StandInMachines.Catalogue);

    private Job? _divided;

    private sealed class NoStitches : IStitchSource
    {
        public StitchBlob Get(BlobHash hash) => throw new KeyNotFoundException();
    }
}
