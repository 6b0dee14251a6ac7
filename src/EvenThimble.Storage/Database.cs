using System.Data;
using Dapper;
using DbUp;
using DbUp.Engine.Output;
using EvenThimble.Core.Files;
using EvenThimble.Core.Threads;
using Microsoft.Data.Sqlite;

namespace EvenThimble.Storage;

/// <summary>The SQLite file in the data folder. Every change is one transaction, on the disk before the call returns.</summary>
public sealed class Database
{
    /// <summary>The name of its file in the data folder.</summary>
    public const string FileName = "even-thimble.db";

    private const int SecondsToWait = 5;
    private readonly string _connectionString;
    private readonly string _path;
    private string? _identity;
    private long _busySince = long.MinValue;

    private Database(string folder)
    {
        Folder = folder;
        _path = Path.Combine(folder, FileName);
        _connectionString = new SqliteConnectionStringBuilder { DataSource = _path, ForeignKeys = true, DefaultTimeout = SecondsToWait }.ToString();
    }

    /// <summary>The data folder.</summary>
    public string Folder { get; }

    /// <summary>What was told when it was opened of values that could not be what they should, and were put back to nothing; null: all was sound.</summary>
    public string? Mended { get; private set; }

    /// <summary>Whether another program has lately kept it from being used, so that there is no sense in waiting for it.</summary>
    public bool IsBusy => Interlocked.Read(ref _busySince) is var since && since != long.MinValue && Environment.TickCount64 - since < (SecondsToWait + 1) * 1000;

    /// <summary>Opens the data folder: makes it, brings its tables up to date, lays in the thread charts where they are missing, and gives up stitches and shapes that nothing names any more.</summary>
    /// <exception cref="StorageException">The folder cannot be made, written or read.</exception>
    public static Database Open(string folder)
    {
        try
        {
            Directory.CreateDirectory(folder);
            var database = new Database(folder);
            var upgrade = DeployChanges.To.SqliteDatabase(database._connectionString)
                .WithScriptsEmbeddedInAssembly(typeof(Database).Assembly)
                .WithTransactionPerScript()
                .LogTo(new NoOpUpgradeLog())
                .Build()
                .PerformUpgrade();
            if (!upgrade.Successful) throw upgrade.Error is SqliteException e ? StorageException.From(e, folder) : new StorageException($"The data folder could not be prepared: {upgrade.Error.Message}", upgrade.Error);
            database.Mend();
            database.Write((connection, transaction) =>
            {
                LayInCharts(connection, transaction);
                DocumentUpgrade.Run(connection, transaction);
                return Revisions.Collect(connection, transaction);
            });
            database._identity = FileKind.Of(database._path)?.Identity;
            return database;
        }
        catch (Exception e) when (e is IOException or UnauthorizedAccessException)
        {
            throw new StorageException($"The data folder {folder} cannot be made or written. Choose another with --data.", e);
        }
        catch (SqliteException e)
        {
            throw StorageException.From(e, folder);
        }
    }

    /// <summary>A database that is there, to be read as it is, beside a program that may work in it.</summary>
    public static Database OpenToRead(string folder) => new(folder);

    /// <summary>Runs a reading.</summary>
    /// <exception cref="StorageException">It could not be read.</exception>
    public T Read<T>(Func<SqliteConnection, T> work)
    {
        return InWords(() =>
        {
            using var connection = OpenConnection();
            return work(connection);
        });
    }

    /// <summary>Runs a change as one transaction: wholly or not at all.</summary>
    /// <exception cref="StorageException">It could not be stored; nothing was changed.</exception>
    public T Write<T>(Func<SqliteConnection, SqliteTransaction, T> work)
    {
        return InWords(() =>
        {
            using var connection = OpenConnection();
            using var transaction = connection.BeginTransaction(IsolationLevel.Serializable);
            var result = work(connection, transaction);
            MustBeInPlace();
            transaction.Commit();
            return result;
        });
    }

    private T InWords<T>(Func<T> work)
    {
        MustBeInPlace();
        try
        {
            var result = work();
            Interlocked.Exchange(ref _busySince, long.MinValue);
            return result;
        }
        catch (Exception e) when (e is DataException or FormatException or OverflowException or InvalidCastException)
        {
            throw new UnreadableException("What is stored of that is damaged and cannot be read. Stop Even Thimble and start it again, or put back a copy of the data (./even-thimble restore).", e);
        }
        catch (SqliteException e)
        {
            if (e.SqliteErrorCode == StorageException.Busy) Interlocked.Exchange(ref _busySince, Environment.TickCount64);
            throw StorageException.From(e);
        }
    }

    private void Mend()
    {
        using var connection = new SqliteConnection(new SqliteConnectionStringBuilder(_connectionString) { ForeignKeys = false, Pooling = false }.ToString());
        connection.Open();
        var aside = $"damaged-{DateTime.UtcNow:yyyyMMdd-HHmmss}.db";
        var mended = SoundColumns.Mend(connection, () =>
        {
            // Not a copy as Backups makes them: those are checked, and this one is damaged.
            using var source = new SqliteConnection(connection.ConnectionString);
            source.Open();
            using var copy = new SqliteConnection(new SqliteConnectionStringBuilder { DataSource = Path.Combine(Folder, aside), Pooling = false }.ToString());
            copy.Open();
            source.BackupDatabase(copy);
        });
        if (mended.Count > 0)
            Mended = $"Some of what is stored was damaged and was put back to nothing: {string.Join(", ", mended.Take(6))}{(mended.Count > 6 ? " and more" : string.Empty)}. Look that over, or put back a copy of the data (./even-thimble restore). The data as they were lie in {aside}.";
    }

    /// <summary>What is open may have another name by now, or none: whatever were stored in it would be lost.</summary>
    private void MustBeInPlace()
    {
        if (_identity is { } known && FileKind.Of(_path)?.Identity != known)
            throw new StorageException($"The data folder was deleted, moved or exchanged while Even Thimble was running, so nothing was stored. Put it back to {Folder}, or stop Even Thimble and start it again.");
    }

    private SqliteConnection OpenConnection()
    {
        var connection = new SqliteConnection(_connectionString);
        connection.Open();
        connection.Execute("PRAGMA journal_mode = WAL; PRAGMA synchronous = FULL;");
        return connection;
    }

    private static void LayInCharts(SqliteConnection connection, SqliteTransaction transaction)
    {
        if (connection.ExecuteScalar<long>("SELECT count(*) FROM thread_chart WHERE own = 0", transaction: transaction) == 0)
        {
            foreach (var chart in MadeUpCharts.All)
            {
                var id = connection.ExecuteScalar<long>("INSERT INTO thread_chart (maker, range) VALUES (@Maker, @Range) RETURNING id", chart, transaction);
                connection.Execute(
                    "INSERT INTO thread (chart_id, place, number, name, colour) VALUES (@id, @place, @Number, @Name, @colour)",
                    chart.Threads.Select((t, place) => new { id, place, t.Number, t.Name, colour = t.Colour.Hex }),
                    transaction);
            }
        }

        // Folders of earlier versions have the charts without prices; one price holds for a whole range.
        connection.Execute(
            "UPDATE thread SET price = @price WHERE price IS NULL AND chart_id = (SELECT id FROM thread_chart WHERE maker = @Maker AND range = @Range AND own = 0)",
            MadeUpCharts.All.Select(chart => new { chart.Maker, chart.Range, price = chart.Sold[0].Price?.ToString(System.Globalization.CultureInfo.InvariantCulture) }),
            transaction);
    }
}
