using System.Collections.Immutable;
using EvenThimble.Core.Craft;
using EvenThimble.Core.Geometry;
using EvenThimble.Core.Shapes;
using EvenThimble.Core.Stitches;
using EvenThimble.Core.Threads;

namespace EvenThimble.Core.Jobs;

/// <summary>Names a piece within its job.</summary>
public readonly record struct PieceId(int Value);

/// <summary>One thing placed in a job. It owns what it is made of; its parts are what that makes, with what the user has done to them.</summary>
/// <param name="Id">Its name within the job; never given twice.</param>
/// <param name="Name">As the user reads it.</param>
/// <param name="Content">What it is made of.</param>
/// <param name="Placement">Where the content lies as a whole. Each part tells its own place, which differs when it was moved apart from the rest.</param>
public sealed record Piece(PieceId Id, string Name, PieceContent Content, Placement Placement)
{
    /// <summary>Where a part lies that follows its piece.</summary>
    public Placement PlaceOf(MadePart made) => Placement.After(made.At);
}

/// <summary>Names a part among those that its piece's content makes. It stays the same as long as what it stands for is there, so that a changed content keeps what was done to its parts.</summary>
public readonly record struct PartKey(string Text)
{
    /// <summary>The key of the n-th, from 1.</summary>
    public static PartKey Numbered(int n) => new(n.ToString(System.Globalization.CultureInfo.InvariantCulture));

    /// <inheritdoc/>
    public override string ToString() => Text;
}

/// <summary>Gives keys that no part of a content has had before.</summary>
internal sealed class PartKeys(IEnumerable<PartKey>? before)
{
    private int _last = before?.Select(k => int.TryParse(k.Text, out var n) ? n : 0).DefaultIfEmpty(0).Max() ?? 0;

    public PartKey Next() => PartKey.Numbered(++_last);
}

/// <summary>A part as a content makes it.</summary>
/// <param name="Key">Its name within the content.</param>
/// <param name="Name">As the user reads it; null: it is called by its thread.</param>
/// <param name="Thread">What it is sewn with.</param>
/// <param name="Role">What it is for.</param>
/// <param name="Source">Where its stitches come from; never <see cref="PartSource.OfPiece"/>.</param>
/// <param name="At">Where it lies within the content.</param>
public sealed record MadePart(PartKey Key, string? Name, SewingThread Thread, PartRole Role, PartSource Source, Placement At);

/// <summary>What a piece is made of. Two of the same kind with the same data are equal.</summary>
public abstract record PieceContent
{
    private ImmutableArray<MadePart> _parts;

    private protected PieceContent()
    {
    }

    /// <summary>A copy made in order to change something: what was made of the old one is forgotten.</summary>
    protected PieceContent(PieceContent original) => _ = original;

    /// <summary>The parts that it makes, each under a key of its own, in the order they sew.</summary>
    public ImmutableArray<MadePart> Parts => _parts.IsDefault ? _parts = Make() : _parts;

    /// <summary>Makes the parts.</summary>
    protected abstract ImmutableArray<MadePart> Make();

    /// <summary>What was made of it is no part of what it is.</summary>
    public virtual bool Equals(PieceContent? other) => other is not null && EqualityContract == other.EqualityContract;

    /// <inheritdoc/>
    public override int GetHashCode() => EqualityContract.GetHashCode();
}

/// <summary>Stitches between two thread changes of a design.</summary>
/// <param name="Count">How many records, those of all kinds.</param>
/// <param name="Thread">The thread.</param>
/// <param name="Role">What they are for.</param>
public readonly record struct DesignPart(int Count, SewingThread Thread, PartRole Role);

/// <summary>A design of the shelf.</summary>
/// <param name="Original">The SHA-256 of its file as it came, 64 lower-case hexadecimal digits; null where that is not known any more.</param>
/// <param name="Stitches">Its stitches.</param>
/// <param name="Divided">How thread changes divide them, from the first record on.</param>
public sealed record DesignContent(string? Original, BlobHash Stitches, ImmutableArray<DesignPart> Divided) : PieceContent
{
    /// <summary>The content that a stitch file makes.</summary>
    public static DesignContent Of(string? original, StitchFile design) => new(original, design.Stitches.Hash, [.. design.Parts.Select(p => new DesignPart(p.Count, p.Thread, p.Role))]);

    /// <inheritdoc/>
    protected override ImmutableArray<MadePart> Make()
    {
        var parts = ImmutableArray.CreateBuilder<MadePart>(Divided.Length);
        var first = 0;
        foreach (var (count, thread, role) in Divided)
        {
            parts.Add(new(PartKey.Numbered(parts.Count + 1), null, thread, role, new PartSource.Bought([new(Stitches, first, count)]), Placement.AsItCame));
            first += count;
        }

        return parts.MoveToImmutable();
    }

    /// <summary>Equal when every part of it is.</summary>
    public bool Equals(DesignContent? other) => other is not null && Original == other.Original && Stitches == other.Stitches && Divided.AsSpan().SequenceEqual(other.Divided.AsSpan());

    /// <inheritdoc/>
    public override int GetHashCode() => HashCode.Combine(Original, Stitches, Divided.Length);
}

/// <summary>One shape of a drawing, and how it is stitched.</summary>
/// <param name="Key">Its name within the drawing.</param>
/// <param name="Name">As the user reads it.</param>
/// <param name="Shape">What was drawn, about the shape's own origin.</param>
/// <param name="Settings">How it is stitched.</param>
/// <param name="Thread">With what.</param>
/// <param name="At">Where it lies within the drawing.</param>
public sealed record DrawingShape(PartKey Key, string Name, DrawnShape Shape, StitchSettings Settings, SewingThread Thread, Placement At)
{
    /// <summary>A shape that is given where it lies, about its own middle.</summary>
    internal static DrawingShape About(PartKey key, string name, DrawnShape shape, StitchSettings settings, SewingThread thread, int decimals)
    {
        var middle = shape.Bounds.Middle;
        middle = new(Math.Round(middle.X, decimals), Math.Round(middle.Y, decimals));
        return new(key, name, shape.Moved(p => new(Math.Round(p.X - middle.X, decimals), Math.Round(p.Y - middle.Y, decimals))), settings, thread, new Placement(middle.X, middle.Y, 0));
    }
}

/// <summary>What was drawn here or came as a vector drawing; a <see cref="LetteringContent"/> is one whose shapes are letters.</summary>
public record DrawingContent(ImmutableArray<DrawingShape> Shapes) : PieceContent
{
    /// <summary>The same with one shape changed.</summary>
    public DrawingContent With(PartKey key, Func<DrawingShape, DrawingShape> change) => this with { Shapes = [.. Shapes.Select(s => s.Key == key ? change(s) : s)] };

    /// <inheritdoc/>
    protected override ImmutableArray<MadePart> Make() =>
        [.. Shapes.Select(s => new MadePart(s.Key, s.Name, s.Thread, PartRole.Decoration, new PartSource.Drawn(s.Shape, s.Settings), s.At))];

    /// <summary>Equal when every shape is.</summary>
    public virtual bool Equals(DrawingContent? other) => base.Equals(other) && Shapes.AsSpan().SequenceEqual(other.Shapes.AsSpan());

    /// <inheritdoc/>
    public override int GetHashCode() => HashCode.Combine(Shapes.Length, Shapes.IsEmpty ? null : Shapes[0]);
}
