using System.Collections.Immutable;
using System.Globalization;
using EvenThimble.Core.Colour;
using EvenThimble.Core.Craft;
using EvenThimble.Core.Files.Drawing;
using EvenThimble.Core.Geometry;
using EvenThimble.Core.Jobs;
using EvenThimble.Core.Shapes;
using EvenThimble.Core.Text;
using EvenThimble.Core.Threads;
using EvenThimble.Web.Workroom;
using Microsoft.AspNetCore.Mvc;

namespace EvenThimble.Web.Pages;

/// <summary>Drawn shapes on the bench: adding them, changing their outlines and their stitches, and trying that before it is kept.</summary>
public sealed partial class BenchModel
{
    /// <summary>What an area is made of unless the user says otherwise: the widest satin decides.</summary>
    private const double WidestSatin = Limits.LongestThrow;

    private const double NarrowestLine = Limits.NarrowestSatin;

    private static readonly Rgb UsualThreadLook = Rgb.FromInt(0x2F4B7C);

    /// <summary>Underlay as it is chosen by hand.</summary>
    public static readonly UnderlayLayers[] UnderlayChoices =
    [
        UnderlayLayers.None, new(Underlay.Centre), new(Underlay.Edge), new(Underlay.Zigzag), new(Underlay.DoubleZigzag), new(Underlay.Light),
        new(Underlay.Edge, Underlay.Zigzag), new(Underlay.Edge, Underlay.Light), new(Underlay.Edge, Underlay.DoubleZigzag), new(Underlay.Centre, Underlay.Zigzag),
    ];

    /// <summary>Drawings of the demo scenario that can be tried.</summary>
    public static readonly (string File, string Name)[] SampleDrawings = [("telescope-sketch.svg", "Telescope sketch"), ("star-chart-frame.svg", "Star chart frame")];

    /// <summary>A drawing that waits to be brought in, with the token it lies under.</summary>
    public (string Token, string Name, SvgDrawing Drawing)? Waiting { get; private set; }

    /// <summary>Adds a line that was clicked point by point: "x,y x,y", mm.</summary>
    public IActionResult OnPostDraw(string? kind, string? points, bool closed) => Edit(() =>
    {
        var places = Places(points);
        var path = kind switch
        {
            "arc" when places.Count == 3 => BasicShapes.Arc(places[0], places[1], places[2]),
            "arc" => throw new EditRefusedException("An arc needs three points: its start, a place on it and its end."),
            "curve" => ShapePath.Through(places, closed, NodeKind.Smooth),
            _ => ShapePath.Through(places, closed),
        };
        return Add(kind is "arc" or "curve" ? kind : places.Count == 2 ? "line" : closed ? "outline" : "polyline", new([path]), closed ? StitchWay.Automatic : StitchWay.Run, Point.Zero);
    });

    /// <summary>Adds a shape of a size (as typed) about a place, mm.</summary>
    public IActionResult OnPostShape(string? shape, string? width, string? height, double x, double y, int? corners, string? radius, int? depth) => Edit(() =>
    {
        var (w, h) = (Typed(width), Typed(height));
        if (w <= 0 || h <= 0 || !double.IsFinite(x) || !double.IsFinite(y)) throw new EditRefusedException("A shape needs a width and a height above 0.");
        if (corners is < 3 or > 60) throw new EditRefusedException("A polygon or star can have from 3 to 60 points.");
        return Add(shape ?? string.Empty, shape switch
        {
            "rectangle" => BasicShapes.Rectangle(w, h, string.IsNullOrWhiteSpace(radius) ? 0 : Typed(radius)),
            "ellipse" => BasicShapes.Ellipse(w, h),
            "polygon" => BasicShapes.Polygon(w, h, corners ?? 6),
            "star" => BasicShapes.Star(w, h, corners ?? 5, (depth ?? 45) / 100.0),
            "heart" => BasicShapes.Heart(w, h),
            "crescent" => BasicShapes.Crescent(w, h),
            _ => throw new EditRefusedException("There is no such shape."),
        }, StitchWay.Automatic, new(x, y));
    });

    /// <summary>Reads a vector drawing and asks what its shapes become.</summary>
    public async Task<IActionResult> OnPostDrawingAsync(IFormFile? file, string? sample, [FromServices] IWebHostEnvironment web)
    {
        Task = "add";
        try
        {
            if (SampleDrawings.FirstOrDefault(s => s.File == sample) is { File: not null } known)
            {
                Lay(known.Name, await System.IO.File.ReadAllBytesAsync(Path.Combine(web.WebRootPath, "drawings", known.File), HttpContext.RequestAborted));
                return Updated();
            }

            if (file is null) throw new EditRefusedException("No file came with the request. Choose one and try again.");
            if (file.Length > 16 << 20) throw new EditRefusedException("The drawing is larger than 16 MB. Simplify it, or bring it in by parts.");
            using var bytes = new MemoryStream();
            await file.CopyToAsync(bytes, HttpContext.RequestAborted);
            Lay(Titles.Clean(Path.GetFileNameWithoutExtension(file.FileName.Split('/', '\\')[^1]).Replace('-', ' ').Replace('_', ' ')), bytes.ToArray());
        }
        catch (Exception e) when (Refusals.Of(e) is { } refusal)
        {
            Response.StatusCode = refusal.Status;
            (Says, Trouble) = (refusal.Sentence, true);
        }

        return Updated();
    }

    private void Lay(string name, byte[] bytes)
    {
        var drawing = SvgDrawing.Read(bytes);
        Waiting = (tray.Lay(name, drawing), name, drawing);
    }

    /// <summary>Brings a drawing in at a width, each shape as chosen.</summary>
    public IActionResult OnPostBring(string? token, string? width, string[]? become) => Edit(() =>
    {
        if (tray.Find(token) is not { } laid) throw new EditRefusedException("That drawing was laid aside too long ago. Choose the file again.");
        var wide = Typed(width);
        if (wide is < ShapeRules.SmallestMm or > ShapeRules.LargestMm) throw new EditRefusedException("That is not a width. Type millimetres, such as 90.");
        var drawing = laid.Drawing.AtWidth(wide);
        var shapes = drawing.Shapes.Select((s, i) => (Shape: s, Becomes: become?.ElementAtOrDefault(i) ?? Suggested(s)))
            .Where(s => s.Becomes != "left out")
            .Select(s =>
            {
                // Each shape turns about its own middle, and so lies about it.
                var middle = s.Shape.Shape.Bounds.Middle;
                return new NewShape(s.Shape.Name, s.Shape.Shape.Moved(p => p - middle), SettingsFor(s.Shape, s.Becomes), Nearest(s.Shape.Colour), new(Math.Round(middle.X, 6), Math.Round(middle.Y, 6), 0));
            })
            .ToImmutableArray();
        if (shapes.IsEmpty) throw new EditRefusedException("Every shape is left out, so there is nothing to bring in.");
        return new AddShapes(laid.Name.Length > 0 ? laid.Name : "drawing", shapes);
    });

    /// <summary>Changes one setting of the selected shapes' stitches, as typed.</summary>
    public IActionResult OnPostRestitch(string field, string? value) => Edit(() => Restitching(field, value));

    /// <summary>The plan as it would be with a setting, or on a cloth; nothing is stored.</summary>
    public IActionResult OnPostTry(string? field, string? value, string? cloth) => Tried(() => cloth is not null
        ? new ChooseCloth(Cloth.Of(Cloths.FirstOrDefault(c => c.Id == cloth) ?? throw new EditRefusedException("That cloth is not known here.")))
        : Restitching(field ?? string.Empty, value));

    /// <summary>The outline of a drawn part in the job's place: nodes to take hold of, and lines as they run.</summary>
    public IActionResult OnGetOutline(int part)
    {
        if (Open.Job.Order.Find(new(part)) is not { Drawn: { } drawn } found) return NotFound();
        double[] Place(Point p) => found.Placement.Place(p) is var q ? [q.X, q.Y] : [];
        var settings = drawn.Settings;
        return new JsonResult(new
        {
            part,
            paths = drawn.Shape.Paths.Select(p => new { closed = p.Closed, nodes = p.Nodes.Select(n => Place(n.At)), line = p.Flattened().Select(Place) }),
            middle = Place(drawn.Shape.Bounds.Middle),
            rows = settings.Way.HasRows(),
            angle = Turned(found.Placement, settings.Angle ?? StitchSettings.UsualAngle),
            start = settings.Start is { } s ? Place(s) : null,
            end = settings.End is { } e ? Place(e) : null,
        });
    }

    /// <summary>Sets the angle of rows as it lies on the cloth, degrees.</summary>
    public IActionResult OnPostRows(int part, double angle) => Edit(() => new Restitch(new HashSet<PartId> { new(part) }, [AngleOnCloth(part, angle)]));

    /// <summary>The plan with rows at an angle on the cloth; nothing is stored.</summary>
    public IActionResult OnPostTryRows(int part, double angle) => OnPostTry("angle", Found(part) is null ? null : AngleOnCloth(part, angle).Text, null);

    /// <summary>Sets where a shape's stitches start or end, by a place on the cloth.</summary>
    public IActionResult OnPostFrom(int part, string field, double x, double y) => Edit(() =>
    {
        if (Found(part) is not { } found) throw new EditRefusedException("That shape is no longer in this job.");
        var at = found.Placement.Unplace(new(x, y));
        return new Restitch(new HashSet<PartId> { new(part) }, [new(field is "end" ? "end" : "start", string.Create(CultureInfo.InvariantCulture, $"{at.X:0.###} {at.Y:0.###}"))]);
    });

    public IActionResult OnPostMoveNode(int part, int path, int node, double x, double y) => Edit(() => Reshaped(part, path, (p, to) =>
        p with { Nodes = p.Nodes.SetItem(node, p.Nodes[node] with { At = to }) }, node, new(x, y), "Moved a point of"));

    public IActionResult OnPostAddNode(int part, int path, int node, double x, double y) => Edit(() => Reshaped(part, path, (p, at) =>
    {
        var kind = p.Nodes[node].Kind == NodeKind.Corner ? NodeKind.Corner : NodeKind.Smooth;
        var next = (node + 1) % p.Nodes.Length;

        // The arms of the neighbours on that side would pull the new piece out of shape.
        var nodes = p.Nodes.SetItem(node, p.Nodes[node] with { Out = p.Nodes[node].Out * 0.5 }).SetItem(next, p.Nodes[next] with { In = p.Nodes[next].In * 0.5 });
        return p with { Nodes = nodes.Insert(node + 1, new(at, kind)) };
    }, node, new(x, y), "Added a point to"));

    public IActionResult OnPostRemoveNode(int part, int path, int node) => Edit(() => Reshaped(part, path, (p, _) =>
        p.Nodes.Length <= (p.Closed ? 3 : 2)
            ? throw new EditRefusedException(p.Closed ? "An outline needs three points at least. Take the whole shape out instead." : "A line needs two points at least. Take the whole line out instead.")
            : p with { Nodes = p.Nodes.RemoveAt(node) }, node, Point.Zero, "Took a point out of"));

    public IActionResult OnPostMirror(bool upsideDown) => Edit(() => new MirrorParts(ChosenOrAll(), SelectedBounds.Middle, upsideDown));

    /// <summary>Aligns the selected pieces with each other; one alone, with the hoop.</summary>
    public IActionResult OnPostAlign(Alignment where) => Edit(() =>
    {
        var groups = Groups();
        if (groups.Count == 0) throw new EditRefusedException("Nothing is selected. Choose what to align first.");
        var field = Open.Job.Hoop.Field;
        var to = groups.Count > 1 ? SelectedBounds : new Box((-field.Width / 2) + field.Margin, (-field.Height / 2) + field.Margin, (field.Width / 2) - field.Margin, (field.Height / 2) - field.Margin);
        return new AlignParts([.. groups.Select(g => ((IReadOnlySet<PartId>)g, Open.Plan.BoundsOf(g)))], to, where);
    });

    public IActionResult OnPostRemove() => Edit(() => new RemoveParts(ChosenIds()));

    /// <summary>What a shape of a drawing would become.</summary>
    public static string Suggested(SvgShape shape)
    {
        if (shape.LineWidth is { } width) return width >= NarrowestLine ? "satin" : "run";
        var areas = Area.Of(shape.Shape.Paths.Select(p => p.Flattened()), shape.Shape.Rule);
        return areas.Any(a => !a.Grown(-WidestSatin / 2).IsEmpty) ? "fill" : "satin";
    }

    private static StitchSettings SettingsFor(SvgShape shape, string becomes) => becomes switch
    {
        "fill" => new(shape.Shape.IsClosed ? StitchWay.Fill : StitchWay.Run),
        "satin" when shape.LineWidth is { } width => new(StitchWay.LineSatin) { WidthMm = Math.Clamp(Math.Round(width, 2), 0.8, 12) },
        "satin" => new(StitchWay.Satin),
        _ => new(StitchWay.Run),
    };

    private static double Turned(Placement placement, double angle) => Turn.Normalised((placement.Mirrored ? -angle : angle) + placement.TurnDegrees) % 180;

    private Part? Found(int part) => Open.Job.Order.Find(new(part)) is { Drawn: not null } found ? found : null;

    private TypedSetting AngleOnCloth(int part, double angle)
    {
        if (Found(part) is not { } found || !double.IsFinite(angle)) throw new EditRefusedException("That shape is no longer in this job.");
        var own = Turn.Normalised(found.Placement.Mirrored ? found.Placement.TurnDegrees - angle : angle - found.Placement.TurnDegrees) % 180;
        return new("angle", own.ToString("0.#", CultureInfo.InvariantCulture));
    }

    private Restitch Restitching(string field, string? value)
    {
        var drawn = SelectedDrawn.Select(p => p.Id).ToHashSet();
        return drawn.Count == 0
            ? throw new EditRefusedException(Selected.Count == 0 ? "Nothing is selected. Choose a drawn shape first." : "What is selected came as plain stitches, so this cannot be set for it.")
            : new Restitch(drawn, [new(field, value)], Look.Unit);
    }

    private Reshape Reshaped(int part, int path, Func<ShapePath, Point, ShapePath> change, int node, Point place, string said)
    {
        if (Found(part) is not { Drawn: { } drawn } found || path < 0 || path >= drawn.Shape.Paths.Length || node < 0 || node >= drawn.Shape.Paths[path].Nodes.Length)
            throw new EditRefusedException("That point is no longer in this job.");
        return new(found.Id, drawn.Shape with { Paths = drawn.Shape.Paths.SetItem(path, change(drawn.Shape.Paths[path], found.Placement.Unplace(place))) }, said);
    }

    private AddShapes Add(string name, DrawnShape shape, StitchWay way, Point at)
    {
        ShapeRules.Check(shape);
        var middle = shape.Bounds.Middle;
        var thread = Selected.Count > 0 ? Selected[0].Thread : Nearest(UsualThreadLook);
        return new(name, [new(name, shape.Moved(p => p - middle), new(way), thread, new(Math.Round(middle.X + at.X, 6), Math.Round(middle.Y + at.Y, 6), 0))]);
    }

    private SewingThread Nearest(Rgb look) => ThreadSearch.ByLook(Charts[0].Threads, look, 1)[0].Thread;

    private double Typed(string? text) => LengthText.TryParse(text, Look.Unit, out var mm) ? mm : throw new EditRefusedException("That is not a length. Type a number, such as 12.5, 3cm or 1/2in.");

    private static List<Point> Places(string? points)
    {
        var places = new List<Point>();
        foreach (var pair in (points ?? string.Empty).Split(' ', StringSplitOptions.RemoveEmptyEntries))
        {
            var xy = pair.Split(',');
            if (xy.Length != 2 || !double.TryParse(xy[0], NumberStyles.Float, CultureInfo.InvariantCulture, out var x) || !double.TryParse(xy[1], NumberStyles.Float, CultureInfo.InvariantCulture, out var y) || !(Math.Abs(x) + Math.Abs(y) < ShapeRules.LargestMm))
                throw new EditRefusedException("A point of that line is nowhere on the cloth.");
            if (places.Count == 0 || places[^1].DistanceTo(new(x, y)) > 0.05) places.Add(new(x, y));
        }

        return places.Count < 2 ? throw new EditRefusedException("A line needs two points at least. Click once more on the cloth.") : places;
    }
}
