using System.Collections.Immutable;
using System.Globalization;
using System.Text;
using EvenThimble.Core.Colour;
using EvenThimble.Core.Files.Tables;
using EvenThimble.Core.Text;
using EvenThimble.Core.Threads;

namespace EvenThimble.Core.Files.Threads;

/// <summary>What a list of threads gave, and what of it could not be understood: each such line with why.</summary>
/// <param name="Chart">The chart.</param>
/// <param name="Aside">Lines that were kept aside, with why.</param>
/// <param name="Columns">What the columns were taken for.</param>
public sealed record ReadChart(ThreadChart Chart, ImmutableArray<LineAside> Aside, ListColumns Columns);

/// <summary>A line of a list that was kept aside.</summary>
/// <param name="Line">Its number, from 1.</param>
/// <param name="Text">As it was typed.</param>
/// <param name="Why">In a sentence.</param>
public sealed record LineAside(int Line, string Text, string Why);

/// <summary>A chart of one's own as a table: number, name, colour, weight, metres on a cone, price.</summary>
public static class ChartTable
{
    /// <summary>No chart has more threads than this.</summary>
    public const int MostThreads = 20_000;

    /// <summary>The chart that a table holds.</summary>
    /// <exception cref="EditRefusedException">It has no thread in it.</exception>
    public static ReadChart Read(TypedTable table, string maker, string range)
    {
        var columns = ListColumns.Of(table);
        if (table.Rows.IsEmpty) throw new EditRefusedException("That list is empty.");
        if (!columns.Columns.Contains(ListColumn.Number)) throw new EditRefusedException("No column of that list holds numbers of threads. Put a line above it that says what the columns are, such as: number, name, colour.");
        var usual = ThreadMake.Of(range);
        var (threads, aside, seen) = (new List<ChartThread>(), new List<LineAside>(), new Dictionary<string, int>());
        foreach (var (line, cells) in table.Rows.Skip(columns.HasHead ? 1 : 0))
        {
            var number = columns.Cell(cells, ListColumn.Number);
            if (WhyNot(cells, columns, number, seen, out var colour) is { } why)
            {
                aside.Add(new(line, string.Join(", ", cells.Where(c => c.Length > 0)), why));
                continue;
            }

            seen[number] = line;
            var make = Amounts.Number(columns.Cell(cells, ListColumn.Weight)) is >= 5 and <= 200 and var weight ? usual with { Weight = (int)weight } : usual;
            var name = columns.Cell(cells, ListColumn.Name);
            var metres = Amounts.Metres(columns.Cell(cells, ListColumn.ConeMetres)) is { } m and >= 1 and <= Rack.Cone.LongestMetres ? m : make.UsualConeMetres;
            var price = Amounts.Number(columns.Cell(cells, ListColumn.Price)) is >= 0 and <= 100_000 and var p ? (decimal?)Math.Round((decimal)p, 2) : null;
            threads.Add(new(new(maker, number, name.Length == 0 ? number : name, colour), make, metres, price));
        }

        if (threads.Count == 0) throw new EditRefusedException($"No line of that list is a thread. {aside.Select(a => $"Line {a.Line}: {a.Why}").FirstOrDefault()}");
        return new(new(maker, range, threads), [.. aside], columns);
    }

    /// <summary>A chart as CSV in UTF-8, with a head.</summary>
    public static byte[] Write(ThreadChart chart) => Encoding.UTF8.GetBytes(
        CsvRows.Line("number", "name", "colour", "weight", "cone_metres", "price")
        + string.Concat(chart.Sold.Select(s => CsvRows.Line(s.Thread.Number, s.Thread.Name, s.Thread.Colour.Hex, $"{s.Make.Weight}", Amounts.Text(s.ConeMetres), s.Price?.ToString("0.00", CultureInfo.InvariantCulture) ?? string.Empty))));

    private static string? WhyNot(ImmutableArray<string> cells, ListColumns columns, string number, Dictionary<string, int> seen, out Rgb colour)
    {
        colour = default;
        if (number.Length == 0) return "It has no number.";
        if (number.Length > 40) return "Its number is longer than any.";
        if (seen.TryGetValue(number, out var before)) return $"Line {before} has that number already.";
        var (text, red) = (columns.Cell(cells, ListColumn.Colour), columns.Cell(cells, ListColumn.Red));
        if (text.Length > 0) return TypedColour.TryParse(text, out colour) ? null : $"“{text}” is no colour that is known here. Write it as #2f4b7c or as 47 75 124.";
        if (red.Length > 0) return TypedColour.TryChannels(red, columns.Cell(cells, ListColumn.Green), columns.Cell(cells, ListColumn.Blue), out colour) ? null : "Its red, green and blue are not each 0 to 255.";
        return "It has no colour.";
    }
}
