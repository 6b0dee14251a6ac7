using System.Collections.Immutable;
using EvenThimble.Core.Craft;
using EvenThimble.Core.Geometry;
using EvenThimble.Core.Jobs;
using EvenThimble.Core.Shapes;
using EvenThimble.Core.Text;
using EvenThimble.Storage;
using EvenThimble.Web.Workroom;
using Microsoft.AspNetCore.Mvc;

namespace EvenThimble.Web.Pages.Bench;

/// <summary>Bringing things in: lines and shapes drawn here, vector drawings, designs of the shelf; and the points of what was drawn.</summary>
public sealed class AddTask : BenchTask
{
    private sealed record LineForm(string? Kind, string? Points, bool Closed);

    private sealed record ShapeForm(string? Shape, string? Width, string? Height, double X, double Y, int? Corners, string? Radius, int? Depth);

    private sealed record DrawingForm(string? Token, string? Width, string[] Become);

    private sealed record DesignsForm(long[] Design, string[] Same, double? X, double? Y);

    private sealed record NodeForm(int Part, int Path, int Node, double X, double Y);

    public override string Id => "add";

    public override string Name => "Add";

    public override string Icon => "bi-plus-square";

    public override char? Key => '1';

    public override string Says => "Draw shapes, or bring a drawing or a design in";

    public override object CardFor(BenchView bench) => new AddCard(bench);

    public override IReadOnlyList<Command> Commands { get; } =
    [
        Command.Of<LineForm>("draw", "Draw a line", Drawn) with { Selects = SelectedAfter.WhatCameIn },
        Command.Of<ShapeForm>("shape", "Add a shape", Shaped) with { Selects = SelectedAfter.WhatCameIn },
        Command.Of<DrawingForm>("bring", "Bring a drawing in", (bench, form) => DrawingCard.Brought(bench, form.Token, form.Width, form.Become)),
        Command.Of<DesignsForm>("bring-designs", "Bring designs in", (bench, form) => BringingCard.Brought(bench, form.Design, form.Same, form.X is { } x && form.Y is { } y ? new Point(x, y) : null)) with { Selects = SelectedAfter.WhatCameIn },
        Command.Of<NodeForm>("move-node", "Move a point", (bench, form) => Reshaped(bench, form, (p, to) => p with { Nodes = p.Nodes.SetItem(form.Node, p.Nodes[form.Node] with { At = to }) }, "Moved a point of")),
        Command.Of<NodeForm>("add-node", "Add a point", (bench, form) => Reshaped(bench, form, (p, at) =>
        {
            var kind = p.Nodes[form.Node].Kind == NodeKind.Corner ? NodeKind.Corner : NodeKind.Smooth;
            var next = (form.Node + 1) % p.Nodes.Length;

            // The arms of the neighbours on that side would pull the new piece out of shape.
            var nodes = p.Nodes.SetItem(form.Node, p.Nodes[form.Node] with { Out = p.Nodes[form.Node].Out * 0.5 }).SetItem(next, p.Nodes[next] with { In = p.Nodes[next].In * 0.5 });
            return p with { Nodes = nodes.Insert(form.Node + 1, new(at, kind)) };
        }, "Added a point to")),
        Command.Of<NodeForm>("remove-node", "Take a point out", (bench, form) => Reshaped(bench, form, (p, _) =>
            p.Nodes.Length <= (p.Closed ? 3 : 2)
                ? throw new EditRefusedException(p.Closed ? "An outline needs three points at least. Take the whole shape out instead." : "A line needs two points at least. Take the whole line out instead.")
                : p with { Nodes = p.Nodes.RemoveAt(form.Node) }, "Took a point out of")),
    ];

    public override IReadOnlyList<ScreenKey> ScreenKeys { get; } = [new("b", "bring a design in", KeySection.ApartTogetherLess, "press") { With = ["add", "#shelf-pick input"] }];

    public override IReadOnlyDictionary<string, Func<BenchView, PartRequest, Task<IActionResult>>> Parts { get; } = new Dictionary<string, Func<BenchView, PartRequest, Task<IActionResult>>>
    {
        ["bringing"] = (bench, request) => Task.FromResult(request.Partial("Add/_Bringing", BringingCard.Of(bench, [.. request.Http.Query["design"].Select(d => long.TryParse(d, out var id) ? id : 0)]))),
        ["outline"] = (bench, request) => Task.FromResult(OutlineOf(bench, int.TryParse(request.Http.Query["part"], out var part) ? part : 0)),
    };

    public override IReadOnlyDictionary<string, Func<BenchView, PartRequest, Task<IActionResult>>> Sent { get; } = new Dictionary<string, Func<BenchView, PartRequest, Task<IActionResult>>>
    {
        ["drawing"] = DrawingCard.LayAsync,
    };

    private static AddShapes Drawn(BenchView bench, LineForm form)
    {
        var places = PlacesOf.Line(form.Points);
        var path = form.Kind switch
        {
            "arc" when places.Count == 3 => BasicShapes.Arc(places[0], places[1], places[2]),
            "arc" => throw new EditRefusedException("An arc needs three points: its start, a place on it and its end."),
            "curve" => ShapePath.Through(places, form.Closed, NodeKind.Smooth),
            _ => ShapePath.Through(places, form.Closed),
        };
        return Added(bench, form.Kind is "arc" or "curve" ? form.Kind : places.Count == 2 ? "line" : form.Closed ? "outline" : "polyline", new([path]), form.Closed ? StitchWay.Automatic : StitchWay.Run, Point.Zero);
    }

    private static AddShapes Shaped(BenchView bench, ShapeForm form)
    {
        var (w, h) = (bench.Typed(form.Width), bench.Typed(form.Height));
        if (w <= 0 || h <= 0 || !double.IsFinite(form.X) || !double.IsFinite(form.Y)) throw new EditRefusedException("A shape needs a width and a height above 0.");
        if (form.Corners is < 3 or > 60) throw new EditRefusedException("A polygon or star can have from 3 to 60 points.");
        return Added(bench, form.Shape ?? string.Empty, form.Shape switch
        {
            "rectangle" => BasicShapes.Rectangle(w, h, string.IsNullOrWhiteSpace(form.Radius) ? 0 : bench.Typed(form.Radius)),
            "ellipse" => BasicShapes.Ellipse(w, h),
            "polygon" => BasicShapes.Polygon(w, h, form.Corners ?? 6),
            "star" => BasicShapes.Star(w, h, form.Corners ?? 5, (form.Depth ?? 45) / 100.0),
            "heart" => BasicShapes.Heart(w, h),
            "crescent" => BasicShapes.Crescent(w, h),
            _ => throw new EditRefusedException("There is no such shape."),
        }, StitchWay.Automatic, new(form.X, form.Y));
    }

    private static AddShapes Added(BenchView bench, string name, DrawnShape shape, StitchWay way, Point at)
    {
        ShapeRules.Check(shape);
        var middle = shape.Bounds.Middle;
        var thread = bench.Selected.Count > 0 ? bench.Selected[0].Thread : DrawingCard.Nearest(bench, DrawingCard.UsualThreadLook);
        return new(name, [new(name, shape.Moved(p => p - middle), new(way), thread, new(Math.Round(middle.X + at.X, 6), Math.Round(middle.Y + at.Y, 6), 0))]);
    }

    private static Reshape Reshaped(BenchView bench, NodeForm form, Func<ShapePath, Point, ShapePath> change, string said)
    {
        if (bench.Job.Order.Find(new(form.Part)) is not { Drawn: { } drawn } found || form.Path < 0 || form.Path >= drawn.Shape.Paths.Length || form.Node < 0 || form.Node >= drawn.Shape.Paths[form.Path].Nodes.Length)
            throw new EditRefusedException("That point is no longer in this job.");
        return new(found.Id, drawn.Shape with { Paths = drawn.Shape.Paths.SetItem(form.Path, change(drawn.Shape.Paths[form.Path], found.Placement.Unplace(new(form.X, form.Y)))) }, said);
    }

    /// <summary>The outline of a drawn part in the job's place: nodes to take hold of, and lines as they run.</summary>
    private static IActionResult OutlineOf(BenchView bench, int part)
    {
        if (bench.Job.Order.Find(new(part)) is not { Drawn: { } drawn } found) return new NotFoundResult();
        double[] Place(Point p) => found.Placement.Place(p) is var q ? [q.X, q.Y] : [];
        var (settings, place) = (drawn.Settings, found.Placement);
        return new JsonResult(new
        {
            part,
            paths = drawn.Shape.Paths.Select(p => new { closed = p.Closed, nodes = p.Nodes.Select(n => Place(n.At)), line = p.Flattened().Select(Place) }),
            middle = Place(drawn.Shape.Bounds.Middle),
            rows = settings.Way.HasRows(),
            angle = Turn.Normalised((place.Mirrored ? -1 : 1) * (settings.Angle ?? StitchSettings.UsualAngle) + place.TurnDegrees) % 180,
            start = settings.Start is { } s ? Place(s) : null,
            end = settings.End is { } e ? Place(e) : null,
        });
    }
}

/// <summary>What the Add card shows: shapes to draw and the designs of the shelf, or the drawing that waits to be brought in.</summary>
/// <param name="Bench">The bench.</param>
/// <param name="Waiting">The drawing; null: none.</param>
public sealed record AddCard(BenchView Bench, DrawingCard? Waiting = null)
{
    /// <summary>The designs of the shelf.</summary>
    public IReadOnlyList<DesignCard> ShelfDesigns => Bench.Get<DesignStore>().All();
}
