using System.Collections.Immutable;
using Dapper;
using EvenThimble.Core.Machines;
using EvenThimble.Core.Text;

namespace EvenThimble.Storage;

/// <summary>What is stored as a hoop of the user's own and cannot be one.</summary>
/// <param name="Id">By which it can be deleted.</param>
/// <param name="Name">What it is called; may be empty.</param>
/// <param name="Says">Why it cannot be one, in a sentence.</param>
public sealed record DamagedHoop(string Id, string Name, string Says);

/// <summary>Hoops of the user's own.</summary>
public sealed class HoopStore(Database database)
{
    private const int Most = 100;
    private readonly Lock _loading = new();
    private (ImmutableArray<OwnHoop> Sound, ImmutableArray<DamagedHoop> Damaged)? _known;

    private sealed record Row(long Id, string Machine, string Name, string Shape, double Width, double Height, double CornerRadius, double Margin, long Positions, double PositionStep, long Across);

    /// <summary>All of them, in the order they were made.</summary>
    public ImmutableArray<OwnHoop> All => Known.Sound;

    /// <summary>What is stored as a hoop and cannot be one any more.</summary>
    public ImmutableArray<DamagedHoop> Damaged => Known.Damaged;

    private (ImmutableArray<OwnHoop> Sound, ImmutableArray<DamagedHoop> Damaged) Known
    {
        get
        {
            lock (_loading) return _known ??= Load();
        }
    }

    /// <summary>Keeps a hoop; one whose id is not of the user's own is a new one.</summary>
    /// <exception cref="EditRefusedException">There can be no such hoop, or there are too many.</exception>
    public OwnHoop Save(SewingMachineModel machine, HoopField field)
    {
        var hoop = HoopRules.Checked(field);
        if (!All.Any(h => h.Field.Id == hoop.Id))
        {
            if (All.Length >= Most) throw new EditRefusedException($"There are {Most} hoops of your own already. Delete one that is not used any more.");
            if (machine.Hoops.Any(h => h.Name.Equals(hoop.Name, StringComparison.OrdinalIgnoreCase))) throw new EditRefusedException($"{machine.Name} has a hoop “{hoop.Name}” already. Give it another name.");
        }

        var values = new { id = NumberOf(hoop.Id), machine = machine.Id, hoop.Name, shape = hoop.Shape.ToString(), hoop.Width, hoop.Height, hoop.CornerRadius, hoop.Margin, hoop.Positions, hoop.PositionStep, across = hoop.PositionsAcross };
        var id = database.Write((c, t) =>
        {
            if (c.Execute(
                "UPDATE own_hoop SET name = @Name, shape = @shape, width = @Width, height = @Height, corner_radius = @CornerRadius, margin = @Margin, positions = @Positions, position_step = @PositionStep, across = @across WHERE id = @id AND machine = @machine", values, t) == 1)
                return values.id!.Value;
            return c.ExecuteScalar<long>(
                "INSERT INTO own_hoop (machine, name, shape, width, height, corner_radius, margin, positions, position_step, across) VALUES (@machine, @Name, @shape, @Width, @Height, @CornerRadius, @Margin, @Positions, @PositionStep, @across) RETURNING id", values, t);
        });
        Forget();
        return All.First(h => NumberOf(h.Field.Id) == id);
    }

    /// <summary>Deletes one; false when there is none. Jobs that were meant for it go to the machine's first hoop.</summary>
    public bool Delete(string hoopId)
    {
        var done = NumberOf(hoopId) is { } id && database.Write((c, t) => c.Execute("DELETE FROM own_hoop WHERE id = @id", new { id }, t) == 1);
        Forget();
        return done;
    }

    private (ImmutableArray<OwnHoop> Sound, ImmutableArray<DamagedHoop> Damaged) Load()
    {
        var (sound, damaged) = (ImmutableArray.CreateBuilder<OwnHoop>(), ImmutableArray.CreateBuilder<DamagedHoop>());
        var rows = database.Read(c => c.Query<Row>("SELECT id, machine, name, shape, width, height, corner_radius AS CornerRadius, margin, positions, position_step AS PositionStep, across FROM own_hoop ORDER BY id").ToList());
        foreach (var hoop in rows.Select(Hoop))
        {
            try
            {
                sound.Add(hoop with { Field = HoopRules.Checked(hoop.Field) });
            }
            catch (EditRefusedException e)
            {
                damaged.Add(new(hoop.Field.Id, Titles.Clean(hoop.Field.Name), e.Message));
            }
        }

        return (sound.ToImmutable(), damaged.ToImmutable());
    }

    private void Forget()
    {
        lock (_loading) _known = null;
    }

    private static OwnHoop Hoop(Row r) => new(r.Machine, new($"{HoopField.OwnPrefix}{r.Id}", r.Name, r.Width, r.Height)
    {
        Shape = Enum.TryParse<FieldShape>(r.Shape, out var shape) ? shape : FieldShape.Rectangle,
        CornerRadius = r.CornerRadius,
        Margin = r.Margin,
        Positions = (int)r.Positions,
        PositionStep = r.PositionStep,
        PositionsAcross = r.Across != 0,
    });

    private static long? NumberOf(string hoopId) => hoopId.StartsWith(HoopField.OwnPrefix, StringComparison.Ordinal) && long.TryParse(hoopId.AsSpan(HoopField.OwnPrefix.Length), out var id) ? id : null;
}
