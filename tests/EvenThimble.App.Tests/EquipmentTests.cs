using EvenThimble.Core.Files;
using EvenThimble.Core.Files.Stitch;
using EvenThimble.Core.Machines;
using EvenThimble.Core.Stitches;
using EvenThimble.Core.Tests;
using EvenThimble.Core.Threads;
using EvenThimble.Equipment;
using EvenThimble.Scenario;

namespace EvenThimble.App.Tests;

public sealed class EquipmentTests : IDisposable
{
    private readonly string _folder = Directory.CreateTempSubdirectory("thimble-").FullName;
    private readonly EquipmentRoom _room;

    public EquipmentTests() => _room = new(_folder, StandInMachines.Catalogue);

    public void Dispose() => Directory.Delete(_folder, recursive: true);

    [Fact]
    public void Each_machine_lists_the_kind_it_reads_and_says_why_not_the_others()
    {
        var small = Rows(100, 8) with { Title = "Rows" };
        foreach (var kind in StitchFormats.Kinds)
        {
            var bytes = StitchFormats.Write(kind, small);
            foreach (var machine in _room.Machines)
            {
                var listing = machine.Look("rows" + kind.Extension, bytes.Length, () => bytes);
                listing.Listed.ShouldBe(machine.Model.Takes.Contains(kind), $"{kind.Name} in {machine.Model.Name}");
                if (!listing.Listed) listing.Why!.ShouldEndWith(".");
            }
        }
    }

    [Theory]
    [InlineData("a name that is too long for it.evth", "file name")]
    [InlineData("mönd.evth", "file name")]
    public void The_oldest_machine_shows_only_short_plain_names(string name, string why) => Listed("wren-130", name, Rows(50, 5)).Why!.ShouldContain(why);

    [Fact]
    public void Titles_sizes_counts_and_changes_beyond_a_machine_are_named()
    {
        Listed("wren-130", "a.evth", Rows(50, 5) with { Title = "A title beyond sixteen" }).Why!.ShouldContain("title");
        Listed("wren-130", "a.evth", Rows(300, 5)).Why!.ShouldContain("too large");
        Listed("wren-130", "a.evth", Rows(60, 5, offset: 60)).Why!.ShouldContain("middle");
        Listed("wren-130", "a.evth", Rows(150, 5)).Why!.ShouldContain("turned by 90°");
        Listed("wren-130", "a.evth", Rows(40, 50_000)).Why!.ShouldContain("50,000");
        Listed("wren-130", "a.evth", Rows(40, 60, parts: 30)).Why!.ShouldContain("29 thread changes");
        Listed("wren-130", "a.evth", Rows(40, 60, parts: 25)).Listed.ShouldBeTrue();
        Listed("starling-eight", "ä very long name of a file, for eight heads.evth", Rows(340, 500)).Listed.ShouldBeTrue();
    }

    [Fact]
    public void A_damaged_file_is_not_listed_and_its_damage_is_told()
    {
        var bytes = StitchFormats.Write(StitchFileKind.Evth2, DemoDesigns.All[2].Drawn());
        bytes[5000] ^= 1;
        _room.Machine("heron-200")!.Look("planet.evth", bytes.Length, () => bytes).Why!.ShouldContain("checksum");
    }

    [Theory]
    [InlineData("../escape.evth")]
    [InlineData("/etc/escape.evth")]
    [InlineData("a\\b.evth")]
    [InlineData(".hidden")]
    [InlineData("")]
    [InlineData("line\nbreak.evth")]
    [InlineData(" x.evth")]
    public void No_name_leads_out_of_the_drawer(string name)
    {
        var drawer = _room.Stick("blue")!.Drawer;
        Should.Throw<EquipmentException>(() => drawer.Put(name, [1], replace: true)).Message.ShouldContain("not possible");
        Should.Throw<EquipmentException>(() => drawer.Read(name));
        drawer.Delete(name).ShouldBeFalse();
        Directory.EnumerateFiles(_folder, "*", SearchOption.AllDirectories).ShouldBeEmpty();
    }

    [Fact]
    public void Nothing_is_replaced_unless_it_was_asked_for()
    {
        var drawer = _room.Stick("blue")!.Drawer;
        drawer.Put("a.evth", [1], replace: false);
        Should.Throw<EquipmentException>(() => drawer.Put("A.EVTH", [2], replace: false)).Message.ShouldContain("already");
        drawer.Read("a.evth").ShouldBe([1]);
        drawer.FreeName("a.evth").ShouldBe("a-2.evth");
        drawer.Put("A.EVTH", [2, 2], replace: true);
        drawer.Files().Select(f => (f.Name, f.Bytes)).ShouldBe([("a.evth", 2L)]);
    }

    [Fact]
    public void A_full_stick_says_what_is_missing_and_keeps_what_it_has()
    {
        var drawer = new FileDrawer(Path.Combine(_folder, "tiny"), capacity: 1000);
        drawer.Put("a.evth", new byte[800], replace: false);
        Should.Throw<EquipmentException>(() => drawer.Put("b.evth", new byte[300], replace: false)).Message.ShouldContain("no room");
        Should.Throw<EquipmentException>(() => drawer.Put("a.evth", new byte[1100], replace: true));
        drawer.Put("a.evth", new byte[1000], replace: true);
        drawer.Used.ShouldBe(1000);
    }

    [Fact]
    public void What_is_being_written_is_not_listed_and_a_failed_write_leaves_nothing()
    {
        var drawer = _room.Machine("heron-200")!.Memory;
        drawer.Put("a.evth", [1], replace: false);
        File.WriteAllBytes(Path.Combine(_folder, "machines", "heron-200", ".half.part"), [1]);
        drawer.Files().Count.ShouldBe(1);
        Should.Throw<IOException>(() => AtomicFile.Write(Path.Combine(_folder, "no such folder", "x"), [1]));
        Directory.EnumerateFiles(_folder, "*.part", SearchOption.AllDirectories).Count().ShouldBe(1);
    }

    private MachineListing Listed(string machine, string name, StitchFile file)
    {
        var target = _room.Machine(machine)!;
        var bytes = StitchFormats.Write(target.Model.Takes[0], file);
        target.Memory.Put(name, bytes, replace: true);
        return target.List().Single(l => l.FileName == name);
    }

    /// <summary>A zigzag of a width (mm) with so many stitches, in parts of different threads.</summary>
    private static StitchFile Rows(double width, int stitches, int parts = 1, double offset = 0)
    {
        var builder = new StitchBuilder();
        var made = new List<StitchFilePart>();
        for (var p = 0; p < parts; p++)
        {
            var first = builder.Count;
            for (var i = 0; i < stitches / parts; i++) builder.Stitch(new(offset - (width / 2) + (i % 2 == 0 ? 0 : width), (i % 50) - 25));
            made.Add(new(first, builder.Count - first, SewingThread.Unnamed(p), PartRole.Decoration));
        }

        return new("Rows", builder.ToBlob(), [.. made]);
    }

    [Fact]
    public void Twenty_files_of_one_name_at_once_are_twenty_files_and_a_stick_never_holds_more_than_fits()
    {
        var drawer = new FileDrawer(Path.Combine(_folder, "shared"));
        Parallel.For(0, 20, i => drawer.PutBeside("same.evth", [(byte)i]));
        drawer.Files().Count.ShouldBe(20);
        drawer.Files().Select(f => drawer.Read(f.Name)[0]).Order().ShouldBe(Enumerable.Range(0, 20).Select(i => (byte)i));

        var stick = new FileDrawer(Path.Combine(_folder, "small"), capacity: 2_000_000);
        var refused = 0;
        Parallel.For(0, 12, i =>
        {
            try
            {
                stick.Put($"{i}.evth", new byte[300_000], replace: false);
            }
            catch (EquipmentException)
            {
                Interlocked.Increment(ref refused);
            }
        });
        (stick.Files().Count, refused).ShouldBe((6, 6));
        stick.Used.ShouldBeLessThanOrEqualTo(2_000_000);
    }

    [Fact]
    public void Links_pipes_folders_and_files_that_vanish_do_no_harm()
    {
        var folder = Directory.CreateDirectory(Path.Combine(_folder, "strange")).FullName;
        var machine = new SewingMachine(() => StandInMachines.Wren130, new FileDrawer(folder));
        File.CreateSymbolicLink(Path.Combine(folder, "broken.evth"), "/nowhere/at/all");
        File.CreateSymbolicLink(Path.Combine(folder, "out.evth"), "/etc/hostname");
        Directory.CreateDirectory(Path.Combine(folder, "folder.evth"));
        System.Diagnostics.Process.Start("mkfifo", Path.Combine(folder, "pipe.evth")).WaitForExit();
        using (var huge = File.Create(Path.Combine(folder, "huge.evth"))) huge.SetLength(5L << 30);
        File.WriteAllBytes(Path.Combine(folder, "fine.csv"), [1]);
        machine.List().Select(l => l.FileName).ShouldBe(["fine.csv", "huge.evth"]);
        machine.List().Single(l => l.FileName == "huge.evth").Why!.ShouldContain("larger");
        foreach (var name in new[] { "out.evth", "pipe.evth", "../secret", "none.evth" }) Should.Throw<EquipmentException>(() => machine.Memory.Read(name));
        machine.Memory.ShouldSatisfyAllConditions(m => m.Delete("out.evth").ShouldBeFalse(), m => Should.Throw<EquipmentException>(() => m.Put("out.evth", [1], replace: true)));
        File.Exists("/etc/hostname").ShouldBeTrue();

        File.WriteAllBytes(Path.Combine(folder, "going.evth"), [1, 2]);
        var listed = machine.Memory.Files();
        File.Delete(Path.Combine(folder, "going.evth"));
        machine.ListOf(machine.Memory, listed).Single(l => l.FileName == "going.evth").Why.ShouldNotBeNull();
    }
}
