using System.Collections.Immutable;
using EvenThimble.Core.Craft;
using EvenThimble.Core.Machines;
using EvenThimble.Core.Stitches;

namespace EvenThimble.Core.Jobs;

/// <summary>What is being prepared. It says what is wanted; stitches are computed from it.</summary>
/// <param name="Title">As the user reads it.</param>
/// <param name="Pieces">What was placed.</param>
/// <param name="Order">All parts in sewing order.</param>
/// <param name="Hoopings">The hoopings that it is sewn in, one at least.</param>
/// <param name="Cloth">The fabric.</param>
public sealed record Job(string Title, ImmutableArray<Piece> Pieces, SewingOrder Order, ImmutableArray<Hooping> Hoopings, Cloth Cloth)
{
    /// <summary>No job has more parts than this.</summary>
    public const int MostParts = 5_000;

    /// <summary>No job is sewn in more hoopings than this.</summary>
    public const int MostHoopings = 24;

    /// <summary>No job is sewn more often than this.</summary>
    public const int MostCopies = 10_000;

    private readonly SewingOrder _order = Order;

    /// <summary>All parts in sewing order; the palette follows.</summary>
    public SewingOrder Order
    {
        get => _order;
        init => (_order, Palette) = (value, Palette.For(value.Select(p => p.Thread)));
    }

    /// <summary>The threads that its parts are sewn with.</summary>
    public Palette Palette { get; init; } = Palette.Empty.For(Order.Select(p => p.Thread));

    /// <summary>The number that the next piece gets. Numbers are never given twice, so that one that is gone is never taken for another.</summary>
    public int NextPiece { get; init; } = 1;

    /// <summary>The number that the next part gets.</summary>
    public int NextPart { get; init; } = 1;

    /// <summary>The name on machines that show only a few plain letters; null: the title, shortened.</summary>
    public string? ShortTitle { get; init; }

    /// <summary>What later parts hide is left out of what is sewn.</summary>
    public bool SewsOnlySeen { get; init; }

    /// <summary>How many times it is sewn.</summary>
    public int Copies { get; init; } = 1;

    /// <summary>How it is divided among its hoopings, where there are several.</summary>
    public HoopSplit Split { get; init; } = HoopSplit.Plain;

    /// <summary>Crosses that its hoopings are aligned by; null: none.</summary>
    public CrossWish? Crosses { get; init; }

    /// <summary>What holds and marks the cloth.</summary>
    public ClothHolding Holding { get; init; } = ClothHolding.None;

    /// <summary>What is to be minded when it is sewn, in the user's own words.</summary>
    public string Notes { get; init; } = string.Empty;

    /// <summary>The names that it is sewn with; null: none.</summary>
    public JobNames? Names { get; init; }

    /// <summary>What of it is cut from cloth.</summary>
    public JobCutting Cutting { get; init; } = JobCutting.None;

    /// <summary>Machine and hoop of the first hooping.</summary>
    public HoopChoice Hoop => Hoopings[0].Hoop;

    /// <summary>A job with nothing in it yet.</summary>
    public static Job New(HoopChoice hoop) => new("New job", [], new([]), [new(hoop)], Cloth.Usual);

    /// <summary>A job with one design in it, each of its parts a part, in the design's own place.</summary>
    /// <param name="original">The SHA-256 of the design's file as it came; null where there is none.</param>
    /// <param name="design">What it holds.</param>
    /// <param name="hoop">The hoop it is meant for.</param>
    public static Job FromDesign(string? original, StitchFile design, HoopChoice hoop) =>
        New(hoop) with { Title = design.Title } is var job ? job.With(design.Title, DesignContent.Of(original, design), Placement.AsItCame) : job;

    /// <summary>The job with one more piece, to be sewn last.</summary>
    public Job With(string name, PieceContent content, Placement at)
    {
        var piece = new Piece(new(NextPiece), name, content, at);
        var next = NextPart;
        var parts = content.Parts.Select(made => new Part(new(next++), piece.Id, made, piece.PlaceOf(made))).ToList();
        return this with { Pieces = Pieces.Add(piece), Order = new([.. Order, .. parts]), NextPiece = NextPiece + 1, NextPart = next };
    }

    /// <summary>The job with chosen parts changed.</summary>
    public Job With(IReadOnlySet<PartId> chosen, Func<Part, Part> change) => this with { Order = Order.With(chosen, change) };

    /// <summary>
    /// The job with another content of a piece. Parts whose key is still made keep their number, their place in the order and what was done to them; those whose key is gone go; new ones sew
    /// after the part that the content makes before them. What the user has taken out does not come back.
    /// </summary>
    /// <exception cref="InvalidOperationException">There is no such piece.</exception>
    public Job WithContent(PieceId id, PieceContent content)
    {
        var old = Pieces.First(p => p.Id == id);
        var piece = old with { Content = content };
        var known = old.Content.Parts.Select(m => m.Key).ToHashSet();
        var made = content.Parts.ToDictionary(m => m.Key);
        var order = Order.Where(p => p.Piece != id || made.ContainsKey(p.Made.Key))
            .Select(p => p.Piece != id ? p : p.Remade(made[p.Made.Key], old.PlaceOf(p.Made), piece.PlaceOf(made[p.Made.Key]))).ToList();
        var next = NextPart;
        for (var i = 0; i < content.Parts.Length; i++)
        {
            if (known.Contains(content.Parts[i].Key)) continue;
            var before = content.Parts.Take(i).Select(m => m.Key).ToHashSet();
            var after = order.FindLastIndex(p => p.Piece == id && before.Contains(p.Made.Key));
            if (after < 0) after = order.FindIndex(p => p.Piece == id) is >= 0 and var first ? first - 1 : order.Count - 1;
            order.Insert(after + 1, new(new(next++), id, content.Parts[i], piece.PlaceOf(content.Parts[i])));
        }

        return this with { Pieces = [.. Pieces.Select(p => p.Id == id ? piece : p)], Order = new([.. order]), NextPart = next };
    }

    /// <summary>The job with another content of a piece, and its parts made wholly anew in its place, or another, where the first of the old ones stood in the order; nothing that was done to them stays.</summary>
    public Job WithContentAnew(PieceId id, PieceContent content, Placement? at = null)
    {
        var old = Pieces.First(p => p.Id == id);
        var piece = old with { Content = content, Placement = at ?? old.Placement };
        var next = NextPart;
        var made = content.Parts.Select(m => new Part(new(next++), id, m, piece.PlaceOf(m))).ToList();
        var first = Order.TakeWhile(p => p.Piece != id).Count();
        var others = Order.Where(p => p.Piece != id).ToList();
        return this with { Pieces = [.. Pieces.Select(p => p.Id == id ? piece : p)], Order = new([.. others.Take(first), .. made, .. others.Skip(first)]), NextPart = next };
    }

    /// <summary>Equal when every setting is.</summary>
    public bool Equals(Job? other) =>
        other is not null && Title == other.Title && ShortTitle == other.ShortTitle && SewsOnlySeen == other.SewsOnlySeen && Copies == other.Copies && Cloth == other.Cloth
        && Split == other.Split && Crosses == other.Crosses && Holding == other.Holding && Notes == other.Notes && Names == other.Names && Cutting == other.Cutting
        && Hoopings.AsSpan().SequenceEqual(other.Hoopings.AsSpan()) && Pieces.AsSpan().SequenceEqual(other.Pieces.AsSpan()) && Order.Equals(other.Order);

    /// <inheritdoc/>
    public override int GetHashCode() => HashCode.Combine(Title, Hoop, Cloth, Order.Count);
}
