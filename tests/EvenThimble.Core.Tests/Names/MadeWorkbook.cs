using System.IO.Compression;
using System.Text;

namespace EvenThimble.Core.Tests.Names;

/// <summary>Workbooks written by hand after ECMA-376, so that the reader is tested with none of its own making.</summary>
internal static class MadeWorkbook
{
    /// <summary>A workbook of one sheet. A cell that begins with = is a formula with the value after the bar (<c>=A1&amp;B1|value</c>), one with # a number, one with @ a date by its serial number.</summary>
    public static byte[] Of(IEnumerable<string?[]> rows, params string[] merged)
    {
        var sheet = new StringBuilder("<?xml version=\"1.0\" encoding=\"UTF-8\"?><worksheet xmlns=\"http://schemas.openxmlformats.org/spreadsheetml/2006/main\"><sheetData>");
        var line = 0;
        foreach (var row in rows)
        {
            sheet.Append($"<row r=\"{++line}\">");
            for (var c = 0; c < row.Length; c++)
            {
                if (row[c] is not { Length: > 0 } cell) continue;
                var at = $"r=\"{(char)('A' + c)}{line}\"";
                if (cell[0] == '=' && cell.Split('|') is [var formula, var value]) sheet.Append($"<c {at} t=\"str\"><f>{Escaped(formula[1..])}</f><v>{Escaped(value)}</v></c>");
                else if (cell[0] == '#') sheet.Append($"<c {at}><v>{cell[1..]}</v></c>");
                else if (cell[0] == '@') sheet.Append($"<c {at} s=\"1\"><v>{cell[1..]}</v></c>");
                else sheet.Append($"<c {at} t=\"inlineStr\"><is><t xml:space=\"preserve\">{Escaped(cell)}</t></is></c>");
            }

            sheet.Append("</row>");
        }

        sheet.Append("</sheetData>");
        if (merged.Length > 0) sheet.Append($"<mergeCells>{string.Concat(merged.Select(m => $"<mergeCell ref=\"{m}\"/>"))}</mergeCells>");
        return Zipped(
            ("[Content_Types].xml", "<Types xmlns=\"http://schemas.openxmlformats.org/package/2006/content-types\"><Default Extension=\"rels\" ContentType=\"application/vnd.openxmlformats-package.relationships+xml\"/><Default Extension=\"xml\" ContentType=\"application/xml\"/><Override PartName=\"/xl/workbook.xml\" ContentType=\"application/vnd.openxmlformats-officedocument.spreadsheetml.sheet.main+xml\"/><Override PartName=\"/xl/worksheets/sheet1.xml\" ContentType=\"application/vnd.openxmlformats-officedocument.spreadsheetml.worksheet+xml\"/><Override PartName=\"/xl/styles.xml\" ContentType=\"application/vnd.openxmlformats-officedocument.spreadsheetml.styles+xml\"/></Types>"),
            ("_rels/.rels", "<Relationships xmlns=\"http://schemas.openxmlformats.org/package/2006/relationships\"><Relationship Id=\"r1\" Type=\"http://schemas.openxmlformats.org/officeDocument/2006/relationships/officeDocument\" Target=\"xl/workbook.xml\"/></Relationships>"),
            ("xl/workbook.xml", "<workbook xmlns=\"http://schemas.openxmlformats.org/spreadsheetml/2006/main\" xmlns:r=\"http://schemas.openxmlformats.org/officeDocument/2006/relationships\"><sheets><sheet name=\"Helfer\" sheetId=\"1\" r:id=\"r1\"/></sheets></workbook>"),
            ("xl/_rels/workbook.xml.rels", "<Relationships xmlns=\"http://schemas.openxmlformats.org/package/2006/relationships\"><Relationship Id=\"r1\" Type=\"http://schemas.openxmlformats.org/officeDocument/2006/relationships/worksheet\" Target=\"worksheets/sheet1.xml\"/><Relationship Id=\"r2\" Type=\"http://schemas.openxmlformats.org/officeDocument/2006/relationships/styles\" Target=\"styles.xml\"/></Relationships>"),
            ("xl/styles.xml", "<styleSheet xmlns=\"http://schemas.openxmlformats.org/spreadsheetml/2006/main\"><cellXfs count=\"2\"><xf numFmtId=\"0\"/><xf numFmtId=\"14\" applyNumberFormat=\"1\"/></cellXfs></styleSheet>"),
            ("xl/worksheets/sheet1.xml", sheet.Append("</worksheet>").ToString()));
    }

    public static byte[] Zipped(params (string Name, string Text)[] entries)
    {
        using var bytes = new MemoryStream();
        using (var zip = new ZipArchive(bytes, ZipArchiveMode.Create, leaveOpen: true))
        {
            foreach (var (name, text) in entries)
            {
                using var stream = zip.CreateEntry(name, CompressionLevel.Fastest).Open();
                stream.Write(Encoding.UTF8.GetBytes(text));
            }
        }

        return bytes.ToArray();
    }

    private static string Escaped(string text) => text.Replace("&", "&amp;", StringComparison.Ordinal).Replace("<", "&lt;", StringComparison.Ordinal);
}
