using System.Globalization;
using Dapper;
using EvenThimble.Core.Files.Jobs;
using EvenThimble.Core.Names;
using EvenThimble.Core.Text;
using Microsoft.Data.Sqlite;

namespace EvenThimble.Storage;

/// <summary>A roster in a list.</summary>
/// <param name="Id">Its number.</param>
/// <param name="Name">As the user reads it.</param>
/// <param name="People">How many are in it.</param>
/// <param name="Version">Grows with every change.</param>
public sealed record RosterLine(long Id, string Name, long People, long Version);

/// <summary>A roster as it is kept.</summary>
/// <param name="Id">Its number.</param>
/// <param name="Version">Grows with every change.</param>
/// <param name="Roster">The roster.</param>
/// <param name="CanUndo">What it was before is known.</param>
public sealed record KeptRoster(long Id, long Version, Roster Roster, bool CanUndo);

/// <summary>Rosters that are kept, each with what it was before its last changes.</summary>
public sealed class RosterStore(Database database, TimeProvider clock)
{
    private const int Most = 500;
    private const int KeptBefore = 60;

    private sealed record Kept(long Version, string Document);

    private sealed record Row(long Id, long Version, string Name, int People, string Document, string Now)
    {
        public static Row Of(Roster roster, TimeProvider clock, long id, long version) => new(id, version, roster.Name, roster.People.Length, JobDocument.ToJson(roster), clock.GetUtcNow().ToString("O", CultureInfo.InvariantCulture));
    }

    /// <summary>All, the last changed first.</summary>
    public IReadOnlyList<RosterLine> All => database.Read(c => c.Query<RosterLine>("SELECT id, name, people, version FROM roster ORDER BY changed_at DESC, id DESC").ToList());

    /// <summary>A roster, or null.</summary>
    /// <exception cref="UnreadableException">It cannot be read any more.</exception>
    public KeptRoster? Find(long id) => database.Read(c => c.QuerySingleOrDefault<Kept>("SELECT version, document FROM roster WHERE id = @id", new { id }) is not { } row ? null
        : new KeptRoster(id, row.Version, Read(row.Document), c.ExecuteScalar<bool>("SELECT EXISTS (SELECT 1 FROM roster_before WHERE roster_id = @id)", new { id })));

    /// <summary>Keeps a new one; its number.</summary>
    /// <exception cref="EditRefusedException">It cannot be kept.</exception>
    public long Add(Roster roster)
    {
        roster.Check();
        return database.Write((c, t) => c.ExecuteScalar<long>("SELECT COUNT(*) FROM roster", transaction: t) >= Most
            ? throw new EditRefusedException($"There are {Most} rosters already. Delete those that are not used any more.")
            : c.ExecuteScalar<long>("INSERT INTO roster (name, people, version, document, changed_at) VALUES (@Name, @People, 1, @Document, @Now) RETURNING id", Row.Of(roster, clock, 0, 1), t));
    }

    /// <summary>Changes one; what it was is kept. Null: there is none.</summary>
    /// <exception cref="EditRefusedException">It cannot become that.</exception>
    public KeptRoster? Change(long id, Func<Roster, Roster> change)
    {
        database.Write((c, t) =>
        {
            if (c.QuerySingleOrDefault<Kept>("SELECT version, document FROM roster WHERE id = @id", new { id }, t) is not { } row) return 0;
            var before = Read(row.Document);
            var after = change(before);
            if (after == before) return 0;
            after.Check();
            c.Execute("INSERT INTO roster_before (roster_id, version, document) VALUES (@id, @Version, @Document)", new { id, row.Version, row.Document }, t);
            c.Execute("DELETE FROM roster_before WHERE roster_id = @id AND version <= @last", new { id, last = row.Version - KeptBefore }, t);
            return Put(c, t, id, row.Version + 1, after);
        });
        return Find(id);
    }

    /// <summary>Makes it what it was before its last change. Null: there is none.</summary>
    public KeptRoster? Undo(long id)
    {
        database.Write((c, t) =>
        {
            if (c.QuerySingleOrDefault<Kept>("SELECT version, document FROM roster_before WHERE roster_id = @id ORDER BY version DESC LIMIT 1", new { id }, t) is not { } row) return 0;
            c.Execute("DELETE FROM roster_before WHERE roster_id = @id AND version = @Version", new { id, row.Version }, t);
            var version = c.ExecuteScalar<long>("SELECT version FROM roster WHERE id = @id", new { id }, t);
            return Put(c, t, id, version + 1, Read(row.Document));
        });
        return Find(id);
    }

    /// <summary>Deletes one; false when there is none. Jobs keep the names that they took.</summary>
    public bool Delete(long id) => database.Write((c, t) => c.Execute("DELETE FROM roster_before WHERE roster_id = @id; DELETE FROM roster WHERE id = @id", new { id }, t) > 0);

    private int Put(SqliteConnection c, SqliteTransaction t, long id, long version, Roster roster) =>
        c.Execute("UPDATE roster SET name = @Name, people = @People, version = @Version, document = @Document, changed_at = @Now WHERE id = @Id", Row.Of(roster, clock, id, version), t);

    private static Roster Read(string document)
    {
        try
        {
            return JobDocument.RosterFromJson(document);
        }
        catch (InvalidDataException e)
        {
            throw new UnreadableException("This roster cannot be read any more.", e);
        }
    }
}
