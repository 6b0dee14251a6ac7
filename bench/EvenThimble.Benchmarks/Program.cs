using BenchmarkDotNet.Running;
using EvenThimble.Benchmarks;

// "screen" measures what needs a browser or a process of its own; anything else is a filter for the benchmarks proper; "*" runs all.
var filter = args is ["--filter", var wanted] ? wanted : "*";
if (filter != "screen") BenchmarkSwitcher.FromAssembly(typeof(ScreenMeasures).Assembly).Run(["--filter", filter, "--artifacts", Path.Combine(Path.GetTempPath(), "thimble-bench")]);
if (filter is "*" or "screen") await ScreenMeasures.RunAsync();
