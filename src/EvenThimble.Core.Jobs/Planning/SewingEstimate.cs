using System.Collections.Immutable;
using EvenThimble.Core.Machines;
using EvenThimble.Core.Stitches;
using EvenThimble.Core.Threads;

namespace EvenThimble.Core.Planning;

/// <summary>How much of one thread a plan takes.</summary>
/// <param name="Thread">The thread.</param>
/// <param name="TopMetres">Length on top, m, tails included.</param>
/// <param name="BobbinMetres">Length of bobbin thread under it, m, tails included.</param>
/// <param name="Stitches">Needle points.</param>
public sealed record ThreadUse(SewingThread Thread, double TopMetres, double BobbinMetres, int Stitches);

/// <summary>How long a plan sews and what it takes.</summary>
/// <param name="Minutes">Time on one machine, minutes, thread changes and trims included.</param>
/// <param name="Threads">Use of each thread, in the order they are first used.</param>
public sealed record SewingEstimate(double Minutes, ImmutableArray<ThreadUse> Threads)
{
    private const double TrimSeconds = 7;
    private const double ChangeSecondsOneNeedle = 60;
    private const double ChangeSecondsManyNeedles = 12;
    private const double HoopChangeSeconds = 120;

    // Machines slow down for long throws: full speed up to here, then in proportion to the length.
    private const double FullSpeedUpToMm = 4;

    /// <summary>The same with the time that all hoopings take one after the other, hooping again included. The thread stays that of the job: what aligns and holds the cloth is sewn in any.</summary>
    public SewingEstimate InHoopings(IReadOnlyList<SewingPlan> hoopings, SewingMachineModel machine, double clothThickness) => hoopings.Count == 1
        ? this with { Minutes = Of(hoopings[0], machine, clothThickness).Minutes }
        : this with { Minutes = hoopings.Sum(h => Of(h, machine, clothThickness).Minutes) + ((hoopings.Count - 1) * HoopChangeSeconds / 60) };

    /// <summary>The estimate for a machine and a cloth of a thickness (mm).</summary>
    public static SewingEstimate Of(SewingPlan plan, SewingMachineModel machine, double clothThickness)
    {
        var use = plan.Threads.ToDictionary(t => t, _ => (Top: 0.0, Bobbin: 0.0, Stitches: 0));
        double seconds = 0;
        var records = plan.Records;
        foreach (var part in plan.Parts)
        {
            var (top, bobbin, stitches) = use[part.Thread];
            for (var i = part.First; i < part.End; i++)
            {
                top += ThreadLengths.TopMm(records, i, clothThickness);
                bobbin += ThreadLengths.BobbinMm(records, i);
                seconds += SecondsOf(records, i, machine);
                if (records.Kinds[i] == StitchKind.Stitch) stitches++;
            }

            use[part.Thread] = (top, bobbin, stitches);
        }

        seconds += plan.ThreadChanges * (machine.Needles > 1 ? ChangeSecondsManyNeedles : ChangeSecondsOneNeedle);
        return new(seconds / 60, [.. plan.Threads.Select(t => new ThreadUse(t, use[t].Top / 1000, use[t].Bobbin / 1000, use[t].Stitches))]);
    }

    /// <summary>The time that a machine takes for one record, seconds.</summary>
    public static double SecondsOf(StitchBlob records, int record, SewingMachineModel machine) => records.Kinds[record] switch
    {
        StitchKind.Stitch => 60.0 / machine.StitchesPerMinute * Math.Max(1, ThreadLengths.StitchMm(records, record) / FullSpeedUpToMm),
        StitchKind.Trim => TrimSeconds,
        _ => 0,
    };
}
