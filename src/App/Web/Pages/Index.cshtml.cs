using Microsoft.AspNetCore.Authorization;
using Microsoft.AspNetCore.Mvc;
using Microsoft.AspNetCore.Mvc.RazorPages;
using SteadyLintel.Exchange;
using SteadyLintel.Jobs;
using SteadyLintel.Store;

namespace SteadyLintel.Web.Pages;

/// <summary>A job with what waits in it; null for recipients, who do not see it.</summary>
public sealed record JobLine(Membership Member, JobOverview? Waits);

/// <summary>The jobs a person belongs to.</summary>
[Authorize]
public sealed class IndexModel(JobAccess access, JobSetup setup, Accounts accounts) : PageModel
{
    /// <summary>The jobs, those archived last.</summary>
    public IReadOnlyList<JobLine> Jobs { get; private set; } = [];

    /// <summary>Whether the person may make jobs.</summary>
    public bool MayMake { get; private set; }

    /// <summary>Whether the person runs the site.</summary>
    public bool IsAdministrator { get; private set; }

    /// <summary>What was done.</summary>
    [TempData]
    public string? Done { get; set; }

    /// <summary>Lists the jobs.</summary>
    public async Task OnGetAsync()
    {
        var cancel = HttpContext.RequestAborted;
        var members = await access.JobsOfAsync(Caller.Id(User), cancel);
        var waits = await access.OverviewAsync(
            [.. members.Where(m => m.Permissions().MaySeeJob).Select(m => m.JobId)],
            cancel
        );
        Jobs =
        [
            .. members
                .Select(m => new JobLine(m, waits.GetValueOrDefault(m.JobId)))
                .OrderBy(l => l.Member.Job.ArchivedAt is not null),
        ];
        var user = Caller.Id(User);
        IsAdministrator = await accounts.IsAdministratorAsync(user, cancel);
        MayMake = await setup.MayMakeAsync(user, cancel);
    }

    /// <summary>How many orders of a job are stale, asked once its line is seen: that takes all that the job holds.</summary>
    public async Task<IActionResult> OnGetStaleAsync(string? code)
    {
        var cancel = HttpContext.RequestAborted;
        return
            await access.FindAsync(code ?? "", Caller.Id(User), cancel) is { } member && member.Permissions().MaySeeJob
            ? Partial("_Stale", (member.Job.Code, await access.StaleAsync(member.JobId, cancel)))
            : NotFound();
    }
}
