using System.Globalization;
using Dapper;
using EvenThimble.Core.Files.Letters;
using EvenThimble.Core.LetterSets;
using EvenThimble.Core.Text;

namespace EvenThimble.Storage;

/// <summary>A letter set as it is listed.</summary>
/// <param name="Id">Its number.</param>
/// <param name="Name">What it is called; no two have the same.</param>
/// <param name="Version">Grows with every change.</param>
public sealed record LetterSetLine(long Id, string Name, long Version);

/// <summary>Letter sets: their files as they came, and what was put right about them. The stitches of their letters are stored with all others, so that jobs can name them.</summary>
public sealed class LetterSetStore(Database database, TimeProvider clock)
{
    /// <summary>No more sets are kept.</summary>
    public const int MostSets = 200;

    /// <summary>All sets, by name.</summary>
    public IReadOnlyList<LetterSetLine> All => database.Read(c => c.Query<LetterSetLine>("SELECT id AS Id, name AS Name, version AS Version FROM letter_set ORDER BY name").ToList());

    /// <summary>Keeps a set with its files. Where another has its name, it gets a number.</summary>
    /// <exception cref="EditRefusedException">There are too many.</exception>
    public LetterSetLine Add(LetterSetSource set, IEnumerable<CameFile> files) => database.Write((c, t) =>
    {
        var names = c.Query<string>("SELECT name FROM letter_set", transaction: t).ToHashSet(StringComparer.OrdinalIgnoreCase);
        if (names.Count >= MostSets) throw new EditRefusedException($"{MostSets} letter sets are here already. Take out one that you do not use.");
        var name = Enumerable.Range(1, names.Count + 1).Select(n => n == 1 ? set.Name : $"{set.Name} {n}").First(n => !names.Contains(n));
        var id = c.ExecuteScalar<long>(
            "INSERT INTO letter_set (name, document, version, added_at) VALUES (@name, @document, 1, @now) RETURNING id",
            new { name, document = LetterSetArchive.ToJson(set with { Name = name }), now = clock.GetUtcNow().ToString("O", CultureInfo.InvariantCulture) }, t);
        var read = set.Files.ToDictionary(f => f.Path);
        foreach (var file in files)
        {
            var stitches = read.GetValueOrDefault(file.Path)?.Design?.Stitches;
            if (stitches is not null) BlobStore.Put(c, t, stitches);
            c.Execute("INSERT INTO letter_set_file (set_id, path, bytes, blob_hash) VALUES (@id, @Path, @Bytes, @hash)", new { id, file.Path, file.Bytes, hash = stitches?.Hash.Hex }, t);
        }

        return new LetterSetLine(id, name, 1);
    });

    /// <summary>What was put right about a set, and its files; null: there is none.</summary>
    public (LetterSetLine Line, string Document, IReadOnlyList<CameFile> Files)? Find(long id) => database.Read(c =>
    {
        if (c.QuerySingleOrDefault<(long Id, string Name, long Version, string Document)?>("SELECT id, name, version, document FROM letter_set WHERE id = @id", new { id }) is not { } set) return default((LetterSetLine, string, IReadOnlyList<CameFile>)?);
        return (new(set.Id, set.Name, set.Version), set.Document, c.Query<(string Path, byte[] Bytes)>("SELECT path, bytes FROM letter_set_file WHERE set_id = @id ORDER BY path", new { id }).Select(f => new CameFile(f.Path, f.Bytes)).ToList());
    });

    /// <summary>Keeps what was put right about a set, if nobody has changed it since.</summary>
    /// <exception cref="EditRefusedException">The set has been changed or taken out meanwhile, or another has its name.</exception>
    public void Save(long id, long version, LetterSetSource set) => database.Write((c, t) =>
    {
        if (c.ExecuteScalar<long>("SELECT count(*) FROM letter_set WHERE name = @Name AND id <> @id", new { set.Name, id }, t) > 0) throw new EditRefusedException($"Another letter set is called {set.Name}. Choose another name.");
        return c.Execute("UPDATE letter_set SET name = @Name, document = @document, version = version + 1 WHERE id = @id AND version = @version", new { set.Name, document = LetterSetArchive.ToJson(set), id, version }, t) == 1
            ? true : throw new EditRefusedException("This letter set was changed in another window. It is shown here as it is now; do it again.");
    });

    /// <summary>Takes a set out; false when there is none. Jobs keep the letters that they have.</summary>
    public bool Remove(long id) => database.Write((c, t) =>
    {
        c.Execute("DELETE FROM letter_set_file WHERE set_id = @id", new { id }, t);
        return c.Execute("DELETE FROM letter_set WHERE id = @id", new { id }, t) == 1;
    });
}
