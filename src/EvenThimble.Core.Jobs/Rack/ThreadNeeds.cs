using System.Collections.Immutable;
using EvenThimble.Core.Planning;
using EvenThimble.Core.Stitches;
using EvenThimble.Core.Threads;

namespace EvenThimble.Core.Rack;

/// <summary>Where a thread runs out.</summary>
/// <param name="Copy">In which copy, from 1.</param>
/// <param name="Stitch">At which stitch of it, from 1.</param>
/// <param name="Record">The record of the plan.</param>
public sealed record RunsOut(int Copy, int Stitch, int Record);

/// <summary>What a job takes of one thread, and what there is.</summary>
/// <param name="Thread">The thread.</param>
/// <param name="TopMetres">Length on top for all copies, m.</param>
/// <param name="BobbinMetres">Length of bobbin thread under it for all copies, m.</param>
/// <param name="Cone">What is on the rack; null: none.</param>
/// <param name="Out">Where it runs out; null: there is enough, or none at all.</param>
public sealed record ThreadNeed(SewingThread Thread, double TopMetres, double BobbinMetres, Cone? Cone, RunsOut? Out)
{
    /// <summary>What is left afterwards, m.</summary>
    public double LeftAfter => Math.Max(0, (Cone?.LeftMetres ?? 0) - TopMetres);

    /// <summary>What there is too little of, m; 0 where there is enough.</summary>
    public double MissingMetres => Math.Max(0, TopMetres - (Cone?.LeftMetres ?? 0));

    /// <summary>Whether there is enough of it.</summary>
    public bool IsEnough => MissingMetres <= 0;
}

/// <summary>What all copies of a job take, thread by thread in sewing order.</summary>
/// <param name="Copies">How many times it is sewn.</param>
/// <param name="Threads">By thread, in the order they are first used.</param>
public sealed record ThreadNeeds(int Copies, ImmutableArray<ThreadNeed> Threads)
{
    /// <summary>Bobbin thread of all, m.</summary>
    public double BobbinMetres => Threads.Sum(t => t.BobbinMetres);

    /// <summary>What a plan takes, set against a rack.</summary>
    /// <param name="plan">The plan of one copy.</param>
    /// <param name="each">What one copy takes of each thread of the plan, on this cloth (<see cref="SewingEstimate"/>).</param>
    /// <param name="clothThickness">Of the cloth, mm.</param>
    /// <param name="copies">How many times it is sewn, at least 1.</param>
    /// <param name="rack">What there is.</param>
    public static ThreadNeeds Of(SewingPlan plan, IReadOnlyList<ThreadUse> each, double clothThickness, int copies, IReadOnlyList<Cone> rack)
    {
        var cones = rack.ToLookup(c => (c.Thread.Maker, c.Thread.Number));

        // One article may stand in a job under two names or colours, as files gave them; it comes off one cone.
        var articles = new List<ThreadUse>();
        foreach (var use in each)
        {
            var known = articles.FindIndex(a => a.Thread.IsSameAs(use.Thread));
            if (known < 0) articles.Add(use);
            else articles[known] = articles[known] with { TopMetres = articles[known].TopMetres + use.TopMetres, BobbinMetres = articles[known].BobbinMetres + use.BobbinMetres, Stitches = articles[known].Stitches + use.Stitches };
        }

        return new(copies, [.. articles.Select(use =>
        {
            var cone = cones[(use.Thread.Maker, use.Thread.Number)].FirstOrDefault(c => c.Thread.IsSameAs(use.Thread));
            var (top, bobbin) = (use.TopMetres * copies, use.BobbinMetres * copies);
            return new ThreadNeed(use.Thread, top, bobbin, cone, cone is null || cone.LeftMetres >= top ? null : Where(plan, use.Thread, clothThickness, use.TopMetres, cone.LeftMetres));
        })]);
    }

    private static RunsOut Where(SewingPlan plan, SewingThread thread, double clothThickness, double each, double left)
    {
        var whole = (int)Math.Floor(left / each);
        var (rest, stitch) = (left - (whole * each), 0);
        foreach (var part in plan.Parts)
        {
            for (var i = part.First; i < part.End; i++)
            {
                if (plan.Records.Kinds[i] == StitchKind.Stitch) stitch++;
                if (!part.Thread.IsSameAs(thread)) continue;
                rest -= ThreadLengths.TopMm(plan.Records, i, clothThickness) / 1000;
                if (rest < 0) return new(whole + 1, stitch, i);
            }
        }

        // Rounding alone brings it here: the last copy ends with the thread.
        return new(whole + 1, stitch, plan.Records.Count - 1);
    }
}
