using System.Collections.Immutable;
using System.Globalization;
using System.Text;
using System.Text.RegularExpressions;
using EvenThimble.Core.Files.Tables;
using EvenThimble.Core.Rack;
using EvenThimble.Core.Text;
using EvenThimble.Core.Threads;

namespace EvenThimble.Core.Files.Threads;

/// <summary>What a list of cones gave.</summary>
/// <param name="Cones">Each thread once; cones of one thread on several lines are counted together.</param>
/// <param name="Aside">Lines that were kept aside, with why.</param>
/// <param name="Together">Threads that stood on more than one line.</param>
public sealed record ReadRack(ImmutableArray<Cone> Cones, ImmutableArray<LineAside> Aside, int Together);

/// <summary>The threads that are known, for finding one by what was typed.</summary>
/// <param name="charts">The charts, those of which the user buys first.</param>
public sealed class KnownThreads(IReadOnlyList<ThreadChart> charts)
{
    private readonly ILookup<string, ChartThread> _byNumber = charts.SelectMany(c => c.Sold).ToLookup(s => s.Thread.Number, StringComparer.OrdinalIgnoreCase);

    /// <summary>All makers, each once.</summary>
    public IReadOnlyList<string> Makers { get; } = [.. charts.Select(c => c.Maker).Distinct()];

    /// <summary>All threads of a number, of a maker where one is named; those of charts that stand first come first.</summary>
    public IReadOnlyList<ChartThread> Find(string? maker, string number) => [.. _byNumber[number].Where(s => string.IsNullOrEmpty(maker) || s.Thread.Maker.Equals(maker, StringComparison.OrdinalIgnoreCase))];

    /// <summary>The maker that a text begins with or names, and the rest of it; null: none.</summary>
    public (string? Maker, string Text) MakerIn(string text)
    {
        foreach (var maker in Makers.OrderByDescending(m => m.Length))
            if (maker.Length > 0 && text.StartsWith(maker, StringComparison.OrdinalIgnoreCase) && (text.Length == maker.Length || !char.IsLetter(text[maker.Length]))) return (maker, text[maker.Length..].TrimStart(' ', ',', ';', ':'));
        return (null, text);
    }
}

/// <summary>A rack as a table or as lines that were typed: a number a line is enough.</summary>
public static partial class RackList
{
    /// <summary>No list has more lines than this.</summary>
    public const int MostLines = Cone.MostOnARack;

    /// <summary>The cones that a table holds.</summary>
    /// <param name="table">The table.</param>
    /// <param name="known">The charts.</param>
    /// <param name="usualMaker">Whose numbers are meant where a line names no maker; null: whoever has that number, if only one has.</param>
    public static ReadRack Read(TypedTable table, KnownThreads known, string? usualMaker = null)
    {
        var columns = ListColumns.Of(table);
        var tabled = columns.HasHead || table.Rows.Any(r => r.Cells.Length > 1);
        var (cones, aside, together) = (new Dictionary<(string, string), Cone>(), new List<LineAside>(), new HashSet<(string, string)>());
        foreach (var (line, cells) in table.Rows.Skip(columns.HasHead ? 1 : 0))
        {
            try
            {
                var cone = tabled ? OfRow(cells, columns, known, usualMaker) : OfLine(cells[0], known, usualMaker);
                cone.Check();
                var key = (cone.Thread.Maker, cone.Thread.Number);
                if (cones.TryGetValue(key, out var before))
                {
                    together.Add(key);
                    cone = before.With(cone);
                    cone.Check();
                }

                cones[key] = cone;
            }
            catch (EditRefusedException e)
            {
                aside.Add(new(line, string.Join(", ", cells.Where(c => c.Length > 0)), e.Message));
            }
        }

        return new([.. cones.Values], [.. aside], together.Count);
    }

    /// <summary>A rack as CSV in UTF-8, with a head; it is read again as it was.</summary>
    public static byte[] Write(IEnumerable<Cone> cones) => Encoding.UTF8.GetBytes(
        CsvRows.Line("maker", "number", "name", "colour", "range", "weight", "cones", "cone_metres", "left", "stands", "low", "empty_g")
        + string.Concat(cones.Select(c => CsvRows.Line(
            c.Thread.Maker, c.Thread.Number, c.Thread.Name, c.Thread.Colour.Hex, c.Make.Fibre == Fibre.Unsaid ? string.Empty : c.Make.Fibre.ToString().ToLowerInvariant(), $"{c.Make.Weight}", c.Count.ToString(CultureInfo.InvariantCulture), Amounts.Text(c.FullMetres),
            Amounts.Text(c.LeftMetres), c.Stands, Amounts.Text(c.LowMetres), c.EmptyGrams is { } grams ? Amounts.Text(grams) : string.Empty))));

    /// <summary>A line such as "1001", "Fenlight 1001", "1001 x2" or "1001 x 2 40 %".</summary>
    private static Cone OfLine(string text, KnownThreads known, string? usualMaker)
    {
        var (maker, rest) = known.MakerIn(text);
        var match = Line().Match(rest);
        if (!match.Success) throw new EditRefusedException("It has no number.");
        var cone = Cone.Full(Sold(known, maker, match.Groups["number"].Value, usualMaker), match.Groups["count"] is { Success: true } count ? CountOf(count.Value) : 1);
        return match.Groups["left"] is { Success: true } left ? cone.Told(left.Value) : cone;
    }

    private static Cone OfRow(ImmutableArray<string> cells, ListColumns columns, KnownThreads known, string? usualMaker)
    {
        string Cell(ListColumn what) => columns.Cell(cells, what);
        var (typedMaker, number) = known.MakerIn(Cell(ListColumn.Number));
        if (number.Length == 0) throw new EditRefusedException("It has no number.");
        var maker = typedMaker ?? (Cell(ListColumn.Maker) is { Length: > 0 } named ? named : null);
        var sold = known.Find(maker ?? usualMaker, number).Count == 0 && TypedColour.TryParse(Cell(ListColumn.Colour), out var colour)
            ? ThreadMake.Of($"{Cell(ListColumn.Range)} {Cell(ListColumn.Weight)}") is var make ? new ChartThread(new(maker ?? usualMaker ?? string.Empty, number, Cell(ListColumn.Name) is { Length: > 0 } name ? name : number, colour), make, make.UsualConeMetres, null) : null!
            : Sold(known, maker, number, usualMaker);
        var full = Amounts.Metres(Cell(ListColumn.ConeMetres)) ?? sold.ConeMetres;
        var count = Cell(ListColumn.Count) is { Length: > 0 } typed ? CountOf(typed) : 1;
        var cone = new Cone(sold.Thread, sold.Make, count, full, count * full) { Stands = Cell(ListColumn.Stands), EmptyGrams = Amounts.Number(Cell(ListColumn.EmptyGrams)) };
        if (Amounts.Metres(Cell(ListColumn.Low)) is { } low) cone = cone with { LowMetres = low };
        return Cell(ListColumn.Left) is { Length: > 0 } left ? cone.Told(left) : cone;
    }

    private static int CountOf(string text) => Amounts.Number(text) is >= 1 and <= Cone.MostCones and var count && count == Math.Floor(count) ? (int)count : throw new EditRefusedException($"“{text}” is no number of cones.");

    private static ChartThread Sold(KnownThreads known, string? maker, string number, string? usualMaker)
    {
        var found = known.Find(maker ?? usualMaker, number);
        if (found.Count == 0 && maker is null) found = known.Find(null, number);
        if (found.Count == 0) throw new EditRefusedException($"No chart has the number {number}{(maker is null ? string.Empty : $" of {maker}")}.");
        var makers = found.Select(f => f.Thread.Maker).Distinct().ToList();
        return makers.Count == 1 ? found[0] : throw new EditRefusedException($"The number {number} is one of {string.Join(" and one of ", makers)}; put the maker before it.");
    }

    [GeneratedRegex(@"^(?<number>[\p{L}\d][\p{L}\d\-./]*)(?:\s*[x×*]\s*(?<count>\d+)|\s+(?<count>\d{1,3}))?(?:\s+(?<left>[\d.,]+\s*(?:%|m|g)))?\s*$", RegexOptions.IgnoreCase)]
    private static partial Regex Line();
}
