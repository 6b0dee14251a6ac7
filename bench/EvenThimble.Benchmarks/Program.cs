using System.Globalization;
using BenchmarkDotNet.Running;
using EvenThimble.Benchmarks;

// "screen" measures what needs a browser or a process of its own, "letters" the letters of the program's fonts, or of a folder of them; anything else is a filter for the benchmarks proper; "*" runs all.
var filter = args is ["--filter", var wanted, ..] ? wanted : "*";
if (filter is not ("screen" or "growth" or "letters")) BenchmarkSwitcher.FromAssembly(typeof(ScreenMeasures).Assembly).Run(["--filter", filter, "--artifacts", Path.Combine(Path.GetTempPath(), "thimble-bench"), "--buildTimeout", "600"]);
if (filter is "*" or "screen") await ScreenMeasures.RunAsync();
if (filter is "*" or "growth")
    foreach (var (what, times) in DigitizingBenchmarks.Growth())
        Console.WriteLine($"{what}: {string.Join("  ", times.Select(t => $"{t:0.00}"))} µs a stitch; the last is {times[^1] / times[0]:0.00} of the first");
if (filter is "*" or "letters") LetterMeasures.Run(args.ElementAtOrDefault(2), args.Length > 3 ? int.Parse(args[3], CultureInfo.InvariantCulture) : 3);
