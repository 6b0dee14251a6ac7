using System.Globalization;
using Dapper;
using EvenThimble.Core.Lettering;
using EvenThimble.Core.Stitches;
using EvenThimble.Core.Text;

namespace EvenThimble.Storage;

/// <summary>A lettering font of the user's own, as it is listed.</summary>
/// <param name="Hash">SHA-256 of its file.</param>
/// <param name="Name">As it is called here; no two have the same.</param>
/// <param name="FileName">The name that its file came under.</param>
public sealed record OwnFont(string Hash, string Name, string FileName);

/// <summary>Lettering fonts of the user's own, the pairs of letters that were set by hand for any font, and which fonts were used last.</summary>
public sealed class FontStore(Database database, TimeProvider clock)
{
    /// <summary>No more fonts of one's own are kept.</summary>
    public const int MostFonts = 200;

    private string Now => clock.GetUtcNow().ToString("O", CultureInfo.InvariantCulture);

    /// <summary>The fonts of the user's own, by name.</summary>
    public IReadOnlyList<OwnFont> Own => database.Read(c => c.Query<OwnFont>("SELECT hash AS Hash, name AS Name, file_name AS FileName FROM letter_font ORDER BY name").ToList());

    /// <summary>When fonts were last written with, by name.</summary>
    public IReadOnlyDictionary<string, DateTimeOffset> LastUses =>
        database.Read(c => c.Query<(string Name, string At)>("SELECT name, used_at FROM letter_font_use").ToDictionary(u => u.Name, u => DateTimeOffset.Parse(u.At, CultureInfo.InvariantCulture)));

    /// <summary>The file of a font; null: it is gone, or is not what its hash says.</summary>
    public byte[]? File(string hash) =>
        database.Read(c => c.QuerySingleOrDefault<byte[]>("SELECT bytes FROM letter_font WHERE hash = @hash", new { hash })) is { } bytes && BlobHash.Of(bytes).Hex == hash ? bytes : null;

    /// <summary>Keeps a font; one that is there already stays as it is. Where another has its name, it gets a number.</summary>
    /// <exception cref="EditRefusedException">There are too many.</exception>
    public OwnFont Add(string name, string fileName, byte[] bytes, IReadOnlyCollection<string> taken) => database.Write((c, t) =>
    {
        var hash = BlobHash.Of(bytes).Hex;
        var own = c.Query<OwnFont>("SELECT hash AS Hash, name AS Name, file_name AS FileName FROM letter_font", transaction: t).ToList();
        if (own.Find(f => f.Hash == hash) is { } known) return known;
        if (own.Count >= MostFonts) throw new EditRefusedException($"{MostFonts} fonts of your own are here already. Take out one that you do not use.");
        var names = own.Select(f => f.Name).Concat(taken).ToHashSet(StringComparer.OrdinalIgnoreCase);
        var free = Enumerable.Range(1, names.Count + 1).Select(n => n == 1 ? name : $"{name} {n}").First(n => !names.Contains(n));
        var font = new OwnFont(hash, free, Titles.FileName(fileName));
        c.Execute("INSERT INTO letter_font (hash, name, file_name, bytes, added_at) VALUES (@Hash, @Name, @FileName, @bytes, @now)", new { font.Hash, font.Name, font.FileName, bytes, now = Now }, t);
        return font;
    });

    /// <summary>Takes a font out, with the pairs that were set for it; false when there is none.</summary>
    public bool Remove(string hash) => database.Write((c, t) =>
    {
        c.Execute("DELETE FROM kerning_pair WHERE font = (SELECT name FROM letter_font WHERE hash = @hash)", new { hash }, t);
        c.Execute("DELETE FROM letter_font_use WHERE name = (SELECT name FROM letter_font WHERE hash = @hash)", new { hash }, t);
        return c.Execute("DELETE FROM letter_font WHERE hash = @hash", new { hash }, t) == 1;
    });

    /// <summary>Notes that a font was written with.</summary>
    public void Use(string name) => database.Write((c, t) =>
        c.Execute("INSERT INTO letter_font_use (name, used_at) VALUES (@name, @now) ON CONFLICT (name) DO UPDATE SET used_at = excluded.used_at", new { name, now = Now }, t));

    /// <summary>The pairs that were set by hand for a font.</summary>
    public KerningTable KerningOf(string font) => database.Read(c => c.Query<(string Left, string Right, double Share)>("SELECT left_text, right_text, share FROM kerning_pair WHERE font = @font", new { font }))
        .Aggregate(KerningTable.Empty, (table, p) => table.With(p.Left, p.Right, p.Share));

    /// <summary>Keeps the pairs of a font instead of those that were there.</summary>
    public void Keep(string font, KerningTable table) => database.Write((c, t) =>
    {
        c.Execute("DELETE FROM kerning_pair WHERE font = @font", new { font }, t);
        return c.Execute("INSERT INTO kerning_pair (font, left_text, right_text, share) VALUES (@font, @Left, @Right, @Share)", table.Pairs.Select(p => new { font, p.Left, p.Right, p.Share }), t);
    });
}
