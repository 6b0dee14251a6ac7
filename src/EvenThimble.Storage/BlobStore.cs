using Dapper;
using EvenThimble.Core.Stitches;
using Microsoft.Data.Sqlite;

namespace EvenThimble.Storage;

/// <summary>Stitch blobs under their hashes; the recent ones are kept in memory.</summary>
public sealed class BlobStore(Database database) : IStitchSource
{
    private const long MostRecordsKept = 1_500_000;
    private readonly RecentlyMade<BlobHash, StitchBlob> _recent = new(MostRecordsKept, b => b.Count + 100);

    /// <inheritdoc/>
    public StitchBlob Get(BlobHash hash) => _recent.Get(hash, () => Load(hash));

    /// <summary>Stores a blob within a change; one that is there already stays.</summary>
    internal static void Put(SqliteConnection connection, SqliteTransaction transaction, StitchBlob blob) =>
        connection.Execute(
            "INSERT INTO stitch_blob (hash, bytes) VALUES (@hash, @bytes) ON CONFLICT (hash) DO NOTHING",
            new { hash = blob.Hash.Hex, bytes = blob.ToBytes() },
            transaction);

    private StitchBlob Load(BlobHash hash)
    {
        var bytes = database.Read(c => c.QuerySingleOrDefault<byte[]>("SELECT bytes FROM stitch_blob WHERE hash = @hash", new { hash = hash.Hex }))
            ?? throw new KeyNotFoundException($"There are no stitches under {hash}.");
        return StitchBlob.FromBytes(bytes);
    }
}
