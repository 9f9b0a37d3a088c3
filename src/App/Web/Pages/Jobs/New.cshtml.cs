using Microsoft.AspNetCore.Authorization;
using Microsoft.AspNetCore.Mvc;
using Microsoft.AspNetCore.Mvc.RazorPages;
using SteadyLintel.Exchange;
using SteadyLintel.Jobs;
using SteadyLintel.Store;

namespace SteadyLintel.Web.Pages.Jobs;

/// <summary>Makes a job.</summary>
[Authorize]
public sealed class NewModel(JobSetup setup, JobAccess access) : PageModel
{
    /// <summary>Jobs whose set-up can be taken over.</summary>
    public IReadOnlyList<Job> Models { get; private set; } = [];

    /// <summary>What was typed.</summary>
    public Job Typed { get; } = new();

    /// <summary>What is wrong.</summary>
    public string? Problem { get; private set; }

    /// <summary>Shows the form to whoever may make jobs.</summary>
    public async Task<IActionResult> OnGetAsync()
    {
        if (!await setup.MayMakeAsync(Caller.Id(User), HttpContext.RequestAborted))
            return NotFound();
        await LoadAsync();
        return Page();
    }

    /// <summary>Makes the job and opens its set-up.</summary>
    public async Task<IActionResult> OnPostAsync(string? job, string? name, string? description, Guid? like)
    {
        try
        {
            var made = await setup.MakeAsync(
                job,
                name,
                description,
                like,
                Caller.Actor(HttpContext),
                HttpContext.RequestAborted
            );
            return Redirect($"/jobs/{made.Code}/{(like is null ? "setup" : "")}");
        }
        catch (RefusedException e)
        {
            Problem = e.Message;
            (Typed.Code, Typed.Name, Typed.Description) = (job ?? "", name ?? "", description ?? "");
            await LoadAsync();
            return Page();
        }
    }

    private async Task LoadAsync() =>
        Models = [
            .. (await access.JobsOfAsync(Caller.Id(User), HttpContext.RequestAborted))
                .Where(m => m.Role == MemberRole.Coordinator)
                .Select(m => m.Job),
        ];
}
