using EvenThimble.Core.Text;

namespace EvenThimble.Core.Jobs;

/// <summary>Adds a border around pieces of a job, to be sewn last.</summary>
public sealed record AddBorder(BorderContent Content, string Around) : JobEdit
{
    /// <inheritdoc/>
    public override Job Apply(Job job)
    {
        if (job.Order.Count + Content.Shapes.Length > Job.MostParts) throw new EditRefusedException($"A job can have {Job.MostParts:N0} parts; that would be more.");
        return job.With(Titles.Clean($"Border of {Around}"), Content, Placement.AsItCame);
    }

    /// <inheritdoc/>
    public override string Label(Job before) => $"Put a border around {Around}";
}

/// <summary>Lays a border anew: otherwise, or around what has changed or was moved. It lies where what it goes around lies.</summary>
public sealed record ChangeBorder(PieceId Piece, BorderContent Content) : JobEdit
{
    /// <inheritdoc/>
    public override Job Apply(Job job)
    {
        if (job.Pieces.FirstOrDefault(p => p.Id == Piece)?.Content is not BorderContent) throw new EditRefusedException("That border is no longer in this job.");

        // It is laid in the job's own place: what it was moved by is gone.
        var parts = job.Order.Where(p => p.Piece == Piece).Select(p => p.Id).ToHashSet();
        var put = job with { Pieces = [.. job.Pieces.Select(p => p.Id == Piece ? p with { Placement = Placement.AsItCame } : p)], Order = job.Order.With(parts, p => p with { Placement = p.Made.At }) };
        return put.WithContent(Piece, Content);
    }

    /// <inheritdoc/>
    public override string Label(Job before) => $"Laid “{before.Pieces.FirstOrDefault(p => p.Id == Piece)?.Name ?? "a border"}” anew";
}
