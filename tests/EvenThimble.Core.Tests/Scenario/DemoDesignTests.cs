using EvenThimble.Core.Machines;
using EvenThimble.Core.Stitches;
using EvenThimble.Scenario;

namespace EvenThimble.Core.Tests.Scenario;

/// <summary>What the scenario's designs must be so that they would sew well.</summary>
public class DemoDesignTests
{
    private const string Large = "Larkmoor by night";

    public static TheoryData<string> Names() => [.. DemoDesigns.All.Select(d => d.FileName)];

    [Theory]
    [MemberData(nameof(Names))]
    public void Each_design_has_its_size_and_no_stitch_that_would_break_thread(string name)
    {
        var design = Draw(name);
        design.StitchCount.ShouldBeInRange(design.Title == Large ? 100_000 : 3_000, design.Title == Large ? 130_000 : 20_000);
        var lengths = Lengths(design).ToList();
        lengths.Max().ShouldBeLessThanOrEqualTo(7.5);
        (lengths.Count(l => l < 0.4) / (double)lengths.Count).ShouldBeLessThan(0.01);
    }

    [Theory]
    [MemberData(nameof(Names))]
    public void Each_design_fits_a_machine_of_the_scenario_where_it_lies_or_turned_or_over_the_positions_of_a_long_hoop(string name)
    {
        var bounds = Draw(name).Bounds;
        StandInMachines.Catalogue.All.ShouldContain(m => m.SmallestHoopFor(bounds.Width, bounds.Height) != null || m.Hoops.Any(h => bounds.Width <= h.Whole.Width && bounds.Height <= h.Whole.Height));
    }

    [Fact]
    public void The_banner_is_as_large_as_it_is_said_to_be()
    {
        var bounds = Draw("constellation-banner.evth").Bounds;
        bounds.Width.ShouldBe(118, 0.3);
        bounds.Height.ShouldBe(285, 0.3);
    }

    [Theory]
    [MemberData(nameof(Names))]
    public void No_long_jump_leaves_its_thread_on_the_cloth(string name)
    {
        var stitches = Draw(name).Stitches;
        for (var i = 1; i < stitches.Count; i++)
            if (stitches.Kinds[i] == StitchKind.Jump && stitches.At(i).DistanceTo(stitches.At(i - 1)) > 3)
                (i == 1 || stitches.Kinds[i - 1] is StitchKind.Trim or StitchKind.Stop).ShouldBeTrue($"jump at record {i}");
    }

    [Theory]
    [MemberData(nameof(Names))]
    public void Each_design_is_drawn_the_same_every_time(string name) => DemoDesigns.All.First(d => d.FileName == name).Draw().Stitches.Hash.ShouldBe(Draw(name).Stitches.Hash);

    [Fact]
    public void The_applique_lays_marks_holds_and_covers_in_that_order()
    {
        var roles = Draw("crescent-moon-applique.evth").Parts.Select(p => p.Role).ToList();
        roles.Take(6).ShouldBe([PartRole.PlacementLine, PartRole.TackDown, PartRole.PlacementLine, PartRole.TackDown, PartRole.Cover, PartRole.Cover]);
    }

    [Fact]
    public void Tail_and_star_of_the_comet_are_one_part_with_a_leap_between()
    {
        var design = Draw("comet-over-the-dome.evth");
        design.Threads.Length.ShouldBe(4);
        var gold = design.Parts[2];
        Enumerable.Range(gold.First + 1, gold.Count - 1)
            .Any(i => design.Stitches.Kinds[i] == StitchKind.Jump && design.Stitches.At(i).DistanceTo(design.Stitches.At(i - 1)) > 20)
            .ShouldBeTrue();
    }

    private static StitchFile Draw(string name) => DemoDesigns.All.First(d => d.FileName == name).Drawn();

    private static IEnumerable<double> Lengths(StitchFile file) =>
        Enumerable.Range(1, file.Stitches.Count - 1)
            .Where(i => file.Stitches.Kinds[i] == StitchKind.Stitch && file.Stitches.Kinds[i - 1] == StitchKind.Stitch)
            .Select(i => file.Stitches.At(i).DistanceTo(file.Stitches.At(i - 1)));
}
