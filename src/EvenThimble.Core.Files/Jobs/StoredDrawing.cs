using System.Collections.Immutable;
using EvenThimble.Core.Craft;
using EvenThimble.Core.Digitizing.Fill;
using EvenThimble.Core.Digitizing.Lines;
using EvenThimble.Core.Geometry;
using EvenThimble.Core.Jobs;
using EvenThimble.Core.Shapes;
using EvenThimble.Core.Stitches;

namespace EvenThimble.Core.Files.Jobs;

/// <summary>A drawn part as JSON. Nodes are rows of numbers: x, y, and of curves also the kind and both arms, so that large drawings stay small.</summary>
internal sealed record StoredDrawing(List<StoredPath> Paths, bool AnyWinding, StoredStitching Stitching)
{
    public static StoredDrawing Of(DrawnPart part) => new(
        [.. part.Shape.Paths.Select(p => new StoredPath(p.Closed, [.. p.Nodes.Select(Row)]))], part.Shape.Rule == Inside.AnyWinding, StoredStitching.Of(part.Settings));

    public DrawnPart ToDrawn()
    {
        var paths = Paths.Select(p => new ShapePath([.. p.Nodes.Select(Node)], p.Closed)).ToImmutableArray();
        if (paths.Sum(p => p.Nodes.Length) > DrawnShape.MostNodes) throw new InvalidDataException("A stored shape has too many points.");
        return new(new(paths, AnyWinding ? Inside.AnyWinding : Inside.OddCrossings), Stitching.ToSettings());
    }

    private static double[] Row(PathNode n) => n.Kind switch
    {
        NodeKind.Corner => [n.At.X, n.At.Y],
        NodeKind.Smooth => [n.At.X, n.At.Y, 1],
        _ => [n.At.X, n.At.Y, 2, n.In.X, n.In.Y, n.Out.X, n.Out.Y],
    };

    private static PathNode Node(double[] row)
    {
        if (row.Length is not (2 or 3 or 7) || Array.Exists(row, v => !double.IsFinite(v) || Math.Abs(v) > 10_000)) throw new InvalidDataException("A stored shape has a point that is none.");
        return row.Length == 7 ? new(new(row[0], row[1]), NodeKind.Curve, new(row[3], row[4]), new(row[5], row[6])) : new(new(row[0], row[1]), row.Length == 3 ? NodeKind.Smooth : NodeKind.Corner);
    }
}

/// <summary>An outline as JSON.</summary>
internal sealed record StoredPath(bool Closed, List<double[]> Nodes);

/// <summary>Settings of stitching as JSON.</summary>
internal sealed record StoredStitching(
    string Way, double? Spacing, double? Angle, double? StitchLength, double? Width, string? Motif, double? MotifLength, string? MotifTurn, string? Tile, double? TileScale, double? TileAngle,
    string[]? Underlay, double? Compensation, double[]? Start, double[]? End)
{
    public static StoredStitching Of(StitchSettings s) => new(
        s.Way.InWords(), s.Spacing, s.Angle, s.StitchLength, s.Width, s.Motif, s.MotifLength, s.MotifTurn == default ? null : s.MotifTurn.ToString(), s.Tile, s.TileScale, s.TileAngle,
        s.Underlay is { } u ? [u.First.ToString(), u.Second.ToString()] : null, s.Compensation, Place(s.Start), Place(s.End));

    public StitchSettings ToSettings()
    {
        if (!StitchWays.TryParse(Way, out var way)) throw new InvalidDataException($"A stored shape is stitched in a way that is not known: {Way}.");
        return new(way)
        {
            Spacing = Spacing,
            Angle = Angle,
            StitchLength = StitchLength,
            Width = Width,
            Motif = Motif,
            MotifLength = MotifLength,
            MotifTurn = MotifTurn is null ? default : Enum.Parse<MotifTurn>(MotifTurn),
            Tile = Tile,
            TileScale = TileScale,
            TileAngle = TileAngle,
            Underlay = Underlay is { Length: 2 } u ? new(Enum.Parse<Underlay>(u[0]), Enum.Parse<Underlay>(u[1])) : null,
            Compensation = Compensation,
            Start = Place(Start),
            End = Place(End),
        };
    }

    private static double[]? Place(Point? p) => p is { } at ? [at.X, at.Y] : null;

    private static Point? Place(double[]? p) => p is { Length: 2 } ? new(p[0], p[1]) : null;
}
