using System.Text;
using EvenThimble.Core.Text;

namespace EvenThimble.Core.Files.Stitch;

/// <summary>Splits CSV text into rows and cells by RFC 4180. Empty lines are passed over; a bare line feed ends a row too.</summary>
internal static class CsvRows
{
    public static IEnumerable<(int Row, List<string> Cells)> Of(string text)
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
                case ',':
                    cells.Add(cell.ToString());
                    cell.Clear();
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
                    cell.Append(c);
                    break;
            }
        }

        if (quoted) throw new StitchFileException($"Row {row} of the table has a quotation mark that is never closed.");
        if (cells.Count > 0 || cell.Length > 0) yield return Row(row, cells, cell);
    }

    private static (int Row, List<string> Cells) Row(int row, List<string> cells, StringBuilder last)
    {
        cells.Add(last.ToString());
        return (row, cells);
    }
}
