using System.Collections.Immutable;
using System.Globalization;
using System.Text.Json;
using EvenThimble.Core.Jobs;
using EvenThimble.Core.Planning;
using EvenThimble.Core.Rack;
using EvenThimble.Core.Text;
using EvenThimble.Core.Threads;
using EvenThimble.Rendering;
using EvenThimble.Web.Workroom;
using Microsoft.AspNetCore.Mvc;

namespace EvenThimble.Web.Pages.Bench;

/// <summary>The job in threads at hand: what each of its threads would be sewn with, before it is taken.</summary>
/// <param name="Bench">The bench.</param>
/// <param name="From">The racks and ranges that are looked in, by their keys.</param>
/// <param name="SpunAlike">Whether only threads of the same fibre will do.</param>
/// <param name="Chosen">By number of a thread in the plan, what the user chose for it on this card.</param>
/// <param name="Match">What was found.</param>
public sealed record FromRackCard(BenchView Bench, IReadOnlyList<string> From, bool SpunAlike, IReadOnlyDictionary<int, SewingThread> Chosen, SewnFrom Match)
{
    /// <summary>The fields that say what is looked for; the lists of candidates are not among them, since what was only found is found anew.</summary>
    public const string Asks = "#from-rack [name=from], #from-rack [name=alike], #from-rack [name=held]";

    private const int PictureWidth = 620;
    private const int PictureHeight = 620;

    /// <summary>All racks and ranges.</summary>
    public IReadOnlyList<ThreadSource> Sources { get; } = Bench.Get<ThreadBox>().Sources;

    /// <summary>The address of the picture of the job as it would be.</summary>
    public string After => $"{Bench.Part("in-threads")}?{string.Join('&', From.Select(f => $"from={Uri.EscapeDataString(f)}").Concat(Match.Threads.Select((t, n) => t.To is { } to ? $"pair={Uri.EscapeDataString(Pair(n, to.Thread))}" : null).OfType<string>()))}";

    /// <summary>The address of the picture of the job as it is.</summary>
    public string Before => $"{Bench.Part("in-threads")}?v={Bench.Open.Stored.Version}";

    /// <summary>Where it is sewn from, in words.</summary>
    public string FromInWords => InWords(Bench, From);

    /// <summary>What a request asks for; without sources, the rack of the job.</summary>
    public static FromRackCard Of(BenchView bench, IQueryCollection query)
    {
        var box = bench.Get<ThreadBox>();
        string[] from = [.. query["from"].OfType<string>().Where(f => f.Length > 0)];
        if (from.Length == 0) from = [box.UsualSourceOf(bench.Open)];
        var threads = box.ThreadsOf(from);
        var alike = query["alike"] == "true";

        // What is chosen now comes before what was chosen for the same thread earlier.
        var chosen = Pairs([.. query["pair"].OfType<string>(), .. query["held"].OfType<string>()], threads).ToDictionary(c => c.Number, c => c.To);
        return new(bench, from, alike, chosen, box.Match(bench.Open, threads, chosen, alike));
    }

    /// <summary>The edit that takes pairs, all of them or that of one thread only.</summary>
    /// <exception cref="EditRefusedException">A thread is not at hand any more.</exception>
    public static SewInThreads EditOf(BenchView bench, string[] from, string[] pairs, int? only)
    {
        if (only is { } one) pairs = [.. pairs.Where(p => p.StartsWith(string.Create(CultureInfo.InvariantCulture, $"{one}:"), StringComparison.Ordinal))];
        var threads = bench.Get<ThreadBox>().ThreadsOf(from);
        var own = bench.Open.Plan.Threads;
        var chosen = Pairs(pairs, threads).Where(c => c.Number < own.Length).ToList();
        if (chosen.Count < pairs.Count(p => p.Length > 0)) throw new EditRefusedException("One of those threads is not there any more. Look again what it would be sewn with.");
        return new([.. chosen.Select(c => new ThreadChange(own[c.Number], c.To))], InWords(bench, from));
    }

    /// <summary>A picture (PNG) of the job in chosen threads; as it is where none are.</summary>
    public static IActionResult Picture(BenchView bench, IQueryCollection query)
    {
        var to = Pairs(query["pair"].OfType<string>(), bench.Get<ThreadBox>().ThreadsOf(query["from"].OfType<string>())).ToDictionary(c => c.Number, c => c.To);
        var (plan, own) = (bench.Open.Plan, bench.Open.Plan.Threads);
        var changed = new SewingPlan(plan.Records, [.. plan.Parts.Select(p => to.TryGetValue(own.IndexOf(p.Thread), out var thread) ? p with { Thread = thread } : p)]);
        return new FileContentResult(ThreadPainter.Picture(changed.ToFile(bench.Job.Title), PictureWidth, PictureHeight, bench.Job.Cloth.Colour), "image/png");
    }

    /// <summary>A thread in a form.</summary>
    public static string Key(SewingThread thread) => $"{thread.Maker}|{thread.Number}";

    /// <summary>The values that note a thread of the job for buying.</summary>
    public static string Values(SewingThread thread) => JsonSerializer.Serialize(new { thread = Key(thread) });

    /// <summary>A thread of the plan by its number and what it would be sewn with, in a form.</summary>
    public static string Pair(int number, SewingThread to) => $"{number.ToString(CultureInfo.InvariantCulture)}:{Key(to)}";

    private static string InWords(BenchView bench, IReadOnlyList<string> from) =>
        bench.Get<ThreadBox>().Sources.Where(s => from.Contains(s.Key)).Select(s => s.Name).ToList() is [var one] ? one : $"{from.Count} racks and ranges";

    private static IEnumerable<(int Number, SewingThread To)> Pairs(IEnumerable<string> pairs, IReadOnlyList<OwnedThread> threads)
    {
        var there = threads.ToLookup(t => Key(t.Thread), t => t.Thread);
        return pairs.Select(p => p.Split(':', 2))
            .Where(p => p.Length == 2 && int.TryParse(p[0], NumberStyles.None, CultureInfo.InvariantCulture, out _))
            .Select(p => (Number: int.Parse(p[0], CultureInfo.InvariantCulture), To: there[p[1]].FirstOrDefault()!))
            .Where(p => p.To is not null)
            .DistinctBy(p => p.Number);
    }
}
