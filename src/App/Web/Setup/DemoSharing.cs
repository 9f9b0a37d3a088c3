using Microsoft.EntityFrameworkCore;
using SteadyLintel.Exchange;
using SteadyLintel.Jobs;
using SteadyLintel.StandIn;
using SteadyLintel.Store;

namespace SteadyLintel.Web;

/// <summary>Shares the demo's topics with the stand-in server.</summary>
/// <param name="db">The database.</param>
/// <param name="servers">Adds it.</param>
/// <param name="site">Where it lies.</param>
internal sealed class DemoSharing(LintelDb db, TopicServers servers, SiteAddress site)
{
    private static readonly JobPermissions Manages = new(MemberRole.Coordinator, null, false, false);

    /// <summary>Shares them, once there are topics.</summary>
    public async Task MakeAsync(CancellationToken cancel)
    {
        var job = await db.Jobs.AsNoTracking().Where(j => j.Code == "HW").Select(j => j.Id).FirstAsync(cancel);
        if (await db.TopicServers.AnyAsync(s => s.JobId == job, cancel))
            return;
        var coordinator = await db.Users.FirstAsync(u => u.Email == "coordinator@heron.example", cancel);
        var by = new Actor(coordinator.Id, "");
        var server = await servers.AddAsync(
            job,
            Manages,
            new ServerWish("Ferry engineers", site.Value + TopicStandIn.Path, "token", null, TopicStandIn.Token),
            by,
            cancel
        );
        var (project, _) = (await servers.ProjectsAsync(job, Manages, server.Id, cancel))[0];
        await servers.ChooseAsync(job, Manages, server.Id, project, "job", false, by, cancel);
    }
}
