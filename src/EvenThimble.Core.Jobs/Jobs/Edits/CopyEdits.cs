using System.Collections.Immutable;
using EvenThimble.Core.Geometry;
using EvenThimble.Core.Stitches;
using EvenThimble.Core.Text;
using EvenThimble.Core.Threads;

namespace EvenThimble.Core.Jobs;

/// <summary>Puts copies of parts into a job. Copies of one piece make up a piece of their own; they sew after the last of what they were copied from, or last of all.</summary>
/// <param name="Copies">For each copy the parts as they are to lie.</param>
/// <param name="Pieces">The pieces they belong to where they come from.</param>
/// <param name="Said">What it was.</param>
public sealed record AddCopies(ImmutableArray<ImmutableArray<Part>> Copies, ImmutableArray<Piece> Pieces, string Said) : JobEdit
{
    /// <summary>More copies than this at once are refused.</summary>
    public const int MostCopies = 100;

    /// <summary>No job has more parts than this.</summary>
    public const int MostParts = 5_000;

    /// <inheritdoc/>
    public override Job Apply(Job job)
    {
        if (Copies.IsEmpty || Copies[0].IsEmpty) throw new EditRefusedException("There is nothing to copy. Choose parts first.");
        if (Copies.Length > MostCopies) throw new EditRefusedException($"That are more than {MostCopies} copies at once.");
        if (job.Order.Count + Copies.Sum(c => c.Length) > MostParts) throw new EditRefusedException($"A job can have {MostParts:N0} parts; that would be more.");
        if (Copies.SelectMany(c => c).Any(p => !(Math.Abs(p.Placement.X) <= ShiftParts.FarthestMm && Math.Abs(p.Placement.Y) <= ShiftParts.FarthestMm)))
            throw new EditRefusedException($"A copy would lie more than {ShiftParts.FarthestMm / 1000:0} m from the centre.");
        var nextPart = job.Order.Select(p => p.Id.Value).DefaultIfEmpty(0).Max();
        var nextPiece = job.Pieces.Select(p => p.Id.Value).DefaultIfEmpty(0).Max();
        var pieces = job.Pieces.ToBuilder();
        var copied = Copies[0].Select(p => p.Id).ToHashSet();
        var after = job.Order.Count;
        for (var i = job.Order.Count - 1; i >= 0; i--)
        {
            if (!copied.Contains(job.Order[i].Id)) continue;
            after = i + 1;
            break;
        }

        var added = new List<Part>();
        foreach (var copy in Copies)
        {
            var its = new Dictionary<PieceId, PieceId>();
            foreach (var part in copy)
            {
                if (!its.TryGetValue(part.Piece, out var piece))
                {
                    its[part.Piece] = piece = new(++nextPiece);
                    pieces.Add((Pieces.FirstOrDefault(p => p.Id == part.Piece) ?? new Piece(piece, part.Name, null)) with { Id = piece });
                }

                added.Add(part with { Id = new(++nextPart), Piece = piece, Hidden = false, Locked = false });
            }
        }

        return job with { Pieces = pieces.ToImmutable(), Order = new([.. job.Order.Take(after), .. added, .. job.Order.Skip(after)]) };
    }

    /// <inheritdoc/>
    public override string Label(Job before) => Said;

    /// <summary>One copy moved by millimetres.</summary>
    public static AddCopies Of(Job job, IReadOnlySet<PartId> parts, double dx, double dy, string said) =>
        new([Chosen(job, parts, p => p with { Placement = p.Placement.Shifted(dx, dy) })], job.Pieces, said);

    /// <summary>A row: so many in all, each moved on from the one before.</summary>
    public static AddCopies Row(Job job, IReadOnlySet<PartId> parts, int count, double dx, double dy) =>
        new(Many(count, i => Chosen(job, parts, p => p with { Placement = p.Placement.Shifted(dx * i, dy * i) })), job.Pieces, $"Made a row of {count}");

    /// <summary>A ring: so many in all about a centre, turned as they go round or all upright.</summary>
    public static AddCopies Ring(Job job, IReadOnlySet<PartId> parts, int count, Point centre, Point middle, bool turned) => new(
        Many(count, i => Chosen(job, parts, p =>
        {
            if (turned) return p with { Placement = p.Placement.Turned(360.0 * i / count, centre) };
            var moved = middle.Turned(360.0 * i / count, centre) - middle;
            return p with { Placement = p.Placement.Shifted(moved.X, moved.Y) };
        })),
        job.Pieces, $"Made a ring of {count}");

    private static ImmutableArray<ImmutableArray<Part>> Many(int count, Func<int, ImmutableArray<Part>> copy) =>
        count is >= 2 and <= MostCopies ? [.. Enumerable.Range(1, count - 1).Select(copy)] : throw new EditRefusedException($"There can be from 2 to {MostCopies} of them.");

    private static ImmutableArray<Part> Chosen(Job job, IReadOnlySet<PartId> parts, Func<Part, Part> change) =>
        parts.Count == 0 ? throw new EditRefusedException("Nothing is selected. Choose a part on the cloth or on the sewing line first.") : [.. job.Order.Where(p => parts.Contains(p.Id)).Select(change)];
}

/// <summary>A design of the shelf that is brought into a job.</summary>
/// <param name="DesignId">Its number.</param>
/// <param name="Design">What it holds.</param>
/// <param name="At">Where its middle comes to lie; null: where the design has it.</param>
public sealed record BroughtDesign(long DesignId, StitchFile Design, Point? At);

/// <summary>Brings designs into a job, each a piece of its own, to be sewn last.</summary>
/// <param name="Designs">Which.</param>
/// <param name="Instead">Threads of the designs that are to be sewn with a thread the job has already.</param>
public sealed record BringDesigns(ImmutableArray<BroughtDesign> Designs, ImmutableDictionary<SewingThread, SewingThread> Instead) : JobEdit
{
    /// <inheritdoc/>
    public override Job Apply(Job job)
    {
        if (Designs.IsEmpty) throw new EditRefusedException("No design was chosen.");
        var (pieces, parts) = (job.Pieces.ToBuilder(), job.Order.ToList());
        if (parts.Count + Designs.Sum(d => d.Design.Parts.Length) > AddCopies.MostParts) throw new EditRefusedException($"A job can have {AddCopies.MostParts:N0} parts; that would be more.");
        var nextPart = parts.Select(p => p.Id.Value).DefaultIfEmpty(0).Max();
        var nextPiece = pieces.Select(p => p.Id.Value).DefaultIfEmpty(0).Max();
        foreach (var brought in Designs)
        {
            var piece = new PieceId(++nextPiece);
            pieces.Add(new(piece, brought.Design.Title, brought.DesignId));
            var by = brought.At is { } at ? at - brought.Design.Bounds.Middle : Point.Zero;
            foreach (var part in Job.FromDesign(brought.DesignId, brought.Design).Order)
            {
                var thread = Instead.GetValueOrDefault(part.Thread, part.Thread);
                parts.Add(part with { Id = new(++nextPart), Piece = piece, Thread = thread, Name = thread.Name, Placement = part.Placement.Shifted(by.X, by.Y) });
            }
        }

        return job with { Pieces = pieces.ToImmutable(), Order = new([.. parts]) };
    }

    /// <inheritdoc/>
    public override string Label(Job before) => Designs.Length == 1 ? $"Brought {Designs[0].Design.Title} in" : $"Brought {Designs.Length} designs in";
}
