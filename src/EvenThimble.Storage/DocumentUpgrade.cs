using System.Text.Json;
using System.Text.Json.Nodes;
using Dapper;
using EvenThimble.Core.Files.Jobs;
using EvenThimble.Core.Jobs;
using EvenThimble.Core.Shapes;
using EvenThimble.Core.Stitches;
using Microsoft.Data.Sqlite;

namespace EvenThimble.Storage;

/// <summary>Brings a database whose revisions are documents of versions 1 to 3, as plain text, up to packed ones of the version of today. It happens once, wholly or not at all.</summary>
internal static class DocumentUpgrade
{
    private sealed record Row(long Job, long Position, string Label, string MadeAt, string Document);

    /// <summary>Does nothing where it has been done already.</summary>
    public static void Run(SqliteConnection c, SqliteTransaction t)
    {
        if (c.ExecuteScalar<long>("SELECT count(*) FROM pragma_table_info('revision') WHERE name = 'document'", transaction: t) == 0) return;
        var originals = c.Query<(long Id, string Hash)>("SELECT id, original_hash FROM design", transaction: t).ToDictionary(d => d.Id, d => d.Hash);
        var rows = c.Query<(long Job, long Position)>("SELECT job_id, position FROM revision ORDER BY job_id, position", transaction: t).ToList();
        foreach (var (job, position) in rows)
        {
            var row = c.QuerySingle<Row>("SELECT job_id AS Job, position AS Position, label AS Label, made_at AS MadeAt, document AS Document FROM revision WHERE job_id = @job AND position = @position", new { job, position }, t);
            c.Execute("DELETE FROM revision WHERE job_id = @job AND position = @position", new { job, position }, t);
            Insert(c, t, row, BroughtUp(c, t, row, originals));
        }

        foreach (var (id, parts) in c.Query<(long Id, string Parts)>("SELECT id, parts FROM design", transaction: t).ToList())
            c.Execute("UPDATE design SET parts = @parts WHERE id = @id", new { id, parts = WithRoleKeys(parts) }, t);
        c.Execute("ALTER TABLE revision DROP COLUMN document", transaction: t);
    }

    /// <summary>The document of today. One that cannot be read stays as it is, with all that it names; whoever opens it is told so, as before.</summary>
    private static string BroughtUp(SqliteConnection c, SqliteTransaction t, Row row, Dictionary<long, string> originals)
    {
        try
        {
            var job = JobDocument.FromJson(row.Document, NoShapes.Known, id => originals.GetValueOrDefault(id));
            Revisions.PutNamed(c, t, row.Job, job, null);
            return JobDocument.ToJson(job);
        }
        catch (InvalidDataException)
        {
            Revisions.Name(c, t, row.Job, Revisions.HashesIn(row.Document).Distinct());
            return row.Document;
        }
    }

    private static void Insert(SqliteConnection c, SqliteTransaction t, Row row, string document)
    {
        // The old column wants a value until it goes.
        c.Execute("INSERT INTO revision (job_id, position, label, made_at, document, packed) VALUES (@Job, @Position, @Label, @MadeAt, '', x'')", row, t);
        var (before, steps, packed) = Revisions.Pack(c, t, row.Job, row.Position, document);
        c.Execute("UPDATE revision SET base = @before, steps = @steps, packed = @packed WHERE job_id = @Job AND position = @Position", new { before, steps, packed, row.Job, row.Position }, t);
    }

    /// <summary>Roles of a design's parts stood in the words of the interface.</summary>
    private static string WithRoleKeys(string parts)
    {
        var list = JsonNode.Parse(parts)!.AsArray();
        foreach (var part in list)
            part!["Role"] = StorageKeys.Of(PartRoles.TryParse(part["Role"]?.GetValue<string>() ?? string.Empty, out var role) ? role : PartRole.Decoration);
        return list.ToJsonString(new JsonSerializerOptions());
    }

    /// <summary>Documents up to version 3 hold their shapes themselves.</summary>
    private sealed class NoShapes : IShapeSource
    {
        public static readonly NoShapes Known = new();

        public DrawnShape Get(BlobHash hash) => throw new KeyNotFoundException($"There is no shape under {hash}.");
    }
}
