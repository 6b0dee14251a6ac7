using System.Collections.Immutable;
using System.Globalization;
using System.Text.RegularExpressions;
using System.Xml;
using System.Xml.Linq;
using EvenThimble.Core.Colour;
using EvenThimble.Core.Digitizing.Satin;
using EvenThimble.Core.Geometry;
using EvenThimble.Core.Shapes;
using EvenThimble.Core.Text;

namespace EvenThimble.Core.Files.Drawing;

/// <summary>A shape of a vector drawing: what is painted in one colour.</summary>
/// <param name="Name">From the drawing, or its kind and number.</param>
/// <param name="Shape">In mm about the drawing's middle.</param>
/// <param name="Colour">As it is painted.</param>
/// <param name="LineWidth">Of a line, mm; null for a painted area.</param>
public sealed record SvgShape(string Name, DrawnShape Shape, Rgb Colour, double? LineWidth);

/// <summary>A vector drawing as it is brought in.</summary>
/// <param name="Width">Of the drawing's page, mm.</param>
/// <param name="Height">Of the drawing's page, mm.</param>
/// <param name="SizeIsKnown">Whether the file says it in true units; else 96 units were taken for an inch.</param>
/// <param name="Shapes">In the order they are painted.</param>
/// <param name="Notes">What was left out and why, in sentences.</param>
public sealed partial record SvgDrawing(double Width, double Height, bool SizeIsKnown, ImmutableArray<SvgShape> Shapes, ImmutableArray<string> Notes)
{
    private const double MmPerUnit = 25.4 / 96;
    private const int LargestFile = 16 << 20;
    private const int MostShapes = 400;
    private const int DeepestNesting = 64;

    /// <summary>Reads a drawing.</summary>
    /// <exception cref="StitchFileException">It cannot be used; the message says why.</exception>
    public static SvgDrawing Read(byte[] bytes)
    {
        if (bytes.Length > LargestFile) throw new StitchFileException($"The drawing is larger than {LargestFile >> 20} MB. Simplify it, or bring it in by parts.");
        XElement root;
        try
        {
            using var reader = XmlReader.Create(new MemoryStream(bytes), new() { DtdProcessing = DtdProcessing.Prohibit, XmlResolver = null, MaxCharactersInDocument = LargestFile, IgnoreComments = true, IgnoreProcessingInstructions = true });
            root = XDocument.Load(reader).Root!;
        }
        catch (XmlException e)
        {
            throw new StitchFileException(e.Message.Contains("DTD", StringComparison.Ordinal)
                ? "The drawing declares entities of its own, which could hide anything; such files are not opened. Save it as plain SVG and try again."
                : $"This is no SVG drawing, or it is damaged at line {e.LineNumber}. Save it again as SVG and try once more.");
        }

        if (root.Name.LocalName != "svg") throw new StitchFileException("The file is XML, but no SVG drawing.");
        return new Reading(root).Drawing();
    }

    /// <summary>The drawing at another width; heights follow.</summary>
    public SvgDrawing AtWidth(double width)
    {
        var k = width / Width;
        return this with { Width = width, Height = Height * k, SizeIsKnown = true, Shapes = [.. Shapes.Select(s => s with { Shape = s.Shape.Moved(p => p * k), LineWidth = s.LineWidth * k })] };
    }

    [GeneratedRegex(@"([a-zA-Z]+)\s*\(([^)]*)\)")]
    private static partial Regex Transforms();

    private sealed class Reading(XElement root)
    {
        /// <summary>x' = A x + C y + E, y' = B x + D y + F.</summary>
        private readonly record struct Matrix(double A, double B, double C, double D, double E, double F)
        {
            public static readonly Matrix Same = new(1, 0, 0, 1, 0, 0);

            public Matrix After(Matrix m) => new((A * m.A) + (C * m.B), (B * m.A) + (D * m.B), (A * m.C) + (C * m.D), (B * m.C) + (D * m.D), (A * m.E) + (C * m.F) + E, (B * m.E) + (D * m.F) + F);

            public Point Of(Point p) => new((A * p.X) + (C * p.Y) + E, (B * p.X) + (D * p.Y) + F);

            public double Scale => Math.Sqrt(Math.Abs((A * D) - (B * C)));
        }

        private readonly record struct Paint(string Fill, string Stroke, double StrokeWidth, bool EvenOdd, bool Hidden, string Colour)
        {
            public static readonly Paint Usual = new("black", "none", 1, false, false, "black");
        }

        private readonly List<SvgShape> _shapes = [];
        private readonly SortedSet<string> _notes = new(StringComparer.Ordinal);
        private const int MostCheckedForCrossing = 2_000;
        private int _nodes;

        public SvgDrawing Drawing()
        {
            var box = Numbers((string?)root.Attribute("viewBox"));
            var (width, height) = (Length(root, "width"), Length(root, "height"));
            var hasBox = box.Count == 4 && box[2] > 0 && box[3] > 0;
            if (!hasBox) box = [0, 0, width?.Mm / MmPerUnit ?? 0, height?.Mm / MmPerUnit ?? 0];
            var known = width is { HasUnit: true } || height is { HasUnit: true };
            var scale = width is { Mm: > 0 } w && box[2] > 0 ? w.Mm / box[2] : height is { Mm: > 0 } h && box[3] > 0 ? h.Mm / box[3] : MmPerUnit;
            Children(root, new(scale, 0, 0, scale, -scale * (box[0] + (box[2] / 2)), -scale * (box[1] + (box[3] / 2))), Paint.Usual, 0);
            if (_shapes.Count == 0)
                throw new StitchFileException($"There is nothing in the drawing that could be stitched. {string.Join(' ', _notes)}".TrimEnd());
            var around = _shapes.Aggregate(Box.Empty, (b, s) => b.With(s.Shape.Bounds));
            var (pageWidth, pageHeight) = (box[2] > 0 ? box[2] * scale : around.Width, box[3] > 0 ? box[3] * scale : around.Height);
            return new(Math.Max(pageWidth, 0.1), Math.Max(pageHeight, 0.1), known, [.. _shapes], [.. _notes]);
        }

        private void Children(XElement parent, Matrix matrix, Paint paint, int depth)
        {
            if (depth > DeepestNesting) throw new StitchFileException($"The drawing nests groups more than {DeepestNesting} deep. Ungroup it and save it again.");
            foreach (var e in parent.Elements()) Element(e, matrix, paint, depth);
        }

        private void Element(XElement e, Matrix matrix, Paint inherited, int depth)
        {
            var paint = PaintOf(e, inherited);
            var here = matrix.After(TransformOf(e));
            switch (e.Name.LocalName)
            {
                case "g" or "a" or "switch":
                    Children(e, here, paint, depth + 1);
                    break;
                case "svg":
                    Children(e, here.After(new(1, 0, 0, 1, Number(e, "x"), Number(e, "y"))), paint, depth + 1);
                    break;
                case "text":
                    _notes.Add("Text was left out: letters are typed in the task for letters, where they are stitched as letters should be.");
                    break;
                case "image":
                    _notes.Add("Pictures in the drawing were left out: only lines and areas can be stitched.");
                    break;
                case "script":
                    _notes.Add("A script in the drawing was left out; it is never run.");
                    break;
                case "use":
                    Use(e, here, paint, depth);
                    break;
                case "defs" or "symbol" or "clipPath" or "mask" or "pattern" or "marker" or "linearGradient" or "radialGradient" or "style" or "title" or "desc" or "metadata" or "filter":
                    if (e.Name.LocalName is "style" && e.Value.Contains('{', StringComparison.Ordinal)) _notes.Add("Style sheets in the drawing are not read; colours set by them are black here.");
                    break;
                case "foreignObject":
                    _notes.Add("What the drawing embeds of other documents was left out.");
                    break;
                default:
                    if (paint.Hidden || OutlinesOf(e) is not { Count: > 0 } outlines) break;
                    Add(e, outlines, here, paint);
                    break;
            }
        }

        private void Use(XElement e, Matrix here, Paint paint, int depth)
        {
            var link = e.Attributes().FirstOrDefault(a => a.Name.LocalName == "href")?.Value ?? string.Empty;
            if (!link.StartsWith('#'))
            {
                _notes.Add("Something that lies in another file was left out: nothing outside the drawing is opened.");
                return;
            }

            if (depth >= DeepestNesting || root.Descendants().FirstOrDefault(d => (string?)d.Attribute("id") == link[1..]) is not { } target || e.Ancestors().Contains(target)) return;
            var moved = here.After(new(1, 0, 0, 1, Number(e, "x"), Number(e, "y")));
            if (target.Name.LocalName is "symbol" or "svg") Children(target, moved, paint, depth + 8);
            else Element(target, moved, paint, depth + 8);
        }

        private void Add(XElement e, List<ShapePath> outlines, Matrix matrix, Paint paint)
        {
            _nodes += outlines.Sum(o => o.Nodes.Length);
            if (_nodes > DrawnShape.MostNodes * 10) throw new StitchFileException($"The drawing has more than {DrawnShape.MostNodes * 10:N0} points, far more than stitches could follow. Simplify it and bring it in again.");
            if (_shapes.Count >= MostShapes) throw new StitchFileException($"The drawing has more than {MostShapes} shapes. Join those of one colour, or bring it in by parts.");
            var shape = new DrawnShape([.. outlines], paint.EvenOdd ? Inside.OddCrossings : Inside.AnyWinding).Moved(matrix.Of);
            if (shape.Paths.SelectMany(p => p.Nodes).Any(n => !double.IsFinite(n.At.X + n.At.Y + n.In.X + n.In.Y + n.Out.X + n.Out.Y)))
            {
                _notes.Add("A shape with a point that is nowhere was left out.");
                return;
            }

            if (Math.Max(shape.Bounds.Width, shape.Bounds.Height) < 0.2)
            {
                _notes.Add("Shapes without any size were left out.");
                return;
            }

            if (shape.Paths.Sum(p => p.Nodes.Length) > DrawnShape.MostNodes) throw new StitchFileException($"A shape of the drawing has more than {DrawnShape.MostNodes:N0} points. Simplify it and bring the drawing in again.");
            var name = NameOf(e);
            if (ColourOf(paint.Fill, paint.Colour) is { } fill)
            {
                // As painting has it, an open outline is filled as if it were closed.
                if (shape.Paths.Any(p => !p.Closed)) _notes.Add("Painted outlines that are open were closed with a straight line.");
                if (shape.Paths.Any(p => p.Nodes.Length < MostCheckedForCrossing && Area.CrossesItself(p.Flattened()))) _notes.Add("Outlines that cross themselves are stitched where the drawing paints them; look at the places where they cross.");
                var closed = shape with { Paths = [.. shape.Paths.Where(p => p.Nodes.Length > 2 || p.Nodes.Any(n => n.Kind != NodeKind.Corner)).Select(p => p with { Closed = true })] };
                if (Area.Of(closed.Paths.Select(p => p.Flattened()), closed.Rule).Count > 0) _shapes.Add(new(name, closed, fill, null));
                else if (ColourOf(paint.Stroke, paint.Colour) is null) _notes.Add("An area too thin to be stitched was left out.");
            }

            if (ColourOf(paint.Stroke, paint.Colour) is { } stroke && paint.StrokeWidth > 0)
                _shapes.Add(new(ColourOf(paint.Fill, paint.Colour) is null ? name : $"{name}, outline", shape, stroke, paint.StrokeWidth * matrix.Scale));
        }

        private string NameOf(XElement e)
        {
            var given = e.Elements().FirstOrDefault(c => c.Name.LocalName == "title")?.Value
                ?? e.Attributes().FirstOrDefault(a => a.Name.LocalName == "label")?.Value ?? (string?)e.Attribute("id");
            var clean = given is null ? string.Empty : Titles.Clean(given.Replace('-', ' ').Replace('_', ' '));
            return clean.Length > 0 ? clean : $"{e.Name.LocalName} {_shapes.Count + 1}";
        }

        private static List<ShapePath>? OutlinesOf(XElement e)
        {
            switch (e.Name.LocalName)
            {
                case "path":
                    return SvgPathData.Read((string?)e.Attribute("d") ?? string.Empty);
                case "rect":
                    var (w, h) = (Number(e, "width"), Number(e, "height"));
                    if (w <= 0 || h <= 0) return null;
                    var radius = Math.Max(Number(e, "rx"), Number(e, "ry"));
                    var middle = new Point(Number(e, "x") + (w / 2), Number(e, "y") + (h / 2));
                    return [.. BasicShapes.Rectangle(w, h, radius).Moved(p => p + middle).Paths];
                case "circle" or "ellipse":
                    var (rx, ry) = e.Name.LocalName == "circle" ? (Number(e, "r"), Number(e, "r")) : (Number(e, "rx"), Number(e, "ry"));
                    var centre = new Point(Number(e, "cx"), Number(e, "cy"));
                    return rx <= 0 || ry <= 0 ? null : [.. BasicShapes.Ellipse(2 * rx, 2 * ry).Moved(p => p + centre).Paths];
                case "line":
                    return [ShapePath.Through([new(Number(e, "x1"), Number(e, "y1")), new(Number(e, "x2"), Number(e, "y2"))], closed: false)];
                case "polyline" or "polygon":
                    var xy = Numbers((string?)e.Attribute("points"));
                    return xy.Count < 4 ? null : [ShapePath.Through(Enumerable.Range(0, xy.Count / 2).Select(i => new Point(xy[2 * i], xy[(2 * i) + 1])), e.Name.LocalName == "polygon")];
                default:
                    return null;
            }
        }

        private static Paint PaintOf(XElement e, Paint inherited)
        {
            var style = ((string?)e.Attribute("style") ?? string.Empty).Split(';')
                .Select(d => d.Split(':', 2)).Where(d => d.Length == 2).GroupBy(d => d[0].Trim()).ToDictionary(g => g.Key, g => g.Last()[1].Trim());
            string? Of(string name) => style.GetValueOrDefault(name) ?? (string?)e.Attribute(name);
            var colour = Of("color") ?? inherited.Colour;
            return new(
                Of("fill") ?? inherited.Fill, Of("stroke") ?? inherited.Stroke,
                Of("stroke-width") is { } w && Measure(w) is { } width ? width.Mm / MmPerUnit : inherited.StrokeWidth,
                Of("fill-rule") is { } rule ? rule == "evenodd" : inherited.EvenOdd,
                inherited.Hidden || Of("display") == "none" || Of("visibility") == "hidden", colour);
        }

        private Rgb? ColourOf(string paint, string current)
        {
            paint = paint.Trim().ToLowerInvariant();
            if (paint is "none" or "transparent") return null;
            if (paint == "currentcolor") paint = current.Trim().ToLowerInvariant();
            if (paint.StartsWith('#') && Rgb.TryParse(paint.Length > 7 ? paint[..7] : paint, out var rgb)) return rgb;
            if (paint.StartsWith("rgb", StringComparison.Ordinal))
            {
                var numbers = Numbers(paint[(paint.IndexOf('(') + 1)..].TrimEnd(')').Replace('%', ' '));
                var k = paint.Contains('%', StringComparison.Ordinal) ? 2.55 : 1;
                if (numbers.Count >= 3) return new(Channel(numbers[0] * k), Channel(numbers[1] * k), Channel(numbers[2] * k));
            }

            if (paint.StartsWith("url", StringComparison.Ordinal))
            {
                _notes.Add("Blends of colours become one plain colour, grey; choose a thread for them.");
                return new(0x80, 0x80, 0x80);
            }

            var named = System.Drawing.Color.FromName(paint);
            return named.IsKnownColor ? new(named.R, named.G, named.B) : new Rgb(0, 0, 0);
        }

        private static byte Channel(double v) => (byte)Math.Clamp(Math.Round(v), 0, 255);

        private static Matrix TransformOf(XElement e)
        {
            var all = Matrix.Same;
            foreach (Match m in Transforms().Matches((string?)e.Attribute("transform") ?? string.Empty))
            {
                var n = Numbers(m.Groups[2].Value);
                double At(int i, double usual = 0) => i < n.Count ? n[i] : usual;
                var (sin, cos) = Math.SinCos(At(0) * Math.PI / 180);
                all = all.After(m.Groups[1].Value switch
                {
                    "translate" => new(1, 0, 0, 1, At(0), At(1)),
                    "scale" => new(At(0, 1), 0, 0, At(1, At(0, 1)), 0, 0),
                    "rotate" => new Matrix(1, 0, 0, 1, At(1), At(2)).After(new(cos, sin, -sin, cos, 0, 0)).After(new(1, 0, 0, 1, -At(1), -At(2))),
                    "skewX" => new(1, 0, Math.Tan(At(0) * Math.PI / 180), 1, 0, 0),
                    "skewY" => new(1, Math.Tan(At(0) * Math.PI / 180), 0, 1, 0, 0),
                    "matrix" when n.Count == 6 => new(n[0], n[1], n[2], n[3], n[4], n[5]),
                    _ => Matrix.Same,
                });
            }

            return all;
        }

        private static double Number(XElement e, string attribute) => Length(e, attribute)?.Mm / MmPerUnit ?? 0;

        private static (double Mm, bool HasUnit)? Length(XElement e, string attribute) => (string?)e.Attribute(attribute) is { } text ? Measure(text) : null;

        /// <summary>A length with or without a unit; percentages say nothing here.</summary>
        private static (double Mm, bool HasUnit)? Measure(string text)
        {
            text = text.Trim();
            var letters = text.Length;
            while (letters > 0 && (char.IsAsciiLetter(text[letters - 1]) || text[letters - 1] == '%')) letters--;
            if (!double.TryParse(text[..letters], NumberStyles.Float, CultureInfo.InvariantCulture, out var value) || !double.IsFinite(value)) return null;
            double? unit = text[letters..].ToLowerInvariant() switch
            {
                "mm" => 1,
                "cm" => 10,
                "in" => 25.4,
                "pt" => 25.4 / 72,
                "pc" => 25.4 / 6,
                "q" => 0.25,
                "" or "px" => MmPerUnit,
                _ => null,
            };
            return unit is { } mm ? (value * mm, text[letters..].ToLowerInvariant() is not ("" or "px")) : null;
        }

        private static List<double> Numbers(string? text)
        {
            var numbers = new List<double>();
            foreach (var part in (text ?? string.Empty).Split([' ', ',', '\t', '\r', '\n'], StringSplitOptions.RemoveEmptyEntries))
            {
                if (!double.TryParse(part, NumberStyles.Float, CultureInfo.InvariantCulture, out var value) || !double.IsFinite(value)) break;
                numbers.Add(value);
            }

            return numbers;
        }
    }
}
