using System.Collections.Immutable;
using System.Globalization;
using EvenThimble.Core.Files.Tables;

namespace EvenThimble.Core.Files.Threads;

/// <summary>What a column of a list of threads holds.</summary>
public enum ListColumn
{
    /// <summary>Nothing that is taken.</summary>
    Other,

    /// <summary>The number of a thread.</summary>
    Number,

    /// <summary>Its name.</summary>
    Name,

    /// <summary>Its colour.</summary>
    Colour,

    /// <summary>Its red, 0 to 255.</summary>
    Red,

    /// <summary>Its green.</summary>
    Green,

    /// <summary>Its blue.</summary>
    Blue,

    /// <summary>Who spins it.</summary>
    Maker,

    /// <summary>The range that it belongs to.</summary>
    Range,

    /// <summary>Its weight.</summary>
    Weight,

    /// <summary>Length on a full cone, m.</summary>
    ConeMetres,

    /// <summary>Price of a cone.</summary>
    Price,

    /// <summary>How many cones.</summary>
    Count,

    /// <summary>What is left.</summary>
    Left,

    /// <summary>Where it stands.</summary>
    Stands,

    /// <summary>When it is low.</summary>
    Low,

    /// <summary>Weight of a bare cone, g.</summary>
    EmptyGrams,
}

/// <summary>Which column of a table is what: by the words above them, or, where there are none, by what they hold.</summary>
/// <param name="Columns">By column.</param>
/// <param name="HasHead">The first row says what they are.</param>
public sealed record ListColumns(ImmutableArray<ListColumn> Columns, bool HasHead)
{
    private const int LookedAt = 60;

    // The first that a heading begins with or is; longer ones before shorter.
    private static readonly (string Word, ListColumn Is)[] Words =
    [
        ("colour number", ListColumn.Number), ("color number", ListColumn.Number), ("colour no", ListColumn.Number), ("color no", ListColumn.Number), ("colour code", ListColumn.Number), ("color code", ListColumn.Number),
        ("colour name", ListColumn.Name), ("color name", ListColumn.Name), ("thread number", ListColumn.Number), ("thread name", ListColumn.Name), ("cone metres", ListColumn.ConeMetres), ("cone meters", ListColumn.ConeMetres),
        ("cone_metres", ListColumn.ConeMetres), ("empty", ListColumn.EmptyGrams), ("bare", ListColumn.EmptyGrams), ("number", ListColumn.Number), ("num", ListColumn.Number), ("nr", ListColumn.Number), ("no", ListColumn.Number),
        ("#", ListColumn.Number), ("code", ListColumn.Number), ("article", ListColumn.Number), ("nummer", ListColumn.Number), ("numéro", ListColumn.Number), ("número", ListColumn.Number), ("name", ListColumn.Name),
        ("description", ListColumn.Name), ("nom", ListColumn.Name), ("nombre", ListColumn.Name), ("hex", ListColumn.Colour), ("rgb", ListColumn.Colour), ("html", ListColumn.Colour), ("colour", ListColumn.Colour),
        ("color", ListColumn.Colour), ("farbe", ListColumn.Colour), ("couleur", ListColumn.Colour), ("red", ListColumn.Red), ("r", ListColumn.Red), ("green", ListColumn.Green), ("g", ListColumn.Green), ("blue", ListColumn.Blue),
        ("b", ListColumn.Blue), ("maker", ListColumn.Maker), ("brand", ListColumn.Maker), ("manufacturer", ListColumn.Maker), ("make", ListColumn.Maker), ("marke", ListColumn.Maker), ("marque", ListColumn.Maker),
        ("range", ListColumn.Range), ("line", ListColumn.Range), ("type", ListColumn.Range), ("kind", ListColumn.Range), ("weight", ListColumn.Weight), ("wt", ListColumn.Weight), ("length", ListColumn.ConeMetres),
        ("metres", ListColumn.ConeMetres), ("meters", ListColumn.ConeMetres), ("full", ListColumn.ConeMetres), ("m", ListColumn.ConeMetres), ("price", ListColumn.Price), ("cost", ListColumn.Price), ("preis", ListColumn.Price),
        ("prix", ListColumn.Price), ("cones", ListColumn.Count), ("count", ListColumn.Count), ("how many", ListColumn.Count), ("quantity", ListColumn.Count), ("qty", ListColumn.Count), ("pieces", ListColumn.Count),
        ("left", ListColumn.Left), ("remaining", ListColumn.Left), ("rest", ListColumn.Left), ("stands", ListColumn.Stands), ("where", ListColumn.Stands), ("place", ListColumn.Stands), ("location", ListColumn.Stands),
        ("shelf", ListColumn.Stands), ("drawer", ListColumn.Stands), ("low", ListColumn.Low), ("minimum", ListColumn.Low), ("min", ListColumn.Low),
    ];

    /// <summary>The columns of a table.</summary>
    public static ListColumns Of(TypedTable table)
    {
        if (table.Rows.IsEmpty) return new([], false);
        var head = table.Rows[0].Cells.Select(Named).ToArray();
        for (var c = 0; c < head.Length; c++)
            if (head[c] != ListColumn.Other && Array.IndexOf(head, head[c]) < c)
                head[c] = ListColumn.Other;

        // A first row that names a number, or two things, is a head; one that holds a colour itself is not.
        if (head.Contains(ListColumn.Number) || (head.Count(h => h != ListColumn.Other) >= 2 && !table.Rows[0].Cells.Any(c => c.StartsWith('#') && TypedColour.TryParse(c, out _)))) return new([.. head], true);
        return new(ByWhatTheyHold(table), false);
    }

    /// <summary>The cell of a row that holds something; empty where there is none.</summary>
    public string Cell(ImmutableArray<string> cells, ListColumn what) => Columns.IndexOf(what) is >= 0 and var at && at < cells.Length ? cells[at] : string.Empty;

    /// <summary>What the columns were taken for, in words, such as "1 number, 2 name".</summary>
    public string InWords => string.Join(", ", Columns.Select((c, n) => (c, n)).Where(c => c.c != ListColumn.Other).Select(c => $"{c.n + 1} {Name(c.c)}"));

    private static string Name(ListColumn column) => column switch
    {
        ListColumn.ConeMetres => "metres on a cone",
        ListColumn.EmptyGrams => "bare cone",
        _ => column.ToString().ToLowerInvariant(),
    };

    private static ListColumn Named(string cell)
    {
        var text = cell.ToLowerInvariant().Replace('_', ' ').Trim(' ', '.', ':');
        return text.Length is 0 or > 30 ? ListColumn.Other : Words.FirstOrDefault(w => text == w.Word || (w.Word.Length > 1 && text.StartsWith(w.Word.Replace('_', ' '), StringComparison.Ordinal) && (text.Length == w.Word.Length || !char.IsLetter(text[w.Word.Length])))).Is;
    }

    private static ImmutableArray<ListColumn> ByWhatTheyHold(TypedTable table)
    {
        var rows = table.Rows.Take(LookedAt).ToList();
        var columns = new ListColumn[rows.Max(r => r.Cells.Length)];
        List<string> In(int c) => [.. rows.Where(r => c < r.Cells.Length && r.Cells[c].Length > 0).Select(r => r.Cells[c])];
        for (var c = 0; c < columns.Length; c++)
            if (In(c) is { Count: > 0 } cells && cells.Count(x => TypedColour.TryParse(x, out _) && (x.StartsWith('#') || x.Any(char.IsAsciiLetter) || x.Contains(' ', StringComparison.Ordinal))) > 0.7 * cells.Count && !columns.Contains(ListColumn.Colour))
                columns[c] = ListColumn.Colour;

        // The number is the first column of short cells with digits that hardly ever repeat.
        for (var c = 0; c < columns.Length && !columns.Contains(ListColumn.Number); c++)
            if (columns[c] == ListColumn.Other && In(c) is { Count: > 0 } cells && cells.Count(x => x.Length <= 14 && x.Any(char.IsAsciiDigit)) > 0.7 * cells.Count && cells.Distinct().Count() > 0.7 * cells.Count)
                columns[c] = ListColumn.Number;
        for (var c = 0; c < columns.Length; c++)
        {
            if (columns[c] != ListColumn.Other || In(c) is not { Count: > 0 } cells) continue;
            var words = cells.Count(x => x.Any(char.IsLetter));
            if (words > 0.7 * cells.Count && cells.Count(x => x.EndsWith('%')) == 0) columns[c] = columns.Contains(ListColumn.Name) ? ListColumn.Other : ListColumn.Name;
            else if (cells.Count(x => x.EndsWith('%')) > 0.7 * cells.Count) columns[c] = ListColumn.Left;
            else if (!columns.Contains(ListColumn.Count) && cells.All(x => int.TryParse(x.TrimStart('x', '×', ' '), NumberStyles.None, CultureInfo.InvariantCulture, out var n) && n is >= 0 and <= 999)) columns[c] = ListColumn.Count;
        }

        return [.. columns];
    }
}
