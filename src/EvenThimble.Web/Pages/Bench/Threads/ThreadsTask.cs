using System.Text.Json;
using EvenThimble.Core.Jobs;
using EvenThimble.Core.Planning.Ordering;
using EvenThimble.Core.Text;
using EvenThimble.Core.Threads;
using EvenThimble.Storage;
using EvenThimble.Web.Workroom;
using Microsoft.AspNetCore.Mvc;

namespace EvenThimble.Web.Pages.Bench;

/// <summary>Other threads for parts, and an order with fewer changes.</summary>
public sealed class ThreadsTask : BenchTask
{
    private sealed record ThreadForm(string? Maker, string? Number);

    private sealed record StayingForm(int[] Staying);

    public override string Id => "threads";

    public override string Name => "Threads";

    public override string Icon => "bi-palette";

    public override char? Key => '5';

    public override string Says => "Give parts other threads, or fewer changes";

    public override string Focus => "find-thread";

    public override IReadOnlyList<Command> Commands { get; } =
    [
        Command.Of<ThreadForm>("recolour", "Give another thread", (bench, form) => new Recolour(
            bench.ChosenIds(), bench.Get<ThreadStore>().Find(form.Maker ?? string.Empty, form.Number ?? string.Empty) ?? throw new EditRefusedException("That thread is in none of the charts."))),
        Command.Of<StayingForm>("fewer", "Sew in an order with fewer thread changes", (bench, form) =>
        {
            var (found, _) = FewerChangesCard.For(bench, form.Staying);
            return found.After < found.Before
                ? new Reorder(found.Order, $"Fewer thread changes: {found.Before} became {found.After}")
                : throw new EditRefusedException($"There is no order with fewer than {found.Before} thread changes in which nothing comes to lie under what it covers.");
        }),
    ];

    public override IReadOnlyList<ScreenKey> ScreenKeys { get; } = [new("f", "fewer thread changes", KeySection.ApartTogetherLess, "press") { With = ["threads", "#find-fewer"] }];

    public override IReadOnlyDictionary<string, Func<BenchView, PartRequest, Task<IActionResult>>> Parts { get; } = new Dictionary<string, Func<BenchView, PartRequest, Task<IActionResult>>>
    {
        ["threads"] = (bench, request) => Task.FromResult(request.Partial("Threads/_ThreadList", ThreadsCard.Of(bench, request.Http.Query))),
        ["fewer"] = (bench, request) => Task.FromResult(request.Partial("Threads/_Fewer", new FewerChangesCard(bench, FewerChangesCard.For(bench, [.. request.Http.Query["staying"].Select(s => int.TryParse(s, out var id) ? id : 0)])))),
    };

    public override object CardFor(BenchView bench) => ThreadsCard.Of(bench, QueryCollection.Empty);
}

/// <summary>The threads of the job, and those that were found.</summary>
public sealed record ThreadsCard(BenchView Bench, IReadOnlyList<ThreadMatch> Matches, string? Find, string? Chart)
{
    private const int MostMatches = 60;

    /// <summary>All charts.</summary>
    public IReadOnlyList<ThreadChart> Charts => Bench.Get<ThreadStore>().Charts;

    /// <summary>What a search finds: words, a number or a colour in a chart or in all.</summary>
    public static ThreadsCard Of(BenchView bench, IQueryCollection query)
    {
        var (find, chart) = (query["find"].ToString(), query["chart"].ToString());
        return new(bench, ThreadSearch.Find(bench.Get<ThreadStore>().ThreadsOf(chart), find, MostMatches), find, chart);
    }

    /// <summary>The values that a recolouring posts.</summary>
    public static string Values(SewingThread thread) => JsonSerializer.Serialize(new { maker = thread.Maker, number = thread.Number });
}

/// <summary>An order that is proposed, and which parts are to stay where they are; null: none is asked for yet.</summary>
public sealed record FewerChangesCard(BenchView Bench, (NewOrder Order, IReadOnlySet<PartId> Staying)? Fewer)
{
    /// <summary>The order with the fewest thread changes.</summary>
    public static (NewOrder Order, IReadOnlySet<PartId> Staying) For(BenchView bench, int[] staying)
    {
        var stay = staying.Select(id => new PartId(id)).ToHashSet();

        // What is left out now may be sewn again later, so the order is that of everything.
        var whole = bench.Job.SewsOnlySeen ? bench.Get<JobDesk>().Whole(bench.Job) : bench.Open.Plan;
        return (FewerChanges.Find(bench.Job, whole, ReferenceEquals(whole, bench.Open.Plan) ? bench.Open.Overlaps : Overlaps.Of(whole), stay), stay);
    }
}
