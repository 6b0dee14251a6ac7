using Dapper;
using EvenThimble.Core.Colour;
using EvenThimble.Core.Rack;
using EvenThimble.Core.Threads;

namespace EvenThimble.Storage;

/// <summary>What is to be bought for which job.</summary>
public sealed class ShoppingStore(Database database)
{
    /// <summary>All that is to be bought.</summary>
    public IReadOnlyList<ToBuy> All => database.Read(c => c.Query<(string Title, string Maker, string Number, string Name, string Colour, double Metres)>("SELECT title, maker, number, name, colour, metres FROM to_buy ORDER BY job_id, maker, number")
        .Select(b => new ToBuy(new(b.Maker, b.Number, b.Name, Rgb.TryParse(b.Colour, out var colour) ? colour : default), b.Metres, b.Title)).ToList());

    /// <summary>Notes what a job misses, in place of what was noted for the same threads of it before.</summary>
    public void Note(long job, string title, IEnumerable<(SewingThread Thread, double Metres)> missing) => database.Write((c, t) => c.Execute(
        "INSERT INTO to_buy (job_id, title, maker, number, name, colour, metres) VALUES (@job, @title, @Maker, @Number, @Name, @colour, @Metres) ON CONFLICT (job_id, maker, number, name) DO UPDATE SET title = @title, metres = @Metres",
        missing.Select(m => new { job, title, m.Thread.Maker, m.Thread.Number, m.Thread.Name, colour = m.Thread.Colour.Hex, m.Metres }), t));

    /// <summary>Strikes a thread out, for all jobs; false when it was not there.</summary>
    public bool Strike(string maker, string number, string name) => database.Write((c, t) => c.Execute("DELETE FROM to_buy WHERE maker = @maker AND number = @number AND (number <> '' OR name = @name)", new { maker, number, name }, t) > 0);

    /// <summary>Strikes all out.</summary>
    public void StrikeAll() => database.Write((c, t) => c.Execute("DELETE FROM to_buy", transaction: t));
}
