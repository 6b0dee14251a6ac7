using EvenThimble.Core.Text;

namespace EvenThimble.Core.Tests.Formats;

public class TitlesTests
{
    [Theory]
    [InlineData("../../etc/passwd", "passwd")]
    [InlineData("C:\\designs\\comet_over.evth", "comet over")]
    [InlineData(".evth", ".evth")]
    [InlineData("", "Untitled")]
    [InlineData("..", "Untitled")]
    [InlineData("moon.v2.evth", "moon.v2")]
    public void A_file_name_becomes_a_title_without_folders(string name, string title) => Titles.FromFileName(name).ShouldBe(title);

    [Fact]
    public void Control_and_direction_characters_go_but_letters_of_any_script_stay()
    {
        Titles.Clean("a\u0000b\u202Ec\u200Fd\r\ne").ShouldBe("abcd e");
        Titles.Clean("קמע Sternwarte 天文台").ShouldBe("קמע Sternwarte 天文台");
    }

    [Fact]
    public void A_very_long_title_is_cut_between_letters()
    {
        var family = "\U0001F468\u200D\U0001F469\u200D\U0001F467";
        var title = Titles.Clean(string.Concat(Enumerable.Repeat(family, 300)));
        title.Length.ShouldBe(Titles.LongestTitle * family.Length);
    }

    [Theory]
    [InlineData("Comet over the dome", "Comet dome")]
    [InlineData("Crescent moon appliqué", "Crescent moon ap")]
    [InlineData("天文台", "Job")]
    [InlineData("A/B:C", "ABC")]
    public void A_machine_with_few_letters_gets_a_plain_short_name(string title, string plain)
    {
        Titles.Plain(title, 16).ShouldBe(plain);
        Titles.IsPlain(Titles.Plain(title, 16)).ShouldBeTrue();
    }

    [Fact]
    public void A_file_name_can_be_no_path() => Titles.FileName("../a\\b:c*d").ShouldBe("-a-b-c-d");

    [Theory]
    [InlineData("74", 74)]
    [InlineData("2,5", 2.5)]
    [InlineData("3in", 76.2)]
    [InlineData("3 1/2 in", 88.9)]
    [InlineData("-1.5 cm", -15)]
    [InlineData("1\"", 25.4)]
    [InlineData("-1 1/2in", -38.1)]
    public void Lengths_are_read_as_people_type_them(string text, double mm)
    {
        LengthText.TryParse(text, LengthUnit.Millimetre, out var read).ShouldBeTrue();
        read.ShouldBe(mm, 1e-9);
    }

    [Theory]
    [InlineData("")]
    [InlineData("abc")]
    [InlineData("1/0")]
    [InlineData("1 2 3")]
    [InlineData("NaN")]
    [InlineData("1e999")]
    public void What_is_no_length_is_refused(string text) => LengthText.TryParse(text, LengthUnit.Millimetre, out _).ShouldBeFalse();
}
