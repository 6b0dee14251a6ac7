using EvenThimble.Core.LetterSets;

namespace EvenThimble.Core.Tests.Jobs;

/// <summary>Which letter a file is, by its name.</summary>
public class LetterFileNameTests
{
    [Theory]
    [InlineData("A.evth", "A", null)]
    [InlineData("a.evth", "a", null)]
    [InlineData("a_lower.evth", "a", null)]
    [InlineData("A_lower.evth", "a", null)]
    [InlineData("cap-B-2in.evth", "B", 50.8)]
    [InlineData("b uppercase.evth", "B", null)]
    [InlineData("Rose_25mm_q.evth", "q", 25.0)]
    [InlineData("Rose_q_1.5in.evth", "q", 38.1)]
    [InlineData("rose 2 cm Q.evth", "Q", 20.0)]
    [InlineData("amp.evth", "&", null)]
    [InlineData("ampersand_lower.evth", "&", null)]
    [InlineData("ntilde.evth", "ñ", null)]
    [InlineData("Ntilde.evth", "Ñ", null)]
    [InlineData("ntilde_upper.evth", "Ñ", null)]
    [InlineData("e acute.evth", "é", null)]
    [InlineData("Oslash.evth", "Ø", null)]
    [InlineData("germandbls.evth", "ß", null)]
    [InlineData("uni00E4.evth", "ä", null)]
    [InlineData("u+00c5.evth", "Å", null)]
    [InlineData("01_A.evth", "A", null)]
    [InlineData("27-a.evth", "a", null)]
    [InlineData("1_amp.evth", "&", null)]
    [InlineData("53_7.evth", "7", null)]
    [InlineData("7.evth", "7", null)]
    [InlineData("seven.evth", "7", null)]
    [InlineData("question mark.evth", "?", null)]
    [InlineData("exclam.evth", "!", null)]
    [InlineData("RoseA.evth", "A", null)]
    [InlineData("Rose25A.evth", "A", null)]
    [InlineData("&.evth", "&", null)]
    [InlineData("É.evth", "É", null)]
    [InlineData("Rose/25mm/lowercase/K.evth", "k", 25.0)]
    [InlineData("capitals/k.evth", "K", null)]
    [InlineData("readme.evth", null, null)]
    [InlineData("all letters together.evth", null, null)]
    [InlineData("", null, null)]
    public void Names_tell_letters_cases_and_sizes(string path, string? character, double? sizeMm)
    {
        var read = LetterFileName.Of([path]).Single();
        read.Character.ShouldBe(character);
        (read.SizeMm is { } mm ? Math.Round(mm, 3) : (double?)null).ShouldBe(sizeMm);
        read.Because.ShouldNotBeEmpty();
    }

    [Fact]
    public void What_all_names_begin_with_is_no_letter()
    {
        LetterFileName.Of(["rosea.evth", "roseb.evth", "rosec.evth", "roseamp.evth"]).Select(r => r.Character).ShouldBe(["a", "b", "c", "&"]);
        LetterFileName.Of(["A block a.evth", "A block b.evth", "A block c.evth"]).Select(r => r.Character).ShouldBe(["a", "b", "c"]);
    }

    [Fact]
    public void Letters_that_say_nothing_of_their_case_can_be_said_to_be_capital_or_small()
    {
        string[] paths = ["a.evth", "b_upper.evth", "7.evth"];
        LetterFileName.Of(paths, LetterCase.Capital).Select(r => r.Character).ShouldBe(["A", "B", "7"]);
        LetterFileName.Of(["A.evth", "B_upper.evth"], LetterCase.Small).Select(r => r.Character).ShouldBe(["a", "B"]);
    }
}
