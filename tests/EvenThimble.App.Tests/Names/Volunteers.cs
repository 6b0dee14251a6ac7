using EvenThimble.Core.Craft;
using EvenThimble.Core.Garments;
using EvenThimble.Core.Geometry;
using EvenThimble.Core.Jobs;
using EvenThimble.Core.Lettering;
using EvenThimble.Core.Machines;
using EvenThimble.Core.Names;
using EvenThimble.Core.Stitches;
using EvenThimble.Core.Tests;
using EvenThimble.Rendering.Fonts;
using EvenThimble.Scenario;

namespace EvenThimble.App.Tests.Names;

/// <summary>The crest with a name slot, and rosters to sew it with.</summary>
internal sealed class Volunteers : IStitchSource, ILetterFaces
{
    public const string Twelve = "Ottoline Marsh\nBram Tull\nIlse Quarrie\nWen Achterberg\nRufus Ode\nMarguerite-Anne Fothergill\nJo Pym\nTamsin Vale\nDov Ister\nCato Brindle\nNgaire Holm\nPiet Sallow";
    private static readonly StitchFile Crest = DemoDesigns.All.First(d => d.FileName.Contains("dome", StringComparison.OrdinalIgnoreCase) && d.FileName.Contains("crest", StringComparison.OrdinalIgnoreCase)).Drawn();
    private readonly Dictionary<string, LetterFace> _faces = [];

    /// <summary>Where the slot lies on the job.</summary>
    public static Point SlotMiddle { get; } = new(0, 53);

    public StitchBlob Get(BlobHash hash) => hash == Crest.Stitches.Hash ? Crest.Stitches : throw new KeyNotFoundException();

    public LetterFace? Find(string? name) => name is null || InstalledFonts.Find(name) is not { } font ? null : _faces.TryGetValue(font.Name, out var face) ? face : _faces[font.Name] = new(font.Name, InstalledFonts.Open(font));

    /// <summary>The twelve, by given and family name.</summary>
    public static Roster TheTwelve { get; } = Twelve.Split('\n').Aggregate(Roster.New("Volunteers", "given", "family"), (roster, line) => roster.Adding(line.Split(' ', 2)));

    /// <summary>A roster of a size, as people of many places are called: accents, hyphens, apostrophes, two letters and thirty.</summary>
    public static Roster Made(int people, int seed, bool rightToLeft = false)
    {
        string[] given = ["Bo", "Ng", "Ada", "Zoë", "Renée", "Åse", "Łucja", "Iñigo", "Jean-Baptiste", "D'Arcy", "Björn", "Siobhán", "Marguerite-Anne", "Wilhelmina", "Ole", "Çağla", "Øyvind", "Tom", "Yi", "Maximiliane"];
        string[] family = ["Li", "Oz", "O'Hara", "Núñez", "Brandt", "van der Meulen", "Fothergill", "Quarrie-Achterberg", "Müller", "Sæther", "Þorvaldsdóttir", "Szczepański", "Montgomery-Featherstonehaugh", "Kim", "Jónsson", "D’Angelo", "St. Clair", "Ó Briain"];
        var random = new Random(seed);
        var roster = Roster.New("Made", "given", "family");
        for (var n = 0; n < people; n++)
            roster = rightToLeft && n % 50 == 7 ? roster.Adding(["נועה", "כהן"]) : roster.Adding([given[random.Next(given.Length)], family[random.Next(family.Length)]]);
        return roster;
    }

    /// <summary>The crest with a slot below it and a roster.</summary>
    public Job Job(Roster roster, string font = "Archivo", double width = 60, double height = 9, Func<NameSlot, NameSlot>? rules = null)
    {
        var slot = new NameSlot("{given} {family}", width, height, font);
        slot = rules?.Invoke(slot) ?? slot;
        var job = Core.Jobs.Job.FromDesign(null, Crest, new("wren-130", "130x180"));
        job = new TakeRoster(roster, null).Apply(job);
        return new AddNameSlot(NameRoll.Shown(job, null, slot, "Ottoline Marsh", this, Crest.Parts[0].Thread), new Placement(SlotMiddle.X, SlotMiddle.Y, 0)).Apply(job);
    }

    public GarmentFiles Files(Job job, SewingMachineModel machine, string hoop) => new(job, NameRoll.Of(job, this), this, StandInMachines.Catalogue, machine, machine.FindHoop(hoop)!, this, new());
}
