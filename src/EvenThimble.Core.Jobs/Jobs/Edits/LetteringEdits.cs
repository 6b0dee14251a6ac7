using EvenThimble.Core.Text;

namespace EvenThimble.Core.Jobs;

/// <summary>Adds a lettering to a job, to be sewn last.</summary>
public sealed record AddLettering(ITextContent Content, Placement At) : JobEdit
{
    /// <inheritdoc/>
    public override Job Apply(Job job)
    {
        LetteringRules.Check(Content, job.Order.Count);
        return job.With(LetteringRules.NameOf(Content), (PieceContent)Content, At);
    }

    /// <inheritdoc/>
    public override string Label(Job before) => $"Wrote {LetteringRules.NameOf(Content)}";
}

/// <summary>Lays a lettering anew, with another text or other wishes. What was done to letters that stay is kept.</summary>
public sealed record ChangeLettering(PieceId Piece, ITextContent Content) : JobEdit
{
    /// <summary>A letter that was moved by hand and now is put back to where its text has it; null: none.</summary>
    public PartId? PutsBack { get; init; }

    /// <inheritdoc/>
    public override Job Apply(Job job)
    {
        if (job.Pieces.FirstOrDefault(p => p.Id == Piece)?.Content is not ITextContent) throw new EditRefusedException("That lettering is no longer in this job.");
        LetteringRules.Check(Content, job.Order.Count(p => p.Piece != Piece));
        var changed = job.WithContent(Piece, (PieceContent)Content);
        changed = changed with { Pieces = [.. changed.Pieces.Select(p => p.Id == Piece ? p with { Name = LetteringRules.NameOf(Content) } : p)] };
        return PutsBack is { } letter && changed.Order.Find(letter) is { } part && part.Piece == Piece
            ? changed.With(new HashSet<PartId> { letter }, p => p with { Placement = changed.Pieces.First(c => c.Id == Piece).PlaceOf(p.Made) })
            : changed;
    }

    /// <inheritdoc/>
    public override string Label(Job before) => before.Pieces.FirstOrDefault(p => p.Id == Piece)?.Content is ITextContent old && old.Wish.Text != Content.Wish.Text
        ? $"Wrote {LetteringRules.NameOf(Content)} instead of {LetteringRules.NameOf(old)}"
        : $"Laid {LetteringRules.NameOf(Content)} anew";
}

/// <summary>Puts letters back to where their text has them, in the thread of the text and as large as it: what was done to each by hand is gone.</summary>
public sealed record PutLettersBack(IReadOnlySet<PartId> Parts) : JobEdit
{
    /// <inheritdoc/>
    public override Job Apply(Job job)
    {
        var pieces = job.Pieces.Where(p => p.Content is ITextContent).ToDictionary(p => p.Id);
        if (!job.Order.Any(p => Parts.Contains(p.Id) && pieces.ContainsKey(p.Piece))) throw new EditRefusedException("None of the selected parts is a letter.");
        return job.With(Parts, p => pieces.TryGetValue(p.Piece, out var piece) ? p with { Placement = piece.PlaceOf(p.Made), Thread = p.Made.Thread } : p);
    }

    /// <inheritdoc/>
    public override string Label(Job before) => Parts.Count == 1 ? $"Put {before.Order.Find(Parts.First())?.Name ?? "a letter"} back" : $"Put {Parts.Count} letters back";
}

/// <summary>
/// Puts the letters of a text in the order that they sew: as they are read, or from the centre, first to the right and then to the left, so that the cloth of a cap is pushed outwards. They sew where
/// the first of them stood.
/// </summary>
public sealed record OrderLetters(PieceId Piece, bool FromCentre) : JobEdit
{
    /// <inheritdoc/>
    public override Job Apply(Job job)
    {
        var content = job.Pieces.FirstOrDefault(p => p.Id == Piece)?.Content as LetteringContent ?? throw new EditRefusedException("That lettering is no longer in this job.");
        var read = content.Shapes.Select((s, i) => (s.Key, Place: i)).ToDictionary(s => s.Key, s => s.Place);
        var letters = job.Order.Where(p => p.Piece == Piece).OrderBy(p => read.GetValueOrDefault(p.Made.Key, int.MaxValue)).ToList();
        if (FromCentre)
        {
            // Letters and their outlines, each from their own centre.
            var middle = letters.Count == 0 ? 0 : (letters.Min(X) + letters.Max(X)) / 2;
            letters = [.. letters.GroupBy(p => read.GetValueOrDefault(p.Made.Key) >= content.Letters).SelectMany(g => g.Where(p => X(p) >= middle).OrderBy(X).Concat(g.Where(p => X(p) < middle).OrderByDescending(X)))];
        }

        var first = job.Order.TakeWhile(p => p.Piece != Piece).Count();
        var others = job.Order.Where(p => p.Piece != Piece).ToList();
        return job with { Order = new([.. others.Take(first), .. letters, .. others.Skip(first)]) };

        static double X(Part part) => part.Drawn is { } drawn ? part.Placement.Place(drawn.Shape.Bounds.Middle).X : part.Placement.Place(Geometry.Point.Zero).X;
    }

    /// <inheritdoc/>
    public override string Label(Job before) => FromCentre ? "Sew the letters from the centre" : "Sew the letters as they are read";
}

/// <summary>What no lettering may break.</summary>
public static class LetteringRules
{
    private const int LongestName = 40;

    /// <summary>What a lettering is called: its own words, the long ones shortened.</summary>
    public static string NameOf(ITextContent content) => Titles.Clean(content.Wish.Text.ReplaceLineEndings(" ")) is var text && text.Length <= LongestName ? text : text[..LongestName].TrimEnd() + "…";

    /// <summary>Refuses a lettering that cannot be sewn, or that a job has no room for beside its other parts.</summary>
    /// <exception cref="EditRefusedException">With the reason.</exception>
    public static void Check(ITextContent content, int otherParts)
    {
        if (content.PartCount == 0) throw new EditRefusedException("There is no text yet. Type some.");
        if (otherParts + content.PartCount > Job.MostParts) throw new EditRefusedException($"A job can have {Job.MostParts:N0} parts; that would be more.");
    }
}
