using System.Collections.Immutable;
using EvenThimble.Core.Geometry;

namespace EvenThimble.Core.Machines;

/// <summary>A machine and one of its hoops, by their short names.</summary>
public sealed record HoopChoice(string MachineId, string HoopId);

/// <summary>A hoop of the user's own.</summary>
/// <param name="MachineId">The machine that it belongs to.</param>
/// <param name="Field">What it sews.</param>
public sealed record OwnHoop(string MachineId, HoopField Field);

/// <summary>The machines that are there to choose from, each with the hoops that it came with and those of the user's own.</summary>
public sealed class MachineCatalogue
{
    private readonly IReadOnlyList<SewingMachineModel> _came;
    private Known _known;

    /// <summary>The machines with the hoops of one moment; read and replaced as a whole, since several requests ask at once.</summary>
    private sealed record Known(ImmutableArray<OwnHoop> Own, IReadOnlyList<SewingMachineModel> All, int Version);

    /// <summary>Of machines, the one that a new job is meant for first. There must be one at least, each with a hoop.</summary>
    /// <exception cref="ArgumentException">There is no machine, or one without a hoop.</exception>
    public MachineCatalogue(IReadOnlyList<SewingMachineModel> machines)
    {
        if (machines.Count == 0 || machines.Any(m => m.Hoops.Count == 0)) throw new ArgumentException("A catalogue needs machines with hoops.");
        _came = machines;
        _known = new([], machines, 0);
    }

    /// <summary>The hoops of the user's own as they are now.</summary>
    public Func<ImmutableArray<OwnHoop>> OwnHoops { get; init; } = () => [];

    /// <summary>All machines, in the order they are offered.</summary>
    public IReadOnlyList<SewingMachineModel> All => Now.All;

    /// <summary>Grows whenever a hoop of the user's own has changed.</summary>
    public int Version => Now.Version;

    private Known Now
    {
        get
        {
            var (own, known) = (OwnHoops(), _known);
            return own == known.Own ? known : _known = new(own, [.. _came.Select(m => m with { Hoops = [.. m.Hoops, .. own.Where(h => h.MachineId == m.Id).Select(h => h.Field)] })], known.Version + 1);
        }
    }

    /// <summary>The one that a new job is meant for.</summary>
    public required SewingMachineModel Usual { get; init; }

    /// <summary>What a new job starts with.</summary>
    public HoopChoice UsualHoop => new(Usual.Id, Usual.Hoops[0].Id);

    /// <summary>The machine of a short name, or null.</summary>
    public SewingMachineModel? Find(string? id) => All.FirstOrDefault(m => m.Id == id);

    /// <summary>The machine of a choice; the usual one where the name is not known any more.</summary>
    public SewingMachineModel MachineOf(HoopChoice choice) => Find(choice.MachineId) ?? Find(Usual.Id)!;

    /// <summary>The field of a choice; the machine's first where the name is not known any more.</summary>
    public HoopField FieldOf(HoopChoice choice) => MachineOf(choice) is var machine ? machine.FindHoop(choice.HoopId) ?? machine.Hoops[0] : null!;

    /// <summary>The first hoop that holds stitches within a rectangle where they lie, those of the usual machine before others; the usual one when none does.</summary>
    public HoopChoice HoopFor(Box bounds) =>
        All.OrderBy(m => m.Id == Usual.Id ? 0 : 1)
            .SelectMany(m => m.Hoops.Select(h => (Machine: m, Hoop: h)))
            .Where(c => c.Hoop.Holds(new(bounds.MinX, bounds.MinY)) && c.Hoop.Holds(new(bounds.MaxX, bounds.MaxY)))
            .Select(c => new HoopChoice(c.Machine.Id, c.Hoop.Id))
            .FirstOrDefault() ?? UsualHoop;
}
