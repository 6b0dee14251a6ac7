using System.Collections.Immutable;
using EvenThimble.Core.Craft;
using EvenThimble.Core.Geometry;
using EvenThimble.Core.Machines;
using EvenThimble.Core.Stitches;

namespace EvenThimble.Core.Jobs;

/// <summary>The hoop a job is meant for, by the short names of machine and field.</summary>
public sealed record HoopChoice(string MachineId, string HoopId)
{
    /// <summary>What a new job starts with.</summary>
    public static readonly HoopChoice Usual = new(SewingMachineModel.Heron200.Id, SewingMachineModel.Heron200.Hoops[0].Id);

    /// <summary>The first hoop that holds stitches within a rectangle where they lie, those of the usual machine before others; the usual one when none does.</summary>
    public static HoopChoice For(Box bounds) =>
        SewingMachineModel.All.OrderBy(m => m == SewingMachineModel.Heron200 ? 0 : 1)
            .SelectMany(m => m.Hoops.Select(h => (Machine: m, Hoop: h)))
            .Where(c => c.Hoop.Holds(new(bounds.MinX, bounds.MinY)) && c.Hoop.Holds(new(bounds.MaxX, bounds.MaxY)))
            .Select(c => new HoopChoice(c.Machine.Id, c.Hoop.Id))
            .FirstOrDefault() ?? Usual;

    /// <summary>The machine; the usual one where the name is not known any more.</summary>
    public SewingMachineModel Machine => SewingMachineModel.Find(MachineId) ?? SewingMachineModel.Heron200;

    /// <summary>The field; the machine's first where the name is not known any more.</summary>
    public HoopField Field => Machine.Hoops.FirstOrDefault(h => h.Id == HoopId) ?? Machine.Hoops[0];
}

/// <summary>What is being prepared. It says what is wanted; stitches are computed from it.</summary>
/// <param name="Title">As the user reads it.</param>
/// <param name="Pieces">What was placed.</param>
/// <param name="Order">All parts in sewing order.</param>
/// <param name="Hoop">Machine and hoop field.</param>
/// <param name="Cloth">The fabric.</param>
public sealed record Job(string Title, ImmutableArray<Piece> Pieces, SewingOrder Order, HoopChoice Hoop, Cloth Cloth)
{
    /// <summary>The name on machines that show only a few plain letters; null: the title, shortened.</summary>
    public string? ShortTitle { get; init; }

    /// <summary>What later parts hide is left out of what is sewn.</summary>
    public bool SewsOnlySeen { get; init; }

    /// <summary>A job with nothing in it yet.</summary>
    public static readonly Job New = new("New job", [], new([]), HoopChoice.Usual, Cloth.Usual);

    /// <summary>A job with one design in it, each of its parts a part, in the design's own place.</summary>
    public static Job FromDesign(long designId, StitchFile design)
    {
        var piece = new Piece(new(1), design.Title, designId);
        var parts = design.Parts.Select((p, i) => new Part(
            new(i + 1), piece.Id, p.Thread.Name, [new(design.Stitches.Hash, p.First, p.Count)], p.Thread, p.Role, Placement.AsItCame));
        return new(design.Title, [piece], new([.. parts]), HoopChoice.For(design.Bounds), Cloth.Usual);
    }

    /// <summary>Equal when every setting is.</summary>
    public bool Equals(Job? other) =>
        other is not null && Title == other.Title && ShortTitle == other.ShortTitle && SewsOnlySeen == other.SewsOnlySeen && Hoop == other.Hoop && Cloth == other.Cloth
        && Pieces.AsSpan().SequenceEqual(other.Pieces.AsSpan()) && Order.Equals(other.Order);

    /// <inheritdoc/>
    public override int GetHashCode() => HashCode.Combine(Title, Hoop, Cloth, Order.Count);
}
