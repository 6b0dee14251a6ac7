using EvenThimble.Core.Jobs;
using EvenThimble.Core.Lettering;
using EvenThimble.Core.Machines;
using EvenThimble.Core.Planning;

namespace EvenThimble.Core.Readiness;

/// <summary>What a list tells of a job without opening it.</summary>
/// <param name="WidthMm">Of all that is sewn.</param>
/// <param name="HeightMm">Of all that is sewn.</param>
/// <param name="Stitches">Needle points.</param>
/// <param name="Machine">The machine it is meant for.</param>
/// <param name="Field">The hoop field.</param>
/// <param name="ToLookAt">Findings that are more than notes.</param>
public sealed record JobSummary(double WidthMm, double HeightMm, int Stitches, string Machine, string Field, int ToLookAt)
{
    /// <summary>Readiness in a few words.</summary>
    public string Readiness => ToLookAt == 0 ? "ready" : ToLookAt == 1 ? "1 thing to look at" : $"{ToLookAt} things to look at";

    /// <summary>Of a job and its plan.</summary>
    public static JobSummary Of(Job job, SewingPlan plan, MachineCatalogue machines, ILetterFaces? faces = null) => new(
        plan.Bounds.Width, plan.Bounds.Height, plan.StitchCount, machines.MachineOf(job.Hoop).Name, machines.FieldOf(job.Hoop).Name,
        Inspector.Inspect(job, plan, machines, faces).Count(f => f.Level != FindingLevel.Note));
}
