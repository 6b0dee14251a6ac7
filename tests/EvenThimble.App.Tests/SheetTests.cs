using EvenThimble.Core.Colour;
using EvenThimble.Rendering.Sheets;
using UglyToad.PdfPig;
using UglyToad.PdfPig.Content;

namespace EvenThimble.App.Tests;

/// <summary>Lists on paper, read back by a reader of others.</summary>
public class SheetTests
{
    public static TheoryData<string> Papers() => [Paper.A4.Name, Paper.Letter.Name];

    [Theory]
    [MemberData(nameof(Papers))]
    public void A_long_list_goes_over_as_many_pages_as_it_takes_each_row_once_and_within_the_margins(string paper)
    {
        var rows = Enumerable.Range(1, 230).Select(n => new SheetRow(Rgb.FromInt(n * 7_000), [$"N{n}", "a name that is far too long for the room that it has in its column, however small the letters", $"{n} m"], n % 3 == 0 ? $"runs out R{n}" : "")).ToList();
        var sheet = new ListSheet("A long list", ["one line", "another"], [new("Number", 1), new("Name", 2), new("Takes", 1, true)], rows, [.. Enumerable.Range(1, 70).Select(n => $"foot F{n}")]);
        using var pdf = PdfDocument.Open(sheet.ToPdf(Paper.Named(paper)));
        pdf.NumberOfPages.ShouldBeInRange(6, 12);
        var words = pdf.GetPages().SelectMany(p => p.GetWords().Select(w => (Page: p, Word: w))).ToList();
        foreach (var wanted in rows.Select(r => r.Cells[0]).Concat(Enumerable.Range(1, 76).Select(n => $"R{n * 3}")).Concat(Enumerable.Range(1, 70).Select(n => $"F{n}")))
            words.Count(w => w.Word.Text == wanted).ShouldBe(1, wanted);
        words.ShouldAllBe(w => w.Word.BoundingBox.Left > 36 && w.Word.BoundingBox.Right < w.Page.Width - 36 && w.Word.BoundingBox.Bottom > 30 && w.Word.BoundingBox.Top < w.Page.Height - 30);
        foreach (var page in pdf.GetPages())
        {
            (page.Width / 72 * 25.4).ShouldBe(Paper.Named(paper).Width, 0.5);
            foreach (var line in page.GetWords().GroupBy(w => Math.Round(w.BoundingBox.Bottom)))
                foreach (var (left, right) in line.OrderBy(w => w.BoundingBox.Left).Zip(line.OrderBy(w => w.BoundingBox.Left).Skip(1)))
                    right.BoundingBox.Left.ShouldBeGreaterThanOrEqualTo(left.BoundingBox.Right - 0.5, $"{left.Text} {right.Text}");
        }
    }

    [Fact]
    public void An_empty_list_is_a_page_with_its_title()
    {
        using var pdf = PdfDocument.Open(new ListSheet("Nothing", [], [new("Number", 1)], [], []).ToPdf(Paper.A4));
        pdf.NumberOfPages.ShouldBe(1);
        pdf.GetPage(1).Text.ShouldContain("Nothing");
    }
}
