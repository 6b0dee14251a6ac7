using System.Globalization;
using System.Text;
using EvenThimble.Core.Colour;
using EvenThimble.Core.Craft;
using EvenThimble.Core.Files.Tables;
using EvenThimble.Core.Geometry;
using EvenThimble.Core.Stitches;
using EvenThimble.Core.Text;

namespace EvenThimble.Core.Files.Stitch;

/// <summary>The CSV stitch table: RFC 4180, UTF-8, one row a record, places absolute in mm.</summary>
public sealed class CsvFormat : IStitchFormat
{
    private const string Header = "op,x_mm,y_mm,thread,colour,role";
    private static readonly UTF8Encoding StrictUtf8 = new(false, true);

    /// <inheritdoc/>
    public StitchFileKind Kind => StitchFileKind.Csv;

    /// <inheritdoc/>
    public double ToleranceMm => 0;

    /// <inheritdoc/>
    public bool CarriesThreads => true;

    /// <inheritdoc/>
    public bool Recognises(ReadOnlySpan<byte> bytes) => StitchFormats.TextStart(bytes) is var start && (start.StartsWith("op,", StringComparison.OrdinalIgnoreCase) || start.StartsWith("\"op\",", StringComparison.OrdinalIgnoreCase));

    /// <inheritdoc/>
    public IEnumerable<string> Losses(StitchFile file)
    {
        if (file.Stitches.Messages.Count > 0) yield return "A stitch table carries no messages at stops.";
    }

    /// <summary>Reads a table.</summary>
    /// <exception cref="StitchFileException">A row is not what it should be; the message names it.</exception>
    public StitchFile Read(ReadOnlySpan<byte> bytes)
    {
        string text;
        try
        {
            text = StrictUtf8.GetString(bytes).TrimStart('\uFEFF');
        }
        catch (DecoderFallbackException)
        {
            throw new StitchFileException("The stitch table is not UTF-8 text. Save it as CSV UTF-8 and try again.");
        }

        var parts = new PartCollector();
        var ended = false;
        foreach (var (row, cells) in CsvRows.Of(text, says => new StitchFileException(says)))
        {
            if (row == 1)
            {
                if (!string.Join(',', cells).Equals(Header, StringComparison.OrdinalIgnoreCase)) throw new StitchFileException($"The stitch table must begin with the row {Header}.");
                continue;
            }

            if (ended) throw new StitchFileException($"Row {row} of the stitch table comes after its end row.");
            if (cells.Count != 6) throw new StitchFileException($"Row {row} of the stitch table has {cells.Count} columns; it needs 6.");
            ReadRow(parts, row, cells);
            ended = cells[0] == "end";
            if (parts.Records.Count > StitchFormats.MostRecords) throw new StitchFileException($"The stitch table has more rows than any machine takes ({StitchFormats.MostRecords}).");
        }

        if (!ended) throw new StitchFileException("The stitch table has no end row, so it is cut short. Copy it again from where it came.");
        return parts.ToFile(string.Empty);
    }

    private static void ReadRow(PartCollector parts, int row, List<string> cells)
    {
        switch (cells[0])
        {
            case "stitch":
                parts.Records.Stitch(Place(row, cells));
                break;
            case "jump":
                parts.Records.Jump(Place(row, cells));
                break;
            case "trim":
                parts.Records.Trim();
                break;
            case "stop":
                parts.Records.Stop(string.Empty);
                break;
            case "change":
                if (!Rgb.TryParse(cells[4], out var colour)) throw new StitchFileException($"Row {row} of the stitch table: “{Short(cells[4])}” is no colour such as #2f4b7c.");
                if (!PartRoles.TryParse(cells[5].Length == 0 ? PartRole.Decoration.InWords() : cells[5], out var role)) throw new StitchFileException($"Row {row} of the stitch table: “{Short(cells[5])}” is no role of a part.");
                var names = cells[3].Split('|', 3);
                parts.Change(names.Length == 3 ? new(Titles.Clean(names[0]), Titles.Clean(names[1]), Titles.Clean(names[2]), colour) : new(string.Empty, string.Empty, Titles.Clean(cells[3]), colour), role);
                break;
            case "end":
                break;
            default:
                throw new StitchFileException($"Row {row} of the stitch table: “{Short(cells[0])}” is none of stitch, jump, trim, change, stop, end.");
        }
    }

    private static Point Place(int row, List<string> cells) => new(Number(row, cells[1], "x_mm"), Number(row, cells[2], "y_mm"));

    private static double Number(int row, string cell, string column) =>
        double.TryParse(cell, NumberStyles.AllowLeadingSign | NumberStyles.AllowDecimalPoint | NumberStyles.AllowExponent, CultureInfo.InvariantCulture, out var v) && Math.Abs(v) <= StitchBlob.FarthestMm
            ? v
            : throw new StitchFileException($"Row {row} of the stitch table: “{Short(cell)}” in {column} is no place in millimetres within 10 m of the centre.");

    /// <summary>Writes a table. Numbers are the shortest that read back the same.</summary>
    public byte[] Write(StitchFile file)
    {
        var text = new StringBuilder(Header).Append("\r\n");
        foreach (var part in file.Parts)
        {
            var t = part.Thread;
            text.Append("change,,,").Append(Quoted($"{t.Maker.Replace('|', '/')}|{t.Number.Replace('|', '/')}|{t.Name}")).Append(',').Append(t.Colour.Hex).Append(',').Append(part.Role.InWords()).Append("\r\n");
            for (var i = part.First; i < part.First + part.Count; i++)
            {
                var place = string.Create(CultureInfo.InvariantCulture, $"{file.Stitches.X[i]},{file.Stitches.Y[i]}");
                text.Append(file.Stitches.Kinds[i] switch
                {
                    StitchKind.Stitch => $"stitch,{place},,,\r\n",
                    StitchKind.Jump => $"jump,{place},,,\r\n",
                    StitchKind.Trim => "trim,,,,,\r\n",
                    _ => "stop,,,,,\r\n",
                });
            }
        }

        return Encoding.UTF8.GetBytes(text.Append("end,,,,,\r\n").ToString());
    }

    private static string Quoted(string cell) =>
        cell.AsSpan().IndexOfAny(",\"\r\n") < 0 ? cell : $"\"{cell.Replace("\"", "\"\"", StringComparison.Ordinal)}\"";

    private static string Short(string cell) => cell.Length <= 24 ? cell : cell[..24] + "…";
}
