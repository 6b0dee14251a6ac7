namespace EvenThimble.Core.Threads;

/// <summary>A thread as a chart lists it.</summary>
/// <param name="Thread">The thread.</param>
/// <param name="Make">What sort it is.</param>
/// <param name="ConeMetres">Length on a full cone, m.</param>
/// <param name="Price">Of one cone, in the user's own currency; null: not known.</param>
public sealed record ChartThread(SewingThread Thread, ThreadMake Make, double ConeMetres, decimal? Price);

/// <summary>All threads of one range of one maker.</summary>
/// <param name="Maker">Who spins it.</param>
/// <param name="Range">Fibre and weight, such as "Rayon 40".</param>
/// <param name="Sold">In the maker's order.</param>
public sealed record ThreadChart(string Maker, string Range, IReadOnlyList<ChartThread> Sold)
{
    /// <summary>The threads alone, in the maker's order.</summary>
    public IReadOnlyList<SewingThread> Threads { get; } = [.. Sold.Select(s => s.Thread)];

    /// <summary>Names it among all charts.</summary>
    public string Key => $"{Maker}|{Range}";
}
