using System.Collections.Immutable;
using System.IO.Compression;
using EvenThimble.Core.Files.Jobs;
using EvenThimble.Core.Files.Letters;
using EvenThimble.Core.Files.Stitch;
using EvenThimble.Core.Jobs;
using EvenThimble.Core.Lettering;
using EvenThimble.Core.LetterSets;
using EvenThimble.Core.Machines;
using EvenThimble.Core.Stitches;
using EvenThimble.Core.Text;
using EvenThimble.Scenario;
using EvenThimble.Storage;
using EvenThimble.Web.Workroom;

namespace EvenThimble.App.Tests;

/// <summary>Letter sets as archives and folders, on the disk, and on the command line.</summary>
public class LetterSetFilesTests : WithDatabase
{
    private static readonly Lazy<ImmutableArray<CameFile>> Orbit = new(() => [.. OrbitBlock.Files.Take(14).Select(f => new CameFile(f.FileName, StitchFormats.Write(StitchFileKind.Evth2, f.Draw())))]);

    [Fact]
    public void A_set_with_its_corrections_travels_as_one_file()
    {
        var (set, files) = LetterSetArchive.Read("Orbit", Orbit.Value);
        var mended = set.With(files[0].Path, new() { RaisedMm = 1.5, LeftMm = -0.25, Character = "Å" }).With(files[1].Path, new() { LeftOut = true, UsualThread = true }) with { Unsaid = LetterCase.Small };
        var bytes = LetterSetArchive.ToBytes(mended, files);
        LetterSetArchive.ToBytes(mended, files).ShouldBe(bytes, "the same content gives the same bytes");
        var (back, _) = LetterSetArchive.Read("other", LetterSetFiles.OfZip(bytes));
        back.Name.ShouldBe("Orbit");
        back.Unsaid.ShouldBe(LetterCase.Small);
        back.Mended.ShouldBe(mended.Mended);
        back.Files.Select(f => f.Path).ShouldBe(mended.Files.Select(f => f.Path));
        back.Files.Select(f => f.Design!.Stitches.Hash).ShouldBe(mended.Files.Select(f => f.Design!.Stitches.Hash));
    }

    [Fact]
    public void An_archive_with_folders_by_size_is_one_set_of_several_sizes()
    {
        var zip = Zip([.. new[] { ("Rose/25mm", 0), ("Rose/50mm", 3) }.SelectMany(s => Orbit.Value.Skip(s.Item2).Take(8).Select(f => ($"{s.Item1}/{f.Path}", f.Bytes))), ("__MACOSX/._x", [1, 2]), ("Rose/.DS_Store", [1]), ("Rose/read me.txt", "hello"u8.ToArray())]);
        var set = LetterSet.Of(LetterSetArchive.Read("Rose", LetterSetFiles.OfZip(zip)).Set);
        set.Sizes.Length.ShouldBe(2);
        set.Files.Count(f => f.Letter is not null).ShouldBe(16);
        set.Files.Single(f => f.File.Path == "read me.txt").Trouble!.ShouldContain("not a stitch file");
    }

    [Theory]
    [InlineData("../../outside/A.evth", "outside/A.evth")]
    [InlineData("C:\\letters\\B.evth", "C:/letters/B.evth")]
    [InlineData("//x//./y.evth", "x/y.evth")]
    [InlineData("..", "unnamed")]
    public void Paths_of_archives_name_letters_and_lead_nowhere(string path, string kept) => LetterSetFiles.Cleaned(path).ShouldBe(kept);

    [Fact]
    public void Damaged_and_hostile_archives_are_refused_in_a_sentence()
    {
        var good = LetterSetArchive.ToBytes(LetterSetArchive.Read("Orbit", Orbit.Value).Set, Orbit.Value);
        foreach (var cut in new[] { 10, good.Length / 2, good.Length - 30 }) Should.Throw<StitchFileException>(() => LetterSetFiles.OfZip(good[..cut])).Message.ShouldContain("damaged");
        Should.Throw<StitchFileException>(() => LetterSetFiles.OfZip(Zip(("A.evth", new byte[40 << 20])))).Message.ShouldContain("swells up");
        Should.Throw<StitchFileException>(() => LetterSetFiles.OfZip(Zip([.. Enumerable.Range(0, LetterSetSource.MostFiles + 5).Select(i => ($"{i}.evth", new byte[] { 1 }))]))).Message.ShouldContain("at most 2,000");
        foreach (var json in new[] { "{", "[]", "{\"version\":1,\"files\":{\"orbit_block_A.evth\":null}}", "{\"version\":1,\"files\":{\"orbit_block_A.evth\":{\"raised_mm\":1e9}}}", "{\"version\":1,\"files\":{\"orbit_block_A.evth\":{\"character\":\"AB\"}}}" })
            Should.Throw<StitchFileException>(() => LetterSetArchive.Read("x", [new("set.json", System.Text.Encoding.UTF8.GetBytes(json)), .. Orbit.Value]));
        Should.Throw<StitchFileException>(() => LetterSetArchive.Read("x", [new("set.json", "{\"version\":9}"u8.ToArray())])).Message.ShouldContain("later version");

        // Files that are damaged are told one by one, and the others are letters.
        var random = new Random(3);
        var damaged = Orbit.Value.Select((f, i) => i % 3 == 0 ? f with { Bytes = [.. f.Bytes.Take(random.Next(f.Bytes.Length))] } : f).ToImmutableArray();
        var set = LetterSet.Of(LetterSetArchive.Read("Odd", damaged).Set);
        set.Files.Count(f => f.Trouble is not null).ShouldBeGreaterThanOrEqualTo(4);
        set.Files.Count(f => f.Letter is not null).ShouldBeGreaterThanOrEqualTo(9);
    }

    [Fact]
    public void A_job_written_with_a_set_is_stored_travels_and_sews_the_same_without_it()
    {
        var store = new LetterSetStore(Database, TimeProvider.System);
        var sets = new LetterSets(store);
        var line = sets.Add("Orbit Block", Orbit.Value);
        sets.Add("Orbit Block", Orbit.Value).Name.ShouldBe("Orbit Block 2");
        var set = sets.Find("orbit block")!;
        var content = LetterSetContent.Lay(new("ABBA CD") { CapitalMm = 14 }, set, new(null, Joined: true));
        var id = Jobs.Create(new AddLettering(content, Placement.AsItCame).Apply(Job.New(StandInMachines.Catalogue.HoopFor(default))), "Written");
        var blobs = new BlobStore(Database);
        var before = Core.Planning.Sequencer.Plan(Jobs.Find(id)!.Job, blobs).Records;
        Jobs.Find(id)!.Job.Pieces[0].Content.ShouldBe(content);

        // What is put right holds on, guarded by the version.
        sets.Mend(line.Id, line.Version, s => s.With(s.Files[0].Path, new() { RaisedMm = 2 }));
        Should.Throw<EditRefusedException>(() => sets.Mend(line.Id, line.Version, s => s with { Name = "Other" })).Message.ShouldContain("changed in another window");
        sets.Find(line.Id)!.Set.Source.MendingOf(Orbit.Value[0].Path).RaisedMm.ShouldBe(2);

        // The set goes; the job keeps its letters, after a new start too.
        sets.Remove(line.Id).ShouldBe("Orbit Block");
        Restart();
        var job = Jobs.Find(id)!.Job;
        blobs = new BlobStore(Database);
        Core.Planning.Sequencer.Plan(job, blobs).Records.Hash.ShouldBe(before.Hash);
        var archive = new JobArchive(job, JobDocument.StitchesOf(job).ToImmutableDictionary(h => h, blobs.Get), [], null);
        JobArchive.FromBytes(archive.ToBytes()).Job.ShouldBe(job);
    }

    [Fact]
    public void Words_and_monograms_are_made_on_the_command_line()
    {
        var folder = Directory.CreateTempSubdirectory("letters").FullName;
        try
        {
            foreach (var file in Orbit.Value) File.WriteAllBytes(Path.Combine(folder, file.Path), file.Bytes);
            var word = Path.Combine(folder, "out", "word.evth");
            var (code, says, errors) = Run("word", "FACED", "--set", folder, "--width", "70", "--one-thread", "-o", word);
            code.ShouldBe(0, errors);
            says.ShouldContain("“D” lay 1.6 mm below the baseline");
            var written = StitchFormats.Read(File.ReadAllBytes(word), "word.evth").File;
            written.Bounds.Width.ShouldBe(70, 0.3);
            written.Parts.Length.ShouldBe(1);
            written.Parts[0].Role.ShouldBe(PartRole.Lettering);
            Run("word", "FAQ", "--set", folder, "-o", Path.Combine(folder, "out", "faq.evth")).Says.ShouldContain("has no Q; a gap is left there");
            Run("word", "A", "--set", Path.Combine(folder, "nothing"), "-o", word).Code.ShouldBe(1);
            Run("word", "A", "--set", folder, "--width", "50", "--height", "20", "-o", word).Code.ShouldBe(2);
            var monogram = Path.Combine(folder, "out", "m.evth");
            Run("monogram", "OMB", "--layout", "diamond", "--frame", "pearls", "--size", "75", "-o", monogram).Code.ShouldBe(0);
            var made = StitchFormats.Read(File.ReadAllBytes(monogram), "m.evth").File;
            Math.Max(made.Bounds.Width, made.Bounds.Height).ShouldBe(75, 0.15);
            made.Parts.Select(p => p.Role).ShouldBe([PartRole.Lettering, PartRole.Lettering, PartRole.Lettering, PartRole.Decoration]);
            Run("monogram", "OMB", "--layout", "pentagram", "-o", monogram).Errors.ShouldContain("no layout");
            Run("monogram", "OMB", "--frame", "ring", "--size", "9", "--force", "-o", monogram).Errors.ShouldContain("no room for letters");
        }
        finally
        {
            Directory.Delete(folder, recursive: true);
        }
    }

    private static (int Code, string Says, string Errors) Run(params string[] args)
    {
        var (says, errors) = (new StringWriter(), new StringWriter());
        return (Cli.CommandLine.Run(args, says, errors), says.ToString(), errors.ToString());
    }

    private static byte[] Zip(params IEnumerable<(string Name, byte[] Bytes)> files)
    {
        using var bytes = new MemoryStream();
        using (var zip = new ZipArchive(bytes, ZipArchiveMode.Create, leaveOpen: true))
        {
            foreach (var (name, content) in files)
            {
                using var entry = zip.CreateEntry(name).Open();
                entry.Write(content);
            }
        }

        return bytes.ToArray();
    }
}
