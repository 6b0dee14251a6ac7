using EvenThimble.Core.Machines;
using EvenThimble.Core.Stitches;
using EvenThimble.Core.Threads;

namespace EvenThimble.Core.Planning;

/// <summary>What the operator does or watches, in order: a thread that is sewn, or a stop.</summary>
public abstract record SewingStep
{
    private SewingStep()
    {
    }

    /// <summary>Parts that sew one after the other in one thread.</summary>
    /// <param name="Thread">The thread.</param>
    /// <param name="Names">The parts, in order.</param>
    /// <param name="FirstPart">The number of the first of them in the plan.</param>
    /// <param name="Stitches">Needle points.</param>
    /// <param name="Metres">Thread on top, m.</param>
    /// <param name="Minutes">Time, minutes, without the change of thread.</param>
    public sealed record Sew(SewingThread Thread, IReadOnlyList<string> Names, int FirstPart, int Stitches, double Metres, double Minutes) : SewingStep;

    /// <summary>The machine waits.</summary>
    /// <param name="Message">What it says; empty: nothing.</param>
    public sealed record Stop(string Message) : SewingStep;
}

/// <summary>The steps of a plan, for the sheet beside the machine.</summary>
public static class SewingSteps
{
    /// <summary>The steps, on a machine and a cloth of a thickness (mm).</summary>
    public static IReadOnlyList<SewingStep> Of(SewingPlan plan, SewingMachineModel machine, double clothThickness)
    {
        var steps = new List<SewingStep>();
        var records = plan.Records;
        SewingThread? onMachine = null;
        for (var n = 0; n < plan.Parts.Length; n++)
        {
            var part = plan.Parts[n];
            for (var i = part.First; i < part.End;)
            {
                // Up to the next stop is one step; a part that is stopped within goes on in another.
                var end = i;
                while (end < part.End && records.Kinds[end] != StitchKind.Stop) end++;
                if (records.Kinds.Slice(i, end - i).Contains(StitchKind.Stitch)) Sewn(n, i, end);
                if (end < part.End) steps.Add(new SewingStep.Stop(records.Messages.GetValueOrDefault(end, string.Empty)));
                i = end + 1;
            }
        }

        return steps;

        void Sewn(int n, int first, int end)
        {
            var part = plan.Parts[n];
            var (stitches, seconds, metres) = (0, 0.0, 0.0);
            for (var i = first; i < end; i++)
            {
                stitches += records.Kinds[i] == StitchKind.Stitch ? 1 : 0;
                metres += ThreadLengths.TopMm(records, i, clothThickness) / 1000;
                seconds += SewingEstimate.SecondsOf(records, i, machine);
            }

            if (steps.Count > 0 && steps[^1] is SewingStep.Sew last && onMachine == part.Thread)
                steps[^1] = last with { Names = last.Names[^1] == part.Name ? last.Names : [.. last.Names, part.Name], Stitches = last.Stitches + stitches, Metres = last.Metres + metres, Minutes = last.Minutes + (seconds / 60) };
            else
                steps.Add(new SewingStep.Sew(part.Thread, [part.Name], n, stitches, metres, seconds / 60));
            onMachine = part.Thread;
        }
    }
}
