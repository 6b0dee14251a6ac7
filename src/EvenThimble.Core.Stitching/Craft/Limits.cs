namespace EvenThimble.Core.Craft;

/// <summary>The craft's usual numbers, mm unless said.</summary>
public static class Limits
{
    /// <summary>Width of a usual thread as it lies on the cloth.</summary>
    public const double ThreadWidth = 0.4;

    /// <summary>Longest stitch of any kind; a longer way is jumped.</summary>
    public const double LongestStitch = 12.1;

    /// <summary>Usual stitch of a run.</summary>
    public const double RunStitch = 2.2;

    /// <summary>Shortest stitch that a run is shortened to on curves.</summary>
    public const double ShortestCurveStitch = 0.8;

    /// <summary>How far a stitch of a run may cut a curve's corner.</summary>
    public const double ChordError = 0.1;

    /// <summary>Between needle points on one side of a satin.</summary>
    public const double SatinSpacing = 0.40;

    /// <summary>Longest throw of a satin; longer ones are split.</summary>
    public const double LongestThrow = 7.0;

    /// <summary>Narrowest throw that is still satin; what is narrower is run.</summary>
    public const double NarrowestSatin = 1.0;

    /// <summary>Between rows of a fill.</summary>
    public const double FillSpacing = 0.40;

    /// <summary>Usual stitch of a fill.</summary>
    public const double FillStitch = 4.0;

    /// <summary>Part of a stitch by which the needle points of a row are shifted against the row before.</summary>
    public const double RowShift = 0.3;

    /// <summary>Shortest stitch worth making, ties aside.</summary>
    public const double ShortestStitch = 0.4;

    /// <summary>Stitch of a tie-in or tie-off.</summary>
    public const double TieStitch = 0.7;

    /// <summary>A jump longer than this is trimmed.</summary>
    public const double TrimOver = 3.0;

    /// <summary>How far underlay stays inside the edge.</summary>
    public const double UnderlayInset = 0.5;

    /// <summary>By how much throws and rows are made longer at each end, since thread pulls the cloth together.</summary>
    public const double PullCompensation = 0.2;
}
