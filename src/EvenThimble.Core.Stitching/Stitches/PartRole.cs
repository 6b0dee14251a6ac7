namespace EvenThimble.Core.Stitches;

/// <summary>What a part is for; the values are those of the stitch file.</summary>
public enum PartRole : byte
{
    /// <summary>Seen in the end.</summary>
    Decoration = 0,

    /// <summary>Shows where the fabric is laid.</summary>
    PlacementLine = 1,

    /// <summary>Holds the laid fabric.</summary>
    TackDown = 2,

    /// <summary>Covers the fabric's edge.</summary>
    Cover = 3,

    /// <summary>Is cut along.</summary>
    CutLine = 4,

    /// <summary>Holds cloth and stabilizer together for the time of sewing.</summary>
    Basting = 5,

    /// <summary>Aligns two placements of a hoop.</summary>
    RegistrationCross = 6,

    /// <summary>Letters.</summary>
    Lettering = 7,
}

/// <summary>The words for roles, in the interface and in files.</summary>
public static class PartRoles
{
    private static readonly string[] Words =
        ["decoration", "placement line", "tack-down", "cover", "cut line", "basting", "registration cross", "lettering"];

    /// <summary>All roles.</summary>
    public static IReadOnlyList<PartRole> All { get; } = Enum.GetValues<PartRole>();

    /// <summary>The role in words.</summary>
    public static string InWords(this PartRole role) => Words[(int)role];

    /// <summary>The role of words, or false.</summary>
    public static bool TryParse(string words, out PartRole role)
    {
        var index = Array.FindIndex(Words, w => w.Equals(words.Trim(), StringComparison.OrdinalIgnoreCase));
        role = (PartRole)Math.Max(index, 0);
        return index >= 0;
    }

    /// <summary>Whether a number of a stitch file names a role.</summary>
    public static bool IsKnown(byte value) => value < Words.Length;
}
