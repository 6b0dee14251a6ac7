using EvenThimble.Core.Stitches;

namespace EvenThimble.Core.Machines;

/// <summary>The made-up machines that ship with the program, so that everything can be tried without a machine.</summary>
public static class StandInMachines
{
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
            new("130x300-long", "130 × 300 long hoop", 130, 180) { Positions = 3, PositionStep = 60, EarlierId = "130x300" },
        ],
        200_000, 850, 1, 1);

    /// <summary>A shop machine.</summary>
    public static readonly SewingMachineModel StarlingEight = new(
        "starling-eight", "Starling Eight", [StitchFileKind.Evth2, StitchFileKind.GCode], [new("360x200", "360 × 200", 360, 200)], 1_000_000, 1000, 15, 8);

    /// <summary>All of them; new jobs are meant for the one with the long hoop.</summary>
    public static MachineCatalogue Catalogue { get; } = new([Wren130, Heron200, StarlingEight]) { Usual = Heron200 };
}
