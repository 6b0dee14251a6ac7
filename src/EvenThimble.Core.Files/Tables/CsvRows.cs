using System.Text;

namespace EvenThimble.Core.Files.Tables;

/// <summary>Splits CSV text into rows and cells by RFC 4180, and the other way round. Empty lines are passed over; a bare line feed ends a row too.</summary>
internal static class CsvRows
{
    /// <summary>The rows with their numbers, from 1.</summary>
    /// <param name="text">The table.</param>
    /// <param name="refusal">What is thrown when a quotation mark is never closed, from its sentence.</param>
    /// <param name="separator">What stands between cells.</param>
    public static IEnumerable<(int Row, List<string> Cells)> Of(string text, Func<string, Exception> refusal, char separator = ',')
    {
        var cells = new List<string>();
        var cell = new StringBuilder();
        var (quoted, row) = (false, 1);
        for (var i = 0; i < text.Length; i++)
        {
            var c = text[i];
            if (quoted)
            {
                if (c != '"') cell.Append(c);
                else if (i + 1 < text.Length && text[i + 1] == '"') cell.Append(text[++i]);
                else quoted = false;
                continue;
            }

            switch (c)
            {
                case '"' when cell.Length == 0:
                    quoted = true;
                    break;
                case '\n':
                    if (cells.Count > 0 || cell.Length > 0) yield return Row(row, cells, cell);
                    cells = [];
                    cell.Clear();
                    row++;
                    break;
                case '\r':
                    break;
                default:
                    if (c != separator)
                    {
                        cell.Append(c);
                        break;
                    }

                    cells.Add(cell.ToString());
                    cell.Clear();
                    break;
            }
        }

        if (quoted) throw refusal($"Row {row} of the table has a quotation mark that is never closed.");
        if (cells.Count > 0 || cell.Length > 0) yield return Row(row, cells, cell);
    }

    /// <summary>One row, quoted where that is needed. What a spreadsheet would take for a formula gets an apostrophe before it, which shows there and is taken away when the table is read again.</summary>
    public static string Line(params IEnumerable<string> cells) => string.Join(',', cells.Select(Cell)) + "\r\n";

    /// <summary>The cell as it was before <see cref="Line"/> guarded it.</summary>
    public static string Unguarded(string cell) => cell.Length > 1 && cell[0] == '\'' && IsFormula(cell[1..]) ? cell[1..] : cell;

    private static string Cell(string text)
    {
        var guarded = IsFormula(text) ? "'" + text : text;
        return guarded.AsSpan().IndexOfAny(",\"\r\n") < 0 ? guarded : $"\"{guarded.Replace("\"", "\"\"", StringComparison.Ordinal)}\"";
    }

    private static bool IsFormula(string text) => text.Length > 0 && (text[0] is '=' or '+' or '-' or '@' or '\t') && !double.TryParse(text, System.Globalization.CultureInfo.InvariantCulture, out _);

    private static (int Row, List<string> Cells) Row(int row, List<string> cells, StringBuilder last)
    {
        cells.Add(last.ToString());
        return (row, cells);
    }
}
