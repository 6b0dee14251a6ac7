using System.Collections.Immutable;
using EvenThimble.Core.Geometry;
using EvenThimble.Core.Stitches;
using EvenThimble.Core.Text;
using EvenThimble.Core.Threads;

namespace EvenThimble.Core.Jobs;

/// <summary>A copy of parts as they are to lie.</summary>
/// <param name="Parts">In their order.</param>
/// <param name="Pieces">The pieces they belong to, as these are to lie.</param>
public sealed record CopiedParts(ImmutableArray<Part> Parts, ImmutableArray<Piece> Pieces)
{
    /// <summary>Chosen parts of a job, moved by a rule.</summary>
    public static CopiedParts Of(Job job, IReadOnlySet<PartId> parts, Func<Placement, Placement> move) => parts.Count == 0
        ? throw new EditRefusedException("Nothing is selected. Choose a part on the cloth or on the sewing line first.")
        : new([.. job.Order.Where(p => parts.Contains(p.Id)).Select(p => p with { Placement = move(p.Placement) })], [.. job.Pieces.Select(p => p with { Placement = move(p.Placement) })]);
}

/// <summary>Puts copies of parts into a job. Copies of one piece make up a piece of their own; they sew after the last of what they were copied from, or last of all.</summary>
/// <param name="Copies">The copies.</param>
/// <param name="Said">What it was.</param>
public sealed record AddCopies(ImmutableArray<CopiedParts> Copies, string Said) : JobEdit
{
    /// <summary>More copies than this at once are refused.</summary>
    public const int MostCopies = 100;

    /// <inheritdoc/>
    public override Job Apply(Job job)
    {
        if (Copies.IsEmpty || Copies[0].Parts.IsEmpty) throw new EditRefusedException("There is nothing to copy. Choose parts first.");
        if (Copies.Length > MostCopies) throw new EditRefusedException($"That are more than {MostCopies} copies at once.");
        if (job.Order.Count + Copies.Sum(c => c.Parts.Length) > Job.MostParts) throw new EditRefusedException($"A job can have {Job.MostParts:N0} parts; that would be more.");
        if (Copies.SelectMany(c => c.Parts).Any(p => !(Math.Abs(p.Placement.X) <= ShiftParts.FarthestMm && Math.Abs(p.Placement.Y) <= ShiftParts.FarthestMm)))
            throw new EditRefusedException($"A copy would lie more than {ShiftParts.FarthestMm / 1000:0} m from the centre.");
        var (nextPart, nextPiece) = (job.NextPart, job.NextPiece);
        var pieces = job.Pieces.ToBuilder();
        var copied = Copies[0].Parts.Select(p => p.Id).ToHashSet();
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
            foreach (var part in copy.Parts)
            {
                if (!its.TryGetValue(part.Piece, out var piece))
                {
                    its[part.Piece] = piece = new(nextPiece++);
                    pieces.Add(copy.Pieces.First(p => p.Id == part.Piece) with { Id = piece });
                }

                added.Add(part with { Id = new(nextPart++), Piece = piece, Hidden = false, Locked = false });
            }
        }

        return job with { Pieces = pieces.ToImmutable(), Order = new([.. job.Order.Take(after), .. added, .. job.Order.Skip(after)]), NextPart = nextPart, NextPiece = nextPiece };
    }

    /// <inheritdoc/>
    public override string Label(Job before) => Said;

    /// <summary>One copy moved by millimetres.</summary>
    public static AddCopies Of(Job job, IReadOnlySet<PartId> parts, double dx, double dy, string said) =>
        new([CopiedParts.Of(job, parts, p => p.Shifted(dx, dy))], said);

    /// <summary>A row: so many in all, each moved on from the one before.</summary>
    public static AddCopies Row(Job job, IReadOnlySet<PartId> parts, int count, double dx, double dy) =>
        new(Many(count, i => CopiedParts.Of(job, parts, p => p.Shifted(dx * i, dy * i))), $"Made a row of {count}");

    /// <summary>A ring: so many in all about a centre, turned as they go round or all upright.</summary>
    public static AddCopies Ring(Job job, IReadOnlySet<PartId> parts, int count, Point centre, Point middle, bool turned) => new(
        Many(count, i => CopiedParts.Of(job, parts, p =>
        {
            if (turned) return p.Turned(360.0 * i / count, centre);
            var moved = middle.Turned(360.0 * i / count, centre) - middle;
            return p.Shifted(moved.X, moved.Y);
        })),
        $"Made a ring of {count}");

    private static ImmutableArray<CopiedParts> Many(int count, Func<int, CopiedParts> copy) =>
        count is >= 2 and <= MostCopies ? [.. Enumerable.Range(1, count - 1).Select(copy)] : throw new EditRefusedException($"There can be from 2 to {MostCopies} of them.");
}

/// <summary>A design of the shelf that is brought into a job.</summary>
/// <param name="Original">The SHA-256 of its file as it came; null where there is none.</param>
/// <param name="Design">What it holds.</param>
/// <param name="At">Where its middle comes to lie; null: where the design has it.</param>
public sealed record BroughtDesign(string? Original, StitchFile Design, Point? At);

/// <summary>Brings designs into a job, each a piece of its own, to be sewn last.</summary>
/// <param name="Designs">Which.</param>
/// <param name="Instead">Threads of the designs that are to be sewn with a thread the job has already.</param>
public sealed record BringDesigns(ImmutableArray<BroughtDesign> Designs, ImmutableDictionary<SewingThread, SewingThread> Instead) : JobEdit
{
    /// <inheritdoc/>
    public override Job Apply(Job job)
    {
        if (Designs.IsEmpty) throw new EditRefusedException("No design was chosen.");
        if (job.Order.Count + Designs.Sum(d => d.Design.Parts.Length) > Job.MostParts) throw new EditRefusedException($"A job can have {Job.MostParts:N0} parts; that would be more.");
        return Designs.Aggregate(job, (changed, brought) =>
        {
            var by = brought.At is { } at ? at - brought.Design.Bounds.Middle : Point.Zero;
            var piece = changed.NextPiece;
            changed = changed.With(brought.Design.Title, DesignContent.Of(brought.Original, brought.Design), Placement.AsItCame.Shifted(by.X, by.Y));
            var renamed = changed.Order.Where(p => p.Piece.Value == piece && Instead.ContainsKey(p.Thread)).Select(p => p.Id).ToHashSet();
            return renamed.Count == 0 ? changed : changed.With(renamed, p => p with { Thread = Instead[p.Thread] });
        });
    }

    /// <inheritdoc/>
    public override string Label(Job before) => Designs.Length == 1 ? $"Brought {Designs[0].Design.Title} in" : $"Brought {Designs.Length} designs in";
}
