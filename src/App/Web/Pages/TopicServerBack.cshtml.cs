using Microsoft.AspNetCore.Authorization;
using Microsoft.AspNetCore.Mvc;
using Microsoft.AspNetCore.Mvc.RazorPages;
using SteadyLintel.Exchange;
using SteadyLintel.Jobs;

namespace SteadyLintel.Web.Pages;

/// <summary>Where a person comes back to from the sign-in at another server of topics.</summary>
[Authorize(AuthenticationSchemes = "Identity.Application")]
public sealed class TopicServerBackModel(TopicServers servers, JobAccess access, SiteAddress site) : PageModel
{
    /// <summary>Its address.</summary>
    public const string Path = "/topics/signed-in";

    /// <summary>What went wrong.</summary>
    public string Problem { get; private set; } = "";

    /// <summary>Takes the code.</summary>
    public async Task<IActionResult> OnGetAsync(string? state, string? code, string? error)
    {
        if (error is not null)
        {
            Problem =
                "The other server did not let this job in. Begin the sign-in again, or ask whoever runs that server.";
            return Page();
        }

        var cancel = HttpContext.RequestAborted;
        try
        {
            var job = await servers.SignedInAsync(
                state,
                code,
                site.Value + Path,
                async id =>
                    await access.MemberAsync(id, Caller.Id(User), cancel) is { } member ? member.Permissions() : null,
                Caller.Actor(HttpContext),
                cancel
            );
            var member = await access.MemberAsync(job, Caller.Id(User), cancel);
            return Redirect($"/jobs/{member!.Job.Code}/topics/servers");
        }
        catch (RefusedException e)
        {
            Problem = e.Message;
            Response.StatusCode = JobPage.Status(e.Kind);
            return Page();
        }
    }
}
