using System.Globalization;
using Dapper;
using EvenThimble.Core.Files;
using Microsoft.Data.Sqlite;

namespace EvenThimble.Storage;

/// <summary>A copy of the database.</summary>
/// <param name="Path">Where it lies.</param>
/// <param name="MadeAt">When it was made.</param>
/// <param name="Bytes">Its size.</param>
public sealed record BackupCopy(string Path, DateTimeOffset MadeAt, long Bytes);

/// <summary>Copies of the database in the folder <c>backups</c> of the data folder: made while the program runs, checked before they count, the last few kept.</summary>
public static class Backups
{
    /// <summary>So many of the last are kept.</summary>
    public const int Kept = 7;

    private const string FolderName = "backups";
    private const string Stamp = "yyyyMMdd-HHmmss-fff";
    private const string Prefix = "even-thimble-";

    /// <summary>The copies of a data folder, the newest first.</summary>
    public static IReadOnlyList<BackupCopy> In(string dataFolder) => !Directory.Exists(Path.Combine(dataFolder, FolderName)) ? [] :
    [
        .. Directory.EnumerateFiles(Path.Combine(dataFolder, FolderName), $"{Prefix}*.db")
            .Select(p => DateTimeOffset.TryParseExact(Path.GetFileNameWithoutExtension(p)[Prefix.Length..], Stamp, CultureInfo.InvariantCulture, DateTimeStyles.AssumeUniversal, out var at) ? new BackupCopy(p, at, new FileInfo(p).Length) : null)
            .OfType<BackupCopy>().OrderByDescending(c => c.MadeAt),
    ];

    /// <summary>Makes a copy now, beside those that are there; the oldest beyond <see cref="Kept"/> go once it is whole.</summary>
    /// <exception cref="StorageException">It could not be made, or is not whole; the copies that were there are there still.</exception>
    public static BackupCopy Make(Database database, TimeProvider clock)
    {
        var folder = Path.Combine(database.Folder, FolderName);
        var now = clock.GetUtcNow();
        var path = Path.Combine(folder, $"{Prefix}{now.ToString(Stamp, CultureInfo.InvariantCulture)}.db");
        try
        {
            Directory.CreateDirectory(folder);
            CopyTo(database, path);
            foreach (var old in In(database.Folder).Skip(Kept)) File.Delete(old.Path);
            return new(path, now, new FileInfo(path).Length);
        }
        catch (Exception e) when (e is IOException or UnauthorizedAccessException)
        {
            throw new StorageException("No copy of the data could be made: the disk is full or does not allow it. The copies that were there are there still.", e);
        }
    }

    /// <summary>Copies the database to a file, whole and checked, or not at all.</summary>
    /// <exception cref="StorageException">It could not be read, or the copy is not whole.</exception>
    public static void CopyTo(Database database, string path)
    {
        var unfinished = Path.Combine(Path.GetDirectoryName(Path.GetFullPath(path))!, $".{Guid.NewGuid():N}{AtomicFile.Unfinished}");
        try
        {
            database.Read(source =>
            {
                using var copy = Alone(unfinished, SqliteOpenMode.ReadWriteCreate);
                source.BackupDatabase(copy);
                copy.Execute("PRAGMA journal_mode = DELETE");
                return 0;
            });
            if (WhatIsWrong(unfinished) is { } wrong) throw new StorageException($"The copy is not whole: {wrong} It was not kept.");
            File.Move(unfinished, path, overwrite: true);
        }
        finally
        {
            File.Delete(unfinished);
        }
    }

    /// <summary>Puts a copy in the place of the database; what was there is kept beside it. No program may work in the folder.</summary>
    /// <returns>Where that which was there lies now; null where there was none.</returns>
    /// <exception cref="StorageException">The copy is not whole; nothing was changed.</exception>
    public static string? Restore(DataFolder folder, string copy, TimeProvider clock)
    {
        if (!File.Exists(copy)) throw new StorageException($"There is no copy {copy}. Nothing was changed.");
        if (WhatIsWrong(copy) is { } wrong) throw new StorageException($"The copy {copy} cannot be used: {wrong} Nothing was changed.");
        try
        {
            var database = Path.Combine(folder.Path, Database.FileName);
            var bytes = Path.Combine(folder.Path, $".{Guid.NewGuid():N}{AtomicFile.Unfinished}");
            File.Copy(copy, bytes);
            var aside = File.Exists(database) ? Path.Combine(folder.Path, $"before-restore-{clock.GetUtcNow().ToString(Stamp, CultureInfo.InvariantCulture)}.db") : null;
            if (aside is not null)
                foreach (var ending in new[] { "-wal", "-shm", string.Empty })
                    if (File.Exists(database + ending))
                        File.Move(database + ending, aside + ending);
            File.Move(bytes, database);
            return aside;
        }
        catch (Exception e) when (e is IOException or UnauthorizedAccessException)
        {
            throw new StorageException("The copy could not be put back: the disk is full or does not allow it. What was there lies in the data folder still.", e);
        }
    }

    /// <summary>What keeps a file from being used as a database, in a sentence; null when it is whole.</summary>
    public static string? WhatIsWrong(string path)
    {
        try
        {
            using var connection = Alone(path, SqliteOpenMode.ReadOnly);
            if (connection.ExecuteScalar<string>("PRAGMA integrity_check") is not "ok" and var said) return $"it is damaged ({said?.Split('\n')[0]}).";
            return connection.ExecuteScalar<long>("SELECT count(*) FROM sqlite_master WHERE name IN ('job', 'design', 'revision')") == 3 ? null : "it holds no jobs and designs.";
        }
        catch (SqliteException)
        {
            return "it is no database, or it is damaged.";
        }
    }

    private static SqliteConnection Alone(string path, SqliteOpenMode mode)
    {
        var connection = new SqliteConnection(new SqliteConnectionStringBuilder { DataSource = path, Mode = mode, Pooling = false }.ToString());
        connection.Open();
        return connection;
    }
}
