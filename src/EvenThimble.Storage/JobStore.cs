using System.Globalization;
using System.Text.Json;
using Dapper;
using EvenThimble.Core.Files.Jobs;
using EvenThimble.Core.Jobs;
using EvenThimble.Core.Readiness;
using EvenThimble.Core.Stitches;
using EvenThimble.Core.Text;
using Microsoft.Data.Sqlite;

namespace EvenThimble.Storage;

/// <summary>A job as it stands, with the version that edits must name.</summary>
/// <param name="Id">The job.</param>
/// <param name="Version">Grows with every change, undo and redo included.</param>
/// <param name="Position">Where in its history it stands.</param>
/// <param name="Before">The line of its history before that; null at the start.</param>
/// <param name="After">The line after it, after an undo; else null.</param>
/// <param name="Said">What the change that led here did.</param>
/// <param name="Job">The job.</param>
public sealed record StoredJob(long Id, long Version, long Position, long? Before, long? After, string Said, Job Job)
{
    /// <summary>Whether there is something to undo.</summary>
    public bool CanUndo => Before is not null;

    /// <summary>Whether there is something to redo.</summary>
    public bool CanRedo => After is not null;
}

/// <summary>One line of a job's history.</summary>
public sealed record HistoryLine(long Position, string Label, DateTimeOffset MadeAt);

/// <summary>A job as the shelf lists it.</summary>
/// <param name="Id">The job.</param>
/// <param name="Title">Its title.</param>
/// <param name="ChangedAt">When it was changed last.</param>
/// <param name="Version">Its version.</param>
/// <param name="Summary">What a list tells of it; null where that was not computed yet.</param>
public sealed record JobLine(long Id, string Title, DateTimeOffset ChangedAt, long Version, JobSummary? Summary);

/// <summary>An edit was made on a state of the job that is no longer the latest; nothing was changed.</summary>
public sealed class StaleEditException() : Exception("This job was changed in another window since you last saw it. Here is how it stands now; your last step was not done, so do it again if you still want it.");

/// <summary>There is no such job.</summary>
public sealed class NoSuchJobException() : Exception("There is no such job; it may have been deleted.");

/// <summary>Jobs and all their revisions. Each edit is stored at once; undo and redo walk along the history.</summary>
public sealed class JobStore(Database database, ShapeStore shapes, TimeProvider clock)
{
    /// <summary>So many of the newest steps of a history are all kept; of those before, the start and the end of each sitting.</summary>
    public const int StepsKeptAll = Revisions.KeptAll;

    private sealed record Head
    {
        public long Id { get; init; }

        public long Version { get; init; }

        public long Position { get; init; }

        public long? Before { get; init; }

        public long? After { get; init; }

        public string Label { get; init; } = string.Empty;
    }

    private const string HeadSql =
        """
        SELECT j.id AS Id, j.version AS Version, j.position AS Position, r.label AS Label,
               (SELECT max(position) FROM revision WHERE job_id = j.id AND position < j.position) AS Before, (SELECT min(position) FROM revision WHERE job_id = j.id AND position > j.position) AS After
        FROM job j JOIN revision r ON r.job_id = j.id AND r.position = j.position
        WHERE j.id = @id AND j.deleted_at IS NULL
        """;

    /// <summary>Stores a new job.</summary>
    /// <param name="job">The job.</param>
    /// <param name="label">The first line of its history.</param>
    /// <param name="stitches">Stitches that are not stored yet.</param>
    /// <param name="originals">Designs that come with it; all of it is stored, or nothing.</param>
    /// <param name="summary">What lists tell of it, where that is known.</param>
    /// <exception cref="EditRefusedException">There can be no such job.</exception>
    public long Create(Job job, string label, IEnumerable<StitchBlob>? stitches = null, IEnumerable<NewDesign>? originals = null, JobSummary? summary = null)
    {
        JobRules.Check(job);
        return database.Write((c, t) =>
        {
            var now = Stamp();
            foreach (var design in originals ?? []) DesignStore.Put(c, t, design, now);
            foreach (var blob in stitches ?? []) BlobStore.Put(c, t, blob);
            var id = c.ExecuteScalar<long>(
                "INSERT INTO job (title, made_at, changed_at, version, position) VALUES (@Title, @now, @now, 1, 0) RETURNING id", new { job.Title, now }, t);
            Revisions.Add(c, t, id, 0, label, now, job, null);
            Summarise(c, t, id, 0, summary);
            return id;
        });
    }

    /// <summary>The job as it stands, or null.</summary>
    public StoredJob? Find(long id) => database.Read(c => c.QuerySingleOrDefault<Head>(HeadSql, new { id }) is { } head ? ToStored(c, null, head) : null);

    /// <summary>The version of a job, without reading the job; null when there is none.</summary>
    public long? VersionOf(long id) => database.Read(c => c.QuerySingleOrDefault<long?>("SELECT version FROM job WHERE id = @id AND deleted_at IS NULL", new { id }));

    /// <summary>Makes an edit of the state that <paramref name="version"/> names and stores the revision. What had been undone is given up.</summary>
    /// <exception cref="StaleEditException">The job has moved on since.</exception>
    /// <exception cref="EditRefusedException">The edit cannot be done.</exception>
    public StoredJob Apply(long id, long version, JobEdit edit, JobSummary? summary = null) => Change(id, version, (c, t, head) =>
    {
        var before = At(c, t, id, head.Position);
        var after = edit.Apply(before);
        if (after.Equals(before)) return;
        JobRules.Check(after);
        var now = Stamp();
        var position = head.Position + 1;
        Revisions.Add(c, t, id, position, edit.Label(before), now, after, before);
        Summarise(c, t, id, position, summary);
        MoveTo(c, t, id, position, after.Title, now);
    });

    /// <summary>Goes to any line of the history: 0 is the start.</summary>
    /// <exception cref="StaleEditException">The job has moved on since.</exception>
    /// <exception cref="EditRefusedException">There is no such line.</exception>
    public StoredJob GoTo(long id, long version, long position) => Change(id, version, (c, t, head) =>
    {
        if (position == head.Position) return;
        if (c.ExecuteScalar<long>("SELECT count(*) FROM revision WHERE job_id = @id AND position = @position", new { id, position }, t) == 0)
            throw new EditRefusedException(position < head.Position ? "There is nothing left to undo." : "There is nothing to redo.");
        MoveTo(c, t, id, position, At(c, t, id, position).Title, Stamp());
    });

    /// <summary>Goes back to the last step of the history that can be read, from one that cannot. False when there is none.</summary>
    public bool StepBackToReadable(long id)
    {
        foreach (var line in History(id))
        {
            try
            {
                if (database.Read(c => c.QuerySingleOrDefault<long?>("SELECT version FROM job WHERE id = @id AND deleted_at IS NULL AND position > @Position", new { id, line.Position })) is not { } version) continue;
                GoTo(id, version, line.Position);
                return true;
            }
            catch (UnreadableException)
            {
                // The step before it may be whole.
            }
        }

        return false;
    }

    /// <summary>The history, the newest first.</summary>
    public IReadOnlyList<HistoryLine> History(long id) => database.Read(c =>
        c.Query<(long Position, string Label, string MadeAt)>("SELECT position, label, made_at FROM revision WHERE job_id = @id ORDER BY position DESC", new { id })
            .Select(r => new HistoryLine(r.Position, r.Label, DateTimeOffset.Parse(r.MadeAt, CultureInfo.InvariantCulture)))
            .ToList());

    /// <summary>All jobs that are not deleted, the last changed first.</summary>
    public IReadOnlyList<JobLine> All() => database.Read(c =>
        c.Query<(long Id, string Title, string ChangedAt, long Version, string? Summary)>(
            """
            SELECT j.id, j.title, j.changed_at, j.version, r.summary FROM job j LEFT JOIN revision r ON r.job_id = j.id AND r.position = j.position
            WHERE j.deleted_at IS NULL ORDER BY j.changed_at DESC, j.id DESC
            """)
            .Select(r => new JobLine(r.Id, Titles.Clean(r.Title), DateTimeOffset.TryParse(r.ChangedAt, CultureInfo.InvariantCulture, out var at) ? at : default, r.Version, SummaryOf(r.Summary)))
            .ToList());

    /// <summary>The title of a job, without reading the job; null when there is none.</summary>
    public string? TitleOf(long id) => database.Read(c => c.QuerySingleOrDefault<string>("SELECT title FROM job WHERE id = @id", new { id }));

    /// <summary>Writes down what lists tell of a job, if it still has the version that this was computed of.</summary>
    public void Summarise(StoredJob stored, JobSummary summary) => database.Write((c, t) =>
    {
        if (c.QuerySingleOrDefault<long?>("SELECT version FROM job WHERE id = @Id", new { stored.Id }, t) == stored.Version) Summarise(c, t, stored.Id, stored.Position, summary);
        return 0;
    });

    /// <summary>Deletes a job; <see cref="Restore"/> brings it back with its history. False when it is not there.</summary>
    public bool Delete(long id) => database.Write((c, t) => c.Execute("UPDATE job SET deleted_at = @now WHERE id = @id AND deleted_at IS NULL", new { id, now = Stamp() }, t) == 1);

    /// <summary>Puts a deleted job back.</summary>
    public bool Restore(long id) => database.Write((c, t) => c.Execute("UPDATE job SET deleted_at = NULL WHERE id = @id", new { id }, t) == 1);

    private StoredJob Change(long id, long version, Action<SqliteConnection, SqliteTransaction, Head> change) => database.Write((c, t) =>
    {
        var head = c.QuerySingleOrDefault<Head>(HeadSql, new { id }, t) ?? throw new NoSuchJobException();
        if (head.Version != version) throw new StaleEditException();
        change(c, t, head);
        return ToStored(c, t, c.QuerySingle<Head>(HeadSql, new { id }, t));
    });

    private static void MoveTo(SqliteConnection c, SqliteTransaction t, long id, long position, string title, string now) =>
        c.Execute("UPDATE job SET position = @position, version = version + 1, title = @title, changed_at = @now WHERE id = @id", new { id, position, title, now }, t);

    private StoredJob ToStored(SqliteConnection c, SqliteTransaction? t, Head head) => new(head.Id, head.Version, head.Position, head.Before, head.After, head.Label, At(c, t, head.Id, head.Position));

    private Job At(SqliteConnection c, SqliteTransaction? t, long id, long position)
    {
        try
        {
            return JobDocument.FromJson(Revisions.Document(c, t, id, position) ?? throw new NoSuchJobException(), t is null ? shapes : shapes.Within(c, t), _ => null);
        }
        catch (Exception e) when (e is InvalidDataException or FormatException or ArgumentException)
        {
            throw new UnreadableException($"This job cannot be read: it is damaged, or of a later version. {(e.InnerException is null ? e.Message : string.Empty)} Take an earlier step of its history, or delete it.".Replace("  ", " ", StringComparison.Ordinal), e);
        }
    }

    private static void Summarise(SqliteConnection c, SqliteTransaction t, long id, long position, JobSummary? summary)
    {
        if (summary is not null) c.Execute("UPDATE revision SET summary = @summary WHERE job_id = @id AND position = @position", new { id, position, summary = JsonSerializer.Serialize(summary) }, t);
    }

    private static JobSummary? SummaryOf(string? json)
    {
        try
        {
            return string.IsNullOrEmpty(json) ? null : JsonSerializer.Deserialize<JobSummary>(json) is { Machine: not null, Field: not null } known ? known : null;
        }
        catch (JsonException)
        {
            return null; // computed anew
        }
    }

    private string Stamp() => clock.GetUtcNow().ToString("O", CultureInfo.InvariantCulture);
}
