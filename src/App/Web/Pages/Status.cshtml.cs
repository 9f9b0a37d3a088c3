using System.Reflection;
using Hangfire;
using Microsoft.AspNetCore.Authorization;
using Microsoft.AspNetCore.Identity;
using Microsoft.AspNetCore.Mvc;
using Microsoft.AspNetCore.Mvc.RazorPages;
using SteadyLintel.Jobs;
using SteadyLintel.Store;

namespace SteadyLintel.Web.Pages;

/// <summary>How the site is, for administrators; to others the page does not exist.</summary>
[Authorize]
public sealed class StatusModel(
    SiteQuery site,
    UserManager<AppUser> users,
    StorageQuotaOptions space,
    JobStorage storage
) : PageModel
{
    private static readonly TimeSpan Late = TimeSpan.FromMinutes(10),
        Silent = TimeSpan.FromMinutes(1);

    /// <summary>What the database says.</summary>
    public SiteState State { get; private set; } = null!;

    /// <summary>The limits.</summary>
    public StorageQuotaOptions Space => space;

    /// <summary>Workers and have given a sign of life within a minute, with how many works each does at a time.</summary>
    public IReadOnlyList<string> Servers { get; private set; } = [];

    /// <summary>The free bytes of each disk that is watched.</summary>
    public IReadOnlyList<(string Folder, long Free)> Disks =>
        [.. space.Watched.Distinct().Select(f => (f, SteadyLintel.Jobs.StorageQuota.Free(f)))];

    /// <summary>Whether something waits longer than it should.</summary>
    public bool QueueIsLate => State.Queue.Oldest > Late;

    /// <summary>The program's version.</summary>
    public static string Version =>
        typeof(StatusModel)
            .Assembly.GetCustomAttribute<AssemblyInformationalVersionAttribute>()!
            .InformationalVersion.Split('+')[0];

    /// <summary>Shows the page.</summary>
    public async Task<IActionResult> OnGetAsync()
    {
        if (await users.GetUserAsync(User) is not { IsAdministrator: true })
            return NotFound();
        State = await site.StateAsync(HttpContext.RequestAborted);
        Servers =
        [
            .. storage
                .GetMonitoringApi()
                .Servers()
                .Where(s => DateTime.UtcNow - s.Heartbeat < Silent)
                .Select(s => $"{s.Name.Split(':')[0]} ({s.WorkersCount} at a time)"),
        ];
        return Page();
    }
}
