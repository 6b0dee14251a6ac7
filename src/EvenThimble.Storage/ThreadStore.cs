using System.Globalization;
using Dapper;
using EvenThimble.Core.Colour;
using EvenThimble.Core.Files.Threads;
using EvenThimble.Core.Stitches;
using EvenThimble.Core.Text;
using EvenThimble.Core.Threads;
using Microsoft.Data.Sqlite;

namespace EvenThimble.Storage;

/// <summary>A chart as it is listed.</summary>
/// <param name="Chart">The chart.</param>
/// <param name="IsOwn">It was laid in by the user.</param>
/// <param name="Bought">Its place among the ranges that the user buys, from 1; null: it is none of them.</param>
public sealed record ListedChart(ThreadChart Chart, bool IsOwn, int? Bought);

/// <summary>The thread charts: those that come with the program, and the user's own. Those that one buys come first everywhere.</summary>
public sealed class ThreadStore(Database database)
{
    /// <summary>No more charts are kept.</summary>
    public const int MostCharts = 200;

    private volatile Made<Charted> _charts = new(() => Load(database));

    /// <summary>All charts, those that are bought first.</summary>
    public IReadOnlyList<ListedChart> Listed => _charts.Value.Listed;

    /// <summary>All charts, those that are bought first.</summary>
    public IReadOnlyList<ThreadChart> Charts => _charts.Value.All;

    /// <summary>The charts of which one buys, in their order; all while none is chosen.</summary>
    public IReadOnlyList<ThreadChart> Bought => _charts.Value.Bought;

    /// <summary>Finds threads by what is typed.</summary>
    public KnownThreads Known => _charts.Value.Known;

    /// <summary>All threads of a chart by "maker|range"; of all charts for "all"; else of those that one buys.</summary>
    public IReadOnlyList<SewingThread> ThreadsOf(string? chart) =>
        Charts.FirstOrDefault(c => c.Key == chart)?.Threads ?? [.. (chart == "all" ? Charts : Bought).SelectMany(c => c.Threads)];

    /// <summary>The thread of a maker and number, or null.</summary>
    public SewingThread? Find(string maker, string number) => Sold(maker, number)?.Thread;

    /// <summary>How a thread is sold; null where no chart has it.</summary>
    public ChartThread? Sold(SewingThread thread) => Sold(thread.Maker, thread.Number);

    /// <summary>What sort a thread is, as far as a chart says.</summary>
    public ThreadMake MakeOf(SewingThread thread) => Sold(thread)?.Make ?? ThreadMake.Unknown;

    /// <summary>
    /// Lays a chart in, or what it has new: threads that are known already take the name, colour and length of the new list, others come after them, and those that the list lacks stay. Cones on racks
    /// keep what is on them and follow in name and colour. The numbers that another range of the maker has already are left out and told.
    /// </summary>
    /// <exception cref="EditRefusedException">It has no maker or range, or there are too many charts.</exception>
    public IReadOnlyList<string> LayIn(ThreadChart chart)
    {
        if (chart.Maker.Length is 0 or > 60 || chart.Range.Length is 0 or > 60 || chart.Maker.Contains('|', StringComparison.Ordinal)) throw new EditRefusedException("A chart needs a maker and the name of a range, each of 1 to 60 letters, such as Fenlight and Rayon 40.");
        var elsewhere = Charts.Where(c => c.Maker == chart.Maker && c.Range != chart.Range).SelectMany(c => c.Threads).Select(t => t.Number).ToHashSet();
        var (taken, left) = (chart.Sold.Where(s => !elsewhere.Contains(s.Thread.Number)).ToList(), chart.Sold.Select(s => s.Thread.Number).Where(elsewhere.Contains).ToList());
        if (taken.Count == 0) throw new EditRefusedException($"All numbers of that list are in another range of {chart.Maker} already.");
        Changed(() => database.Write((c, t) =>
        {
            var id = c.ExecuteScalar<long?>("SELECT id FROM thread_chart WHERE maker = @Maker AND range = @Range", chart, t) ?? Begun(c, t, chart);
            var places = c.Query<(string Number, long Place)>("SELECT number, place FROM thread WHERE chart_id = @id", new { id }, t).ToDictionary(p => p.Number, p => p.Place);
            var next = places.Count == 0 ? 0 : places.Values.Max() + 1;
            if (places.Count + taken.Count > ChartTable.MostThreads * 2L) throw new EditRefusedException($"A chart has at most {ChartTable.MostThreads:N0} threads.");
            foreach (var sold in taken)
            {
                var values = new
                {
                    id,
                    place = places.TryGetValue(sold.Thread.Number, out var known) ? known : next++,
                    number = sold.Thread.Number,
                    name = sold.Thread.Name,
                    colour = sold.Thread.Colour.Hex,
                    weight = sold.Make.Weight,
                    metres = sold.ConeMetres,
                    price = sold.Price?.ToString(CultureInfo.InvariantCulture),
                    maker = chart.Maker,
                };
                c.Execute(
                    """
                    INSERT INTO thread (chart_id, place, number, name, colour, weight, cone_metres, price) VALUES (@id, @place, @number, @name, @colour, @weight, @metres, @price)
                    ON CONFLICT (chart_id, place) DO UPDATE SET name = @name, colour = @colour, weight = @weight, cone_metres = @metres, price = coalesce(@price, price)
                    """,
                    values, t);
                c.Execute("UPDATE cone SET name = @name, colour = @colour WHERE maker = @maker AND number = @number", values, t);
            }

            return true;
        }));
        return left;
    }

    /// <summary>Takes one of the user's own charts out; false where there is none, or it comes with the program. Cones of it stay on their racks.</summary>
    public bool TakeOut(string key) => Changed(() => database.Write((c, t) =>
    {
        if (Listed.FirstOrDefault(l => l.Chart.Key == key && l.IsOwn)?.Chart is not { } chart) return false;
        c.Execute("DELETE FROM thread WHERE chart_id = (SELECT id FROM thread_chart WHERE maker = @Maker AND range = @Range)", chart, t);
        return c.Execute("DELETE FROM thread_chart WHERE maker = @Maker AND range = @Range", chart, t) == 1;
    }));

    /// <summary>Says which ranges one buys, in their order.</summary>
    public void Buy(IReadOnlyList<string> keys) => Changed(() => database.Write((c, t) =>
    {
        c.Execute("UPDATE thread_chart SET bought_place = NULL", transaction: t);
        c.Execute("UPDATE thread_chart SET bought_place = @place WHERE maker || '|' || range = @key", keys.Distinct().Select((key, n) => new { key, place = n + 1 }), t);
        return true;
    }));

    private static long Begun(SqliteConnection c, SqliteTransaction t, ThreadChart chart) => c.ExecuteScalar<long>("SELECT count(*) FROM thread_chart", transaction: t) < MostCharts
        ? c.ExecuteScalar<long>("INSERT INTO thread_chart (maker, range, own) VALUES (@Maker, @Range, 1) RETURNING id", chart, t)
        : throw new EditRefusedException($"{MostCharts} charts are here already. Take out one that you do not use.");

    private ChartThread? Sold(string maker, string number) => number.Length == 0 ? null : _charts.Value.ByNumber.GetValueOrDefault((maker, number));

    private T Changed<T>(Func<T> work)
    {
        var result = work();
        _charts = new(() => Load(database));
        return result;
    }

    private static Charted Load(Database database) => database.Read(c =>
    {
        var threads = c.Query<(long Chart, string Number, string Name, string Colour, int? Weight, double? Metres, string? Price)>("SELECT chart_id, number, name, colour, weight, cone_metres, price FROM thread ORDER BY chart_id, place").ToLookup(t => t.Chart);
        var listed = c.Query<(long Id, string Maker, string Range, bool Own, int? Bought)>("SELECT id, maker, range, own, bought_place FROM thread_chart ORDER BY bought_place IS NULL, bought_place, id")
            .Select(chart =>
            {
                var usual = ThreadMake.Of(chart.Range);
                return new ListedChart(
                    new(chart.Maker, chart.Range, [.. threads[chart.Id].Select(t =>
                    {
                        var make = t.Weight is { } weight ? usual with { Weight = weight } : usual;
                        return new ChartThread(new(chart.Maker, t.Number, t.Name, Rgb.TryParse(t.Colour, out var colour) ? colour : default), make, t.Metres ?? make.UsualConeMetres, decimal.TryParse(t.Price, NumberStyles.Number, CultureInfo.InvariantCulture, out var price) ? price : null);
                    })]),
                    chart.Own,
                    chart.Bought);
            })
            .ToList();
        return new Charted(listed);
    });

    private sealed class Charted(IReadOnlyList<ListedChart> listed)
    {
        public IReadOnlyList<ListedChart> Listed => listed;

        public IReadOnlyList<ThreadChart> All { get; } = [.. listed.Select(l => l.Chart)];

        public IReadOnlyList<ThreadChart> Bought { get; } = [.. (listed.Any(l => l.Bought is not null) ? listed.Where(l => l.Bought is not null) : listed).Select(l => l.Chart)];

        public KnownThreads Known { get; } = new([.. listed.Select(l => l.Chart)]);

        public Dictionary<(string Maker, string Number), ChartThread> ByNumber { get; } = listed.SelectMany(l => l.Chart.Sold).GroupBy(s => (s.Thread.Maker, s.Thread.Number)).ToDictionary(g => g.Key, g => g.First());
    }
}
