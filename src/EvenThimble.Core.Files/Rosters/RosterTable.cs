using System.Collections.Immutable;
using System.Globalization;
using System.Text;
using EvenThimble.Core.Files.Tables;
using EvenThimble.Core.Names;
using EvenThimble.Core.Text;

namespace EvenThimble.Core.Files.Rosters;

/// <summary>What a column of a list of people is taken for.</summary>
/// <param name="Heading">The words above it; empty: none.</param>
/// <param name="Field">The field that it becomes; null: it is not a field.</param>
/// <param name="Is">What else it is.</param>
public sealed record RosterColumn(string Heading, string? Field, RosterColumnKind Is);

/// <summary>What a column holds.</summary>
public enum RosterColumnKind
{
    /// <summary>A field of each person.</summary>
    Field,

    /// <summary>How many garments.</summary>
    Quantity,

    /// <summary>On what.</summary>
    Garment,

    /// <summary>The number of the line, which is not taken.</summary>
    Counting,

    /// <summary>Nothing.</summary>
    Empty,
}

/// <summary>A list of people as it was understood, to be shown before it is taken.</summary>
/// <param name="Roster">The people.</param>
/// <param name="Columns">What each column was taken for.</param>
/// <param name="HeadLine">The line that says what the columns are; null: there is none.</param>
/// <param name="Source">How it was read, in words.</param>
/// <param name="Notes">What a reader should know, in sentences.</param>
public sealed record ReadRoster(Roster Roster, ImmutableArray<RosterColumn> Columns, int? HeadLine, string Source, ImmutableArray<string> Notes);

/// <summary>A roster as a table: lines that were typed or pasted, CSV, or a workbook; and back.</summary>
public static class RosterTable
{
    /// <summary>No table has more lines.</summary>
    public const int MostLines = Roster.MostPeople + MostAbove;

    private const int MostAbove = 20;

    // By field the words that stand above it, in tongues that lists come in; without accents and in small letters.
    private static readonly (string Field, RosterColumnKind Is, string[] Words)[] Known =
    [
        ("given", RosterColumnKind.Field, ["given", "given name", "first", "first name", "firstname", "forename", "vorname", "rufname", "prenom", "nombre", "nombre de pila", "nome", "voornaam", "fornavn", "fornamn", "etunimi", "imie", "jmeno", "primeiro nome", "christian name", "имя"]),
        ("family", RosterColumnKind.Field, ["family", "family name", "last", "last name", "lastname", "surname", "nachname", "familienname", "nom", "nom de famille", "apellido", "apellidos", "cognome", "sobrenome", "apelido", "achternaam", "familienaam", "etternavn", "efternavn", "efternamn", "sukunimi", "nazwisko", "prijmeni", "фамилия"]),
        ("name", RosterColumnKind.Field, ["name", "names", "full name", "fullname", "whole name", "player", "member", "volunteer", "naam", "navn", "namn", "nimi", "nom complet", "nom et prenom", "nombre completo", "nombre y apellidos", "nome completo", "vollstandiger name", "имя и фамилия"]),
        ("duty", RosterColumnKind.Field, ["duty", "role", "position", "job", "post", "function", "funktion", "aufgabe", "fonction", "funcion", "cargo", "funzione", "functie"]),
        ("team", RosterColumnKind.Field, ["team", "group", "class", "department", "mannschaft", "gruppe", "equipe", "equipo", "squadra"]),
        (string.Empty, RosterColumnKind.Quantity, ["quantity", "qty", "count", "pieces", "pcs", "how many", "number of garments", "menge", "anzahl", "stuck", "stuckzahl", "quantite", "qte", "nombre de pieces", "cantidad", "quantita", "quantidade", "aantal", "antal", "antall", "ilosc", "количество"]),
        (string.Empty, RosterColumnKind.Garment, ["garment", "shirt", "size", "shirt size", "item", "article", "grosse", "kleidergrosse", "artikel", "taille", "talla", "taglia", "tamanho", "maat", "storlek", "storrelse", "rozmiar", "размер"]),
        (string.Empty, RosterColumnKind.Counting, ["no", "nr", "#", "number", "line", "pos", "lfd nr", "id", "n°", "nº"]),
    ];

    /// <summary>The roster in the bytes of a file.</summary>
    /// <param name="bytes">The file.</param>
    /// <param name="name">What the roster is called.</param>
    /// <param name="encoding">The encoding, where it is told.</param>
    /// <param name="separator">The separator, where it is told.</param>
    /// <param name="headLine">The line of the head, where it is told; 0: there is none.</param>
    /// <exception cref="EditRefusedException">It holds no people; a sentence.</exception>
    public static ReadRoster Read(byte[] bytes, string name, string? encoding = null, char? separator = null, int? headLine = null) =>
        Workbook.LooksLike(bytes) ? Of(Workbook.Read(bytes, MostLines), name, headLine) : Of(TypedTable.Read(bytes, MostLines, new(encoding, separator, KeepsSpaces: true)), name, headLine);

    /// <summary>The roster that was typed or pasted.</summary>
    /// <exception cref="EditRefusedException">It holds no people; a sentence.</exception>
    public static ReadRoster Read(string text, string name, char? separator = null, int? headLine = null) => Of(TypedTable.Read(text, MostLines, new(null, separator, KeepsSpaces: true)), name, headLine);

    /// <summary>The roster that a table holds.</summary>
    /// <param name="table">The table.</param>
    /// <param name="name">What the roster is called.</param>
    /// <param name="headLine">The line of the head, where it is told; 0: there is none.</param>
    public static ReadRoster Of(TypedTable table, string name, int? headLine = null)
    {
        if (table.Rows.IsEmpty) throw new EditRefusedException("There are no names in that list.");
        var notes = new List<string>();
        var rows = Alike(table.Rows, notes);
        var width = rows.Max(r => r.Cells.Length);
        var head = headLine is { } told ? rows.FindIndex(r => r.Line == told) : HeadOf(rows);
        if (head > 0) notes.Add(head == 1 ? "The line above the head was passed over." : $"The {head} lines above the head were passed over.");
        var people = rows.Skip(head + 1).ToList();
        if (people.Count == 0) throw new EditRefusedException("Below the head of that list there is nobody.");
        var columns = ColumnsOf(head >= 0 ? rows[head].Cells : [], people, width);
        var fields = columns.Where(c => c.Field is not null).Select(c => c.Field!).ToList();
        if (fields.Count == 0) throw new EditRefusedException("No column of that list holds names.");
        if (fields.Count > Roster.MostFields) throw new EditRefusedException($"That list has {fields.Count} columns; a roster has at most {Roster.MostFields} fields.");
        var roster = Roster.New(Titles.Clean(name) is { Length: > 0 } called ? called : "Roster", [.. fields]);
        var (odd, garment) = (new List<int>(), string.Empty);
        foreach (var (line, cells) in people)
        {
            string Cell(int c) => c < cells.Length ? cells[c] : string.Empty;
            var (values, quantity) = (new List<string>(), 1);
            garment = string.Empty;
            for (var c = 0; c < columns.Count; c++)
            {
                if (columns[c].Field is not null) values.Add(Cell(c));
                else if (columns[c].Is == RosterColumnKind.Garment) garment = Cell(c).Trim();
                else if (columns[c].Is == RosterColumnKind.Quantity && Cell(c).Trim() is { Length: > 0 } typed)
                {
                    if (double.TryParse(typed, NumberStyles.Float, CultureInfo.InvariantCulture, out var n) && n == Math.Floor(n) && n is >= 1 and <= Person.MostGarments) quantity = (int)n;
                    else odd.Add(line);
                }
            }

            if (values.All(v => v.Trim().Length == 0)) continue;
            roster = roster.Adding(values, quantity, garment);
        }

        if (roster.People.IsEmpty) throw new EditRefusedException("There are no names in that list.");
        if (odd.Count > 0) notes.Add($"On {(odd.Count == 1 ? $"line {odd[0]}" : $"{odd.Count} lines, first on line {odd[0]},")} the quantity is no number from 1 to {Person.MostGarments}; 1 was taken.");
        return new(roster, [.. columns], head >= 0 ? rows[head].Line : null, table.Encoding.StartsWith("workbook", StringComparison.Ordinal) ? table.Encoding : $"{table.Encoding}, {(width == 1 ? "one column" : table.Separator)}", [.. notes]);
    }

    /// <summary>A roster as CSV in UTF-8 with its byte order mark, so that spreadsheets of all tongues show its accents; it is read again as it was.</summary>
    public static byte[] Write(Roster roster)
    {
        var quantities = roster.People.Any(p => p.Quantity != 1);
        var garments = roster.People.Any(p => p.Garment.Length > 0);
        IEnumerable<string> Row(IEnumerable<string> fields, string quantity, string garment) => fields.Concat(quantities ? [quantity] : []).Concat(garments ? [garment] : []);
        return [.. Encoding.UTF8.Preamble, .. Encoding.UTF8.GetBytes(CsvRows.Line(Row(roster.Fields, "quantity", "garment"))
            + string.Concat(roster.People.Select(p => CsvRows.Line(Row(p.Values, p.Quantity.ToString(CultureInfo.InvariantCulture), p.Garment)))))];
    }

    /// <summary>Lines that other signs divide than most are divided by them too.</summary>
    private static List<(int Line, ImmutableArray<string> Cells)> Alike(ImmutableArray<(int Line, ImmutableArray<string> Cells)> rows, List<string> notes)
    {
        var usual = rows.GroupBy(r => r.Cells.Length).MaxBy(g => g.Count())!.Key;
        if (usual == 1) return [.. rows.Select(r => (r.Line, Clean(r.Cells)))];
        var mended = 0;
        var alike = rows.Select(r =>
        {
            if (r.Cells.Length != 1) return (r.Line, Clean(r.Cells));
            foreach (var (sign, _) in TypedTable.Separators)
            {
                var cells = r.Cells[0].Split(sign);
                if (cells.Length < 2 || cells.Length > usual) continue;
                mended++;
                return (r.Line, Clean(cells));
            }

            return (r.Line, Clean(r.Cells));
        }).ToList();
        if (mended > 0) notes.Add(mended == 1 ? "One line was divided by another sign than the others." : $"{mended} lines were divided by another sign than the others.");
        return alike;

        static ImmutableArray<string> Clean(IEnumerable<string> cells) => [.. cells.Select(c => Roster.Value(c.Replace('\t', ' ')))];
    }

    /// <summary>The line that says what the columns are: of the first ones that with most words that are known, unless what it says is said again below it.</summary>
    private static int HeadOf(List<(int Line, ImmutableArray<string> Cells)> rows)
    {
        var (best, most) = (-1, 0);
        for (var n = 0; n < Math.Min(rows.Count - 1, MostAbove); n++)
        {
            var known = rows[n].Cells.Count(c => Named(c) is not null);
            if (known > most) (best, most) = (n, known);
        }

        // One known word among many others is a person called so, not a head.
        return best >= 0 && (most > 1 || rows[best].Cells.Count(c => c.Trim().Length > 0) <= 3) ? best : -1;
    }

    private static List<RosterColumn> ColumnsOf(ImmutableArray<string> head, List<(int Line, ImmutableArray<string> Cells)> people, int width)
    {
        var (columns, taken) = (new List<RosterColumn>(), new HashSet<string>(StringComparer.OrdinalIgnoreCase));

        // "nom" and "nombre" are the whole name where no other column is the given or the family name.
        var named = Enumerable.Range(0, width).Select(c => c < head.Length ? Named(head[c]) : null).ToList();
        for (var c = 0; c < width; c++)
        {
            var heading = c < head.Length ? head[c].Trim() : string.Empty;
            if (people.All(p => c >= p.Cells.Length || p.Cells[c].Trim().Length == 0))
            {
                columns.Add(new(heading, null, RosterColumnKind.Empty));
                continue;
            }

            var kind = named[c]?.Is ?? RosterColumnKind.Field;
            if (kind == RosterColumnKind.Counting && !people.All(p => c >= p.Cells.Length || p.Cells[c].Trim().Length == 0 || p.Cells[c].Trim().TrimEnd('.').All(char.IsAsciiDigit))) kind = RosterColumnKind.Field;
            if (kind != RosterColumnKind.Field)
            {
                columns.Add(new(heading, null, columns.Exists(k => k.Is == kind) ? RosterColumnKind.Empty : kind));
                continue;
            }

            var field = named[c]?.Field is { Length: > 0 } known ? known
                : heading.Length > 0 ? Roster.FieldNamed(heading.Trim('{', '}').Length == 0 ? $"field {c + 1}" : heading)
                : !taken.Contains("name") && !taken.Contains("given") ? width == 1 || people.TrueForAll(p => p.Cells.Length < 2) ? "name" : "given"
                : taken.Contains("given") && !taken.Contains("family") ? "family" : $"field {c + 1}";
            for (var n = 2; !taken.Add(field); n++) field = $"{field.TrimEnd("0123456789".ToCharArray()).TrimEnd()} {n}";
            columns.Add(new(heading, field, RosterColumnKind.Field));
        }

        // Alone, "given" in tongues where it is also the word for the whole name is the whole name.
        if (columns.Count(c => c.Field is not null) == 1 && columns.FindIndex(c => c.Field is "given" or "family") is >= 0 and var only) columns[only] = columns[only] with { Field = "name" };
        return columns;
    }

    private static (string Field, RosterColumnKind Is)? Named(string cell)
    {
        var text = PlainLetters.Of(cell.Trim(' ', '.', ':', '*', '{', '}').ToLowerInvariant()).Replace('_', ' ').Replace('-', ' ').Replace('\u00A0', ' ').Replace(".", string.Empty, StringComparison.Ordinal);
        if (text.Length is 0 or > 30) return null;
        foreach (var (field, kind, words) in Known)
            if (words.Contains(text)) return (field, kind);
        return null;
    }
}
