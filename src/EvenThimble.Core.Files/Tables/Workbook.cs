using System.Collections.Immutable;
using System.Globalization;
using System.IO.Compression;
using System.Xml;
using EvenThimble.Core.Names;
using EvenThimble.Core.Text;
using EvenThimble.Core.Work;
using ExcelDataReader;

namespace EvenThimble.Core.Files.Tables;

/// <summary>Reads a workbook (XLSX, Office Open XML) as tables: what stands in the cells, formulas by the value that was stored with them.</summary>
public static class Workbook
{
    private const long MostUnpacked = 256L << 20;
    private const int MostBytes = 16 << 20;
    private const int MostColumns = 60;
    private const int MostEntries = 2_000;

    private static readonly byte[] Compound = [0xD0, 0xCF, 0x11, 0xE0];

    // The reader looks for an encoding of old workbooks, which is never used here, before anything else.
    static Workbook() => System.Text.Encoding.RegisterProvider(System.Text.CodePagesEncodingProvider.Instance);

    /// <summary>Whether bytes may be a workbook, or one that is locked or of an older kind.</summary>
    public static bool LooksLike(ReadOnlySpan<byte> bytes) => bytes.StartsWith("PK"u8) || bytes.StartsWith(Compound);

    /// <summary>The table of its first sheet that has something in it.</summary>
    /// <param name="bytes">The file.</param>
    /// <param name="mostRows">More are refused.</param>
    /// <exception cref="EditRefusedException">It is none, or too large a one.</exception>
    public static TypedTable Read(byte[] bytes, int mostRows)
    {
        if (bytes.Length > MostBytes) throw new EditRefusedException($"A workbook has at most {MostBytes >> 20} MB. Save the sheet with the names by itself.");
        if (bytes.AsSpan().StartsWith(Compound)) throw new EditRefusedException("That workbook is locked with a password, or of an older kind. Save it without a password as XLSX or CSV.");
        CheckUnpacked(bytes);
        try
        {
            using var reader = ExcelReaderFactory.CreateOpenXmlReader(new MemoryStream(bytes, writable: false));
            do
            {
                if (RowsOf(reader, mostRows) is { IsEmpty: false } rows) return new($"workbook, sheet “{Titles.Clean(reader.Name)}”", "cells", rows);
            }
            while (reader.NextResult());
        }
        catch (Exception e) when (e is ExcelDataReader.Exceptions.ExcelReaderException or XmlException or InvalidDataException or KeyNotFoundException or FormatException or IndexOutOfRangeException or ArgumentException or InvalidOperationException or OverflowException or NullReferenceException)
        {
            throw new EditRefusedException("That workbook is damaged, or is none. Open it where it was made, and save it again as XLSX or CSV.");
        }

        throw new EditRefusedException("There is nothing in that workbook.");
    }

    /// <summary>Unpacks all without keeping it, so that what swells up is refused before it is read.</summary>
    private static void CheckUnpacked(byte[] bytes)
    {
        try
        {
            using var zip = new ZipArchive(new MemoryStream(bytes, writable: false), ZipArchiveMode.Read);
            if (zip.Entries.Count > MostEntries) throw new EditRefusedException("That workbook has more in it than any needs. It was not opened.");
            var (left, buffer) = (MostUnpacked, new byte[81_920]);
            foreach (var entry in zip.Entries)
            {
                using var stream = entry.Open();
                for (int n; (n = stream.Read(buffer)) > 0;)
                {
                    WorkBudget.Current.Spend(n / 400);
                    if ((left -= n) < 0) throw new EditRefusedException("That workbook swells up to far more than any list needs. It was not opened.");
                }
            }
        }
        catch (Exception e) when (e is InvalidDataException or NotSupportedException or IOException)
        {
            throw new EditRefusedException("That workbook is damaged, or is none. Open it where it was made, and save it again as XLSX or CSV.");
        }
    }

    private static ImmutableArray<(int Line, ImmutableArray<string> Cells)> RowsOf(IExcelDataReader reader, int mostRows)
    {
        var (rows, line) = (ImmutableArray.CreateBuilder<(int, ImmutableArray<string>)>(), 0);
        var below = (reader.MergeCells ?? []).Where(m => m.FromColumn == m.ToColumn && m.ToRow > m.FromRow).ToLookup(m => m.FromColumn);
        var held = new Dictionary<int, (string Text, int Until)>();
        while (reader.Read())
        {
            line++;
            var cells = new string[Math.Min(reader.FieldCount, MostColumns)];
            WorkBudget.Current.Spend(4 * cells.Length);
            for (var c = 0; c < cells.Length; c++)
            {
                cells[c] = Roster.Value(Text(reader.GetValue(c)));

                // A cell that reaches over several lines stands on each of them.
                if (below[c].FirstOrDefault(m => m.FromRow == line - 1) is { } merged) held[c] = (cells[c], merged.ToRow);
                else if (cells[c].Length == 0 && held.TryGetValue(c, out var above) && line - 1 <= above.Until) cells[c] = above.Text;
            }

            if (cells.All(c => c.Trim().Length == 0)) continue;
            if (rows.Count == mostRows) throw new EditRefusedException($"The sheet has more than {mostRows:N0} lines. Nothing was taken; divide it.");
            rows.Add((line, [.. cells]));
        }

        return rows.ToImmutable();
    }

    private static string Text(object? value) => value switch
    {
        null => string.Empty,
        string text => text,
        DateTime { TimeOfDay.Ticks: 0 } date => date.ToString("yyyy-MM-dd", CultureInfo.InvariantCulture),
        DateTime date => date.ToString("yyyy-MM-dd HH:mm", CultureInfo.InvariantCulture),
        IFormattable number => number.ToString(null, CultureInfo.InvariantCulture),
        _ => value.ToString() ?? string.Empty,
    };
}
