using EvenThimble.Core.Stitches;

namespace EvenThimble.Core.Machines;

/// <summary>What a make of sewing machine takes and can do.</summary>
/// <param name="Id">Short name in files and addresses.</param>
/// <param name="Name">As it stands on the machine.</param>
/// <param name="Takes">The kinds of file it reads, the best first.</param>
/// <param name="Hoops">Its hoop fields, the smallest first.</param>
/// <param name="MostStitches">Needle points it takes in one file.</param>
/// <param name="StitchesPerMinute">Full speed.</param>
/// <param name="Needles">Threads that are on it at once.</param>
/// <param name="Heads">Garments that it sews at once.</param>
public sealed record SewingMachineModel(
    string Id, string Name, IReadOnlyList<StitchFileKind> Takes, IReadOnlyList<HoopField> Hoops, int MostStitches, int StitchesPerMinute, int Needles, int Heads)
{
    /// <summary>Thread changes it takes in one file, where it has such a limit.</summary>
    public int? MostThreadChanges { get; init; }

    /// <summary>Letters of a title or file name that it can show; then they must be plain ones. Null: any.</summary>
    public int? NameLength { get; init; }

    /// <summary>The longest stitch it can make, mm.</summary>
    public double LongestStitch { get; init; } = 12.1;

    /// <summary>The hoop of a short name, today's or an earlier one; null where there is none.</summary>
    public HoopField? FindHoop(string? id) => Hoops.FirstOrDefault(h => h.Id == id) ?? Hoops.FirstOrDefault(h => h.EarlierId is not null && h.EarlierId == id);

    /// <summary>The smallest of its hoops that holds a centred rectangle (mm), lying so or turned; null when none does.</summary>
    public (HoopField Field, bool Turned)? SmallestHoopFor(double width, double height)
    {
        foreach (var field in Hoops)
        {
            if (field.HoldsSize(width, height)) return (field, false);
            if (field.HoldsSize(height, width)) return (field, true);
        }

        return null;
    }
}
