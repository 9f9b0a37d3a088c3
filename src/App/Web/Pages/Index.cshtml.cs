using Microsoft.AspNetCore.Authorization;
using Microsoft.AspNetCore.Mvc.RazorPages;
using SteadyLintel.Store;

namespace SteadyLintel.Web.Pages;

/// <summary>The jobs a person belongs to.</summary>
[Authorize]
public sealed class IndexModel(JobAccess access) : PageModel
{
    /// <summary>The memberships.</summary>
    public IReadOnlyList<Membership> Jobs { get; private set; } = [];

    /// <summary>Lists the jobs.</summary>
    public async Task OnGetAsync() => Jobs = await access.JobsOfAsync(JobAccess.UserId(User), HttpContext.RequestAborted);
}
