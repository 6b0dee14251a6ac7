using System.Globalization;
using Dapper;
using EvenThimble.Core.Files.Jobs;
using EvenThimble.Core.Jobs;
using Microsoft.Data.Sqlite;

namespace EvenThimble.Storage;

/// <summary>
/// The documents of a job's revisions on the disk. A revision is the difference from the one before it; now and then one is whole. Of old ones only the ends of sittings are kept.
/// All of this happens within a change that somebody else makes.
/// </summary>
internal static class Revisions
{
    /// <summary>All of the newest are kept.</summary>
    public const int KeptAll = 200;

    /// <summary>Older ones are looked at each time that so many more have come together.</summary>
    private const int Slack = 40;

    /// <summary>Differences that may follow each other before a whole one stands again.</summary>
    private const int MostSteps = 100;

    // A difference as large as this may be larger than the whole.
    private const int LargeDifference = 4_096;

    /// <summary>A pause this long ends a sitting; its last revision is kept for good.</summary>
    public static readonly TimeSpan Pause = TimeSpan.FromMinutes(30);

    private sealed record Row
    {
        public long? Base { get; init; }

        public byte[] Packed { get; init; } = [];
    }

    /// <summary>The document at a position, or null.</summary>
    public static string? Document(SqliteConnection c, SqliteTransaction? t, long job, long position)
    {
        var differences = new Stack<byte[]>();
        for (long? at = position; ;)
        {
            var row = c.QuerySingleOrDefault<Row>("SELECT base AS Base, CAST(packed AS BLOB) AS Packed FROM revision WHERE job_id = @job AND position = @at", new { job, at }, t);
            if (row is null) return null;
            if (row.Base is null) return LineDifference.Apply(Packed.Text(row.Packed), differences.Select(Packed.Text));
            differences.Push(row.Packed);
            at = row.Base;
        }
    }

    /// <summary>Stores a revision after the one that comes before it, with the shapes that are new in it. What had come after is given up.</summary>
    public static void Add(SqliteConnection c, SqliteTransaction t, long job, long position, string label, string now, Job state, Job? before)
    {
        if (c.Execute("DELETE FROM revision WHERE job_id = @job AND position >= @position", new { job, position }, t) > 0) c.Execute("UPDATE job SET loose = 1 WHERE id = @job", new { job }, t);
        PutNamed(c, t, job, state, before);
        Insert(c, t, job, position, label, now, JobDocument.ToJson(state));
        Thin(c, t, job);
    }

    /// <summary>Writes down which stitches and shapes a state names, and stores the shapes that the state before it did not have.</summary>
    public static void PutNamed(SqliteConnection c, SqliteTransaction t, long job, Job state, Job? before)
    {
        var known = before is null ? [] : JobDocument.ShapesOf(before).Select(s => s.Hash).ToHashSet();
        var shapes = JobDocument.ShapesOf(state).Where(s => !known.Contains(s.Hash)).ToList();
        foreach (var shape in shapes) ShapeStore.Put(c, t, shape);
        var stitches = JobDocument.StitchesOf(state).Except(before is null ? [] : JobDocument.StitchesOf(before)).Select(b => b.Hex);
        Name(c, t, job, shapes.Select(s => s.Hash.Hex).Concat(stitches));
    }

    /// <summary>Writes down that a job names stitches or shapes, so that they stay.</summary>
    public static void Name(SqliteConnection c, SqliteTransaction t, long job, IEnumerable<string> hashes) =>
        c.Execute("INSERT INTO job_blob (job_id, hash) VALUES (@job, @hash) ON CONFLICT DO NOTHING", hashes.Select(hash => new { job, hash }), t);

    /// <summary>Stores a document as the next of a job.</summary>
    public static void Insert(SqliteConnection c, SqliteTransaction t, long job, long position, string label, string now, string document)
    {
        var (before, steps, packed) = Pack(c, t, job, position, document);
        c.Execute(
            "INSERT INTO revision (job_id, position, label, made_at, base, steps, packed) VALUES (@job, @position, @label, @now, @before, @steps, @packed)",
            new { job, position, label, now, before, steps, packed }, t);
    }

    /// <summary>Gives up what nothing names any more: first what the loose jobs no longer name, then stitches and shapes that no job, no design and no letter set does.</summary>
    /// <returns>How many stitch blobs and shapes went.</returns>
    public static int Collect(SqliteConnection c, SqliteTransaction t)
    {
        foreach (var job in c.Query<long>("SELECT id FROM job WHERE loose = 1", transaction: t).ToList())
        {
            // What a difference takes over stands in the one that it is from.
            var named = c.Query<byte[]>("SELECT packed FROM revision WHERE job_id = @job", new { job }, t).SelectMany(p => HashesIn(Packed.Text(p))).ToHashSet();
            foreach (var hash in c.Query<string>("SELECT hash FROM job_blob WHERE job_id = @job", new { job }, t).Where(h => !named.Contains(h)).ToList())
                c.Execute("DELETE FROM job_blob WHERE job_id = @job AND hash = @hash", new { job, hash }, t);
            c.Execute("UPDATE job SET loose = 0 WHERE id = @job", new { job }, t);
        }

        return c.Execute("DELETE FROM stitch_blob WHERE hash NOT IN (SELECT hash FROM job_blob) AND hash NOT IN (SELECT blob_hash FROM design) AND hash NOT IN (SELECT blob_hash FROM letter_set_file WHERE blob_hash IS NOT NULL)", transaction: t)
            + c.Execute("DELETE FROM shape WHERE hash NOT IN (SELECT hash FROM job_blob)", transaction: t);
    }

    /// <summary>Everything in a text that looks like a hash.</summary>
    public static IEnumerable<string> HashesIn(string text)
    {
        const int length = 64;
        for (var i = 0; i < text.Length;)
        {
            var end = i;
            while (end < text.Length && char.IsAsciiHexDigitLower(text[end])) end++;
            if (end - i == length) yield return text[i..end];
            i = end + 1;
        }
    }

    internal static (long? Base, long Steps, byte[] Packed) Pack(SqliteConnection c, SqliteTransaction t, long job, long position, string document)
    {
        var last = c.QuerySingleOrDefault<(long Position, long Steps)?>("SELECT position, steps FROM revision WHERE job_id = @job AND position < @position ORDER BY position DESC LIMIT 1", new { job, position }, t);
        if (last is not { Steps: < MostSteps } before) return (null, 0, Packed.Of(document));
        var difference = Packed.Of(LineDifference.Between(Document(c, t, job, before.Position)!, document));
        if (difference.Length > LargeDifference && Packed.Of(document) is var whole && whole.Length <= difference.Length) return (null, 0, whole);
        return (before.Position, before.Steps + 1, difference);
    }

    /// <summary>Of what is older than the newest, the start and the ends of sittings are kept.</summary>
    private static void Thin(SqliteConnection c, SqliteTransaction t, long job)
    {
        var all = c.Query<(long Position, string Label, string MadeAt)>("SELECT position, label, made_at FROM revision WHERE job_id = @job ORDER BY position", new { job }, t).ToList();
        var old = all.Count - KeptAll;
        if (old < Slack) return;
        DateTimeOffset At(int i) => DateTimeOffset.Parse(all[i].MadeAt, CultureInfo.InvariantCulture);
        var kept = Enumerable.Range(0, old).Where(i => i == 0 || At(i + 1) - At(i) > Pause).Append(old).ToList();
        if (kept.Count == old + 1) return;
        var documents = kept.ConvertAll(i => Document(c, t, job, all[i].Position)!);
        c.Execute("DELETE FROM revision WHERE job_id = @job AND position <= @last", new { job, last = all[old].Position }, t);
        for (var i = 0; i < kept.Count; i++) Insert(c, t, job, all[kept[i]].Position, all[kept[i]].Label, all[kept[i]].MadeAt, documents[i]);
        c.Execute("UPDATE job SET loose = 1 WHERE id = @job", new { job }, t);
    }
}
