using System.Collections.Immutable;
using EvenThimble.Core.Craft;
using EvenThimble.Core.Shapes;
using EvenThimble.Core.Stitches;
using EvenThimble.Core.Text;
using EvenThimble.Core.Threads;

namespace EvenThimble.Core.Jobs;

/// <summary>One shape that is to be brought in.</summary>
public sealed record NewShape(string Name, DrawnShape Shape, StitchSettings Settings, SewingThread Thread, Placement Placement);

/// <summary>Adds shapes to a job as one piece, to be sewn last.</summary>
public sealed record AddShapes(string Name, ImmutableArray<NewShape> Shapes) : JobEdit
{
    /// <inheritdoc/>
    public override Job Apply(Job job)
    {
        if (Shapes.IsEmpty) throw new EditRefusedException("There is nothing to add.");
        foreach (var shape in Shapes) ShapeRules.Check(shape.Shape);
        if (job.Order.Count + Shapes.Length > Job.MostParts) throw new EditRefusedException($"A job can have {Job.MostParts:N0} parts; that would be more.");
        return job.With(Name, new DrawingContent([.. Shapes.Select((s, i) => new DrawingShape(PartKey.Numbered(i + 1), s.Name, s.Shape, s.Settings, s.Thread, s.Placement))]), Placement.AsItCame);
    }

    /// <inheritdoc/>
    public override string Label(Job before) => Shapes.Length == 1 ? $"Added {Shapes[0].Name}" : $"Added {Name}, {Shapes.Length} shapes";
}

/// <summary>What no shape may break.</summary>
public static class ShapeRules
{
    /// <summary>Smaller than this cannot be sewn, mm.</summary>
    public const double SmallestMm = 0.5;

    /// <summary>Larger than this fits no machine, mm.</summary>
    public const double LargestMm = 2_000;

    /// <summary>Refuses a shape that cannot be stitched.</summary>
    /// <exception cref="EditRefusedException">With the reason.</exception>
    public static void Check(DrawnShape shape)
    {
        if (shape.Paths.All(p => p.Nodes.Length < 2)) throw new EditRefusedException("A line needs two points at least. Click once more on the cloth.");
        if (shape.Paths.Sum(p => p.Nodes.Length) > DrawnShape.MostNodes) throw new EditRefusedException($"That shape has more than {DrawnShape.MostNodes:N0} points. Simplify the drawing and bring it in again.");
        if (shape.Paths.SelectMany(p => p.Nodes).Any(n => !double.IsFinite(n.At.X) || !double.IsFinite(n.At.Y))) throw new EditRefusedException("That shape has a point that is nowhere.");
        var box = shape.Bounds;
        if (Math.Max(box.Width, box.Height) < SmallestMm) throw new EditRefusedException($"That shape is smaller than {SmallestMm} mm; it would be a knot. Draw it larger.");
        if (Math.Max(box.Width, box.Height) > LargestMm) throw new EditRefusedException($"That shape is larger than {LargestMm / 1000:0} m, more than any hoop holds.");
    }
}

/// <summary>An edit of the shapes of chosen drawn parts; bought stitches among them are refused. It changes the drawings that the parts are made of, so what was done to the parts stays.</summary>
public abstract record DrawnPartsEdit(IReadOnlySet<PartId> Parts) : PartsEdit(Parts)
{
    /// <inheritdoc/>
    protected sealed override Job Change(Job job)
    {
        if (job.Order.FirstOrDefault(p => Parts.Contains(p.Id) && p.Drawn is null) is { } bought)
            throw new EditRefusedException($"“{bought.Name}” came as plain stitches, so this cannot be set for it. Choose shapes that were drawn here.");
        return job.Order.Where(p => Parts.Contains(p.Id)).GroupBy(p => p.Piece).Aggregate(job, (changed, parts) =>
        {
            var content = (DrawingContent)changed.Pieces.First(p => p.Id == parts.Key).Content;
            return changed.WithContent(parts.Key, parts.Aggregate(content, (drawing, part) => drawing.With(part.Made.Key, shape => Change(part, shape))));
        });
    }

    /// <summary>The shape of a part after the edit.</summary>
    protected abstract DrawingShape Change(Part part, DrawingShape shape);
}

/// <summary>A change of one setting of stitching.</summary>
/// <param name="Setting">Which, in words.</param>
/// <param name="To">What it is set to, in words; null: what is usual.</param>
/// <param name="Of">The settings with it.</param>
public sealed record SettingChange(string Setting, string? To, Func<StitchSettings, StitchSettings> Of)
{
    /// <summary>Another way to stitch.</summary>
    public static SettingChange OfWay(StitchWay way) => new(WaySetting, way.InWords(), s => s with { Way = way });

    internal const string WaySetting = "way";
}

/// <summary>Changes how shapes are stitched.</summary>
public sealed record Restitch(IReadOnlySet<PartId> Parts, ImmutableArray<SettingChange> Changes) : DrawnPartsEdit(Parts)
{
    /// <inheritdoc/>
    protected override DrawingShape Change(Part part, DrawingShape shape)
    {
        var settings = Changes.Aggregate(shape.Settings, (s, change) => change.Of(s));
        SettingRange.Check(settings);
        if (settings.Way.IsOfArea() && settings.Way != StitchWay.Automatic && !shape.Shape.IsClosed)
            throw new EditRefusedException($"“{part.Name}” is an open line, so it has no area for {settings.Way.InWords()}. A run, a satin line or a motif row follows it.");
        return shape with { Settings = settings };
    }

    /// <inheritdoc/>
    public override string Label(Job before) => Changes is [{ Setting: SettingChange.WaySetting, To: { } way }]
        ? $"Made {Named(before)} {way}"
        : Changes.All(c => c.To is null) ? $"Set {Words} of {Named(before)} back to what is usual" : $"Set {Words} of {Named(before)} to {string.Join(", ", Changes.Select(c => c.To))}";

    private string Words => string.Join(" and ", Changes.Select(c => c.Setting));
}

/// <summary>Changes the outline of one shape.</summary>
public sealed record Reshape(PartId Part, DrawnShape Shape, string Said) : DrawnPartsEdit(new HashSet<PartId> { Part })
{
    /// <inheritdoc/>
    protected override DrawingShape Change(Part part, DrawingShape shape)
    {
        ShapeRules.Check(Shape);
        var opened = shape.Settings.Way.IsOfArea() && shape.Settings.Way != StitchWay.Automatic && !Shape.IsClosed;
        return shape with { Shape = Shape, Settings = opened ? shape.Settings with { Way = StitchWay.Run } : shape.Settings };
    }

    /// <inheritdoc/>
    public override string Label(Job before) => $"{Said} {Named(before)}";
}
