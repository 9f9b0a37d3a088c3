using Microsoft.AspNetCore.Authorization;
using Microsoft.AspNetCore.Mvc;
using Microsoft.AspNetCore.Mvc.RazorPages;
using SteadyLintel.Jobs;
using SteadyLintel.Store;

namespace SteadyLintel.Web.Pages;

/// <summary>A job with what waits in it; null for recipients, who do not see it.</summary>
public sealed record JobLine(Membership Member, RouteBar? Waits);

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
        var lines = new List<JobLine>();
        foreach (var member in await access.JobsOfAsync(Caller.Id(User), cancel))
            lines.Add(
                new JobLine(
                    member,
                    member.Role == MemberRole.Recipient
                        ? null
                        : await access.RouteAsync(member.JobId, JobPermissions.Of(member), cancel)
                )
            );
        Jobs = [.. lines.OrderBy(l => l.Member.Job.ArchivedAt is not null)];
        var user = Caller.Id(User);
        IsAdministrator = await accounts.IsAdministratorAsync(user, cancel);
        MayMake = await setup.MayMakeAsync(user, cancel);
    }
}
