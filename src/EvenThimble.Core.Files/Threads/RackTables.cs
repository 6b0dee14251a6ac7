using System.Text;
using EvenThimble.Core.Files.Tables;

namespace EvenThimble.Core.Files.Threads;

/// <summary>Lists of threads written for other programs.</summary>
public static class RackTables
{
    /// <summary>A table as CSV in UTF-8, with a head; no cell of it is a formula.</summary>
    public static byte[] Write(IReadOnlyList<string> head, IEnumerable<IReadOnlyList<string>> rows) => Encoding.UTF8.GetBytes(CsvRows.Line(head) + string.Concat(rows.Select(r => CsvRows.Line(r))));
}
