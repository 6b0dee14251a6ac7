using BenchmarkDotNet.Attributes;
using EvenThimble.Core.Colour;
using EvenThimble.Core.Rack;
using EvenThimble.Core.Threads;

namespace EvenThimble.Benchmarks;

/// <summary>A job of thirty threads matched with two thousand cones, against the plain search for the nearest of each.</summary>
public class RackBenchmarks
{
    private const int Threads = 30;
    private const int Cones = 2_000;
    private WantedThread[] _wanted = [];
    private OwnedThread[] _rack = [];
    private HashSet<(int One, int Other)> _touching = [];

    [GlobalSetup]
    public void Setup()
    {
        var random = new Random(4);
        SewingThread Made(string maker, int n) => new(maker, $"{n}", $"thread {n}", Rgb.FromInt(random.Next(0x1000000)));
        _wanted = [.. Enumerable.Range(0, Threads).Select(n => new WantedThread(Made("Job", n), ThreadMake.Of("Rayon 40")))];
        _rack = [.. Enumerable.Range(0, Cones).Select(n => new OwnedThread(Made("Rack", n), ThreadMake.Of("Polyester 40")))];
        _touching = [.. Enumerable.Range(0, Threads - 1).Select(n => (n, n + 1))];
    }

    /// <summary>For each thread the nearest cone.</summary>
    [Benchmark(Baseline = true)]
    public int NearestOfEach() => _wanted.Sum(w =>
    {
        var look = Lab.From(w.Thread.Colour);
        return _rack.MinBy(r => ColourDifference.Ciede2000(look, Lab.From(r.Thread.Colour)))!.Thread.Number.Length;
    });

    /// <summary>All together.</summary>
    [Benchmark]
    public int WholeJob() => RackMatching.Find(_wanted, _rack, _touching).Length;
}
