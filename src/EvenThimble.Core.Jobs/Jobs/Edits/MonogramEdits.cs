using EvenThimble.Core.Text;

namespace EvenThimble.Core.Jobs;

/// <summary>Adds a monogram to a job, to be sewn last.</summary>
public sealed record AddMonogram(MonogramContent Content, Placement At) : JobEdit
{
    /// <inheritdoc/>
    public override Job Apply(Job job)
    {
        if (job.Order.Count + Content.Shapes.Length > Job.MostParts) throw new EditRefusedException($"A job can have {Job.MostParts:N0} parts; that would be more.");
        return job.With(NameOf(Content), Content, At);
    }

    /// <inheritdoc/>
    public override string Label(Job before) => $"Added {NameOf(Content)}";

    /// <summary>What a monogram is called.</summary>
    public static string NameOf(MonogramContent content) => $"Monogram {content.Wish.Called}";
}

/// <summary>Lays a monogram anew, with other letters or other wishes. What was done to its letters and to its frame is kept.</summary>
public sealed record ChangeMonogram(PieceId Piece, MonogramContent Content) : JobEdit
{
    /// <inheritdoc/>
    public override Job Apply(Job job)
    {
        if (job.Pieces.FirstOrDefault(p => p.Id == Piece)?.Content is not MonogramContent) throw new EditRefusedException("That monogram is no longer in this job.");
        var changed = job.WithContent(Piece, Content);
        return changed with { Pieces = [.. changed.Pieces.Select(p => p.Id == Piece ? p with { Name = AddMonogram.NameOf(Content) } : p)] };
    }

    /// <inheritdoc/>
    public override string Label(Job before) => before.Pieces.FirstOrDefault(p => p.Id == Piece)?.Content is MonogramContent old && old.Wish.Called != Content.Wish.Called
        ? $"Made {AddMonogram.NameOf(Content)} of {AddMonogram.NameOf(old)}"
        : $"Laid {AddMonogram.NameOf(Content)} anew";
}
