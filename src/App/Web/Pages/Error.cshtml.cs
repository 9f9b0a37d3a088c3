using Microsoft.AspNetCore.Diagnostics;
using Microsoft.AspNetCore.Mvc;
using Microsoft.AspNetCore.Mvc.RazorPages;
using SteadyLintel.Jobs;

namespace SteadyLintel.Web.Pages;

/// <summary>What is shown when a page cannot be.</summary>
[IgnoreAntiforgeryToken]
[ResponseCache(NoStore = true)]
public sealed class ErrorModel : PageModel
{
    /// <summary>In two or three words.</summary>
    public string Title { get; private set; } = "";

    /// <summary>What to do.</summary>
    public string Sentence { get; private set; } = "";

    /// <summary>Chooses the words.</summary>
    public void OnGet(int? status) => Choose(status);

    /// <summary>A failed change ends here too.</summary>
    public void OnPost(int? status) => Choose(status);

    private void Choose(int? status)
    {
        if (DatabaseProblem.IsAway(HttpContext.Features.Get<IExceptionHandlerFeature>()?.Error))
            status = Response.StatusCode = StatusCodes.Status503ServiceUnavailable;
        (Title, Sentence) = status switch
        {
            404 => ("Not found", "There is nothing at this address, or you are not a member of the job it belongs to."),
            400 => (
                "Not accepted",
                "The page was too old or the request incomplete. Go back, load the page again and repeat."
            ),
            409 => ("Changed by somebody else", "Load the page again and repeat what is missing."),
            429 => ("Too many attempts", "Wait a minute, then try again."),
            403 => ("Not allowed", "Your role in this job does not allow this. Ask a coordinator of the job."),
            503 => (
                "The database does not answer",
                "Nothing was changed. Wait a minute and load the page again; tell your administrator if it lasts."
            ),
            _ => (
                "Something failed",
                "The server could not finish this; nothing was changed. Try again, and tell your administrator if it fails again."
            ),
        };
        Sentence = Refusal.SentenceOf(HttpContext) ?? Sentence;
    }
}
