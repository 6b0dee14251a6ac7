using EvenThimble.Core.Colour;
using EvenThimble.Core.Jobs;
using EvenThimble.Core.Lettering;
using EvenThimble.Core.Machines;
using EvenThimble.Core.Planning;
using EvenThimble.Core.Stitches;
using EvenThimble.Core.Tests;
using EvenThimble.Equipment;
using EvenThimble.Scenario;
using EvenThimble.Storage;
using EvenThimble.Web.Look;
using EvenThimble.Web.Workroom;

namespace EvenThimble.App.Tests;

/// <summary>Words and numbers as screens show them, and the way of a file to a machine.</summary>
public sealed class LookTests : IDisposable
{
    private readonly string _folder = Directory.CreateTempSubdirectory("thimble-").FullName;

    public void Dispose() => Directory.Delete(_folder, recursive: true);

    [Theory]
    [InlineData(0.2, "1 min")]
    [InlineData(19.6, "20 min")]
    [InlineData(59.8, "1 h 00 min")]
    [InlineData(125, "2 h 05 min")]
    public void Time_is_told_in_hours_and_minutes(double minutes, string text) => Ui.Minutes(minutes).ShouldBe(text);

    [Theory]
    [InlineData(0, "just now")]
    [InlineData(1, "1 minute ago")]
    [InlineData(59, "59 minutes ago")]
    [InlineData(60, "1 hour ago")]
    [InlineData(60 * 30, "22 Nov 2026, 06:00")]
    public void The_past_is_told_as_people_do(int minutes, string text)
    {
        var now = new DateTimeOffset(2026, 11, 23, 12, 0, 0, TimeSpan.Zero);
        Ui.Ago(now.AddMinutes(-minutes), now).ShouldBe(text);
    }

    [Fact]
    public void Numbers_agree_with_their_words()
    {
        Ui.Of(1, "stitch", "stitches").ShouldBe("1 stitch");
        Ui.Of(8_172, "stitch", "stitches").ShouldBe("8,172 stitches");
        Ui.Of(0, "part").ShouldBe("0 parts");
        Ui.Swatch(Rgb.FromInt(0x2F4B7C)).ToString()!.ShouldContain("fill=\"#2f4b7c\"");
    }

    [Theory]
    [InlineData("wren-130", "Comet dome.evth", true)]
    [InlineData("wren-130", "Comet over the dome.evth", false)]
    [InlineData("wren-130", "Komet über.evth", false)]
    [InlineData("wren-130", ".evth", false)]
    [InlineData("heron-200", "Komet über dem Dom, für Tamsin.evth", true)]
    [InlineData("heron-200", "comet.csv", false)]
    public void Each_machine_has_its_own_rule_for_names(string machine, string name, bool fine) =>
        (HandOver.NameRefused(StandInMachines.Catalogue.Find(machine)!, name) is null).ShouldBe(fine);

    private ThreadBox Box()
    {
        var database = Database.Open(Path.Combine(_folder, "data"));
        return new(new(database), new(database, TimeProvider.System), new(database));
    }

    [Fact]
    public void Each_machine_is_planned_the_kind_it_reads_with_the_reason_and_what_is_lost()
    {
        var desk = new HandOver(new EquipmentRoom(_folder, StandInMachines.Catalogue), new NoFonts(), StandInMachines.Catalogue, Box());
        var job = Open(DemoDesigns.All[2].Drawn());
        var wren = desk.PlanFor(job, StandInMachines.Wren130);
        (wren.Kind, wren.FileName, wren.InTrouble, wren.Field.Id).ShouldBe((StitchFileKind.Evth1, "Ringed planet.evth", false, "130x180"));
        wren.Losses.ShouldNotBeEmpty();
        var starling = desk.PlanFor(job, StandInMachines.StarlingEight);
        starling.Kind.ShouldBe(StitchFileKind.Evth2);
        starling.Why.ShouldContain("G-code");
        starling.Losses.ShouldBeEmpty();
        desk.PlanFor(Open(DemoDesigns.All[^1].Drawn()), StandInMachines.Wren130).InTrouble.ShouldBeTrue();
    }

    [Fact]
    public void What_is_delivered_arrives_byte_for_byte_and_a_full_stick_is_told()
    {
        var room = new EquipmentRoom(_folder, StandInMachines.Catalogue);
        var desk = new HandOver(room, new NoFonts(), StandInMachines.Catalogue, Box());
        var job = Open(DemoDesigns.All[2].Drawn());
        var plan = desk.PlanFor(job, StandInMachines.Heron200);
        var arrival = desk.Deliver(job, plan, plan.Hoopings[0], "planet.evth", "brass", replace: false);
        (arrival.Done, arrival.Listing!.Listed, arrival.Where).ShouldBe((true, true, "Brass stick"));
        room.Stick("brass")!.Drawer.Read("planet.evth").ShouldBe(desk.Write(job, plan, plan.Hoopings[0]));
        desk.Deliver(job, plan, plan.Hoopings[0], "planet.evth", "brass", replace: false).Says.ShouldContain("already");
        desk.Deliver(job, plan, plan.Hoopings[0], "planet.evth", "nowhere", replace: false).Done.ShouldBeFalse();
        room.Stick("brass")!.Drawer.Put("photos.zip", new byte[2 * 1024 * 1024 - 100_000], replace: false);
        var full = desk.Deliver(job, plan, plan.Hoopings[0], "second.evth", "brass", replace: false);
        (full.Done, full.Listing).ShouldBe((false, null));
        full.Says.ShouldContain("no room");
        room.Stick("brass")!.Drawer.Has("second.evth").ShouldBeFalse();
    }

    private static OpenJob Open(StitchFile design)
    {
        var job = Job.FromDesign(null, design, StandInMachines.Catalogue.HoopFor(design.Bounds));
        return new(new StoredJob(1, 1, 0, null, null, "Opened", job), Sequencer.Plan(job, new OneBlob(design.Stitches)), new NoFonts(), StandInMachines.Catalogue);
    }

    private sealed class NoFonts : ILetterFaces
    {
        public LetterFace? Find(string? name) => null;
    }

    private sealed class OneBlob(StitchBlob blob) : IStitchSource
    {
        public StitchBlob Get(BlobHash hash) => blob;
    }
}
