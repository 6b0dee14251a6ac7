using EvenThimble.Core.Text;
using EvenThimble.Equipment;
using EvenThimble.Storage;
using Microsoft.AspNetCore.Diagnostics;
using Microsoft.AspNetCore.Mvc;
using Microsoft.AspNetCore.Mvc.Filters;

namespace EvenThimble.Web;

/// <summary>Sentences and status codes for what can go wrong.</summary>
public static class Refusals
{
    /// <summary>The status and sentence of an exception that is meant for the user; null for a mistake of ours.</summary>
    public static (int Status, string Sentence)? Of(Exception? e) => e switch
    {
        StaleEditException => (StatusCodes.Status409Conflict, e.Message),
        RefusedException or EquipmentException or UnreadableException => (StatusCodes.Status422UnprocessableEntity, e.Message),
        NoSuchJobException => (StatusCodes.Status404NotFound, e.Message),
        StorageException => (StatusCodes.Status507InsufficientStorage, e.Message),
        BadHttpRequestException { StatusCode: StatusCodes.Status413PayloadTooLarge } => (StatusCodes.Status413PayloadTooLarge, "That is larger than 256 MB, far more than any stitch file. Nothing was taken in."),
        _ => null,
    };
}

/// <summary>Answers a page's post that was refused with its sentence, where the page does not do so itself.</summary>
public sealed class RefusalsInWords : IExceptionFilter
{
    /// <inheritdoc/>
    public void OnException(ExceptionContext context)
    {
        if (SentenceForErrors.IsLookedAt(context.HttpContext.Request) || Refusals.Of(context.Exception) is not { } refusal) return;
        context.Result = SentenceForErrors.ResultOf(context.HttpContext, refusal.Status, refusal.Sentence);
        context.ExceptionHandled = true;
    }
}

/// <summary>The last resort: a sentence instead of an exception page.</summary>
public static class SentenceForErrors
{
    /// <summary>How it is done. What is refused in words is no mistake of the program, and not written to the log as one.</summary>
    public static ExceptionHandlerOptions Options { get; } = new() { ExceptionHandler = HandleAsync, SuppressDiagnosticsCallback = c => Refusals.Of(c.Exception) is not null };

    private static async Task HandleAsync(HttpContext context)
    {
        var refusal = Refusals.Of(context.Features.Get<IExceptionHandlerFeature>()?.Error)
            ?? (StatusCodes.Status500InternalServerError, "Something went wrong in the program, and it is not your doing. Nothing that was stored is lost; go back and try again.");
        if (IsLookedAt(context.Request))
        {
            context.Response.StatusCode = Paged(context, refusal);
            return;
        }

        await AnswerAsync(context, refusal.Status, refusal.Sentence);
    }

    /// <summary>A sentence as the result of a handler: as a page where somebody looks, else by itself.</summary>
    public static IActionResult ResultOf(HttpContext context, int status, string sentence) => IsLookedAt(context.Request)
        ? new StatusCodeResult(Paged(context, (status, sentence)))
        : new ContentResult { StatusCode = status, Content = sentence, ContentType = "text/plain; charset=utf-8" };

    // An answer without a body becomes a page.
    private static int Paged(HttpContext context, (int Status, string Sentence) refusal)
    {
        context.Items[Said] = refusal.Sentence;
        return refusal.Status;
    }

    /// <summary>Whether somebody opens it as a page, rather than a script a piece of one.</summary>
    public static bool IsLookedAt(HttpRequest request) =>
        HttpMethods.IsGet(request.Method) && request.Headers.Accept.ToString().Contains("text/html", StringComparison.Ordinal) && !request.Headers.ContainsKey("HX-Request");

    /// <summary>Under this name the sentence waits for the page that shows it.</summary>
    public const string Said = "said";

    /// <summary>Answers with a sentence and nothing else.</summary>
    public static Task AnswerAsync(HttpContext context, int status, string sentence)
    {
        context.Response.StatusCode = status;
        context.Response.ContentType = "text/plain; charset=utf-8";
        return context.Response.WriteAsync(sentence, context.RequestAborted);
    }
}
