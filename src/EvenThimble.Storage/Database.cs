using System.Data;
using Dapper;
using DbUp;
using DbUp.Engine.Output;
using EvenThimble.Core.Threads;
using Microsoft.Data.Sqlite;

namespace EvenThimble.Storage;

/// <summary>The SQLite file in the data folder. Every change is one transaction, on the disk before the call returns.</summary>
public sealed class Database
{
    private readonly string _connectionString;

    private Database(string folder)
    {
        Folder = folder;
        _connectionString = new SqliteConnectionStringBuilder { DataSource = Path.Combine(folder, "even-thimble.db"), ForeignKeys = true, DefaultTimeout = 10 }.ToString();
    }

    /// <summary>The data folder.</summary>
    public string Folder { get; }

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
            if (!upgrade.Successful) throw upgrade.Error is SqliteException e ? StorageException.From(e) : new StorageException($"The data folder could not be prepared: {upgrade.Error.Message}", upgrade.Error);
            database.Write((connection, transaction) =>
            {
                LayInCharts(connection, transaction);
                DocumentUpgrade.Run(connection, transaction);
                return Revisions.Collect(connection, transaction);
            });
            return database;
        }
        catch (Exception e) when (e is IOException or UnauthorizedAccessException)
        {
            throw new StorageException($"The data folder {folder} cannot be made or written. Choose another with --data.", e);
        }
        catch (SqliteException e)
        {
            throw StorageException.From(e);
        }
    }

    /// <summary>Runs a reading.</summary>
    /// <exception cref="StorageException">It could not be read.</exception>
    public T Read<T>(Func<SqliteConnection, T> work)
    {
        try
        {
            using var connection = OpenConnection();
            return work(connection);
        }
        catch (SqliteException e)
        {
            throw StorageException.From(e);
        }
    }

    /// <summary>Runs a change as one transaction: wholly or not at all.</summary>
    /// <exception cref="StorageException">It could not be stored; nothing was changed.</exception>
    public T Write<T>(Func<SqliteConnection, SqliteTransaction, T> work)
    {
        try
        {
            using var connection = OpenConnection();
            using var transaction = connection.BeginTransaction(IsolationLevel.Serializable);
            var result = work(connection, transaction);
            transaction.Commit();
            return result;
        }
        catch (SqliteException e)
        {
            throw StorageException.From(e);
        }
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
        if (connection.ExecuteScalar<long>("SELECT count(*) FROM thread_chart", transaction: transaction) > 0) return;
        foreach (var chart in MadeUpCharts.All)
        {
            var id = connection.ExecuteScalar<long>("INSERT INTO thread_chart (maker, range) VALUES (@Maker, @Range) RETURNING id", chart, transaction);
            connection.Execute(
                "INSERT INTO thread (chart_id, place, number, name, colour) VALUES (@id, @place, @Number, @Name, @colour)",
                chart.Threads.Select((t, place) => new { id, place, t.Number, t.Name, colour = t.Colour.Hex }),
                transaction);
        }
    }
}
