using System.Collections.Immutable;
using EvenThimble.Core.Colour;
using EvenThimble.Core.Craft;
using EvenThimble.Core.Files.Letters;
using EvenThimble.Core.Files.Stitch;
using EvenThimble.Core.Jobs;
using EvenThimble.Core.LetterSets;
using EvenThimble.Core.Machines;
using EvenThimble.Core.Stitches;
using EvenThimble.Scenario;
using EvenThimble.Storage;

namespace EvenThimble.Web.Workroom;

/// <summary>Fills an empty data folder with the shelf of Larkmoor Observatory's volunteers.</summary>
public sealed class DemoScenario(bool wanted)
{
    private const int NightDenim = 0x2C3A57;

    // Drawn and read once, however often a server starts.
    private static readonly Made<(LetterSetSource Set, ImmutableArray<CameFile> Files)> Letters =
        new(() => LetterSetArchive.Read(OrbitBlock.Name, [.. OrbitBlock.Files.Select(f => new CameFile(f.FileName, StitchFormats.Write(StitchFileKind.Evth2, f.Draw())))]));

    /// <summary>Does nothing unless it is wanted and there is neither a design nor a job.</summary>
    public void FillIfEmpty(IServiceProvider services)
    {
        var (designs, jobs) = (services.GetRequiredService<DesignStore>(), services.GetRequiredService<JobStore>());
        if (!wanted || designs.All().Count > 0 || jobs.All().Count > 0) return;
        var importer = services.GetRequiredService<Importer>();
        foreach (var demo in DemoDesigns.All.Reverse()) importer.Import(demo.FileName, StitchFormats.Write(StitchFileKind.Evth2, demo.Draw()), demo.Tags);
        services.GetRequiredService<LetterSetStore>().Add(Letters.Value.Set, Letters.Value.Files);
        services.GetRequiredService<RosterStore>().Add(VolunteersRoster.Roster);
        var racks = services.GetRequiredService<RackStore>();
        racks.Rename(racks.Racks[0].Id, VolunteersRack.Name);
        racks.Put(racks.Racks[0].Id, VolunteersRack.Cones);
        var comet = designs.All().First(d => d.FileName == DemoDesigns.All[0].FileName);
        var file = designs.Load(comet.Id, services.GetRequiredService<BlobStore>())!;
        var job = Job.FromDesign(comet.OriginalHash, file, services.GetRequiredService<MachineCatalogue>().HoopFor(file.Bounds));
        jobs.Create(job with { Cloth = new(ClothProfiles.Find("denim")!, Rgb.FromInt(NightDenim)) }, $"Opened {comet.Title}");
        jobs.Create(Sampler.Make(), "Made a sampler of every kind of stitch");
    }
}
