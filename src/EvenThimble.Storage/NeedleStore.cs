using Dapper;
using EvenThimble.Core.Colour;
using EvenThimble.Core.Machines;
using EvenThimble.Core.Threads;

namespace EvenThimble.Storage;

/// <summary>Which thread is on which needle of machines with several.</summary>
public sealed class NeedleStore(Database database)
{
    /// <summary>By needle of a machine, the first first, the thread on it; null: none.</summary>
    public SewingThread?[] On(SewingMachineModel machine)
    {
        var needles = new SewingThread?[machine.Needles];
        foreach (var (needle, maker, number, name, colour) in database.Read(c => c.Query<(int Needle, string Maker, string Number, string Name, string Colour)>("SELECT needle, maker, number, name, colour FROM needle WHERE machine = @Id", machine).ToList()))
            if (needle >= 1 && needle <= needles.Length)
                needles[needle - 1] = new(maker, number, name, Rgb.TryParse(colour, out var look) ? look : default);
        return needles;
    }

    /// <summary>Says what is on all needles now.</summary>
    public void Thread(SewingMachineModel machine, IReadOnlyList<SewingThread?> needles) => database.Write((c, t) =>
    {
        c.Execute("DELETE FROM needle WHERE machine = @Id", machine, t);
        return c.Execute(
            "INSERT INTO needle (machine, needle, maker, number, name, colour) VALUES (@Id, @needle, @Maker, @Number, @Name, @colour)",
            needles.Take(machine.Needles).Select((thread, n) => (thread, n)).Where(x => x.thread is not null).Select(x => new { machine.Id, needle = x.n + 1, x.thread!.Maker, x.thread.Number, x.thread.Name, colour = x.thread.Colour.Hex }), t);
    });
}
