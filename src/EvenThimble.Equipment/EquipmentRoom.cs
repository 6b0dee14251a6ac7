using EvenThimble.Core.Machines;

namespace EvenThimble.Equipment;

/// <summary>A stand-in for a removable drive: a drawer with a size.</summary>
public sealed record RemovableStick(string Id, string Name, FileDrawer Drawer);

/// <summary>All stand-in devices, each in a folder of its own below the data folder.</summary>
public sealed class EquipmentRoom
{
    private const long Megabyte = 1024 * 1024;

    /// <summary>The devices below a data folder, a machine for each of a catalogue.</summary>
    public EquipmentRoom(string dataFolder, MachineCatalogue machines)
    {
        Machines = [.. machines.All.Select(m => new SewingMachine(() => machines.Find(m.Id) ?? m, new FileDrawer(Path.Combine(dataFolder, "machines", m.Id))))];
        Cutters = [.. StandInCutters.All.Select(c => new Cutter(c, new FileDrawer(Path.Combine(dataFolder, "cutters", c.Id))))];
        Sticks =
        [
            new("blue", "Blue stick", new FileDrawer(Path.Combine(dataFolder, "sticks", "blue"), 16 * Megabyte)),
            new("brass", "Brass stick", new FileDrawer(Path.Combine(dataFolder, "sticks", "brass"), 2 * Megabyte)),
        ];
    }

    /// <summary>The sewing machines.</summary>
    public IReadOnlyList<SewingMachine> Machines { get; }

    /// <summary>The cutters.</summary>
    public IReadOnlyList<Cutter> Cutters { get; }

    /// <summary>The sticks.</summary>
    public IReadOnlyList<RemovableStick> Sticks { get; }

    /// <summary>The machine of a short name, or null.</summary>
    public SewingMachine? Machine(string? id) => Machines.FirstOrDefault(m => m.Model.Id == id);

    /// <summary>The cutter of a short name, or null.</summary>
    public Cutter? Cutter(string? id) => Cutters.FirstOrDefault(c => c.Model.Id == id);

    /// <summary>The stick of a short name, or null.</summary>
    public RemovableStick? Stick(string? id) => Sticks.FirstOrDefault(s => s.Id == id);

    /// <summary>The drawer of a machine, cutter or stick by its short name, or null.</summary>
    public FileDrawer? Drawer(string? id) => Machine(id)?.Memory ?? Cutter(id)?.Memory ?? Stick(id)?.Drawer;
}
