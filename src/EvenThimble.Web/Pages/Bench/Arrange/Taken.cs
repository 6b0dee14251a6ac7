using System.Collections.Immutable;
using EvenThimble.Core.Geometry;
using EvenThimble.Core.Jobs;
using EvenThimble.Core.Planning.Splitting;
using EvenThimble.Core.Text;
using EvenThimble.Web.Workroom;

namespace EvenThimble.Web.Pages.Bench;

/// <summary>Takes the selected parts apart, one or several in one step.</summary>
internal static class Taken
{
    /// <summary>At their jumps, or by stretches that hang together.</summary>
    public static JobEdit Apart(BenchView bench, bool byStretches)
    {
        var (chosen, stitches) = (bench.Selected, bench.Get<JobDesk>().Stitches);
        if (chosen.Count == 0) throw new EditRefusedException("Nothing is selected. Choose the part that is to be taken apart.");
        SplitPart Split(Job job, PartId id) => byStretches ? Splitter.ByStretches(job, id, stitches) : Splitter.AtJumps(job, id, stitches);
        if (chosen.Count == 1) return Split(bench.Job, chosen[0].Id);
        var (edits, job, refused) = (ImmutableArray.CreateBuilder<JobEdit>(), bench.Job, default(EditRefusedException));
        foreach (var part in chosen)
        {
            try
            {
                edits.Add(Split(job, part.Id));
                job = edits[^1].Apply(job);
            }
            catch (EditRefusedException e)
            {
                refused = e;
            }
        }

        return edits.Count == 0 ? throw refused! : new EditsTogether($"Split {edits.Count} parts into {edits.Count + job.Order.Count - bench.Job.Order.Count} {(byStretches ? "by stretches that hang together" : "at their jumps")}", edits.ToImmutable());
    }

    /// <summary>What lies inside a line drawn on the cloth.</summary>
    public static JobEdit Around(BenchView bench, List<Point> line)
    {
        var (chosen, stitches) = (bench.Selected, bench.Get<JobDesk>().Stitches);
        if (chosen.Count == 0) throw new EditRefusedException("Choose the part first, then draw a line around what should become a part of its own.");
        if (chosen.Count == 1) return Splitter.ByLasso(bench.Job, chosen[0].Id, line, stitches);
        var edits = ImmutableArray.CreateBuilder<JobEdit>();
        var job = bench.Job;
        foreach (var part in chosen)
        {
            try
            {
                edits.Add(Splitter.ByLasso(job, part.Id, line, stitches));
                job = edits[^1].Apply(job);
            }
            catch (EditRefusedException)
            {
                // Of several parts some may lie wholly inside or outside.
            }
        }

        return edits.Count == 0 ? throw new EditRefusedException("None of the selected parts lies partly inside that line.") : new EditsTogether($"Split {edits.Count} parts around what you drew", edits.ToImmutable());
    }
}
