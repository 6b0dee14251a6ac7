using EvenThimble.Core.Craft;
using EvenThimble.Core.Digitizing.Fill;
using EvenThimble.Core.Digitizing.Lines;
using EvenThimble.Core.Text;
using EvenThimble.Web.Pages.Bench;
using Microsoft.AspNetCore.Http;
using Microsoft.Extensions.Primitives;

namespace EvenThimble.App.Tests;

/// <summary>What is typed and posted becomes values, or is refused in words.</summary>
public sealed class TypedValuesTests
{
    private static readonly StitchSettings Fill = new(StitchWay.Fill);

    private enum Weather
    {
        Clear,
        Cloudy,
    }

    private sealed record Form(string? Name, double X, double? Maybe, int Count, long Position, bool Closed, Weather? Sky, string[] Become, long[] Design, int[] Staying);

    [Theory]
    [InlineData("spacing", "0.45", 0.45)]
    [InlineData("spacing", "0,5 mm", 0.5)]
    [InlineData("spacing", "0.02 in", 0.508)]
    [InlineData("angle", "30°", 30)]
    [InlineData("angle", "-30", 330)]
    [InlineData("compensation", "0", 0)]
    [InlineData("stitch", "0.35cm", 3.5)]
    public void A_setting_is_read_as_people_type_it(string field, string typed, double becomes)
    {
        var set = TypedSetting.Of(field, typed, LengthUnit.Millimetre).Of(Fill);
        var value = field switch { "spacing" => set.SpacingMm, "angle" => set.Angle, "compensation" => set.CompensationMm, _ => set.StitchLengthMm };
        Math.Abs(((value!.Value - becomes) % 360 + 360) % 360).ShouldBeLessThan(1e-9);
        TypedSetting.Of(field, " ", LengthUnit.Millimetre).Of(set).ShouldBe(Fill, "an empty field goes back to what is usual");
    }

    [Fact]
    public void A_bare_number_is_in_the_unit_that_is_shown() =>
        TypedSetting.Of("width", "0.1", LengthUnit.Inch).Of(Fill).WidthMm!.Value.ShouldBe(2.54, 1e-9);

    [Theory]
    [InlineData("spacing", "wide", "“wide” is not")]
    [InlineData("spacing", "99", "can be from")]
    [InlineData("spacing", "NaN", "can be from")]
    [InlineData("spacing", "-0.4", "can be from")]
    [InlineData("angle", "361", "can be from")]
    [InlineData("tile-scale", "1e9", "can be from")]
    [InlineData("motif", "unicorn", "no setting")]
    [InlineData("tile", "../x", "no setting")]
    [InlineData("way", "knit", "no setting")]
    [InlineData("motif-turn", "7", "no setting")]
    [InlineData("underlay", "mattress", "no underlay")]
    [InlineData("underlay", "99", "no underlay")]
    [InlineData("colour", "red", "no setting")]
    [InlineData(null, null, "no setting")]
    public void What_a_setting_cannot_be_is_refused_in_words(string? field, string? typed, string says) =>
        Should.Throw<EditRefusedException>(() => TypedSetting.Of(field, typed, LengthUnit.Millimetre).Of(Fill)).Message.ShouldContain(says);

    [Fact]
    public void Names_of_ways_motifs_tiles_and_underlay_are_understood()
    {
        TypedSetting.Of("way", "satin", LengthUnit.Millimetre).Of(Fill).Way.ShouldBe(StitchWay.Satin);
        TypedSetting.Of("motif", Motifs.All[1].Id, LengthUnit.Millimetre).Of(Fill).Motif.ShouldBe(Motifs.All[1].Id);
        TypedSetting.Of("tile", Tiles.All[2].Id, LengthUnit.Millimetre).Of(Fill).Tile.ShouldBe(Tiles.All[2].Id);
        TypedSetting.Of("underlay", "edge+zigzag", LengthUnit.Millimetre).Of(Fill).Underlay.ShouldBe(new UnderlayLayers(Underlay.Edge, Underlay.Zigzag));
    }

    [Fact]
    public void A_posted_form_becomes_a_record_by_the_names_of_its_fields()
    {
        var form = Read(("name", "dome"), ("x", "-1.5e1"), ("count", "12"), ("position", "5000000000"), ("closed", "true"), ("sky", "cloudy"), ("become", "fill"), ("become", "run"), ("design", "3"), ("design", "4"), ("staying", "9"), ("other", "x"));
        (form.Name, form.X, form.Maybe, form.Count, form.Position, form.Closed, form.Sky).ShouldBe(("dome", -15.0, null, 12, 5_000_000_000, true, Weather.Cloudy));
        form.Become.ShouldBe(["fill", "run"]);
        form.Design.ShouldBe([3, 4]);
        form.Staying.ShouldBe([9]);
        var empty = Read();
        (empty.Name, empty.X, empty.Maybe, empty.Closed, empty.Sky, empty.Become.Length).ShouldBe((null, 0.0, null, false, null, 0));
    }

    [Theory]
    [InlineData("x", "far")]
    [InlineData("count", "99999999999")]
    [InlineData("count", "1.5")]
    [InlineData("position", "x")]
    [InlineData("sky", "7")]
    [InlineData("design", "none")]
    [InlineData("maybe", "perhaps")]
    public void A_field_that_holds_what_it_cannot_is_refused_in_words(string field, string value) =>
        Should.Throw<EditRefusedException>(() => Read((field, value))).Message.ShouldContain($"“{value}”");

    [Theory]
    [InlineData(-0.04, 1, "0")]
    [InlineData(-0.05001, 1, "-0.1")]
    [InlineData(0, 2, "0")]
    [InlineData(12.345, 2, "12.35")]
    [InlineData(-1e-12, 4, "0")]
    public void What_rounds_to_nothing_has_no_sign(double number, int decimals, string text) => LengthText.Decimals(number, decimals).ShouldBe(text);

    private static Form Read(params (string Name, string Value)[] fields) =>
        PostedForm.Read<Form>(new FormCollection(fields.GroupBy(f => f.Name).ToDictionary(g => g.Key, g => new StringValues([.. g.Select(f => f.Value)]), StringComparer.OrdinalIgnoreCase)));
}
