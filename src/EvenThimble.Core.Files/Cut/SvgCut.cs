using System.Collections.Immutable;
using System.Globalization;
using System.Text;
using System.Xml.Linq;
using EvenThimble.Core.Cutting;
using EvenThimble.Core.Files.Drawing;
using EvenThimble.Core.Geometry;
using EvenThimble.Core.Machines;
using EvenThimble.Core.Text;

namespace EvenThimble.Core.Files.Cut;

/// <summary>Cut lines as SVG: size in mm, the view in mm, hairlines without a fill, a group for each material, a path for each line.</summary>
internal sealed class SvgCut : ICutFormat
{
    private const double Hairline = 0.1;
    private static readonly XNamespace Svg = "http://www.w3.org/2000/svg";
    private static readonly string[] Colours = ["#a63a3c", "#2f4b7c", "#4d7a4a", "#c9962b", "#6b4a7d", "#1f2a37"];

    public CutFileKind Kind => CutFileKind.Svg;

    public byte[] Write(CutFile file)
    {
        var root = new XElement(Svg + "svg", new XAttribute("version", "1.1"), new XAttribute("width", $"{N(file.Width)}mm"), new XAttribute("height", $"{N(file.Height)}mm"), new XAttribute("viewBox", $"0 0 {N(file.Width)} {N(file.Height)}"),
            new XElement(Svg + "title", Titles.Clean(file.Title)));
        foreach (var (group, n) in file.Groups.Select((g, n) => (g, n)))
        {
            root.Add(new XElement(Svg + "g", new XAttribute("id", $"material-{n + 1}"), new XAttribute("data-material", group.Material), new XAttribute("fill", "none"), new XAttribute("stroke", Colours[n % Colours.Length]), new XAttribute("stroke-width", N(Hairline)),
                new XElement(Svg + "title", group.Material),
                group.Lines.Select(l => new XElement(Svg + "path", new XAttribute("d", $"M{string.Join(" L", l.Select(p => $"{N(p.X)},{N(p.Y)}"))} Z")))));
        }

        return new UTF8Encoding(false).GetBytes($"<?xml version=\"1.0\" encoding=\"UTF-8\"?>\n{root}\n");
    }

    public CutFile Read(byte[] bytes, string title)
    {
        var drawing = SvgDrawing.Read(bytes);
        if (!drawing.SizeIsKnown) throw new StitchFileException("The drawing does not tell its size. Write width and height in mm into it.");
        var lines = drawing.Shapes.SelectMany(s => s.Shape.Paths).ToList();
        if (lines.Exists(l => !l.Closed)) throw new StitchFileException("The drawing has a line that is not closed, which a cutter would leave hanging.");
        var corner = new Point(drawing.Width, drawing.Height) / 2;
        return new(title, drawing.Width, drawing.Height, [new(CutPieces.UsualMaterial, [.. lines.Select(l => l.Flattened().Select(p => p + corner).ToImmutableArray())])]);
    }

    private static string N(double v) => Math.Round(v, 4).ToString("0.####", CultureInfo.InvariantCulture);
}
