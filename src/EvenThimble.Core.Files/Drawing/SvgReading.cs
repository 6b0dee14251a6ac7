using System.Globalization;
using System.Xml.Linq;
using EvenThimble.Core.Colour;
using EvenThimble.Core.Geometry;
using EvenThimble.Core.Shapes;
using EvenThimble.Core.Text;
using EvenThimble.Core.Work;

namespace EvenThimble.Core.Files.Drawing;

/// <summary>Goes through a drawing as a painter would, and takes down what is painted.</summary>
internal sealed class SvgReading
{
    private const int MostVisited = 60_000;
    private const int MostPoints = 300_000;
    private const int MostKept = 20_000;
    private const int MostCheckedForCrossing = 2_000;
    private const double LeastMm = 0.2;
    private const double LeastArea = 0.02;
    private const double LeastOpacity = 0.05;

    /// <summary>What an element hands on to those in it.</summary>
    private readonly record struct Paint(string Fill, string Stroke, double StrokeWidth, bool EvenOdd, bool Hidden, string Colour, double Opacity, double FillOpacity, double StrokeOpacity)
    {
        public static readonly Paint Usual = new("black", "none", 1, false, false, "black", 1, 1, 1);
    }

    private readonly XElement _root;
    private readonly Dictionary<string, XElement> _byId = [];
    private readonly SvgStyles _styles;
    private readonly SvgPaints _paints;
    private readonly List<SvgShape> _shapes = [];
    private readonly SortedSet<string> _notes = new(StringComparer.Ordinal);
    private readonly HashSet<XElement> _inUse = [];
    private (double Width, double Height) _port;
    private int _points;
    private int _visited;

    public SvgReading(XElement root)
    {
        _root = root;
        foreach (var e in root.DescendantsAndSelf())
            if ((string?)e.Attribute("id") is { } id) _byId.TryAdd(id, e);
        _styles = new(root);
        _paints = new(_byId, _styles);
    }

    public SvgDrawing Drawing()
    {
        var box = SvgNumbers.List((string?)_root.Attribute("viewBox"));
        var hasBox = box.Count == 4 && box[2] > 0 && box[3] > 0;
        var (width, height) = (SvgNumbers.Length((string?)_root.Attribute("width")), SvgNumbers.Length((string?)_root.Attribute("height")));
        if (!hasBox) box = [0, 0, width?.Units ?? 0, height?.Units ?? 0];
        _port = (box[2], box[3]);
        var known = width is { HasUnit: true } || height is { HasUnit: true };
        double? across = width is { Units: > 0 } w && box[2] > 0 ? w.Units / box[2] : null, down = height is { Units: > 0 } h && box[3] > 0 ? h.Units / box[3] : null;
        // Rounded, so that what is said in millimetres is just that.
        var scale = Math.Round(SvgNumbers.MmPerUnit * (across is { } a && down is { } d ? Math.Min(a, d) : across ?? down ?? 1), 12);
        Children(_root, new(scale, 0, 0, scale, -scale * (box[0] + (box[2] / 2)), -scale * (box[1] + (box[3] / 2))), PaintOf(_root, Paint.Usual));
        if (_shapes.Count == 0) throw new StitchFileException($"There is nothing in the drawing that could be stitched. {_notes.FirstOrDefault()}".TrimEnd());
        var shapes = Few();
        if (_paints.HasBlends) _notes.Add("A blend of colours becomes the mean of them; choose another thread where that is not right.");
        if (_paints.HasHalfClear) _notes.Add("What is half clear was taken in the colour that it has on white.");
        if (_paints.HasPatterns) _notes.Add("A pattern becomes the mean of its colours.");
        var around = shapes.Aggregate(Box.Empty, (b, s) => b.With(s.Shape.Bounds));
        var (pageWidth, pageHeight) = (box[2] > 0 ? Math.Round(box[2] * scale, 9) : around.Width, box[3] > 0 ? Math.Round(box[3] * scale, 9) : around.Height);
        return new(Math.Max(pageWidth, 0.1), Math.Max(pageHeight, 0.1), known, [.. shapes], [.. _notes]);
    }

    private List<SvgShape> Few()
    {
        if (_shapes.Count <= SvgDrawing.ManyShapes) return _shapes;
        var joined = SvgJoining.Joined(_shapes);
        if (joined.Count < _shapes.Count) _notes.Add($"{_shapes.Count:N0} shapes were joined to {joined.Count:N0}: those of one colour with nothing between them.");
        return joined.Count <= SvgDrawing.MostShapes ? joined : throw new StitchFileException($"The drawing has {joined.Count:N0} shapes in colours of their own; at most {SvgDrawing.MostShapes:N0} can be brought in. Simplify it, or bring it in by parts.");
    }

    private void Children(XElement parent, SvgMatrix matrix, Paint paint)
    {
        foreach (var e in parent.Elements()) Element(e, matrix, paint);
    }

    private void Element(XElement e, SvgMatrix matrix, Paint inherited)
    {
        WorkBudget.CheckDepth();
        WorkBudget.Current.Spend(8);
        if (++_visited > MostVisited) throw new StitchFileException($"The drawing repeats its parts more than {MostVisited:N0} times over, far more than could be stitched. Simplify it and bring it in again.");
        switch (e.Name.LocalName)
        {
            case "defs" or "symbol" or "clipPath" or "mask" or "pattern" or "marker" or "linearGradient" or "radialGradient" or "style" or "title" or "desc" or "metadata" or "filter":
                return;
            case "text" or "flowRoot":
                _notes.Add("Text was left out: letters are typed in the task for letters, where they are stitched as letters should be.");
                return;
            case "image":
                _notes.Add("Pictures in the drawing were left out: only lines and areas can be stitched.");
                return;
            case "script":
                _notes.Add("A script in the drawing was left out; it is never run.");
                return;
            case "foreignObject":
                _notes.Add("What the drawing embeds of other documents was left out.");
                return;
        }

        if (PaintOf(e, inherited, out var style) is not { } paint) return;
        if (style.GetValueOrDefault("clip-path") is { } clip && clip != "none" || style.GetValueOrDefault("mask") is { } mask && mask != "none")
            _notes.Add("Something in the drawing is cut off by a clip or a mask; it is brought in whole. Cut it in the drawing program if that is not right.");
        var here = matrix.After(SvgMatrix.Read((string?)e.Attribute("transform")));
        switch (e.Name.LocalName)
        {
            case "g" or "a":
                Children(e, here, paint);
                break;
            case "switch":
                if (e.Elements().FirstOrDefault(c => c.Name.NamespaceName == _root.Name.NamespaceName && c.Attribute("requiredExtensions") is null) is { } chosen) Element(chosen, here, paint);
                break;
            case "svg":
                Children(e, here.After(SvgMatrix.Shift(Across(e, "x"), Down(e, "y"))).After(Port(e, Across(e, "width", _port.Width), Down(e, "height", _port.Height))), paint);
                break;
            case "use":
                Use(e, here, paint);
                break;
            default:
                if (!paint.Hidden && OutlinesOf(e) is { Count: > 0 } outlines) Add(e, outlines, here, paint);
                break;
        }
    }

    private void Use(XElement e, SvgMatrix here, Paint paint)
    {
        var link = e.Attributes().FirstOrDefault(a => a.Name.LocalName == "href")?.Value ?? string.Empty;
        if (!link.StartsWith('#'))
        {
            if (link.Length > 0) _notes.Add("Something that lies in another file was left out: nothing outside the drawing is opened.");
            return;
        }

        if (!_byId.TryGetValue(link[1..], out var target) || !_inUse.Add(target)) return;
        var moved = here.After(SvgMatrix.Shift(Across(e, "x"), Down(e, "y")));
        if (target.Name.LocalName == "symbol") Children(target, moved.After(Port(target, Across(e, "width", _port.Width), Down(e, "height", _port.Height))), PaintOf(target, paint));
        else if (!e.Ancestors().Contains(target)) Element(target, moved, paint);
        _inUse.Remove(target);
    }

    /// <summary>What a port with a box of its own does to what is in it: fitted, in the middle.</summary>
    private static SvgMatrix Port(XElement e, double width, double height)
    {
        var box = SvgNumbers.List((string?)e.Attribute("viewBox"));
        if (box.Count != 4 || !(box[2] > 0 && box[3] > 0 && width > 0 && height > 0)) return SvgMatrix.Same;
        var (across, down) = (width / box[2], height / box[3]);
        if ((string?)e.Attribute("preserveAspectRatio") is { } ratio && ratio.Contains("none", StringComparison.Ordinal)) return new SvgMatrix(across, 0, 0, down, -box[0] * across, -box[1] * down);
        var k = Math.Min(across, down);
        return new SvgMatrix(k, 0, 0, k, ((width - (box[2] * k)) / 2) - (box[0] * k), ((height - (box[3] * k)) / 2) - (box[1] * k));
    }

    private void Add(XElement e, List<ShapePath> outlines, SvgMatrix matrix, Paint paint)
    {
        var fill = _paints.ColourOf(paint.Fill, paint.Colour, paint.Opacity * paint.FillOpacity);
        var stroke = paint.StrokeWidth > 0 ? _paints.ColourOf(paint.Stroke, paint.Colour, paint.Opacity * paint.StrokeOpacity) : null;
        if (fill is null && stroke is null) return;
        var count = outlines.Sum(o => o.Nodes.Length);
        WorkBudget.Current.Spend(count);
        _points += count;
        if (_points > MostPoints) throw new StitchFileException($"The drawing has more than {MostPoints:N0} points, far more than stitches could follow. Simplify it and bring it in again.");
        if (_shapes.Count >= MostKept) throw new StitchFileException($"The drawing has more than {MostKept:N0} shapes, far more than could be stitched. Simplify it and bring it in again.");
        var shape = new DrawnShape([.. outlines], paint.EvenOdd ? Inside.OddCrossings : Inside.AnyWinding).Moved(matrix.Of);
        if (shape.Paths.SelectMany(p => p.Nodes).Any(n => !(Math.Abs(n.At.X) + Math.Abs(n.At.Y) + Math.Abs(n.In.X) + Math.Abs(n.In.Y) + Math.Abs(n.Out.X) + Math.Abs(n.Out.Y) < 1e6)))
        {
            _notes.Add("A shape with a point that is nowhere was left out.");
            return;
        }

        var lineWidth = paint.StrokeWidth * matrix.Scale;
        if (Math.Max(shape.Bounds.Width, shape.Bounds.Height) + (stroke is null ? 0 : lineWidth) < LeastMm)
        {
            _notes.Add("Shapes without any size were left out.");
            return;
        }

        if (count > DrawnShape.MostNodes) throw new StitchFileException($"A shape of the drawing has more than {DrawnShape.MostNodes:N0} points. Simplify it and bring the drawing in again.");
        var name = NameOf(e);
        if (fill is { } colour && Painted(shape) is { } painted) _shapes.Add(new(name, painted, colour, null));
        if (stroke is { } line && Math.Max(shape.Bounds.Width, shape.Bounds.Height) >= LeastMm) _shapes.Add(new(fill is null ? name : $"{name}, outline", shape, line, lineWidth));
    }

    /// <summary>What is painted of outlines: as painting has it, an open one is filled as if it were closed. Null where nothing of it could be stitched.</summary>
    private DrawnShape? Painted(DrawnShape shape)
    {
        var paths = shape.Paths.Where(p => p.Nodes.Length > 2 || p.Nodes.Any(n => n.Kind != NodeKind.Corner)).ToList();
        if (paths.Exists(p => !p.Closed && p.Nodes[0].At.DistanceTo(p.Nodes[^1].At) > LeastMm)) _notes.Add("Painted outlines that are open were closed with a straight line.");
        var closed = shape with { Paths = [.. paths.Select(p => p with { Closed = true })] };
        var bounds = closed.Bounds;
        if (closed.Paths.Length == 0 || Math.Min(bounds.Width, bounds.Height) < LeastMm / 4 || (TwiceArea(closed) < 2 * LeastArea && Area.Of(closed.Paths.Select(p => p.Flattened()), closed.Rule).Count == 0))
        {
            _notes.Add("An area too thin to be stitched was left out.");
            return null;
        }

        if (closed.Paths.Any(p => p.Nodes.Length < MostCheckedForCrossing && Area.CrossesItself(p.Flattened()))) _notes.Add("Outlines that cross themselves are stitched where the drawing paints them; look at the places where they cross.");
        return closed;
    }

    /// <summary>Twice the area that the outlines go around, those that go round the other way counted too, mm².</summary>
    private static double TwiceArea(DrawnShape shape) => shape.Paths.Sum(p =>
    {
        var points = p.Flattened();
        WorkBudget.Current.Spend(points.Count / 8);
        var twice = 0.0;
        for (var i = 0; i < points.Count; i++) twice += points[i].Cross(points[(i + 1) % points.Count]);
        return Math.Abs(twice);
    });

    private string NameOf(XElement e)
    {
        var given = e.Elements().FirstOrDefault(c => c.Name.LocalName == "title")?.Value
            ?? e.Attributes().FirstOrDefault(a => a.Name.LocalName == "label")?.Value ?? (string?)e.Attribute("id");
        var clean = given is null ? string.Empty : Titles.Clean(given.Replace('-', ' ').Replace('_', ' '));
        return clean.Length > 0 ? clean : $"{e.Name.LocalName} {_shapes.Count + 1}";
    }

    private List<ShapePath>? OutlinesOf(XElement e)
    {
        switch (e.Name.LocalName)
        {
            case "path":
                return SvgPathData.Read((string?)e.Attribute("d") ?? string.Empty);
            case "rect":
                var (w, h) = (Across(e, "width"), Down(e, "height"));
                if (!(w > 0 && h > 0)) return null;
                var radius = Math.Max(Across(e, "rx"), Down(e, "ry"));
                var middle = new Point(Across(e, "x") + (w / 2), Down(e, "y") + (h / 2));
                return [.. BasicShapes.Rectangle(w, h, radius).Moved(p => p + middle).Paths];
            case "circle" or "ellipse":
                var (rx, ry) = e.Name.LocalName == "circle" ? (Across(e, "r"), Across(e, "r")) : (Across(e, "rx"), Down(e, "ry"));
                var centre = new Point(Across(e, "cx"), Down(e, "cy"));
                return !(rx > 0 && ry > 0) ? null : [.. BasicShapes.Ellipse(2 * rx, 2 * ry).Moved(p => p + centre).Paths];
            case "line":
                return [ShapePath.Through([new(Across(e, "x1"), Down(e, "y1")), new(Across(e, "x2"), Down(e, "y2"))], closed: false)];
            case "polyline" or "polygon":
                var xy = SvgNumbers.List((string?)e.Attribute("points"));
                return xy.Count < 4 ? null : [ShapePath.Through(Enumerable.Range(0, xy.Count / 2).Select(i => new Point(xy[2 * i], xy[(2 * i) + 1])), e.Name.LocalName == "polygon")];
            default:
                return null;
        }
    }

    private Paint PaintOf(XElement e, Paint inherited) => PaintOf(e, inherited, out _) ?? inherited with { Hidden = true };

    /// <summary>How an element paints; null where it and all in it are left out.</summary>
    private Paint? PaintOf(XElement e, Paint inherited, out Dictionary<string, string> style)
    {
        var set = style = _styles.Of(e);
        string? Of(string name) => set.GetValueOrDefault(name) is { } value && value.Trim() is var trimmed && trimmed != "inherit" && trimmed.Length > 0 ? trimmed : null;
        double Opacity(string name, double usual) => SvgNumbers.Length(Of(name), 1) is { } opacity ? Math.Clamp(opacity.Units, 0, 1) : usual;
        var seen = inherited.Opacity * Opacity("opacity", 1);
        if (Of("display") == "none" || seen < LeastOpacity) return null;
        var colour = Of("color") ?? inherited.Colour;
        var width = Of("stroke-width") is { } w && SvgNumbers.Length(w, Math.Sqrt(((_port.Width * _port.Width) + (_port.Height * _port.Height)) / 2)) is { } known ? known.Units : inherited.StrokeWidth;
        return new(
            Of("fill") ?? inherited.Fill,
            Of("stroke") ?? inherited.Stroke,
            width,
            Of("fill-rule") is { } rule ? rule == "evenodd" : inherited.EvenOdd,
            Of("visibility") is { } visibility ? visibility is "hidden" or "collapse" : inherited.Hidden,
            colour.Equals("currentcolor", StringComparison.OrdinalIgnoreCase) ? inherited.Colour : colour,
            seen,
            Opacity("fill-opacity", inherited.FillOpacity),
            Opacity("stroke-opacity", inherited.StrokeOpacity));
    }

    private double Across(XElement e, string attribute, double usual = 0) => SvgNumbers.Length((string?)e.Attribute(attribute), _port.Width)?.Units ?? usual;

    private double Down(XElement e, string attribute, double usual = 0) => SvgNumbers.Length((string?)e.Attribute(attribute), _port.Height)?.Units ?? usual;
}
