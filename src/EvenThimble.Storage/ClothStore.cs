using System.Globalization;
using Dapper;
using EvenThimble.Core.Craft;
using EvenThimble.Core.Files.Jobs;

namespace EvenThimble.Storage;

/// <summary>Cloth profiles: those that come with the program, and the user's own.</summary>
public sealed class ClothStore(Database database, TimeProvider clock)
{
    /// <summary>All profiles, the program's first.</summary>
    public IReadOnlyList<ClothProfile> All =>
        [.. ClothProfiles.All, .. database.Read(c => c.Query<string>("SELECT document FROM cloth_profile ORDER BY made_at, id").ToList()).Select(Readable).OfType<ClothProfile>()];

    /// <summary>The profile of an id, or null.</summary>
    public ClothProfile? Find(string? id) => ClothProfiles.Find(id)
        ?? (database.Read(c => c.QuerySingleOrDefault<string>("SELECT document FROM cloth_profile WHERE id = @id", new { id })) is { } own ? Readable(own) : null);

    /// <summary>Keeps a profile of the user's own; an empty id makes a new one. Jobs keep the profile that they were laid on.</summary>
    public ClothProfile Save(ClothProfile profile) => database.Write((c, t) =>
    {
        var made = profile.IsOwn ? profile : profile with { Id = $"{ClothProfile.OwnPrefix}{1 + c.ExecuteScalar<long>("SELECT coalesce(max(CAST(substr(id, 5) AS INTEGER)), 0) FROM cloth_profile", transaction: t)}" };
        c.Execute(
            "INSERT INTO cloth_profile (id, document, made_at) VALUES (@Id, @document, @now) ON CONFLICT (id) DO UPDATE SET document = excluded.document",
            new { made.Id, document = JobDocument.ToJson(made), now = clock.GetUtcNow().ToString("O", CultureInfo.InvariantCulture) },
            t);
        return made;
    });

    /// <summary>The profile of a document; null where it cannot be read, so that the others still can be chosen.</summary>
    private static ClothProfile? Readable(string document)
    {
        try
        {
            return JobDocument.ProfileFromJson(document);
        }
        catch (InvalidDataException)
        {
            return null;
        }
    }

    /// <summary>Deletes a profile of the user's own; false when there is none.</summary>
    public bool Delete(string id) => database.Write((c, t) => c.Execute("DELETE FROM cloth_profile WHERE id = @id", new { id }, t) == 1);
}
