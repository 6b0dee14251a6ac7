using EvenThimble.Core.Work;

namespace EvenThimble.Web;

/// <summary>
/// Gives each request a budget for what it may work out, which ends when its client leaves. An edit gets less than a look, so that whatever could be stored can be shown again.
/// </summary>
public sealed class PatientWork(RequestDelegate next)
{
    private static readonly TimeSpan ForAChange = TimeSpan.FromSeconds(4);
    private static readonly TimeSpan ForALook = TimeSpan.FromSeconds(4.7);

    /// <summary>Goes on within the budget. Nobody reads the answer of a request whose client has left.</summary>
    public async Task InvokeAsync(HttpContext context)
    {
        try
        {
            using (WorkBudget.Begin(HttpMethods.IsPost(context.Request.Method) ? ForAChange : ForALook, context.RequestAborted)) await next(context);
        }
        catch (OperationCanceledException) when (context.RequestAborted.IsCancellationRequested)
        {
            if (!context.Response.HasStarted) context.Response.StatusCode = StatusCodes.Status499ClientClosedRequest;
        }
    }
}
