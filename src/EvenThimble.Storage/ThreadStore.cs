using Dapper;
using EvenThimble.Core.Colour;
using EvenThimble.Core.Threads;

namespace EvenThimble.Storage;

/// <summary>The thread charts.</summary>
public sealed class ThreadStore(Database database)
{
    private readonly Lazy<IReadOnlyList<ThreadChart>> _charts = new(() => Load(database));

    /// <summary>All charts, in the order they were laid in.</summary>
    public IReadOnlyList<ThreadChart> Charts => _charts.Value;

    /// <summary>All threads of a chart by "maker|range", or of all charts when none is named so.</summary>
    public IReadOnlyList<SewingThread> ThreadsOf(string? chart) =>
        Charts.FirstOrDefault(c => $"{c.Maker}|{c.Range}" == chart)?.Threads ?? [.. Charts.SelectMany(c => c.Threads)];

    /// <summary>The thread of a maker and number, or null.</summary>
    public SewingThread? Find(string maker, string number) => Charts.SelectMany(c => c.Threads).FirstOrDefault(t => t.Maker == maker && t.Number == number);

    private static IReadOnlyList<ThreadChart> Load(Database database) => database.Read(c =>
    {
        var threads = c.Query<(long Chart, string Number, string Name, string Colour)>("SELECT chart_id, number, name, colour FROM thread ORDER BY chart_id, place").ToLookup(t => t.Chart);
        return c.Query<(long Id, string Maker, string Range)>("SELECT id, maker, range FROM thread_chart ORDER BY id")
            .Select(chart => new ThreadChart(chart.Maker, chart.Range, [.. threads[chart.Id].Select(t => new SewingThread(chart.Maker, t.Number, t.Name, Rgb.TryParse(t.Colour, out var colour) ? colour : default))]))
            .ToList();
    });
}
