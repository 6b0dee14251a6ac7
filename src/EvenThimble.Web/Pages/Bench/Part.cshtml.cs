using EvenThimble.Storage;
using EvenThimble.Web.Workroom;
using Microsoft.AspNetCore.Mvc;

namespace EvenThimble.Web.Pages.Bench;

/// <summary>A request for a part of the bench, with what answers it.</summary>
public sealed class PartRequest(PartModel page)
{
    /// <summary>The request.</summary>
    public HttpRequest Http => page.Request;

    /// <summary>Answers with a partial.</summary>
    public IActionResult Partial(string name, object model) => page.Partial(name, model);

    /// <summary>Answers with all pieces of the page that changed, as a command does.</summary>
    public IActionResult Answer(BenchView bench, string? says = null, int status = StatusCodes.Status200OK, object? card = null) => page.Answer(new(bench, page.Shown) { Says = says, Trouble = status >= StatusCodes.Status400BadRequest, Card = card }, status);

    /// <summary>Says something, and leaves the page as it is.</summary>
    public IActionResult Say(BenchView bench, string says) => page.Answer(new(bench, page.Shown) { Says = says, KeepsCard = true }, StatusCodes.Status200OK);
}

/// <summary>Parts of the bench that are asked for by themselves: the card, the history, pieces of cards, lines to be drawn.</summary>
public sealed class PartModel(JobDesk desk) : BenchPageModel(desk)
{
    /// <summary>Answers with the part of a name.</summary>
    public Task<IActionResult> OnGetAsync(string part) => Answered(BenchParts.AskedOf(part));

    /// <summary>Takes what is sent to the part of a name, such as a drawing.</summary>
    public Task<IActionResult> OnPostAsync(string part) => Answered(BenchParts.SentTo(part));

    internal IActionResult Answer(BenchAnswer answer, int status)
    {
        Response.StatusCode = status;
        return Answered(answer);
    }

    private Task<IActionResult> Answered(Func<BenchView, PartRequest, Task<IActionResult>>? known) =>
        known is null ? System.Threading.Tasks.Task.FromResult<IActionResult>(NotFound()) : known(Bench, new(this));
}

/// <summary>What answers to the names of parts: what the tasks declare, and the parts that belong to no task.</summary>
internal static class BenchParts
{
    private static readonly IReadOnlyDictionary<string, Func<BenchView, PartRequest, Task<IActionResult>>> Own = new Dictionary<string, Func<BenchView, PartRequest, Task<IActionResult>>>
    {
        // The card of the open task for the selection.
        ["card"] = (bench, request) => Task.FromResult(request.Partial("_TaskCard", new BenchAnswer(bench, null) { Sent = false })),

        // Everything that the state of the job changes on the screen.
        ["state"] = (bench, request) => Task.FromResult(request.Answer(bench)),

        ["history"] = (bench, request) => Task.FromResult(request.Partial("_History", new HistoryList(bench, bench.Get<JobStore>().History(bench.Open.Stored.Id), bench.Get<TimeProvider>().GetUtcNow()))),
    };

    /// <summary>What answers when a part is asked for; null: nothing.</summary>
    public static Func<BenchView, PartRequest, Task<IActionResult>>? AskedOf(string part) => Own.GetValueOrDefault(part) ?? BenchRegistry.Tasks.Select(t => t.Parts.GetValueOrDefault(part)).FirstOrDefault(p => p is not null);

    /// <summary>What takes what is sent to a part; null: nothing.</summary>
    public static Func<BenchView, PartRequest, Task<IActionResult>>? SentTo(string part) => BenchRegistry.Tasks.Select(t => t.Sent.GetValueOrDefault(part)).FirstOrDefault(p => p is not null);
}

/// <summary>The history of a job, the newest line first.</summary>
public sealed record HistoryList(BenchView Bench, IReadOnlyList<HistoryLine> Lines, DateTimeOffset Now);
