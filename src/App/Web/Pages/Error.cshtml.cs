using Microsoft.AspNetCore.Mvc;
using Microsoft.AspNetCore.Mvc.RazorPages;

namespace SteadyLintel.Web.Pages;

/// <summary>What is said when a page cannot be shown.</summary>
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

    private void Choose(int? status) => (Title, Sentence) = status switch
    {
        404 => ("Not here", "There is nothing at this address, or it is not yours to see."),
        400 => ("Not understood", "The page was too old or the request incomplete; go back, load the page again and repeat."),
        429 => ("Too many attempts", "Wait a minute, then try again."),
        403 => ("Not yours to do", "Your part in this job does not allow this; ask the coordinator."),
        _ => ("Something failed",
            "The server could not finish this; nothing was half done. Try again, and tell whoever runs the server if it stays."),
    };
}
