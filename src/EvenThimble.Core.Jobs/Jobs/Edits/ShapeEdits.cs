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
        var piece = new PieceId(job.Pieces.Select(p => p.Id.Value).DefaultIfEmpty(0).Max() + 1);
        var part = job.Order.Select(p => p.Id.Value).DefaultIfEmpty(0).Max();
        foreach (var shape in Shapes) ShapeRules.Check(shape.Shape);
        return job with
        {
            Pieces = job.Pieces.Add(new(piece, Name, null)),
            Order = new([.. job.Order, .. Shapes.Select(s => new Part(new(++part), piece, s.Name, [], s.Thread, PartRole.Decoration, s.Placement) { Drawn = new(s.Shape, s.Settings) })]),
        };
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

/// <summary>An edit of chosen drawn parts; bought stitches among them are refused.</summary>
public abstract record DrawnPartsEdit(IReadOnlySet<PartId> Parts) : PartsEdit(Parts)
{
    /// <inheritdoc/>
    protected sealed override SewingOrder Change(Job job)
    {
        if (job.Order.FirstOrDefault(p => Parts.Contains(p.Id) && p.Drawn is null) is { } bought)
            throw new EditRefusedException($"“{bought.Name}” came as plain stitches, so this cannot be set for it. Choose shapes that were drawn here.");
        return job.Order.With(Parts, p => Change(job, p));
    }

    /// <summary>The part after the edit; it is a drawn one.</summary>
    protected abstract Part Change(Job job, Part part);
}

/// <summary>One setting of stitching as it was typed.</summary>
public sealed record TypedSetting(string Field, string? Text);

/// <summary>Changes how shapes are stitched.</summary>
public sealed record Restitch(IReadOnlySet<PartId> Parts, ImmutableArray<TypedSetting> Typed, LengthUnit Unit = LengthUnit.Millimetre) : DrawnPartsEdit(Parts)
{
    /// <inheritdoc/>
    protected override Part Change(Job job, Part part)
    {
        var settings = Typed.Aggregate(part.Drawn!.Settings, (s, t) => StitchFields.Set(s, t.Field, t.Text, Unit));
        if (settings.Way.IsOfArea() && settings.Way != StitchWay.Automatic && !part.Drawn.Shape.IsClosed)
            throw new EditRefusedException($"“{part.Name}” is an open line, so it has no area for {settings.Way.InWords()}. A run, a satin line or a motif row follows it.");
        return part with { Drawn = part.Drawn with { Settings = settings } };
    }

    /// <inheritdoc/>
    public override string Label(Job before) => Typed.Length == 1 && Typed[0] is { Field: "way", Text: { } way }
        ? $"Made {Named(before)} {way}"
        : Typed.All(t => string.IsNullOrEmpty(t.Text)) ? $"Set {Words} of {Named(before)} back to what is usual" : $"Set {Words} of {Named(before)} to {string.Join(", ", Typed.Select(t => t.Text))}";

    private string Words => string.Join(" and ", Typed.Select(t => t.Field.Replace('-', ' ')));
}

/// <summary>Changes the outline of one shape.</summary>
public sealed record Reshape(PartId Part, DrawnShape Shape, string Said) : DrawnPartsEdit(new HashSet<PartId> { Part })
{
    /// <inheritdoc/>
    protected override Part Change(Job job, Part part)
    {
        ShapeRules.Check(Shape);
        var closed = part.Drawn!.Settings.Way.IsOfArea() && part.Drawn.Settings.Way != StitchWay.Automatic && !Shape.IsClosed;
        return part with { Drawn = part.Drawn with { Shape = Shape, Settings = closed ? part.Drawn.Settings with { Way = StitchWay.Run } : part.Drawn.Settings } };
    }

    /// <inheritdoc/>
    public override string Label(Job before) => $"{Said} {Named(before)}";
}
