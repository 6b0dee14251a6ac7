using EvenThimble.Core.Text;
using Microsoft.AspNetCore.Mvc;
using Microsoft.AspNetCore.Mvc.Filters;

namespace EvenThimble.Web;

/// <summary>Refuses what a page's handler is called with when something that it needs is missing or is not of its kind, so that no handler has to look for that itself.</summary>
public sealed class FieldsInWords : IPageFilter
{
    /// <inheritdoc/>
    public void OnPageHandlerSelected(PageHandlerSelectedContext context)
    {
    }

    /// <inheritdoc/>
    public void OnPageHandlerExecuting(PageHandlerExecutingContext context)
    {
        var wrong = context.HandlerMethod?.Parameters.Select(p => context.ModelState[p.Name]).FirstOrDefault(state => state is { Errors.Count: > 0 });
        if (wrong is null) return;
        var sentence = Titles.Clean(wrong.AttemptedValue) is { Length: > 0 } typed ? $"“{typed}” cannot be understood there. Nothing was changed." : "Something that is needed for that did not come along. Go back and try it again.";
        context.Result = SentenceForErrors.ResultOf(context.HttpContext, StatusCodes.Status422UnprocessableEntity, sentence);
    }

    /// <inheritdoc/>
    public void OnPageHandlerExecuted(PageHandlerExecutedContext context)
    {
    }
}
