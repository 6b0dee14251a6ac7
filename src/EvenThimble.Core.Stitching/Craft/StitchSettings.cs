using EvenThimble.Core.Digitizing.Fill;
using EvenThimble.Core.Digitizing.Lines;
using EvenThimble.Core.Geometry;

namespace EvenThimble.Core.Craft;

/// <summary>How a drawn shape is stitched.</summary>
public enum StitchWay : byte
{
    /// <summary>Fill, satin and run by the width of each place.</summary>
    Automatic,

    /// <summary>Rows over the area.</summary>
    Fill,

    /// <summary>Rows whose needle points draw a pattern.</summary>
    PatternedFill,

    /// <summary>Throws across the strokes of the area.</summary>
    Satin,

    /// <summary>Satin of one width along the line.</summary>
    LineSatin,

    /// <summary>A single line of stitches.</summary>
    Run,

    /// <summary>A line of stitches, each sewn three times.</summary>
    TripleRun,

    /// <summary>A row of small figures along the line.</summary>
    MotifRow,
}

/// <summary>The words for ways to stitch.</summary>
public static class StitchWays
{
    private static readonly string[] Words = ["automatic", "fill", "patterned fill", "satin", "satin line", "run", "triple run", "motif row"];

    /// <summary>All ways.</summary>
    public static IReadOnlyList<StitchWay> All { get; } = Enum.GetValues<StitchWay>();

    /// <summary>The way in words.</summary>
    public static string InWords(this StitchWay way) => Words[(int)way];

    /// <summary>The way of words, or false.</summary>
    public static bool TryParse(string? words, out StitchWay way)
    {
        var index = Array.FindIndex(Words, w => w.Equals(words?.Trim(), StringComparison.OrdinalIgnoreCase));
        way = (StitchWay)Math.Max(index, 0);
        return index >= 0;
    }

    /// <summary>Whether it stitches the area rather than the line around it.</summary>
    public static bool IsOfArea(this StitchWay way) => way is StitchWay.Automatic or StitchWay.Fill or StitchWay.PatternedFill or StitchWay.Satin;

    /// <summary>Whether rows of a fill may come of it.</summary>
    public static bool HasRows(this StitchWay way) => way is StitchWay.Automatic or StitchWay.Fill or StitchWay.PatternedFill;

    /// <summary>Whether throws of a satin may come of it.</summary>
    public static bool HasThrows(this StitchWay way) => way is StitchWay.Automatic or StitchWay.Satin or StitchWay.LineSatin;
}

/// <summary>What the user has set of a shape's stitching; what is null follows the cloth or the craft's usual number.</summary>
public sealed record StitchSettings(StitchWay Way = StitchWay.Automatic)
{
    /// <summary>Between rows or throws, mm.</summary>
    public double? SpacingMm { get; init; }

    /// <summary>Between throws of what is satin where rows and satin are mixed, mm.</summary>
    public double? SatinSpacingMm { get; init; }

    /// <summary>Direction of rows, degrees clockwise from across.</summary>
    public double? Angle { get; init; }

    /// <summary>Of a run, or within a row, mm.</summary>
    public double? StitchLengthMm { get; init; }

    /// <summary>Of a satin line, mm.</summary>
    public double? WidthMm { get; init; }

    /// <summary>Of a letter: how wide the broad strokes of its text are, mm, so that all its letters are sewn alike. Null: as its own strokes ask for.</summary>
    public double? StrokeMm { get; init; }

    /// <summary>Whether open lines that meet are sewn in one go, out along each and back over it, as the strokes of fine letters are.</summary>
    public bool OutAndBack { get; init; }

    /// <summary>Which motif.</summary>
    public string? Motif { get; init; }

    /// <summary>Of one motif along the line, mm.</summary>
    public double? MotifLengthMm { get; init; }

    /// <summary>How motifs follow each other.</summary>
    public MotifTurn MotifTurn { get; init; }

    /// <summary>Which tile.</summary>
    public string? Tile { get; init; }

    /// <summary>Size of the tile, 1 as drawn.</summary>
    public double? TileScale { get; init; }

    /// <summary>Turn of the tile, degrees clockwise; usually that of the rows.</summary>
    public double? TileAngle { get; init; }

    /// <summary>What is sewn underneath.</summary>
    public UnderlayLayers? Underlay { get; init; }

    /// <summary>By how much throws and rows are lengthened at each end, mm.</summary>
    public double? CompensationMm { get; init; }

    /// <summary>Where to start, in the shape's own place.</summary>
    public Point? Start { get; init; }

    /// <summary>Where to end, in the shape's own place.</summary>
    public Point? End { get; init; }

    /// <summary>The same with whatever somebody changed: each setting in which what was changed differs from what was usual before. Chosen places of start and end are not carried over, since they belong to one outline.</summary>
    public StitchSettings Carrying(StitchSettings usual, StitchSettings changed)
    {
        return usual == changed ? this : this with
        {
            Way = Of(Way, s => s.Way),
            SpacingMm = Of(SpacingMm, s => s.SpacingMm),
            SatinSpacingMm = Of(SatinSpacingMm, s => s.SatinSpacingMm),
            Angle = Of(Angle, s => s.Angle),
            StitchLengthMm = Of(StitchLengthMm, s => s.StitchLengthMm),
            WidthMm = Of(WidthMm, s => s.WidthMm),
            OutAndBack = Of(OutAndBack, s => s.OutAndBack),
            Motif = Of(Motif, s => s.Motif),
            MotifLengthMm = Of(MotifLengthMm, s => s.MotifLengthMm),
            MotifTurn = Of(MotifTurn, s => s.MotifTurn),
            Tile = Of(Tile, s => s.Tile),
            TileScale = Of(TileScale, s => s.TileScale),
            TileAngle = Of(TileAngle, s => s.TileAngle),
            Underlay = Of(Underlay, s => s.Underlay),
            CompensationMm = Of(CompensationMm, s => s.CompensationMm),
        };

        T Of<T>(T mine, Func<StitchSettings, T> setting) => EqualityComparer<T>.Default.Equals(setting(usual), setting(changed)) ? mine : setting(changed);
    }

    /// <summary>Direction of rows unless another is set, degrees.</summary>
    public const double UsualAngle = 35;

    /// <summary>Width of a satin line unless another is set, mm.</summary>
    public const double UsualWidth = 2.4;

    /// <summary>Lines of a pen as wide as this are satin where that is left to be decided, finer ones are run, mm.</summary>
    public const double FinestSatin = 0.6;

    /// <summary>Length of a motif unless another is set, mm.</summary>
    public const double UsualMotifLength = 6;

    /// <summary>Spacing that satin has where none is set.</summary>
    public static double SpacingOn(ClothProfile cloth, StitchWay way) => way is StitchWay.Satin or StitchWay.LineSatin ? cloth.SatinSpacingMm : cloth.FillSpacingMm;

    /// <summary>Underlay where none is set.</summary>
    public static UnderlayLayers UnderlayOn(ClothProfile cloth, StitchWay way) => way is StitchWay.Satin or StitchWay.LineSatin ? cloth.SatinUnderlay : cloth.FillUnderlay;

    /// <summary>Stitch length where none is set, mm.</summary>
    public static double StitchLengthOf(StitchWay way) => way.HasRows() ? Limits.FillStitch : Limits.RunStitch;
}
