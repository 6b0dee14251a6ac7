using Dapper;

namespace EvenThimble.Storage;

/// <summary>How far something that a machine has to sew is.</summary>
public enum SewState
{
    /// <summary>It is still to be sewn.</summary>
    Waiting,

    /// <summary>It was sewn.</summary>
    Done,

    /// <summary>It went wrong.</summary>
    Failed,
}

/// <summary>A file that a machine has to sew for names.</summary>
/// <param name="Id">Its number.</param>
/// <param name="Machine">The machine.</param>
/// <param name="Job">The job that it was written from.</param>
/// <param name="Title">What that is called.</param>
/// <param name="File">The name of the file.</param>
/// <param name="Garments">Whose garments it sews, in words.</param>
/// <param name="Copies">How many times it is sewn.</param>
/// <param name="State">How far it is.</param>
public sealed record ToSew(long Id, string Machine, long Job, string Title, string File, string Garments, int Copies, SewState State);

/// <summary>What machines have to sew, in order: what is next, done, failed. It stays from one day to the next.</summary>
public sealed class SewingQueue(Database database)
{
    private const int Most = 5_000;

    private sealed record Row(long Id, string Machine, long Job, string Title, string File, string Garments, long Copies, string State);

    /// <summary>What a machine has to sew, in order.</summary>
    public IReadOnlyList<ToSew> Of(string machine) => database.Read(c => c.Query<Row>("SELECT id, machine, job_id AS Job, title, file, garments, copies, state FROM to_sew WHERE machine = @machine ORDER BY place, id", new { machine })
        .Select(r => new ToSew(r.Id, r.Machine, r.Job, r.Title, r.File, r.Garments, (int)r.Copies, Enum.TryParse<SewState>(r.State, out var state) ? state : SewState.Waiting)).ToList());

    /// <summary>Puts files of a job in the queue of a machine, in place of those of the same names.</summary>
    /// <exception cref="Core.Text.EditRefusedException">There are too many.</exception>
    public void Add(string machine, long job, string title, IReadOnlyList<(string File, string Garments, int Copies)> files) => database.Write((c, t) =>
    {
        if (c.ExecuteScalar<long>("SELECT COUNT(*) FROM to_sew WHERE machine = @machine", new { machine }, t) + files.Count > Most) throw new Core.Text.EditRefusedException($"A machine has at most {Most:N0} files to sew. Clear those that are done.");
        c.Execute("DELETE FROM to_sew WHERE machine = @machine AND file = @File", files.Select(f => new { machine, f.File }), t);
        var place = c.ExecuteScalar<long>("SELECT COALESCE(MAX(place), 0) FROM to_sew WHERE machine = @machine", new { machine }, t);
        return c.Execute(
            "INSERT INTO to_sew (machine, job_id, title, file, garments, copies, place, state) VALUES (@machine, @job, @title, @File, @Garments, @Copies, @place, 'Waiting')",
            files.Select((f, n) => new { machine, job, title, f.File, f.Garments, f.Copies, place = place + n + 1 }), t);
    });

    /// <summary>Tells how far one is; false when it is not there.</summary>
    public bool Set(long id, SewState state) => database.Write((c, t) => c.Execute("UPDATE to_sew SET state = @state WHERE id = @id", new { id, state = state.ToString() }, t) == 1);

    /// <summary>Takes out what is done, or all.</summary>
    public int Clear(string machine, bool all) => database.Write((c, t) => c.Execute("DELETE FROM to_sew WHERE machine = @machine AND (@all OR state = 'Done')", new { machine, all }, t));
}
