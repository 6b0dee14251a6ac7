using System.Collections.Immutable;
using EvenThimble.Core.Threads;

namespace EvenThimble.Core.Rack;

/// <summary>Something that is to be bought for a job.</summary>
/// <param name="Thread">The thread.</param>
/// <param name="Metres">How much is missing, m.</param>
/// <param name="For">What it is for: the title of a job.</param>
public sealed record ToBuy(SewingThread Thread, double Metres, string For);

/// <summary>A line of a shopping list.</summary>
/// <param name="Thread">The thread.</param>
/// <param name="Metres">How much is missing for all jobs together, m.</param>
/// <param name="ConeMetres">Length on one cone, m.</param>
/// <param name="Cones">How many whole cones.</param>
/// <param name="Price">Of one; null: not known.</param>
/// <param name="For">Titles of the jobs that it is for.</param>
public sealed record ShoppingLine(SewingThread Thread, double Metres, double ConeMetres, int Cones, decimal? Price, ImmutableArray<string> For)
{
    /// <summary>Of all cones; null: not known.</summary>
    public decimal? Sum => Price * Cones;
}

/// <summary>What is to be bought, by maker and number, in whole cones.</summary>
public sealed record ShoppingList(ImmutableArray<ShoppingLine> Lines)
{
    /// <summary>Of all cones whose price is known.</summary>
    public decimal Sum => Lines.Sum(l => l.Sum ?? 0);

    /// <summary>Threads whose price is not known.</summary>
    public int WithoutPrice => Lines.Count(l => l.Price is null);

    /// <summary>The list of what several jobs miss. What two jobs miss of one thread is bought together.</summary>
    /// <param name="wanted">What they miss.</param>
    /// <param name="sold">How a thread is sold; null where no chart has it.</param>
    public static ShoppingList Of(IEnumerable<ToBuy> wanted, Func<SewingThread, ChartThread?> sold) => new(
    [
        .. wanted.GroupBy(w => w.Thread.Number.Length > 0 ? (w.Thread.Maker, w.Thread.Number) : (w.Thread.Maker, w.Thread.Name))
            .Select(same =>
            {
                var (thread, metres) = (same.First().Thread, same.Sum(w => w.Metres));
                var article = sold(thread);
                var cone = article?.ConeMetres ?? ThreadMake.Unknown.UsualConeMetres;
                return new ShoppingLine(article?.Thread ?? thread, metres, cone, Math.Max(1, (int)Math.Ceiling(metres / cone)), article?.Price, [.. same.Select(w => w.For).Distinct()]);
            })
            .OrderBy(l => l.Thread.Maker, StringComparer.OrdinalIgnoreCase).ThenBy(l => l.Thread.Number.Length).ThenBy(l => l.Thread.Number, StringComparer.Ordinal),
    ]);
}
