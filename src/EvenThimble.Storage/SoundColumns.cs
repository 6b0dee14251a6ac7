using System.Globalization;
using Dapper;
using Microsoft.Data.Sqlite;

namespace EvenThimble.Storage;

/// <summary>
/// SQLite lets any value stand in any column. Where a damaged disk or another program left one that cannot be what its column holds, a single row would keep whole lists from being read; so
/// such values are put back to nothing, and the file as it was is kept.
/// </summary>
internal static class SoundColumns
{
    // Numbers of rows and of revisions may be longer than others.
    private static readonly HashSet<string> Long = ["version", "position", "base", "cid"];

    /// <summary>Looks through all tables and mends what cannot be.</summary>
    /// <param name="connection">Without foreign keys, and outside of a transaction.</param>
    /// <param name="keepAside">Keeps the data as they are, before the change becomes theirs; it reads them by a connection of its own.</param>
    /// <returns>The columns in which something was mended, as <c>table.column</c>; empty: all is sound.</returns>
    public static IReadOnlyList<string> Mend(SqliteConnection connection, Action keepAside)
    {
        var wrong = new List<(string Table, string Column, string Condition, string Nothing)>();
        foreach (var table in connection.Query<string>("SELECT name FROM sqlite_master WHERE type = 'table' AND name NOT LIKE 'sqlite%' AND name <> 'SchemaVersions'").ToList())
        {
            var columns = connection.Query<(string Name, string Type, long Needed)>($"SELECT name, type, \"notnull\" FROM pragma_table_info('{table}') WHERE pk = 0").Select(c => (c.Name, Condition: Wrong(c.Name, c.Type), Nothing: Nothing(c.Name, c.Type, c.Needed != 0))).Where(c => c.Condition.Length > 0).ToList();
            if (columns.Count == 0) continue;

            // One reading of the table for all of its columns.
            var counts = (IDictionary<string, object?>)connection.QuerySingle($"SELECT {string.Join(", ", columns.Select(c => $"sum({c.Condition}) AS \"{c.Name}\""))} FROM {table}");
            wrong.AddRange(columns.Where(c => Convert.ToInt64(counts[c.Name] ?? 0L, CultureInfo.InvariantCulture) > 0).Select(c => (table, c.Name, c.Condition, c.Nothing)));
        }

        if (wrong.Count == 0) return [];
        using var transaction = connection.BeginTransaction();
        var mended = wrong.Where(w => connection.Execute($"UPDATE OR IGNORE {w.Table} SET {w.Column} = {w.Nothing} WHERE {w.Condition}", transaction: transaction) > 0).Select(w => $"{w.Table}.{w.Column}").ToList();

        // What cannot be mended, such as a second name that would be empty, is no reason to keep a copy at every start.
        if (mended.Count == 0) return [];
        keepAside();
        transaction.Commit();
        return mended;
    }

    /// <summary>What is true of a value that cannot stand in the column; empty: anything can.</summary>
    private static string Wrong(string name, string type)
    {
        var wrong = type switch
        {
            "INTEGER" => Long.Contains(name) || name.EndsWith("id", StringComparison.Ordinal) ? $"typeof({name}) <> 'integer'" : $"typeof({name}) <> 'integer' OR abs({name}) > {int.MaxValue}",
            "REAL" => $"typeof({name}) NOT IN ('real', 'integer') OR abs({name}) > 1e12",
            "BLOB" => $"typeof({name}) <> 'blob'",
            "TEXT" when IsTime(name) => $"typeof({name}) <> 'text' OR julianday({name}) IS NULL OR length({name}) < 19",
            "TEXT" when name == "colour" => $"typeof({name}) <> 'text' OR {name} NOT GLOB '#{string.Concat(Enumerable.Repeat("[0-9A-Fa-f]", 6))}'",
            "TEXT" => $"typeof({name}) <> 'text' OR instr({name}, char(0)) > 0",
            _ => string.Empty,
        };
        return wrong.Length == 0 ? wrong : $"({name} IS NOT NULL AND ({wrong}))";
    }

    private static string Nothing(string name, string type, bool needed) => type switch
    {
        _ when !needed => "NULL",
        "TEXT" when name == "colour" => "'#808080'",
        "TEXT" when IsTime(name) => "strftime('%Y-%m-%dT%H:%M:%S+00:00', 'now')",
        "TEXT" => "''",
        "BLOB" => "x''",
        _ => "0",
    };

    private static bool IsTime(string name) => name == "at" || name.EndsWith("_at", StringComparison.Ordinal);
}
