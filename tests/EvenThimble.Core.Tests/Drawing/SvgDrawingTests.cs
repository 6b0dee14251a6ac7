using System.Text;
using EvenThimble.Core.Files.Drawing;
using EvenThimble.Core.Shapes;
using EvenThimble.Core.Text;

namespace EvenThimble.Core.Tests.Drawing;

public class SvgDrawingTests
{
    [Fact]
    public void Shapes_come_in_at_their_true_size_about_the_middle_of_the_page()
    {
        var drawing = Read("""<svg xmlns="http://www.w3.org/2000/svg" width="80mm" height="40mm" viewBox="0 0 160 80"><rect x="20" y="20" width="40" height="20" fill="#a63a3c"/></svg>""");
        (drawing.Width, drawing.Height, drawing.SizeIsKnown).ShouldBe((80, 40, true));
        var box = drawing.Shapes.Single().Shape.Bounds;
        (box.MinX, box.MinY, box.MaxX, box.MaxY).ShouldBe((-30, -10, -10, 0));
        drawing.Shapes[0].Colour.Hex.ShouldBe("#a63a3c");
    }

    [Theory]
    [InlineData("width=\"2in\"", 50.8, true)]
    [InlineData("width=\"6cm\"", 60, true)]
    [InlineData("width=\"72pt\"", 25.4, true)]
    [InlineData("width=\"96\"", 25.4, false)]
    [InlineData("width=\"96px\"", 25.4, false)]
    [InlineData("width=\"100%\"", 25.4, false)]
    [InlineData("", 25.4, false)]
    public void Units_are_understood_and_where_there_are_none_that_is_said(string width, double mm, bool known)
    {
        var drawing = Read($"""<svg xmlns="http://www.w3.org/2000/svg" {width} viewBox="0 0 96 96"><circle cx="48" cy="48" r="40"/></svg>""");
        drawing.Width.ShouldBe(mm, 1e-6);
        drawing.SizeIsKnown.ShouldBe(known);
        drawing.AtWidth(90).Shapes[0].Shape.Bounds.Width.ShouldBe(75, 0.01);
    }

    [Fact]
    public void Nested_transforms_are_applied_from_the_inside_out()
    {
        var drawing = Read("""<svg xmlns="http://www.w3.org/2000/svg" width="100mm" height="100mm" viewBox="-50 -50 100 100"><g transform="translate(10 0)"><g transform="rotate(90) scale(2)"><rect x="0" y="0" width="5" height="1" transform="translate(1,2)"/></g></g></svg>""");
        var box = drawing.Shapes.Single().Shape.Bounds;
        new[] { box.MinX, box.MaxX, box.MinY, box.MaxY }.Zip([4.0, 6, 2, 12]).ShouldAllBe(p => Math.Abs(p.First - p.Second) < 1e-9);
    }

    [Theory]
    [InlineData("M0 0 L10 0 10 10 0 10z", 10, 10)]
    [InlineData("m0 0h10v10h-10z", 10, 10)]
    [InlineData("M0,5 A5 5 0 0 1 10,5 A5 5 0 1 1 0 5Z", 10, 10)]
    [InlineData("M0 5a5 5 0 1110 0a5 5 0 11-10 0", 10, 10)]
    [InlineData("M0 0Q5 10 10 0T20 0V-1H0z", 20, 10)]
    [InlineData("M0 0C0 8 10 8 10 0S20-8 20 0z", 20, 12)]
    [InlineData("M.5.5l9-.5.5 9.5e0z", 9.5, 9.5)]
    public void Paths_of_all_commands_are_read(string data, double width, double height)
    {
        var box = Read($"""<svg xmlns="http://www.w3.org/2000/svg" width="50mm" height="50mm" viewBox="0 0 50 50"><path d="{data}"/></svg>""").Shapes[0].Shape.Bounds;
        box.Width.ShouldBe(width, 0.6);
        box.Height.ShouldBe(height, 0.6);
    }

    [Fact]
    public void Fill_and_stroke_are_two_shapes_and_holes_follow_the_fill_rule()
    {
        var drawing = Read("""<svg xmlns="http://www.w3.org/2000/svg" width="50mm" height="50mm" viewBox="0 0 50 50"><g style="fill:none;stroke:#2f4b7c"><path id="moon-edge" style="fill:gold;stroke-width:2" fill-rule="evenodd" d="M0 0h40v40h-40zM10 10h20v20h-20z"/></g></svg>""");
        drawing.Shapes.Select(s => (s.Name, s.LineWidth)).ShouldBe([("moon edge", null), ("moon edge, outline", 2)]);
        var area = Area.Of(drawing.Shapes[0].Shape.Paths.Select(p => p.Flattened()), drawing.Shapes[0].Shape.Rule);
        area.Single().SquareMm.ShouldBe(1200, 0.1);
        drawing.Shapes[0].Colour.Hex.ShouldBe("#ffd700");
    }

    [Theory]
    [InlineData("<text x='1' y='9'>Tarn</text>", "letters are typed")]
    [InlineData("<image href='x.png' width='5' height='5'/>", "Pictures")]
    [InlineData("<script>alert(1)</script>", "never run")]
    [InlineData("<use href='other.svg#a'/>", "nothing outside the drawing is opened")]
    [InlineData("<path d='M20 20 L40 40 L40 20 L20 40z'/>", "cross themselves")]
    [InlineData("<path d='M20 20 L40 40 L40 20'/>", "closed with a straight line")]
    [InlineData("<rect width='0' height='9'/><circle r='0.001'/>", "without any size")]
    [InlineData("<foreignObject><p xmlns='http://www.w3.org/1999/xhtml'>x</p></foreignObject>", "embeds")]
    public void What_cannot_be_stitched_is_left_out_and_said(string content, string says) =>
        Read($"""<svg xmlns="http://www.w3.org/2000/svg" width="50mm" viewBox="0 0 50 50"><rect width="9" height="9"/>{content}</svg>""").Notes.ShouldContain(n => n.Contains(says, StringComparison.Ordinal));

    [Theory]
    [InlineData("<!DOCTYPE svg [<!ENTITY a 'aaaaaaaaaaaaaaaaaaaaaaaaaaaaaaaaaaaaaaaaaa'><!ENTITY b '&a;&a;&a;&a;&a;&a;&a;&a;&a;&a;'><!ENTITY c '&b;&b;&b;&b;&b;&b;&b;&b;&b;&b;'><!ENTITY d '&c;&c;&c;&c;&c;&c;&c;&c;&c;&c;'><!ENTITY e '&d;&d;&d;&d;&d;&d;&d;&d;&d;&d;'><!ENTITY f '&e;&e;&e;&e;&e;&e;&e;&e;&e;&e;'>]><svg xmlns='http://www.w3.org/2000/svg'><title>&f;</title><rect width='9' height='9'/></svg>", "far larger than it is")]
    [InlineData("<svg xmlns='http://www.w3.org/2000/svg'><text>only words</text></svg>", "letters are typed")]
    [InlineData("<svg xmlns='http://www.w3.org/2000/svg'></svg>", "nothing in the drawing")]
    [InlineData("<html></html>", "no SVG")]
    [InlineData("not xml at all", "no SVG drawing")]
    [InlineData("<svg xmlns='http://www.w3.org/2000/svg'><rect", "damaged")]
    public void What_is_no_drawing_gives_a_sentence(string content, string says) =>
        Should.Throw<StitchFileException>(() => SvgDrawing.Read(Encoding.UTF8.GetBytes(content))).Message.ShouldContain(says);

    [Fact]
    public void A_million_points_and_endless_nesting_are_refused()
    {
        var points = string.Join(' ', Enumerable.Range(0, 1_000_000).Select(i => $"{i % 1000},{i / 1000}"));
        Should.Throw<StitchFileException>(() => Read($"""<svg xmlns="http://www.w3.org/2000/svg"><polyline points="{points}"/></svg>""")).Message.ShouldContain("points");
        Should.Throw<StitchFileException>(() => Read($"""<svg xmlns="http://www.w3.org/2000/svg">{string.Concat(Enumerable.Repeat("<g>", 300))}<rect width="9" height="9"/>{string.Concat(Enumerable.Repeat("</g>", 300))}</svg>""")).Message.ShouldContain("deep");
        Read("""<svg xmlns="http://www.w3.org/2000/svg"><g id="a"><use href="#a"/><rect width="9" height="9"/></g></svg>""").Shapes.Length.ShouldBe(1);
    }

    [Fact]
    public void Strange_numbers_do_no_harm()
    {
        foreach (var d in new[] { "M0 0 L1e999 5 9 9z", "M", "M0 0L", "Z", "M0 0 A0 0 0 0 0 9 9 L0 9z", "M5 5", "M0 0 L9 nan 9 9" })
            Should.NotThrow(() => Read($"""<svg xmlns="http://www.w3.org/2000/svg"><rect width="9" height="9"/><path d="{d}"/></svg>"""));
    }

    [Fact]
    public void An_arc_through_three_places_goes_through_them()
    {
        var line = BasicShapes.Arc(new(-10, 0), new(0, -10), new(10, 0)).Flattened();
        line.ShouldAllBe(p => Math.Abs(p.Length - 10) < 0.02 && p.Y < 0.01);
        line.Min(p => p.DistanceTo(new(0, -10))).ShouldBeLessThan(0.3);
        BasicShapes.Arc(new(0, 0), new(5, 0), new(10, 0)).Nodes.Length.ShouldBe(3);
    }

    [Theory]
    [InlineData("rectangle")]
    [InlineData("ellipse")]
    [InlineData("polygon")]
    [InlineData("star")]
    [InlineData("heart")]
    [InlineData("crescent")]
    public void Basic_shapes_have_the_size_that_was_asked_for(string shape)
    {
        DrawnShape made = shape switch
        {
            "rectangle" => BasicShapes.Rectangle(30, 20, 4),
            "ellipse" => BasicShapes.Ellipse(30, 20),
            "polygon" => BasicShapes.Polygon(30, 20, 7),
            "star" => BasicShapes.Star(30, 20, 6, 0.4),
            "heart" => BasicShapes.Heart(30, 20),
            _ => BasicShapes.Crescent(30, 20),
        };
        var box = made.Bounds;
        (Math.Round(box.Width, 1), Math.Round(box.Height, 1)).ShouldBe((30, 20));
        box.Middle.Length.ShouldBeLessThan(0.05);
    }

    private static SvgDrawing Read(string svg) => SvgDrawing.Read(Encoding.UTF8.GetBytes(svg));
}
