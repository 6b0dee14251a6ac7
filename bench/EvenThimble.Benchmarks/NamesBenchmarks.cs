using BenchmarkDotNet.Attributes;
using EvenThimble.Core.Craft;
using EvenThimble.Core.Files.Stitch;
using EvenThimble.Core.Garments;
using EvenThimble.Core.Jobs;
using EvenThimble.Core.Lettering;
using EvenThimble.Core.Machines;
using EvenThimble.Core.Names;
using EvenThimble.Core.Planning;
using EvenThimble.Core.Stitches;
using EvenThimble.Core.Threads;
using EvenThimble.Rendering.Fonts;

namespace EvenThimble.Benchmarks;

/// <summary>Five hundred names laid in a slot, stitched and written, against as many single letterings of the same texts.</summary>
[SimpleJob(warmupCount: 1, iterationCount: 4)]
public class NamesBenchmarks : ILetterFaces, IStitchSource
{
    private const int People = 500;
    private static readonly SewingThread Thread = MadeUpCharts.All[0].Threads[0];
    private readonly LetterFace _face = new(InstalledFonts.All[0].Name, InstalledFonts.Open(InstalledFonts.All[0]));
    private Job _job = Job.New(StandInMachines.Catalogue.UsualHoop);
    private Dictionary<PersonId, LetteringWish> _wishes = [];

    [GlobalSetup]
    public void Prepare()
    {
        string[] given = ["Bo", "Ada", "Zoë", "Renée", "Åse", "Jean-Baptiste", "D'Arcy", "Björn", "Marguerite-Anne", "Wilhelmina", "Ole", "Tom", "Yi"];
        string[] family = ["Li", "O'Hara", "Núñez", "Brandt", "van der Meulen", "Fothergill", "Quarrie-Achterberg", "Müller", "Montgomery", "Kim", "Jónsson", "St. Clair"];
        var random = new Random(4);
        var roster = Enumerable.Range(0, People).Aggregate(Roster.New("Five hundred", "given", "family"), (r, _) => r.Adding([given[random.Next(given.Length)], family[random.Next(family.Length)]]));
        _job = new TakeRoster(roster, null).Apply(_job);
        var slot = new NameSlot("{given} {family}", 80, 12, _face.Name);
        _job = new AddNameSlot(NameRoll.Shown(_job, null, slot, "A", this, Thread), Placement.AsItCame).Apply(_job);

        // The same letters at the same heights and widths: what remains is fitting, readiness and the roster.
        _wishes = NameRoll.Of(_job, this).All.ToDictionary(n => n.Person.Id, n => n.Slots[0].Content!.Wish);
    }

    /// <summary>Each text as a lettering of its own job: laid, planned, written.</summary>
    [Benchmark(Baseline = true)]
    public int Single()
    {
        var (bytes, memory) = (0, new StitchMemory());
        foreach (var person in _job.Names!.Roster.People)
        {
            var text = SlotText.Of("{given} {family}", _job.Names.Roster, person);
            var content = LetteringContent.Lay(_wishes[person.Id], _face, new(StitchWay.Automatic, Thread));
            var job = new AddLettering(content, Placement.AsItCame).Apply(Job.New(StandInMachines.Catalogue.UsualHoop));
            bytes += StitchFormats.Write(StitchFileKind.Evth2, Sequencer.Plan(job, this, memory).ToFile(text)).Length;
        }

        return bytes;
    }

    /// <summary>All names fitted to the slot, planned with their readiness, and written.</summary>
    [Benchmark]
    public int Roll()
    {
        var machine = StandInMachines.Heron200;
        var files = new GarmentFiles(_job, NameRoll.Of(_job, this), this, StandInMachines.Catalogue, machine, machine.FindHoop("130x180")!, this, new());
        return files.All(SewingWay.EachGarment, SewnPart.NamesOnly).Sum(f => StitchFormats.Write(StitchFileKind.Evth2, f.ToFile()).Length);
    }

    /// <inheritdoc/>
    public LetterFace? Find(string? name) => _face.Name == name ? _face : null;

    /// <inheritdoc/>
    public StitchBlob Get(BlobHash hash) => throw new KeyNotFoundException();
}
