namespace EvenThimble.Web;

/// <summary>Tells the browser to run and load only what this server serves, with every answer; and answers only to this computer's own names.</summary>
public sealed class SafeHeaders(RequestDelegate next)
{
    /// <summary>A longer address is refused, characters.</summary>
    public const int LongestAddress = 8_000;

    private const string Policy =
        "default-src 'self'; img-src 'self' data: blob:; style-src 'self'; script-src 'self'; font-src 'self'; connect-src 'self'; object-src 'none'; base-uri 'none'; form-action 'self'; frame-ancestors 'none'";

    // A page of somewhere else that makes its own name mean this computer gets no answer.
    private static readonly string[] OwnNames = ["127.0.0.1", "localhost"];

    /// <summary>Adds the headers and goes on.</summary>
    public Task InvokeAsync(HttpContext context)
    {
        // When the answer starts, since one that went wrong has been emptied before.
        context.Response.OnStarting(() =>
        {
            var headers = context.Response.Headers;
            headers.ContentSecurityPolicy = Policy;
            headers.XContentTypeOptions = "nosniff";
            headers.XFrameOptions = "DENY";
            headers["Referrer-Policy"] = "no-referrer";
            headers["Cross-Origin-Opener-Policy"] = "same-origin";
            headers["Cross-Origin-Resource-Policy"] = "same-origin";
            return Task.CompletedTask;
        });
        if (!OwnNames.Contains(context.Request.Host.Host, StringComparer.OrdinalIgnoreCase)) return SentenceForErrors.AnswerAsync(context, StatusCodes.Status400BadRequest, "Even Thimble answers only to the names of this computer: 127.0.0.1 and localhost.");
        if (context.Request.Path.Value!.Length + context.Request.QueryString.Value!.Length > LongestAddress) return SentenceForErrors.AnswerAsync(context, StatusCodes.Status414UriTooLong, "That address is longer than any here.");
        return next(context);
    }
}
