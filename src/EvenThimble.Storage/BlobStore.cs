using Dapper;
using EvenThimble.Core.Files.Stitch;
using EvenThimble.Core.Stitches;
using EvenThimble.Core.Text;
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
        var bytes = database.Read(c => c.QuerySingleOrDefault<byte[]>("SELECT CAST(bytes AS BLOB) FROM stitch_blob WHERE hash = @hash", new { hash = hash.Hex }));
        return bytes is not null && BlobHash.Of(bytes) == hash ? StitchBlob.FromBytes(bytes) : Mended(hash);
    }

    /// <summary>Stitches that are gone or not what their name says, made anew from the file that they came in.</summary>
    /// <exception cref="UnreadableException">There is no such file, or it gives other stitches.</exception>
    private StitchBlob Mended(BlobHash hash)
    {
        var design = database.Read(c => c.QueryFirstOrDefault<(string Title, string FileName, byte[] Original)?>("SELECT title, file_name, original FROM design WHERE blob_hash = @hash UNION ALL SELECT path, path, bytes FROM letter_set_file WHERE blob_hash = @hash LIMIT 1", new { hash = hash.Hex }));
        if (design is not { } from) throw new UnreadableException("Stitches of this job are damaged on the disk, and the file that they came in is not here. Put back a copy of the data (./even-thimble restore), or take an earlier step of the history.");
        try
        {
            var (_, file) = StitchFormats.Read(from.Original, from.FileName);
            if (file.Stitches.Hash == hash)
            {
                database.Write((c, t) => c.Execute("INSERT INTO stitch_blob (hash, bytes) VALUES (@hash, @bytes) ON CONFLICT (hash) DO UPDATE SET bytes = excluded.bytes", new { hash = hash.Hex, bytes = file.Stitches.ToBytes() }, t));
                return file.Stitches;
            }
        }
        catch (StitchFileException)
        {
            // The file is damaged too, and so cannot help.
        }

        throw new UnreadableException($"The stitches of “{from.Title}” are damaged on the disk, and so is the file that they came in. Put back a copy of the data (./even-thimble restore), or bring the file in anew.");
    }
}
