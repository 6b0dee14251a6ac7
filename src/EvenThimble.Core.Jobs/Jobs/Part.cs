using System.Collections.Immutable;
using EvenThimble.Core.Craft;
using EvenThimble.Core.Geometry;
using EvenThimble.Core.Shapes;
using EvenThimble.Core.Stitches;
using EvenThimble.Core.Threads;

namespace EvenThimble.Core.Jobs;

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

    /// <summary>What the user told of its stitches, counted from a record of the blob.</summary>
    public IEnumerable<ToldReading> ToldFrom(int record) => (Rework.Told?.All ?? []).Select(t => t with { First = t.First - record, Last = t.Last - record });

    /// <summary>Where it lies in the job when its part is placed.</summary>
    public Placement In(Placement part) => Own is { } own ? part.After(own) : part;

    /// <summary>Whether another slice goes on where this one ends, treated alike.</summary>
    public bool GoesOnIn(StitchSlice next) => Blob == next.Blob && End == next.First && Own == next.Own && Rework == next.Rework;
}

/// <summary>Where the stitches of a part come from: one of the three kinds below and no other.</summary>
public abstract record PartSource
{
    private PartSource()
    {
    }

    /// <summary>Slices of bought stitches, in the order they sew.</summary>
    public sealed record Bought(ImmutableArray<StitchSlice> Slices) : PartSource
    {
        /// <summary>Equal when every slice is.</summary>
        public bool Equals(Bought? other) => other is not null && Slices.AsSpan().SequenceEqual(other.Slices.AsSpan());

        /// <inheritdoc/>
        public override int GetHashCode() => HashCode.Combine(Slices.Length, Slices.IsEmpty ? default : Slices[0]);
    }

    /// <summary>A shape and how it is to be stitched; its stitches are made whenever they are wanted.</summary>
    public sealed record Drawn(DrawnShape Shape, StitchSettings Settings) : PartSource;

    /// <summary>As the content of the part's piece makes it.</summary>
    public sealed record OfPiece : PartSource
    {
        /// <summary>The only one.</summary>
        public static readonly OfPiece It = new();
    }
}

/// <summary>
/// Stitches of one piece in one thread that sew in one go; the unit that is ordered, hidden, locked and recoloured. It is what its piece's content makes under a key,
/// and what the user has done to that.
/// </summary>
public sealed record Part
{
    private readonly string? _name;
    private readonly SewingThread? _thread;
    private readonly PartRole? _role;

    /// <summary>A part as a content makes it.</summary>
    /// <param name="id">Its name within the job; never given twice.</param>
    /// <param name="piece">The piece.</param>
    /// <param name="made">What the content makes.</param>
    /// <param name="placement">Where it lies in the job.</param>
    public Part(PartId id, PieceId piece, MadePart made, Placement placement) => (Id, Piece, Made, Placement) = (id, piece, made, placement);

    /// <summary>Its name within the job.</summary>
    public PartId Id { get; init; }

    /// <summary>The piece it belongs to.</summary>
    public PieceId Piece { get; init; }

    /// <summary>What the piece's content makes. Several parts may share it after a split.</summary>
    public MadePart Made { get; init; }

    /// <summary>Where it lies in the job.</summary>
    public Placement Placement { get; init; }

    /// <summary>Where its stitches come from: its piece, unless it was changed by itself.</summary>
    public PartSource Source { get; init; } = PartSource.OfPiece.It;

    /// <summary>As the user reads it: a name of its own, that which its content gives it, or that of its thread.</summary>
    public string Name
    {
        get => _name ?? Made.Name ?? Thread.Name;
        init => _name = value == (Made.Name ?? Thread.Name) ? null : value;
    }

    /// <summary>What it is sewn with.</summary>
    public SewingThread Thread
    {
        get => _thread ?? Made.Thread;
        init => _thread = value == Made.Thread ? null : value;
    }

    /// <summary>What it is for.</summary>
    public PartRole Role
    {
        get => _role ?? Made.Role;
        init => _role = value == Made.Role ? null : value;
    }

    /// <summary>The name that the user gave it; null where it has none of its own.</summary>
    public string? OwnName => _name;

    /// <summary>The thread that the user gave it; null where its content tells it.</summary>
    public SewingThread? OwnThread => _thread;

    /// <summary>The role that the user gave it; null where its content tells it.</summary>
    public PartRole? OwnRole => _role;

    /// <summary>What the machine says when it stops after the part; null: it stops only where its stitches have it.</summary>
    public string? StopAfter { get; init; }

    /// <summary>Sewn whole even where later parts hide it.</summary>
    public bool KeptWhole { get; init; }

    /// <summary>Left out of the picture for now; it is still sewn.</summary>
    public bool Hidden { get; init; }

    /// <summary>Not taken by a click on the cloth.</summary>
    public bool Locked { get; init; }

    /// <summary>The stitches it came as; empty where it is drawn.</summary>
    public ImmutableArray<StitchSlice> Slices => Stitched is PartSource.Bought bought ? bought.Slices : [];

    /// <summary>The shape that its stitches are made of; null where they were bought.</summary>
    public PartSource.Drawn? Drawn => Stitched as PartSource.Drawn;

    /// <summary>The same with other stitches of its own.</summary>
    public Part WithSlices(ImmutableArray<StitchSlice> slices)
    {
        var source = new PartSource.Bought(slices);
        return this with { Source = source.Equals(Made.Source) ? PartSource.OfPiece.It : source };
    }

    /// <summary>
    /// The same after its content has changed: what the user did to it stays, and what was moved apart lies as far from where its piece has it as before.
    /// </summary>
    /// <param name="made">What the content makes now.</param>
    /// <param name="followed">Where the part would have lain by its piece.</param>
    /// <param name="follows">Where it lies by its piece now.</param>
    public Part Remade(MadePart made, Placement followed, Placement follows)
    {
        if (Placement == followed) return this with { Made = made, Placement = follows };
        var moved = follows.Shifted(Placement.X - followed.X, Placement.Y - followed.Y);
        return this with
        {
            Made = made,
            Placement = moved with
            {
                TurnDegrees = Turn.Normalised(follows.TurnDegrees + Placement.TurnDegrees - followed.TurnDegrees),
                Mirrored = follows.Mirrored ^ Placement.Mirrored ^ followed.Mirrored,
                Size = Placement.Size == followed.Size ? follows.Size : Placement.Size,
            },
        };
    }

    private PartSource Stitched => Source is PartSource.OfPiece ? Made.Source : Source;
}
