using EvenThimble.Core.Text;

namespace EvenThimble.Core.Garments;

/// <summary>What is to be looked at of names, in words.</summary>
public static class NameWords
{
    private static readonly (NameFlags Flag, string Key, string Says)[] All =
    [
        (NameFlags.Refused, "refused", "cannot be sewn"),
        (NameFlags.BelowGood, "too-small", "too small for its font"),
        (NameFlags.Narrowest, "narrowest", "as narrow as allowed"),
        (NameFlags.OffMedian, "other-height", "another height than most"),
        (NameFlags.ShortStitches, "short-stitches", "stitches too short"),
        (NameFlags.ChangedSinceProof, "changed-since-proof", "changed since the proof"),
        (NameFlags.Narrower, "narrower", "letters narrower"),
        (NameFlags.OtherFont, "other-font", "in another font"),
    ];

    /// <summary>Short names of what is set, for programs.</summary>
    public static IReadOnlyList<string> Keys(NameFlags flags) => [.. All.Where(f => flags.HasFlag(f.Flag)).Select(f => f.Key)];

    /// <summary>What is set, in a few words each.</summary>
    public static IReadOnlyList<string> Words(NameFlags flags) => [.. All.Where(f => flags.HasFlag(f.Flag)).Select(f => f.Says)];

    /// <summary>What is to be looked at of a name, in a line.</summary>
    public static string Of(RollName name) => string.Join(", ", [.. Words(name.Flags), .. name.Slots.Select(s => s.Refused).OfType<string>(), .. name.Slots.Where(s => s.Content is not null).Select(s => $"capitals of {LengthText.Decimals(s.Content!.CapitalMm, 1)} mm")]);
}
