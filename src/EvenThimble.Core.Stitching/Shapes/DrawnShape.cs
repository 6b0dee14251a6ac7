using System.Collections.Immutable;
using EvenThimble.Core.Geometry;
using EvenThimble.Core.Stitches;

namespace EvenThimble.Core.Shapes;

/// <summary>How an outline passes a point.</summary>
public enum NodeKind : byte
{
    /// <summary>Straight up to it and straight on, or along curves of the neighbours.</summary>
    Corner,

    /// <summary>Smoothly: the curve follows the neighbouring points when they move.</summary>
    Smooth,

    /// <summary>Along curves with arms of their own.</summary>
    Curve,
}

/// <summary>A point of an outline, mm.</summary>
/// <param name="At">Where it lies.</param>
/// <param name="Kind">How the outline passes it.</param>
/// <param name="In">Of a curve: from the point to the end of its arm before it.</param>
/// <param name="Out">Of a curve: from the point to the end of its arm behind it.</param>
public readonly record struct PathNode(Point At, NodeKind Kind = NodeKind.Corner, Point In = default, Point Out = default);

/// <summary>An open or closed outline.</summary>
public sealed record ShapePath(ImmutableArray<PathNode> Nodes, bool Closed)
{
    // Flat enough that no needle could tell.
    private const double Flatness = 0.015;

    /// <summary>Joins the points of a polyline.</summary>
    public static ShapePath Through(IEnumerable<Point> points, bool closed, NodeKind kind = NodeKind.Corner) => new([.. points.Select(p => new PathNode(p, kind))], closed);

    /// <summary>The outline as points so near that it is smooth; a closed one does not repeat its first.</summary>
    public List<Point> Flattened()
    {
        var points = new List<Point>();
        var pieces = Closed ? Nodes.Length : Nodes.Length - 1;
        if (Nodes.Length > 0) points.Add(Nodes[0].At);
        for (var i = 0; i < pieces; i++)
        {
            var (a, b) = (Nodes[i], Nodes[(i + 1) % Nodes.Length]);
            var (c1, c2) = (a.At + OutOf(i), b.At + InOf((i + 1) % Nodes.Length));
            if (c1 == a.At && c2 == b.At) points.Add(b.At);
            else Curve(points, a.At, c1, c2, b.At);
        }

        if (Closed && points.Count > 1) points.RemoveAt(points.Count - 1);
        return points;
    }

    /// <summary>Equal when every point is.</summary>
    public bool Equals(ShapePath? other) => ReferenceEquals(this, other) || (other is not null && Closed == other.Closed && Nodes.AsSpan().SequenceEqual(other.Nodes.AsSpan()));

    /// <inheritdoc/>
    public override int GetHashCode() => Nodes.Length == 0 ? 0 : HashCode.Combine(Closed, Nodes.Length, Nodes[0], Nodes[^1], Nodes[Nodes.Length / 2]);

    private Point OutOf(int i) => Nodes[i].Kind switch { NodeKind.Curve => Nodes[i].Out, NodeKind.Smooth => Lean(i), _ => Point.Zero };

    private Point InOf(int i) => Nodes[i].Kind switch { NodeKind.Curve => Nodes[i].In, NodeKind.Smooth => Lean(i) * -1, _ => Point.Zero };

    /// <summary>Arm of a smooth point (Catmull and Rom 1974, as a cubic), never longer than a third of the way to the nearer neighbour.</summary>
    private Point Lean(int i)
    {
        var n = Nodes.Length;
        if (!Closed && (i == 0 || i == n - 1)) return Point.Zero;
        var (before, at, after) = (Nodes[(i + n - 1) % n].At, Nodes[i].At, Nodes[(i + 1) % n].At);
        var arm = (after - before) / 6;
        var most = Math.Min(at.DistanceTo(before), at.DistanceTo(after)) * 0.45;
        return arm.Length > most ? arm.Unit() * most : arm;
    }

    private static void Curve(List<Point> points, Point a, Point b, Point c, Point d)
    {
        // The second differences bound how far a cubic bends away from its chords.
        var bend = Math.Max((a - (b * 2) + c).Length, (b - (c * 2) + d).Length);
        var steps = Math.Clamp((int)Math.Ceiling(Math.Sqrt(bend * 0.75 / Flatness)), 1, 400);
        for (var k = 1; k <= steps; k++)
        {
            var (t, u) = (k / (double)steps, 1 - (k / (double)steps));
            points.Add((a * (u * u * u)) + (b * (3 * u * u * t)) + (c * (3 * u * t * t)) + (d * (t * t * t)));
        }
    }
}

/// <summary>Which of the places that outlines wind around are inside; as vector drawings have it.</summary>
public enum Inside
{
    /// <summary>Where a line to the outside crosses an odd number of outlines.</summary>
    OddCrossings,

    /// <summary>Wherever outlines wind around at least once.</summary>
    AnyWinding,
}

/// <summary>What was drawn: outlines that belong together, mm about the shape's own origin.</summary>
public sealed record DrawnShape
{
    /// <summary>No shape has more points than this; a drawing with more is refused.</summary>
    public const int MostNodes = 20_000;

    private BlobHash? _hash;

    /// <summary>A shape of outlines.</summary>
    public DrawnShape(ImmutableArray<ShapePath> paths, Inside rule = Inside.OddCrossings) => (Paths, Rule) = (paths, rule);

    // A copy is made to change something, and then has another hash.
    private DrawnShape(DrawnShape original) => (Paths, Rule) = (original.Paths, original.Rule);

    /// <summary>Its outlines.</summary>
    public ImmutableArray<ShapePath> Paths { get; init; }

    /// <summary>Which places they enclose.</summary>
    public Inside Rule { get; init; }

    /// <summary>The hash of its stored bytes; computed at the first asking.</summary>
    public BlobHash Hash => _hash ??= BlobHash.Of(ShapeBytes.Write(this));

    /// <summary>Whether it encloses anything that could be filled.</summary>
    public bool IsClosed => Paths.Any(p => p.Closed && p.Nodes.Length > 1);

    /// <summary>The rectangle about it, mm.</summary>
    public Box Bounds => Box.Around(Paths.SelectMany(p => p.Flattened()));

    /// <summary>The shape with every point moved by a rule; arms of curves go along.</summary>
    public DrawnShape Moved(Func<Point, Point> move) => this with
    {
        Paths = [.. Paths.Select(p => p with { Nodes = [.. p.Nodes.Select(n => n with { At = move(n.At), In = move(n.At + n.In) - move(n.At), Out = move(n.At + n.Out) - move(n.At) })] })],
    };

    /// <summary>Equal when every outline is.</summary>
    public bool Equals(DrawnShape? other) => ReferenceEquals(this, other) || (other is not null && Rule == other.Rule && Paths.AsSpan().SequenceEqual(other.Paths.AsSpan()));

    /// <inheritdoc/>
    public override int GetHashCode() => HashCode.Combine(Rule, Paths.Length, Paths.Length > 0 ? Paths[0] : null);
}

/// <summary>Where stored shapes come from.</summary>
public interface IShapeSource
{
    /// <summary>The shape of a hash.</summary>
    /// <exception cref="KeyNotFoundException">There is none.</exception>
    DrawnShape Get(BlobHash hash);
}
