using System.IO.Compression;
using System.Text;
using EvenThimble.Core.Files.Drawing;
using EvenThimble.Core.Text;

namespace EvenThimble.Core.Tests.Drawing;

/// <summary>What common drawing programs write, in made-up drawings.</summary>
public class DrawingsOfOthersTests
{
    private const string Open = """<svg xmlns="http://www.w3.org/2000/svg" xmlns:xlink="http://www.w3.org/1999/xlink" width="100mm" height="100mm" viewBox="0 0 100 100">""";

    [Fact]
    public void A_document_type_with_entities_of_its_own_is_read_and_nothing_it_points_at_is_fetched()
    {
        var drawing = Read("""
            <?xml version="1.0" encoding="UTF-8" standalone="no"?>
            <!DOCTYPE svg PUBLIC "-//W3C//DTD SVG 1.1//EN" "http://nowhere.invalid/svg11.dtd" [ <!ENTITY ns "http://www.w3.org/2000/svg"> <!ENTITY dusk "#a63a3c"> <!ENTITY outside SYSTEM "file:///etc/passwd"> ]>
            <svg xmlns="&ns;" width="50mm" viewBox="0 0 50 50"><rect width="20" height="20" fill="&dusk;"/><title>&outside;</title></svg>
            """);
        drawing.Shapes.ShouldHaveSingleItem().Colour.Hex.ShouldBe("#a63a3c");
        drawing.Shapes[0].Name.ShouldNotContain("root");
    }

    [Theory]
    [InlineData("<style>.dome{fill:#2f4b7c}</style><rect class='dome' width='9' height='9'/>", "#2f4b7c")]
    [InlineData("<style>/* x */ rect{fill:red} #a{fill:#00ff00} .dome{fill:blue}</style><rect id='a' class='dome' width='9' height='9'/>", "#00ff00")]
    [InlineData("<style>rect{fill:red}</style><rect style='fill:#010203' width='9' height='9'/>", "#010203")]
    [InlineData("<style>rect{fill:#040506 !important}</style><rect style='fill:#010203' width='9' height='9'/>", "#040506")]
    [InlineData("<style><![CDATA[ g > .slit, .other {fill:#070809} ]]></style><g><rect class='slit' width='9' height='9'/></g>", "#070809")]
    [InlineData("<style>g{fill:#0a0b0c}</style><g><rect width='9' height='9'/></g>", "#0a0b0c")]
    [InlineData("<style>rect{fill:#0a0b0c}</style><rect fill='red' width='9' height='9'/>", "#0a0b0c")]
    [InlineData("<g color='#0d0e0f'><rect fill='currentColor' width='9' height='9'/></g>", "#0d0e0f")]
    [InlineData("<g visibility='hidden'><rect visibility='visible' fill='#111213' width='9' height='9'/></g>", "#111213")]
    [InlineData("<g fill='#141516'><rect fill='inherit' width='9' height='9'/></g>", "#141516")]
    [InlineData("<rect fill='rgb(10%, 20%, 30%)' width='9' height='9'/>", "#1a334c")]
    [InlineData("<rect fill='hsl(120, 100%, 25%)' width='9' height='9'/>", "#008000")]
    [InlineData("<rect fill='lightslategrey' width='9' height='9'/>", "#778899")]
    [InlineData("<rect fill='#123' width='9' height='9'/>", "#112233")]
    public void Colours_are_found_as_style_sheets_and_inheritance_have_it(string content, string colour) => Read(Open + content + "</svg>").Shapes.ShouldHaveSingleItem().Colour.Hex.ShouldBe(colour);

    [Theory]
    [InlineData("<rect display='none' width='9' height='9'/>")]
    [InlineData("<g display='none'><rect display='inline' width='9' height='9'/></g>")]
    [InlineData("<rect visibility='collapse' width='9' height='9'/>")]
    [InlineData("<rect fill='none' width='9' height='9'/>")]
    [InlineData("<rect opacity='0' width='9' height='9'/>")]
    [InlineData("<style>.x{display:none}</style><rect class='x' width='9' height='9'/>")]
    [InlineData("<defs><rect width='9' height='9'/></defs>")]
    public void What_is_not_painted_is_not_brought_in(string content) => Read(Open + "<circle r='5' cx='50' cy='50'/>" + content + "</svg>").Shapes.ShouldHaveSingleItem();

    [Theory]
    [InlineData("<stop offset='0' stop-color='#000000'/><stop offset='1' stop-color='#ffffff'/>", "#808080")]
    [InlineData("<stop offset='0%' style='stop-color:#ff0000'/><stop offset='50%' style='stop-color:#ff0000'/><stop offset='100%' style='stop-color:#ff0000'/>", "#ff0000")]
    [InlineData("<stop offset='.5' stop-color='#000000'/><stop offset='.5' stop-color='#ffffff'/>", "#808080")]
    [InlineData("<stop offset='0.75' stop-color='#000000'/><stop offset='0.75' stop-color='#ffffff'/>", "#404040")]
    public void A_blend_becomes_its_mean_colour_by_how_much_of_it_each_takes(string stops, string mean)
    {
        var drawing = Read($"{Open}<defs><linearGradient id='a'>{stops}</linearGradient><radialGradient id='b' xlink:href='#a'/></defs><rect fill='url(#b)' width='30' height='30'/></svg>");
        drawing.Shapes.ShouldHaveSingleItem().Colour.Hex.ShouldBe(mean);
    }

    [Fact]
    public void Clips_blends_and_patterns_are_told()
    {
        var drawing = Read($"{Open}<clipPath id='c'><rect width='5' height='5'/></clipPath><linearGradient id='a'><stop stop-color='red'/><stop offset='1' stop-color='blue'/></linearGradient><pattern id='p'><rect fill='lime' width='2' height='2'/></pattern><rect clip-path='url(#c)' fill='url(#a)' width='30' height='30'/><rect fill='url(#p)' x='40' width='30' height='30'/></svg>");
        drawing.Shapes.Length.ShouldBe(2);
        foreach (var said in new[] { "clip", "blend", "pattern" }) drawing.Notes.ShouldContain(n => n.Contains(said, StringComparison.Ordinal));
    }

    [Fact]
    public void Symbols_are_fitted_where_they_are_used()
    {
        var drawing = Read($"{Open}<symbol id='s' viewBox='0 0 10 10'><rect width='10' height='10'/></symbol><use xlink:href='#s' x='20' y='30' width='40' height='20'/></svg>");
        var box = drawing.Shapes.ShouldHaveSingleItem().Shape.Bounds;
        (Math.Round(box.MinX + 50, 6), Math.Round(box.MinY + 50, 6), Math.Round(box.Width, 6), Math.Round(box.Height, 6)).ShouldBe((30, 30, 20, 20));
    }

    [Fact]
    public void Packed_drawings_are_read()
    {
        using var packed = new MemoryStream();
        using (var packing = new GZipStream(packed, CompressionLevel.Fastest, leaveOpen: true)) packing.Write(Encoding.UTF8.GetBytes($"{Open}<rect width='9' height='9'/></svg>"));
        SvgDrawing.Read(packed.ToArray()).Shapes.ShouldHaveSingleItem();
        Should.Throw<StitchFileException>(() => SvgDrawing.Read(packed.ToArray()[..40]));
    }

    [Fact]
    public void Very_many_shapes_of_one_colour_are_joined_and_those_that_something_lies_between_stay_apart()
    {
        var stars = string.Concat(Enumerable.Range(0, 900).Select(i => $"<rect x='{i % 30 * 3}' y='{i / 30 * 3}' width='2' height='2' fill='{(i % 3 == 0 ? "gold" : "navy")}'/>"));
        var joined = Read($"{Open}{stars}</svg>");
        joined.Shapes.Length.ShouldBe(2);
        joined.Shapes.Sum(s => s.Shape.Paths.Length).ShouldBe(900);
        joined.Notes.ShouldContain(n => n.Contains("joined", StringComparison.Ordinal));

        // Gold over navy over gold at one place: the order must stay.
        var layers = string.Concat(Enumerable.Range(0, 420).Select(i => $"<rect x='{i % 20 * 4}' y='{i / 20 * 4}' width='3' height='3' fill='navy'/>")) + "<rect width='90' height='90' fill='gold'/><rect x='10' y='10' width='20' height='20' fill='navy'/>";
        Read($"{Open}{layers}</svg>").Shapes.Select(s => s.Colour.Hex).ShouldBe(["#000080", "#ffd700", "#000080"]);
    }

    [Theory]
    [InlineData("uses in uses", "times over")]
    [InlineData("uses of nothing", null)]
    [InlineData("a long transform", null)]
    [InlineData("nested groups", "deep")]
    [InlineData("elements", "elements")]
    public void What_is_repeated_without_end_is_refused_or_passed_over(string kind, string? says)
    {
        var content = kind switch
        {
            "uses in uses" => "<g id='a0'><rect width='9' height='9'/></g>" + string.Concat(Enumerable.Range(1, 7).Select(i => $"<g id='a{i}'>{string.Concat(Enumerable.Repeat($"<use xlink:href='#a{i - 1}'/>", 10))}</g>")),
            "uses of nothing" => "<rect width='9' height='9'/>" + string.Concat(Enumerable.Repeat("<use xlink:href='#none'/>", 20_000)),
            "a long transform" => $"<rect width='9' height='9' transform='{new string('a', 400_000)}'/>",
            "nested groups" => string.Concat(Enumerable.Repeat("<g>", 100_000)) + string.Concat(Enumerable.Repeat("</g>", 100_000)),
            _ => string.Concat(Enumerable.Repeat("<g/>", 300_000)),
        };
        if (says is null) Read($"{Open}{content}</svg>").Shapes.ShouldHaveSingleItem();
        else Should.Throw<StitchFileException>(() => Read($"{Open}{content}</svg>")).Message.ShouldContain(says);
    }

    private static SvgDrawing Read(string svg) => SvgDrawing.Read(Encoding.UTF8.GetBytes(svg.Trim()));
}
