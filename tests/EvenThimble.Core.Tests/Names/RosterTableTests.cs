using System.Text;
using EvenThimble.Core.Files.Rosters;
using EvenThimble.Core.Names;
using EvenThimble.Core.Text;
using Shouldly;
using Xunit;

namespace EvenThimble.Core.Tests.Names;

/// <summary>Lists of people as they come from spreadsheets and letters.</summary>
public sealed class RosterTableTests
{
    [Fact]
    public void A_sheet_with_titles_above_its_head_and_empty_columns_is_understood()
    {
        var read = RosterTable.Read(MadeWorkbook.Of(
        [
            ["Helferliste Sternwarte", null, null, null, null, null],
            ["Stand", "@45000", null, null, null, null],
            [],
            ["Lfd. Nr.", "Vorname", null, "Nachname", "Anzahl", "Größe"],
            ["#1", "Ottoline", null, "Marsh", "#2", "M"],
            ["#2", "Wen", null, "Achterberg", "1", "XL"],
            ["#3", "=B5&\" B.\"|Ilse B.", null, "Quarrie", null, "S"],
        ]), "Helfer");
        read.HeadLine.ShouldBe(4);
        read.Roster.Fields.ShouldBe(["given", "family"]);
        read.Roster.People.Select(p => string.Join('|', p.Values)).ShouldBe(["Ottoline|Marsh", "Wen|Achterberg", "Ilse B.|Quarrie"]);
        read.Roster.People.Select(p => p.Quantity).ShouldBe([2, 1, 1]);
        read.Roster.People.Select(p => p.Garment).ShouldBe(["M", "XL", "S"]);
        read.Notes.ShouldContain(n => n.Contains("lines above the head"));
        read.Source.ShouldBe("workbook, sheet “Helfer”");
    }

    [Theory]
    [InlineData("First Name,Last Name\nJo,Pym", "given,family")]
    [InlineData("Prénom;Nom;Fonction\nJo;Pym;Accueil", "given,family,duty")]
    [InlineData("Nombre\tApellidos\tTalla\nJo\tPym\tM", "given,family")]
    [InlineData("Imię;Nazwisko\nŁucja;Pym", "given,family")]
    [InlineData("Name\nJo Pym", "name")]
    [InlineData("Nombre\nJo Pym", "name")]
    [InlineData("Jo Pym\nBram Tull", "name")]
    [InlineData("Jo,Pym\nBram,Tull", "given,family")]
    [InlineData("given name,family name,duty\nJo,Pym,Tea", "given,family,duty")]
    [InlineData("Vorname,Lieblingsstern\nJo,Vega", "given,Lieblingsstern")]
    public void Heads_of_many_tongues_name_their_columns(string text, string fields) => RosterTable.Read(text, "r").Roster.Fields.ShouldBe(fields.Split(','));

    [Fact]
    public void A_person_called_as_a_head_is_is_no_head_of_a_list_without_one() =>
        RosterTable.Read("Jo,Pym,Tea,A,B\nNom,Tull,Gate,A,B", "r").Roster.People.Length.ShouldBe(2);

    [Fact]
    public void Cells_over_several_lines_stand_on_each_and_numbers_and_dates_are_text()
    {
        var read = RosterTable.Read(MadeWorkbook.Of([["Team", "Name", "Back"], ["Dome", "Jo Pym", "#7"], [null, "Bram Tull", "#12.5"], ["Gate", "Ilse", "@45000"]], "A2:A3"), "r");
        read.Roster.People.Select(p => string.Join('|', p.Values)).ShouldBe(["Dome|Jo Pym|7", "Dome|Bram Tull|12.5", "Gate|Ilse|2023-03-15"]);
    }

    [Fact]
    public void Encodings_are_found_and_can_be_told()
    {
        const string Text = "Vorname;Nachname\r\nZoë;Müller\r\n";
        foreach (var encoding in new[] { Encoding.UTF8, Encoding.Unicode, Encoding.BigEndianUnicode, CodePagesEncodingProvider.Instance.GetEncoding(1252)! })
            RosterTable.Read([.. encoding.Preamble, .. encoding.GetBytes(Text)], "r").Roster.People[0].Values.ShouldBe(["Zoë", "Müller"], encoding.WebName);
        RosterTable.Read(CodePagesEncodingProvider.Instance.GetEncoding(1250)!.GetBytes("imię;nazwisko\nŁucja;Żak\n"), "r", encoding: "Windows-1250").Roster.People[0].Values.ShouldBe(["Łucja", "Żak"]);
    }

    [Fact]
    public void Lines_divided_otherwise_than_most_are_divided_too_and_told()
    {
        var read = RosterTable.Read("given;family\nJo;Pym\nBram,Tull\nIlse;Quarrie\nDov\tIster", "r");
        read.Roster.People.Select(p => string.Join('|', p.Values)).ShouldBe(["Jo|Pym", "Bram|Tull", "Ilse|Quarrie", "Dov|Ister"]);
        read.Notes.ShouldContain(n => n.Contains("another sign"));
    }

    [Fact]
    public void What_is_no_list_is_refused_in_a_sentence()
    {
        var sheet = MadeWorkbook.Of([["given"], ["Jo"]]);
        Refused([0xD0, 0xCF, 0x11, 0xE0, 0xA1, 0xB1, 0x1A, 0xE1]).ShouldContain("password");
        Refused(sheet[..(sheet.Length / 2)]).ShouldContain("damaged");
        Refused(MadeWorkbook.Zipped(("hello.txt", "no workbook"))).ShouldContain("damaged");
        Refused(MadeWorkbook.Of([])).ShouldContain("nothing");
        Refused(MadeWorkbook.Of(Enumerable.Range(0, 100_000).Select(n => new[] { $"Jo {n}" }))).ShouldContain("more than");
        Refused("\n\n"u8.ToArray()).ShouldContain("no names");
        Refused([1, 0, 2, 0, 0, 0]).ShouldContain("no text");

        // What unpacks to a great deal is not unpacked.
        Refused(MadeWorkbook.Zipped(("xl/worksheets/sheet1.xml", new string(' ', 300 << 20)))).ShouldContain("swells");
        for (var n = 0; n < sheet.Length; n += 7)
        {
            var damaged = sheet.ToArray();
            damaged[n] ^= 0x5A;
            try
            {
                RosterTable.Read(damaged, "r").Roster.Check();
            }
            catch (EditRefusedException)
            {
                // A sentence is as good as names.
            }
        }

        static string Refused(byte[] bytes) => Should.Throw<EditRefusedException>(() => RosterTable.Read(bytes, "r")).Message;
    }

    [Fact]
    public void What_is_written_is_read_again()
    {
        var roster = Roster.New("Open night", "given", "duty").Adding(["=Jo", "Tea, Gate"], 3, "shirt M").Adding(["\"Zoë\"", "-"]);
        var read = RosterTable.Read(RosterTable.Write(roster), "Open night").Roster;
        read.ShouldBe(roster);
    }

    [Fact]
    public void Faults_are_found_and_mended()
    {
        var roster = Roster.New("r", "given", "family").Adding(["Jo", "Pym"]).Adding(["  Bram ", "van  Tull"]).Adding(["ILSE", "O'HARA-QUARRIE"]).Adding(["", " "]).Adding(["jo", "PYM "]).Adding(["Zoë 🌟", "Vale"]).Adding(["Jo", "Li"]);
        RosterChecks.Of(roster).Select(f => f.Fault).Distinct().Order().ShouldBe(Enum.GetValues<RosterFault>().Order());
        var mended = Enum.GetValues<RosterFault>().Aggregate(roster, RosterChecks.Mended);
        mended.People.Select(p => string.Join(' ', p.Values)).ShouldBe(["Jo Pym", "Bram van Tull", "Ilse O'Hara-Quarrie", "Zoë Vale", "Jo Li"]);
        RosterChecks.Of(mended).ShouldBeEmpty();
    }

    [Fact]
    public void A_pattern_is_filled_in_without_gaps()
    {
        var roster = Roster.New("r", "given", "family", "duty").Adding(["Jo", "", "Tea"]);
        SlotText.Of("{given} {family}\n{duty} crew", roster, roster.People[0]).ShouldBe("Jo\nTea crew");
        SlotText.Of("{Given}{nothing}\n{family}", roster, roster.People[0]).ShouldBe("Jo");
        SlotText.FieldsIn("{given} {family}\n{given}").ShouldBe(["given", "family"]);
    }
}
