using EvenThimble.Core.Geometry;

namespace EvenThimble.Core.Stitches;

/// <summary>What becomes of bought stitches when their size changes.</summary>
public enum ResizeMode : byte
{
    /// <summary>They are made anew at the spacing they had; the count follows the size.</summary>
    Respace,

    /// <summary>Every stitch is kept, longer or shorter.</summary>
    Stretch,
}

/// <summary>What is to be done to bought stitches besides placing them. The default leaves them as they came.</summary>
public readonly record struct Rework
{
    /// <summary>What becomes of them at another size.</summary>
    public ResizeMode Mode { get; init; }

    /// <summary>Times as far between rows and throws, above 1 is lighter; null: as it came.</summary>
    public double? SpacingTimes { get; init; }

    /// <summary>Leaves the underlay out.</summary>
    public bool WithoutUnderlay { get; init; }

    /// <summary>Stitches shorter than this are left out, mm; 0: none.</summary>
    public double ShorterThanMm { get; init; }

    /// <summary>What the user told that some of them are, by the records of their blob; null: nothing.</summary>
    public ToldReadings? Told { get; init; }

    /// <summary>Whether stitches at a size have to be made or chosen, rather than taken as they came.</summary>
    public bool Makes(Geometry.Sizing size) => WithoutUnderlay || ShorterThanMm > 0 || (Mode == ResizeMode.Respace && ((SpacingTimes ?? 1) != 1 || !size.IsOriginal));
}
