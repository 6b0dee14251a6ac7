using System.Globalization;
using EvenThimble.Core.Geometry;
using EvenThimble.Core.Text;

namespace EvenThimble.Core.Craft;

/// <summary>A setting of stitching that is a number, and what it can be.</summary>
/// <param name="Says">What it is called.</param>
/// <param name="Least">The least it can be, mm or as said.</param>
/// <param name="Most">The most it can be.</param>
/// <param name="IsLength">In mm; else a plain number or degrees.</param>
/// <param name="Get">Takes it out of settings; null: not set.</param>
/// <param name="With">The settings with it; null takes it back to what is usual.</param>
public sealed record SettingRange(string Says, double Least, double Most, bool IsLength, Func<StitchSettings, double?> Get, Func<StitchSettings, double?, StitchSettings> With)
{
    // Typed numbers may miss a limit in the last bits, as inches do.
    private const double Slack = 1e-9;

    /// <summary>Between rows or throws.</summary>
    public static readonly SettingRange Spacing = new("spacing", 0.2, 5, true, s => s.SpacingMm, (s, v) => s with { SpacingMm = v, SatinSpacingMm = null });

    /// <summary>Between the throws of what is satin where rows and satin are mixed: set with the other, never by itself.</summary>
    public static readonly SettingRange SatinSpacing = new("spacing of satin", 0.2, 5, true, s => s.SatinSpacingMm, (s, v) => s with { SatinSpacingMm = v });

    /// <summary>Direction of rows, degrees.</summary>
    public static readonly SettingRange Angle = new("angle", -360, 360, false, s => s.Angle, (s, v) => s with { Angle = Turned(v) });

    /// <summary>Of a run, or within a row.</summary>
    public static readonly SettingRange StitchLength = new("stitch length", 0.8, 7, true, s => s.StitchLengthMm, (s, v) => s with { StitchLengthMm = v });

    /// <summary>Of a satin line.</summary>
    public static readonly SettingRange Width = new("width", 0.8, 12, true, s => s.OutAndBack ? null : s.WidthMm, (s, v) => s with { WidthMm = v });

    /// <summary>Of the pen of small letters: it grows with them.</summary>
    public static readonly SettingRange PenWidth = new("width of the pen", 0.1, 80, true, s => s.OutAndBack ? s.WidthMm : null, (s, v) => s with { WidthMm = v });

    /// <summary>Of one motif along the line.</summary>
    public static readonly SettingRange MotifLength = new("length of a motif", 2, 40, true, s => s.MotifLengthMm, (s, v) => s with { MotifLengthMm = v });

    /// <summary>Size of the tile, times as drawn.</summary>
    public static readonly SettingRange TileScale = new("size of the pattern", 0.4, 4, false, s => s.TileScale, (s, v) => s with { TileScale = v });

    /// <summary>Turn of the tile, degrees.</summary>
    public static readonly SettingRange TileAngle = new("angle of the pattern", -360, 360, false, s => s.TileAngle, (s, v) => s with { TileAngle = Turned(v) });

    /// <summary>By how much throws and rows are lengthened at each end.</summary>
    public static readonly SettingRange Compensation = new("pull compensation", 0, 1, true, s => s.CompensationMm, (s, v) => s with { CompensationMm = v });

    /// <summary>All of them.</summary>
    public static IReadOnlyList<SettingRange> All { get; } = [Spacing, Angle, StitchLength, Width, MotifLength, TileScale, TileAngle, Compensation];

    /// <summary>Whether it can be a value.</summary>
    public bool Holds(double value) => double.IsFinite(value) && value >= Least - Slack && value <= Most + Slack;

    /// <summary>Refuses settings that cannot be sewn.</summary>
    /// <exception cref="EditRefusedException">With the first that cannot be, and what it can.</exception>
    public static void Check(StitchSettings settings)
    {
        foreach (var range in All.Append(PenWidth).Append(SatinSpacing))
            if (range.Get(settings) is { } value && !range.Holds(value))
                throw range.Refused(value.ToString("0.####", CultureInfo.InvariantCulture));
    }

    /// <summary>The refusal of something that it cannot be.</summary>
    public EditRefusedException Refused(string what) =>
        new($"The {Says} can be from {Number(Least)} to {Number(Most)}{(IsLength ? " mm" : string.Empty)}; “{what}” is not. Nothing was changed.");

    private static double? Turned(double? degrees) => degrees is { } d ? Geometry.Turn.Normalised(d) : null;

    private static string Number(double v) => v.ToString("0.##", CultureInfo.InvariantCulture);
}
