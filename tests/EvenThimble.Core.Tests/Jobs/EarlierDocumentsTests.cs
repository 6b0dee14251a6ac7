using EvenThimble.Core.Craft;
using EvenThimble.Core.Digitizing.Lines;
using EvenThimble.Core.Files.Jobs;
using EvenThimble.Core.Jobs;
using EvenThimble.Core.Planning;
using EvenThimble.Core.Stitches;

namespace EvenThimble.Core.Tests.Jobs;

/// <summary>Documents as earlier versions of the program wrote them, kept as files; what they say must be the same today.</summary>
public class EarlierDocumentsTests
{
    private static string Sample(string name) => Path.Combine(AppContext.BaseDirectory, "Data", "jobs", name);

    private static Job Read(string name, Func<long, string?>? originals = null) => JobDocument.FromJson(File.ReadAllText(Sample(name)), MadeUp.ShapesOf(), originals ?? (_ => null));

    [Theory]
    [InlineData("version-1.json")]
    [InlineData("version-2.json")]
    public void A_bought_design_of_an_early_document_is_a_piece_with_its_content(string name)
    {
        var job = Read(name, id => id == 7 ? MadeUp.Original : null);
        job.Title.ShouldBe("Tags for the gate");
        (job.Hoop.MachineId, job.Hoop.HoopId, job.Cloth.Profile).ShouldBe(("heron-200", "130x180", ClothProfiles.Cotton));
        job.Pieces.Length.ShouldBe(1);
        var content = job.Pieces[0].Content.ShouldBeOfType<DesignContent>();
        content.Original.ShouldBe(MadeUp.Original);
        content.Divided.Length.ShouldBe(job.Order.Count);
        job.Order.ShouldAllBe(p => p.Source is PartSource.OfPiece);
        (job.NextPart, job.NextPiece).ShouldBe((job.Order.Count + 1, 2));

        // What had been done to the parts is done to them still.
        job.Order.Select(p => p.Role).Take(3).ShouldBe([PartRole.PlacementLine, PartRole.TackDown, PartRole.Decoration]);
        (job.Order[0].Placement.X, job.Order[0].Placement.Y).ShouldBe((12.5, -3));
        (job.Order[1].Placement.X, job.Order[1].Placement.Y, job.Order[1].Placement.TurnDegrees, job.Order[1].Hidden).ShouldBe((3, 12.5, 90, true));
        (job.Order[2].Thread.Label, job.Order[2].Name, job.Order[2].Locked).ShouldBe(("Fenlight 1001 Chalk", "Chalk", true));
        MadeUp.Reread(job).ShouldBe(job);
    }

    [Fact]
    public void Drawn_parts_of_version_2_are_shapes_of_one_drawing()
    {
        var job = Read("version-2-drawn.json");
        var drawing = job.Pieces.Single().Content.ShouldBeOfType<DrawingContent>();
        drawing.Shapes.Select(s => s.Settings.Way).ShouldBe([StitchWay.Run, StitchWay.TripleRun, StitchWay.MotifRow, StitchWay.LineSatin]);
        (drawing.Shapes[2].Settings.Motif, drawing.Shapes[2].Settings.MotifLengthMm, drawing.Shapes[3].Settings.WidthMm).ShouldBe(("petals", 7.5, 3.4));
        job.Order.Select(p => p.Placement.X).ShouldBe([-70.5, -23.5, 23.5, 70.5]);
        job.Order.ShouldAllBe(p => p.Source is PartSource.OfPiece && p.OwnName == null && p.OwnThread == null);
        MadeUp.Reread(job).ShouldBe(job);
    }

    [Fact]
    public void An_archive_of_version_3_sews_every_stitch_as_it_did()
    {
        // Its bought stitches as they were, but for rows at a size, which are as many as lead from their beginning to their end today, and for rows at a tip that were taken for throws; its last parts are drawn, and are laid as the engine lays them today; what is covered is told as it is told today.
        var archive = JobArchive.FromBytes(File.ReadAllBytes(Sample("version-3.evjob")));
        var expected = File.ReadAllLines(Sample("version-3-plan.txt"));
        foreach (var job in new[] { archive.Job, MadeUp.Reread(archive.Job) })
        {
            var plan = Sequencer.Plan(job, new Archived(archive));
            plan.Records.Hash.Hex.ShouldBe(expected[0]);
            plan.Parts.Select(p => $"{p.Id.Value}|{p.Name}|{p.Thread.Label}|{p.Role}|{p.First}|{p.Count}").ShouldBe(expected[1..]);
            (job.ShortTitle, job.SewsOnlySeen, job.Hoop.HoopId, job.Cloth.Profile.Topping).ShouldBe(("ALL AT ONCE", true, "360x200", "net"));
        }

        archive.Job.Pieces.Select(p => p.Content).OfType<DesignContent>().ShouldAllBe(d => archive.Originals.Any(o => o.Hash == d.Original));
        JobArchive.FromBytes(archive.ToBytes()).Job.ShouldBe(archive.Job);
    }

    private sealed class Archived(JobArchive archive) : IStitchSource
    {
        public StitchBlob Get(BlobHash hash) => archive.Stitches[hash];
    }
}
