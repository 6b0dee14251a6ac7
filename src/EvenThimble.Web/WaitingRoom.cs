using EvenThimble.Storage;

namespace EvenThimble.Web;

/// <summary>
/// Where requests that need the database or much work wait for their turn, without a thread. Only a few are let in at once, those that change something by a door of their own, so that a
/// database which another program holds keeps nobody from looking, and pages that need neither always answer.
/// </summary>
public sealed class WaitingRoom(RequestDelegate next, Database database)
{
    private const int LooksAtOnce = 4;
    private const int ChangesAtOnce = 3;
    private static readonly string[] NeedNothing = ["/about", "/healthz", "/machine-room", "/sorry", "/looks"];
    private static readonly TimeSpan LookAgain = TimeSpan.FromSeconds(0.5);
    private static readonly TimeSpan Patience = TimeSpan.FromSeconds(5);
    private static readonly TimeSpan Longest = TimeSpan.FromSeconds(60);
    private readonly SemaphoreSlim _looks = new(LooksAtOnce);
    private readonly SemaphoreSlim _changes = new(ChangesAtOnce);

    /// <summary>Goes on when it is the request's turn, or says that there is no sense in waiting.</summary>
    public async Task InvokeAsync(HttpContext context)
    {
        if (NeedNothing.Any(n => context.Request.Path.StartsWithSegments(n, StringComparison.OrdinalIgnoreCase)))
        {
            await next(context);
            return;
        }

        var door = HttpMethods.IsPost(context.Request.Method) ? _changes : _looks;
        var begun = TimeProvider.System.GetTimestamp();
        while (!await door.WaitAsync(LookAgain, context.RequestAborted))
        {
            var waited = TimeProvider.System.GetElapsedTime(begun);
            if (waited <= Longest && !(waited > Patience && database.IsBusy)) continue;
            await SentenceForErrors.AnswerAsync(context, StatusCodes.Status507InsufficientStorage, "The data folder is busy with another program. Wait a moment and do it again.");
            return;
        }

        try
        {
            await next(context);
        }
        finally
        {
            door.Release();
        }
    }
}
