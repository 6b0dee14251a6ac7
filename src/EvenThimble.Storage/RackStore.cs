using System.Collections.Immutable;
using System.Globalization;
using System.Text.Json;
using Dapper;
using EvenThimble.Core.Colour;
using EvenThimble.Core.Rack;
using EvenThimble.Core.Text;
using EvenThimble.Core.Threads;
using Microsoft.Data.Sqlite;

namespace EvenThimble.Storage;

/// <summary>A rack as it is listed.</summary>
public sealed record RackLine(long Id, string Name, int Cones);

/// <summary>Thread that was sewn.</summary>
/// <param name="Thread">The thread.</param>
/// <param name="Metres">How much, m.</param>
public sealed record SewnThread(SewingThread Thread, double Metres);

/// <summary>A job that was sewn, with what it took.</summary>
/// <param name="Id">Its number.</param>
/// <param name="Job">The job's number.</param>
/// <param name="Title">The job's title then.</param>
/// <param name="Copies">How many times it was sewn.</param>
/// <param name="Rack">The rack's name; null: it is gone.</param>
/// <param name="Threads">What was taken off.</param>
/// <param name="At">When.</param>
/// <param name="IsUndone">It was given back.</param>
public sealed record SewnJob(long Id, long Job, string Title, int Copies, string? Rack, ImmutableArray<SewnThread> Threads, DateTimeOffset At, bool IsUndone);

/// <summary>Racks with their cones, and what is remembered of them: what was taken in place of what, and what was sewn.</summary>
public sealed class RackStore(Database database, TimeProvider clock)
{
    /// <summary>No more racks are kept.</summary>
    public const int MostRacks = 100;

    private const int LongestName = 60;
    private const int MostUses = 200;
    private const string ConeColumns = "maker, number, name, colour, fibre, weight, count, full_metres AS Full, left_metres AS Left, stands, low_metres AS Low, empty_grams AS Empty, used_metres AS Used";

    /// <summary>All racks, the first first. There is one at least.</summary>
    public IReadOnlyList<RackLine> Racks => database.Read(c => c.Query<(long Id, string Name, long Cones)>("SELECT r.id, r.name, (SELECT count(*) FROM cone WHERE rack_id = r.id) FROM rack r ORDER BY r.id").Select(r => new RackLine(r.Id, r.Name, (int)r.Cones)).ToList());

    /// <summary>The rack of a number; the first where there is none.</summary>
    public RackLine Rack(long? id) => Racks is var racks && racks.FirstOrDefault(r => r.Id == id) is { } rack ? rack : racks[0];

    /// <summary>A new rack.</summary>
    /// <exception cref="EditRefusedException">There is one of that name, or there are too many.</exception>
    public long AddRack(string name) => database.Write((c, t) =>
    {
        if (c.ExecuteScalar<long>("SELECT count(*) FROM rack", transaction: t) >= MostRacks) throw new EditRefusedException($"{MostRacks} racks are here already.");
        return c.ExecuteScalar<long>("INSERT INTO rack (name) VALUES (@name) RETURNING id", new { name = FreeName(c, t, name, 0) }, t);
    });

    /// <summary>Calls a rack something else.</summary>
    /// <exception cref="EditRefusedException">There is another of that name.</exception>
    public void Rename(long rack, string name) => database.Write((c, t) => c.Execute("UPDATE rack SET name = @name WHERE id = @rack", new { rack, name = FreeName(c, t, name, rack) }, t));

    /// <summary>Takes a rack away with all that is on it.</summary>
    /// <exception cref="EditRefusedException">It is the only one.</exception>
    public void TakeAway(long rack) => database.Write((c, t) =>
    {
        if (c.ExecuteScalar<long>("SELECT count(*) FROM rack", transaction: t) <= 1) throw new EditRefusedException("This is the only rack; it stays.");
        return c.Execute("DELETE FROM rack WHERE id = @rack", new { rack }, t);
    });

    /// <summary>The cones of a rack, by maker and number.</summary>
    public IReadOnlyList<Cone> Cones(long rack) => database.Read(c => Cones(c, null, rack));

    /// <summary>Puts cones on a rack beside those that are there; returns how many threads are new on it.</summary>
    /// <exception cref="EditRefusedException">Something cannot be; nothing was changed.</exception>
    public int Put(long rack, IEnumerable<Cone> cones) => database.Write((c, t) =>
    {
        MustBe(c, t, rack);
        var there = Cones(c, t, rack).ToDictionary(o => (o.Thread.Maker, o.Thread.Number));
        var (fresh, all) = (0, there.Count);
        foreach (var cone in cones)
        {
            var together = there.TryGetValue((cone.Thread.Maker, cone.Thread.Number), out var before) ? before.With(cone) : cone;
            if (before is null) fresh++;
            if (all + fresh > Cone.MostOnARack) throw new EditRefusedException($"A rack takes at most {Cone.MostOnARack:N0} threads.");
            Keep(c, t, rack, together);
            there[(cone.Thread.Maker, cone.Thread.Number)] = together;
        }

        return fresh;
    });

    /// <summary>Changes the cones of one thread; null takes them off the rack.</summary>
    /// <exception cref="EditRefusedException">They are not there any more, or cannot be so.</exception>
    public Cone? Change(long rack, string maker, string number, Func<Cone, Cone?> change) => database.Write((c, t) =>
    {
        var cone = Find(c, t, rack, maker, number) ?? throw new EditRefusedException("That cone is not on this rack any more.");
        var changed = change(cone);
        if (changed is null) c.Execute("DELETE FROM cone WHERE rack_id = @rack AND maker = @maker AND number = @number", new { rack, maker, number }, t);
        else Keep(c, t, rack, changed);
        return changed;
    });

    /// <summary>The rack that a job is sewn from; the first unless another was chosen.</summary>
    public RackLine RackOf(long job) => Rack(database.Read(c => c.QuerySingleOrDefault<long?>("SELECT rack_id FROM job_rack WHERE job_id = @job", new { job })));

    /// <summary>Chooses the rack that a job is sewn from.</summary>
    public void SetRackOf(long job, long rack) => database.Write((c, t) =>
    {
        MustBe(c, t, rack);
        return c.Execute("INSERT INTO job_rack (job_id, rack_id) VALUES (@job, @rack) ON CONFLICT (job_id) DO UPDATE SET rack_id = @rack", new { job, rack }, t);
    });

    /// <summary>What was taken in place of threads before, by maker and number of both.</summary>
    public IReadOnlyDictionary<(string Maker, string Number), (string Maker, string Number)> Remembered => database.Read(c =>
        c.Query<(string Maker, string Number, string ToMaker, string ToNumber)>("SELECT maker, number, to_maker, to_number FROM substitution").ToDictionary(s => (s.Maker, s.Number), s => (s.ToMaker, s.ToNumber)));

    /// <summary>Remembers what was taken in place of what.</summary>
    public void Remember(IEnumerable<(SewingThread From, SewingThread To)> taken) => database.Write((c, t) => c.Execute(
        "INSERT INTO substitution (maker, number, to_maker, to_number, at) VALUES (@Maker, @Number, @toMaker, @toNumber, @now) ON CONFLICT (maker, number) DO UPDATE SET to_maker = @toMaker, to_number = @toNumber, at = @now",
        taken.Where(s => s.From.Number.Length > 0 && !s.From.IsSameAs(s.To)).Select(s => new { s.From.Maker, s.From.Number, toMaker = s.To.Maker, toNumber = s.To.Number, now = Now() }), t));

    /// <summary>Takes off a rack what a job took; what is not on it is passed over. The number of this use.</summary>
    /// <exception cref="EditRefusedException">Nothing of it is on the rack.</exception>
    public long Sewn(long rack, long job, string title, int copies, IEnumerable<SewnThread> threads) => database.Write((c, t) =>
    {
        var taken = new List<StoredUse>();
        foreach (var sewn in threads)
        {
            if (Find(c, t, rack, sewn.Thread.Maker, sewn.Thread.Number) is not { } cone) continue;
            var metres = Math.Min(sewn.Metres, cone.LeftMetres);
            Keep(c, t, rack, cone.Less(metres));
            taken.Add(new(sewn.Thread.Maker, sewn.Thread.Number, sewn.Thread.Name, sewn.Thread.Colour.Hex, metres));
        }

        if (taken.Count == 0) throw new EditRefusedException("No thread of this job is on that rack, so nothing was taken off.");
        return c.ExecuteScalar<long>("INSERT INTO thread_use (rack_id, job_id, title, copies, lines, sewn_at) VALUES (@rack, @job, @title, @copies, @lines, @now) RETURNING id", new { rack, job, title, copies, lines = JsonSerializer.Serialize(taken), now = Now() }, t);
    });

    /// <summary>Gives back what a job took.</summary>
    /// <exception cref="EditRefusedException">It was given back already.</exception>
    public SewnJob Unsewn(long use) => database.Write((c, t) =>
    {
        var was = Uses(c, t, "WHERE u.id = @use", new { use }).FirstOrDefault(u => !u.IsUndone) ?? throw new EditRefusedException("That was given back already.");
        c.Execute("UPDATE thread_use SET undone_at = @now WHERE id = @use", new { use, now = Now() }, t);
        var rack = c.ExecuteScalar<long?>("SELECT rack_id FROM thread_use WHERE id = @use", new { use }, t);
        foreach (var sewn in was.Threads)
            if (rack is { } on && Find(c, t, on, sewn.Thread.Maker, sewn.Thread.Number) is { } cone)
                Keep(c, t, on, cone.Less(-sewn.Metres));
        return was;
    });

    /// <summary>What was sewn, the latest first.</summary>
    public IReadOnlyList<SewnJob> Uses() => database.Read(c => Uses(c, null, string.Empty, new { }));

    /// <summary>The latest use of a job that was not given back; null: none.</summary>
    public SewnJob? LastUseOf(long job) => database.Read(c => Uses(c, null, "WHERE u.job_id = @job AND u.undone_at IS NULL", new { job }).FirstOrDefault());

    private static List<SewnJob> Uses(SqliteConnection c, SqliteTransaction? t, string where, object values) =>
    [
        .. c.Query<(long Id, long Job, string Title, int Copies, string? Rack, string Lines, string At, string? Undone)>(
                $"SELECT u.id, u.job_id, u.title, u.copies, r.name, u.lines, u.sewn_at, u.undone_at FROM thread_use u LEFT JOIN rack r ON r.id = u.rack_id {where} ORDER BY u.id DESC LIMIT {MostUses}", values, t)
            .Select(u => new SewnJob(u.Id, u.Job, u.Title, u.Copies, u.Rack, [.. Taken(u.Lines).Select(s => new SewnThread(Thread(s.Maker, s.Number, s.Name, s.Colour), s.Metres))], DateTimeOffset.Parse(u.At, CultureInfo.InvariantCulture), u.Undone is not null)),
    ];

    /// <summary>What a use took; nothing where that cannot be read any more, so that the others are still listed.</summary>
    private static IEnumerable<StoredUse> Taken(string lines)
    {
        try
        {
            return (JsonSerializer.Deserialize<List<StoredUse?>>(lines) ?? []).OfType<StoredUse>().Where(s => (s.Maker, s.Number, s.Name, s.Colour) is (not null, not null, not null, not null));
        }
        catch (JsonException)
        {
            return [];
        }
    }

    private static string FreeName(SqliteConnection c, SqliteTransaction t, string name, long but)
    {
        var clean = Titles.Clean(name);
        if (clean.Length is 0 or > LongestName) throw new EditRefusedException($"A rack needs a name of 1 to {LongestName} letters.");
        return c.ExecuteScalar<long>("SELECT count(*) FROM rack WHERE name = @clean AND id <> @but", new { clean, but }, t) == 0 ? clean : throw new EditRefusedException($"Another rack is called {clean}.");
    }

    private static void MustBe(SqliteConnection c, SqliteTransaction t, long rack)
    {
        if (c.ExecuteScalar<long>("SELECT count(*) FROM rack WHERE id = @rack", new { rack }, t) == 0) throw new EditRefusedException("That rack was taken away.");
    }

    private static List<Cone> Cones(SqliteConnection c, SqliteTransaction? t, long rack) =>
        [.. c.Query<ConeRow>($"SELECT {ConeColumns} FROM cone WHERE rack_id = @rack ORDER BY maker, length(number), number", new { rack }, t).Select(r => r.ToCone())];

    private static Cone? Find(SqliteConnection c, SqliteTransaction t, long rack, string maker, string number) =>
        c.QuerySingleOrDefault<ConeRow>($"SELECT {ConeColumns} FROM cone WHERE rack_id = @rack AND maker = @maker AND number = @number", new { rack, maker, number }, t)?.ToCone();

    private static void Keep(SqliteConnection c, SqliteTransaction t, long rack, Cone cone)
    {
        cone.Check();
        c.Execute(
            """
            INSERT INTO cone (rack_id, maker, number, name, colour, fibre, weight, count, full_metres, left_metres, stands, low_metres, empty_grams, used_metres)
            VALUES (@rack, @Maker, @Number, @Name, @colour, @fibre, @Weight, @Count, @FullMetres, @LeftMetres, @Stands, @LowMetres, @EmptyGrams, @UsedMetres)
            ON CONFLICT (rack_id, maker, number) DO UPDATE SET count = @Count, full_metres = @FullMetres, left_metres = @LeftMetres, stands = @Stands, low_metres = @LowMetres, empty_grams = @EmptyGrams, used_metres = @UsedMetres
            """,
            new { rack, cone.Thread.Maker, cone.Thread.Number, cone.Thread.Name, colour = cone.Thread.Colour.Hex, fibre = cone.Make.Fibre.ToString(), cone.Make.Weight, cone.Count, cone.FullMetres, cone.LeftMetres, cone.Stands, cone.LowMetres, cone.EmptyGrams, cone.UsedMetres },
            t);
    }

    private static SewingThread Thread(string maker, string number, string name, string colour) => new(maker, number, name, Rgb.TryParse(colour, out var look) ? look : default);

    private string Now() => clock.GetUtcNow().ToString("O", CultureInfo.InvariantCulture);

    private sealed record StoredUse(string Maker, string Number, string Name, string Colour, double Metres);

    private sealed class ConeRow
    {
        public string Maker { get; init; } = string.Empty;

        public string Number { get; init; } = string.Empty;

        public string Name { get; init; } = string.Empty;

        public string Colour { get; init; } = string.Empty;

        public string Fibre { get; init; } = string.Empty;

        public int? Weight { get; init; }

        public int Count { get; init; }

        public double Full { get; init; }

        public double Left { get; init; }

        public string Stands { get; init; } = string.Empty;

        public double Low { get; init; }

        public double? Empty { get; init; }

        public double Used { get; init; }

        /// <summary>The cone; what cannot be, since it was damaged on the disk, as the nearest that can.</summary>
        public Cone ToCone() => new(Thread(Maker, Number, Name, Colour), new(Enum.TryParse<Fibre>(Fibre, out var fibre) ? fibre : default, Weight), (int)Math.Clamp((long)Count, 1, Cone.MostCones), Metres(Full), Metres(Left))
        {
            Stands = Stands,
            LowMetres = Metres(Low),
            EmptyGrams = Empty,
            UsedMetres = Math.Max(0, Used),
        };

        private static double Metres(double stored) => Math.Clamp(stored, 0, Cone.MostCones * Cone.LongestMetres);
    }
}
