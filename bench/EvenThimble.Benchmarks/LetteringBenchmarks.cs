using BenchmarkDotNet.Attributes;
using BenchmarkDotNet.Configs;
using EvenThimble.Core.Craft;
using EvenThimble.Core.Jobs;
using EvenThimble.Core.Lettering;
using EvenThimble.Core.Machines;
using EvenThimble.Core.Planning;
using EvenThimble.Core.Stitches;
using EvenThimble.Core.Threads;
using EvenThimble.Rendering.Fonts;

namespace EvenThimble.Benchmarks;

/// <summary>
/// A key pressed while text is typed: from the text to the sewing plan. A line of 20 letters laid and sewn anew against the same after one letter has changed, when the others are known; and a verse of
/// 400 small letters, of which the last has come new.
/// </summary>
[SimpleJob(warmupCount: 40, iterationCount: 30, invocationCount: 1)]
[GroupBenchmarksBy(BenchmarkLogicalGroupRule.ByCategory)]
[CategoriesColumn]
public class LetteringBenchmarks
{
    private const string Line = "LARKMOOR OBSERVATORYS";
    private const string Verse = "The moon has a face like the clock in the hall; she shines on thieves on the garden wall, on streets and fields and harbour quays, and birdies asleep in the forks of the trees. ";
    private static readonly LetterFace Sans = Named("Archivo");
    private static readonly LetterFace Small = Named("Lark Small");
    private StitchMemory _line = new();
    private StitchMemory _verse = new();
    private int _key;

    private static string VerseOf(int letters) => string.Join('\n', string.Concat(Enumerable.Repeat(Verse, 4)).Where(c => c != '\n').Chunk(40).Select(c => new string(c)).Take((letters / 32) + 1));

    [IterationSetup]
    public void Prepare()
    {
        (_line, _verse) = (new(), new());
        Plan(Line, Sans, 20, _line);
        Plan(VerseOf(400), Small, 5, _verse);
        _key++;
    }

    [Benchmark(Baseline = true, Description = "cold")]
    [BenchmarkCategory("20 letters, 20 mm")]
    public int Cold() => Plan(Line, Sans, 20, new());

    [Benchmark(Description = "after one letter has changed")]
    [BenchmarkCategory("20 letters, 20 mm")]
    public int AfterOne() => Plan(Line.Remove(10, 1).Insert(10, ((char)('a' + (_key % 26))).ToString()), Sans, 20, _line);

    [Benchmark(Baseline = true, Description = "cold")]
    [BenchmarkCategory("a verse of 400 small letters")]
    public int VerseCold() => Plan(VerseOf(400), Small, 5, new());

    [Benchmark(Description = "a key")]
    [BenchmarkCategory("a verse of 400 small letters")]
    public int VerseKey() => Plan(VerseOf(400) + (char)('a' + (_key % 26)), Small, 5, _verse);

    private static LetterFace Named(string font) => new(font, InstalledFonts.Open(InstalledFonts.Find(font)!));

    private static int Plan(string text, LetterFace face, double capitalMm, StitchMemory memory)
    {
        var content = LetteringContent.Lay(new(text) { CapitalMm = capitalMm }, face, new(StitchWay.Automatic, MadeUpCharts.All[0].Threads[0]));
        var job = new AddLettering(content, Placement.AsItCame).Apply(Job.New(StandInMachines.Catalogue.UsualHoop));
        return Sequencer.Plan(job, new None(), memory).StitchCount;
    }

    private sealed class None : IStitchSource
    {
        public StitchBlob Get(BlobHash hash) => throw new KeyNotFoundException();
    }
}
