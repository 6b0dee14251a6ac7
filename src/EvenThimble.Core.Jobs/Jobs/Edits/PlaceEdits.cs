using System.Collections.Immutable;
using EvenThimble.Core.Geometry;
using EvenThimble.Core.Text;

namespace EvenThimble.Core.Jobs;

/// <summary>Changes the sides of parts about the middle of what they cover.</summary>
public sealed record MirrorParts(IReadOnlySet<PartId> Parts, Point Middle, bool UpsideDown) : PlacingEdit(Parts)
{
    /// <inheritdoc/>
    protected override Placement Place(PartId part, Placement placement)
    {
        var mirrored = placement.MirroredAt(Middle.X);
        return UpsideDown ? mirrored.Turned(180, Middle) : mirrored;
    }

    /// <inheritdoc/>
    public override string Label(Job before) => $"Mirrored {Named(before)} {(UpsideDown ? "top to bottom" : "left to right")}";
}

/// <summary>Where parts are aligned.</summary>
public enum Alignment
{
    /// <summary>Left edges.</summary>
    Left,

    /// <summary>Middles, across.</summary>
    Centre,

    /// <summary>Right edges.</summary>
    Right,

    /// <summary>Upper edges.</summary>
    Top,

    /// <summary>Middles, down.</summary>
    Middle,

    /// <summary>Lower edges.</summary>
    Bottom,
}

/// <summary>Moves groups of parts, each as one, so that their edges or middles lie on one line.</summary>
/// <param name="Groups">Parts that move together, with the rectangle about them.</param>
/// <param name="To">The rectangle whose edge or middle they come to.</param>
/// <param name="Where">Which edge or middle.</param>
public sealed record AlignParts(ImmutableArray<(IReadOnlySet<PartId> Parts, Box Bounds)> Groups, Box To, Alignment Where)
    : PlacingEdit(Groups.SelectMany(g => g.Parts).ToHashSet())
{
    /// <inheritdoc/>
    protected override Placement Place(PartId part, Placement placement)
    {
        var (dx, dy) = By(Groups.First(g => g.Parts.Contains(part)).Bounds);
        return placement.Shifted(dx, dy);
    }

    /// <inheritdoc/>
    public override string Label(Job before) => $"Aligned {Named(before)} {Where switch { Alignment.Left => "left", Alignment.Right => "right", Alignment.Top => "at the top", Alignment.Bottom => "at the bottom", Alignment.Centre => "about an upright line", _ => "about a level line" }}";

    private (double Dx, double Dy) By(Box b) => Where switch
    {
        Alignment.Left => (To.MinX - b.MinX, 0),
        Alignment.Right => (To.MaxX - b.MaxX, 0),
        Alignment.Centre => (To.Middle.X - b.Middle.X, 0),
        Alignment.Top => (0, To.MinY - b.MinY),
        Alignment.Bottom => (0, To.MaxY - b.MaxY),
        _ => (0, To.Middle.Y - b.Middle.Y),
    };
}

/// <summary>Puts groups of parts, each as one, at even gaps between the first and the last.</summary>
/// <param name="Groups">Parts that move together, with the rectangle about them.</param>
/// <param name="Across">Left to right; else from top to bottom.</param>
public sealed record SpaceEvenly(ImmutableArray<(IReadOnlySet<PartId> Parts, Box Bounds)> Groups, bool Across)
    : PlacingEdit(Groups.SelectMany(g => g.Parts).ToHashSet())
{
    private ImmutableArray<(IReadOnlySet<PartId> Parts, double By)> _by;

    /// <inheritdoc/>
    protected override void Check(Job job)
    {
        if (Groups.Length < 3) throw new EditRefusedException("Even gaps need three pieces at least: two stay, those between them move. Choose one more.");
    }

    /// <inheritdoc/>
    protected override Placement Place(PartId part, Placement placement) =>
        By.FirstOrDefault(g => g.Parts.Contains(part)) is { Parts: not null } group ? placement.Shifted(Across ? group.By : 0, Across ? 0 : group.By) : placement;

    /// <summary>By how much each group between the first and the last is moved, mm.</summary>
    private ImmutableArray<(IReadOnlySet<PartId> Parts, double By)> By => _by.IsDefault ? _by = Moves() : _by;

    private ImmutableArray<(IReadOnlySet<PartId> Parts, double By)> Moves()
    {
        var sorted = Groups.OrderBy(g => Across ? g.Bounds.Middle.X : g.Bounds.Middle.Y).ToList();
        double Start(Box b) => Across ? b.MinX : b.MinY;
        double Size(Box b) => Across ? b.Width : b.Height;
        var room = Start(sorted[^1].Bounds) - Start(sorted[0].Bounds) - Size(sorted[0].Bounds);
        var gap = (room - sorted.Skip(1).SkipLast(1).Sum(g => Size(g.Bounds))) / (sorted.Count - 1);
        var at = Start(sorted[0].Bounds) + Size(sorted[0].Bounds) + gap;
        var moves = ImmutableArray.CreateBuilder<(IReadOnlySet<PartId>, double)>();
        foreach (var group in sorted.Skip(1).SkipLast(1))
        {
            moves.Add((group.Parts, at - Start(group.Bounds)));
            at += Size(group.Bounds) + gap;
        }

        return moves.ToImmutable();
    }

    /// <inheritdoc/>
    public override string Label(Job before) => $"Spaced {Named(before)} evenly {(Across ? "across" : "downwards")}";
}

/// <summary>Leans parts about a place: what lies above it goes to the right by an angle.</summary>
public sealed record LeanParts(IReadOnlySet<PartId> Parts, double Degrees, Point About) : PlacingEdit(Parts)
{
    private const double MostDegrees = 60;

    /// <inheritdoc/>
    protected override Placement Place(PartId part, Placement placement) => placement.Leaned(Degrees, About);

    /// <inheritdoc/>
    protected override void Check(Job job)
    {
        if (!double.IsFinite(Degrees) || Math.Abs(Degrees) > MostDegrees) throw new EditRefusedException($"Things can lean by up to {MostDegrees:0} degrees. Type a number such as 12 or -12.");
    }

    /// <inheritdoc/>
    public override string Label(Job before) => $"Leaned {Named(before)} by {Mm(Degrees)}°";
}

/// <summary>Takes parts out of the job; what they were made of stays on the shelf.</summary>
public sealed record RemoveParts(IReadOnlySet<PartId> Parts) : PartsEdit(Parts)
{
    /// <inheritdoc/>
    protected override Job Change(Job job) => job with { Order = new([.. job.Order.Where(p => !Parts.Contains(p.Id))]) };

    /// <inheritdoc/>
    public override string Label(Job before) => $"Took {Named(before)} out";
}
