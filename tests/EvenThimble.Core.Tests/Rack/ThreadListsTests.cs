using System.Text;
using EvenThimble.Core.Colour;
using EvenThimble.Core.Files.Tables;
using EvenThimble.Core.Files.Threads;
using EvenThimble.Core.Rack;
using EvenThimble.Core.Text;
using EvenThimble.Core.Threads;

namespace EvenThimble.Core.Tests.Rack;

/// <summary>Charts and racks as people have them in lists: any separator, encoding, order and wording; what is not understood is kept aside.</summary>
public class ThreadListsTests
{
    private static readonly KnownThreads Known = new(MadeUpCharts.All);

    [Theory]
    [InlineData("number,name,colour\n12,Sea,#102030\n13,\"Sky, pale\",aabbcc")]
    [InlineData("Nr;Name;Farbe;Preis\r\n12;Sea;#102030;4,20 €\r\n13;Sky, pale;aabbcc;\r\n")]
    [InlineData("Color Number\tColor Name\tR\tG\tB\n12\tSea\t16\t32\t48\n13\tSky, pale\t170\t187\t204\n")]
    [InlineData("12|Sea|#102030\n13|Sky, pale|#aabbcc")]
    [InlineData("HEX;Code;Description;Weight\n#102030;12;Sea;40 wt\nrgb(170,187,204);13;Sky, pale;40")]
    [InlineData("name;number;colour\nSea;12;16 32 48\nSky, pale;13;170, 187, 204")]
    public void A_chart_is_read_however_its_columns_stand(string text)
    {
        var read = ChartTable.Read(TypedTable.Read(Encoding.UTF8.GetBytes(text), 1000), "Larkmoor", "Rayon 40");
        read.Aside.ShouldBeEmpty();
        read.Chart.Threads.Select(t => (t.Maker, t.Number, t.Name, t.Colour.Hex)).ShouldBe([("Larkmoor", "12", "Sea", "#102030"), ("Larkmoor", "13", "Sky, pale", "#aabbcc")]);
        read.Chart.Sold.ShouldAllBe(s => s.Make == new ThreadMake(Fibre.Rayon, 40) && s.ConeMetres == 1_000);
        if (text.Contains('€')) read.Chart.Sold[0].Price.ShouldBe(4.20m);
    }

    [Fact]
    public void Any_encoding_is_found()
    {
        const string text = "number;name;colour\n7;Grün;#207020\n";
        CodePagesEncodingProvider.Instance.GetEncoding(1252)!.GetBytes(text).ShouldSatisfyAllConditions(
            bytes => TypedTable.Read(bytes, 10).Encoding.ShouldBe("Windows-1252"),
            bytes => ChartTable.Read(TypedTable.Read(bytes, 10), "A", "B").Chart.Threads[0].Name.ShouldBe("Grün"));
        foreach (var encoding in new Encoding[] { new UTF8Encoding(true), Encoding.Unicode, Encoding.BigEndianUnicode })
            ChartTable.Read(TypedTable.Read([.. encoding.GetPreamble(), .. encoding.GetBytes(text)], 10), "A", "B").Chart.Threads[0].Name.ShouldBe("Grün", encoding.EncodingName);
    }

    [Fact]
    public void What_is_no_thread_is_kept_aside_and_told()
    {
        var read = ChartTable.Read(TypedTable.Read("number,name,colour\n1,Sea,navy\n2,Odd,moonish\n,None,#ffffff\n1,Again,#000000\n3,Blank,\n4,=2+3,#123456", 100), "A", "B");
        read.Chart.Threads.Select(t => (t.Number, t.Name, t.Colour)).ShouldBe([("1", "Sea", Rgb.FromInt(0x000080)), ("4", "=2+3", Rgb.FromInt(0x123456))]);
        read.Aside.Select(a => a.Line).ShouldBe([3, 4, 5, 6]);
        read.Aside.Select(a => a.Why).ShouldBe(["“moonish” is no colour that is known here. Write it as #2f4b7c or as 47 75 124.", "It has no number.", "Line 2 has that number already.", "It has no colour."]);
        Should.Throw<EditRefusedException>(() => ChartTable.Read(TypedTable.Read("hello\nworld", 100), "A", "B")).Message.ShouldContain("No column");
        Should.Throw<EditRefusedException>(() => ChartTable.Read(TypedTable.Read("number,name\n1,\"Sea", 100), "A", "B")).Message.ShouldContain("never closed");
        Should.Throw<EditRefusedException>(() => TypedTable.Read(Encoding.UTF8.GetBytes(string.Concat(Enumerable.Range(0, 100_000).Select(n => $"{n}\n"))), RackList.MostLines)).Message.ShouldContain("20,000 lines");
    }

    [Fact]
    public void A_number_a_line_is_a_cone_and_the_same_number_twice_is_two()
    {
        var read = RackList.Read(TypedTable.Read("Fenlight 1001\nfenlight 1004 x2\n20110\n1001\n1007 x 1 40 %\n31200 ×3\n801\n\n  1010  2 ", 100), Known, "Fenlight");
        read.Aside.ShouldBeEmpty();
        read.Cones.Select(c => (c.Thread.Maker, c.Thread.Number, c.Count, c.LeftMetres)).ShouldBe(
        [
            ("Fenlight", "1001", 2, 2_000), ("Fenlight", "1004", 2, 2_000), ("Osier & Daughters", "20110", 1, 1_000), ("Fenlight", "1007", 1, 400), ("Osier & Daughters", "31200", 3, 1_500),
            ("Glimmerdale", "801", 1, 300), ("Fenlight", "1010", 2, 2_000),
        ]);
        read.Together.ShouldBe(1);
    }

    [Fact]
    public void Numbers_that_no_chart_has_and_amounts_that_cannot_be_are_kept_aside()
    {
        var read = RackList.Read(TypedTable.Read("1001\n99999\nFenlight 20110\n1004 x0\n1007 -5 m\n@!", 100), Known);
        read.Cones.Select(c => c.Thread.Number).ShouldBe(["1001"]);
        read.Aside.Select(a => a.Text).ShouldBe(["99999", "Fenlight 20110", "1004 x0", "1007 -5 m", "@!"]);
        read.Aside[0].Why.ShouldBe("No chart has the number 99999.");
        read.Aside[1].Why.ShouldBe("No chart has the number 20110 of Fenlight.");
        var twice = new KnownThreads([.. MadeUpCharts.All, new("Larkmoor", "Silk 50", [new(new("Larkmoor", "1001", "Sea", default), ThreadMake.Of("Silk 50"), 300, null)])]);
        RackList.Read(TypedTable.Read("1001", 100), twice).Aside[0].Why.ShouldContain("one of Fenlight and one of Larkmoor");
        RackList.Read(TypedTable.Read("number,left\n1001,-4\n1004,12000 m", 100), Known).Aside.Count().ShouldBe(2);
    }

    [Fact]
    public void A_rack_comes_back_as_it_was_written_and_no_cell_is_a_formula()
    {
        var cones = new[]
        {
            new Cone(new("=cmd|' /C calc'!A0", "@1", "+Sea, \"deep\"", Rgb.FromInt(0x102030)), ThreadMake.Of("Rayon 40"), 2, 1_000, 1_250.5) { Stands = "-drawer 3", LowMetres = 80, EmptyGrams = 21.5 },
            Cone.Full(MadeUpCharts.All[1].Sold[4], 3),
        };
        var bytes = RackList.Write(cones);
        foreach (var line in Encoding.UTF8.GetString(bytes).Split("\r\n", StringSplitOptions.RemoveEmptyEntries)) line.Split(',').ShouldAllBe(c => c.Length == 0 || !"=+-@".Contains(c[0]));
        var read = RackList.Read(TypedTable.Read(bytes, 100), Known);
        read.Aside.ShouldBeEmpty();
        read.Cones.ShouldBe(cones);
        var chart = MadeUpCharts.All[2];
        var again = ChartTable.Read(TypedTable.Read(ChartTable.Write(chart), 1_000), chart.Maker, chart.Range);
        again.Chart.Sold.ShouldBe(chart.Sold);
        again.Aside.ShouldBeEmpty();
    }

    [Theory]
    [InlineData("Rayon 40", Fibre.Rayon, 40)]
    [InlineData("Poly No. 60", Fibre.Polyester, 60)]
    [InlineData("cotton 30wt", Fibre.Cotton, 30)]
    [InlineData("Trilobal Polyester #40, 1000 m", Fibre.Polyester, 40)]
    [InlineData("Metallic", Fibre.Metallic, null)]
    [InlineData("Harvest", Fibre.Unsaid, null)]
    public void A_range_tells_fibre_and_weight(string range, Fibre fibre, int? weight) => ThreadMake.Of(range).ShouldBe(new ThreadMake(fibre, weight));
}
