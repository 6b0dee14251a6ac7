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

    /// <summary>A home machine, one needle, an older kind of file.</summary>
    public static readonly SewingMachineModel Wren130 = new(
        "wren-130", "Wren 130", [StitchFileKind.Evth1], [new("100x100", "100 × 100", 100, 100), new("130x180", "130 × 180", 130, 180)], 40_000, 650, 1, 1)
    {
        MostThreadChanges = 24,
        NameLength = 16,
    };

    /// <summary>A home machine with a long hoop.</summary>
    public static readonly SewingMachineModel Heron200 = new(
        "heron-200",
        "Heron 200",
        [StitchFileKind.Evth2],
        [
            new("130x180", "130 × 180", 130, 180),
            new("200x200", "200 × 200", 200, 200),
            new("130x300", "130 × 300 long hoop, middle place (sews 130 × 180)", 130, 180) { Positions = 3, PositionStep = 60 },
        ],
        200_000, 850, 1, 1);

    /// <summary>A shop machine.</summary>
    public static readonly SewingMachineModel StarlingEight = new(
        "starling-eight", "Starling Eight", [StitchFileKind.Evth2, StitchFileKind.GCode], [new("360x200", "360 × 200", 360, 200)], 1_000_000, 1000, 15, 8);

    /// <summary>All machines of the scenario.</summary>
    public static IReadOnlyList<SewingMachineModel> All { get; } = [Wren130, Heron200, StarlingEight];

    /// <summary>The machine of a short name, or null.</summary>
    public static SewingMachineModel? Find(string? id) => All.FirstOrDefault(m => m.Id == id);

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
