using System.Globalization;
using System.Text.Json;
using EvenThimble.Core.Jobs;
using EvenThimble.Core.Planning.Ordering;
using EvenThimble.Core.Rack;
using EvenThimble.Core.Readiness;
using EvenThimble.Core.Text;
using EvenThimble.Core.Threads;
using EvenThimble.Storage;
using EvenThimble.Web.Workroom;
using Microsoft.AspNetCore.Mvc;

namespace EvenThimble.Web.Pages.Bench;

/// <summary>Other threads for parts or for all of it, how much of them is taken, and an order with fewer changes.</summary>
public sealed class ThreadsTask : BenchTask
{
    private sealed record ThreadForm(string? Maker, string? Number);

    private sealed record StayingForm(int[] Staying);

    private sealed record CopiesForm(string? Value);

    private sealed record SewnFromForm(string[] Pair, string[] From, int? Only);

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
        Command.Of<CopiesForm>("copies", "Say how many times it is sewn", (_, form) => new SetCopies(
            int.TryParse(form.Value?.Trim(), NumberStyles.None, CultureInfo.InvariantCulture, out var copies) ? copies : throw new EditRefusedException("Type how many times it is sewn, such as 12."))),
        Command.Of<SewnFromForm>("sewn-from", "Sew it in threads at hand", (bench, form) => FromRackCard.EditOf(bench, form.From, form.Pair, form.Only))
            with { Afterwards = (bench, edit) => bench.Get<RackStore>().Remember(((SewInThreads)edit).Changes.Select(c => (c.From, c.To))) },
    ];

    public override IReadOnlyList<ScreenKey> ScreenKeys { get; } = [new("f", "fewer thread changes", KeySection.ApartTogetherLess, "press") { With = ["threads", "#find-fewer"] }];

    public override IReadOnlyDictionary<string, Func<BenchView, PartRequest, Task<IActionResult>>> Parts { get; } = new Dictionary<string, Func<BenchView, PartRequest, Task<IActionResult>>>
    {
        ["threads"] = (bench, request) => Task.FromResult(request.Partial("Threads/_ThreadList", ThreadsCard.Of(bench, request.Http.Query))),
        ["from-rack"] = (bench, request) => Task.FromResult(request.Partial("Threads/_FromRack", FromRackCard.Of(bench, request.Http.Query))),
        ["in-threads"] = (bench, request) => Task.FromResult(FromRackCard.Picture(bench, request.Http.Query)),
        ["fewer"] = (bench, request) => Task.FromResult(request.Partial("Threads/_Fewer", new FewerChangesCard(bench, FewerChangesCard.For(bench, [.. request.Http.Query["staying"].Select(s => int.TryParse(s, out var id) ? id : 0)])))),
    };

    public override IReadOnlyDictionary<string, Func<BenchView, PartRequest, Task<IActionResult>>> Sent { get; } = new Dictionary<string, Func<BenchView, PartRequest, Task<IActionResult>>>
    {
        ["use-rack"] = (bench, request) => Task.FromResult(UseRack(bench, request)),
        ["to-buy"] = (bench, request) => Task.FromResult(ToBuy(bench, request)),
    };

    public override object CardFor(BenchView bench) => ThreadsCard.Of(bench, QueryCollection.Empty);

    private static IActionResult UseRack(BenchView bench, PartRequest request)
    {
        bench.Get<RackStore>().SetRackOf(bench.Open.Stored.Id, long.TryParse(request.Http.SentForm()["rack"], NumberStyles.None, CultureInfo.InvariantCulture, out var rack) ? rack : 0);
        return request.Answer(bench, $"Set against {bench.Get<ThreadBox>().RackOf(bench.Open).Name}");
    }

    /// <summary>Notes what is missing of the threads that are named, or of all.</summary>
    private static IActionResult ToBuy(BenchView bench, PartRequest request)
    {
        var named = request.Http.SentForm()["thread"].OfType<string>().ToHashSet();
        var missing = bench.Get<ThreadBox>().NeedsOf(bench.Open).Threads.Where(n => !n.IsEnough && (named.Count == 0 || named.Contains(FromRackCard.Key(n.Thread)))).ToList();
        if (missing.Count == 0) return request.Say(bench, "Nothing of that is missing any more.");
        bench.Get<ShoppingStore>().Note(bench.Open.Stored.Id, bench.Job.Title, missing.Select(n => (n.Thread, n.MissingMetres)));
        return request.Say(bench, $"On the shopping list: {string.Join(", ", missing.Select(n => $"{n.MissingMetres.ToString("0.#", CultureInfo.InvariantCulture)} m of {n.Thread.Label}"))}");
    }
}

/// <summary>The threads of the job, and those that were found.</summary>
public sealed record ThreadsCard(BenchView Bench, IReadOnlyList<ThreadMatch> Matches, string? Find, string? Chart)
{
    private const int MostMatches = 60;
    private ThreadNeeds? _needs;

    /// <summary>All charts.</summary>
    public IReadOnlyList<ThreadChart> Charts => Bench.Get<ThreadStore>().Charts;

    /// <summary>Of how many charts one buys.</summary>
    public int Bought => Bench.Get<ThreadStore>().Bought.Count;

    /// <summary>What a search finds: words, a number or a colour in a chart or in all.</summary>
    public static ThreadsCard Of(BenchView bench, IQueryCollection query)
    {
        var (find, chart) = (query["find"].ToString(), query["chart"].ToString());
        return new(bench, ThreadSearch.Find(bench.Get<ThreadStore>().ThreadsOf(chart), find, MostMatches), find, chart);
    }

    /// <summary>What all copies take, set against the rack.</summary>
    public ThreadNeeds Needs => _needs ??= Bench.Get<ThreadBox>().NeedsOf(Bench.Open);

    /// <summary>All racks, and which of them the job is sewn from.</summary>
    public IReadOnlyList<RackLine> Racks => Bench.Get<RackStore>().Racks;

    /// <summary>The rack that the job is sewn from.</summary>
    public RackLine Rack => Bench.Get<ThreadBox>().RackOf(Bench.Open);

    /// <summary>The values that note what a finding misses.</summary>
    public static string MissingValues(Finding finding) => JsonSerializer.Serialize(new { thread = finding.Missing.Select(m => FromRackCard.Key(m.Thread)) });

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
