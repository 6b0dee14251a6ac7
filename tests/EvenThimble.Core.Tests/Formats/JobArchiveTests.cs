using System.Collections.Immutable;
using System.IO.Compression;
using EvenThimble.Core.Files.Jobs;
using EvenThimble.Core.Jobs;
using EvenThimble.Core.Planning;
using EvenThimble.Core.Shapes;
using EvenThimble.Core.Stitches;
using EvenThimble.Core.Text;
using EvenThimble.Scenario;

namespace EvenThimble.Core.Tests.Formats;

public class JobArchiveTests
{
    private static readonly StitchFile Design = MadeUp.File(7);

    private static JobArchive Archive()
    {
        var job = MadeUp.JobOf(Design).Job;
        job = job.With("sampler", Sampler.Make().Pieces[0].Content, Placement.AsItCame);
        return new(job, System.Collections.Immutable.ImmutableDictionary<BlobHash, StitchBlob>.Empty.Add(Design.Stitches.Hash, Design.Stitches), [new("rows.evth", [1, 2, 3])], [9, 9]);
    }

    [Fact]
    public void A_job_with_bought_and_drawn_parts_comes_back_the_same_with_all_its_stitches()
    {
        var archive = Archive();
        var back = JobArchive.FromBytes(archive.ToBytes());
        back.Job.ShouldBe(archive.Job);
        back.Stitches[Design.Stitches.Hash].ToBytes().ShouldBe(Design.Stitches.ToBytes());
        (back.Originals[0].Hash, back.Originals[0].FileName, back.Originals[0].Bytes.Length).ShouldBe((archive.Originals[0].Hash, "rows.evth", 3));
        back.Picture.ShouldBe([9, 9]);
        Sequencer.Plan(back.Job, new MadeUp.OneBlob(back.Stitches.Values.Single())).Records.Hash.ShouldBe(Sequencer.Plan(archive.Job, new MadeUp.OneBlob(Design.Stitches)).Records.Hash);
        archive.ToBytes().ShouldBe(archive.ToBytes());
    }

    [Fact]
    public void As_many_shapes_as_a_job_can_have_parts_come_back()
    {
        var content = (DrawingContent)Sampler.Make().Pieces[0].Content;
        var shape = content.Shapes[0];
        var many = Enumerable.Range(0, Job.MostParts).Select(i => new NewShape($"shape {i}", shape.Shape.Moved(p => p + new Core.Geometry.Point(i * 0.001, 0)), shape.Settings, shape.Thread, Placement.AsItCame));
        var job = new AddShapes("many", [.. many]).Apply(Job.New(Core.Machines.StandInMachines.Catalogue.UsualHoop));
        JobArchive.FromBytes(new JobArchive(job, System.Collections.Immutable.ImmutableDictionary<BlobHash, StitchBlob>.Empty, [], null).ToBytes()).Job.ShouldBe(job);
    }

    [Fact]
    public void A_design_of_as_many_parts_as_a_job_can_have_comes_back_and_a_run_longer_than_its_piece_does_not()
    {
        var design = MadeUp.Rows([.. Enumerable.Range(0, Job.MostParts).Select(i => (i % 100 * 1.0, i / 100 * 1.0, "one"))]);
        var job = MadeUp.JobOf(design).Job;
        MadeUp.Reread(job).ShouldBe(job);
        var json = JobDocument.ToJson(job);
        json.ShouldContain("\"run\":5000");
        Should.Throw<InvalidDataException>(() => JobDocument.FromJson(json.Replace("\"run\":5000", "\"run\":2000000000"), MadeUp.ShapesOf(), _ => null));
    }

    [Fact]
    public void Every_truncation_and_any_flipped_byte_gives_a_sentence_or_the_same_job()
    {
        var archive = Archive();
        var bytes = archive.ToBytes();
        for (var length = 0; length < bytes.Length; length += 97) Refused(bytes[..length]);
        var random = new Random(5);
        for (var i = 0; i < 1500; i++)
        {
            var damaged = (byte[])bytes.Clone();
            damaged[random.Next(damaged.Length)] ^= (byte)(1 << random.Next(8));
            try
            {
                // A bit of a picture, a time stamp or an original's name may change; what is sewn may not.
                var back = JobArchive.FromBytes(damaged);
                back.Stitches[Design.Stitches.Hash].ToBytes().ShouldBe(Design.Stitches.ToBytes());
            }
            catch (StitchFileException e)
            {
                e.Message.ShouldEndWith(".");
            }
        }
    }

    [Fact]
    public void A_file_that_swells_up_is_not_opened() => Refused(Zip(("job.json", new byte[40_000_000]))).ShouldContain("swells");

    [Fact]
    public void A_file_without_a_job_or_with_strange_stitches_is_not_opened()
    {
        Refused(Zip(("readme.txt", "hello"u8.ToArray()))).ShouldContain("no job in it");
        Refused(Zip(("job.json", "{}"u8.ToArray())));
        var good = JobDocument.ToJson(Archive().Job);
        Refused(Zip(("job.json", System.Text.Encoding.UTF8.GetBytes(good)))).ShouldContain("lacks shapes");
        Refused(Zip([("job.json", System.Text.Encoding.UTF8.GetBytes(good)), .. Shapes(Archive().Job)])).ShouldContain("stitches that are not there");
        Refused(Zip(("job.json", System.Text.Encoding.UTF8.GetBytes(good)), ($"stitches/{Design.Stitches.Hash.Hex}", new byte[8]))).ShouldContain("not what its name says");
        Refused(Zip([.. Enumerable.Range(0, (3 * Job.MostParts) + 1).Select(i => ($"stitches/{i}", Array.Empty<byte>()))])).ShouldContain("entries");
    }

    [Fact]
    public void Paths_in_a_file_are_only_names()
    {
        var job = Sampler.Make();
        var zip = Zip([("job.json", System.Text.Encoding.UTF8.GetBytes(JobDocument.ToJson(job))), .. Shapes(job), ("originals/3-../../evil.evth", [1]), ("../out.txt", [1]), ("originals/7-fine.evth", [1])]);
        JobArchive.FromBytes(zip).Originals.Select(o => o.FileName).ShouldBe(["fine.evth"]);
    }

    [Fact]
    public void Shapes_and_originals_that_are_not_what_their_name_says_are_not_taken()
    {
        var job = Sampler.Make();
        var document = ("job.json", System.Text.Encoding.UTF8.GetBytes(JobDocument.ToJson(job)));
        var shapes = Shapes(job).ToList();
        Refused(Zip([document, .. shapes.Skip(1), (shapes[0].Name, shapes[1].Bytes)])).ShouldContain("not what its name says");
        Refused(Zip([document, .. shapes, ($"originals/{new string('b', 64)}-x.evth", [1])])).ShouldContain("not what its name says");
        Refused(Zip([document, .. shapes, ($"fonts/{new string('b', 64)}-x.ttf", [1])])).ShouldContain("not what its name says");
    }

    [Fact]
    public void Fonts_travel_with_the_job_and_no_more_than_any_job_needs()
    {
        var job = Sampler.Make();
        var fonts = Enumerable.Range(0, 51).Select(n => new ArchivedOriginal($"font {n}.ttf", [(byte)n, 1, 2])).ToList();
        var archive = new JobArchive(job, ImmutableDictionary<BlobHash, StitchBlob>.Empty, [], null) { Fonts = [.. fonts.Take(3)] };
        JobArchive.FromBytes(archive.ToBytes()).Fonts.Select(f => (f.FileName, f.Hash)).ShouldBe(fonts.Take(3).Select(f => (f.FileName, f.Hash)));
        Refused((archive with { Fonts = [.. fonts] }).ToBytes()).ShouldContain("more than 50 fonts");
    }

    private static IEnumerable<(string Name, byte[] Bytes)> Shapes(Job job) => JobDocument.ShapesOf(job).Select(s => ($"shapes/{s.Hash.Hex}", ShapeBytes.Write(s)));

    private static string Refused(byte[] bytes)
    {
        var e = Should.Throw<StitchFileException>(() => JobArchive.FromBytes(bytes));
        e.Message.ShouldEndWith(".");
        return e.Message;
    }

    private static byte[] Zip(params (string Name, byte[] Bytes)[] entries)
    {
        using var stream = new MemoryStream();
        using (var zip = new ZipArchive(stream, ZipArchiveMode.Create, true))
            foreach (var (name, bytes) in entries)
            {
                using var entry = zip.CreateEntry(name).Open();
                entry.Write(bytes);
            }

        return stream.ToArray();
    }
}
