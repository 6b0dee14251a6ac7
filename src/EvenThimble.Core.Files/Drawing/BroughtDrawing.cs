using System.Collections.Immutable;
using EvenThimble.Core.Craft;
using EvenThimble.Core.Jobs;
using EvenThimble.Core.Shapes;
using EvenThimble.Core.Text;
using EvenThimble.Core.Threads;

namespace EvenThimble.Core.Files.Drawing;

/// <summary>What the shapes of a vector drawing become when it is brought into a job; the same wherever that is done.</summary>
public static class BroughtDrawing
{
    /// <summary>Rows over the area.</summary>
    public const string Fill = "fill";

    /// <summary>Throws across the area, or along a line.</summary>
    public const string Satin = "satin";

    /// <summary>A line of stitches.</summary>
    public const string Run = "run";

    /// <summary>Nothing.</summary>
    public const string LeftOut = "left out";

    /// <summary>What a shape can become.</summary>
    public static IReadOnlyList<string> ChoicesFor(SvgShape shape) => shape.LineWidth is null ? [Fill, Satin, Run, LeftOut] : [Run, Satin, LeftOut];

    /// <summary>What a shape becomes unless somebody says otherwise: the widest satin decides.</summary>
    public static string Suggested(SvgShape shape)
    {
        if (shape.LineWidth is { } width) return width >= Limits.NarrowestSatin ? Satin : Run;
        var bounds = shape.Shape.Bounds;
        if (Math.Min(bounds.Width, bounds.Height) <= Limits.LongestThrow) return Satin;
        return Area.Of(shape.Shape.Paths.Select(p => p.Flattened()), shape.Shape.Rule).Any(a => !a.Grown(-Limits.LongestThrow / 2).IsEmpty) ? Fill : Satin;
    }

    /// <summary>The edit that brings a drawing in.</summary>
    /// <param name="name">As the piece is called.</param>
    /// <param name="drawing">What was read.</param>
    /// <param name="widthMm">The width that its page gets.</param>
    /// <param name="becomes">By the number of a shape, what it becomes; null: what is suggested for it.</param>
    /// <param name="threads">The threads that the nearest to each colour is taken from.</param>
    /// <exception cref="EditRefusedException">The width cannot be, or everything is left out.</exception>
    public static AddShapes Of(string name, SvgDrawing drawing, double widthMm, Func<int, string?> becomes, IReadOnlyList<SewingThread> threads)
    {
        if (widthMm is not (>= ShapeRules.SmallestMm and <= ShapeRules.LargestMm)) throw new EditRefusedException("That is not a width. Type millimetres, such as 90.");
        var shapes = drawing.AtWidth(widthMm).Shapes.Select((s, i) => (Shape: s, Becomes: becomes(i) ?? Suggested(s)))
            .Where(s => s.Becomes != LeftOut)
            .Select(s =>
            {
                // Each shape turns about its own middle, and so lies about it.
                var middle = s.Shape.Shape.Bounds.Middle;
                var thread = ThreadSearch.ByLook(threads, s.Shape.Colour, 1)[0].Thread;
                return new NewShape(s.Shape.Name, s.Shape.Shape.Moved(p => p - middle), SettingsFor(s.Shape, s.Becomes), thread, new(Math.Round(middle.X, 6), Math.Round(middle.Y, 6), 0));
            })
            .ToImmutableArray();
        return shapes.IsEmpty ? throw new EditRefusedException("Every shape is left out, so there is nothing to bring in.") : new(name.Length > 0 ? name : "drawing", shapes);
    }

    private static StitchSettings SettingsFor(SvgShape shape, string becomes) => becomes switch
    {
        Fill => new(shape.Shape.IsClosed ? StitchWay.Fill : StitchWay.Run),
        Satin when shape.LineWidth is { } width => new(StitchWay.LineSatin) { WidthMm = Math.Clamp(Math.Round(width, 2), SettingRange.Width.Least, SettingRange.Width.Most) },
        Satin => new(StitchWay.Satin),
        _ => new(StitchWay.Run),
    };
}
