using EvenThimble.Core.Craft;
using EvenThimble.Core.Digitizing.Fill;
using EvenThimble.Core.Digitizing.Lines;
using EvenThimble.Core.Geometry;

namespace EvenThimble.Core.Files.Jobs;

/// <summary>Settings of stitching as JSON.</summary>
internal sealed record StoredStitching(
    string Way, double? Spacing, double? Angle, double? StitchLength, double? Width, string? Motif, double? MotifLength, string? MotifTurn, string? Tile, double? TileScale, double? TileAngle,
    string[]? Underlay, double? Compensation, double[]? Start, double[]? End, bool OutAndBack, double? SatinSpacing, double? Stroke)
{
    public static StoredStitching Of(StitchSettings s) => new(
        StorageKeys.Of(s.Way), s.SpacingMm, s.Angle, s.StitchLengthMm, s.WidthMm, s.Motif, s.MotifLengthMm, s.MotifTurn == default ? null : s.MotifTurn.ToString(), s.Tile, s.TileScale, s.TileAngle,
        s.Underlay is { } u ? [u.First.ToString(), u.Second.ToString()] : null, s.CompensationMm, Place(s.Start), Place(s.End), s.OutAndBack, s.SatinSpacingMm, s.StrokeMm);

    public StitchSettings ToSettings() => ToSettings(StorageKeys.Way(Way));

    /// <summary>The settings with a way that was read otherwise.</summary>
    public StitchSettings ToSettings(StitchWay way) => new(way)
    {
        SpacingMm = Spacing,
        SatinSpacingMm = SatinSpacing,
        Angle = Angle,
        StitchLengthMm = StitchLength,
        WidthMm = Width,
        Motif = Motif,
        MotifLengthMm = MotifLength,
        MotifTurn = MotifTurn is null ? default : Enum.Parse<MotifTurn>(MotifTurn),
        Tile = Tile,
        TileScale = TileScale,
        TileAngle = TileAngle,
        Underlay = Underlay is { } u ? StoredCloth.Layers(u) : null,
        CompensationMm = Compensation,
        Start = Place(Start),
        End = Place(End),
        OutAndBack = OutAndBack,
        StrokeMm = Stroke,
    };

    private static double[]? Place(Point? p) => p is { } at ? [at.X, at.Y] : null;

    private static Point? Place(double[]? p) => p is null ? null : p is { Length: 2 } ? new(p[0], p[1]) : throw new InvalidDataException("A shape starts or ends at a place that is none.");
}
