using System.Collections.Immutable;
using EvenThimble.Core.Craft;
using EvenThimble.Core.Shapes;
using EvenThimble.Core.Stitches;
using EvenThimble.Core.Threads;

namespace EvenThimble.Core.Jobs;

/// <summary>Names a piece within its job.</summary>
public readonly record struct PieceId(int Value);

/// <summary>Names a part within its job.</summary>
public readonly record struct PartId(int Value);

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
