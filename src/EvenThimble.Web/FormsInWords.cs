namespace EvenThimble.Web;

/// <summary>Reads what a post brings before anybody asks for it, so that the true reason is told when it cannot be taken: a full disk, a body over the limit, one that was cut short.</summary>
public sealed class FormsInWords(RequestDelegate next)
{
    /// <summary>Reads the form, if there is one, and goes on.</summary>
    public async Task InvokeAsync(HttpContext context)
    {
        if (HttpMethods.IsPost(context.Request.Method) && context.Request.HasFormContentType && await ReasonAsync(context) is var (status, sentence))
        {
            await SentenceForErrors.AnswerAsync(context, status, sentence);
            return;
        }

        if (HttpMethods.IsPost(context.Request.Method) && !context.Request.HasFormContentType && context.Request.ContentType is not null)
        {
            await SentenceForErrors.AnswerAsync(context, StatusCodes.Status415UnsupportedMediaType, "That did not come as a form, so it cannot be understood. Nothing was taken in.");
            return;
        }

        await next(context);
    }

    private static async Task<(int Status, string Sentence)?> ReasonAsync(HttpContext context)
    {
        try
        {
            await context.Request.ReadFormAsync(context.RequestAborted);
            return null;
        }
        catch (BadHttpRequestException e)
        {
            return Refusals.Of(e) ?? (e.StatusCode, "The request came damaged or was cut short. Nothing was taken in; do it again.");
        }
        catch (InvalidDataException)
        {
            return (StatusCodes.Status413PayloadTooLarge, "The request holds more than any form here, or is damaged. Nothing was taken in.");
        }
        // The last of these is how .NET tells that a file would be longer than the system allows (EFBIG).
        catch (Exception e) when (e is IOException or UnauthorizedAccessException or ArgumentOutOfRangeException && !context.RequestAborted.IsCancellationRequested)
        {
            return (StatusCodes.Status507InsufficientStorage, "The folder for files on their way in is full or cannot be written, so nothing was taken in. Free some space there and do it again.");
        }
    }
}

/// <summary>What came with a request.</summary>
public static class SentForms
{
    /// <summary>The form that came; an empty one where nothing came.</summary>
    public static IFormCollection SentForm(this HttpRequest request) => request.HasFormContentType ? request.Form : FormCollection.Empty;
}
