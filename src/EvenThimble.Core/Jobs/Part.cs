using System.Collections.Immutable;
using EvenThimble.Core.Digitizing;
using EvenThimble.Core.Drawing;
using EvenThimble.Core.Respacing;
using EvenThimble.Core.Stitches;
using EvenThimble.Core.Threads;

namespace EvenThimble.Core.Jobs;

/// <summary>Names a piece within its job.</summary>
public readonly record struct PieceId(int Value);

/// <summary>Names a part within its job.</summary>
public readonly record struct PartId(int Value);

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

/// <summary>A run of records of a blob, and what becomes of it.</summary>
/// <param name="Blob">Which blob.</param>
/// <param name="First">Its first record.</param>
/// <param name="Count">How many records, at least 1.</param>
public readonly record struct StitchSlice(BlobHash Blob, int First, int Count)
{
    /// <summary>The record after the last.</summary>
    public int End => First + Count;

    /// <summary>Where it lies within its part, which several slices share after joining; null: as the blob has it.</summary>
    public Placement? Own { get; init; }

    /// <summary>What is done to the stitches.</summary>
    public Rework Rework { get; init; }

    /// <summary>The user cut it off from what came before.</summary>
    public bool CutBefore { get; init; }

    /// <summary>The user cut off what comes after.</summary>
    public bool CutAfter { get; init; }

    /// <summary>Where it lies in the job when its part is placed.</summary>
    public Placement In(Placement part) => Own is { } own ? part.After(own) : part;

    /// <summary>Whether another slice goes on where this one ends, treated alike.</summary>
    public bool GoesOnIn(StitchSlice next) => Blob == next.Blob && End == next.First && Own == next.Own && Rework == next.Rework;
}

/// <summary>A shape of the user's own and how it is to be stitched; its stitches are made of it whenever they are wanted.</summary>
public sealed record DrawnPart(DrawnShape Shape, StitchSettings Settings);

/// <summary>Stitches of one piece in one thread that sew in one go; the unit that is ordered, hidden, locked and recoloured. They are slices of stored stitches, or made of what is drawn.</summary>
public sealed record Part(PartId Id, PieceId Piece, string Name, ImmutableArray<StitchSlice> Slices, SewingThread Thread, PartRole Role, Placement Placement)
{
    /// <summary>The shape that the stitches are made of; null where they were bought.</summary>
    public DrawnPart? Drawn { get; init; }

    /// <summary>Sewn whole even where later parts hide it.</summary>
    public bool KeptWhole { get; init; }

    /// <summary>Left out of the picture for now; it is still sewn.</summary>
    public bool Hidden { get; init; }

    /// <summary>Not taken by a click on the cloth.</summary>
    public bool Locked { get; init; }

    /// <summary>Equal when every setting is, slices compared one by one.</summary>
    public bool Equals(Part? other) =>
        other is not null && Id == other.Id && Piece == other.Piece && Name == other.Name && Thread == other.Thread && Role == other.Role
        && Placement == other.Placement && Equals(Drawn, other.Drawn) && KeptWhole == other.KeptWhole && Hidden == other.Hidden && Locked == other.Locked && Slices.AsSpan().SequenceEqual(other.Slices.AsSpan());

    /// <inheritdoc/>
    public override int GetHashCode() => HashCode.Combine(Id, Name, Thread, Placement, Slices.Length);
}

/// <summary>One thing placed in a job.</summary>
/// <param name="Id">Its name within the job.</param>
/// <param name="Name">As the user reads it.</param>
/// <param name="DesignId">The design of the shelf that it is made of; null for what was drawn.</param>
public sealed record Piece(PieceId Id, string Name, long? DesignId);
