using Dapper;
using EvenThimble.Core.Shapes;
using EvenThimble.Core.Stitches;
using Microsoft.Data.Sqlite;

namespace EvenThimble.Storage;

/// <summary>Shapes of drawings under their hashes; the recent ones are kept in memory.</summary>
public sealed class ShapeStore(Database database) : IShapeSource
{
    private const long MostNodesKept = 2_000_000;
    private readonly RecentlyMade<BlobHash, DrawnShape> _recent = new(MostNodesKept, s => s.Paths.Sum(p => p.Nodes.Length) + 100);

    /// <inheritdoc/>
    public DrawnShape Get(BlobHash hash) => _recent.Get(hash, () => database.Read(c => Load(c, null, hash)));

    /// <summary>Stores a shape within a change; one that is there already stays.</summary>
    internal static void Put(SqliteConnection connection, SqliteTransaction transaction, DrawnShape shape) =>
        connection.Execute(
            "INSERT INTO shape (hash, packed) VALUES (@hash, @packed) ON CONFLICT (hash) DO NOTHING",
            new { hash = shape.Hash.Hex, packed = Packed.Of(ShapeBytes.Write(shape)) },
            transaction);

    /// <summary>The shapes as a change sees them, those that it has just stored included.</summary>
    internal IShapeSource Within(SqliteConnection connection, SqliteTransaction transaction) => new Inside(this, connection, transaction);

    private static DrawnShape Load(SqliteConnection connection, SqliteTransaction? transaction, BlobHash hash) =>
        connection.QuerySingleOrDefault<byte[]>("SELECT CAST(packed AS BLOB) FROM shape WHERE hash = @hash", new { hash = hash.Hex }, transaction) is { } packed
            && Packed.TryBytes(packed) is { } bytes && BlobHash.Of(bytes) == hash
            ? ShapeBytes.Read(bytes)
            : throw new UnreadableException("A drawn shape of this job is damaged on the disk. Put back a copy of the data (./even-thimble restore), or take an earlier step of the history.");

    private sealed class Inside(ShapeStore store, SqliteConnection connection, SqliteTransaction transaction) : IShapeSource
    {
        public DrawnShape Get(BlobHash hash) => store._recent.Get(hash, () => Load(connection, transaction, hash));
    }
}
