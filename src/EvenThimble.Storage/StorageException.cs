using System.Globalization;
using Microsoft.Data.Sqlite;

namespace EvenThimble.Storage;

/// <summary>Something could not be stored or read; the message is a sentence for the user, and nothing was changed.</summary>
public sealed class StorageException(string message, Exception? inner = null) : Exception(message, inner)
{
    // Result codes of SQLite, https://www.sqlite.org/rescode.html
    internal const int Busy = 5;
    private const int ReadOnly = 8;
    private const int IoError = 10;
    private const int Corrupt = 11;
    private const int Full = 13;
    private const int CannotOpen = 14;
    private const int NoDatabase = 26;

    /// <summary>The sentence for an error of the database.</summary>
    /// <param name="e">The error.</param>
    /// <param name="folder">The data folder, where the copies of it are to be named.</param>
    public static StorageException From(SqliteException e, string? folder = null) => new(
        e.SqliteErrorCode switch
        {
            Full => "The disk is full, so nothing was stored. Free some space and do it again; all that was there before is safe.",
            ReadOnly => "The data folder cannot be written to, so nothing was stored. Allow writing to it and do it again; all that was there before is safe.",
            IoError => "The disk refused to read or write, so nothing was stored. Look at the disk; all that was stored before is kept.",
            CannotOpen => "The data folder cannot be opened. Check that it exists and may be written to.",
            Corrupt or NoDatabase => $"The data file is damaged. Stop Even Thimble; “./even-thimble restore” puts back {Newest(folder)}, and keeps the damaged file beside it.",
            Busy => "The data folder is busy with another program. Wait a moment and do it again.",
            _ => $"The data could not be stored (code {e.SqliteErrorCode}). Nothing was changed.",
        },
        e);

    private static string Newest(string? folder) =>
        folder is null ? "the last copy" : Backups.In(folder) is [var newest, ..] ? string.Create(CultureInfo.InvariantCulture, $"the copy of {newest.MadeAt:yyyy-MM-dd HH:mm} UTC") : "a copy, if there is one (none was found in the folder backups)";
}
