using Microsoft.AspNetCore.Mvc;
using Microsoft.AspNetCore.Mvc.Filters;
using SteadyLintel.Exchange;
using SteadyLintel.Jobs;

namespace SteadyLintel.Web;

/// <summary>Refuses a request of which a value is of another kind than the page asks for: no number, no identity, too long.</summary>
public sealed class InputFilter : IPageFilter
{
    /// <inheritdoc/>
    public void OnPageHandlerSelected(PageHandlerSelectedContext context) { }

    /// <inheritdoc/>
    public void OnPageHandlerExecuting(PageHandlerExecutingContext context)
    {
        // What is missing is the page's own affair: it has a sentence for it.
        var wrong = context.ModelState.FirstOrDefault(m =>
            m.Value is { Errors.Count: > 0, AttemptedValue.Length: > 0 }
        );
        if (wrong.Value is null)
            return;
        string value = wrong.Value.AttemptedValue!;
        context.Result = Refusal.Of(
            context.HttpContext,
            StatusCodes.Status400BadRequest,
            $"'{(value.Length > Shown ? value[..Shown] + " …" : value)}' cannot be used as {wrong.Key}. Change it and try again."
        );
    }

    /// <inheritdoc/>
    public void OnPageHandlerExecuted(PageHandlerExecutedContext context) { }

    private const int Shown = 60;
}

/// <summary>Answers with a sentence where a page let a refusal through, or where two people did the same at the same time.</summary>
public sealed class RefusalFilter : IExceptionFilter
{
    /// <inheritdoc/>
    public void OnException(ExceptionContext context)
    {
        var answer =
            (context.Exception as RefusedException ?? DatabaseProblem.Refusal(context.Exception)) is { } refused
                ? ((int, string)?)(JobPage.Status(refused.Kind), refused.Message)
            : context.Exception is OrderException order ? (StatusCodes.Status400BadRequest, order.Message)
            : null;
        if (answer is not var (status, sentence))
            return;
        context.Result = Refusal.Of(context.HttpContext, status, sentence);
        context.ExceptionHandled = true;
    }
}

/// <summary>An answer of one sentence: to a program or a fragment as text, to a person as a page.</summary>
internal static class Refusal
{
    private const string Item = "lintel/refusal";

    /// <summary>The sentence of a request that was refused; null when it says no more than its status.</summary>
    public static string? SentenceOf(HttpContext http) => http.Items[Item] as string;

    /// <summary>The answer.</summary>
    public static IActionResult Of(HttpContext http, int status, string sentence)
    {
        var headers = http.Request.Headers;
        bool person =
            headers.Accept.ToString().Contains("text/html", StringComparison.Ordinal)
            && !headers.ContainsKey("HX-Request");
        if (!person)
            return new ContentResult
            {
                StatusCode = status,
                Content = sentence,
                ContentType = "text/plain; charset=utf-8",
            };
        http.Items[Item] = sentence;
        return new StatusCodeResult(status);
    }
}
