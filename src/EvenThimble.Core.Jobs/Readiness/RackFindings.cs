using System.Collections.Immutable;
using System.Globalization;
using EvenThimble.Core.Colour;
using EvenThimble.Core.Jobs;
using EvenThimble.Core.Rack;
using EvenThimble.Core.Threads;

namespace EvenThimble.Core.Readiness;

/// <summary>Whether there is enough thread for a job on its rack.</summary>
public static class RackFindings
{
    private const int MostRemedies = 2;
    private const int MostNamed = 4;

    /// <summary>What runs out and what is not there at all. Nothing is said of a rack that nobody has filled.</summary>
    /// <param name="needs">What the job takes, set against the rack.</param>
    /// <param name="rack">All cones of the rack.</param>
    /// <param name="makeOf">What sort a thread of the job is, as far as a chart says.</param>
    public static IEnumerable<Finding> Of(ThreadNeeds needs, IReadOnlyList<Cone> rack, Func<SewingThread, ThreadMake> makeOf)
    {
        if (rack.Count == 0) yield break;
        foreach (var need in needs.Threads.Where(n => n is { IsEnough: false, Cone: not null }))
        {
            yield return new($"runs-out-{Plain(need.Thread)}", FindingLevel.Attention,
                need.Out is { } o
                    ? Text($"{need.Thread.Label} runs out in copy {o.Copy:N0} of {needs.Copies:N0}, at stitch {o.Stitch:N0}: {need.TopMetres:0.#} m are sewn, {need.Cone!.LeftMetres:0.#} m are on the rack.")
                    : Text($"{need.Thread.Label} is used up: {need.TopMetres:0.#} m are sewn."),
                Text($"{need.MissingMetres:0.#} m are missing. Sew it with another cone, or put it on the shopping list."))
            {
                Remedies = OtherCones(need, needs, rack, makeOf),
                Record = need.Out?.Record,
                Missing = [new(need.Thread, need.MissingMetres)],
            };
        }

        var absent = needs.Threads.Where(n => n.Cone is null).ToList();
        if (absent.Count == 0) yield break;
        yield return new("not-on-the-rack", FindingLevel.Note,
            $"{string.Join(", ", absent.Take(MostNamed).Select(n => n.Thread.Label))}{(absent.Count > MostNamed ? $" and {absent.Count - MostNamed} more" : string.Empty)} {(absent.Count == 1 ? "is" : "are")} not on the rack.",
            "See the job sewn from the rack under Threads, or put them on the shopping list.")
        {
            Missing = [.. absent.Select(n => new MissingThread(n.Thread, n.MissingMetres))],
        };
    }

    /// <summary>The nearest cones that have enough and that no other thread of the job is sewn with.</summary>
    private static ImmutableArray<Remedy> OtherCones(ThreadNeed need, ThreadNeeds needs, IReadOnlyList<Cone> rack, Func<SewingThread, ThreadMake> makeOf)
    {
        var (look, make) = (Lab.From(need.Thread.Colour), makeOf(need.Thread));
        return
        [
            .. rack.Where(c => c.LeftMetres >= need.TopMetres && make.SewsLike(c.Make) && !needs.Threads.Any(n => n.Thread.IsSameAs(c.Thread)))
                .Select(c => (c.Thread, Difference: ColourDifference.Ciede2000(look, Lab.From(c.Thread.Colour))))
                .Where(c => c.Difference < MatchedThread.FarthestGood)
                .OrderBy(c => c.Difference)
                .Take(MostRemedies)
                .Select(c => new Remedy(
                    $"other-cone-{Plain(need.Thread)}-{Plain(c.Thread)}",
                    $"Sew it with {c.Thread.Label} ({ColourDifference.InWords(look, Lab.From(c.Thread.Colour))})",
                    new SewInThreads([new(need.Thread, c.Thread)], "the rack"))),
        ];
    }

    /// <summary>A thread in a key of plain letters, whatever its maker puts into numbers.</summary>
    private static string Plain(SewingThread thread) => string.Concat($"{thread.Maker}-{thread.Number}".Select(c => char.IsAsciiLetterOrDigit(c) ? c : '-'));

    private static string Text(FormattableString text) => text.ToString(CultureInfo.InvariantCulture);
}
